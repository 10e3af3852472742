import { exp, log10 } from '../maths/index.ts';
import { betweenSamples } from './loudness.ts';
import { decibelsToGain, type Sound } from './sound.ts';

/** Seconds in which the gain goes down before a peak, and in which it comes back by two thirds. */
const AHEAD = 0.004;
const RELEASE = 0.12;
/** A peak between samples that are quieter than this share of the ceiling does not reach it. */
const BESIDE = 0.7;

/**
 * Keeps a sound's peaks, those between its samples too, below a ceiling: the gain goes down before a peak comes, so that no wave is
 * bent. Both channels by the same gain; a sound that stays below is left as it is. Changes the sound.
 * @param ceiling dBTP. @returns decibels by which the loudest moment was brought down.
 */
export function limitAhead(sound: Sound, ceiling: number): number {
  const { left, right, sampleRate } = sound;
  const count = left.length;
  // A changing gain moves peaks between samples by a trifle.
  const most = decibelsToGain(ceiling - 0.02);
  const gain = new Float32Array(count).fill(1);
  let deepest = 1;
  for (const channel of [left, right]) {
    let next = count > 0 ? Math.abs(channel[0]) : 0;
    for (let i = 0; i < count; i++) {
      const here = next;
      next = i + 1 < count ? Math.abs(channel[i + 1]) : 0;
      let peak = here;
      if (here > BESIDE * most || next > BESIDE * most) peak = Math.max(here, betweenSamples(channel, i));
      if (peak * gain[i] > most) gain[i] = most / peak;
      if (i + 1 < count && peak > here && peak * gain[i + 1] > most) gain[i + 1] = most / peak;
      deepest = Math.min(deepest, gain[i]);
    }
  }
  if (deepest >= 1) return 0;
  // Down at once, back slowly.
  const keep = exp(-1 / (RELEASE * sampleRate));
  for (let i = 1; i < count; i++) gain[i] = Math.min(gain[i], 1 - (1 - gain[i - 1]) * keep);
  // The least of what is ahead, evened out over the same stretch, is nowhere above what a peak needs.
  const window = Math.max(1, Math.round(AHEAD * sampleRate));
  const least = leastAhead(gain, window);
  let sum = window;
  for (let i = 0; i < count; i++) {
    sum += least[i] - (i >= window ? least[i - window] : 1);
    const now = Math.min(gain[i], sum / window);
    left[i] *= now;
    right[i] *= now;
  }
  return -20 * log10(deepest);
}

/** The least of each value and those after it, so many together (Lemire 2006, streaming maximum-minimum filter). */
function leastAhead(values: Float32Array, window: number): Float32Array {
  const out = new Float32Array(values.length);
  const waiting = new Int32Array(values.length);
  let [head, tail] = [0, 0];
  for (let i = values.length - 1; i >= 0; i--) {
    while (tail > head && values[waiting[tail - 1]] >= values[i]) tail--;
    waiting[tail++] = i;
    if (waiting[head] >= i + window) head++;
    out[i] = values[waiting[head]];
  }
  return out;
}
