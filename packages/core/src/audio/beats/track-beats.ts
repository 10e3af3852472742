import { log } from '../../maths/index.ts';

/** Beats a minute that are looked for. */
export const TEMPO_RANGE = [56, 210] as const;
/** Share of a beat's time that counts as on the beat. */
const ON_BEAT = 1 / 14;
/** How readily the tempo changes from beat to beat: exp(-this times the relative change). */
const STEADINESS = 90;
/** The tempo that people tap to what could be several, and the octaves around it that are still likely (Moelants 2002). */
const [USUAL_TEMPO, TEMPO_SPREAD] = [116, 0.75];
const PRIOR_WEIGHT = 2;
const LEAST = 0.02;

export interface TrackedBeats {
  /** Instants of the beats. */
  at: number[];
  /** Log likelihood a beat. */
  score: number;
}

/**
 * Beats as the best way through an activation (Viterbi): a beat has a length, which changes little from one to the next; at
 * its start the activation is to be high, in the rest of it low (after Krebs, Boeck and Widmer 2015, with whole beats as
 * steps). Lengths go with a prior on tempo, which decides between octaves where the music does not.
 *
 * @param rate values of the activation a second. @param tempo bounds, beats a minute.
 */
export function trackBeats(
  activation: Float32Array,
  rate: number,
  tempo: readonly [number, number] = TEMPO_RANGE,
): TrackedBeats {
  const count = activation.length;
  const shortest = Math.floor((60 * rate) / tempo[1]);
  const longest = Math.ceil((60 * rate) / tempo[0]);
  const lengths = longest - shortest + 1;
  if (count < 2 * longest || lengths < 1) return { at: [], score: -Infinity };
  const [on, off] = sums(activation);
  const best = new Float64Array(count * lengths);
  const from = new Int16Array(count * lengths);
  const prior = Float64Array.from({ length: lengths }, (_, k) => {
    const octaves = log((60 * rate) / (shortest + k) / USUAL_TEMPO) / log(2);
    return (-PRIOR_WEIGHT * octaves * octaves) / (2 * TEMPO_SPREAD * TEMPO_SPREAD);
  });
  const reach = Math.max(2, Math.ceil(longest * 0.06));
  const change = Float64Array.from({ length: lengths * (2 * reach + 1) }, (_, i) => {
    const k = Math.floor(i / (2 * reach + 1));
    const other = k + (i % (2 * reach + 1)) - reach;
    if (other < 0 || other >= lengths) return -Infinity;
    return -STEADINESS * Math.abs((shortest + other) / (shortest + k) - 1);
  });
  /** Score of a beat that begins at an instant and is so long. */
  const beat = (at: number, length: number): number => {
    const wide = Math.max(1, Math.round(length * ON_BEAT));
    // The window lies about the beat, half of it before.
    const start = Math.max(0, at - (wide >> 1));
    const edge = start + wide;
    const end = Math.min(count, at - (wide >> 1) + length);
    return on[edge] - on[start] + (off[Math.max(edge, end)] - off[edge]);
  };
  const arriving = new Float64Array(lengths);
  for (let t = 0; t + 1 < count; t++) {
    for (let k = 0; k < lengths; k++) {
      const before = t - (shortest + k);
      arriving[k] = before < 0 ? -Infinity : best[before * lengths + k] + beat(before, shortest + k);
    }
    for (let k = 0; k < lengths; k++) {
      // The first beat may be anywhere in the first length; what lies before it costs as no beat.
      let [most, which] = [t < shortest + k ? off[t] : -Infinity, -1];
      const row = k * (2 * reach + 1) + reach - k;
      for (let other = Math.max(0, k - reach); other <= Math.min(lengths - 1, k + reach); other++) {
        const total = arriving[other] + change[row + other];
        if (total > most) [most, which] = [total, other];
      }
      best[t * lengths + k] = most + prior[k];
      from[t * lengths + k] = which;
    }
  }
  return backtrack(best, from, { count, lengths, shortest, longest }, beat);
}

interface Grid {
  count: number;
  lengths: number;
  shortest: number;
  longest: number;
}

function backtrack(
  best: Float64Array,
  from: Int16Array,
  { count, lengths, shortest, longest }: Grid,
  beat: (at: number, length: number) => number,
): TrackedBeats {
  let [end, score] = [-1, -Infinity];
  for (let t = Math.max(0, count - longest); t + 1 < count; t++)
    for (let k = 0; k < lengths; k++) {
      // The last beat goes on beyond the end.
      if (t + shortest + k < count) continue;
      const total = best[t * lengths + k] + beat(t, shortest + k);
      if (total > score) [end, score] = [t * lengths + k, total];
    }
  if (end < 0) return { at: [], score: -Infinity };
  const at: number[] = [];
  for (let here = end; ;) {
    const t = Math.floor(here / lengths);
    at.push(t);
    const k = from[here];
    if (k < 0) break;
    here = (t - (shortest + k)) * lengths + k;
  }
  at.reverse();
  return { at, score: score / at.length };
}

/** Running sums of the log likelihoods of being on a beat and of not being on one. */
function sums(activation: Float32Array): [Float64Array, Float64Array] {
  const on = new Float64Array(activation.length + 1);
  const off = new Float64Array(activation.length + 1);
  for (let i = 0; i < activation.length; i++) {
    const a = Math.min(1 - LEAST, Math.max(LEAST, activation[i]));
    on[i + 1] = on[i] + log(a);
    off[i + 1] = off[i] + log((1 - a) / (1 / ON_BEAT - 1));
  }
  return [on, off];
}
