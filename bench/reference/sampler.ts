/**
 * Owen-scrambled Sobol points, two dimensions at a time, padded: every pair of dimensions uses the first two Sobol
 * dimensions with its own scramble and shuffle (Burley 2020, "Practical Hash-based Owen Scrambling").
 */
export interface Sampler {
  /** Starts sample `index` of pixel `pixel`. */
  start(pixel: number, index: number): void;
  /** Draws the next pair into `u` and `v`. */
  next(): void;
  u: number;
  v: number;
}

const TO_UNIT = 1 / 4294967296;

function hash(x: number): number {
  x ^= x >>> 16;
  x = Math.imul(x, 0x21f0aaad);
  x ^= x >>> 15;
  x = Math.imul(x, 0x735a2d97);
  return (x ^ (x >>> 15)) >>> 0;
}

function reverseBits(x: number): number {
  x = ((x >>> 1) & 0x55555555) | ((x & 0x55555555) << 1);
  x = ((x >>> 2) & 0x33333333) | ((x & 0x33333333) << 2);
  x = ((x >>> 4) & 0x0f0f0f0f) | ((x & 0x0f0f0f0f) << 4);
  x = ((x >>> 8) & 0x00ff00ff) | ((x & 0x00ff00ff) << 8);
  return ((x >>> 16) | (x << 16)) >>> 0;
}

/** Laine-Karras permutation: Owen scrambling of a bit-reversed number. */
function permute(x: number, seed: number): number {
  x = (x + seed) | 0;
  x ^= Math.imul(x, 0x6c50b47c);
  x ^= Math.imul(x, 0xb82f1e52);
  x ^= Math.imul(x, 0xc7afe638);
  x ^= Math.imul(x, 0x8d22f6e6);
  return x >>> 0;
}

function scramble(x: number, seed: number): number {
  return reverseBits(permute(reverseBits(x), seed));
}

/** The unscrambled first two Sobol dimensions of `index` as 32-bit integers. */
export function sobol2(index: number): [number, number] {
  return [reverseBits(index), secondDimension(index)];
}

/**
 * The second dimension's generator matrix is Pascal's triangle modulo two: bit i of the result is the parity of all bits
 * of `index` whose number contains i. Five folds, one for each bit of the numbers, give all 32 parities at once.
 */
function secondDimension(index: number): number {
  let x = index;
  x ^= (x >>> 1) & 0x55555555;
  x ^= (x >>> 2) & 0x33333333;
  x ^= (x >>> 4) & 0x0f0f0f0f;
  x ^= (x >>> 8) & 0x00ff00ff;
  x ^= (x >>> 16) & 0x0000ffff;
  return reverseBits(x);
}

/** @param seed differs between frames, so that noise does not stand still. */
export function makeSampler(seed: number): Sampler {
  let base = 0;
  let sample = 0;
  let dimension = 0;
  return {
    u: 0,
    v: 0,
    start(pixel, index) {
      base = hash(pixel ^ hash(seed));
      sample = index;
      dimension = 0;
    },
    next() {
      const key = hash(base + Math.imul(dimension++, 0x9e3779b9));
      const index = scramble(sample, key);
      this.u = scramble(reverseBits(index), hash(key ^ 0x68bc21eb)) * TO_UNIT;
      this.v = scramble(secondDimension(index), hash(key ^ 0x02e5be93)) * TO_UNIT;
    },
  };
}
