/** Plates made half as large, twice as large and smoothed: what wide blurs are made of. Four floats a pixel, 16 bytes. */

// @ts-ignore: decorator
@inline
function pixel(row: usize, x: i32): v128 {
  return v128.load(row + ((<usize>x) << 4));
}

/** A plate of half the size, rounded up: each pixel the mean of four; the last row and column go on beyond the edge. */
export function halve(from: usize, width: i32, height: i32, to: usize): void {
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  const quarter = f32x4.splat(0.25);
  for (let y = 0; y < h; y++) {
    const top = from + ((<usize>(2 * y * width)) << 4);
    const low = 2 * y + 1 < height ? top + ((<usize>width) << 4) : top;
    const out = to + ((<usize>(y * w)) << 4);
    for (let x = 0; x < w; x++) {
      const a = 2 * x;
      const b = min(width - 1, a + 1);
      const sum = f32x4.add(f32x4.add(pixel(top, a), pixel(top, b)), f32x4.add(pixel(low, a), pixel(low, b)));
      v128.store(out + ((<usize>x) << 4), f32x4.mul(sum, quarter));
    }
  }
}

/** Six numbers by the weights that the quadratic B-spline gives to them about the middle between the third and the fourth. */
// @ts-ignore: decorator
@inline
function six(a: v128, b: v128, c: v128, d: v128, e: v128, f: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(f32x4.add(c, d), f32x4.splat(0.34375)), f32x4.mul(f32x4.add(b, e), f32x4.splat(0.140625))),
    f32x4.mul(f32x4.add(a, f), f32x4.splat(0.015625)),
  );
}

/**
 * A plate of half the size, rounded up, by what widen() does the other way: a point goes where it lies, whichever pixels share it.
 * @param row room for a row of the larger one.
 */
export function shrink(from: usize, width: i32, height: i32, to: usize, row: usize): void {
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  const stride = (<usize>width) << 4;
  const low = height - 1;
  const right = width - 1;
  for (let y = 0; y < h; y++) {
    const r0 = from + <usize>max(0, 2 * y - 2) * stride;
    const r1 = from + <usize>max(0, 2 * y - 1) * stride;
    const r2 = from + <usize>(2 * y) * stride;
    const r3 = from + <usize>min(low, 2 * y + 1) * stride;
    const r4 = from + <usize>min(low, 2 * y + 2) * stride;
    const r5 = from + <usize>min(low, 2 * y + 3) * stride;
    for (let x: usize = 0; x < stride; x += 16) {
      const top = v128.load(r0 + x);
      const sum = six(
        top,
        v128.load(r1 + x),
        v128.load(r2 + x),
        v128.load(r3 + x),
        v128.load(r4 + x),
        v128.load(r5 + x),
      );
      v128.store(row + x, sum);
    }
    const out = to + ((<usize>(y * w)) << 4);
    for (let x = 0; x < w; x++) {
      const i = 2 * x;
      const sum = six(
        pixel(row, max(0, i - 2)),
        pixel(row, max(0, i - 1)),
        pixel(row, i),
        pixel(row, min(right, i + 1)),
        pixel(row, min(right, i + 2)),
        pixel(row, min(right, i + 3)),
      );
      v128.store(out + ((<usize>x) << 4), sum);
    }
  }
}

/** The quadratic B-spline at a quarter of a pixel from the middle one: that one, the nearer and the farther neighbour. */
const MIDDLE: f32 = 0.6875;
const NEAR: f32 = 0.28125;
const FAR: f32 = 0.03125;

/**
 * A plate of twice the size, `width` x `height`, by the quadratic B-spline: as smooth everywhere, wherever a pixel falls.
 * @param row room for a row of the smaller one.
 */
export function widen(from: usize, width: i32, height: i32, to: usize, row: usize): void {
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  const middle = f32x4.splat(MIDDLE);
  const near = f32x4.splat(NEAR);
  const far = f32x4.splat(FAR);
  for (let y = 0; y < height; y++) {
    const j = y >> 1;
    const first = max(0, j - 1);
    const last = min(h - 1, j + 1);
    const here = from + ((<usize>(j * w)) << 4);
    const close = from + ((<usize>((y & 1 ? last : first) * w)) << 4);
    const away = from + ((<usize>((y & 1 ? first : last) * w)) << 4);
    for (let x = 0; x < w; x++) {
      const sum = f32x4.add(f32x4.mul(pixel(here, x), middle), f32x4.mul(pixel(close, x), near));
      v128.store(row + ((<usize>x) << 4), f32x4.add(sum, f32x4.mul(pixel(away, x), far)));
    }
    const out = to + ((<usize>(y * width)) << 4);
    let before = pixel(row, 0);
    let now = before;
    for (let x = 0; x < w; x++) {
      const after = pixel(row, min(w - 1, x + 1));
      const own = f32x4.mul(now, middle);
      const left = f32x4.add(f32x4.mul(before, near), f32x4.mul(after, far));
      v128.store(out + ((<usize>x) << 5), f32x4.add(own, left));
      if (2 * x + 1 < width) {
        const right = f32x4.add(f32x4.mul(before, far), f32x4.mul(after, near));
        v128.store(out + ((<usize>x) << 5) + 16, f32x4.add(own, right));
      }
      before = now;
      now = after;
    }
  }
}

/**
 * Smooths a plate by weights that are the same to both sides, first across, then down; its outermost pixels go on beyond the edge.
 * @param weights `reach` + 1 floats, the middle first. @param middle room for the plate. @param row room for a row and twice the reach.
 * @param to where it goes, times `gain`; it may be `from`. @param add 1: on top of what is there.
 */
export function smooth(
  from: usize,
  width: i32,
  height: i32,
  weights: usize,
  reach: i32,
  middle: usize,
  row: usize,
  to: usize,
  gain: f32,
  add: i32,
): void {
  const stride = (<usize>width) << 4;
  for (let y = 0; y < height; y++) {
    const line = from + <usize>y * stride;
    const out = middle + <usize>y * stride;
    const first = pixel(line, 0);
    const last = pixel(line, width - 1);
    for (let i = 0; i < reach; i++) {
      v128.store(row + ((<usize>i) << 4), first);
      v128.store(row + ((<usize>(reach + width + i)) << 4), last);
    }
    const start = row + ((<usize>reach) << 4);
    memory.copy(start, line, stride);
    for (let x = 0; x < width; x++) {
      const at = start + ((<usize>x) << 4);
      let sum = f32x4.mul(v128.load(at), v128.load32_splat(weights));
      for (let k = 1; k <= reach; k++) {
        const far = (<usize>k) << 4;
        const pair = f32x4.add(v128.load(at - far), v128.load(at + far));
        sum = f32x4.add(sum, f32x4.mul(pair, v128.load32_splat(weights + ((<usize>k) << 2))));
      }
      v128.store(out + ((<usize>x) << 4), sum);
    }
  }
  const scale = f32x4.splat(gain);
  for (let y = 0; y < height; y++) {
    const out = to + <usize>y * stride;
    const own = middle + <usize>y * stride;
    for (let x: usize = 0; x < stride; x += 16) {
      let sum = f32x4.mul(v128.load(own + x), v128.load32_splat(weights));
      for (let k = 1; k <= reach; k++) {
        const up = middle + <usize>max(0, y - k) * stride;
        const down = middle + <usize>min(height - 1, y + k) * stride;
        const pair = f32x4.add(v128.load(up + x), v128.load(down + x));
        sum = f32x4.add(sum, f32x4.mul(pair, v128.load32_splat(weights + ((<usize>k) << 2))));
      }
      sum = f32x4.mul(sum, scale);
      v128.store(out + x, add ? f32x4.add(v128.load(out + x), sum) : sum);
    }
  }
}
