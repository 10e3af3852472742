import { at, FLAG_MOVING, I_CLOSE, I_FLAGS, I_INVERSE, I_OPEN, word } from './scene';

/** Where things stand while the shutter is open. */

/** Row at `offset` of a matrix of doubles times a point (w 1) or direction (w 0). */
// @ts-ignore: decorator
@inline
export function local(m: usize, offset: usize, x: f64, y: f64, z: f64, w: f64): f64 {
  const p = m + offset;
  return load<f64>(p) * x + load<f64>(p, 8) * y + load<f64>(p, 16) * z + load<f64>(p, 24) * w;
}

/** Element `k` of a moving instance's matrix at `time`: matrices are blended, which a shutter's small turns allow. */
// @ts-ignore: decorator
@inline
export function blended(it: usize, k: i32, time: f64): f64 {
  const a = at(it, I_OPEN + k);
  return a + (at(it, I_CLOSE + k) - a) * time;
}

/** World to thing at `time`, 12 doubles. */
export function inverseAt(it: usize, time: f64, out: usize): void {
  const a = blended(it, 0, time);
  const b = blended(it, 1, time);
  const c = blended(it, 2, time);
  const d = blended(it, 4, time);
  const e = blended(it, 5, time);
  const f = blended(it, 6, time);
  const g = blended(it, 8, time);
  const h = blended(it, 9, time);
  const i = blended(it, 10, time);
  const x = blended(it, 3, time);
  const y = blended(it, 7, time);
  const z = blended(it, 11, time);
  const s = 1.0 / (a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g));
  const m0 = (e * i - f * h) * s;
  const m1 = (c * h - b * i) * s;
  const m2 = (b * f - c * e) * s;
  const m4 = (f * g - d * i) * s;
  const m5 = (a * i - c * g) * s;
  const m6 = (c * d - a * f) * s;
  const m8 = (d * h - e * g) * s;
  const m9 = (b * g - a * h) * s;
  const m10 = (a * e - b * d) * s;
  store<f64>(out, m0);
  store<f64>(out, m1, 8);
  store<f64>(out, m2, 16);
  store<f64>(out, -(m0 * x + m1 * y + m2 * z), 24);
  store<f64>(out, m4, 32);
  store<f64>(out, m5, 40);
  store<f64>(out, m6, 48);
  store<f64>(out, -(m4 * x + m5 * y + m6 * z), 56);
  store<f64>(out, m8, 64);
  store<f64>(out, m9, 72);
  store<f64>(out, m10, 80);
  store<f64>(out, -(m8 * x + m9 * y + m10 * z), 88);
}

/** Thing to world and world to thing at `time`, 12 doubles each. */
export function placeAt(it: usize, time: f64, out: usize): void {
  if (word(it, I_FLAGS) & FLAG_MOVING) {
    for (let k = 0; k < 12; k++) store<f64>(out + ((<usize>k) << 3), blended(it, k, time));
    inverseAt(it, time, out + 96);
    return;
  }
  for (let k = 0; k < 12; k++) {
    store<f64>(out + ((<usize>k) << 3), at(it, I_OPEN + k));
    store<f64>(out + 96 + ((<usize>k) << 3), at(it, I_INVERSE + k));
  }
}
