import { atan2, hypot, sin } from '../maths/index.ts';

/** A rotation by its unit quaternion x, y, z, w. */
export type Quaternion = [number, number, number, number];

/** A quaternion at length 1. */
export function unitQuaternion(q: readonly number[]): Quaternion {
  const length = hypot(q[0], q[1], q[2], q[3]) || 1;
  return q.map((v) => v / length) as Quaternion;
}

/** Between two rotations by the shortest way at even speed (Shoemake 1985). */
export function slerp(a: Quaternion, b: Quaternion, t: number): Quaternion {
  let dot = a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3];
  const sign = dot < 0 ? -1 : 1;
  dot *= sign;
  let [wa, wb] = [1 - t, t];
  if (dot < 1 - 1e-9) {
    const across = Math.sqrt(1 - dot * dot);
    const angle = atan2(across, dot);
    [wa, wb] = [sin((1 - t) * angle) / across, sin(t * angle) / across];
  }
  const q = a.map((v, i) => wa * v + wb * sign * b[i]);
  return unitQuaternion(q);
}
