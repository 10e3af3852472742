import { slerp, unitQuaternion, type Quaternion } from './quaternion.ts';
import type { RigChannel } from './rig.ts';

/** A channel's value at a time, its ends held before and after (glTF 2.0, appendix C); null for one without numbers. */
export function sampleChannel(channel: Omit<RigChannel, 'node'>, seconds: number): number[] | null {
  const { times, values, interpolation, path } = channel;
  const cubic = interpolation === 'CUBICSPLINE';
  const size = Math.floor(values.length / times.length / (cubic ? 3 : 1));
  if (!(size > 0)) return null;
  const key = (index: number, part = 1): number[] => {
    const from = (cubic ? index * 3 + part : index) * size;
    return Array.from(values.subarray(from, from + size));
  };
  let [low, high] = [0, times.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (times[middle] <= seconds) low = middle + 1;
    else high = middle;
  }
  if (low === 0) return key(0);
  if (low === times.length) return key(low - 1);
  if (interpolation === 'STEP') return key(low - 1);
  const span = times[low] - times[low - 1];
  const t = span > 0 ? (seconds - times[low - 1]) / span : 0;
  const [a, b] = [key(low - 1), key(low)];
  if (!cubic)
    return path === 'rotation' ? slerp(a as Quaternion, b as Quaternion, t) : a.map((v, i) => v + (b[i] - v) * t);
  const [out, into] = [key(low - 1, 2), key(low, 0)];
  const [t2, t3] = [t * t, t * t * t];
  const value = a.map(
    (v, i) =>
      (2 * t3 - 3 * t2 + 1) * v +
      (t3 - 2 * t2 + t) * span * out[i] +
      (3 * t2 - 2 * t3) * b[i] +
      (t3 - t2) * span * into[i],
  );
  return path === 'rotation' ? unitQuaternion(value) : value;
}
