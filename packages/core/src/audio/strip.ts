import { cos, exp, log10, pow, sin } from '../maths/index.ts';
import { hallSend } from './hall.ts';
import { decibelsToGain, type Sound } from './sound.ts';

/** What a row of a mixer does to its sound, in this order: tone, compression, gain, hall, pan. */
export interface Strip {
  /** Decibels. */
  gain: number;
  /** -1 left, 1 right; 0 dB in the middle. */
  pan: number;
  /** Decibels of a low shelf, a bell in the middle and a high shelf. */
  low: number;
  middle: number;
  high: number;
  /** dBFS above which it is compressed; 0: it is not. */
  threshold: number;
  /** Decibels in for one out. */
  ratio: number;
  /** Seconds. */
  attack: number;
  release: number;
  /** Share of a hall around it, 0..1. */
  hall: number;
  muted: boolean;
}

/** Corners of the tone, Hz, and how wide the bell is. */
export const TONE = { low: 150, middle: 1000, high: 6000, q: 0.7 } as const;

/** Decibels over which compression sets in. */
const KNEE = 6;
/** Seconds in which a hall is 60 dB down. */
const HALL = 1.8;

/** Coefficients of a second-order section: b0, b1, b2, a1, a2, with a0 as 1. */
export type Section = readonly [b0: number, b1: number, b2: number, a1: number, a2: number];

const scaled = (b0: number, b1: number, b2: number, a0: number, a1: number, a2: number): Section => [
  ...([b0 / a0, b1 / a0, b2 / a0, a1 / a0, a2 / a0] as const),
];

/** A bell about a frequency (Bristow-Johnson, Cookbook formulae for audio EQ biquad filter coefficients). */
export function bell(frequency: number, q: number, gain: number, sampleRate: number): Section {
  const a = pow(10, gain / 40);
  const w = (2 * Math.PI * frequency) / sampleRate;
  const alpha = sin(w) / (2 * q);
  return scaled(1 + alpha * a, -2 * cos(w), 1 - alpha * a, 1 + alpha / a, -2 * cos(w), 1 - alpha / a);
}

/** A shelf below or above a frequency, as steep as it can be without a bump (the same). */
export function shelf(side: 'low' | 'high', frequency: number, gain: number, sampleRate: number): Section {
  const a = pow(10, gain / 40);
  const w = (2 * Math.PI * frequency) / sampleRate;
  const c = side === 'low' ? cos(w) : -cos(w);
  const root = 2 * Math.sqrt(a) * (sin(w) / 2) * Math.SQRT2;
  const sign = side === 'low' ? 1 : -1;
  return scaled(
    ...([a * (a + 1 - (a - 1) * c + root), sign * 2 * a * (a - 1 - (a + 1) * c)] as const),
    ...([a * (a + 1 - (a - 1) * c - root), a + 1 + (a - 1) * c + root] as const),
    ...([sign * -2 * (a - 1 + (a + 1) * c), a + 1 + (a - 1) * c - root] as const),
  );
}

/** Runs a channel through a section (transposed direct form II). Changes it. */
export function filtered(channel: Float32Array, [b0, b1, b2, a1, a2]: Section): void {
  let [s1, s2] = [0, 0];
  for (let i = 0; i < channel.length; i++) {
    const x = channel[i];
    const y = b0 * x + s1;
    s1 = b1 * x - a1 * y + s2;
    s2 = b2 * x - a2 * y;
    channel[i] = y;
  }
}

/** Decibels by which a level is brought down: nothing below the knee, all of the ratio above it. */
export function reduction(level: number, threshold: number, ratio: number): number {
  const over = level - threshold;
  const slope = 1 - 1 / ratio;
  if (over <= -KNEE / 2) return 0;
  if (over >= KNEE / 2) return slope * over;
  const into = over + KNEE / 2;
  return (slope * into * into) / (2 * KNEE);
}

/**
 * A feed-forward compressor, both channels by the louder one, its gain smoothed in decibels with the branching one-pole of Giannoulis,
 * Massberg and Reiss (2012). Changes the sound.
 */
export function compress({ left, right, sampleRate }: Sound, strip: Strip): void {
  const { threshold, ratio } = strip;
  const [attack, release] = [strip.attack, strip.release].map((s) => exp(-1 / (Math.max(1e-4, s) * sampleRate)));
  let down = 0;
  for (let i = 0; i < left.length; i++) {
    const level = Math.max(Math.abs(left[i]), Math.abs(right[i]));
    const wanted = level > 1e-6 ? reduction(20 * log10(level), threshold, ratio) : 0;
    const keep = wanted > down ? attack : release;
    down = keep * down + (1 - keep) * wanted;
    if (down < 1e-4) continue;
    const gain = decibelsToGain(-down);
    left[i] *= gain;
    right[i] *= gain;
  }
}

/** Puts a sound through a row of a mixer. Changes it. */
export function applyStrip(sound: Sound, strip: Strip): void {
  const { left, right, sampleRate } = sound;
  if (strip.muted) {
    left.fill(0);
    right.fill(0);
    return;
  }
  const sections: Section[] = [];
  if (strip.low !== 0) sections.push(shelf('low', TONE.low, strip.low, sampleRate));
  if (strip.middle !== 0) sections.push(bell(TONE.middle, TONE.q, strip.middle, sampleRate));
  if (strip.high !== 0) sections.push(shelf('high', TONE.high, strip.high, sampleRate));
  for (const section of sections) for (const channel of [left, right]) filtered(channel, section);
  if (strip.threshold < 0 && strip.ratio > 1) compress(sound, strip);
  if (strip.hall > 0) hallSend(sound, HALL, strip.hall);
  const angle = ((strip.pan + 1) * Math.PI) / 4;
  const gain = decibelsToGain(strip.gain) * Math.SQRT2;
  const [l, r] = [gain * cos(angle), gain * sin(angle)];
  if (l === 1 && r === 1) return;
  for (let i = 0; i < left.length; i++) {
    left[i] *= l;
    right[i] *= r;
  }
}
