import type { Key } from '../document/index.ts';

/**
 * The value of a track at `frame` (fractional allowed). Before the first and after the last key the value stays.
 * `eased` follows the quintic 6t^5 - 15t^4 + 10t^3 (zero velocity and acceleration at both ends), except that at the
 * middle of a run of eased keys in one direction the move flows through without stopping: a monotone cubic with the
 * tangents of Fritsch and Carlson (1980) is used between inner keys.
 */
export function sampleTrack(keys: readonly Key[], frame: number): number {
  if (keys.length === 0) return 0;
  if (frame <= keys[0].frame) return keys[0].value;
  const last = keys[keys.length - 1];
  if (frame >= last.frame) return last.value;
  let i = 0;
  while (keys[i + 1].frame <= frame) i++;
  const a = keys[i];
  const b = keys[i + 1];
  const span = b.frame - a.frame;
  const t = (frame - a.frame) / span;
  if (a.ease === 'hold') return a.value;
  if (a.ease === 'linear') return a.value + (b.value - a.value) * t;
  const m0 = tangent(keys, i) * span;
  const m1 = tangent(keys, i + 1) * span;
  if (m0 === 0 && m1 === 0) return a.value + (b.value - a.value) * (t * t * t * (t * (t * 6 - 15) + 10));
  const t2 = t * t;
  const t3 = t2 * t;
  return (2 * t3 - 3 * t2 + 1) * a.value + (t3 - 2 * t2 + t) * m0 + (-2 * t3 + 3 * t2) * b.value + (t3 - t2) * m1;
}

/** Slope (value per frame) through key `i`: zero at ends, turning points and beside linear or held spans. */
function tangent(keys: readonly Key[], i: number): number {
  if (i === 0 || i === keys.length - 1) return 0;
  if (keys[i - 1].ease !== 'eased' || keys[i].ease !== 'eased') return 0;
  const before = (keys[i].value - keys[i - 1].value) / (keys[i].frame - keys[i - 1].frame);
  const after = (keys[i + 1].value - keys[i].value) / (keys[i + 1].frame - keys[i].frame);
  if (before * after <= 0) return 0;
  // The harmonic mean keeps the curve from overshooting either key.
  return (2 * before * after) / (before + after);
}
