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

/** A picture between its pixels (Catmull-Rom: it goes through its points); beyond its edge its outermost pixels go on. */
// @ts-ignore: decorator
@inline
function cubic(from: usize, w: i32, h: i32, s: f64, t: f64): v128 {
  const stride = (<usize>w) << 4;
  const i = <i32>Math.floor(s - 0.5);
  const j = <i32>Math.floor(t - 0.5);
  const u = <f32>(s - 0.5 - <f64>i);
  const v = <f32>(t - 0.5 - <f64>j);
  const u2 = u * u;
  const u3 = u2 * u;
  const w0 = f32x4.splat((-u3 + 2 * u2 - u) * 0.5);
  const w1 = f32x4.splat((3 * u3 - 5 * u2 + 2) * 0.5);
  const w2 = f32x4.splat((-3 * u3 + 4 * u2 + u) * 0.5);
  const w3 = f32x4.splat((u3 - u2) * 0.5);
  const v2 = v * v;
  const v3 = v2 * v;
  let r0: v128;
  let r1: v128;
  let r2: v128;
  let r3: v128;
  if (i > 0 && j > 0 && i < w - 2 && j < h - 2) {
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
    f32x4.add(
      f32x4.mul(r0, f32x4.splat((-v3 + 2 * v2 - v) * 0.5)),
      f32x4.mul(r1, f32x4.splat((3 * v3 - 5 * v2 + 2) * 0.5)),
    ),
    f32x4.add(f32x4.mul(r2, f32x4.splat((-3 * v3 + 4 * v2 + v) * 0.5)), f32x4.mul(r3, f32x4.splat((v3 - v2) * 0.5))),
  );
}

/**
 * Draws a picture `w` x `h` into another `width` x `height` by bicubic interpolation (Catmull-Rom: it goes through its points), its
 * edge soft. Pixel (x, y) shows (A x + B y + C, D x + E y + F), of a picture that is WIDE x HIGH and SOFT at its edge.
 */
export function warp(from: usize, w: i32, h: i32, to: usize, width: i32, height: i32, numbers: usize): void {
  const a = load<f64>(numbers, A);
  const b = load<f64>(numbers, B);
  const d = load<f64>(numbers, D);
  const e = load<f64>(numbers, E);
  const wide = load<f64>(numbers, WIDE);
  const high = load<f64>(numbers, HIGH);
  const soft = load<f64>(numbers, SOFT);
  for (let y = 0; y < height; y++) {
    const py = <f64>y + 0.5;
    const cs = b * py + load<f64>(numbers, C);
    const ct = e * py + load<f64>(numbers, F);
    const out = to + ((<usize>(y * width)) << 4);
    for (let x = 0; x < width; x++) {
      const px = <f64>x + 0.5;
      const s = a * px + cs;
      const t = d * px + ct;
      const inside = Math.min(Math.min(s, wide - s), Math.min(t, high - t)) / soft + 0.5;
      if (!(inside > 0)) continue;
      let sum = cubic(from, w, h, s, t);
      const edge = <f32>Math.min(1, inside);
      sum = f32x4.mul(f32x4.pmax(f32x4.splat(0), sum), f32x4.splat(edge));
      const alpha = f32x4.extract_lane(sum, 3);
      if (alpha > 1) sum = f32x4.replace_lane(sum, 3, 1);
      v128.store(out + ((<usize>x) << 4), sum);
    }
  }
}

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
/** Places along the longer side of a pixel that are read at most. */
const MOST_TAPS: f64 = 8;
/** Halvings below which the picture itself is read. */
const SHARP: f32 = 0.35;

/** A halved picture at a place of the whole one. */
// @ts-ignore: decorator
@inline
function halvedAt(numbers: usize, n: i32, s: f64, t: f64): v128 {
  const row = numbers + LEVEL + <usize>n * 24;
  const scale = 1.0 / <f64>(1 << n);
  return cubic(<usize>load<f64>(row), <i32>load<f64>(row, 8), <i32>load<f64>(row, 16), s * scale, t * scale);
}

/**
 * Draws a picture into another as a card in space. Pixel (x, y) shows ((A x + B y + C) / q, (D x + E y + F) / q) with
 * q = G x + H y + I, of a frame CARD_WIDE x CARD_HIGH with round corners that begins SCROLL down the picture; each of its LEVELS is
 * half as large as the one before.
 */
export function pin(numbers: usize, to: usize, width: i32, height: i32): void {
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
  for (let y = 0; y < height; y++) {
    const py = <f64>y + 0.5;
    for (let x = 0; x < width; x++) {
      const px = <f64>x + 0.5;
      const q = g * px + h * py + load<f64>(numbers, I);
      if (!(q > 0)) continue;
      const s = (a * px + b * py + load<f64>(numbers, C)) / q;
      const t = (d * px + e * py + load<f64>(numbers, F)) / q;
      // How far a pixel to the right and one down go.
      const sx = (a - s * g) / q;
      const tx = (d - t * g) / q;
      const sy = (b - s * h) / q;
      const ty = (e - t * h) / q;
      // Distance from the frame's edge, inside below 0, and which way it grows.
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
      const inside = (corner - off) / Math.max(1e-9, Math.sqrt(gx * gx + gy * gy)) + 0.5;
      if (!(inside > 0)) continue;
      const right = Math.sqrt(sx * sx + tx * tx);
      const below = Math.sqrt(sy * sy + ty * ty);
      const long = Math.max(right, below);
      const taps = Math.min(MOST_TAPS, Math.max(1, Math.floor(long / Math.max(1, Math.min(right, below)) + 0.5)));
      const octaves = f32x4.extract_lane(log2x4(f32x4.splat(<f32>Math.max(1, long / taps))), 0);
      // Bicubic reading hides a little of a halving: nearly whole pictures need none.
      const level = octaves < SHARP ? 0 : Math.min(<f64>last, <f64>octaves);
      const n = <i32>Math.floor(level);
      const share = <f32>(level - <f64>n);
      const stepS = (right > below ? sx : sy) / taps;
      const stepT = (right > below ? tx : ty) / taps;
      let sum = f32x4.splat(0);
      for (let k: f64 = 0; k < taps; k++) {
        const u = s + stepS * (k + 0.5 - taps * 0.5);
        const v = t + stepT * (k + 0.5 - taps * 0.5) + down;
        let at = halvedAt(numbers, n, u, v);
        if (share > 0 && n < last) {
          const coarse = halvedAt(numbers, n + 1, u, v);
          at = f32x4.add(at, f32x4.mul(f32x4.splat(share), f32x4.sub(coarse, at)));
        }
        sum = f32x4.add(sum, at);
      }
      sum = f32x4.mul(f32x4.pmax(f32x4.splat(0), sum), f32x4.splat(<f32>(Math.min(1, inside) / taps)));
      const alpha = f32x4.extract_lane(sum, 3);
      if (alpha > 1) sum = f32x4.replace_lane(sum, 3, 1);
      v128.store(to + ((<usize>(y * width + x)) << 4), sum);
    }
  }
}

/** One float of each of three places that are addresses in lanes, the fourth lane as it is. */
// @ts-ignore: decorator
@inline
function gather(at: v128, was: v128): v128 {
  let v = v128.load_lane<f32>(<usize>i32x4.extract_lane(at, 0), was, 0);
  v = v128.load_lane<f32>(<usize>i32x4.extract_lane(at, 1) + 4, v, 1);
  return v128.load_lane<f32>(<usize>i32x4.extract_lane(at, 2) + 8, v, 2);
}

/**
 * What a lens bends, of an opaque plate: corners show what lies farther out (barrel) or nearer, drawn in so far that none is empty;
 * red lies a little farther out than green, blue as much nearer, all growing with the square of the distance from the middle. Lanes
 * are channels.
 */
export function bend(from: usize, width: i32, height: i32, to: usize, distortion: f32, fringe: f32): void {
  const mx: f32 = <f32>width * 0.5;
  const my: f32 = <f32>height * 0.5;
  const corner: f32 = <f32>1 / (mx * mx + my * my);
  const fit: f32 = <f32>1 / (<f32>1 + max<f32>(0, distortion));
  const spread = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(0), 0, fringe), 2, -fringe);
  const one = f32x4.splat(1);
  const zero = i32x4.splat(0);
  const right = i32x4.splat(width - 1);
  const low = i32x4.splat(height - 1);
  const across = i32x4.splat(width);
  const base = i32x4.splat(<i32>from);
  for (let y = 0; y < height; y++) {
    const dy: f32 = <f32>y + 0.5 - my;
    const out = to + ((<usize>(y * width)) << 4);
    for (let x = 0; x < width; x++) {
      const dx: f32 = <f32>x + 0.5 - mx;
      const r2: f32 = (dx * dx + dy * dy) * corner;
      const k: f32 = (<f32>1 + distortion * r2) * fit;
      const s = f32x4.mul(f32x4.splat(k), f32x4.add(one, f32x4.mul(spread, f32x4.splat(r2))));
      const u = f32x4.add(f32x4.mul(f32x4.splat(dx), s), f32x4.splat(mx - 0.5));
      const v = f32x4.add(f32x4.mul(f32x4.splat(dy), s), f32x4.splat(my - 0.5));
      const fu = f32x4.floor(u);
      const fv = f32x4.floor(v);
      const a = f32x4.sub(u, fu);
      const b = f32x4.sub(v, fv);
      const i = i32x4.trunc_sat_f32x4_s(fu);
      const j = i32x4.trunc_sat_f32x4_s(fv);
      const x0 = i32x4.min_s(right, i32x4.max_s(zero, i));
      const x1 = i32x4.min_s(right, i32x4.max_s(zero, i32x4.add(i, i32x4.splat(1))));
      const top = i32x4.mul(i32x4.min_s(low, i32x4.max_s(zero, j)), across);
      const under = i32x4.mul(i32x4.min_s(low, i32x4.max_s(zero, i32x4.add(j, i32x4.splat(1)))), across);
      const p = gather(i32x4.add(base, i32x4.shl(i32x4.add(top, x0), 4)), one);
      const q = gather(i32x4.add(base, i32x4.shl(i32x4.add(top, x1), 4)), one);
      const r = gather(i32x4.add(base, i32x4.shl(i32x4.add(under, x0), 4)), one);
      const t = gather(i32x4.add(base, i32x4.shl(i32x4.add(under, x1), 4)), one);
      const above = f32x4.add(p, f32x4.mul(f32x4.sub(q, p), a));
      const below = f32x4.add(r, f32x4.mul(f32x4.sub(t, r), a));
      v128.store(out + ((<usize>x) << 4), f32x4.add(above, f32x4.mul(f32x4.sub(below, above), b)));
    }
  }
}
