import { firstHalves, highPairs, lastHalves, lowPairs, storePixels } from './pixels';
import { decodeSrgb, encodeSrgb, exp2x4, log2x4 } from './powers';

/**
 * Colours of plates: grades, view transforms, codes. Four floats a pixel, 16 bytes. Four pixels are worked on at a time, turned so
 * that a vector has one channel of each; a plate has room for whole fours of pixels.
 */

const VIEW_NEUTRAL: i32 = 1;
const VIEW_FILMIC: i32 = 2;

/** Where the numbers of a grade lie: rows of four f32, and single ones. */
const GAIN: usize = 0;
const OFFSET: usize = 16;
const POWER: usize = 32;
const CONTRAST: usize = 48;
const PIVOT: usize = 52;
const SATURATION: usize = 56;
const VIBRANCE: usize = 60;

/** The numbers of a grade for a channel: what light is multiplied by, what is added, what its logarithm is multiplied by. */
// @ts-ignore: decorator
@inline
function channel(numbers: usize, row: usize, c: i32): v128 {
  return v128.load32_splat(numbers + row + <usize>(c << 2));
}

// @ts-ignore: decorator
@inline
function sloped(v: v128, gain: v128, offset: v128): v128 {
  return f32x4.pmax(f32x4.splat(0), f32x4.add(f32x4.mul(v, gain), offset));
}

/** Power and contrast: a straight line of the logarithm. */
// @ts-ignore: decorator
@inline
function bent(x: v128, slope: v128, lift: v128): v128 {
  const line = f32x4.add(f32x4.mul(log2x4(f32x4.pmax(x, f32x4.splat(1e-30))), slope), lift);
  return v128.and(f32x4.gt(x, f32x4.splat(0)), exp2x4(line));
}

/**
 * What powers take of the logarithm, for each channel and all of them: here it is worked out once. A compiler that moves what is worked
 * out to where it is used would work it out again for each four pixels; it does not move what is read from memory.
 */
const BENT: usize = memory.data(64, 16);
const LIFT: usize = 48;

/**
 * Grades colours as they are without their alpha: gain (exposure, white balance and slope), offset, power, contrast in stops about
 * its pivot, saturation about Rec.709 luminance, vibrance. core/composite/grade.ts has the same of one colour.
 * @param mask a float a pixel; 0: none.
 */
export function grade(plate: usize, count: i32, numbers: usize, amount: f32, mask: usize): void {
  const zero = f32x4.splat(0);
  const one = f32x4.splat(1);
  const contrast = load<f32>(numbers, CONTRAST);
  const pivot = f32x4.extract_lane(log2x4(f32x4.splat(load<f32>(numbers, PIVOT))), 0);
  v128.store(BENT, f32x4.splat(pivot * (1 - contrast)), LIFT);
  const curved = contrast != 1 || !i32x4.all_true(f32x4.eq(v128.load(numbers, POWER), one));
  for (let c: usize = 0; c < 12; c += 4)
    v128.store(BENT + (c << 2), f32x4.mul(v128.load32_splat(numbers + c, POWER), f32x4.splat(contrast)));
  const saturation = load<f32>(numbers, SATURATION);
  const vibrance = f32x4.splat(load<f32>(numbers, VIBRANCE));
  const coloured = saturation != 1 || load<f32>(numbers, VIBRANCE) != 0;
  const gainR = channel(numbers, GAIN, 0);
  const gainG = channel(numbers, GAIN, 1);
  const gainB = channel(numbers, GAIN, 2);
  const offsetR = channel(numbers, OFFSET, 0);
  const offsetG = channel(numbers, OFFSET, 1);
  const offsetB = channel(numbers, OFFSET, 2);
  for (let i = 0; i < count; i += 4) {
    const at = plate + ((<usize>i) << 4);
    const much = mask ? f32x4.mul(f32x4.splat(amount), v128.load(mask + ((<usize>i) << 2))) : f32x4.splat(amount);
    const p0 = v128.load(at);
    const p1 = v128.load(at, 16);
    const p2 = v128.load(at, 32);
    const p3 = v128.load(at, 48);
    const rg = firstHalves(lowPairs(p0, p1), lowPairs(p2, p3));
    const gg = lastHalves(lowPairs(p0, p1), lowPairs(p2, p3));
    const bb = firstHalves(highPairs(p0, p1), highPairs(p2, p3));
    const alpha = lastHalves(highPairs(p0, p1), highPairs(p2, p3));
    // Nothing has no colour: it stays nothing.
    let straight = one;
    if (v128.any_true(f32x4.ne(alpha, one)))
      straight = v128.bitselect(f32x4.div(one, alpha), zero, f32x4.gt(alpha, zero));
    let r = sloped(f32x4.mul(rg, straight), gainR, offsetR);
    let g = sloped(f32x4.mul(gg, straight), gainG, offsetG);
    let b = sloped(f32x4.mul(bb, straight), gainB, offsetB);
    if (curved) {
      const lift = v128.load(BENT, LIFT);
      r = bent(r, v128.load(BENT), lift);
      g = bent(g, v128.load(BENT, 16), lift);
      b = bent(b, v128.load(BENT, 32), lift);
    }
    if (coloured) {
      const y = f32x4.add(
        f32x4.add(f32x4.mul(r, f32x4.splat(0.2126)), f32x4.mul(g, f32x4.splat(0.7152))),
        f32x4.mul(b, f32x4.splat(0.0722)),
      );
      const high = f32x4.pmax(r, f32x4.pmax(g, b));
      const least = f32x4.pmin(r, f32x4.pmin(g, b));
      const dull = v128.bitselect(f32x4.div(least, high), one, f32x4.gt(high, zero));
      const s = f32x4.mul(f32x4.splat(saturation), f32x4.add(one, f32x4.mul(vibrance, dull)));
      r = f32x4.pmax(zero, f32x4.add(y, f32x4.mul(f32x4.sub(r, y), s)));
      g = f32x4.pmax(zero, f32x4.add(y, f32x4.mul(f32x4.sub(g, y), s)));
      b = f32x4.pmax(zero, f32x4.add(y, f32x4.mul(f32x4.sub(b, y), s)));
    }
    r = f32x4.add(rg, f32x4.mul(f32x4.sub(f32x4.mul(r, alpha), rg), much));
    g = f32x4.add(gg, f32x4.mul(f32x4.sub(f32x4.mul(g, alpha), gg), much));
    b = f32x4.add(bb, f32x4.mul(f32x4.sub(f32x4.mul(b, alpha), bb), much));
    storePixels(at, r, g, b, alpha);
  }
}

/** Light of a channel that a transform can take: none below nothing, and not so much that sums run over. */
// @ts-ignore: decorator
@inline
function sound(v: v128): v128 {
  return f32x4.pmin(f32x4.splat(1e6), f32x4.pmax(f32x4.splat(0), v));
}

/** The filmic curve of a channel: see core/picture/view-transform.ts. @param shared 0.048 of the sum of all channels over three. */
// @ts-ignore: decorator
@inline
function filmic(v: v128, shared: v128): v128 {
  const x = f32x4.add(f32x4.mul(v, f32x4.splat(0.752)), shared);
  const over = f32x4.mul(x, f32x4.add(f32x4.mul(x, f32x4.splat(2.51)), f32x4.splat(0.03)));
  const under = f32x4.mul(x, f32x4.add(f32x4.mul(x, f32x4.splat(2.43)), f32x4.splat(0.59)));
  return f32x4.div(over, f32x4.add(under, f32x4.splat(0.14)));
}

/** A channel as bytes of sRGB. */
// @ts-ignore: decorator
@inline
function byteOf(v: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(encodeSrgb(v), f32x4.splat(255))));
}

/**
 * Light through a view transform as opaque sRGB from 0 to 1; `to` may be `from`.
 * @param bytes 1: as opaque bytes, four a pixel, as toBytes() makes them of the sRGB; `to` has room for whole fours of pixels.
 */
export function seen(from: usize, to: usize, count: i32, view: i32, bytes: i32): void {
  const one = f32x4.splat(1);
  for (let i = 0; i < count; i += 4) {
    const at = (<usize>i) << 4;
    const p0 = v128.load(from + at);
    const p1 = v128.load(from + at, 16);
    const p2 = v128.load(from + at, 32);
    const p3 = v128.load(from + at, 48);
    let r = sound(firstHalves(lowPairs(p0, p1), lowPairs(p2, p3)));
    let g = sound(lastHalves(lowPairs(p0, p1), lowPairs(p2, p3)));
    let b = sound(firstHalves(highPairs(p0, p1), highPairs(p2, p3)));
    if (view == VIEW_NEUTRAL) {
      // Khronos PBR Neutral.
      const least = f32x4.pmin(r, f32x4.pmin(g, b));
      const dark = f32x4.sub(least, f32x4.mul(f32x4.splat(6.25), f32x4.mul(least, least)));
      const offset = v128.bitselect(dark, f32x4.splat(0.04), f32x4.lt(least, f32x4.splat(0.08)));
      r = f32x4.sub(r, offset);
      g = f32x4.sub(g, offset);
      b = f32x4.sub(b, offset);
      const peak = f32x4.pmax(r, f32x4.pmax(g, b));
      const bright = f32x4.ge(peak, f32x4.splat(0.76));
      if (v128.any_true(bright)) {
        const shown = f32x4.sub(one, f32x4.div(f32x4.splat(0.0576), f32x4.sub(peak, f32x4.splat(0.52))));
        const kept = f32x4.div(one, f32x4.add(one, f32x4.mul(f32x4.splat(0.15), f32x4.sub(peak, shown))));
        const scale = f32x4.div(f32x4.mul(shown, kept), peak);
        const white = f32x4.mul(shown, f32x4.sub(one, kept));
        r = v128.bitselect(f32x4.add(f32x4.mul(r, scale), white), r, bright);
        g = v128.bitselect(f32x4.add(f32x4.mul(g, scale), white), g, bright);
        b = v128.bitselect(f32x4.add(f32x4.mul(b, scale), white), b, bright);
      }
    } else if (view == VIEW_FILMIC) {
      const shared = f32x4.mul(f32x4.add(r, f32x4.add(g, b)), f32x4.splat(0.016));
      r = filmic(r, shared);
      g = filmic(g, shared);
      b = filmic(b, shared);
    }
    if (bytes) {
      const rg = v128.or(byteOf(r), i32x4.shl(byteOf(g), 8));
      const ba = v128.or(i32x4.shl(byteOf(b), 16), i32x4.splat(0xff000000));
      v128.store(to + ((<usize>i) << 2), v128.or(rg, ba));
    } else storePixels(to + at, encodeSrgb(r), encodeSrgb(g), encodeSrgb(b), one);
  }
}

/** How fast sRGB rises at white: above it codes go on as a straight line, so that light above white comes back as it was. */
const RISE: f32 = 1.055 / 2.4;

/** Codes the colours of an opaque plate as sRGB, or back as light. */
export function recode(plate: usize, count: i32, toLight: i32): void {
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  const rise = f32x4.splat(toLight ? <f32>1 / RISE : RISE);
  for (let i = 0; i < count; i++) {
    const at = plate + ((<usize>i) << 4);
    const v = v128.load(at);
    const over = f32x4.mul(f32x4.pmax(zero, f32x4.sub(v, one)), rise);
    const coded = toLight ? decodeSrgb(f32x4.pmin(one, v)) : encodeSrgb(v);
    v128.store(at, f32x4.replace_lane(f32x4.add(coded, over), 3, f32x4.extract_lane(v, 3)));
  }
}

/** Opaque bytes, four a pixel; `to` has room for whole fours of pixels. */
export function toBytes(from: usize, count: i32, to: usize): void {
  const full = f32x4.splat(255);
  const opaque = i32x4.splat(0xff000000);
  for (let i = 0; i < count; i += 4) {
    const at = from + ((<usize>i) << 4);
    const a = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(v128.load(at), full)));
    const b = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(v128.load(at, 16), full)));
    const c = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(v128.load(at, 32), full)));
    const d = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(v128.load(at, 48), full)));
    const bytes = i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(a, b), i16x8.narrow_i32x4_s(c, d));
    v128.store(to + ((<usize>i) << 2), v128.or(bytes, opaque));
  }
}

/** Three floats a pixel as an opaque plate, times a gain. */
export function opaque(from: usize, to: usize, count: i32, gain: f32): void {
  for (let i = 0; i < count; i++) {
    const at = from + <usize>i * 12;
    const out = to + ((<usize>i) << 4);
    store<f32>(out, load<f32>(at) * gain);
    store<f32>(out, load<f32>(at, 4) * gain, 4);
    store<f32>(out, load<f32>(at, 8) * gain, 8);
    store<f32>(out, 1, 12);
  }
}
