import type { LightTree } from './layout.ts';

/** A light as the tree sees it: where it is, how strong, and which way it shines. */
export interface TreeLight {
  light: number;
  min: number[];
  max: number[];
  power: number;
  axis: number[];
  /** Cosine of the cone that its normals fill (-1: all directions), and of how far beyond that its light goes. */
  cosNormals: number;
  cosReach: number;
}

const STRIDE = 16;
/** A trail has a bit a level. */
const DEEPEST = 31;

/**
 * A binary tree over lights for choosing one by what it may bring to a point (Conty Estevez and Kulla 2018), split at the
 * middle of the widest spread of centres.
 * @param count of all lights; those outside the tree keep trail 0.
 */
export function buildLightTree(lights: readonly TreeLight[], count: number): LightTree {
  const trails = new Uint32Array(count);
  if (lights.length === 0) return { nodes: new Float32Array(0), trails };
  const nodes = new Float32Array((2 * lights.length - 1) * STRIDE);
  const ints = new Int32Array(nodes.buffer);
  let used = 1;
  const fill = (node: number, members: TreeLight[], trail: number, depth: number): Omit<TreeLight, 'light'> => {
    let sum: Omit<TreeLight, 'light'> = members[0];
    if (members.length === 1) {
      ints[node * STRIDE + 12] = -1 - members[0].light;
      trails[members[0].light] = trail;
    } else {
      const [left, right] = halves(members, depth);
      const at = used;
      used += 2;
      ints[node * STRIDE + 12] = at;
      ints[node * STRIDE + 13] = at + 1;
      const a = fill(at, left, trail, depth + 1);
      const b = fill(at + 1, right, (trail | (1 << depth)) >>> 0, depth + 1);
      sum = join(a, b);
    }
    nodes.set([...sum.min, ...sum.max, sum.power, ...sum.axis, sum.cosNormals, sum.cosReach], node * STRIDE);
    nodes[node * STRIDE + 14] = Math.sqrt(Math.max(0, 1 - sum.cosNormals ** 2));
    return sum;
  };
  fill(0, [...lights], 0, 0);
  return { nodes, trails };
}

function halves(members: TreeLight[], depth: number): [TreeLight[], TreeLight[]] {
  const centre = (l: TreeLight, a: number): number => l.min[a] + l.max[a];
  const spans = [0, 1, 2].map((a) => {
    const c = members.map((l) => centre(l, a));
    return [Math.min(...c), Math.max(...c)];
  });
  const axis = spans.reduce((best, [lo, hi], a) => (hi - lo > spans[best][1] - spans[best][0] ? a : best), 0);
  const sorted = [...members].sort((p, q) => centre(p, axis) - centre(q, axis));
  const middle = (spans[axis][0] + spans[axis][1]) / 2;
  let at = sorted.findIndex((l) => centre(l, axis) > middle);
  // An uneven split must leave room below: halving always fits.
  const most = 2 ** Math.max(0, DEEPEST - depth - 1);
  if (at <= 0 || Math.max(at, sorted.length - at) > most || depth > 12) at = sorted.length >> 1;
  return [sorted.slice(0, at), sorted.slice(at)];
}

type Sum = Omit<TreeLight, 'light'>;

function join(a: Sum, b: Sum): Sum {
  const { axis, cosNormals } = joinCones(a, b);
  return {
    min: a.min.map((v, i) => Math.min(v, b.min[i])),
    max: a.max.map((v, i) => Math.max(v, b.max[i])),
    power: a.power + b.power,
    axis,
    cosNormals,
    cosReach: Math.min(a.cosReach, b.cosReach),
  };
}

/** The narrowest cone that holds two cones. */
function joinCones(a: Sum, b: Sum): Pick<Sum, 'axis' | 'cosNormals'> {
  const [wide, narrow] = a.cosNormals <= b.cosNormals ? [a, b] : [b, a];
  const [ow, on] = [Math.acos(Math.max(-1, wide.cosNormals)), Math.acos(Math.max(-1, narrow.cosNormals))];
  const dot = Math.min(
    1,
    Math.max(
      -1,
      wide.axis.reduce((s, v, i) => s + v * narrow.axis[i], 0),
    ),
  );
  const between = Math.acos(dot);
  if (between + on <= ow) return { axis: wide.axis, cosNormals: wide.cosNormals };
  const half = (ow + between + on) / 2;
  if (half >= Math.PI) return { axis: wide.axis, cosNormals: -1 };
  const turn = half - ow;
  const side = narrow.axis.map((v, i) => v - wide.axis[i] * dot);
  const length = Math.hypot(...side);
  if (length < 1e-9) return { axis: wide.axis, cosNormals: -1 };
  return {
    axis: wide.axis.map((v, i) => v * Math.cos(turn) + (side[i] / length) * Math.sin(turn)),
    cosNormals: Math.cos(half),
  };
}
