/** Pictures read between their pixels. */

// @ts-ignore: decorator
@inline
function load4(row: usize, x: i32, last: i32): v128 {
  return v128.load(row + ((<usize>max(0, min(last, x))) << 4));
}

/** Four neighbours of a row by their weights. */
// @ts-ignore: decorator
@inline
function line(row: usize, i: i32, last: i32, w0: v128, w1: v128, w2: v128, w3: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(load4(row, i - 1, last), w0), f32x4.mul(load4(row, i, last), w1)),
    f32x4.add(f32x4.mul(load4(row, i + 1, last), w2), f32x4.mul(load4(row, i + 2, last), w3)),
  );
}

// @ts-ignore: decorator
@inline
function fours(at: usize, w0: v128, w1: v128, w2: v128, w3: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(v128.load(at), w0), f32x4.mul(v128.load(at, 16), w1)),
    f32x4.add(f32x4.mul(v128.load(at, 32), w2), f32x4.mul(v128.load(at, 48), w3)),
  );
}

/** Steps from a pixel to the next at which weights are known, and their binary logarithm. */
const STEPS: i32 = 1024;
const STEP_BITS: i32 = 10;
/**
 * The weights of the four pixels about a place at each step: Catmull and Rom's, and what the B-spline's are more; and whether they are
 * there.
 */
const WEIGHTS: usize = memory.data(1024 * 32, 16);
const READY: usize = memory.data(4, 4);
/** Weights between the two, of the place that is being read: across, and down. */
const OWN: usize = memory.data(32, 16);
/** What makes the lowest 32 bits of a double the whole number nearest to it, when it is added: 1.5 times 2 to the power of 52. */
const WHOLE: f64 = 6755399441055744;

/** Works weights out, once. Catmull and Rom's are 0, 1, 0, 0 at a pixel; the B-spline's smooth as the mean of two pixels does. */
export function prepare(): void {
  if (load<i32>(READY)) return;
  for (let k = 0; k < STEPS; k++) {
    const t = <f64>k / <f64>STEPS;
    const s = 1 - t;
    const at = WEIGHTS + ((<usize>k) << 5);
    weigh(at, ((-0.5 * t + 1) * t - 0.5) * t, (s * s * s) / 6);
    weigh(at + 4, (1.5 * t - 2.5) * t * t + 1, 2.0 / 3 - t * t * (1 - 0.5 * t));
    weigh(at + 8, ((-1.5 * t + 2) * t + 0.5) * t, 2.0 / 3 - s * s * (1 - 0.5 * s));
    weigh(at + 12, (0.5 * t - 0.5) * t * t, (t * t * t) / 6);
  }
  store<i32>(READY, 1);
}

function weigh(at: usize, sharp: f64, smooth: f64): void {
  store<f32>(at, <f32>sharp);
  store<f32>(at, <f32>(smooth - sharp), 16);
}

/** Where the weights of a place lie that is so many steps along: Catmull and Rom's. */
// @ts-ignore: decorator
@inline
function weightsAt(steps: i32): usize {
  return WEIGHTS + ((<usize>(steps & (STEPS - 1))) << 5);
}

/** The same with a share of what the B-spline's are more. */
// @ts-ignore: decorator
@inline
function smoothed(steps: i32, share: v128, into: usize): usize {
  const at = weightsAt(steps);
  v128.store(into, f32x4.add(v128.load(at), f32x4.mul(v128.load(at, 16), share)));
  return into;
}

/** What makes steps of the middle of a picture's first pixel. */
const HALF_STEPS: f64 = 0.5 * <f64>STEPS;

/** Sixteen pixels about a place that is so many steps across and down from the middle of the first, by the weights at `u` and `v`. */
// @ts-ignore: decorator
@inline
function sixteen(from: usize, stride: usize, across: i32, down: i32, u: usize, v: usize): v128 {
  const at = from + <usize>((down >> STEP_BITS) - 1) * stride + ((<usize>((across >> STEP_BITS) - 1)) << 4);
  const w0 = v128.load32_splat(u);
  const w1 = v128.load32_splat(u, 4);
  const w2 = v128.load32_splat(u, 8);
  const w3 = v128.load32_splat(u, 12);
  return four(
    v,
    fours(at, w0, w1, w2, w3),
    fours(at + stride, w0, w1, w2, w3),
    fours(at + 2 * stride, w0, w1, w2, w3),
    fours(at + 3 * stride, w0, w1, w2, w3),
  );
}

/** Four rows by the weights that lie at `v`. */
// @ts-ignore: decorator
@inline
function four(v: usize, r0: v128, r1: v128, r2: v128, r3: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(r0, v128.load32_splat(v)), f32x4.mul(r1, v128.load32_splat(v, 4))),
    f32x4.add(f32x4.mul(r2, v128.load32_splat(v, 8)), f32x4.mul(r3, v128.load32_splat(v, 12))),
  );
}

/**
 * A picture between its pixels by cubics, to a two-thousandth of one; beyond its edge its outermost pixels go on. Where `smooth` is 0 it
 * goes through its points (Catmull and Rom), where it is 1 it is smoothed as a picture that is halved is (the B-spline); between them
 * lies the family of Mitchell and Netravali 1988.
 * @param st across and down, f64 each.
 */
export function cubic(from: usize, w: i32, h: i32, st: v128, smooth: f32): v128 {
  const stride = (<usize>w) << 4;
  const steps = f64x2.add(f64x2.mul(st, f64x2.splat(<f64>STEPS)), f64x2.splat(WHOLE - HALF_STEPS));
  const across = i32x4.extract_lane(steps, 0);
  const down = i32x4.extract_lane(steps, 2);
  const share = f32x4.splat(smooth);
  const u = smoothed(across, share, OWN);
  const v = smoothed(down, share, OWN + 16);
  const i = across >> STEP_BITS;
  const j = down >> STEP_BITS;
  // Away from the edge nothing has to be held back.
  if (i > 0 && j > 0 && i < w - 2 && j < h - 2) return sixteen(from, stride, across, down, u, v);
  const w0 = v128.load32_splat(u);
  const w1 = v128.load32_splat(u, 4);
  const w2 = v128.load32_splat(u, 8);
  const w3 = v128.load32_splat(u, 12);
  return four(
    v,
    line(from + <usize>max(0, min(h - 1, j - 1)) * stride, i, w - 1, w0, w1, w2, w3),
    line(from + <usize>max(0, min(h - 1, j)) * stride, i, w - 1, w0, w1, w2, w3),
    line(from + <usize>max(0, min(h - 1, j + 1)) * stride, i, w - 1, w0, w1, w2, w3),
    line(from + <usize>max(0, min(h - 1, j + 2)) * stride, i, w - 1, w0, w1, w2, w3),
  );
}

/** What parts of a step's fraction a run counts in. */
const FINE_BITS: i64 = 24;
const FINE_ONE: f64 = 16777216;

/** No channel is less than nothing or more than a number can be, and coverage not more than all. */
// @ts-ignore: decorator
@inline
export function held(sum: v128): v128 {
  return f32x4.pmin(f32x4(f32.MAX_VALUE, f32.MAX_VALUE, f32.MAX_VALUE, 1), f32x4.pmax(f32x4.splat(0), sum));
}

/**
 * Draws `n` pixels that lie along a parabola deep inside a picture by whole numbers, so that nothing but reading is left to do for each.
 * @param st where the first of them lies, across and down, f64 each. @param step from it to the next. @param curve what steps grow by.
 * @param smooth see cubic().
 */
export function draw(
  from: usize,
  stride: usize,
  smooth: f32,
  st: v128,
  step: v128,
  curve: v128,
  out: usize,
  n: i32,
): void {
  // Half a step more: what is left of it is then the nearest whole one.
  let across = fixed(f64x2.extract_lane(st, 0) * <f64>STEPS - HALF_STEPS + 0.5);
  let down = fixed(f64x2.extract_lane(st, 1) * <f64>STEPS - HALF_STEPS + 0.5);
  let acrossStep = fixed(f64x2.extract_lane(step, 0) * <f64>STEPS);
  let downStep = fixed(f64x2.extract_lane(step, 1) * <f64>STEPS);
  const acrossCurve = fixed(f64x2.extract_lane(curve, 0) * <f64>STEPS);
  const downCurve = fixed(f64x2.extract_lane(curve, 1) * <f64>STEPS);
  const stop = out + ((<usize>n) << 4);
  if (smooth > 0) {
    const share = f32x4.splat(smooth);
    for (; out < stop; out += 16) {
      const a = <i32>(across >> FINE_BITS);
      const d = <i32>(down >> FINE_BITS);
      v128.store(out, held(sixteen(from, stride, a, d, smoothed(a, share, OWN), smoothed(d, share, OWN + 16))));
      across += acrossStep;
      down += downStep;
      acrossStep += acrossCurve;
      downStep += downCurve;
    }
    return;
  }
  for (; out < stop; out += 16) {
    const a = <i32>(across >> FINE_BITS);
    const d = <i32>(down >> FINE_BITS);
    v128.store(out, held(sixteen(from, stride, a, d, weightsAt(a), weightsAt(d))));
    across += acrossStep;
    down += downStep;
    acrossStep += acrossCurve;
    downStep += downCurve;
  }
}

/** Steps of a picture as a whole number of parts, to the nearest. */
// @ts-ignore: decorator
@inline
function fixed(steps: f64): i64 {
  return <i64>Math.floor(steps * FINE_ONE + 0.5);
}
