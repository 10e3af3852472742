/** Owen-scrambled Sobol pairs, the same numbers as core's trace/sampler.ts (Burley 2020). */
const TO_UNIT: f64 = 1.0 / 4294967296.0;

@unmanaged
export class Sampler {
  u: f64;
  v: f64;
  base: u32;
  sample: u32;
  dimension: u32;
  seed: u32;

  start(pixel: u32, index: u32): void {
    this.base = hash(pixel ^ hash(this.seed));
    this.sample = index;
    this.dimension = 0;
  }

  next(): void {
    const key = hash(this.base + this.dimension++ * 0x9e3779b9);
    const index = scramble(this.sample, key);
    this.u = <f64>scramble(reverse(index), hash(key ^ 0x68bc21eb)) * TO_UNIT;
    this.v = <f64>scramble(secondDimension(index), hash(key ^ 0x02e5be93)) * TO_UNIT;
  }
}

// @ts-ignore: decorator
@inline
function hash(v: u32): u32 {
  let x = v;
  x ^= x >> 16;
  x *= 0x21f0aaad;
  x ^= x >> 15;
  x *= 0x735a2d97;
  return x ^ (x >> 15);
}

// @ts-ignore: decorator
@inline
function reverse(v: u32): u32 {
  let x = v;
  x = ((x >> 1) & 0x55555555) | ((x & 0x55555555) << 1);
  x = ((x >> 2) & 0x33333333) | ((x & 0x33333333) << 2);
  x = ((x >> 4) & 0x0f0f0f0f) | ((x & 0x0f0f0f0f) << 4);
  x = ((x >> 8) & 0x00ff00ff) | ((x & 0x00ff00ff) << 8);
  return (x >> 16) | (x << 16);
}

/** Laine-Karras permutation of a bit-reversed number. */
// @ts-ignore: decorator
@inline
function permute(v: u32, seed: u32): u32 {
  let x = v + seed;
  x ^= x * 0x6c50b47c;
  x ^= x * 0xb82f1e52;
  x ^= x * 0xc7afe638;
  x ^= x * 0x8d22f6e6;
  return x;
}

// @ts-ignore: decorator
@inline
function scramble(x: u32, seed: u32): u32 {
  return reverse(permute(reverse(x), seed));
}

/** The second Sobol dimension: Pascal's triangle modulo two, by five folds; core's sampler explains it. */
function secondDimension(index: u32): u32 {
  let x = index;
  x ^= (x >> 1) & 0x55555555;
  x ^= (x >> 2) & 0x33333333;
  x ^= (x >> 4) & 0x0f0f0f0f;
  x ^= (x >> 8) & 0x00ff00ff;
  x ^= (x >> 16) & 0x0000ffff;
  return reverse(x);
}
