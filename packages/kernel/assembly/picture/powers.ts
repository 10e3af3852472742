/** Powers of four numbers at a time, to about a millionth part. */

/** Logarithm to the base 2 of numbers above 0: the exponent, and an odd series of (m - 1) / (m + 1) for the rest. */
// @ts-ignore: decorator
@inline
export function log2x4(x: v128): v128 {
  const e = i32x4.shr_s(i32x4.sub(x, i32x4.splat(0x3f3504f3)), 23);
  const m = i32x4.sub(x, i32x4.shl(e, 23));
  const one = f32x4.splat(1);
  const s = f32x4.div(f32x4.sub(m, one), f32x4.add(m, one));
  const q = f32x4.mul(s, s);
  let p = f32x4.splat(0.412198583);
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(0.577078016));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(0.961796694));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(2.88539008));
  return f32x4.add(f32x4.convert_i32x4_s(e), f32x4.mul(p, s));
}

/** 2 to the power of each: a whole part in the exponent, a Taylor series for the half to each side. */
// @ts-ignore: decorator
@inline
export function exp2x4(x: v128): v128 {
  const c = f32x4.pmax(f32x4.pmin(x, f32x4.splat(127)), f32x4.splat(-126));
  const i = f32x4.nearest(c);
  const f = f32x4.sub(c, i);
  let p = f32x4.splat(1.54035304e-4);
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(1.33335581e-3));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(9.61812911e-3));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(5.55041087e-2));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(0.240226507));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(0.693147181));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(1));
  const scale = i32x4.shl(i32x4.add(i32x4.trunc_sat_f32x4_s(i), i32x4.splat(127)), 23);
  return f32x4.mul(p, scale);
}

/** Linear light to sRGB, both from 0 to 1 (IEC 61966-2-1); what is outside is cut off, and what is no number is 0. */
// @ts-ignore: decorator
@inline
export function encodeSrgb(v: v128): v128 {
  const x = f32x4.pmin(f32x4.splat(1), f32x4.pmax(f32x4.splat(0), v));
  const power = exp2x4(f32x4.mul(log2x4(f32x4.pmax(x, f32x4.splat(1e-6))), f32x4.splat(0.41666667)));
  const curved = f32x4.sub(f32x4.mul(f32x4.splat(1.055), power), f32x4.splat(0.055));
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
