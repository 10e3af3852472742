import { maskPointsAt } from '@tender-orbit/core/composite';
import type { MaskPoint, MaskShape, Spot } from '@tender-orbit/core/document';

/** Handles of a circle's quarter, as a share of its radius. */
const ROUND = 0.5523;

/** A round mask to begin with. */
export function plainShape(frame: number, radius = 0.25): MaskShape {
  const sides: Spot[] = [
    [0, 1],
    [1, 0],
    [0, -1],
    [-1, 0],
  ];
  const points = sides.map(([x, y]): MaskPoint => {
    // To the next point clockwise.
    const out: Spot = [y * radius * ROUND, -x * radius * ROUND];
    return { at: [x * radius, y * radius], in: [-out[0], -out[1]], out, feather: 0 };
  });
  return { frame, points };
}

/** The shapes with one at a frame, as the mask is there. */
export function keyShape(shapes: readonly MaskShape[], frame: number): MaskShape[] {
  const points = maskPointsAt(shapes, frame).map((p) => structuredClone(plain(p)));
  return [...shapes.filter((s) => s.frame !== frame), { frame, points }].sort((a, b) => a.frame - b.frame);
}

/** The shapes without the one at a frame; the last one stays. */
export function dropShape(shapes: readonly MaskShape[], frame: number): MaskShape[] {
  return shapes.length > 1 ? shapes.filter((s) => s.frame !== frame) : [...shapes];
}

/** The shapes with the one at a frame at another; one that was there gives way to it. */
export function moveShape(shapes: readonly MaskShape[], frame: number, to: number): MaskShape[] {
  return shapes
    .filter((s) => s.frame === frame || s.frame !== to)
    .map((s) => (s.frame === frame ? { ...s, frame: to } : s))
    .sort((a, b) => a.frame - b.frame);
}

/** The shapes with other points: in the one of the frame, or the one that there is. */
export function withPoints(shapes: readonly MaskShape[], frame: number, points: MaskPoint[]): MaskShape[] {
  if (shapes.length <= 1) return [{ frame: shapes[0]?.frame ?? frame, points }];
  // Points that come or go do so in every shape, or nothing would lie between them.
  const same = shapes.every((s) => s.points.length === points.length);
  const kept = same ? shapes : shapes.map((s) => ({ ...s, points: fitted(s.points, points) }));
  return [...kept.filter((s) => s.frame !== frame), { frame, points }].sort((a, b) => a.frame - b.frame);
}

const fitted = (own: readonly MaskPoint[], like: readonly MaskPoint[]): MaskPoint[] =>
  like.map((p, i) => plain(own[i] ?? p));
const plain = ({ at, in: before, out, feather }: MaskPoint): MaskPoint => ({
  ...{ at: [...at] as Spot, in: [...before] as Spot, out: [...out] as Spot },
  feather,
});
