import { FEATURES, fit, GROUP, LISTED, OF_ALBEDO, SOLUTION, WHERE } from './denoise-fit';

/**
 * First-order regression with non-local weights (Bitterli et al. 2016, "Nonlinearly weighted first-order regression"): round
 * each pixel a linear model of light over features is fitted to those pixels whose little neighbourhood has the same light up
 * to its noise (distances as in Rousselle et al. 2012), and read where the pixel's own features are. The fit is over features
 * as the light's own samples saw them, which its noise goes along with; the reading is at the features of all samples: what
 * print and edges do within a pixel is known as well as those are.
 *
 * The reading is a weighted mean of the light around, whatever light that is: one set of weights serves all passes.
 * All planes are f32 with a border of `border` pixels on every side, so that no look leaves them.
 */
@unmanaged
export class Filter {
  /** Pixels in a row of a plane, border included, and the border. */
  stride: i32;
  border: i32;
  width: i32;
  height: i32;
  /** Where the pixels lie that are looked at, in pixels right and down (pairs of i32), and how many. */
  offsets: usize;
  offsetCount: i32;
  /** Reach of the neighbourhoods compared. */
  patch: i32;
  /** Luminance that is compared, its variance, and how many standard deviations count as the same. */
  light: usize;
  variance: usize;
  tolerance: f32;
  /** FEATURES planes each: as the light's samples saw them, and of all samples. */
  paired: usize;
  features: usize;
  /** How much less a pixel counts by the square of its features' distance. */
  fall: f32;
  /** Ridge of the fit, of the weights' sum. */
  ridge: f32;
  /** Planes to be filtered, one after the other, and where they go (same layout). */
  input: usize;
  output: usize;
  channels: i32;
  /** Variance of the compared light as it would come out, at `outVariance`; 0 leaves it out. */
  outVariance: usize;
}

/** Differences of albedo below which a surface has one colour: then nothing is fitted to it. */
const ONE_COLOUR: f32 = 0.0001;
/** A pixel itself and those beside it never count less, and no less than BESIDE by their light: there is always something to fit. */
const LEAST: f32 = 0.001;
const BESIDE: f32 = 0.03;
/** Room to filter a band in: a group of pixels and what counts round it; distances, their sums, weights of every offset. */
export function bandBytes(stride: i32, rows: i32, patch: i32, offsets: i32, channels: i32): usize {
  return (
    <usize>stride * <usize>(1 + rows + 2 * patch + rows * offsets) * 4 +
    GROUP +
    <usize>(channels << 5) +
    <usize>offsets * LISTED +
    64
  );
}

// @ts-ignore: decorator
@inline
function row(plane: usize, y: i32, stride: i32, x: i32): usize {
  return plane + ((<usize>(y * stride + x)) << 2);
}

/** Filters rows y0 <= y < y1. */
export function filterBand(f: Filter, y0: i32, y1: i32, scratch: usize): void {
  const group = (scratch + 15) & ~15;
  const list = group + GROUP + <usize>(f.channels << 5);
  const distances = list + <usize>f.offsetCount * LISTED;
  const sums = distances + ((<usize>f.stride) << 2);
  const weights = sums + ((<usize>f.stride * <usize>(y1 - y0 + 2 * f.patch)) << 2);
  for (let n = 0; n < f.offsetCount; n++) weigh(f, y0, y1, n, distances, sums, weights);
  for (let y = y0; y < y1; y++) {
    for (let x = 0; x < f.width; x += 4) {
      const own = weights + ((<usize>((y - y0) * f.stride + x)) << 2);
      const place = row(0, y + f.border, f.stride, f.border + x);
      const found = gather(f, place, own, (<usize>f.stride * <usize>(y1 - y0)) << 2, list);
      const count = <i32>found;
      // What of the features is fitted to: all, or those behind albedo.
      const first = found >> 32 != 0 ? 0 : OF_ALBEDO;
      fit(list, count, group, first, f.ridge);
      read(f, place, list, count, group, first);
    }
  }
}

// @ts-ignore: decorator
@inline
function shiftOf(f: Filter, n: i32): usize {
  const dx = load<i32>(f.offsets + ((<usize>n) << 3));
  const dy = load<i32>(f.offsets + ((<usize>n) << 3), 4);
  return (<usize>(dy * f.stride + dx)) << 2;
}

// @ts-ignore: decorator
@inline
function planeBytes(f: Filter): usize {
  return (<usize>f.stride * <usize>(f.height + 2 * f.border)) << 2;
}

// @ts-ignore: decorator
@inline
function isBeside(f: Filter, n: i32): bool {
  const dx = load<i32>(f.offsets + ((<usize>n) << 3));
  const dy = load<i32>(f.offsets + ((<usize>n) << 3), 4);
  return dx * dx <= 1 && dy * dy <= 1;
}

/** (1 - x / 8) to the 8th: falls like e to the -x and ends. */
// @ts-ignore: decorator
@inline
function falling(x: v128): v128 {
  let w = f32x4.pmax(f32x4.splat(0), f32x4.sub(f32x4.splat(1), f32x4.mul(x, f32x4.splat(0.125))));
  w = f32x4.mul(w, w);
  w = f32x4.mul(w, w);
  return f32x4.mul(w, w);
}

/** Weights of offset `n` for the pixels of a band. */
function weigh(f: Filter, y0: i32, y1: i32, n: i32, distances: usize, sums: usize, weights: usize): void {
  const stride = f.stride;
  const border = f.border;
  const patch = f.patch;
  const width = f.width;
  const plane = planeBytes(f);
  const shift = shiftOf(f, n);
  const k2 = f32x4.splat(f.tolerance * f.tolerance);
  const tiny = f32x4.splat(1e-10);
  const zero = f32x4.splat(0);
  for (let y = y0 - patch; y < y1 + patch; y++) {
    const light = row(f.light, y + border, stride, border - patch);
    const variance = row(f.variance, y + border, stride, border - patch);
    for (let x = 0; x < width + 2 * patch; x += 4) {
      const o = (<usize>x) << 2;
      const vp = v128.load(variance + o);
      const vq = v128.load(variance + o + shift);
      const d = f32x4.sub(v128.load(light + o), v128.load(light + o + shift));
      const own = f32x4.sub(f32x4.mul(d, d), f32x4.add(vp, f32x4.pmin(vp, vq)));
      v128.store(distances + o, f32x4.div(own, f32x4.add(tiny, f32x4.mul(k2, f32x4.add(vp, vq)))));
    }
    const out = sums + ((<usize>((y - y0 + patch) * stride)) << 2);
    for (let x = 0; x < width; x += 4) {
      const o = distances + ((<usize>x) << 2);
      let sum = v128.load(o);
      for (let i = 1; i <= 2 * patch; i++) sum = f32x4.add(sum, v128.load(o + ((<usize>i) << 2)));
      v128.store(out + ((<usize>x) << 2), sum);
    }
  }
  const side = 2 * patch + 1;
  const area = f32x4.splat(<f32>(1.0 / <f64>(side * side)));
  const eight = f32x4.splat(8);
  const near = isBeside(f, n);
  const least = f32x4.splat(near ? LEAST : 0);
  const beside = f32x4.splat(near ? BESIDE : 0);
  const fall = f32x4.splat(f.fall);
  for (let y = y0; y < y1; y++) {
    const added = sums + ((<usize>((y - y0) * stride)) << 2);
    const to = weights + ((<usize>((n * (y1 - y0) + y - y0) * stride)) << 2);
    const place = row(0, y + border, stride, border);
    const mine = f.features + place;
    const theirs = f.paired + place + shift;
    for (let x = 0; x < width; x += 4) {
      const o = (<usize>x) << 2;
      let sum = v128.load(added + o);
      for (let i = 1; i <= 2 * patch; i++) sum = f32x4.add(sum, v128.load(added + o + ((<usize>(i * stride)) << 2)));
      const distance = f32x4.pmax(zero, f32x4.mul(sum, area));
      if (!near && !v128.any_true(f32x4.lt(distance, eight))) {
        v128.store(to + o, least);
        continue;
      }
      let apart = zero;
      for (let k = 0, at = o; k < FEATURES; k++, at += plane) {
        const d = f32x4.sub(v128.load(theirs + at), v128.load(mine + at));
        apart = f32x4.add(apart, f32x4.mul(d, d));
      }
      apart = f32x4.mul(apart, fall);
      let w = falling(f32x4.add(distance, apart));
      if (near) w = f32x4.pmax(w, f32x4.mul(beside, falling(apart)));
      v128.store(to + o, f32x4.pmax(least, w));
    }
  }
}

/**
 * Lists what counts round four pixels: weight, differences of features from the pixels' own, and where it lies.
 * @returns how many, and above 32 bits whether their albedo differs.
 */
function gather(f: Filter, place: usize, own: usize, step: usize, list: usize): i64 {
  const plane = planeBytes(f);
  const mine = f.features + place;
  const theirs = f.paired + place;
  let count = 0;
  let apart = f32x4.splat(0);
  for (let n = 0; n < f.offsetCount; n++) {
    const w = v128.load(own + <usize>n * step);
    if (!v128.any_true(w)) continue;
    const at = list + <usize>count * LISTED;
    count++;
    const shift = shiftOf(f, n);
    v128.store(at, w);
    for (let k: usize = 0, p: usize = 0; k < <usize>FEATURES; k++, p += plane) {
      const d = f32x4.sub(v128.load(theirs + shift + p), v128.load(mine + p));
      v128.store(at + ((k + 1) << 4), d);
      if (k < <usize>OF_ALBEDO) apart = f32x4.pmax(apart, f32x4.abs(d));
    }
    store<usize>(at + WHERE, shift);
  }
  const coloured = <i64>v128.any_true(f32x4.ge(apart, f32x4.splat(ONE_COLOUR)));
  return (coloured << 32) | (<i64>count);
}

/** Reads four pixels' models: a mean of what lies around by weights that add up to one, though some may be negative. */
function read(f: Filter, place: usize, list: usize, count: i32, group: usize, first: i32): void {
  const plane = planeBytes(f);
  const solution = group + SOLUTION;
  const zero = f32x4.splat(0);
  const low = group + GROUP;
  const high = low + <usize>(f.channels << 4);
  for (let c = 0; c < f.channels; c++) {
    v128.store(f.output + <usize>c * plane + place, zero);
    v128.store(low + <usize>(c << 4), f32x4.splat(Infinity));
    v128.store(high + <usize>(c << 4), f32x4.splat(-Infinity));
  }
  const skipped = <usize>(first << 4);
  const last = <usize>((FEATURES - first) << 4);
  let total = zero;
  let squares = zero;
  for (let n = 0, p = list; n < count; n++, p += LISTED) {
    const w = v128.load(p);
    let share = v128.load(solution);
    for (let k: usize = 16; k <= last; k += 16) {
      share = f32x4.add(share, f32x4.mul(v128.load(p + skipped + k), v128.load(solution + k)));
    }
    share = f32x4.mul(share, w);
    const shift = load<usize>(p + WHERE);
    total = f32x4.add(total, w);
    squares = f32x4.add(squares, f32x4.mul(f32x4.mul(w, w), v128.load(f.variance + place + shift)));
    let from = f.input + place + shift;
    let to = f.output + place;
    const counts = f32x4.gt(w, zero);
    for (let c = 0; c < f.channels; c++, from += plane, to += plane) {
      const value = v128.load(from);
      const at = <usize>(c << 4);
      v128.store(to, f32x4.add(v128.load(to), f32x4.mul(share, value)));
      v128.store(low + at, v128.bitselect(f32x4.pmin(v128.load(low + at), value), v128.load(low + at), counts));
      v128.store(high + at, v128.bitselect(f32x4.pmax(v128.load(high + at), value), v128.load(high + at), counts));
    }
  }
  // Nothing is brighter or darker than all that it was made of: where features lie beyond those around, a model may go astray.
  for (let c = 0; c < f.channels; c++) {
    const to = f.output + <usize>c * plane + place;
    const at = <usize>(c << 4);
    v128.store(to, f32x4.pmax(v128.load(low + at), f32x4.pmin(v128.load(high + at), v128.load(to))));
  }
  if (f.outVariance != 0) v128.store(f.outVariance + place, f32x4.div(squares, f32x4.mul(total, total)));
}
