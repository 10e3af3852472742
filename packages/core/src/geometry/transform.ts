import { mat4, quat, vec3 } from 'gl-matrix';

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
  // A plain array: the library's own would round to single precision, and a turntable's last frame with it.
  const q: quat = [0, 0, 0, 1];
  quat.rotateY(q, q, turn * DEGREES);
  quat.rotateX(q, q, tilt * DEGREES);
  quat.rotateZ(q, q, roll * DEGREES);
  return [...mat4.fromRotationTranslationScale(identity() as mat4, q, position, [scale, scale, scale])];
}

/** World matrix of a thing at `eye` whose -Z looks at `target` (camera) with +Y up; straight down is allowed. */
export function aimMatrix(eye: Vec3, target: Vec3): Mat4 {
  const z = vec3.subtract([0, 0, 0], eye, target);
  if (vec3.length(z) < 1e-9) z[2] = 1;
  vec3.normalize(z, z);
  const up: Vec3 = Math.abs(z[1]) > 0.9999 ? [0, 0, -1] : [0, 1, 0];
  const x = vec3.normalize([0, 0, 0], vec3.cross([0, 0, 0], up, z));
  const y = vec3.cross([0, 0, 0], z, x);
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
