import { cos, log, pow } from '../../maths/index.ts';
import type { Sound } from '../sound.ts';
import { Fft } from './fft.ts';

/** How strongly something begins at each instant, by register, and how loud it is. Values a hundredth of a second apart. */
export interface Onsets {
  /** Values a second. */
  rate: number;
  low: Float32Array;
  middle: Float32Array;
  high: Float32Array;
  /** Root mean square of the sound. */
  level: Float32Array;
  /** Log spectrum in bands, a row for each instant. */
  bands: Float32Array;
  bandCount: number;
}

export const ONSET_RATE = 100;
/** Samples of a window at about 24 kHz: 43 ms. */
const WINDOW = 1024;
const BAND_COUNT = 30;
const [LOWEST, HIGHEST] = [32, 10500];
/** Hz between the registers. */
const [LOW_END, MIDDLE_END] = [190, 2600];
/** Windows back that a band is compared with. */
const LAG = 2;
/** What loudness is compressed with before logarithms. */
const COMPRESSION = 400;

/** Both channels together at half the rate, each value the mean of two samples. */
function halved({ left, right }: Sound): Float32Array {
  const half = new Float32Array(left.length >> 1);
  for (let i = 0; i < half.length; i++) half[i] = (left[2 * i] + left[2 * i + 1] + right[2 * i] + right[2 * i + 1]) / 4;
  return half;
}

/** Edges of the bands as numbers of the transform, spread evenly by pitch, each one at least one wide. */
function bandEdges(rate: number): number[] {
  const edges: number[] = [];
  for (let b = 0; b <= BAND_COUNT; b++) {
    const frequency = LOWEST * pow(HIGHEST / LOWEST, b / BAND_COUNT);
    const place = Math.min(WINDOW / 2, Math.round((frequency / rate) * WINDOW));
    edges.push(Math.max(place, (edges[b - 1] ?? 0) + 1));
  }
  return edges;
}

/**
 * Half-wave rectified change of a log spectrum in bands (spectral flux), each band against the loudest of its neighbours a
 * moment before, so that a vibrato is no onset (after Boeck and Widmer 2013).
 */
export function onsetsOf(sound: Sound): Onsets {
  const mono = halved(sound);
  const rate = sound.sampleRate / 2;
  const hop = rate / ONSET_RATE;
  const count = Math.max(1, Math.floor(mono.length / hop));
  const edges = bandEdges(rate);
  const bands = new Float32Array(count * BAND_COUNT);
  const level = new Float32Array(count);
  let loudest = 1e-9;
  const fft = new Fft(WINDOW);
  const [re, im] = [new Float64Array(WINDOW), new Float64Array(WINDOW)];
  const hann = Float64Array.from({ length: WINDOW }, (_, i) => 0.5 - 0.5 * cos((2 * Math.PI * i) / WINDOW));
  const take = (into: Float64Array, frame: number): void => {
    const from = Math.round(frame * hop) - WINDOW / 2;
    let sum = 0;
    for (let i = 0; i < WINDOW; i++) {
      const v = from + i >= 0 && from + i < mono.length ? mono[from + i] : 0;
      into[i] = v * hann[i];
      sum += v * v;
    }
    if (frame < count) level[frame] = Math.sqrt(sum / WINDOW);
  };
  for (let frame = 0; frame < count; frame += 2) {
    take(re, frame);
    take(im, frame + 1);
    fft.transform(re, im);
    for (let b = 0; b < BAND_COUNT; b++) {
      let [one, two] = [0, 0];
      for (let k = edges[b]; k < Math.min(edges[b + 1], WINDOW / 2); k++) {
        const j = WINDOW - k;
        // The two real signals come apart by symmetry.
        const [ar, ai] = [re[k] + re[j], im[k] - im[j]];
        const [br, bi] = [im[k] + im[j], re[j] - re[k]];
        one += ar * ar + ai * ai;
        two += br * br + bi * bi;
      }
      bands[frame * BAND_COUNT + b] = Math.sqrt(one);
      if (frame + 1 < count) bands[(frame + 1) * BAND_COUNT + b] = Math.sqrt(two);
      loudest = Math.max(loudest, one, two);
    }
  }
  const scale = COMPRESSION / Math.sqrt(loudest);
  for (let i = 0; i < bands.length; i++) bands[i] = log(1 + bands[i] * scale);
  const [low, middle, high] = [new Float32Array(count), new Float32Array(count), new Float32Array(count)];
  const registers = edges.slice(0, BAND_COUNT).map((edge) => {
    const frequency = (edge / WINDOW) * rate;
    return frequency < LOW_END ? low : frequency < MIDDLE_END ? middle : high;
  });
  for (let frame = LAG; frame < count; frame++)
    for (let b = 0; b < BAND_COUNT; b++) {
      const before = (frame - LAG) * BAND_COUNT + b;
      let was = bands[before];
      if (b > 0) was = Math.max(was, bands[before - 1]);
      if (b < BAND_COUNT - 1) was = Math.max(was, bands[before + 1]);
      const rise = bands[frame * BAND_COUNT + b] - was;
      if (rise > 0) registers[b][frame] += rise;
    }
  return { rate: ONSET_RATE, low, middle, high, level, bands, bandCount: BAND_COUNT };
}
