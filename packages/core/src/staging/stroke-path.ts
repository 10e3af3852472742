import type { MovePath, Point } from '../document/index.ts';
import { exp, hypot } from '../maths/index.ts';

/** Steps between which a stroke is evened out, as a share of its length. */
const STEPS = 240;
/** Widest smoothing, as a share of its length. */
const WIDEST = 0.08;

/**
 * A path from a stroke that was drawn by hand: evened out along its length, smoothed by a Gaussian, then only the points that
 * its shape needs (Ramer 1972, Douglas and Peucker 1973), through which it goes smoothly. Its ends stay where they were drawn.
 * @param smoothing 0..1. @returns null for a stroke that goes nowhere.
 */
export function pathOfStroke(
  stroke: readonly Point[],
  smoothing: number,
  about: Pick<MovePath, 'id' | 'name'>,
): MovePath | null {
  const even = evened(stroke);
  if (!even) return null;
  const { points, length } = even;
  const closed = distance(points[0], points[STEPS]) < length * 0.06;
  const smooth = smoothed(points, smoothing * WIDEST * STEPS, closed);
  const kept = simplified(smooth, length * 0.004);
  // What ends where it began goes round: its last point is its first.
  const knots = closed ? kept.slice(0, -1) : kept;
  return {
    ...about,
    closed: closed && knots.length > 2,
    points: knots.map((at, i) => ({
      id: `${about.id}-${i}`,
      at: at.map((v) => Number(v.toFixed(4))) as Point,
      handles: null,
    })),
  };
}

const distance = (a: Point, b: Point): number => hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
const between = (a: Point, b: Point, t: number): Point => a.map((v, axis) => v + (b[axis] - v) * t) as Point;

/** Points at equal steps along a stroke. */
function evened(stroke: readonly Point[]): { points: Point[]; length: number } | null {
  const ends: number[] = [0];
  for (let i = 1; i < stroke.length; i++) ends.push(ends[i - 1] + distance(stroke[i - 1], stroke[i]));
  const length = ends[ends.length - 1];
  if (stroke.length < 2 || !(length > 1e-4)) return null;
  let i = 1;
  const points = Array.from({ length: STEPS + 1 }, (_, step) => {
    const at = (step / STEPS) * length;
    while (i < stroke.length - 1 && ends[i] < at) i++;
    const span = ends[i] - ends[i - 1];
    return between(stroke[i - 1], stroke[i], span > 0 ? (at - ends[i - 1]) / span : 0);
  });
  return { points, length };
}

/** @param width of the Gaussian, in steps. */
function smoothed(points: readonly Point[], width: number, closed: boolean): Point[] {
  if (width < 0.3) return [...points];
  const last = points.length - 1;
  const reach = Math.ceil(width * 3);
  return points.map((_, i) => {
    // Towards an open end fewer neighbours count, so that the end stays.
    const own = closed ? reach : Math.min(reach, i, last - i);
    const sum: Point = [0, 0, 0];
    let total = 0;
    for (let k = -own; k <= own; k++) {
      const weight = exp((-k * k) / (2 * width * width));
      const p = points[closed ? (i + k + last) % last : i + k];
      for (let a = 0; a < 3; a++) sum[a] += p[a] * weight;
      total += weight;
    }
    return sum.map((v) => v / total) as Point;
  });
}

/** The fewest points between which straight lines stay within a distance of the rest. */
function simplified(points: readonly Point[], within: number): Point[] {
  const keep = new Set([0, points.length - 1]);
  const spans: Array<[number, number]> = [[0, points.length - 1]];
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [from, to] = span;
    let [furthest, at] = [within, -1];
    for (let i = from + 1; i < to; i++) {
      const off = offLine(points[i], points[from], points[to]);
      if (off > furthest) [furthest, at] = [off, i];
    }
    if (at < 0) continue;
    keep.add(at);
    spans.push([from, at], [at, to]);
  }
  return [...keep].sort((a, b) => a - b).map((i) => points[i]);
}

function offLine(p: Point, a: Point, b: Point): number {
  const along = b.map((v, axis) => v - a[axis]);
  const length = along.reduce((sum, v) => sum + v * v, 0);
  const t = length > 0 ? along.reduce((sum, v, axis) => sum + v * (p[axis] - a[axis]), 0) / length : 0;
  return distance(p, between(a, b, Math.min(1, Math.max(0, t))));
}
