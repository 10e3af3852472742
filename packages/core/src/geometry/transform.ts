import { mat4, vec3 } from 'gl-matrix';
import { cos, sin } from '../maths/index.ts';

export type Vec3 = [number, number, number];
/** 4x4 matrix, column-major, as glTF and WebGL store it. */
export type Mat4 = number[];

export const DEGREES = Math.PI / 180;

export function identity(): Mat4 {
  return [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
}

/**
 * Placement of a thing: `turn` about +Y, then `tilt` about the turned X, then `roll` about the tilted Z, all degrees.
 * A turntable is a single number this way.
 */
export function placementMatrix(position: Vec3, turn: number, tilt: number, roll: number, scale: number): Mat4 {
  const [cy, sy] = [cos(turn * DEGREES), sin(turn * DEGREES)];
  const [cx, sx] = [cos(tilt * DEGREES), sin(tilt * DEGREES)];
  const [cz, sz] = [cos(roll * DEGREES), sin(roll * DEGREES)];
  return [
    ...[(cy * cz + sy * sx * sz) * scale, cx * sz * scale, (cy * sx * sz - sy * cz) * scale, 0],
    ...[(sy * sx * cz - cy * sz) * scale, cx * cz * scale, (sy * sz + cy * sx * cz) * scale, 0],
    ...[sy * cx * scale, -sx * scale, cy * cx * scale, 0],
    ...[position[0], position[1], position[2], 1],
  ];
}

/**
 * World matrix of a thing at `eye` whose -Z looks at `target` (camera) with +Y up; straight down is allowed.
 * @param roll degrees about its own +Z, after that.
 */
export function aimMatrix(eye: Vec3, target: Vec3, roll = 0): Mat4 {
  const z = vec3.subtract([0, 0, 0], eye, target);
  if (vec3.length(z) < 1e-9) z[2] = 1;
  vec3.normalize(z, z);
  const up: Vec3 = Math.abs(z[1]) > 0.9999 ? [0, 0, -1] : [0, 1, 0];
  let x = vec3.normalize([0, 0, 0], vec3.cross([0, 0, 0], up, z));
  let y = vec3.cross([0, 0, 0], z, x);
  if (roll !== 0) {
    const [c, s] = [cos(roll * DEGREES), sin(roll * DEGREES)];
    [x, y] = [
      [c * x[0] + s * y[0], c * x[1] + s * y[1], c * x[2] + s * y[2]],
      [c * y[0] - s * x[0], c * y[1] - s * x[1], c * y[2] - s * x[2]],
    ];
  }
  return [x[0], x[1], x[2], 0, y[0], y[1], y[2], 0, z[0], z[1], z[2], 0, eye[0], eye[1], eye[2], 1];
}

export function multiply(a: Mat4, b: Mat4): Mat4 {
  return [...mat4.multiply(identity() as mat4, a as mat4, b as mat4)];
}

/** The matrix that undoes another. A matrix without one gives the identity. */
export function inverse(m: Mat4): Mat4 {
  return [...(mat4.invert(identity() as mat4, m as mat4) ?? identity())];
}

export function transformPoint(m: Mat4, p: Vec3): Vec3 {
  return [...vec3.transformMat4([0, 0, 0], p, m as mat4)] as Vec3;
}
