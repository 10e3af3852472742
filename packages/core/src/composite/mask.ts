import type { Layer } from '../document/index.ts';
import { hypot } from '../maths/index.ts';
import { coverage, placeOf } from './place.ts';
import type { Floats, Plates } from './plate.ts';

/** How much of a layer its mask lets be seen, a pixel; null without a mask. Its edge is soft by half of the feather either way. */
export function maskOf(plates: Plates, layer: Layer, width: number, height: number): Floats | null {
  const { mask, maskX, maskY, maskWidth, maskHeight, maskRotation, feather, maskInverted } = layer;
  if (mask === 'none') return null;
  const place = placeOf({ x: maskX, y: maskY, scale: 1, stretch: 1, rotation: maskRotation }, width, height);
  const [a, b] = [Math.max(1e-6, maskWidth / 2), Math.max(1e-6, maskHeight / 2)];
  const soft = Math.max(place.pixel, feather);
  const floats = plates.floats(width * height);
  coverage(floats.data, width, height, place, (u, v) => {
    const inside =
      mask === 'rectangle' ? Math.min(a - Math.abs(u), b - Math.abs(v)) : (1 - hypot(u / a, v / b)) * Math.min(a, b);
    const t = Math.min(1, Math.max(0, inside / soft + 0.5));
    const there = t * t * (3 - 2 * t);
    return maskInverted ? 1 - there : there;
  });
  return floats;
}
