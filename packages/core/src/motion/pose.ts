import { atan2, cos, hypot, sin } from '../maths/index.ts';
import { DEGREES, placementMatrix, type Mat4, type Quaternion, type Vec3 } from '../geometry/index.ts';

/** What of a thing says where it is; a thing has some of these. Metres and degrees. */
export interface Placed {
  position: Vec3;
  aim?: Vec3;
  turn?: number;
  tilt?: number;
  roll?: number;
  scale?: number;
}

/** Whether something has a place that rules can change. */
export function isPlaced(thing: object): thing is Placed {
  return Array.isArray((thing as Partial<Placed>).position);
}

/** Where a thing stands, turned as it is, with its own scale: what is carried by it keeps to this. */
export function standing({ position, aim, turn = 0, tilt = 0, roll = 0, scale = 1 }: Placed): Mat4 {
  if (!aim) return placementMatrix(position, turn, tilt, roll, scale);
  const [dx, dy, dz] = [aim[0] - position[0], aim[1] - position[1], aim[2] - position[2]];
  const heading = atan2(-dx, -dz) / DEGREES;
  return placementMatrix(position, heading, atan2(dy, hypot(dx, dz)) / DEGREES, roll, 1);
}

/** Turn, tilt and roll (degrees) of a rotation in the upper part of a matrix without scale: placementMatrix() undone. */
export function anglesOf(m: Mat4): { turn: number; tilt: number; roll: number } {
  const level = hypot(m[1], m[5]);
  const tilt = atan2(-m[9], level) / DEGREES;
  // Looking straight up or down, turn and roll are about one axis: all of it is taken as turn.
  if (level < 1e-9) return { turn: atan2(-m[2], m[0]) / DEGREES, tilt, roll: 0 };
  return { turn: atan2(m[8], m[10]) / DEGREES, tilt, roll: atan2(m[1], m[5]) / DEGREES };
}

/** The rotation about a unit axis, radians. */
export function rotationAbout([x, y, z]: Vec3, angle: number): Mat4 {
  const [c, s] = [cos(angle), sin(angle)];
  const t = 1 - c;
  return [
    ...[t * x * x + c, t * x * y + s * z, t * x * z - s * y, 0],
    ...[t * x * y - s * z, t * y * y + c, t * y * z + s * x, 0],
    ...[t * x * z + s * y, t * y * z - s * x, t * z * z + c, 0],
    ...[0, 0, 0, 1],
  ];
}

/** Gives a thing the angles of a rotation; one that only turns about the vertical gets no others. */
export function turnTo(thing: Placed, rotation: Mat4): void {
  const { turn, tilt, roll } = anglesOf(rotation);
  if (thing.turn !== undefined) thing.turn = turn;
  if (thing.tilt !== undefined) thing.tilt = tilt;
  if (thing.roll !== undefined) thing.roll = roll;
}

/** The rotation of turn, tilt and roll. */
export function quaternionOf({ turn = 0, tilt = 0, roll = 0 }: Placed): Quaternion {
  const half = DEGREES / 2;
  const [cy, sy] = [cos(turn * half), sin(turn * half)];
  const [cx, sx] = [cos(tilt * half), sin(tilt * half)];
  const [cz, sz] = [cos(roll * half), sin(roll * half)];
  return [
    cy * sx * cz + sy * cx * sz,
    sy * cx * cz - cy * sx * sz,
    cy * cx * sz - sy * sx * cz,
    cy * cx * cz + sy * sx * sz,
  ];
}

/** A quaternion as a matrix. */
export function matrixOf([x, y, z, w]: Quaternion): Mat4 {
  return [
    ...[1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w), 0],
    ...[2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w), 0],
    ...[2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y), 0],
    ...[0, 0, 0, 1],
  ];
}
