import type { Onsets } from './onsets.ts';

/** Seconds to each side over which onsets are measured against what is usual there. */
const AROUND = 2;
/** How much each register tells of the beat: hats run through it, drums and basses carry it. */
const WEIGHTS = { low: 1, middle: 1, high: 0.6 } as const;

/** How much each instant looks like a beat, 0..1, a hundredth of a second apart. */
export function activation(onsets: Onsets): Float32Array {
  const count = onsets.low.length;
  const sum = new Float32Array(count);
  for (const [name, weight] of Object.entries(WEIGHTS) as Array<[keyof typeof WEIGHTS, number]>) {
    const even = evened(onsets[name], Math.round(AROUND * onsets.rate));
    for (let i = 0; i < count; i++) sum[i] += weight * even[i];
  }
  const loud = evenedPeak(sum, Math.round(3 * onsets.rate));
  return sum.map((v, i) => Math.min(1, v / Math.max(1e-6, loud[i])));
}

/** What rises over the mean around it, in units of what usually does. */
function evened(values: Float32Array, reach: number): Float32Array {
  const count = values.length;
  const sums = new Float64Array(count + 1);
  const squares = new Float64Array(count + 1);
  for (let i = 0; i < count; i++) {
    sums[i + 1] = sums[i] + values[i];
    squares[i + 1] = squares[i] + values[i] * values[i];
  }
  let all = 0;
  for (let i = 0; i < count; i++) all += values[i];
  const floor = Math.max(1e-6, (0.5 * all) / count);
  const out = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const [from, to] = [Math.max(0, i - reach), Math.min(count, i + reach)];
    const n = to - from;
    const mean = (sums[to] - sums[from]) / n;
    const spread = Math.sqrt(Math.max(0, (squares[to] - squares[from]) / n - mean * mean));
    out[i] = Math.max(0, values[i] - mean) / (spread + floor);
  }
  return out;
}

/** The loudest within reach, smoothed: what counts as a full beat there. */
function evenedPeak(values: Float32Array, reach: number): Float32Array {
  const count = values.length;
  const step = 25;
  const blocks = Math.ceil(count / step);
  const highest = new Float32Array(blocks);
  for (let i = 0; i < count; i++) highest[Math.floor(i / step)] = Math.max(highest[Math.floor(i / step)], values[i]);
  const wide = Math.ceil(reach / step);
  const out = new Float32Array(count);
  for (let b = 0; b < blocks; b++) {
    const near: number[] = [];
    for (let k = Math.max(0, b - wide); k < Math.min(blocks, b + wide + 1); k++) near.push(highest[k]);
    near.sort((x, y) => x - y);
    // A single crash does not make all beats around it weak.
    const usual = near[Math.floor(near.length * 0.8)];
    out.fill(usual, b * step, Math.min(count, (b + 1) * step));
  }
  return out;
}
