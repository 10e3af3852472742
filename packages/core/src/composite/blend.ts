import { BLEND_MODES, type BlendMode } from '../document/index.ts';
import type { Plate, Plates } from './plate.ts';

/**
 * Blends a layer over what lies below it, which changes, by W3C Compositing and Blending Level 1: premultiplied source-over with a
 * mixed colour, Cr = (1 - as) ab Cb + (1 - ab) as Cs + as ab B(Cb, Cs). `over` takes the layer's colour, `add` is plus-lighter. Light
 * above 1 is kept: modes that know no such light mix what is up to 1, and what the backdrop has above it is added again.
 * @param opacity 0..1 of the layer.
 */
export function blend({ kernel }: Plates, below: Plate, over: Plate, mode: BlendMode, opacity: number): void {
  kernel.blend(below.at, over.at, below.width * below.height, BLEND_MODES.indexOf(mode), opacity);
}
