import { PARTICLE } from '../../scene/index.ts';

const Q = PARTICLE.turn;

/** A plate's normal: Y of its turn. */
export function upOf(data: Float32Array, at: number, out: Float64Array): void {
  const x = data[at + Q];
  const y = data[at + Q + 1];
  const z = data[at + Q + 2];
  const w = data[at + Q + 3];
  out[0] = 2 * (x * y - w * z);
  out[1] = 1 - 2 * (x * x + z * z);
  out[2] = 2 * (y * z + w * x);
}

/** Turns a particle by a small rotation vector in the world, radians. */
export function spinBy(data: Float32Array, at: number, rx: number, ry: number, rz: number): void {
  const angle = rx * rx + ry * ry + rz * rz;
  // Half the angle's sine over the angle, and its cosine: rotations in a part of a frame are small.
  const s = 0.5 - angle / 48 + (angle * angle) / 3840;
  const c = 1 - angle / 8 + (angle * angle) / 384;
  const ax = rx * s;
  const ay = ry * s;
  const az = rz * s;
  const x = data[at + Q];
  const y = data[at + Q + 1];
  const z = data[at + Q + 2];
  const w = data[at + Q + 3];
  const nx = c * x + ax * w + ay * z - az * y;
  const ny = c * y + ay * w + az * x - ax * z;
  const nz = c * z + az * w + ax * y - ay * x;
  const nw = c * w - ax * x - ay * y - az * z;
  const long = 1 / Math.sqrt(nx * nx + ny * ny + nz * nz + nw * nw);
  data[at + Q] = nx * long;
  data[at + Q + 1] = ny * long;
  data[at + Q + 2] = nz * long;
  data[at + Q + 3] = nw * long;
}
