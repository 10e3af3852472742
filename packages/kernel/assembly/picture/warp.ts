import { log2x4 } from './powers';

/** Pictures read where no pixel's middle is. */

/** Where the numbers of a warp lie: f64 each. */
const A: usize = 0;
const B: usize = 8;
const C: usize = 16;
const D: usize = 24;
const E: usize = 32;
const F: usize = 40;
const WIDE: usize = 48;
const HIGH: usize = 56;
const SOFT: usize = 64;
const SMOOTH: usize = 72;

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
function prepare(): void {
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
function cubic(from: usize, w: i32, h: i32, st: v128, smooth: f32): v128 {
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
function held(sum: v128): v128 {
  return f32x4.pmin(f32x4(f32.MAX_VALUE, f32.MAX_VALUE, f32.MAX_VALUE, 1), f32x4.pmax(f32x4.splat(0), sum));
}

/**
 * Draws `n` pixels that lie along a parabola deep inside a picture by whole numbers, so that nothing but reading is left to do for each.
 * @param st where the first of them lies, across and down, f64 each. @param step from it to the next. @param curve what steps grow by.
 * @param smooth see cubic().
 */
function draw(from: usize, stride: usize, smooth: f32, st: v128, step: v128, curve: v128, out: usize, n: i32): void {
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

/**
 * Draws a picture `w` x `h` into another `width` x `height` by cubics that are SMOOTH as cubic() says, its edge soft. Pixel (x, y) shows
 * (A x + B y + C, D x + E y + F), of a picture that is WIDE x HIGH and SOFT at its edge.
 */
export function warp(from: usize, w: i32, h: i32, to: usize, width: i32, height: i32, numbers: usize): void {
  prepare();
  const stride = (<usize>w) << 4;
  const soft = load<f64>(numbers, SOFT);
  const step = f64x2(load<f64>(numbers, A), load<f64>(numbers, D));
  const size = f64x2(load<f64>(numbers, WIDE), load<f64>(numbers, HIGH));
  const deep = Math.max(MARGIN, soft * 0.5);
  const smooth = <f32>load<f64>(numbers, SMOOTH);
  for (let left = 0; left < width; left += STRIP)
    for (let y = 0; y < height; y++) {
      const stop = min(width, left + STRIP);
      const py = <f64>y + 0.5;
      const begin = f64x2(
        load<f64>(numbers, B) * py + load<f64>(numbers, C),
        load<f64>(numbers, E) * py + load<f64>(numbers, F),
      );
      const out = to + ((<usize>(y * width)) << 4);
      let end = 0;
      for (let x0 = left; x0 < stop; x0 = end) {
        end = min(stop, x0 + LONG_RUN);
        // The distance inside of the edge is least at an end of a run.
        const first = f64x2.add(f64x2.mul(step, f64x2.splat(<f64>x0 + 0.5)), begin);
        const near = within(first, size);
        if (near >= deep && within(f64x2.add(f64x2.mul(step, f64x2.splat(<f64>end - 0.5)), begin), size) >= deep) {
          draw(from, stride, smooth, first, step, f64x2.splat(0), out + ((<usize>x0) << 4), end - x0);
          continue;
        }
        end = min(stop, x0 + RUN);
        for (let x = x0; x < end; x++) {
          const st = f64x2.add(f64x2.mul(step, f64x2.splat(<f64>x + 0.5)), begin);
          const there = within(st, size) / soft + 0.5;
          if (!(there > 0)) continue;
          const sum = f32x4.pmax(f32x4.splat(0), cubic(from, w, h, st, smooth));
          v128.store(out + ((<usize>x) << 4), held(f32x4.mul(sum, f32x4.splat(<f32>Math.min(1, there)))));
        }
      }
    }
}

/** Pixels inside of the edge from which on all that bicubic reading asks for is there. */
const MARGIN: f64 = 2.5;

/** How far a place is inside of a picture's edge. */
// @ts-ignore: decorator
@inline
function within(st: v128, size: v128): f64 {
  const near = f64x2.pmin(st, f64x2.sub(size, st));
  return Math.min(f64x2.extract_lane(near, 0), f64x2.extract_lane(near, 1));
}

/** Pixels of a row for which what they cover is worked out together, and where it hardly changes. */
const RUN: i32 = 8;
const LONG_RUN: i32 = 64;
/** Columns that are drawn from top to bottom before the next ones: rows that are read again are still at hand. */
const STRIP: i32 = 128;
/** The part of its distance from the eye by which a card may come nearer within a long run: a parabola is a thousandth of a pixel off. */
const STEADY: f64 = 0.02;

/** Where the numbers of a card lie besides A to F: f64 each. */
const G: usize = 48;
const H: usize = 56;
const I: usize = 64;
const CARD_WIDE: usize = 72;
const CARD_HIGH: usize = 80;
const CORNER: usize = 88;
const SCROLL: usize = 96;
/** Places along the longer side of a pixel that are read at most. */
const MOST_TAPS: usize = 104;
/** The part of a halving that sharp reading hides. */
const SHARP: usize = 112;
const LEVELS: usize = 120;
const LEVEL: usize = 128;
const LEVEL_SIZE: usize = 24;

/** The place that a pixel of a card shows. */
// @ts-ignore: decorator
@inline
function placed(ad: v128, begin: v128, g: f64, qy: f64, px: f64): v128 {
  return f64x2.div(f64x2.add(f64x2.mul(ad, f64x2.splat(px)), begin), f64x2.splat(g * px + qy));
}

/**
 * Draws a picture into another as a card in space. Pixel (x, y) shows ((A x + B y + C) / q, (D x + E y + F) / q) with
 * q = G x + H y + I, of a frame CARD_WIDE x CARD_HIGH with round corners that begins SCROLL down the picture; each of its LEVELS is
 * half as large as the one before.
 */
export function pin(numbers: usize, to: usize, width: i32, height: i32): void {
  prepare();
  const a = load<f64>(numbers, A);
  const b = load<f64>(numbers, B);
  const d = load<f64>(numbers, D);
  const e = load<f64>(numbers, E);
  const g = load<f64>(numbers, G);
  const h = load<f64>(numbers, H);
  const wide = load<f64>(numbers, CARD_WIDE) * 0.5;
  const high = load<f64>(numbers, CARD_HIGH) * 0.5;
  const corner = Math.min(load<f64>(numbers, CORNER), Math.min(wide, high));
  const down = load<f64>(numbers, SCROLL);
  const mostTaps = load<f64>(numbers, MOST_TAPS);
  const sharp = load<f64>(numbers, SHARP);
  const last = <i32>load<f64>(numbers, LEVELS) - 1;
  const ad = f64x2(a, d);
  const scrolled = f64x2(0, down);
  // A scroll that goes on past the picture's ends shows its outermost rows again.
  const kept = down >= 0 && down + 2 * high <= load<f64>(numbers, LEVEL + 16);
  for (let left = 0; left < width; left += STRIP)
    for (let y = 0; y < height; y++) {
      const stop = min(width, left + STRIP);
      const py = <f64>y + 0.5;
      const qy = h * py + load<f64>(numbers, I);
      const ay = b * py + load<f64>(numbers, C);
      const dy = e * py + load<f64>(numbers, F);
      const begin = f64x2(ay, dy);
      const row = to + ((<usize>(y * width)) << 4);
      let end = 0;
      // A long run is tried first, and a short one where it is too long.
      let longest = LONG_RUN;
      for (let x0 = left; x0 < stop;) {
        end = min(stop, x0 + longest);
        const short = longest == RUN;
        const run = <f64>(end - x0);
        // How far a pixel to the right and one down go, in the middle of the run.
        const mx = <f64>(x0 + end) * 0.5;
        const mq = g * mx + qy;
        if (!(mq > 0) && !(g * (<f64>x0 + 0.5) + qy > 0) && !(g * (<f64>end - 0.5) + qy > 0)) {
          x0 = end;
          continue;
        }
        // A run that begins or ends behind the eye is seen from its side before it.
        const inverse = 1 / Math.max(1e-9, mq);
        const ms = (a * mx + ay) * inverse;
        const mt = (d * mx + dy) * inverse;
        const sx = (a - ms * g) * inverse;
        const tx = (d - mt * g) * inverse;
        const sy = (b - ms * h) * inverse;
        const ty = (e - mt * h) * inverse;
        const right = Math.sqrt(sx * sx + tx * tx);
        const below = Math.sqrt(sy * sy + ty * ty);
        const long = Math.max(right, below);
        // Well outside of the frame nothing of the run is seen, well inside all of it. Its ends are half of it away, or a third more.
        const reach = long * (run * 0.65 + 2);
        const fromEdge = corner - distance(ms, mt, wide, high, corner);
        // Near the horizon it may change too much within a run to tell.
        const even = Math.abs(g) * run < 0.25 * mq;
        if (even && fromEdge < -reach) {
          x0 = end;
          continue;
        }
        const whole = even && fromEdge > reach;
        const taps = Math.min(mostTaps, Math.max(1, Math.floor(long / Math.max(1, Math.min(right, below)) + 0.5)));
        const covers = long / taps;
        const octaves = covers > 1 ? <f64>f32x4.extract_lane(log2x4(f32x4.splat(<f32>covers)), 0) : 0;
        const n = min(last, <i32>octaves);
        // From sharp to as smooth as the next level is: there its sharp reading goes on.
        const smooth = <f32>Math.min(1, Math.max(0, (octaves - <f64>n - sharp) / (1 - sharp)));
        const fine = numbers + LEVEL + <usize>n * LEVEL_SIZE;
        const from = <usize>load<f64>(fine);
        const w = <i32>load<f64>(fine, 8);
        const tall = <i32>load<f64>(fine, 16);
        const scale = f64x2.splat(1.0 / <f64>(1 << n));
        // Of places that are a run and more inside of the frame all neighbours are there.
        const deep = whole && fromEdge > reach + MARGIN * <f64>(1 << n) && kept;
        if (deep && taps == 1 && run > 1 && Math.abs(g) * run < STEADY * mq) {
          const st = f64x2.add(placed(ad, begin, g, qy, <f64>x0 + 0.5), scrolled);
          const middle = f64x2.add(placed(ad, begin, g, qy, mx), scrolled);
          const far = f64x2.add(placed(ad, begin, g, qy, <f64>end - 0.5), scrolled);
          // The parabola through the three, by its differences.
          const half = 0.5 * (run - 1);
          const bent = f64x2.sub(f64x2.add(st, far), f64x2.add(middle, middle));
          const curve = f64x2.mul(bent, f64x2.splat(1 / (half * half)));
          const chord = f64x2.mul(f64x2.sub(far, st), f64x2.splat(1 / (run - 1)));
          const step = f64x2.sub(chord, f64x2.mul(curve, f64x2.splat(half - 0.5)));
          draw(
            from,
            (<usize>w) << 4,
            smooth,
            f64x2.mul(st, scale),
            f64x2.mul(step, scale),
            f64x2.mul(curve, scale),
            row + ((<usize>x0) << 4),
            end - x0,
          );
          x0 = end;
          longest = LONG_RUN;
          continue;
        }
        if (!short) {
          longest >>= 1;
          continue;
        }
        const along = f64x2((right > below ? sx : sy) / taps, (right > below ? tx : ty) / taps);
        for (let x = x0; x < end; x++) {
          const px = <f64>x + 0.5;
          if (!(g * px + qy > 0)) continue;
          const st = placed(ad, begin, g, qy, px);
          let inside: f64 = 1;
          if (!whole) {
            inside = covered(f64x2.extract_lane(st, 0), f64x2.extract_lane(st, 1), wide, high, corner, sx, tx, sy, ty);
            if (!(inside > 0)) continue;
          }
          let sum = f32x4.splat(0);
          for (let k: f64 = 0; k < taps; k++) {
            const off = f64x2.mul(along, f64x2.splat(k - (taps * 0.5 - 0.5)));
            const uv = f64x2.mul(f64x2.add(f64x2.add(st, off), scrolled), scale);
            sum = f32x4.add(sum, cubic(from, w, tall, uv, smooth));
          }
          const part = f32x4.splat(<f32>(Math.min(1, inside) / taps));
          v128.store(row + ((<usize>x) << 4), held(f32x4.mul(f32x4.pmax(f32x4.splat(0), sum), part)));
        }
        x0 = end;
        if (!even || taps == 1) longest = LONG_RUN;
      }
    }
}

/** How far a place is outside of the rectangle that a frame's corners are rounded about. */
function distance(s: f64, t: f64, wide: f64, high: f64, corner: f64): f64 {
  const fx = Math.abs(s - wide) - (wide - corner);
  const fy = Math.abs(t - high) - (high - corner);
  return fx > 0 && fy > 0 ? Math.sqrt(fx * fx + fy * fy) : Math.max(fx, fy);
}

/** How much of a pixel a frame covers: its distance from the edge in pixels, across which it goes. */
function covered(s: f64, t: f64, wide: f64, high: f64, corner: f64, sx: f64, tx: f64, sy: f64, ty: f64): f64 {
  const fx = Math.abs(s - wide) - (wide - corner);
  const fy = Math.abs(t - high) - (high - corner);
  let nx: f64 = 0;
  let ny: f64 = 0;
  let off: f64 = 0;
  if (fx > 0 && fy > 0) {
    off = Math.sqrt(fx * fx + fy * fy);
    nx = fx / off;
    ny = fy / off;
  } else if (fx > fy) {
    off = fx;
    nx = 1;
  } else {
    off = fy;
    ny = 1;
  }
  if (s < wide) nx = -nx;
  if (t < high) ny = -ny;
  const gx = nx * sx + ny * tx;
  const gy = nx * sy + ny * ty;
  return (corner - off) / Math.max(1e-9, Math.sqrt(gx * gx + gy * gy)) + 0.5;
}
