import type { Onsets } from './onsets.ts';

/** How beats fall into bars. */
export interface Bars {
  beatsPerBar: 3 | 4;
  /** Which of the beats is the first that begins a bar. */
  downbeat: number;
}

/** How much clearer three in a bar must be than four before it is believed. */
const THREES = 1.25;
/** Contrast under which three in a bar is not believed at all. */
const CLEAR = 0.5;
/** Weights of what marks the first beat of a bar: a low note or drum, a new chord, a strong beat. */
const MARKS = { low: 1, chord: 1.2, strength: 0.4 } as const;

/**
 * Finds the metre and where bars begin: the first beat of a bar brings low notes and new chords. Of each metre and place the
 * contrast between first beats and the others is taken; the clearest wins.
 */
export function findBars(at: readonly number[], onsets: Onsets): Bars {
  if (at.length < 8) return { beatsPerBar: 4, downbeat: 0 };
  const low = standard(at.map((t) => most(onsets.low, t)));
  const chord = standard(chordChanges(at, onsets));
  const strength = standard(at.map((t) => most(onsets.middle, t)));
  const marks = at.map((_, i) => MARKS.low * low[i] + MARKS.chord * chord[i] - MARKS.strength * strength[i]);
  let best: Bars = { beatsPerBar: 4, downbeat: 0 };
  let clearest = -Infinity;
  for (const beatsPerBar of [4, 3] as const)
    for (let downbeat = 0; downbeat < beatsPerBar; downbeat++) {
      const clear = contrast(marks, beatsPerBar, downbeat) / (beatsPerBar === 3 ? THREES : 1);
      if (clear > clearest && (beatsPerBar === 4 || clear > CLEAR))
        [best, clearest] = [{ beatsPerBar, downbeat }, clear];
    }
  return best;
}

/** How far the mean of the first beats stands over the best of the other places in the bar. */
function contrast(marks: readonly number[], perBar: number, first: number): number {
  const means = Array.from({ length: perBar }, (_, place) => {
    const own = marks.filter((_m, i) => (i - first - place) % perBar === 0);
    return own.reduce((sum, v) => sum + v, 0) / Math.max(1, own.length);
  });
  const others = means.slice(1);
  return means[0] - others.reduce((sum, v) => sum + v, 0) / others.length;
}

function most(values: Float32Array, at: number): number {
  let peak = 0;
  for (let i = Math.max(0, Math.round(at) - 3); i <= Math.min(values.length - 1, Math.round(at) + 4); i++)
    peak = Math.max(peak, values[i]);
  return peak;
}

/** How much the spectrum below 2 kHz over each beat differs from that over the beat before. */
function chordChanges(at: readonly number[], { bands, bandCount }: Onsets): number[] {
  const used = Math.floor(bandCount * 0.7);
  const spectra = at.map((t, i) => {
    const end = at[i + 1] ?? t + (t - (at[i - 1] ?? 0));
    const mean = new Float64Array(used);
    // The attack belongs to drums; what sounds after it is the chord.
    const from = t + Math.round((end - t) * 0.25);
    let count = 0;
    for (let frame = from; frame < end && (frame + 1) * bandCount <= bands.length; frame++, count++)
      for (let b = 0; b < used; b++) mean[b] += bands[frame * bandCount + b];
    return mean.map((v) => v / Math.max(1, count));
  });
  return spectra.map((spectrum, i) => {
    const before = spectra[i - 1] ?? spectrum;
    return spectrum.reduce((sum, v, b) => sum + Math.abs(v - before[b]), 0);
  });
}

/** Values from their mean, in units of their spread. */
function standard(values: readonly number[]): number[] {
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
  const spread = Math.sqrt(values.reduce((sum, v) => sum + (v - mean) * (v - mean), 0) / values.length);
  return values.map((v) => (spread > 0 ? (v - mean) / spread : 0));
}
