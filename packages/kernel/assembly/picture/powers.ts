/** Powers of four numbers at a time, to about a millionth part. */

/**
 * Polynomials are worked out in pairs (Estrin 1960) and not term by term: steps that wait for each other cost more than steps do.
 */

/** a + b x. */
// @ts-ignore: decorator
@inline
function line(a: f32, b: f32, x: v128): v128 {
  return f32x4.add(f32x4.splat(a), f32x4.mul(f32x4.splat(b), x));
}

/** a + b x of what is worked out already. */
// @ts-ignore: decorator
@inline
function joined(a: v128, b: v128, x: v128): v128 {
  return f32x4.add(a, f32x4.mul(b, x));
}

/** Logarithm to the base 2 of numbers above 0: the exponent, and an odd series of (m - 1) / (m + 1) for the rest. */
// @ts-ignore: decorator
@inline
export function log2x4(x: v128): v128 {
  const e = i32x4.shr_s(i32x4.sub(x, i32x4.splat(0x3f3504f3)), 23);
  const m = i32x4.sub(x, i32x4.shl(e, 23));
  const one = f32x4.splat(1);
  const s = f32x4.div(f32x4.sub(m, one), f32x4.add(m, one));
  const q = f32x4.mul(s, s);
  const p = joined(line(2.88539008, 0.961796694, q), line(0.577078016, 0.412198583, q), f32x4.mul(q, q));
  return f32x4.add(f32x4.convert_i32x4_s(e), f32x4.mul(p, s));
}

/** What makes a number whole, to the nearest, when it is added and taken away again: 1.5 times 2 to the power of 23. */
const WHOLE: f32 = 12582912;

/** 2 to the power of each: a whole part added to the exponent, a Taylor series for the half to each side. */
// @ts-ignore: decorator
@inline
export function exp2x4(x: v128): v128 {
  const c = f32x4.pmax(f32x4.pmin(x, f32x4.splat(127)), f32x4.splat(-125));
  // Its lowest bits are the whole part.
  const whole = f32x4.add(c, f32x4.splat(WHOLE));
  const f = f32x4.sub(c, f32x4.sub(whole, f32x4.splat(WHOLE)));
  const f2 = f32x4.mul(f, f);
  const low = joined(line(1, 0.693147181, f), line(0.240226507, 5.55041087e-2, f), f2);
  const high = joined(line(9.61812911e-3, 1.33335581e-3, f), f32x4.splat(1.54035304e-4), f2);
  return i32x4.add(joined(low, high, f32x4.mul(f2, f2)), i32x4.shl(whole, 23));
}

/**
 * Linear light to sRGB, both from 0 to 1 (IEC 61966-2-1), to a third of a millionth; what is outside is cut off, and what is no number
 * is 0. The curve is a polynomial of the fourth root, by Remez' exchange.
 */
// @ts-ignore: decorator
@inline
export function encodeSrgb(v: v128): v128 {
  const x = f32x4.pmin(f32x4.splat(1), f32x4.pmax(f32x4.splat(0), v));
  const q = f32x4.sqrt(f32x4.sqrt(x));
  const q2 = f32x4.mul(q, q);
  const low = joined(line(-0.0584465906, 0.123575876, q), line(1.46152591, -1.1558964, q), q2);
  const high = joined(line(1.20915176, -0.898414626, q), line(0.394714256, -0.0762105191, q), q2);
  const curved = joined(low, high, f32x4.mul(q2, q2));
  const straight = f32x4.mul(x, f32x4.splat(12.92));
  return v128.bitselect(straight, curved, f32x4.le(x, f32x4.splat(0.0031308)));
}

/** sRGB to linear light, the other way. */
// @ts-ignore: decorator
@inline
export function decodeSrgb(v: v128): v128 {
  const x = f32x4.pmax(f32x4.splat(0), v);
  const base = f32x4.mul(f32x4.add(x, f32x4.splat(0.055)), f32x4.splat(0.9478673));
  const curved = exp2x4(f32x4.mul(log2x4(base), f32x4.splat(2.4)));
  const straight = f32x4.mul(x, f32x4.splat(0.077399381));
  return v128.bitselect(straight, curved, f32x4.le(x, f32x4.splat(0.04045)));
}
