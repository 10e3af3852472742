/** W3C Compositing and Blending Level 1 on premultiplied plates of four floats; the modes are numbered as the document lists them. */

const OVER: i32 = 0;
const ADD: i32 = 1;
const SCREEN: i32 = 2;
const MULTIPLY: i32 = 3;
const OVERLAY: i32 = 4;
const SOFT: i32 = 5;
const HARD: i32 = 6;
const LIGHTEN: i32 = 7;
const DARKEN: i32 = 8;
const DODGE: i32 = 9;
const BURN: i32 = 10;
const DIFFERENCE: i32 = 11;
const LUMINOSITY: i32 = 12;

// @ts-ignore: decorator
@inline
function screen(b: v128, s: v128): v128 {
  return f32x4.sub(f32x4.add(b, s), f32x4.mul(b, s));
}

// @ts-ignore: decorator
@inline
function hard(b: v128, s: v128): v128 {
  const two = f32x4.add(s, s);
  return v128.bitselect(f32x4.mul(b, two), screen(b, f32x4.sub(two, f32x4.splat(1))), f32x4.le(s, f32x4.splat(0.5)));
}

// @ts-ignore: decorator
@inline
function soft(b: v128, s: v128): v128 {
  const one = f32x4.splat(1);
  const dark = f32x4.sub(f32x4.mul(f32x4.splat(16), b), f32x4.splat(12));
  const low = f32x4.mul(f32x4.add(f32x4.mul(dark, b), f32x4.splat(4)), b);
  const d = v128.bitselect(low, f32x4.sqrt(b), f32x4.le(b, f32x4.splat(0.25)));
  const k = f32x4.sub(f32x4.add(s, s), one);
  const darker = f32x4.add(b, f32x4.mul(f32x4.mul(k, b), f32x4.sub(one, b)));
  const lighter = f32x4.add(b, f32x4.mul(k, f32x4.sub(d, b)));
  return v128.bitselect(darker, lighter, f32x4.le(s, f32x4.splat(0.5)));
}

// @ts-ignore: decorator
@inline
function dodge(b: v128, s: v128): v128 {
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  const shared = v128.bitselect(one, f32x4.pmin(one, f32x4.div(b, f32x4.sub(one, s))), f32x4.ge(s, one));
  return v128.bitselect(zero, shared, f32x4.eq(b, zero));
}

// @ts-ignore: decorator
@inline
function burn(b: v128, s: v128): v128 {
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  const shared = f32x4.sub(one, f32x4.pmin(one, f32x4.div(f32x4.sub(one, b), s)));
  return v128.bitselect(one, v128.bitselect(zero, shared, f32x4.le(s, zero)), f32x4.ge(b, one));
}

// @ts-ignore: decorator
@inline
function lum(c: v128): f32 {
  return (
    <f32>0.3 * f32x4.extract_lane(c, 0) + <f32>0.59 * f32x4.extract_lane(c, 1) + <f32>0.11 * f32x4.extract_lane(c, 2)
  );
}

/** A colour at another luminosity, brought back into 0..1 without a change of hue (SetLum and ClipColor). */
function withLum(c: v128, wanted: f32): v128 {
  let v = f32x4.add(c, f32x4.splat(wanted - lum(c)));
  const l = lum(v);
  const at = f32x4.splat(l);
  const low = min(f32x4.extract_lane(v, 0), min(f32x4.extract_lane(v, 1), f32x4.extract_lane(v, 2)));
  const high = max(f32x4.extract_lane(v, 0), max(f32x4.extract_lane(v, 1), f32x4.extract_lane(v, 2)));
  if (low < 0) v = f32x4.add(at, f32x4.mul(f32x4.sub(v, at), f32x4.splat(l / (l - low))));
  if (high > 1) v = f32x4.add(at, f32x4.mul(f32x4.sub(v, at), f32x4.splat((1 - l) / (high - l))));
  return v;
}

/** What a mode makes of two opaque colours. */
// @ts-ignore: decorator
@inline
function mix(mode: i32, b: v128, s: v128): v128 {
  switch (mode) {
    case SCREEN:
      return screen(b, s);
    case MULTIPLY:
      return f32x4.mul(b, s);
    case OVERLAY:
      return hard(s, b);
    case SOFT:
      return soft(b, s);
    case HARD:
      return hard(b, s);
    case LIGHTEN:
      return f32x4.pmax(b, s);
    case DARKEN:
      return f32x4.pmin(b, s);
    case DODGE:
      return dodge(b, s);
    case BURN:
      return burn(b, s);
    case DIFFERENCE:
      return f32x4.abs(f32x4.sub(b, s));
    case LUMINOSITY:
      return withLum(b, lum(s));
    default:
      return withLum(s, lum(b));
  }
}

/**
 * Blends a plate over another, which changes: Cr = (1 - as) ab Cb + (1 - ab) as Cs + as ab B(Cb, Cs). Modes that know no light above
 * 1 mix what is up to it, and what the backdrop has above it is added again.
 */
export function blend(below: usize, over: usize, count: i32, mode: i32, opacity: f32): void {
  const end = below + ((<usize>count) << 4);
  const by = f32x4.splat(opacity);
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  if (mode == OVER) {
    for (let at = below, from = over; at < end; at += 16, from += 16) {
      const layer = f32x4.mul(v128.load(from), by);
      const keep = f32x4.sub(one, v128.shuffle<f32>(layer, layer, 3, 3, 3, 3));
      v128.store(at, f32x4.add(layer, f32x4.mul(v128.load(at), keep)));
    }
    return;
  }
  if (mode == ADD) {
    for (let at = below, from = over; at < end; at += 16, from += 16) {
      const sum = f32x4.add(v128.load(at), f32x4.mul(v128.load(from), by));
      v128.store(at, f32x4.replace_lane(sum, 3, min<f32>(1, f32x4.extract_lane(sum, 3))));
    }
    return;
  }
  const bounded = mode != MULTIPLY && mode != LIGHTEN && mode != DARKEN && mode != DIFFERENCE;
  for (let at = below, from = over; at < end; at += 16, from += 16) {
    const layer = v128.load(from);
    const source = f32x4.extract_lane(layer, 3);
    const as_ = source * opacity;
    if (as_ == 0) continue;
    const was = v128.load(at);
    const ab = f32x4.extract_lane(was, 3);
    // Most pixels are opaque: those need no division.
    const own = source == 1 ? layer : f32x4.div(layer, f32x4.splat(source));
    let s = own;
    let b = ab == 1 ? was : ab > 0 ? f32x4.div(was, f32x4.splat(ab)) : zero;
    let excess = zero;
    if (bounded) {
      excess = f32x4.pmax(zero, f32x4.sub(b, one));
      b = f32x4.pmin(one, f32x4.pmax(zero, b));
      s = f32x4.pmin(one, f32x4.pmax(zero, s));
    }
    const both = f32x4.add(mix(mode, b, s), excess);
    const made = f32x4.add(
      f32x4.add(f32x4.mul(was, f32x4.splat(1 - as_)), f32x4.mul(own, f32x4.splat((1 - ab) * as_))),
      f32x4.mul(both, f32x4.splat(as_ * ab)),
    );
    v128.store(at, f32x4.replace_lane(made, 3, as_ + ab - as_ * ab));
  }
}

/** Multiplies a plate by a coverage of a float a pixel. */
export function cover(plate: usize, coverage: usize, count: i32): void {
  for (let i = 0; i < count; i++) {
    const at = plate + ((<usize>i) << 4);
    v128.store(at, f32x4.mul(v128.load(at), v128.load32_splat(coverage + ((<usize>i) << 2))));
  }
}

/** Brings back a share of what was there before. @param mask a float a pixel of what is kept of the change; 0: none. */
export function restore(plate: usize, before: usize, count: i32, amount: f32, mask: usize): void {
  for (let i = 0; i < count; i++) {
    const at = (<usize>i) << 4;
    const much = mask ? amount * load<f32>(mask + ((<usize>i) << 2)) : amount;
    const was = v128.load(before + at);
    v128.store(plate + at, f32x4.add(was, f32x4.mul(f32x4.sub(v128.load(plate + at), was), f32x4.splat(much))));
  }
}
