/**
 * Bounding volume hierarchies by binned surface area heuristic (Wald 2007), collapsed to four children a node.
 *
 * Working memory for n items, in this order: 32 bytes an item for its box (later the queue of the collapse), the order
 * of items (u32), binary nodes (2n x 32 bytes), bins and stack. A binary node is two vectors, min and max; their fourth
 * lanes hold (i32) first item or left child, and number of items (0: an inner node, whose right child follows the left).
 */
import { NODE_BYTES } from './lanes';
import { Mesh } from './scene';
import { PACKET_BYTES } from './triangles';

const BINS: i32 = 16;
const SMALL_BINS: i32 = 8;
const SMALL_NODE: i32 = 64;
const BIN_BYTES: usize = 48;
const STACK_DEPTH: i32 = 4096;
const MAX_PACKETS: i32 = 4;
/** Cost of visiting a node, in packet tests. */
const VISIT: f32 = 0.9;
const WORK_EXTRA: usize = 3 * 16 * 48 + 4096 * 16 + 64;

export function workBytes(count: i32): usize {
  return <usize>count * (32 + 64) + ((((<usize>count) << 2) + 31) & ~31) + WORK_EXTRA + 160;
}

/** Addresses of the parts of working memory; lies at its beginning, so that threads on one memory do not meet. */
@unmanaged
export class Work {
  boxes: usize;
  order: usize;
  nodes: usize;
  bins: usize;
  stack: usize;
}

/** Lays working memory out for `count` items. Their boxes go to `boxes`, two vectors each (min and max). */
export function layOut(start: usize, count: i32): Work {
  const work = changetype<Work>((start + 31) & ~31);
  work.boxes = changetype<usize>(work) + 32;
  work.order = work.boxes + ((<usize>count) << 5);
  work.nodes = (work.order + ((<usize>count) << 2) + 31) & ~31;
  work.bins = work.nodes + ((<usize>count) << 6) + 64;
  work.stack = work.bins + 3 * 16 * BIN_BYTES;
  return work;
}

// @ts-ignore: decorator
@inline
function area(low: v128, high: v128): f32 {
  const d = f32x4.sub(high, low);
  const x = f32x4.extract_lane(d, 0);
  const y = f32x4.extract_lane(d, 1);
  const z = f32x4.extract_lane(d, 2);
  return x < 0 ? 0 : x * y + y * z + z * x;
}

// @ts-ignore: decorator
@inline
function most(): v128 {
  return f32x4.splat(Infinity);
}

/** Builds the binary tree over boxes that are laid out already. @returns the number of nodes. */
function buildTree(work: Work, count: i32, leafSize: i32, group: i32): i32 {
  const boxes = work.boxes;
  const order = work.order;
  const nodes = work.nodes;
  const bins = work.bins;
  const stack = work.stack;
  for (let i = 0; i < count; i++) store<u32>(order + ((<usize>i) << 2), i);
  let used: i32 = 1;
  let top = stack;
  store<i32>(top, 0);
  store<i32>(top, 0, 4);
  store<i32>(top, count, 8);
  top += 12;
  while (top > stack) {
    top -= 12;
    const node = load<i32>(top);
    const first = load<i32>(top, 4);
    const last = load<i32>(top, 8);
    const size = last - first;
    let low = most();
    let high = f32x4.neg(low);
    let from = low;
    let to = high;
    for (let i = first; i < last; i++) {
      const b = boxes + ((<usize>load<u32>(order + ((<usize>i) << 2))) << 5);
      const l = v128.load(b);
      const h = v128.load(b, 16);
      low = f32x4.pmin(low, l);
      high = f32x4.pmax(high, h);
      const c = f32x4.add(l, h);
      from = f32x4.pmin(from, c);
      to = f32x4.pmax(to, c);
    }
    const at = nodes + ((<usize>node) << 5);
    v128.store(at, low);
    v128.store(at, high, 16);
    let middle = -1;
    if (size > leafSize) {
      const count3 = size < SMALL_NODE ? SMALL_BINS : BINS;
      const extent = f32x4.sub(to, from);
      // A flat axis gets scale 0: all its items fall into the first bin and it is never chosen.
      const scale = v128.and(
        f32x4.div(f32x4.splat(<f32>count3 * 0.9999), extent),
        f32x4.gt(extent, f32x4.splat(1e-20)),
      );
      for (let b = 0; b < 3 * BINS; b++) {
        const bin = bins + <usize>b * BIN_BYTES;
        v128.store(bin, most());
        v128.store(bin, f32x4.neg(most()), 16);
        store<i32>(bin, 0, 32);
      }
      for (let i = first; i < last; i++) {
        const b = boxes + ((<usize>load<u32>(order + ((<usize>i) << 2))) << 5);
        const l = v128.load(b);
        const h = v128.load(b, 16);
        const index = i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.sub(f32x4.add(l, h), from), scale));
        grow(bins + <usize>i32x4.extract_lane(index, 0) * BIN_BYTES, l, h);
        grow(bins + <usize>(BINS + i32x4.extract_lane(index, 1)) * BIN_BYTES, l, h);
        grow(bins + <usize>(2 * BINS + i32x4.extract_lane(index, 2)) * BIN_BYTES, l, h);
      }
      let best: f32 = Infinity;
      let axis = -1;
      let split = 0;
      for (let a = 0; a < 3; a++) {
        const row = bins + <usize>(a * BINS) * BIN_BYTES;
        let l = most();
        let h = f32x4.neg(l);
        let n = 0;
        for (let b = count3 - 1; b > 0; b--) {
          const bin = row + <usize>b * BIN_BYTES;
          l = f32x4.pmin(l, v128.load(bin));
          h = f32x4.pmax(h, v128.load(bin, 16));
          n += load<i32>(bin, 32);
          store<f32>(bin, n > 0 ? area(l, h) * <f32>((n + group - 1) / group) : 0, 36);
        }
        l = most();
        h = f32x4.neg(l);
        n = 0;
        for (let b = 0; b < count3 - 1; b++) {
          const bin = row + <usize>b * BIN_BYTES;
          l = f32x4.pmin(l, v128.load(bin));
          h = f32x4.pmax(h, v128.load(bin, 16));
          n += load<i32>(bin, 32);
          if (n == 0 || n == size) continue;
          const cost = area(l, h) * <f32>((n + group - 1) / group) + load<f32>(bin + BIN_BYTES, 36);
          if (cost < best) {
            best = cost;
            axis = a;
            split = b;
          }
        }
      }
      const whole = area(low, high);
      const packets = (size + group - 1) / group;
      const small = leafSize > 1 && packets <= MAX_PACKETS;
      if (!(small && <f32>packets * whole <= best + VISIT * whole)) {
        if (axis >= 0 && <i32>(top - stack) < (STACK_DEPTH - 64) * 12) {
          const lane = (<usize>axis) << 2;
          v128.store(bins, from);
          const origin = load<f32>(bins + lane);
          v128.store(bins, scale);
          const s = load<f32>(bins + lane);
          middle = first;
          for (let i = first; i < last; i++) {
            const place = order + ((<usize>i) << 2);
            const item = load<u32>(place);
            const b = boxes + ((<usize>item) << 5) + lane;
            if (<i32>((load<f32>(b) + load<f32>(b, 16) - origin) * s) <= split) {
              const other = order + ((<usize>middle) << 2);
              middle += 1;
              store<u32>(place, load<u32>(other));
              store<u32>(other, item);
            }
          }
        }
        // All centres in one place: halve the list, so that the tree stays balanced whatever the input.
        if (middle <= first || middle >= last) middle = (first + last) >> 1;
      }
    }
    if (middle < 0) {
      store<i32>(at, first, 12);
      store<i32>(at, size, 28);
      continue;
    }
    store<i32>(at, used, 12);
    store<i32>(at, 0, 28);
    store<i32>(top, used + 1);
    store<i32>(top, middle, 4);
    store<i32>(top, last, 8);
    store<i32>(top, used, 12);
    store<i32>(top, first, 16);
    store<i32>(top, middle, 20);
    top += 24;
    used += 2;
  }
  return used;
}

// @ts-ignore: decorator
@inline
function grow(bin: usize, l: v128, h: v128): void {
  v128.store(bin, f32x4.pmin(v128.load(bin), l));
  v128.store(bin, f32x4.pmax(v128.load(bin, 16), h), 16);
  store<i32>(bin, load<i32>(bin, 32) + 1, 32);
}

// @ts-ignore: decorator
@inline
function nodeArea(work: Work, node: i32): f32 {
  const at = work.nodes + ((<usize>node) << 5);
  return area(v128.load(at), v128.load(at, 16));
}

// @ts-ignore: decorator
@inline
function itemsOf(work: Work, node: i32): i32 {
  return load<i32>(work.nodes + ((<usize>node) << 5), 28);
}

/**
 * Writes the wide tree to `out`: nodes first, then (for triangles) packets behind the last possible node.
 * @param triangles address of triangles, or 0 when the items are instances, whose numbers become the leaves.
 * @param closing bytes from a packet to that of `closeTriangles`; 0 when nothing deforms.
 * @returns number of wide nodes; packets are written to `packets`.
 */
function collapse(
  work: Work,
  out: usize,
  packets: usize,
  triangles: usize,
  closing: usize,
  closeTriangles: usize,
): i32 {
  // The boxes have served: their memory is the stack of (binary node, where its number goes).
  const stack = work.boxes;
  store<i32>(stack, 0);
  store<usize>(stack, 0, 4);
  let known = 0;
  let packet = 0;
  let waiting = 1;
  const open = work.bins;
  while (waiting > 0) {
    waiting--;
    const root = load<i32>(stack + ((<usize>waiting) << 3));
    const slot = load<usize>(stack + ((<usize>waiting) << 3), 4);
    const n = known++;
    if (slot != 0) store<i32>(slot, n);
    let width = 1;
    store<i32>(open, root);
    while (width < 4) {
      let widest = -1;
      let size: f32 = -1;
      for (let i = 0; i < width; i++) {
        const node = load<i32>(open + ((<usize>i) << 2));
        if (itemsOf(work, node) > 0) continue;
        const a = nodeArea(work, node);
        if (a > size) {
          size = a;
          widest = i;
        }
      }
      if (widest < 0) break;
      const left = load<i32>(work.nodes + ((<usize>load<i32>(open + ((<usize>widest) << 2))) << 5), 12);
      store<i32>(open + ((<usize>widest) << 2), left);
      store<i32>(open + ((<usize>width) << 2), left + 1);
      width++;
    }
    const at = out + <usize>n * NODE_BYTES;
    for (let lane = 0; lane < 4; lane++) {
      const row = at + ((<usize>lane) << 2);
      if (lane >= width) {
        for (let k: usize = 0; k < 3; k++) {
          store<f32>(row + (k << 4), NaN);
          store<f32>(row + 48 + (k << 4), NaN);
        }
        store<i32>(row, 0, 96);
        continue;
      }
      const node = load<i32>(open + ((<usize>lane) << 2));
      const from = work.nodes + ((<usize>node) << 5);
      for (let k: usize = 0; k < 3; k++) {
        store<f32>(row + (k << 4), load<f32>(from + (k << 2)));
        store<f32>(row + 48 + (k << 4), load<f32>(from + (k << 2), 16));
      }
      const items = load<i32>(from, 28);
      const first = load<i32>(from, 12);
      if (items == 0) {
        store<i32>(stack + ((<usize>waiting) << 3), node);
        store<usize>(stack + ((<usize>waiting) << 3), row + 96, 4);
        waiting++;
      } else if (triangles == 0) {
        store<i32>(row, -1 - load<i32>(work.order + ((<usize>first) << 2)), 96);
      } else {
        const groups = (items + 3) >> 2;
        store<i32>(row, -1 - (packet * 8 + groups - 1), 96);
        for (let g = 0; g < groups; g++) {
          const at = packets + <usize>packet * PACKET_BYTES;
          writePacket(work, at, triangles, first + g * 4, first + items);
          if (closing != 0) writePacket(work, at + closing, closeTriangles, first + g * 4, first + items);
          packet += 1;
        }
      }
    }
  }
  return known;
}

function writePacket(work: Work, out: usize, triangles: usize, first: i32, last: i32): void {
  memory.fill(out, 0, PACKET_BYTES);
  for (let lane = 0; lane < 4; lane++) {
    const row = out + ((<usize>lane) << 2);
    if (first + lane >= last) {
      store<i32>(row, -1, 144);
      continue;
    }
    const t = load<i32>(work.order + ((<usize>(first + lane)) << 2));
    const p = triangles + <usize>t * 36;
    for (let k: usize = 0; k < 9; k++) store<f32>(row + (k << 4), load<f32>(p + (k << 2)));
    store<i32>(row, t, 144);
  }
}

/** First half of building a mesh: the tree, in working memory. @returns bytes that emitMesh() may need at most. */
export function planMesh(mesh: Mesh, start: usize): usize {
  const count = mesh.count;
  const work = layOut(start, count);
  let low = most();
  let high = f32x4.neg(low);
  for (let i = 0; i < count; i++) {
    const p = mesh.triangles + <usize>i * 36;
    const a = v128.load(p);
    // The fourth lanes hold the next number of the array: nothing reads them.
    const b = f32x4.add(a, v128.load(p, 12));
    const c = f32x4.add(a, v128.load(p, 24));
    let l = f32x4.pmin(a, f32x4.pmin(b, c));
    let h = f32x4.pmax(a, f32x4.pmax(b, c));
    if (mesh.closeTriangles != 0) {
      // Vertices go straight from one place to the other, so both boxes together hold the way.
      const q = mesh.closeTriangles + <usize>i * 36;
      const d = v128.load(q);
      const e = f32x4.add(d, v128.load(q, 12));
      const f = f32x4.add(d, v128.load(q, 24));
      l = f32x4.pmin(l, f32x4.pmin(d, f32x4.pmin(e, f)));
      h = f32x4.pmax(h, f32x4.pmax(d, f32x4.pmax(e, f)));
    }
    const box = work.boxes + ((<usize>i) << 5);
    v128.store(box, l);
    v128.store(box, h, 16);
    low = f32x4.pmin(low, l);
    high = f32x4.pmax(high, h);
  }
  mesh.minX = f32x4.extract_lane(low, 0);
  mesh.minY = f32x4.extract_lane(low, 1);
  mesh.minZ = f32x4.extract_lane(low, 2);
  mesh.maxX = f32x4.extract_lane(high, 0);
  mesh.maxY = f32x4.extract_lane(high, 1);
  mesh.maxZ = f32x4.extract_lane(high, 2);
  const used = buildTree(work, count, 4, 4);
  let packets = 0;
  let inner = 1;
  for (let n = 0; n < used; n++) {
    const items = itemsOf(work, n);
    if (items > 0) packets += (items + 3) >> 2;
    else inner++;
  }
  const sets: usize = mesh.closeTriangles != 0 ? 2 : 1;
  return <usize>inner * NODE_BYTES + <usize>packets * PACKET_BYTES * sets;
}

/**
 * Second half: writes the wide tree at `out` and moves it to `target`, where it stays (the working memory may lie there).
 * @returns bytes taken at `target`.
 */
export function emitMesh(mesh: Mesh, start: usize, out: usize, target: usize): usize {
  const work = changetype<Work>((start + 31) & ~31);
  let packets = 0;
  for (let n = 0, end = 1; n < end; n++) {
    const items = itemsOf(work, n);
    if (items > 0) packets += (items + 3) >> 2;
    else end = max(end, load<i32>(work.nodes + ((<usize>n) << 5), 12) + 2);
  }
  const closing: usize = mesh.closeTriangles != 0 ? <usize>packets * PACKET_BYTES : 0;
  const packetBytes = <usize>packets * PACKET_BYTES + closing;
  const nodes = collapse(work, out + packetBytes, out, mesh.triangles, closing, mesh.closeTriangles);
  const nodeBytes = <usize>nodes * NODE_BYTES;
  memory.copy(target, out, packetBytes + nodeBytes);
  mesh.packets = target;
  mesh.nodes = target + packetBytes;
  mesh.closing = closing;
  return packetBytes + nodeBytes;
}

/** The tree over `count` boxes in `work`: its leaves are their numbers. @returns wide nodes written at `out`. */
export function buildTop(work: Work, count: i32, out: usize): i32 {
  buildTree(work, count, 1, 1);
  return collapse(work, out, 0, 0, 0, 0);
}
