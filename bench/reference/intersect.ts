import { NODE_STRIDE } from './build-bvh.ts';
import type { Triangles } from './triangles.ts';

const EPSILON = 1e-12;

/** The nearest hit of a ray, one triangle at a time. Results stay in the fields until the next query. */
export class Intersector {
  /** Distance of the nearest hit, and triangle number (-1: none). */
  t = Infinity;
  triangle = -1;

  private readonly nodes: Float32Array;
  private readonly ints: Int32Array;
  private readonly triangles: Float32Array;
  private readonly stack = new Int32Array(128);

  constructor(scene: Triangles) {
    this.nodes = scene.nodes;
    this.ints = new Int32Array(scene.nodes.buffer, scene.nodes.byteOffset, scene.nodes.length);
    this.triangles = scene.triangles;
  }

  /** The nearest hit with `near` < t < `far`. Direction need not be of unit length. */
  nearest(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, near: number, far: number): boolean {
    this.t = far;
    this.triangle = -1;
    this.walk(ox, oy, oz, dx, dy, dz, near);
    return this.triangle >= 0;
  }

  private walk(ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, near: number): void {
    const { nodes, ints, triangles, stack } = this;
    if (triangles.length === 0) return;
    const ix = 1 / (Math.abs(dx) > EPSILON ? dx : dx < 0 ? -EPSILON : EPSILON);
    const iy = 1 / (Math.abs(dy) > EPSILON ? dy : dy < 0 ? -EPSILON : EPSILON);
    const iz = 1 / (Math.abs(dz) > EPSILON ? dz : dz < 0 ? -EPSILON : EPSILON);
    let best = this.t;
    let top = 0;
    let node = 0;
    for (;;) {
      const at = node * NODE_STRIDE;
      const count = ints[at + 7];
      if (count > 0) {
        const first = ints[at + 3];
        for (let i = first; i < first + count; i++) {
          const p = i * 9;
          const e1x = triangles[p + 3];
          const e1y = triangles[p + 4];
          const e1z = triangles[p + 5];
          const e2x = triangles[p + 6];
          const e2y = triangles[p + 7];
          const e2z = triangles[p + 8];
          // Moller and Trumbore 1997.
          const px = dy * e2z - dz * e2y;
          const py = dz * e2x - dx * e2z;
          const pz = dx * e2y - dy * e2x;
          const det = e1x * px + e1y * py + e1z * pz;
          if (det === 0) continue;
          const inv = 1 / det;
          const tx = ox - triangles[p];
          const ty = oy - triangles[p + 1];
          const tz = oz - triangles[p + 2];
          const u = (tx * px + ty * py + tz * pz) * inv;
          if (u < 0 || u > 1) continue;
          const qx = ty * e1z - tz * e1y;
          const qy = tz * e1x - tx * e1z;
          const qz = tx * e1y - ty * e1x;
          const v = (dx * qx + dy * qy + dz * qz) * inv;
          if (v < 0 || u + v > 1) continue;
          const t = (e2x * qx + e2y * qy + e2z * qz) * inv;
          if (t > near && t < best) {
            best = t;
            this.t = t;
            this.triangle = i;
          }
        }
      } else {
        const left = ints[at + 3];
        const l = left * NODE_STRIDE;
        const r = l + NODE_STRIDE;
        let t1 = (nodes[l] - ox) * ix;
        let t2 = (nodes[l + 4] - ox) * ix;
        let lo = t1 < t2 ? t1 : t2;
        let hi = t1 < t2 ? t2 : t1;
        t1 = (nodes[l + 1] - oy) * iy;
        t2 = (nodes[l + 5] - oy) * iy;
        if (t1 < t2) {
          if (t1 > lo) lo = t1;
          if (t2 < hi) hi = t2;
        } else {
          if (t2 > lo) lo = t2;
          if (t1 < hi) hi = t1;
        }
        t1 = (nodes[l + 2] - oz) * iz;
        t2 = (nodes[l + 6] - oz) * iz;
        if (t1 < t2) {
          if (t1 > lo) lo = t1;
          if (t2 < hi) hi = t2;
        } else {
          if (t2 > lo) lo = t2;
          if (t1 < hi) hi = t1;
        }
        // The far side is widened a little so that rounding never loses a flat box.
        const hitLeft = lo <= hi * 1.00000024 && hi >= near && lo < best;
        const leftNear = lo;
        t1 = (nodes[r] - ox) * ix;
        t2 = (nodes[r + 4] - ox) * ix;
        lo = t1 < t2 ? t1 : t2;
        hi = t1 < t2 ? t2 : t1;
        t1 = (nodes[r + 1] - oy) * iy;
        t2 = (nodes[r + 5] - oy) * iy;
        if (t1 < t2) {
          if (t1 > lo) lo = t1;
          if (t2 < hi) hi = t2;
        } else {
          if (t2 > lo) lo = t2;
          if (t1 < hi) hi = t1;
        }
        t1 = (nodes[r + 2] - oz) * iz;
        t2 = (nodes[r + 6] - oz) * iz;
        if (t1 < t2) {
          if (t1 > lo) lo = t1;
          if (t2 < hi) hi = t2;
        } else {
          if (t2 > lo) lo = t2;
          if (t1 < hi) hi = t1;
        }
        const hitRight = lo <= hi * 1.00000024 && hi >= near && lo < best;
        if (hitLeft && hitRight) {
          if (leftNear <= lo) {
            stack[top++] = left + 1;
            node = left;
          } else {
            stack[top++] = left;
            node = left + 1;
          }
          continue;
        }
        if (hitLeft) {
          node = left;
          continue;
        }
        if (hitRight) {
          node = left + 1;
          continue;
        }
      }
      if (top === 0) return;
      node = stack[--top];
    }
  }
}
