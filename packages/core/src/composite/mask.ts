import type { Layer, MaskPoint, MaskShape } from '../document/index.ts';
import { hypot } from '../maths/index.ts';
import type { FrameSpace } from '../scene/index.ts';
import { spotOf } from './in-set.ts';
import { NOTHING, type Covered, type LightFrame } from './light-frame.ts';
import { Outline } from './outline.ts';
import { coverage, placeOf } from './place.ts';
import type { Floats, Plates } from './plate.ts';

/**
 * How much of a layer its mask lets be seen, a pixel; null without a mask. Its edge is soft by half of the feather either way.
 * @param space where the thing is that the mask goes along with.
 */
export function maskOf(
  plates: Plates,
  layer: Layer,
  width: number,
  height: number,
  frame: number,
  space: FrameSpace | null,
): Floats | null {
  const { mask, maskX, maskY, maskWidth, maskHeight, maskRotation, feather, maskInverted, maskGrow, maskThing } = layer;
  if (mask === 'none' || mask === 'thing' || mask === 'finish') return null;
  const thing = maskThing ? space?.things[maskThing] : undefined;
  const [tx, ty] = (thing && spotOf(thing.at, space!)) ?? [0, 0];
  const placed = { x: maskX + tx, y: maskY + ty, scale: 1, stretch: 1, rotation: maskRotation };
  const place = placeOf(placed, width, height);
  const [a, b] = [Math.max(1e-6, maskWidth / 2), Math.max(1e-6, maskHeight / 2)];
  const soft = Math.max(place.pixel, feather);
  const shown = (inside: number, own = 0): number => {
    const t = Math.min(1, Math.max(0, (inside + maskGrow) / (soft + own) + 0.5));
    const there = t * t * (3 - 2 * t);
    return maskInverted ? 1 - there : there;
  };
  if (mask === 'path') {
    const outline = new Outline(maskPointsAt(layer.maskPath, frame));
    if (outline.empty) return null;
    const floats = plates.floats(width * height);
    outline.cover(floats.data, width, height, place, soft, Math.abs(maskGrow), shown);
    return floats;
  }
  const floats = plates.floats(width * height);
  coverage(floats.data, width, height, place, (u, v) =>
    shown(
      mask === 'rectangle' ? Math.min(a - Math.abs(u), b - Math.abs(v)) : (1 - hypot(u / a, v / b)) * Math.min(a, b),
    ),
  );
  return floats;
}

/** A drawn mask's points at a frame: evenly between its shapes, as the nearest one has them where their numbers differ. */
export function maskPointsAt(shapes: readonly MaskShape[], frame: number): readonly MaskPoint[] {
  const sorted = [...shapes].sort((p, q) => p.frame - q.frame);
  const next = sorted.findIndex((s) => s.frame > frame);
  const [from, to] = [sorted[next < 0 ? sorted.length - 1 : Math.max(0, next - 1)], sorted[next]];
  if (!from) return [];
  if (!to || to === from || from.points.length !== to.points.length) return from.points;
  const t = Math.min(1, Math.max(0, (frame - from.frame) / (to.frame - from.frame)));
  const mix = (p: readonly [number, number], q: readonly [number, number]): [number, number] => [
    p[0] + (q[0] - p[0]) * t,
    p[1] + (q[1] - p[1]) * t,
  ];
  return from.points.map((p, i) => {
    const q = to.points[i];
    return {
      ...{ at: mix(p.at, q.at), in: mix(p.in, q.in), out: mix(p.out, q.out) },
      feather: p.feather + (q.feather - p.feather) * t,
    };
  });
}

/** What a take's frame saw of a thing, 0..1 a pixel of it; all 0 where the take does not say. */
export const thingCover = ({ width, height, depths }: LightFrame, thing: string): Float32Array =>
  coverOf(width * height, depths && { names: depths.things, ids: depths.ids, covers: depths.covers }, thing);

/** What a take's frame saw of a finish, by its name, in the same way. */
export const finishCover = ({ width, height, depths }: LightFrame, finish: string): Float32Array =>
  coverOf(width * height, depths?.finishes, finish);

function coverOf(count: number, covered: Covered | undefined, name: string): Float32Array {
  const out = new Float32Array(count);
  const number = covered?.names.indexOf(name) ?? -1;
  if (!covered || number < 0 || number === NOTHING) return out;
  const { ids, covers } = covered;
  for (let i = 0; i < out.length; i++)
    out[i] = ((ids[i * 2] === number ? covers[i * 2] : 0) + (ids[i * 2 + 1] === number ? covers[i * 2 + 1] : 0)) / 255;
  return out;
}
