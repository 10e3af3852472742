import type { MovePath, PathPoint } from '../document/index.ts';
import type { Vec3 } from '../geometry/index.ts';
import { hypot } from '../maths/index.ts';

/** A place on a path. */
export interface PathPlace {
  point: Vec3;
  /** Unit vector along the path. */
  tangent: Vec3;
  /** 1/m in the floor's plane; to the left is positive. */
  curvature: number;
}

type Segment = readonly [Vec3, Vec3, Vec3, Vec3];

/** Nodes and weights of Gauss and Legendre of order five, on 0..1. */
const NODES = [0.046910077030668, 0.2307653449471585, 0.5, 0.7692346550528415, 0.953089922969332];
const WEIGHTS = [0.1184634425280945, 0.2393143352496833, 0.2844444444444444, 0.2393143352496833, 0.1184634425280945];
/** Pieces of a segment between which its length is looked up. */
const PIECES = 16;

const along = (a: Vec3, b: Vec3, t: number): Vec3 => [0, 1, 2].map((i) => a[i] + (b[i] - a[i]) * t) as Vec3;
const minus = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

/** A path that is measured: a share of its length gives a place, so that speed along it is what the share's curve says. */
export class PathCurve {
  private readonly segments: readonly Segment[];
  /** Lengths from the start to each piece's end, metres. */
  private readonly ends: Float64Array;
  readonly length: number;

  constructor(private readonly path: MovePath) {
    this.segments = segmentsOf(path);
    this.ends = new Float64Array(this.segments.length * PIECES);
    let total = 0;
    this.segments.forEach((segment, s) => {
      for (let i = 0; i < PIECES; i++) {
        total += lengthBetween(segment, i / PIECES, (i + 1) / PIECES);
        this.ends[s * PIECES + i] = total;
      }
    });
    this.length = total;
  }

  /** @param share of its length; a closed path goes on round, an open one stops at its ends. */
  at(share: number): PathPlace {
    const share01 = this.path.closed ? share - Math.floor(share) : Math.min(1, Math.max(0, share));
    const target = share01 * this.length;
    let [low, high] = [0, this.ends.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.ends[middle] < target) low = middle + 1;
      else high = middle;
    }
    const segment = this.segments[Math.floor(low / PIECES)];
    const from = (low % PIECES) / PIECES;
    const rest = target - (low > 0 ? this.ends[low - 1] : 0);
    return placeAt(segment, parameterAt(segment, from, from + 1 / PIECES, rest));
  }

  /** Points evenly apart along it, for drawing. */
  points(count: number): Vec3[] {
    return Array.from({ length: count + 1 }, (_, i) => this.at(Math.min(i / count, 1 - 1e-12)).point);
  }
}

const curves = new WeakMap<MovePath, PathCurve>();

/** A path measured, once. */
export function curveOfPath(path: MovePath): PathCurve {
  let curve = curves.get(path);
  if (!curve) curves.set(path, (curve = new PathCurve(path)));
  return curve;
}

/** A point's handles, those that it goes smoothly through with where it has none of its own. Relative to it, metres. */
export function handlesOf({ points, closed }: MovePath, i: number): { in: Vec3; out: Vec3 } {
  const point = points[i];
  if (point.handles) return point.handles;
  const neighbour = (step: number): PathPoint | undefined =>
    closed ? points[(i + step + points.length) % points.length] : points[i + step];
  const [before, after] = [neighbour(-1), neighbour(1)];
  const d0 = before ? Math.max(1e-9, hypot(...minus(point.at, before.at))) : 0;
  const d1 = after ? Math.max(1e-9, hypot(...minus(after.at, point.at))) : 0;
  // The slope of the parabola through three points, weighed by how far they are; at an open end of the line to the next.
  const slope = [0, 1, 2].map((a) => {
    const s0 = before ? (point.at[a] - before.at[a]) / d0 : 0;
    const s1 = after ? (after.at[a] - point.at[a]) / d1 : 0;
    if (!before || !after) return s0 + s1;
    return (s0 * d1 + s1 * d0) / (d0 + d1);
  });
  return { in: slope.map((s) => (-s * d0) / 3) as Vec3, out: slope.map((s) => (s * d1) / 3) as Vec3 };
}

function segmentsOf(path: MovePath): Segment[] {
  const { points, closed } = path;
  const count = closed ? points.length : points.length - 1;
  return Array.from({ length: Math.max(1, count) }, (_, i) => {
    const j = (i + 1) % points.length;
    const [a, b] = [points[i].at, points[j].at];
    const { out } = handlesOf(path, i);
    const { in: into } = handlesOf(path, j);
    return [a, [a[0] + out[0], a[1] + out[1], a[2] + out[2]], [b[0] + into[0], b[1] + into[1], b[2] + into[2]], b];
  });
}

function velocity([a, b, c, d]: Segment, t: number): Vec3 {
  const r = 1 - t;
  return [0, 1, 2].map((i) => 3 * (r * r * (b[i] - a[i]) + 2 * r * t * (c[i] - b[i]) + t * t * (d[i] - c[i]))) as Vec3;
}

function lengthBetween(segment: Segment, from: number, to: number): number {
  let sum = 0;
  for (let i = 0; i < NODES.length; i++) sum += WEIGHTS[i] * hypot(...velocity(segment, from + (to - from) * NODES[i]));
  return sum * (to - from);
}

/** The parameter between two at which so many metres have been gone, by Newton's steps held within the bracket. */
function parameterAt(segment: Segment, from: number, to: number, metres: number): number {
  let [low, high] = [from, to];
  let t = from + (to - from) * Math.min(1, metres / Math.max(1e-12, lengthBetween(segment, from, to)));
  for (let step = 0; step < 40; step++) {
    const off = lengthBetween(segment, from, t) - metres;
    if (Math.abs(off) < 1e-13) break;
    if (off > 0) high = t;
    else low = t;
    const speed = hypot(...velocity(segment, t));
    const next = t - off / Math.max(1e-12, speed);
    t = next > low && next < high ? next : (low + high) / 2;
  }
  return Math.min(to, Math.max(from, t));
}

function placeAt(segment: Segment, t: number): PathPlace {
  const [a, b, c, d] = segment;
  const [ab, bc, cd] = [along(a, b, t), along(b, c, t), along(c, d, t)];
  const [abc, bcd] = [along(ab, bc, t), along(bc, cd, t)];
  let v = velocity(segment, t);
  // A handle of no length leaves no speed at its point: the way on from there is what counts.
  if (hypot(...v) < 1e-9) v = minus(d, a);
  const speed = Math.max(1e-12, hypot(...v));
  const bend = [0, 1, 2].map((i) => 6 * ((1 - t) * (c[i] - 2 * b[i] + a[i]) + t * (d[i] - 2 * c[i] + b[i])));
  const flat = Math.max(1e-12, hypot(v[0], v[2]));
  return {
    point: along(abc, bcd, t),
    tangent: [v[0] / speed, v[1] / speed, v[2] / speed],
    curvature: (v[2] * bend[0] - v[0] * bend[2]) / (flat * flat * flat),
  };
}
