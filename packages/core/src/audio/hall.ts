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
  const response = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const t = i / count;
    const noise = 2 * random() - 1;
    // Two low-passes whose corner comes down from open to a tenth.
    const k = 0.75 * exp(-2.2 * t);
    slow += k * (noise - slow);
    slower += k * (slow - slower);
    response[i] = slower * exp(-DOWN_60 * t) * Math.min(1, i / (0.004 * sampleRate));
  }
  return response;
}

/** Answers of halls for both ears as they were last asked for, and their transforms by size. */
interface Hall {
  key: string;
  responses: [Float64Array, Float64Array];
  transforms: Map<number, { re: Float64Array; im: Float64Array }>;
}
const halls: Hall[] = [];

function hallOf(seconds: number, sampleRate: number, seed: number): Hall {
  const key = JSON.stringify([seconds, sampleRate, seed]);
  let hall = halls.find((known) => known.key === key);
  if (hall) return hall;
  const responses = [seed, seed + 1].map((of) => hallResponse(seconds, sampleRate, of)) as Hall['responses'];
  hall = { key, responses, transforms: new Map() };
  // One that rings out and two of strips are all that a promo has.
  halls.unshift(hall);
  halls.length = Math.min(halls.length, 3);
  return hall;
}

/** The last transform that was needed: its tables take as long to make as it takes. */
let fft = new Fft(2);

/**
 * Both ears of a signal through a hall. Both are real: one goes as the real part, one as the imaginary one, through one transform each
 * way, and is taken apart between.
 */
function convolved(left: Float64Array, right: Float64Array, hall: Hall): [left: Float64Array, right: Float64Array] {
  const { responses, transforms } = hall;
  let size = 1;
  while (size < left.length + responses[0].length) size *= 2;
  if (fft.size !== size) fft = new Fft(size);
  const transformed = (a: Float64Array, b: Float64Array): { re: Float64Array; im: Float64Array } => {
    const [re, im] = [new Float64Array(size), new Float64Array(size)];
    re.set(a);
    im.set(b);
    fft.transform(re, im);
    return { re, im };
  };
  let of = transforms.get(size);
  if (!of) transforms.set(size, (of = transformed(...responses)));
  const { re, im } = transformed(left, right);
  const [hr, hi] = [of.re, of.im];
  const [pr, pi] = [new Float64Array(size), new Float64Array(size)];
  for (let k = 0; k < size; k++) {
    const m = (size - k) & (size - 1);
    // Twice each ear's spectrum, of the signal and of the hall.
    const lr = re[k] + re[m];
    const li = im[k] - im[m];
    const rr = im[k] + im[m];
    const ri = re[m] - re[k];
    const glr = hr[k] + hr[m];
    const gli = hi[k] - hi[m];
    const grr = hi[k] + hi[m];
    const gri = hr[m] - hr[k];
    const a = lr * glr - li * gli;
    const b = lr * gli + li * glr;
    const c = rr * grr - ri * gri;
    const d = rr * gri + ri * grr;
    // Left and right as one again, and back by the transform of the conjugate.
    pr[k] = (a - d) / (4 * size);
    pi[k] = -(b + c) / (4 * size);
  }
  fft.transform(pr, pi);
  for (let k = 0; k < size; k++) pi[k] = -pi[k];
  return [pr, pi];
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
  const from = Math.max(0, stop - Math.round(HEARD * sampleRate));
  const before = [sound.left, sound.right].map((channel) => Float64Array.from(channel.subarray(from, stop)));
  const count = before[0].length;
  const halls = count > 0 ? convolved(before[0], before[1], hallOf(seconds, sampleRate, 5)) : null;
  [sound.left, sound.right].forEach((channel, ear) => {
    const loud = level(channel, stop - compared, stop);
    for (let i = stop; i < channel.length; i++) {
      const left = 1 - (i - stop) / faded;
      channel[i] *= left > 0 ? left : 0;
    }
    if (!halls || loud === 0) return;
    const hall = halls[ear];
    const wet = level(hall, count, count + compared);
    const gain = wet > 0 ? (0.9 * loud) / wet : 0;
    const end = Math.min(channel.length, stop + hall.length - count);
    for (let i = stop; i < end; i++) {
      // Comes as the sound goes.
      const open = Math.min(1, (i - stop) / faded);
      channel[i] += open * gain * hall[count + i - stop];
    }
  });
}

/** Samples that are brought through a hall at once. */
const BLOCK = 1 << 16;

/** Adds a hall to a sound, as loud against it as `share` says. Changes the sound. @param seconds until it is 60 dB down. */
export function hallSend(sound: Sound, seconds: number, share: number): void {
  const hall = hallOf(seconds, sound.sampleRate, 11);
  const { left, right } = sound;
  const channels = [left, right];
  const wet = channels.map(() => new Float64Array(left.length));
  for (let from = 0; from < left.length; from += BLOCK) {
    const parts = channels.map((channel) => Float64Array.from(channel.subarray(from, from + BLOCK)));
    if (!parts.some((part) => part.some((v) => v !== 0))) continue;
    const most = Math.min(parts[0].length + hall.responses[0].length, left.length - from);
    convolved(parts[0], parts[1], hall).forEach((rung, ear) => {
      for (let i = 0; i < most; i++) wet[ear][from + i] += rung[i];
    });
  }
  channels.forEach((channel, ear) => {
    let energy = 0;
    for (const v of hall.responses[ear]) energy += v * v;
    // So that it is as loud as what goes in, where that is noise.
    const gain = share / Math.sqrt(Math.max(1e-12, energy));
    for (let i = 0; i < channel.length; i++) channel[i] += gain * wet[ear][i];
  });
}
