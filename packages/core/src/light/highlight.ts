import { hypot } from '../maths/index.ts';
type Triple = readonly [number, number, number];

/**
 * Direction, of length one, in which a viewer at `eye` sees mirrored light at `point` of a surface with unit `normal`
 * (either side): the law of reflection, r = 2 (n v) n - v.
 */
export function mirrorDirection(point: Triple, normal: Triple, eye: Triple): [number, number, number] {
  const to = point.map((p, a) => eye[a] - p);
  const length = hypot(...to) || 1;
  const cosine = to.reduce((s, v, a) => s + (v / length) * normal[a], 0);
  return [0, 1, 2].map((a) => 2 * cosine * normal[a] - to[a] / length) as [number, number, number];
}

/** Where a light stands, `distance` metres off, whose mirror image the viewer sees at `point`; it aims there. */
export function placeHighlight(
  point: Triple,
  normal: Triple,
  eye: Triple,
  distance: number,
): { position: [number, number, number]; aim: [number, number, number] } {
  const way = mirrorDirection(point, normal, eye);
  return { position: [0, 1, 2].map((a) => point[a] + way[a] * distance) as [number, number, number], aim: [...point] };
}
