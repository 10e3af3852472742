import { cubic, draw, held, prepare } from './cubic';
import { log2x4 } from './powers';

/** Pictures drawn in another place: flat, and as cards in space. */

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
        if (!whole && !short) {
          longest >>= 1;
          continue;
        }
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
