import { at, Scene, TEXTURE_STRIDE } from './scene';

/**
 * Texture entry, i32: | 0 byte offset of level 0 | 1 width | 2 height | 3 wrap u | 4 wrap v | 5 sRGB | 6..11 uv matrix (f32) |
 * 12 levels | 13 unused |. Every level has half the size of the one before (at least 1) and lies behind it.
 */
const WRAP_MIRROR: i32 = 1;
const WRAP_CLAMP: i32 = 2;

/**
 * Looks a texture up, filtered between texels and between levels. `texels` is how many of level 0's the ray covers at
 * this place, per unit of square root of uv area: see Surface. Writes four doubles.
 */
export function sampleTexture(scene: Scene, texture: i32, s: f64, t: f64, coverage: f64, out: usize): void {
  const e = scene.textures + <usize>(texture * TEXTURE_STRIDE) * 4;
  const levels = load<i32>(e, 48);
  const u = <f64>load<f32>(e, 24) * s + <f64>load<f32>(e, 28) * t + <f64>load<f32>(e, 32);
  const v = <f64>load<f32>(e, 36) * s + <f64>load<f32>(e, 40) * t + <f64>load<f32>(e, 44);
  const stretch = Math.abs(
    <f64>load<f32>(e, 24) * <f64>load<f32>(e, 40) - <f64>load<f32>(e, 28) * <f64>load<f32>(e, 36),
  );
  const covered = coverage * Math.sqrt(stretch * <f64>load<i32>(e, 4) * <f64>load<i32>(e, 8));
  const lod = covered > 1 ? log2(covered) : 0.0;
  const level = <i32>lod;
  if (level >= levels - 1) {
    bilinear(scene, e, levels - 1, u, v, out, 1, false);
    return;
  }
  const part = lod - <f64>level;
  bilinear(scene, e, level, u, v, out, 1.0 - part, false);
  if (part > 0.01) bilinear(scene, e, level + 1, u, v, out, part, true);
  else bilinear(scene, e, level, u, v, out, part, true);
}

/** Base-two logarithm to a tenth: exponent and mantissa of the number itself. */
// @ts-ignore: decorator
@inline
function log2(x: f64): f64 {
  const bits = reinterpret<i64>(x);
  return <f64>(((bits >> 52) & 2047) - 1023) + <f64>(bits & 0xfffffffffffff) / 4503599627370496.0;
}

function bilinear(scene: Scene, e: usize, level: i32, u: f64, v: f64, out: usize, weight: f64, more: bool): void {
  let texels = scene.texels + <usize>load<i32>(e);
  let width = load<i32>(e, 4);
  let height = load<i32>(e, 8);
  for (let i = 0; i < level; i++) {
    texels += (<usize>(width * height)) << 2;
    width = max(1, width >> 1);
    height = max(1, height >> 1);
  }
  const wrapU = load<i32>(e, 12);
  const wrapV = load<i32>(e, 16);
  const srgb = load<i32>(e, 20) != 0;
  const x = u * <f64>width - 0.5;
  const y = v * <f64>height - 0.5;
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  const fx = x - x0;
  const fy = y - y0;
  const xa = wrapped(<i32>x0, width, wrapU);
  const xb = wrapped(<i32>x0 + 1, width, wrapU);
  const ya = wrapped(<i32>y0, height, wrapV) * width;
  const yb = wrapped(<i32>y0 + 1, height, wrapV) * width;
  const p00 = texels + <usize>((ya + xa) << 2);
  const p10 = texels + <usize>((ya + xb) << 2);
  const p01 = texels + <usize>((yb + xa) << 2);
  const p11 = texels + <usize>((yb + xb) << 2);
  const w00 = (1.0 - fx) * (1.0 - fy) * weight;
  const w10 = fx * (1.0 - fy) * weight;
  const w01 = (1.0 - fx) * fy * weight;
  const w11 = fx * fy * weight;
  for (let c: usize = 0; c < 4; c++) {
    const decoded = srgb && c < 3;
    const value =
      decode(scene, decoded, p00, c) * w00 +
      decode(scene, decoded, p10, c) * w10 +
      decode(scene, decoded, p01, c) * w01 +
      decode(scene, decoded, p11, c) * w11;
    store<f64>(out + (c << 3), more ? load<f64>(out + (c << 3)) + value : value);
  }
}

// @ts-ignore: decorator
@inline
function decode(scene: Scene, srgb: bool, pixel: usize, channel: usize): f64 {
  const byte = <i32>load<u8>(pixel + channel);
  return srgb ? at(scene.srgb, byte) : <f64>byte * (1.0 / 255.0);
}

function wrapped(i: i32, size: i32, mode: i32): i32 {
  if (mode == WRAP_CLAMP) return i < 0 ? 0 : i >= size ? size - 1 : i;
  if (mode == WRAP_MIRROR) {
    const n = ((i % (2 * size)) + 2 * size) % (2 * size);
    return n < size ? n : 2 * size - 1 - n;
  }
  return ((i % size) + size) % size;
}
