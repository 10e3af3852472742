import type { Layer, LayerOf } from '../document/index.ts';
import { applyCube } from './cube.ts';
import { defocus } from './defocus.ts';
import { applyFilter, displaceBy } from './filter.ts';
import { applyGrade } from './grade.ts';
import type { Drawing } from './layer-plate.ts';
import { applyLens } from './lens.ts';
import type { Floats, Plate, Plates } from './plate.ts';
import { tableOf } from './tones.ts';

type Acting =
  | LayerOf<'grade'>
  | LayerOf<'lens'>
  | LayerOf<'filter'>
  | LayerOf<'lut'>
  | LayerOf<'tones'>
  | LayerOf<'qualifier'>
  | LayerOf<'curves'>;
const ACTING: ReadonlySet<Layer['kind']> = new Set(['grade', 'lens', 'filter', 'lut', 'tones', 'qualifier', 'curves']);
/** Whether a layer changes what lies below it instead of being seen itself. */
export const isActing = (layer: Layer): layer is Acting => ACTING.has(layer.kind);

/** Changes what is there, as much as the layer's opacity and mask say. @param map of a filter that displaces by another layer. */
export function act(
  plates: Plates,
  below: Plate,
  layer: Acting,
  { input, seen }: Drawing,
  mask: Floats | null,
  map: Floats | null = null,
): void {
  const { kernel } = plates;
  const count = below.width * below.height;
  if (layer.kind === 'lut' || layer.kind === 'tones' || layer.kind === 'qualifier' || layer.kind === 'curves') {
    const table = layer.kind !== 'lut' ? tableOf(layer) : layer.asset ? input.cube?.(layer.asset) : null;
    if (!table) return;
    const before = mask || layer.opacity < 1 ? plates.copy(below) : null;
    // What stands in the scene is light, what stands on the glass is coded.
    const [coded, wanted] = [layer.space === 'glass', layer.kind !== 'lut' || layer.coded === 'display'];
    if (coded !== wanted) kernel.recode(below.at, count, coded ? 1 : 0);
    applyCube(plates, below, table);
    if (coded !== wanted) kernel.recode(below.at, count, coded ? 0 : 1);
    if (before) kernel.restore(below.at, before.at, count, layer.opacity, mask?.at ?? 0);
    return;
  }
  // Light is what these work on: on the glass it is that of display colours.
  if (layer.space === 'glass') kernel.recode(below.at, count, 1);
  if (layer.kind === 'grade') applyGrade(plates, below, layer, layer.opacity, mask);
  else {
    const before = mask || layer.opacity < 1 ? plates.copy(below) : null;
    if (layer.kind === 'lens') applyLens(plates, below, layer, input.frame);
    else if (layer.form === 'displace by layer') {
      if (map) displaceBy(plates, below, layer, map);
    } else if (layer.form === 'defocus') defocus(plates, below, layer, seen);
    else applyFilter(plates, below, layer, input.seconds);
    if (before) kernel.restore(below.at, before.at, count, layer.opacity, mask?.at ?? 0);
  }
  if (layer.space === 'glass') kernel.recode(below.at, count, 0);
}
