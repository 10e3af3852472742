import type { Sound } from './sound.ts';

/** The largest absolute sample of either channel in each of `count` equal stretches from `start` to `end` seconds. */
export function peaks(sound: Sound, start: number, end: number, count: number): Float32Array {
  const out = new Float32Array(count);
  const from = start * sound.sampleRate;
  const step = ((end - start) * sound.sampleRate) / count;
  for (let i = 0; i < count; i++) {
    const a = Math.max(0, Math.floor(from + i * step));
    const b = Math.min(sound.left.length, Math.max(a + 1, Math.floor(from + (i + 1) * step)));
    let peak = 0;
    for (let s = a; s < b; s++) peak = Math.max(peak, Math.abs(sound.left[s]), Math.abs(sound.right[s]));
    out[i] = peak;
  }
  return out;
}
