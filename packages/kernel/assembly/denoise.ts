/**
 * Non-local means with feature guides (Buades 2005; variance-aware distances as in Rousselle et al. 2012): a pixel becomes
 * the weighted mean of those around it whose little neighbourhood has the same light, up to its noise, and whose surface
 * is alike. All planes are f32 with a border of `border` pixels on every side, so that no look leaves them.
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
  /** Planes of features, scaled so that a difference of 1 matters; and the least weight's reach. */
  features: usize;
  featureCount: i32;
  /** What each pixel's differences in features count: less where features change fast, as over an edge. */
  ease: usize;
  /** Planes to be filtered, one after the other, and where they go (same layout). */
  input: usize;
  output: usize;
  channels: i32;
  /** Variance of what comes out, at `outVariance`; 0 leaves it out. */
  outVariance: usize;
}

/** Rows kept while a band is filtered: distances, weights' sum, variance sum. */
export function bandBytes(stride: i32, rows: i32, patch: i32): usize {
  return <usize>stride * <usize>(rows + 2 * patch + 2) * 8 + <usize>stride * <usize>rows * 8 + 256;
}

// @ts-ignore: decorator
@inline
function row(plane: usize, y: i32, stride: i32, x: i32): usize {
  return plane + ((<usize>(y * stride + x)) << 2);
}

/** Filters rows y0 <= y < y1. */
export function filterBand(f: Filter, y0: i32, y1: i32, scratch: usize): void {
  const stride = f.stride;
  const border = f.border;
  const patch = f.patch;
  const width = f.width;
  const rows = y1 - y0;
  const plane = (<usize>stride * <usize>(f.height + 2 * border)) << 2;
  const distances = (scratch + 15) & ~15;
  const blurred = distances + ((<usize>stride) << 2);
  const sums = blurred + ((<usize>stride * <usize>(rows + 2 * patch)) << 2);
  const squares = sums + ((<usize>stride * <usize>rows) << 2);
  memory.fill(sums, 0, <usize>stride * <usize>rows * 8);
  for (let c = 0; c < f.channels; c++) {
    for (let y = y0; y < y1; y++)
      memory.fill(row(f.output + <usize>c * plane, y + border, stride, border), 0, (<usize>width) << 2);
  }
  const k2 = f32x4.splat(f.tolerance * f.tolerance);
  const tiny = f32x4.splat(1e-10);
  const side = 2 * patch + 1;
  const area = f32x4.splat(<f32>(1.0 / <f64>(side * side)));
  const zero = f32x4.splat(0);
  const eight = f32x4.splat(8);
  for (let n = 0; n < f.offsetCount; n++) {
    const dx = load<i32>(f.offsets + ((<usize>n) << 3));
    const dy = load<i32>(f.offsets + ((<usize>n) << 3), 4);
    const shift = (<isize>dy * <isize>stride + <isize>dx) << 2;
    for (let y = y0 - patch; y < y1 + patch; y++) {
      const from = border - patch;
      const light = row(f.light, y + border, stride, from);
      const variance = row(f.variance, y + border, stride, from);
      const count = width + 2 * patch;
      for (let x = 0; x < count; x += 4) {
        const o = (<usize>x) << 2;
        const p = v128.load(light + o);
        const q = v128.load(light + o + shift);
        const vp = v128.load(variance + o);
        const vq = v128.load(variance + o + shift);
        const d = f32x4.sub(p, q);
        const own = f32x4.sub(f32x4.mul(d, d), f32x4.add(vp, f32x4.pmin(vp, vq)));
        v128.store(distances + o, f32x4.div(own, f32x4.add(tiny, f32x4.mul(k2, f32x4.add(vp, vq)))));
      }
      const out = blurred + ((<usize>((y - y0 + patch) * stride)) << 2);
      for (let x = 0; x < width; x += 4) {
        const o = distances + ((<usize>x) << 2);
        let sum = v128.load(o);
        for (let i = 1; i <= 2 * patch; i++) sum = f32x4.add(sum, v128.load(o + ((<usize>i) << 2)));
        v128.store(out + ((<usize>x) << 2), sum);
      }
    }
    for (let y = y0; y < y1; y++) {
      const near = blurred + ((<usize>((y - y0) * stride)) << 2);
      const place = row(0, y + border, stride, border);
      const total = sums + ((<usize>((y - y0) * stride)) << 2);
      const square = squares + ((<usize>((y - y0) * stride)) << 2);
      for (let x = 0; x < width; x += 4) {
        const o = (<usize>x) << 2;
        let sum = v128.load(near + o);
        for (let i = 1; i <= 2 * patch; i++) sum = f32x4.add(sum, v128.load(near + o + ((<usize>(i * stride)) << 2)));
        let distance = f32x4.pmax(zero, f32x4.mul(sum, area));
        if (!v128.any_true(f32x4.lt(distance, eight))) continue;
        let feature = zero;
        for (let k = 0; k < f.featureCount; k++) {
          const at = f.features + <usize>k * plane + place + o;
          const d = f32x4.sub(v128.load(at), v128.load(at + shift));
          feature = f32x4.add(feature, f32x4.mul(d, d));
        }
        distance = f32x4.add(distance, f32x4.mul(feature, v128.load(f.ease + place + o)));
        // (1 - x / 8) to the 8th falls like e to the -x and ends.
        let w = f32x4.pmax(zero, f32x4.sub(f32x4.splat(1), f32x4.mul(distance, f32x4.splat(0.125))));
        if (!v128.any_true(w)) continue;
        w = f32x4.mul(w, w);
        w = f32x4.mul(w, w);
        w = f32x4.mul(w, w);
        v128.store(total + o, f32x4.add(v128.load(total + o), w));
        v128.store(
          square + o,
          f32x4.add(v128.load(square + o), f32x4.mul(f32x4.mul(w, w), v128.load(f.variance + place + o + shift))),
        );
        for (let c = 0; c < f.channels; c++) {
          const from = f.input + <usize>c * plane + place + o;
          const to = f.output + <usize>c * plane + place + o;
          v128.store(to, f32x4.add(v128.load(to), f32x4.mul(w, v128.load(from + shift))));
        }
      }
    }
  }
  for (let y = y0; y < y1; y++) {
    const place = row(0, y + border, stride, border);
    for (let x = 0; x < width; x += 4) {
      const o = (<usize>x) << 2;
      const at = (<usize>((y - y0) * stride)) << 2;
      const total = f32x4.pmax(tiny, v128.load(sums + at + o));
      for (let c = 0; c < f.channels; c++) {
        const to = f.output + <usize>c * plane + place + o;
        v128.store(to, f32x4.div(v128.load(to), total));
      }
      if (f.outVariance != 0)
        v128.store(f.outVariance + place + o, f32x4.div(v128.load(squares + at + o), f32x4.mul(total, total)));
    }
  }
}
