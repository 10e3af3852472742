import { cos, sin } from '../maths/index.ts';
import { silence, type Sound } from './sound.ts';

/** A stretch of a sound, in seconds. */
export interface Piece {
  from: number;
  to: number;
}

/** Seconds over which one piece goes into the next. */
const CROSS = 0.03;

/**
 * Pieces of a sound one after the other. Where they do not follow each other in the sound, the one before goes on a little while the
 * next one comes: equal power, so that what is unlike keeps its loudness; what is alike is added by equal gain, so that a cut at bars
 * that are the same is the sound itself.
 */
export function joinPieces(sound: Sound, pieces: readonly Piece[]): Sound {
  const { sampleRate } = sound;
  const spans = pieces.map(({ from, to }) => [Math.round(from * sampleRate), Math.round(to * sampleRate)] as const);
  const out = silence(
    spans.reduce((sum, [from, to]) => sum + Math.max(0, to - from), 0),
    sampleRate,
  );
  const cross = Math.round(CROSS * sampleRate);
  let at = 0;
  spans.forEach(([from, to], n) => {
    const before = spans[n - 1];
    const joined = before !== undefined && before[1] !== from;
    const power = joined && likeness(sound, before[1], from, cross) < 0.9;
    for (const side of ['left', 'right'] as const) {
      const [source, target] = [sound[side], out[side]];
      for (let i = 0; i < to - from; i++) {
        const now = source[from + i] ?? 0;
        if (!joined || i >= cross) target[at + i] = now;
        else {
          const t = (i + 0.5) / cross;
          const old = source[before[1] + i] ?? 0;
          const angle = (t * Math.PI) / 2;
          target[at + i] = power ? old * cos(angle) + now * sin(angle) : old * (1 - t) + now * t;
        }
      }
    }
    at += Math.max(0, to - from);
  });
  return out;
}

/** How much two stretches of a sound are alike, -1..1. */
export function likeness({ left, right }: Sound, a: number, b: number, samples: number): number {
  let [both, first, second] = [0, 0, 0];
  for (const channel of [left, right])
    for (let i = 0; i < samples; i++) {
      const [x, y] = [channel[a + i] ?? 0, channel[b + i] ?? 0];
      both += x * y;
      first += x * x;
      second += y * y;
    }
  return first > 0 && second > 0 ? both / Math.sqrt(first * second) : first === second ? 1 : 0;
}

/** Window and search of stretchSound(), in seconds. */
const WINDOW = 0.05;
const SEARCH = 0.012;

/** A sound so many times as long at its own pitch; itself where that is as long as it is. */
export function stretchSound(sound: Sound, factor: number): Sound {
  if (factor === 1) return sound;
  return stretchAlong(sound, Math.round(sound.left.length * factor), (at) => at / factor);
}

/**
 * A sound at its own pitch at any speed: overlapping windows, each taken from where it goes on best from the one before (waveform
 * similarity overlap-add, Verhelst and Roelands 1993).
 * @param placeOf the sample of the sound that is heard at each sample that is made; may be before its first.
 */
export function stretchAlong(sound: Sound, samples: number, placeOf: (sample: number) => number): Sound {
  const { left, right, sampleRate } = sound;
  const hop = Math.round((WINDOW * sampleRate) / 2);
  const search = Math.round(SEARCH * sampleRate);
  const out = silence(samples, sampleRate);
  const window = Float32Array.from({ length: 2 * hop }, (_, i) => 0.5 - 0.5 * cos((Math.PI * (i + 0.5)) / hop));
  const mono = new Float32Array(left.length);
  for (let i = 0; i < mono.length; i++) mono[i] = left[i] + right[i];
  /** How well what begins at `to` goes on as what begins at `from`, by every so many samples. */
  const fits = (from: number, to: number, every: number): number => {
    let [both, energy] = [0, 1e-9];
    for (let i = 0; i < hop; i += every) {
      const y = mono[to + i] ?? 0;
      both += (mono[from + i] ?? 0) * y;
      energy += y * y;
    }
    return both / Math.sqrt(energy);
  };
  let taken = Math.round(placeOf(-hop));
  for (let at = -hop; at < out.left.length; at += hop) {
    const ideal = Math.round(placeOf(at));
    const goesOn = taken + hop;
    let best = ideal;
    if (at > 0) {
      // Coarsely first, then to the sample.
      let most = -Infinity;
      for (const [middle, reach, step] of [[ideal, search, 8] as const, [0, 8, 1] as const]) {
        const centre = step === 1 ? best : middle;
        for (let to = centre - reach; to <= centre + reach; to += step) {
          const fit = fits(goesOn, to, step === 1 ? 2 : 4);
          if (fit > most) [most, best] = [fit, to];
        }
        if (step !== 1) most = -Infinity;
      }
    }
    taken = best;
    for (let i = 0; i < 2 * hop; i++) {
      const to = at + i;
      if (to < 0 || to >= out.left.length) continue;
      out.left[to] += (left[best + i] ?? 0) * window[i];
      out.right[to] += (right[best + i] ?? 0) * window[i];
    }
  }
  return out;
}
