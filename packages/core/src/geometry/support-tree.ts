import type { Mesh } from './mesh.ts';

/** Vertices in a leaf. */
const LEAF = 16;

/**
 * The vertices of a mesh in a tree of boxes, to find how far it reaches in a direction without looking at all of them: the
 * support function of its hull, exact to rounding since it is taken at the vertices themselves. Built once for a mesh.
 *
 * Nodes lie in one array, the root first, each of them 8 numbers: the box's lows and highs, then first vertex and count of a
 * leaf, or -1 and the index of the second child (the first follows its parent).
 */
export class SupportTree {
  private readonly nodes: number[] = [];
  private readonly points: Float32Array;

  constructor({ positions }: Pick<Mesh, 'positions'>) {
    const order = Uint32Array.from({ length: positions.length / 3 }, (_, i) => i);
    if (order.length > 0) this.build(positions, order, 0, order.length);
    this.points = new Float32Array(positions.length);
    order.forEach((v, i) => this.points.set(positions.subarray(v * 3, v * 3 + 3), i * 3));
  }

  private build(positions: Float32Array, order: Uint32Array, from: number, to: number): number {
    const { nodes } = this;
    const at = nodes.length;
    const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    for (let i = from; i < to; i++)
      for (let a = 0; a < 3; a++) {
        const v = positions[order[i] * 3 + a];
        if (v < box[a]) box[a] = v;
        if (v > box[a + 3]) box[a + 3] = v;
      }
    nodes.push(...box, from, to - from);
    if (to - from <= LEAF) return at;
    const size = [0, 1, 2].map((a) => box[a + 3] - box[a]);
    const axis = size.indexOf(Math.max(...size));
    const middle = split(positions, order, from, to, axis, (box[axis] + box[axis + 3]) / 2);
    this.build(positions, order, from, middle);
    const second = this.build(positions, order, middle, to);
    nodes[at + 6] = -1;
    nodes[at + 7] = second;
    return at;
  }

  /** The least of dx x + dy y + dz z over all vertices; Infinity without any. */
  lowest(dx: number, dy: number, dz: number): number {
    return this.nodes.length > 0 ? this.search(0, dx, dy, dz, Infinity) : Infinity;
  }

  private search(at: number, dx: number, dy: number, dz: number, best: number): number {
    const { nodes, points } = this;
    const first = nodes[at + 6];
    if (first >= 0) {
      const end = (first + nodes[at + 7]) * 3;
      for (let i = first * 3; i < end; i += 3) {
        const reach = dx * points[i] + dy * points[i + 1] + dz * points[i + 2];
        if (reach < best) best = reach;
      }
      return best;
    }
    const second = nodes[at + 7];
    const a = this.reach(at + 8, dx, dy, dz);
    const b = this.reach(second, dx, dy, dz);
    const [near, far, nearer, farther] = a <= b ? [at + 8, second, a, b] : [second, at + 8, b, a];
    if (nearer < best) best = this.search(near, dx, dy, dz, best);
    return farther < best ? this.search(far, dx, dy, dz, best) : best;
  }

  /** The least that any point of a node's box could reach. Rounding is monotone, so no vertex in it reaches lower. */
  private reach(at: number, dx: number, dy: number, dz: number): number {
    const { nodes } = this;
    return (
      dx * nodes[dx > 0 ? at : at + 3] + dy * nodes[dy > 0 ? at + 1 : at + 4] + dz * nodes[dz > 0 ? at + 2 : at + 5]
    );
  }
}

/** Brings vertices below `at` along an axis before the others. @returns where the others begin, with some on each side. */
function split(
  positions: Float32Array,
  order: Uint32Array,
  from: number,
  to: number,
  axis: number,
  at: number,
): number {
  let middle = from;
  for (let i = from; i < to; i++) {
    if (positions[order[i] * 3 + axis] >= at) continue;
    [order[middle], order[i]] = [order[i], order[middle]];
    middle++;
  }
  return middle > from && middle < to ? middle : (from + to) >> 1;
}

const trees = new WeakMap<object, SupportTree>();

/** The tree of a mesh, which outlives frames. */
export function supportOf(mesh: Pick<Mesh, 'positions'>): SupportTree {
  let tree = trees.get(mesh);
  if (!tree) trees.set(mesh, (tree = new SupportTree(mesh)));
  return tree;
}
