import type { Mesh } from './mesh.ts';

/** Vertices in a leaf. */
const LEAF = 8;
/** Nodes that wait to be looked at: one a level, and no tree is deeper. */
const stack = new Int32Array(128);
const reaches = new Float64Array(128);

/**
 * The vertices of meshes in a tree of boxes, to find how far they reach in a direction without looking at all of them: the
 * support function of their hull, exact to rounding since it is taken at the vertices themselves. Built once.
 *
 * Nodes lie in one array, the root first, each of them 8 numbers: the box's lows and highs, then first vertex and count of a
 * leaf, or -1 and the place of the second child (the first follows its parent).
 */
export class SupportTree {
  private readonly nodes: Float64Array;
  private readonly points: Float64Array;
  /** Where the last search ended: a body that moves a little reaches furthest nearly where it did before. */
  private last = 0;

  constructor(meshes: ReadonlyArray<Pick<Mesh, 'positions'>>) {
    const positions = joined(meshes);
    const order = Uint32Array.from({ length: positions.length / 3 }, (_, i) => i);
    const nodes: number[] = [];
    if (order.length > 0) build(nodes, positions, order, 0, order.length);
    this.nodes = Float64Array.from(nodes);
    this.points = new Float64Array(positions.length);
    order.forEach((v, i) => this.points.set(positions.subarray(v * 3, v * 3 + 3), i * 3));
  }

  /** The least of dx x + dy y + dz z over all vertices; Infinity without any. */
  lowest(dx: number, dy: number, dz: number): number {
    const { nodes, points } = this;
    if (nodes.length === 0) return Infinity;
    let best = dx * points[this.last] + dy * points[this.last + 1] + dz * points[this.last + 2];
    // Which corner of a box reaches lowest is the same for all boxes.
    const [x, y, z] = [dx > 0 ? 0 : 3, dy > 0 ? 1 : 4, dz > 0 ? 2 : 5];
    let waiting = 0;
    stack[waiting] = 0;
    reaches[waiting++] = -Infinity;
    while (waiting > 0) {
      // Rounding is monotone, so no vertex of a box reaches lower than its corner.
      if (reaches[--waiting] >= best) continue;
      let at = stack[waiting];
      while (nodes[at + 6] < 0) {
        const [first, second] = [at + 8, nodes[at + 7]];
        const a = dx * nodes[first + x] + dy * nodes[first + y] + dz * nodes[first + z];
        const b = dx * nodes[second + x] + dy * nodes[second + y] + dz * nodes[second + z];
        const near = a <= b;
        if ((near ? b : a) < best) {
          stack[waiting] = near ? second : first;
          reaches[waiting++] = near ? b : a;
        }
        at = near ? first : second;
        if ((near ? a : b) >= best) break;
      }
      if (nodes[at + 6] < 0) continue;
      const end = (nodes[at + 6] + nodes[at + 7]) * 3;
      for (let i = nodes[at + 6] * 3; i < end; i += 3) {
        const reach = dx * points[i] + dy * points[i + 1] + dz * points[i + 2];
        if (reach < best) {
          best = reach;
          this.last = i;
        }
      }
    }
    return best;
  }
}

function joined(meshes: ReadonlyArray<Pick<Mesh, 'positions'>>): Float32Array {
  if (meshes.length === 1) return meshes[0].positions;
  const out = new Float32Array(meshes.reduce((n, { positions }) => n + positions.length, 0));
  let at = 0;
  for (const { positions } of meshes) {
    out.set(positions, at);
    at += positions.length;
  }
  return out;
}

function build(nodes: number[], positions: Float32Array, order: Uint32Array, from: number, to: number): number {
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
  build(nodes, positions, order, from, middle);
  const second = build(nodes, positions, order, middle, to);
  nodes[at + 6] = -1;
  nodes[at + 7] = second;
  return at;
}

/**
 * Brings vertices below `middle` along an axis before the others. @returns where the others begin, with enough on each side
 * that no tree grows deep.
 */
function split(
  positions: Float32Array,
  order: Uint32Array,
  from: number,
  to: number,
  axis: number,
  middle: number,
): number {
  let at = from;
  for (let i = from; i < to; i++) {
    if (positions[order[i] * 3 + axis] >= middle) continue;
    [order[at], order[i]] = [order[i], order[at]];
    at++;
  }
  if (Math.min(at - from, to - at) * 8 >= to - from) return at;
  // Nearly all lie on one side: the half way place along the axis, in order.
  order.subarray(from, to).sort((a, b) => positions[a * 3 + axis] - positions[b * 3 + axis]);
  return (from + to) >> 1;
}

const trees = new WeakMap<object, SupportTree>();

/** The tree of a mesh, which outlives frames. */
export function supportOf(mesh: Pick<Mesh, 'positions'>): SupportTree {
  let tree = trees.get(mesh);
  if (!tree) trees.set(mesh, (tree = new SupportTree([mesh])));
  return tree;
}
