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
const STEPS: i32 = 2048;
const STEP_BITS: i32 = 11;
/** The weights of the four pixels about a place at each step, and whether they are there. */
const WEIGHTS: usize = memory.data(2048 * 16, 16);
const READY: usize = memory.data(4, 4);
/** What makes the lowest 32 bits of a double the whole number nearest to it, when it is added: 1.5 times 2 to the power of 52. */
const WHOLE: f64 = 6755399441055744;

/** Works the weights of Catmull and Rom out, once: 0, 1, 0, 0 at a pixel. */
function prepare(): void {
  if (load<i32>(READY)) return;
  for (let k = 0; k < STEPS; k++) {
    const t = <f64>k / <f64>STEPS;
    const at = WEIGHTS + ((<usize>k) << 4);
    store<f32>(at, <f32>(((-0.5 * t + 1) * t - 0.5) * t));
    store<f32>(at, <f32>((1.5 * t - 2.5) * t * t + 1), 4);
    store<f32>(at, <f32>(((-1.5 * t + 2) * t + 0.5) * t), 8);
    store<f32>(at, <f32>((0.5 * t - 0.5) * t * t), 12);
  }
  store<i32>(READY, 1);
}

/**
 * A picture between its pixels (Catmull-Rom: it goes through its points), to a two-thousandth of one; beyond its edge its outermost
 * pixels go on.
 * @param st across and down, f64 each. @param deep whether it is known to be two pixels and more inside of the edge.
 */
// @ts-ignore: decorator
@inline
function cubic(from: usize, w: i32, h: i32, st: v128, deep: i32): v128 {
  const stride = (<usize>w) << 4;
  const steps = f64x2.add(f64x2.mul(st, f64x2.splat(<f64>STEPS)), f64x2.splat(WHOLE - 0.5 * <f64>STEPS));
  const across = i32x4.extract_lane(steps, 0);
  const down = i32x4.extract_lane(steps, 2);
  const i = across >> STEP_BITS;
  const j = down >> STEP_BITS;
  const u = WEIGHTS + ((<usize>(across & (STEPS - 1))) << 4);
  const v = WEIGHTS + ((<usize>(down & (STEPS - 1))) << 4);
  const w0 = v128.load32_splat(u);
  const w1 = v128.load32_splat(u, 4);
  const w2 = v128.load32_splat(u, 8);
  const w3 = v128.load32_splat(u, 12);
  let r0: v128;
  let r1: v128;
  let r2: v128;
  let r3: v128;
  if (deep || (i > 0 && j > 0 && i < w - 2 && j < h - 2)) {
    // Away from the edge nothing has to be held back.
    const at = from + <usize>(j - 1) * stride + ((<usize>(i - 1)) << 4);
    r0 = fours(at, w0, w1, w2, w3);
    r1 = fours(at + stride, w0, w1, w2, w3);
    r2 = fours(at + 2 * stride, w0, w1, w2, w3);
    r3 = fours(at + 3 * stride, w0, w1, w2, w3);
  } else {
    r0 = line(from + <usize>max(0, min(h - 1, j - 1)) * stride, i, w - 1, w0, w1, w2, w3);
    r1 = line(from + <usize>max(0, min(h - 1, j)) * stride, i, w - 1, w0, w1, w2, w3);
    r2 = line(from + <usize>max(0, min(h - 1, j + 1)) * stride, i, w - 1, w0, w1, w2, w3);
    r3 = line(from + <usize>max(0, min(h - 1, j + 2)) * stride, i, w - 1, w0, w1, w2, w3);
  }
  return f32x4.add(
    f32x4.add(f32x4.mul(r0, v128.load32_splat(v)), f32x4.mul(r1, v128.load32_splat(v, 4))),
    f32x4.add(f32x4.mul(r2, v128.load32_splat(v, 8)), f32x4.mul(r3, v128.load32_splat(v, 12))),
  );
}

/**
 * What is the same for all pixels of a run lies here while they are drawn. A compiler that moves what is worked out to where it is used
 * would work it out for every pixel; it does not move what is read from memory.
 */
const AT_HAND: usize = memory.data(128, 16);
const STEP: usize = 0;
const BEGIN: usize = 16;
const ALL: usize = 32;
const DEEP: usize = 36;

/**
 * Draws a picture `w` x `h` into another `width` x `height` by bicubic interpolation (Catmull-Rom: it goes through its points), its
 * edge soft. Pixel (x, y) shows (A x + B y + C, D x + E y + F), of a picture that is WIDE x HIGH and SOFT at its edge.
 */
export function warp(from: usize, w: i32, h: i32, to: usize, width: i32, height: i32, numbers: usize): void {
  prepare();
  const a = load<f64>(numbers, A);
  const b = load<f64>(numbers, B);
  const d = load<f64>(numbers, D);
  const e = load<f64>(numbers, E);
  const wide = load<f64>(numbers, WIDE);
  const high = load<f64>(numbers, HIGH);
  const soft = load<f64>(numbers, SOFT);
  const step = f64x2(a, d);
  const size = f64x2(wide, high);
  for (let y = 0; y < height; y++) {
    const py = <f64>y + 0.5;
    const begin = f64x2(b * py + load<f64>(numbers, C), e * py + load<f64>(numbers, F));
    v128.store(AT_HAND, step, STEP);
    v128.store(AT_HAND, begin, BEGIN);
    const out = to + ((<usize>(y * width)) << 4);
    for (let x0 = 0; x0 < width; x0 += RUN) {
      const end = min(width, x0 + RUN);
      // The distance inside of the edge is least at an end of a run.
      const first = f64x2.add(f64x2.mul(step, f64x2.splat(<f64>x0 + 0.5)), begin);
      const last = f64x2.add(f64x2.mul(step, f64x2.splat(<f64>end - 0.5)), begin);
      const inside = Math.min(within(first, size), within(last, size));
      store<i32>(AT_HAND, <i32>(inside >= soft * 0.5), ALL);
      store<i32>(AT_HAND, <i32>(inside >= MARGIN), DEEP);
      for (let x = x0; x < end; x++) {
        const st = f64x2.add(f64x2.mul(v128.load(AT_HAND, STEP), f64x2.splat(<f64>x + 0.5)), v128.load(AT_HAND, BEGIN));
        const full = load<i32>(AT_HAND, ALL);
        let edge: f32 = 1;
        if (!full) {
          const inside = within(st, size) / soft + 0.5;
          if (!(inside > 0)) continue;
          edge = <f32>Math.min(1, inside);
        }
        let sum = f32x4.pmax(f32x4.splat(0), cubic(from, w, h, st, load<i32>(AT_HAND, DEEP)));
        if (!full) sum = f32x4.mul(sum, f32x4.splat(edge));
        v128.store(out + ((<usize>x) << 4), f32x4.pmin(f32x4(f32.MAX_VALUE, f32.MAX_VALUE, f32.MAX_VALUE, 1), sum));
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

/** Pixels of a row for which what they cover is worked out together. */
const RUN: i32 = 8;

/** Where the numbers of a card lie besides A to F: f64 each. */
const G: usize = 48;
const H: usize = 56;
const I: usize = 64;
const CARD_WIDE: usize = 72;
const CARD_HIGH: usize = 80;
const CORNER: usize = 88;
const SCROLL: usize = 96;
const LEVELS: usize = 104;
const LEVEL: usize = 112;
const LEVEL_SIZE: usize = 24;
/** Places along the longer side of a pixel that are read at most. */
const MOST_TAPS: f64 = 8;
/** Halvings below which the picture itself is read. */
const SHARP: f32 = 0.35;

/** What is at hand of a run of a card besides: see AT_HAND. */
const MIXES: usize = 40;
const SHARE: usize = 44;
const TAPS: usize = 48;
const MIDDLE: usize = 56;
const SCALE: usize = 64;
/** Where a level lies, its width and its height: i32 each. */
const FINE: usize = 80;
const COARSE: usize = 92;

// @ts-ignore: decorator
@inline
function storeLevel(level: usize, at: usize): void {
  store<i32>(AT_HAND + at, <i32>load<f64>(level));
  store<i32>(AT_HAND + at, <i32>load<f64>(level, 8), 4);
  store<i32>(AT_HAND + at, <i32>load<f64>(level, 16), 8);
}

// @ts-ignore: decorator
@inline
function read(level: usize, uv: v128, deep: i32): v128 {
  const at = AT_HAND + level;
  return cubic(<usize>load<i32>(at), load<i32>(at, 4), load<i32>(at, 8), uv, deep);
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
  const last = <i32>load<f64>(numbers, LEVELS) - 1;
  const ad = f64x2(a, d);
  const scrolled = f64x2(0, down);
  for (let y = 0; y < height; y++) {
    const py = <f64>y + 0.5;
    const qy = h * py + load<f64>(numbers, I);
    const ay = b * py + load<f64>(numbers, C);
    const dy = e * py + load<f64>(numbers, F);
    const begin = f64x2(ay, dy);
    for (let x0 = 0; x0 < width; x0 += RUN) {
      const end = min(width, x0 + RUN);
      // How far a pixel to the right and one down go, in the middle of the run.
      const mx = <f64>(x0 + end) * 0.5;
      const mq = g * mx + qy;
      if (!(mq > 0) && !(g * (<f64>x0 + 0.5) + qy > 0) && !(g * (<f64>end - 0.5) + qy > 0)) continue;
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
      // Well outside of the frame nothing of the run is seen, well inside all of it.
      const reach = long * <f64>(RUN + 2);
      const fromEdge = corner - distance(ms, mt, wide, high, corner);
      // Near the horizon it may change too much within a run to tell.
      const even = Math.abs(g) * <f64>RUN < 0.25 * mq;
      if (even && fromEdge < -reach) continue;
      const whole = even && fromEdge > reach;
      const taps = Math.min(MOST_TAPS, Math.max(1, Math.floor(long / Math.max(1, Math.min(right, below)) + 0.5)));
      const octaves = f32x4.extract_lane(log2x4(f32x4.splat(<f32>Math.max(1, long / taps))), 0);
      // Bicubic reading hides a little of a halving: nearly whole pictures need none.
      const level = octaves < SHARP ? 0 : Math.min(<f64>last, <f64>octaves);
      const n = <i32>Math.floor(level);
      const share = <f32>(level - <f64>n);
      const fine = numbers + LEVEL + <usize>n * LEVEL_SIZE;
      const mixes = share > 0 && n < last;
      // Of places that are a run and more inside of the frame, where it is not scrolled, all neighbours are there.
      const deep = whole && fromEdge > reach + MARGIN * <f64>(2 << n) && down == 0;
      v128.store(AT_HAND, f64x2((right > below ? sx : sy) / taps, (right > below ? tx : ty) / taps), STEP);
      v128.store(AT_HAND, f64x2.splat(1.0 / <f64>(1 << n)), SCALE);
      store<i32>(AT_HAND, <i32>whole, ALL);
      store<i32>(AT_HAND, <i32>deep, DEEP);
      store<i32>(AT_HAND, <i32>mixes, MIXES);
      store<f32>(AT_HAND, share, SHARE);
      store<f64>(AT_HAND, taps, TAPS);
      store<f64>(AT_HAND, taps * 0.5 - 0.5, MIDDLE);
      storeLevel(fine, FINE);
      if (mixes) storeLevel(fine + LEVEL_SIZE, COARSE);
      const half = f64x2.splat(0.5);
      for (let x = x0; x < end; x++) {
        const px = <f64>x + 0.5;
        const q = g * px + qy;
        if (!(q > 0)) continue;
        const st = f64x2.div(f64x2.add(f64x2.mul(ad, f64x2.splat(px)), begin), f64x2.splat(q));
        const known = load<i32>(AT_HAND, DEEP);
        const mixed = load<i32>(AT_HAND, MIXES);
        const times = load<f64>(AT_HAND, TAPS);
        let inside: f64 = 1;
        if (!load<i32>(AT_HAND, ALL)) {
          inside = covered(f64x2.extract_lane(st, 0), f64x2.extract_lane(st, 1), wide, high, corner, sx, tx, sy, ty);
          if (!(inside > 0)) continue;
        }
        let sum = f32x4.splat(0);
        for (let k: f64 = 0; k < times; k++) {
          const along = f64x2.mul(v128.load(AT_HAND, STEP), f64x2.splat(k - load<f64>(AT_HAND, MIDDLE)));
          const uv = f64x2.mul(f64x2.add(f64x2.add(st, along), scrolled), v128.load(AT_HAND, SCALE));
          let at = read(FINE, uv, known);
          if (mixed) {
            const coarse = read(COARSE, f64x2.mul(uv, half), known);
            at = f32x4.add(at, f32x4.mul(v128.load32_splat(AT_HAND, SHARE), f32x4.sub(coarse, at)));
          }
          sum = f32x4.add(sum, at);
        }
        sum = f32x4.mul(f32x4.pmax(f32x4.splat(0), sum), f32x4.splat(<f32>(Math.min(1, inside) / times)));
        const most = f32x4(f32.MAX_VALUE, f32.MAX_VALUE, f32.MAX_VALUE, 1);
        v128.store(to + ((<usize>(y * width + x)) << 4), f32x4.pmin(most, sum));
      }
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
