import { acos, cos, hypot, pow, sin } from '../maths/index.ts';
import { LIGHT_NODE, type LightTree } from './layout.ts';

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

const WIDTH = 4;
/** From this depth on splits are even, so that a million lights fit into a trail of two bits a level. */
const UNEVEN = 6;

/**
 * A tree over lights, four children a node, for choosing one by what it may bring to a point (Conty Estevez and Kulla
 * 2018), split at the middle of the widest spread of centres.
 * @param count of all lights; those outside the tree keep trail 0.
 */
export function buildLightTree(lights: readonly TreeLight[], count: number): LightTree {
  const trails = new Uint32Array(count);
  const rows: Float32Array[] = [];
  const fill = (members: TreeLight[], trail: number, depth: number): Sum => {
    const node = new Float32Array(LIGHT_NODE.stride);
    const ints = new Int32Array(node.buffer);
    // No light goes beyond a cosine of two: missing children are never chosen.
    node.fill(2, LIGHT_NODE.cosReach, LIGHT_NODE.cosReach + WIDTH);
    rows.push(node);
    const sums = quarters(members, depth).map((group, lane) => {
      const here = (trail | (lane << (2 * depth))) >>> 0;
      let sum: Sum = group[0];
      if (group.length === 1) {
        ints[LIGHT_NODE.child + lane] = -1 - group[0].light;
        trails[group[0].light] = here;
      } else {
        ints[LIGHT_NODE.child + lane] = rows.length;
        sum = fill(group, here, depth + 1);
      }
      write(node, lane, sum);
      return sum;
    });
    return sums.reduce(join);
  };
  if (lights.length > 0) fill([...lights], 0, 0);
  const nodes = new Float32Array(rows.length * LIGHT_NODE.stride);
  rows.forEach((row, i) => nodes.set(row, i * LIGHT_NODE.stride));
  return { nodes, trails };
}

function write(node: Float32Array, lane: number, { min, max, power, axis, cosNormals, cosReach }: Sum): void {
  const put = (row: number, value: number): void => {
    node[row + lane] = value;
  };
  min.forEach((v, a) => put(LIGHT_NODE.centre + a * WIDTH, (v + max[a]) / 2));
  put(
    LIGHT_NODE.radius2,
    min.reduce((sum, v, a) => sum + pow((max[a] - v) / 2, 2), 0),
  );
  put(LIGHT_NODE.power, power);
  axis.forEach((v, a) => put(LIGHT_NODE.axis + a * WIDTH, v));
  put(LIGHT_NODE.cosNormals, cosNormals);
  put(LIGHT_NODE.sinNormals, Math.sqrt(Math.max(0, 1 - pow(cosNormals, 2))));
  put(LIGHT_NODE.cosReach, cosReach);
}

/** Up to four groups: the largest is split until there are enough. */
function quarters(members: TreeLight[], depth: number): TreeLight[][] {
  const groups = [members];
  while (groups.length < WIDTH) {
    const largest = groups.reduce((best, g, i) => (g.length > groups[best].length ? i : best), 0);
    if (groups[largest].length < 2) break;
    groups.splice(largest, 1, ...halves(groups[largest], depth >= UNEVEN));
  }
  return groups;
}

function halves(members: TreeLight[], even: boolean): [TreeLight[], TreeLight[]] {
  const centre = (l: TreeLight, a: number): number => l.min[a] + l.max[a];
  const spans = [0, 1, 2].map((a) => {
    const c = members.map((l) => centre(l, a));
    return [Math.min(...c), Math.max(...c)];
  });
  const axis = spans.reduce((best, [lo, hi], a) => (hi - lo > spans[best][1] - spans[best][0] ? a : best), 0);
  const sorted = [...members].sort((p, q) => centre(p, axis) - centre(q, axis));
  const middle = (spans[axis][0] + spans[axis][1]) / 2;
  let at = sorted.findIndex((l) => centre(l, axis) > middle);
  if (at <= 0 || even) at = sorted.length >> 1;
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
  const [ow, on] = [acos(Math.max(-1, wide.cosNormals)), acos(Math.max(-1, narrow.cosNormals))];
  const dot = Math.min(
    1,
    Math.max(
      -1,
      wide.axis.reduce((s, v, i) => s + v * narrow.axis[i], 0),
    ),
  );
  const between = acos(dot);
  if (between + on <= ow) return { axis: wide.axis, cosNormals: wide.cosNormals };
  const half = (ow + between + on) / 2;
  if (half >= Math.PI) return { axis: wide.axis, cosNormals: -1 };
  const turn = half - ow;
  const side = narrow.axis.map((v, i) => v - wide.axis[i] * dot);
  const length = hypot(...side);
  if (length < 1e-9) return { axis: wide.axis, cosNormals: -1 };
  return {
    axis: wide.axis.map((v, i) => v * cos(turn) + (side[i] / length) * sin(turn)),
    cosNormals: cos(half),
  };
}
