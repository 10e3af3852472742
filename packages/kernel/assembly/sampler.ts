/**
 * Sample points of a path: Owen-scrambled Sobol pairs (Burley 2020), the same sequence in every pixel, shifted round by
 * a blue-noise mask (Georgiev and Fajardo 2016), so that what noise is left has no low frequencies to see. All pairs of
 * a picture are made once, at its beginning; a path only looks them up.
 */
const TO_UNIT: f64 = 1.0 / 4294967296.0;
/** Pairs of one sample in the table; a longer path goes on with hashed pairs. */
export const PAIRS: i32 = 96;
/** Cells of the blue-noise mask along each side, BLUE_SIZE of core's blue-noise.ts: pairs of f32. */
const BLUE_SIZE: i32 = 64;


@unmanaged
export class Sampler {
  u: f64;
  v: f64;
  points: usize;
  blue: usize;
  x: i32;
  y: i32;
  dimension: i32;
  sample: i32;
  /** Number of the sample in the table's first row. */
  first: i32;
  seed: u32;

  /** @param row of the sample in the table; its number is that plus the job's first. */
  // @ts-ignore: decorator
  @inline
  start(x: i32, y: i32, row: i32): void {
    this.x = x;
    this.y = y;
    this.sample = row;
    this.dimension = 0;
  }

  next(): void {
    const d = this.dimension++;
    if (d >= PAIRS) {
      const h = hash(
        hash(this.seed ^ (<u32>(this.x * 7919 + this.y * 104729))) ^ hash(<u32>((this.first + this.sample) * 613 + d)),
      );
      this.u = <f64>h * TO_UNIT;
      this.v = <f64>hash(h ^ 0x2c1b3c6d) * TO_UNIT;
      return;
    }
    const p = this.points + ((<usize>(this.sample * PAIRS + d)) << 3);
    // Each dimension looks at the mask from elsewhere (steps of the plastic number), or they would move together.
    const ox = this.x + d * 48 + ((d * 5) >> 2);
    const oy = this.y + d * 36 + d;
    const shift = v128.load64_zero(
      this.blue + ((<usize>(((oy & (BLUE_SIZE - 1)) * BLUE_SIZE) | (ox & (BLUE_SIZE - 1)))) << 3),
    );
    const sum = f32x4.add(v128.load64_zero(p), shift);
    // Half of them go round: no branch could be foretold.
    v128.store(
      changetype<usize>(this) + offsetof<Sampler>('u'),
      f64x2.promote_low_f32x4(f32x4.sub(sum, f32x4.floor(sum))),
    );
  }
}

/** Fills the table for samples `first` to `first + count`. */
export function makePoints(out: usize, first: i32, count: i32, seed: u32): void {
  for (let d = 0; d < PAIRS; d++) {
    const key = hash(hash(seed) + <u32>d * 0x9e3779b9);
    const keyU = hash(key ^ 0x68bc21eb);
    const keyV = hash(key ^ 0x02e5be93);
    for (let i = 0; i < count; i++) {
      const p = permute(reverse(<u32>(first + i)), key);
      const index = reverse(p);
      const u = reverse(permute(index, keyU));
      const v = reverse(permute(fold(index), keyV));
      const at = out + ((<usize>(i * PAIRS + d)) << 3);
      store<f32>(at, <f32>(<f64>(u >> 8) * (1.0 / 16777216.0)));
      store<f32>(at, <f32>(<f64>(v >> 8) * (1.0 / 16777216.0)), 4);
    }
  }
}

export function hash(v: u32): u32 {
  let x = v;
  x ^= x >> 16;
  x *= 0x21f0aaad;
  x ^= x >> 15;
  x *= 0x735a2d97;
  return x ^ (x >> 15);
}

function reverse(v: u32): u32 {
  let x = v;
  x = ((x >> 1) & 0x55555555) | ((x & 0x55555555) << 1);
  x = ((x >> 2) & 0x33333333) | ((x & 0x33333333) << 2);
  x = ((x >> 4) & 0x0f0f0f0f) | ((x & 0x0f0f0f0f) << 4);
  x = ((x >> 8) & 0x00ff00ff) | ((x & 0x00ff00ff) << 8);
  return (x >> 16) | (x << 16);
}

/** Laine-Karras permutation of a bit-reversed number. */
function permute(v: u32, seed: u32): u32 {
  let x = v + seed;
  x ^= x * 0x6c50b47c;
  x ^= x * 0xb82f1e52;
  x ^= x * 0xc7afe638;
  x ^= x * 0x8d22f6e6;
  return x;
}

/** The second Sobol dimension, bit-reversed: Pascal's triangle modulo two, by five folds. */
function fold(index: u32): u32 {
  let x = index;
  x ^= (x >> 1) & 0x55555555;
  x ^= (x >> 2) & 0x33333333;
  x ^= (x >> 4) & 0x0f0f0f0f;
  x ^= (x >> 8) & 0x00ff00ff;
  x ^= (x >> 16) & 0x0000ffff;
  return x;
}
