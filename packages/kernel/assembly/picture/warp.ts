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
  const stride = (<usize>w) << 4;
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
      const r0 = line(from + <usize>max(0, min(h - 1, j - 1)) * stride, i, w - 1, w0, w1, w2, w3);
      const r1 = line(from + <usize>max(0, min(h - 1, j)) * stride, i, w - 1, w0, w1, w2, w3);
      const r2 = line(from + <usize>max(0, min(h - 1, j + 1)) * stride, i, w - 1, w0, w1, w2, w3);
      const r3 = line(from + <usize>max(0, min(h - 1, j + 2)) * stride, i, w - 1, w0, w1, w2, w3);
      let sum = f32x4.add(
        f32x4.add(
          f32x4.mul(r0, f32x4.splat((-v3 + 2 * v2 - v) * 0.5)),
          f32x4.mul(r1, f32x4.splat((3 * v3 - 5 * v2 + 2) * 0.5)),
        ),
        f32x4.add(
          f32x4.mul(r2, f32x4.splat((-3 * v3 + 4 * v2 + v) * 0.5)),
          f32x4.mul(r3, f32x4.splat((v3 - v2) * 0.5)),
        ),
      );
      const edge = <f32>Math.min(1, inside);
      sum = f32x4.mul(f32x4.pmax(f32x4.splat(0), sum), f32x4.splat(edge));
      const alpha = f32x4.extract_lane(sum, 3);
      if (alpha > 1) sum = f32x4.replace_lane(sum, 3, 1);
      v128.store(out + ((<usize>x) << 4), sum);
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
