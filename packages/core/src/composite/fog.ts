import type { LayerOf } from '../document/index.ts';
import { exp } from '../maths/index.ts';
import { edgeSides } from './edge-sides.ts';
import type { LightFrame } from './light-frame.ts';

/**
 * How much of each pixel of a take's frame fog hides: 1 - exp(-density (depth - begins)), as Beer and Lambert have it; where a product's edge
 * runs through a pixel, of both sides by what each covers. Where nothing is, as much as it hides at most.
 */
export function fogOver(
  frame: LightFrame,
  { begins, density, most }: Pick<LayerOf<'fog'>, 'begins' | 'density' | 'most'>,
): Float32Array {
  const { width, height, matte, depths } = frame;
  const out = new Float32Array(width * height);
  if (!depths) return out;
  const { depth } = depths;
  const sides = edgeSides(frame);
  const at = (away: number): number =>
    away > 0 ? Math.min(most, 1 - exp(-density * Math.max(0, away - begins))) : density > 0 ? most : 0;
  for (let i = 0; i < out.length; i++) {
    if (!sides.isEdge(i)) {
      out[i] = at(depth[i]);
      continue;
    }
    const [front, back, covered] = [sides.front(i), sides.back(i), matte[i]];
    out[i] = covered * at(front) + (1 - covered) * at(back > 0 ? back : front);
  }
  return out;
}
