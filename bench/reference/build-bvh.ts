/**
 * BVH node, 8 x 32 bit:
 * | 0..2 min (f32) | 3 first triangle or left child (i32) | 4..6 max (f32) | 7 triangle count, 0 for an inner node (i32) |
 * The right child follows the left one.
 */
export const NODE_STRIDE = 8;

const BINS = 16;
const SMALL_BINS = 8;
const SMALL_NODE = 64;
const MAX_LEAF = 4;
/** Cost of one node visit relative to one triangle test, for the surface area heuristic. */
const VISIT_COST = 1.2;

export interface Bvh {
  nodes: Float32Array;
  /** Triangle numbers in leaf order. */
  order: Uint32Array;
}

/**
 * Binary bounding volume hierarchy by binned surface area heuristic (Wald 2007).
 * @param boxes 6 floats a triangle: min x y z, max x y z.
 */
export function buildBvh(boxes: Float32Array): Bvh {
  const count = boxes.length / 6;
  const order = Uint32Array.from({ length: count }, (_, i) => i);
  const centres = new Float32Array(count * 3);
  for (let i = 0; i < count; i++) {
    for (let a = 0; a < 3; a++) centres[i * 3 + a] = (boxes[i * 6 + a] + boxes[i * 6 + 3 + a]) / 2;
  }
  const nodes = new Float32Array(Math.max(1, 2 * count) * NODE_STRIDE);
  const ints = new Int32Array(nodes.buffer);
  let used = 1;
  const binBox = new Float64Array(BINS * 6);
  const binCount = new Int32Array(BINS);
  const rightCost = new Float64Array(BINS);
  const stack: number[] = [0, 0, count];

  while (stack.length > 0) {
    const last = stack.pop()!;
    const first = stack.pop()!;
    const node = stack.pop()!;
    const at = node * NODE_STRIDE;
    const size = last - first;
    const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    const span = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    for (let i = first; i < last; i++) {
      const t = order[i];
      for (let a = 0; a < 3; a++) {
        box[a] = Math.min(box[a], boxes[t * 6 + a]);
        box[a + 3] = Math.max(box[a + 3], boxes[t * 6 + 3 + a]);
        span[a] = Math.min(span[a], centres[t * 3 + a]);
        span[a + 3] = Math.max(span[a + 3], centres[t * 3 + a]);
      }
    }
    for (let a = 0; a < 3; a++) {
      nodes[at + a] = box[a];
      nodes[at + 4 + a] = box[a + 3];
    }
    let bestCost = Infinity;
    let bestAxis = -1;
    let bestSplit = 0;
    const bins = size < SMALL_NODE ? SMALL_BINS : BINS;
    for (let axis = 0; axis < 3 && size > 1; axis++) {
      const width = span[axis + 3] - span[axis];
      if (width <= 0) continue;
      const scale = bins / width;
      binCount.fill(0);
      for (let b = 0; b < bins; b++) {
        for (let a = 0; a < 3; a++) {
          binBox[b * 6 + a] = Infinity;
          binBox[b * 6 + 3 + a] = -Infinity;
        }
      }
      for (let i = first; i < last; i++) {
        const t = order[i];
        const b = Math.min(bins - 1, ((centres[t * 3 + axis] - span[axis]) * scale) | 0);
        binCount[b]++;
        for (let a = 0; a < 3; a++) {
          if (boxes[t * 6 + a] < binBox[b * 6 + a]) binBox[b * 6 + a] = boxes[t * 6 + a];
          if (boxes[t * 6 + 3 + a] > binBox[b * 6 + 3 + a]) binBox[b * 6 + 3 + a] = boxes[t * 6 + 3 + a];
        }
      }
      const grow = new Sweep();
      let n = 0;
      for (let b = bins - 1; b > 0; b--) {
        grow.add(binBox, b * 6);
        n += binCount[b];
        rightCost[b] = n > 0 ? grow.area() * n : 0;
      }
      grow.clear();
      n = 0;
      for (let b = 0; b < bins - 1; b++) {
        grow.add(binBox, b * 6);
        n += binCount[b];
        if (n === 0 || n === size) continue;
        const cost = grow.area() * n + rightCost[b + 1];
        if (cost < bestCost) {
          bestCost = cost;
          bestAxis = axis;
          bestSplit = b;
        }
      }
    }
    const area =
      (box[3] - box[0]) * (box[4] - box[1]) +
      (box[4] - box[1]) * (box[5] - box[2]) +
      (box[5] - box[2]) * (box[3] - box[0]);
    const leafCost = size * area;
    if (bestAxis < 0 || (size <= MAX_LEAF && leafCost <= bestCost + VISIT_COST * area)) {
      if (bestAxis >= 0 || size <= MAX_LEAF * 2) {
        ints[at + 3] = first;
        ints[at + 7] = size;
        continue;
      }
    }
    let middle: number;
    if (bestAxis >= 0) {
      const scale = bins / (span[bestAxis + 3] - span[bestAxis]);
      middle = first;
      for (let i = first; i < last; i++) {
        const t = order[i];
        if (Math.min(bins - 1, ((centres[t * 3 + bestAxis] - span[bestAxis]) * scale) | 0) <= bestSplit) {
          order[i] = order[middle];
          order[middle++] = t;
        }
      }
    } else {
      // All centres coincide: halve the list, so that the tree stays balanced whatever the input.
      middle = (first + last) >> 1;
    }
    ints[at + 3] = used;
    ints[at + 7] = 0;
    stack.push(used, first, middle, used + 1, middle, last);
    used += 2;
  }
  return { nodes: nodes.slice(0, used * NODE_STRIDE), order };
}

/** A growing box and its half surface area. */
class Sweep {
  private readonly box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];

  clear(): void {
    for (let a = 0; a < 3; a++) {
      this.box[a] = Infinity;
      this.box[a + 3] = -Infinity;
    }
  }

  add(boxes: Float64Array, at: number): void {
    for (let a = 0; a < 3; a++) {
      this.box[a] = Math.min(this.box[a], boxes[at + a]);
      this.box[a + 3] = Math.max(this.box[a + 3], boxes[at + 3 + a]);
    }
  }

  area(): number {
    const x = this.box[3] - this.box[0];
    const y = this.box[4] - this.box[1];
    const z = this.box[5] - this.box[2];
    return x < 0 ? 0 : x * y + y * z + z * x;
  }
}
