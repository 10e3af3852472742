import type { Onsets } from './onsets.ts';

/** Beats a minute over which a slower level is taken for the beat, where every other found beat is weak. */
const QUICK = 126;
/** Share of the stronger beats' strength under which the others are weak. */
const WEAK = 0.45;
/** Share of the beats' activity under which nothing happens between them. */
const EMPTY = 0.08;
/** Over the first, every other weak beat is enough by itself; over the second nobody counts every beat. */
const [VERY_QUICK, TOO_QUICK] = [167, 184];

/**
 * Every other beat, where what was found is a division of the beat: strong and weak ones alternate, and nothing goes on
 * between them. Hats at twice the pace of drums look like beats to a tracker, and to people like divisions.
 */
export function rightLevel(at: readonly number[], onsets: Onsets, activity: Float32Array): number[] {
  if (at.length < 16) return [...at];
  const tempo = (60 * onsets.rate * (at.length - 1)) / (at[at.length - 1] - at[0]);
  if (tempo < QUICK) return [...at];
  const strengths = at.map((t) => peakNear(onsets.low, t) + 1.5 * peakNear(onsets.middle, t));
  // Parities are compared in stretches, so that one lost beat does not mix them up for good.
  const [even, odd] = [0, 1].map((parity) => meanOf(strengths.filter((_, i) => i % 2 === parity)));
  const weak = Math.min(even, odd) / Math.max(1e-9, even, odd);
  const stronger = at.filter((_, i) => i % 2 === strongerParity(at, onsets));
  if (tempo > TOO_QUICK) return stronger;
  if (weak > WEAK) return [...at];
  const between = at.slice(1).map((t, i) => peakNear(activity, (t + at[i]) / 2));
  const on = at.map((t) => peakNear(activity, t));
  const empty = meanOf(between) < EMPTY * meanOf(on);
  if (!empty && tempo < VERY_QUICK) return [...at];
  return stronger;
}

/**
 * Which of the two sets of every other instant carries the beat, by the registers together: drums with noise and plucked notes
 * tell more than kicks, which like to come between beats.
 */
function strongerParity(at: readonly number[], { low, middle, high }: Onsets): 0 | 1 {
  const share = (values: Float32Array): number => {
    const [even, odd] = [0, 1].map((parity) =>
      meanOf(at.filter((_, i) => i % 2 === parity).map((t) => peakNear(values, t))),
    );
    return Math.max(1e-9, even) / Math.max(1e-9, odd);
  };
  return share(middle) * Math.sqrt(share(high) * share(low)) >= 1 ? 0 : 1;
}

const meanOf = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((sum, v) => sum + v, 0) / values.length;

function peakNear(values: Float32Array, at: number): number {
  let most = 0;
  for (let i = Math.max(0, Math.floor(at) - 3); i <= Math.min(values.length - 1, Math.ceil(at) + 3); i++)
    most = Math.max(most, values[i]);
  return most;
}
