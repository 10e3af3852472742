import { cos, log10, sin } from '../maths/index.ts';
import { Problem } from '../problem/index.ts';
import { SAMPLE_RATE, type Sound } from './sound.ts';

/** What a programme measures. */
export interface Loudness {
  /** LUFS of all of it, gated; -Infinity for silence. */
  integrated: number;
  /** LUFS of the loudest 3 seconds and 400 milliseconds. */
  shortTerm: number;
  momentary: number;
  /** LU between the quiet and the loud parts (EBU Tech 3342). */
  range: number;
  /** dBTP, the highest peak between samples as well. */
  truePeak: number;
}

/** The two filters of ITU-R BS.1770-4 at 48 kHz: the head's shelf, and a high-pass. Numerators, then denominators from the second on. */
const SHELF = [1.53512485958697, -2.69169618940638, 1.19839281085285, -1.69065929318241, 0.73248077421585] as const;
const HIGH_PASS = [1, -2, 1, -1.99004745483398, 0.99007225036621] as const;

/** Blocks of 400 ms and of 3 s, all a step of 100 ms apart. */
const STEP = SAMPLE_RATE / 10;
const MOMENTARY = 4;
const SHORT = 30;
const ABSOLUTE = -70;

const loudnessOf = (power: number): number => -0.691 + 10 * log10(Math.max(power, 1e-30));
const powerOf = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

/** Weighted power of each step of 100 ms, channels added up. */
function steps({ left, right }: Sound): number[] {
  const sums = new Array<number>(Math.floor(left.length / STEP)).fill(0);
  // Two second-order sections, one after the other (transposed form II); both channels side by side, since each value waits for its last.
  let [la1, la2, lb1, lb2, lefts] = [0, 0, 0, 0, 0];
  let [ra1, ra2, rb1, rb2, rights] = [0, 0, 0, 0, 0];
  for (let n = 0, i = 0; n < sums.length; n++) {
    for (const end = i + STEP; i < end; i++) {
      const lx = left[i];
      const rx = right[i];
      const ly = SHELF[0] * lx + la1;
      const ry = SHELF[0] * rx + ra1;
      la1 = SHELF[1] * lx - SHELF[3] * ly + la2;
      ra1 = SHELF[1] * rx - SHELF[3] * ry + ra2;
      la2 = SHELF[2] * lx - SHELF[4] * ly;
      ra2 = SHELF[2] * rx - SHELF[4] * ry;
      const lz = HIGH_PASS[0] * ly + lb1;
      const rz = HIGH_PASS[0] * ry + rb1;
      lb1 = HIGH_PASS[1] * ly - HIGH_PASS[3] * lz + lb2;
      rb1 = HIGH_PASS[1] * ry - HIGH_PASS[3] * rz + rb2;
      lb2 = HIGH_PASS[2] * ly - HIGH_PASS[4] * lz;
      rb2 = HIGH_PASS[2] * ry - HIGH_PASS[4] * rz;
      lefts += lz * lz;
      rights += rz * rz;
    }
    sums[n] = lefts / STEP + rights / STEP;
    [lefts, rights] = [0, 0];
  }
  return sums;
}

/** Loudness as a sound goes on, LUFS: a value each 100 ms, of the stretch that ends there. */
export interface LoudnessCourse {
  /** Of the last 400 ms. */
  momentary: Float32Array;
  /** Of the last 3 s. */
  shortTerm: Float32Array;
}

/** How loud a sound is at each moment, as meters show it (EBU Tech 3341); -Infinity where it is silent or too short yet. */
export function loudnessCourse(sound: Sound): LoudnessCourse {
  const powers = steps(sound);
  const course = (length: number): Float32Array =>
    Float32Array.from(powers, (_, n) => {
      const power = n + 1 < length ? 0 : powerOf(powers.slice(n + 1 - length, n + 1));
      return power > 1e-12 ? loudnessOf(power) : -Infinity;
    });
  return { momentary: course(MOMENTARY), shortTerm: course(SHORT) };
}

/** Mean power of blocks of so many steps, one at each step. */
function blocks(powers: readonly number[], length: number): number[] {
  const out: number[] = [];
  for (let i = 0; i + length <= powers.length; i++) out.push(powerOf(powers.slice(i, i + length)));
  return out;
}

/** Blocks above the absolute gate, and above the relative one so many LU below their mean. */
function gated(powers: readonly number[], below: number): number[] {
  const heard = powers.filter((p) => loudnessOf(p) > ABSOLUTE);
  if (heard.length === 0) return [];
  const gate = loudnessOf(powerOf(heard)) - below;
  return heard.filter((p) => loudnessOf(p) > gate);
}

/** From the tenth to the ninety-fifth of a hundred parts of the short-term loudness, gated 20 LU below its mean. */
function rangeOf(short: readonly number[]): number {
  const levels = gated(short, 20)
    .map(loudnessOf)
    .sort((a, b) => a - b);
  if (levels.length < 2) return 0;
  const at = (share: number): number => levels[Math.round((levels.length - 1) * share)];
  return at(0.95) - at(0.1);
}

const OVERSAMPLED = 4;
/** Samples to each side that make one in between. */
const REACH = 12;

/** Three places between two samples, by a sinc in a Hann window. */
const BETWEEN: readonly Float64Array[] = Array.from({ length: OVERSAMPLED - 1 }, (_, k) => {
  const at = (k + 1) / OVERSAMPLED;
  const taps = Float64Array.from({ length: 2 * REACH }, (_, i) => {
    const x = i - (REACH - 1) - at;
    const window = 0.5 + 0.5 * cos((Math.PI * x) / REACH);
    return (sin(Math.PI * x) / (Math.PI * x)) * window;
  });
  const sum = taps.reduce((a, b) => a + b, 0);
  return taps.map((v) => v / sum);
});

/** The highest of three places between a sample and the next, at four times the rate. */
export function betweenSamples(channel: Float32Array, i: number): number {
  let most = 0;
  const [first, last] = [Math.max(0, REACH - 1 - i), Math.min(2 * REACH, channel.length - i + REACH - 1)];
  for (const taps of BETWEEN) {
    let sum = 0;
    for (let k = first; k < last; k++) sum += taps[k] * channel[i - REACH + 1 + k];
    most = Math.max(most, Math.abs(sum));
  }
  return most;
}

/** The highest peak of a sound, between its samples as well, at four times its rate (ITU-R BS.1770-4, annex 2), in dBTP. */
export function truePeak({ left, right }: Sound): number {
  let most = 0;
  for (const channel of [left, right]) {
    const count = channel.length;
    for (let i = 0; i < count; i++) most = Math.max(most, Math.abs(channel[i]));
    let [before, here, next] = [0, 0, count > 0 ? Math.abs(channel[0]) : 0];
    for (let i = -1; i < count; i++) {
      const after = i + 2 < count ? Math.abs(channel[i + 2]) : 0;
      const beside = here > next ? here : next;
      // A peak lies beside samples that are no lower than those farther off, and is seldom twice as high as they are.
      if (2 * beside >= most && beside >= before && beside >= after) most = Math.max(most, betweenSamples(channel, i));
      before = here;
      here = next;
      next = after;
    }
  }
  return 20 * log10(Math.max(most, 1e-15));
}

/**
 * Loudness of a stereo programme by ITU-R BS.1770-4 and EBU R 128.
 * @throws Problem `audio/rate` for another rate than the one that everything is brought to.
 */
export function measureLoudness(sound: Sound): Loudness {
  if (sound.sampleRate !== SAMPLE_RATE)
    throw new Problem('audio/rate', `Loudness is measured at ${SAMPLE_RATE} Hz, not ${sound.sampleRate}.`, 'Sound');
  const powers = steps(sound);
  const momentary = blocks(powers, MOMENTARY);
  const short = blocks(powers, SHORT);
  const most = (all: readonly number[]): number => (all.length > 0 ? loudnessOf(Math.max(...all)) : -Infinity);
  const heard = gated(momentary, 10);
  return {
    integrated: heard.length > 0 ? loudnessOf(powerOf(heard)) : -Infinity,
    shortTerm: most(short),
    momentary: most(momentary),
    range: rangeOf(short),
    truePeak: truePeak(sound),
  };
}
