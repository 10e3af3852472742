import { Hit } from './hit';
import { DIRECTION, HIGH, LEAST, LOW, SLACK } from './lanes';

/**
 * Triangles by fours.
 *
 * Packet, 160 bytes: nine rows of four f32 (vertex x y z, first edge x y z, second edge x y z), then four i32 triangle
 * numbers; missing triangles have number -1 and edges of length zero.
 */
export const PACKET_BYTES: usize = 160;
/** Bytes from one number of a packet's triangle to the next, and the same in a list of triangles; logarithms. */
export const IN_PACKET: usize = 4;
export const IN_LIST: usize = 2;
export const IDS: usize = 144;

/** A packet between two times: `closing` bytes behind it are the same triangles as the shutter closes. */
export function blendPacket(packet: usize, closing: usize, time: f64, out: usize): void {
  const t = f32x4.splat(<f32>time);
  for (let row: usize = 0; row < IDS; row += 16) {
    const a = v128.load(packet + row);
    const b = v128.load(packet + closing + row);
    v128.store(out + row, f32x4.add(a, f32x4.mul(f32x4.sub(b, a), t)));
  }
  v128.store(out, v128.load(packet, IDS), IDS);
}

/** Lanes of a packet that the ray may hit, by Moller and Trumbore (1997) in single precision with slack. */
// @ts-ignore: decorator
@inline
export function candidates(p: usize, lanes: usize, best: f32): i32 {
  const vx = v128.load(lanes, DIRECTION);
  const vy = v128.load(lanes, DIRECTION + 16);
  const vz = v128.load(lanes, DIRECTION + 32);
  const e1x = v128.load(p, 48);
  const e1y = v128.load(p, 64);
  const e1z = v128.load(p, 80);
  const e2x = v128.load(p, 96);
  const e2y = v128.load(p, 112);
  const e2z = v128.load(p, 128);
  const px = f32x4.sub(f32x4.mul(vy, e2z), f32x4.mul(vz, e2y));
  const py = f32x4.sub(f32x4.mul(vz, e2x), f32x4.mul(vx, e2z));
  const pz = f32x4.sub(f32x4.mul(vx, e2y), f32x4.mul(vy, e2x));
  const det = f32x4.add(f32x4.add(f32x4.mul(e1x, px), f32x4.mul(e1y, py)), f32x4.mul(e1z, pz));
  const inv = f32x4.div(f32x4.splat(1), det);
  const tx = f32x4.sub(v128.load(lanes), v128.load(p, 0));
  const ty = f32x4.sub(v128.load(lanes, 16), v128.load(p, 16));
  const tz = f32x4.sub(v128.load(lanes, 32), v128.load(p, 32));
  const u = f32x4.mul(f32x4.add(f32x4.add(f32x4.mul(tx, px), f32x4.mul(ty, py)), f32x4.mul(tz, pz)), inv);
  const qx = f32x4.sub(f32x4.mul(ty, e1z), f32x4.mul(tz, e1y));
  const qy = f32x4.sub(f32x4.mul(tz, e1x), f32x4.mul(tx, e1z));
  const qz = f32x4.sub(f32x4.mul(tx, e1y), f32x4.mul(ty, e1x));
  const v = f32x4.mul(f32x4.add(f32x4.add(f32x4.mul(vx, qx), f32x4.mul(vy, qy)), f32x4.mul(vz, qz)), inv);
  const t = f32x4.mul(f32x4.add(f32x4.add(f32x4.mul(e2x, qx), f32x4.mul(e2y, qy)), f32x4.mul(e2z, qz)), inv);
  const low = v128.load(lanes, LOW);
  // Comparisons with a number that is none are false, which drops triangles of no area.
  let ok = v128.and(f32x4.ge(u, low), f32x4.ge(v, low));
  ok = v128.and(ok, f32x4.le(f32x4.add(u, v), v128.load(lanes, HIGH)));
  ok = v128.and(ok, f32x4.gt(t, v128.load(lanes, LEAST)));
  ok = v128.and(ok, f32x4.lt(t, f32x4.splat(best + best * SLACK + SLACK)));
  return i32x4.bitmask(ok);
}

/** The same test in double precision on one lane of a packet; takes the hit into `hit` when it is nearer. */
export function exact(p: usize, hit: Hit): bool {
  const dx = hit.alongX;
  const dy = hit.alongY;
  const dz = hit.alongZ;
  const e1x = <f64>load<f32>(p, 48);
  const e1y = <f64>load<f32>(p, 64);
  const e1z = <f64>load<f32>(p, 80);
  const e2x = <f64>load<f32>(p, 96);
  const e2y = <f64>load<f32>(p, 112);
  const e2z = <f64>load<f32>(p, 128);
  const px = dy * e2z - dz * e2y;
  const py = dz * e2x - dx * e2z;
  const pz = dx * e2y - dy * e2x;
  const det = e1x * px + e1y * py + e1z * pz;
  if (det == 0) return false;
  const inv = 1.0 / det;
  const tx = hit.localX - <f64>load<f32>(p);
  const ty = hit.localY - <f64>load<f32>(p, 16);
  const tz = hit.localZ - <f64>load<f32>(p, 32);
  const u = (tx * px + ty * py + tz * pz) * inv;
  if (u < 0 || u > 1) return false;
  const qx = ty * e1z - tz * e1y;
  const qy = tz * e1x - tx * e1z;
  const qz = tx * e1y - ty * e1x;
  const v = (dx * qx + dy * qy + dz * qz) * inv;
  if (v < 0 || u + v > 1) return false;
  const t = (e2x * qx + e2y * qy + e2z * qz) * inv;
  if (!(t > hit.near && t < hit.t)) return false;
  hit.t = t;
  hit.u = u;
  hit.v = v;
  return true;
}
