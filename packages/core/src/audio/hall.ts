import { exp, seeded } from '../maths/index.ts';
import { Fft } from './beats/fft.ts';
import type { Sound } from './sound.ts';

/** What is heard of the music before it stops still rings: seconds of it. */
const HEARD = 2.5;
/** Seconds over which the music itself stops. */
const STOP = 0.04;
/** Natural logarithm of a thousandth: a hall has rung out when it is 60 dB down. */
const DOWN_60 = 6.907755;
/** Seconds over which levels before and after the stop are compared. */
const COMPARED = 0.25;

/**
 * How a hall answers a click: noise that dies away by 60 dB in so many seconds, its heights sooner than its depths, as air and
 * curtains take them. One for each ear.
 */
export function hallResponse(seconds: number, sampleRate: number, seed: number): Float64Array {
  const random = seeded(seed);
  const count = Math.max(1, Math.round(seconds * sampleRate));
  let [slow, slower] = [0, 0];
  return Float64Array.from({ length: count }, (_, i) => {
    const t = i / count;
    const noise = 2 * random() - 1;
    // Two low-passes whose corner comes down from open to a tenth.
    const k = 0.75 * exp(-2.2 * t);
    slow += k * (noise - slow);
    slower += k * (slow - slower);
    return slower * exp(-DOWN_60 * t) * Math.min(1, i / (0.004 * sampleRate));
  });
}

function convolved(signal: Float64Array, response: Float64Array): Float64Array {
  let size = 1;
  while (size < signal.length + response.length) size *= 2;
  const fft = new Fft(size);
  // Both are real: one goes as the real part, one as the imaginary one, and their product is taken apart.
  const re = new Float64Array(size);
  const im = new Float64Array(size);
  re.set(signal);
  im.set(response);
  fft.transform(re, im);
  const pr = new Float64Array(size);
  const pi = new Float64Array(size);
  for (let k = 0; k < size; k++) {
    const m = (size - k) & (size - 1);
    const [ar, ai] = [(re[k] + re[m]) / 2, (im[k] - im[m]) / 2];
    const [br, bi] = [(im[k] + im[m]) / 2, (re[m] - re[k]) / 2];
    pr[k] = ar * br - ai * bi;
    // Back by the transform of the conjugate.
    pi[k] = -(ar * bi + ai * br);
  }
  fft.transform(pr, pi);
  for (let k = 0; k < size; k++) pr[k] /= size;
  return pr;
}

const level = (values: Float32Array | Float64Array, from: number, to: number): number => {
  let sum = 0;
  for (let i = Math.max(0, from); i < Math.min(values.length, to); i++) sum += values[i] * values[i];
  return Math.sqrt(sum / Math.max(1, to - from));
};

/**
 * Lets a sound ring out: from sample `stop` on it is still, and what a hall gives back of what came before dies away instead, as loud
 * at first as the sound was. Changes the sound.
 * @param seconds until it is 60 dB down.
 */
export function ringOut(sound: Sound, stop: number, seconds: number): void {
  const { sampleRate } = sound;
  const faded = Math.round(STOP * sampleRate);
  const compared = Math.round(COMPARED * sampleRate);
  [sound.left, sound.right].forEach((channel, ear) => {
    const from = Math.max(0, stop - Math.round(HEARD * sampleRate));
    const before = Float64Array.from(channel.subarray(from, stop));
    const loud = level(channel, stop - compared, stop);
    for (let i = stop; i < channel.length; i++) {
      const left = 1 - (i - stop) / faded;
      channel[i] *= left > 0 ? left : 0;
    }
    if (before.length === 0 || loud === 0) return;
    const hall = convolved(before, hallResponse(seconds, sampleRate, 5 + ear));
    const wet = level(hall, before.length, before.length + compared);
    const gain = wet > 0 ? (0.9 * loud) / wet : 0;
    for (let i = stop; i < channel.length; i++) {
      // Comes as the sound goes.
      const open = Math.min(1, (i - stop) / faded);
      channel[i] += open * gain * (hall[before.length + i - stop] ?? 0);
    }
  });
}

/** Samples that are brought through a hall at once. */
const BLOCK = 1 << 16;

/** Adds a hall to a sound, as loud against it as `share` says. Changes the sound. @param seconds until it is 60 dB down. */
export function hallSend(sound: Sound, seconds: number, share: number): void {
  const { sampleRate } = sound;
  [sound.left, sound.right].forEach((channel, ear) => {
    const response = hallResponse(seconds, sampleRate, 11 + ear);
    let energy = 0;
    for (const v of response) energy += v * v;
    // So that it is as loud as what goes in, where that is noise.
    const gain = share / Math.sqrt(Math.max(1e-12, energy));
    const wet = new Float64Array(channel.length);
    for (let from = 0; from < channel.length; from += BLOCK) {
      const part = Float64Array.from(channel.subarray(from, from + BLOCK));
      if (!part.some((v) => v !== 0)) continue;
      const rung = convolved(part, response);
      const most = Math.min(part.length + response.length, channel.length - from);
      for (let i = 0; i < most; i++) wet[from + i] += rung[i];
    }
    for (let i = 0; i < channel.length; i++) channel[i] += gain * wet[i];
  });
}
