import { NODE_STRIDE, type PackedScene } from './layout.ts';

/**
 * The binary hierarchy collapsed to four children a node, as the kernel walks it. All numbers are 32 bit.
 *
 * node, 32: | 0..3 min x of the four children | 4..7 min y | 8..11 min z | 12..15 max x | 16..19 max y | 20..23 max z |
 *   24..27 child (i32): >= 0 a node, below -1 - (first packet * 8 + packets - 1) | 28..31 unused |
 * packet of four triangles, 40: | 0..11 vertex x, y, z | 12..23 first edge | 24..35 second edge | 36..39 triangle (i32), -1 none |
 */
export interface WideBvh {
  nodes: Float32Array;
  packets: Float32Array;
}

const NODE = 32;
const PACKET = 40;
const WIDTH = 4;
const MAX_PACKETS = 8;

/** @throws RangeError when a leaf holds more triangles than eight packets do; buildBvh() makes none. */
export function widenBvh({ nodes: binary, triangles }: Pick<PackedScene, 'nodes' | 'triangles'>): WideBvh {
  const ints = new Int32Array(binary.buffer, binary.byteOffset, binary.length);
  const { first: firstTriangle, count: triangleCount } = subtrees(ints);
  // A subtree that fits one packet is a leaf: its triangles lie together, and four cost the same as one.
  const countOf = (node: number): number =>
    triangleCount[node] <= WIDTH || ints[node * NODE_STRIDE + 7] > 0 ? triangleCount[node] : 0;
  const firstOf = (node: number): number => (countOf(node) > 0 ? firstTriangle[node] : ints[node * NODE_STRIDE + 3]);
  const areaOf = (node: number): number => {
    const [x, y, z] = [0, 1, 2].map((a) => binary[node * NODE_STRIDE + 4 + a] - binary[node * NODE_STRIDE + a]);
    return x * y + y * z + z * x;
  };
  const children = (root: number): number[] => {
    const open = [root];
    while (open.length < WIDTH) {
      let widest = -1;
      open.forEach((node, i) => {
        if (countOf(node) === 0 && (widest < 0 || areaOf(node) > areaOf(open[widest]))) widest = i;
      });
      if (widest < 0) break;
      const left = firstOf(open[widest]);
      open.splice(widest, 1, left, left + 1);
    }
    return open;
  };
  const out: number[][] = [];
  const packets: number[] = [];
  const leaf = (node: number): number => {
    const [first, count] = [firstOf(node), countOf(node)];
    const groups = Math.ceil(count / WIDTH);
    if (groups > MAX_PACKETS) throw new RangeError(`A leaf of ${count} triangles is too large to pack.`);
    const code = -1 - ((packets.length / PACKET) * 8 + groups - 1);
    for (let g = 0; g < groups; g++) {
      const at = packets.length;
      for (let i = 0; i < PACKET; i++) packets.push(i >= 36 ? -1 : 0);
      for (let lane = 0; lane < WIDTH && g * WIDTH + lane < count; lane++) {
        const t = first + g * WIDTH + lane;
        for (let k = 0; k < 9; k++) packets[at + k * WIDTH + lane] = triangles[t * 9 + k];
        packets[at + 36 + lane] = t;
      }
    }
    return code;
  };
  if (triangles.length > 0) {
    // Breadth first: a node's number is known before its children are laid out.
    const queue = [0];
    out.push([]);
    for (let n = 0; n < queue.length; n++) {
      const row: number[] = [];
      for (const child of children(queue[n])) {
        if (countOf(child) > 0) row.push(child, leaf(child));
        else {
          row.push(child, queue.length);
          queue.push(child);
          out.push([]);
        }
      }
      out[n] = row;
    }
  }
  return { nodes: packNodes(out, binary), packets: packPackets(packets) };
}

/** First triangle and number of triangles below every binary node; children always lie behind their parent. */
function subtrees(ints: Int32Array): { first: Int32Array; count: Int32Array } {
  const nodes = ints.length / NODE_STRIDE;
  const first = new Int32Array(nodes);
  const count = new Int32Array(nodes);
  for (let node = nodes - 1; node >= 0; node--) {
    const own = ints[node * NODE_STRIDE + 7];
    const at = ints[node * NODE_STRIDE + 3];
    first[node] = own > 0 ? at : Math.min(first[at], first[at + 1]);
    count[node] = own > 0 ? own : count[at] + count[at + 1];
  }
  return { first, count };
}

function packNodes(rows: number[][], binary: Float32Array): Float32Array {
  const nodes = new Float32Array(rows.length * NODE);
  const ints = new Int32Array(nodes.buffer);
  rows.forEach((row, n) => {
    for (let lane = 0; lane < WIDTH; lane++) {
      const child = row[lane * 2];
      const missing = child === undefined;
      for (let a = 0; a < 3; a++) {
        nodes[n * NODE + a * WIDTH + lane] = missing ? Infinity : binary[child * NODE_STRIDE + a];
        nodes[n * NODE + (3 + a) * WIDTH + lane] = missing ? -Infinity : binary[child * NODE_STRIDE + 4 + a];
      }
      ints[n * NODE + 24 + lane] = missing ? 0 : row[lane * 2 + 1];
    }
  });
  return nodes;
}

function packPackets(values: number[]): Float32Array {
  const packets = Float32Array.from(values);
  const ints = new Int32Array(packets.buffer);
  for (let p = 0; p < values.length; p += PACKET)
    for (let lane = 0; lane < WIDTH; lane++) ints[p + 36 + lane] = values[p + 36 + lane];
  return packets;
}
