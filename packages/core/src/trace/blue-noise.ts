import { exp, pow } from '../maths/index.ts';
/** Edge of the mask, pixels. */
export const BLUE_SIZE = 64;
const SIGMA = 1.9;
const REACH = 7;

let made: Uint16Array | null = null;

/**
 * A square of ranks 0..4095 without low frequencies, by void and cluster (Ulichney 1993); it tiles. Always the same.
 */
export function blueNoise(): Uint16Array {
  return (made ??= voidAndCluster());
}

function voidAndCluster(): Uint16Array {
  const n = BLUE_SIZE;
  const count = n * n;
  const set = new Uint8Array(count);
  const energy = new Float64Array(count);
  const weights = Array.from({ length: REACH * 2 + 1 }, (_, j) =>
    Array.from({ length: REACH * 2 + 1 }, (_, i) =>
      exp(-(pow(i - REACH, 2) + pow(j - REACH, 2)) / (2 * SIGMA * SIGMA)),
    ),
  );
  const put = (p: number, on: boolean): void => {
    set[p] = on ? 1 : 0;
    const [x, y] = [p % n, Math.floor(p / n)];
    for (let j = -REACH; j <= REACH; j++) {
      const row = ((y + j + n) % n) * n;
      for (let i = -REACH; i <= REACH; i++) {
        energy[row + ((x + i + n) % n)] += (on ? 1 : -1) * weights[j + REACH][i + REACH];
      }
    }
  };
  const extreme = (on: number, sign: number): number => {
    let best = -1;
    for (let p = 0; p < count; p++) {
      if (set[p] === on && (best < 0 || sign * energy[p] > sign * energy[best])) best = p;
    }
    return best;
  };
  // A first tenth of points, spread by a fixed generator, then evened out: the tightest moves to the largest gap.
  let state = 1;
  const ones = count / 10;
  for (let i = 0; i < ones;) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    const p = (state >>> 8) % count;
    if (set[p]) continue;
    put(p, true);
    i++;
  }
  for (;;) {
    const tight = extreme(1, 1);
    put(tight, false);
    const gap = extreme(0, -1);
    put(gap, true);
    if (gap === tight) break;
  }
  const rank = new Uint16Array(count);
  const kept = set.slice();
  const first = Math.round(set.reduce((s, v) => s + v, 0));
  for (let r = first - 1; r >= 0; r--) {
    const tight = extreme(1, 1);
    rank[tight] = r;
    put(tight, false);
  }
  kept.forEach((on, p) => on && put(p, true));
  for (let r = first; r < count; r++) {
    const gap = extreme(0, -1);
    rank[gap] = r;
    put(gap, true);
  }
  return rank;
}

/** The mask twice over, from two places far apart, as the kernel adds it to pairs of sample points: 0..1, f32. */
export function blueNoisePairs(): Float32Array {
  const ranks = blueNoise();
  const count = ranks.length;
  const pairs = new Float32Array(count * 2);
  for (let y = 0; y < BLUE_SIZE; y++)
    for (let x = 0; x < BLUE_SIZE; x++) {
      const other = ((y + 29) % BLUE_SIZE) * BLUE_SIZE + ((x + 23) % BLUE_SIZE);
      pairs.set([ranks[y * BLUE_SIZE + x] / count, ranks[other] / count], (y * BLUE_SIZE + x) * 2);
    }
  return pairs;
}
