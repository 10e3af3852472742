import { pow } from '../maths/index.ts';
import type { LinearPicture, Picture } from './picture.ts';

const START_COMPRESSION = 0.8 - 0.04;
const DESATURATION = 0.15;

/**
 * Khronos PBR Neutral tone mapping of one linear Rec.709 colour, in place at `at`. Follows the published reference
 * shader: base colours under 0.8 keep hue and saturation, highlights compress towards white.
 */
export function pbrNeutral(rgb: Float32Array | number[], at = 0): void {
  let r = rgb[at];
  let g = rgb[at + 1];
  let b = rgb[at + 2];
  const x = Math.min(r, g, b);
  const offset = x < 0.08 ? x - 6.25 * x * x : 0.04;
  r -= offset;
  g -= offset;
  b -= offset;
  const peak = Math.max(r, g, b);
  if (peak >= START_COMPRESSION) {
    const d = 1 - START_COMPRESSION;
    const newPeak = 1 - (d * d) / (peak + d - START_COMPRESSION);
    const scale = newPeak / peak;
    const mix = 1 - 1 / (DESATURATION * (peak - newPeak) + 1);
    r = r * scale * (1 - mix) + newPeak * mix;
    g = g * scale * (1 - mix) + newPeak * mix;
    b = b * scale * (1 - mix) + newPeak * mix;
  }
  rgb[at] = r;
  rgb[at + 1] = g;
  rgb[at + 2] = b;
}

const TABLE_SIZE = 4096;
/** sRGB encoding by table: a power per pixel costs five times the rest of the transform. */
const ENCODE = Float32Array.from({ length: TABLE_SIZE + 2 }, (_, i) => {
  const v = i / TABLE_SIZE;
  return 255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * pow(v, 1 / 2.4) - 0.055);
});

/** Linear 0..1 to sRGB 0..255, fractional; linear interpolation in a 4096-entry table (error under 0.2 of a step). */
export function encodeSrgb(v: number): number {
  if (!(v > 0)) return 0;
  if (v >= 1) return 255;
  // The dark end is a straight line in sRGB, where the table would be too coarse.
  if (v <= 0.0031308) return v * 12.92 * 255;
  const x = v * TABLE_SIZE;
  const i = x | 0;
  return ENCODE[i] + (ENCODE[i + 1] - ENCODE[i]) * (x - i);
}

/**
 * A filmic curve: a toe that deepens shadows, a straight middle and a long shoulder, by the rational function of Narkowicz
 * (2015) on each channel after a little of the light is shared between them, as film's layers do, so that strong colours
 * turn pale when they are bright. In place at `at`.
 */
export function filmic(rgb: Float32Array | number[], at = 0): void {
  const mean = (rgb[at] + rgb[at + 1] + rgb[at + 2]) / 3;
  for (let c = at; c < at + 3; c++) {
    // 0.8 sets middle grey where the neutral transform has it.
    const v = (rgb[c] * 0.94 + mean * 0.06) * 0.8;
    rgb[c] = Math.min(1, (v * (2.51 * v + 0.03)) / (v * (2.43 * v + 0.59) + 0.14));
  }
}

/** The most of display white that light can be found of: at white itself it may be any. */
const NEARLY_WHITE = 0.996;

/** The transform of pbrNeutral() the other way, by its closed form. In place at `at`. */
function neutralLight(rgb: number[]): void {
  const peak = Math.min(NEARLY_WHITE, Math.max(rgb[0], rgb[1], rgb[2]));
  for (let c = 0; c < 3; c++) rgb[c] = Math.min(NEARLY_WHITE, rgb[c]);
  if (peak > START_COMPRESSION) {
    const d = 1 - START_COMPRESSION;
    const before = (d * d) / (1 - peak) - d + START_COMPRESSION;
    // What was mixed with white, less that white, at the height that it had.
    const kept = 1 / (DESATURATION * (before - peak) + 1);
    for (let c = 0; c < 3; c++) rgb[c] = Math.max(0, ((rgb[c] - peak * (1 - kept)) / kept) * (before / peak));
  }
  const low = Math.min(rgb[0], rgb[1], rgb[2]);
  const x = Math.sqrt(Math.max(0, low) / 6.25);
  const offset = low < 0.04 ? x - 6.25 * x * x : 0.04;
  for (let c = 0; c < 3; c++) rgb[c] += offset;
}

/** The transform of filmic() the other way: its curve is a quotient of squares, its mixing keeps the mean. */
function filmicLight(rgb: number[]): void {
  for (let c = 0; c < 3; c++) {
    const y = Math.min(NEARLY_WHITE, Math.max(0, rgb[c]));
    const [p, q, r] = [2.51 - 2.43 * y, 0.03 - 0.59 * y, -0.14 * y];
    rgb[c] = (-q + Math.sqrt(q * q - 4 * p * r)) / (2 * p) / 0.8;
  }
  const mean = (rgb[0] + rgb[1] + rgb[2]) / 3;
  for (let c = 0; c < 3; c++) rgb[c] = Math.max(0, (rgb[c] - 0.06 * mean) / 0.94);
}

const LIGHT_OF: Record<'neutral' | 'filmic' | 'plain', (rgb: number[]) => void> = {
  neutral: neutralLight,
  filmic: filmicLight,
  plain: () => undefined,
};

/** A view transform the other way: the light of a linear display colour, in place; what is white comes out as nearly white. */
export const lightOf = (view: 'neutral' | 'filmic' | 'plain'): ((rgb: number[]) => void) => LIGHT_OF[view];

const TRANSFORMS: Record<'neutral' | 'filmic' | 'plain', (rgb: number[]) => void> = {
  neutral: pbrNeutral,
  filmic,
  plain: () => undefined,
};

/** What a grey of scene-linear `value` (after exposure) becomes through a view transform, linear, 1 is display white. */
export function displayedGrey(value: number, view: 'neutral' | 'filmic' | 'plain'): number {
  const rgb = [value, value, value];
  TRANSFORMS[view](rgb);
  return Math.min(1, rgb[0]);
}

/** The scene-linear grey that comes out as `displayed` (linear, below display white): the transform the other way. */
export function greyShownAs(displayed: number, view: 'neutral' | 'filmic' | 'plain'): number {
  let [low, high] = [0, 64];
  for (let i = 0; i < 48; i++) {
    const middle = (low + high) / 2;
    if (displayedGrey(middle, view) < displayed) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * Scene-linear to display: exposure, then a view transform (Khronos PBR Neutral, filmic, or none: light over 1 is cut
 * off), then sRGB. NaN and negative light come out black.
 */
export function toDisplay(
  linear: LinearPicture,
  exposureScale: number,
  view: 'neutral' | 'filmic' | 'plain' = 'neutral',
): Picture {
  const { width, height, data: source } = linear;
  const data = new Uint8ClampedArray(width * height * 4);
  const transform = TRANSFORMS[view];
  const rgb = [0, 0, 0];
  for (let i = 0, o = 0; i < source.length; i += 3, o += 4) {
    rgb[0] = Math.max(0, source[i] * exposureScale || 0);
    rgb[1] = Math.max(0, source[i + 1] * exposureScale || 0);
    rgb[2] = Math.max(0, source[i + 2] * exposureScale || 0);
    transform(rgb);
    // A clamped array rounds by itself.
    data[o] = encodeSrgb(rgb[0]);
    data[o + 1] = encodeSrgb(rgb[1]);
    data[o + 2] = encodeSrgb(rgb[2]);
    data[o + 3] = 255;
  }
  return { width, height, data };
}
