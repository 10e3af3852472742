import { log2, exp2 } from '../maths/index.ts';
import type { Picture } from '../picture/index.ts';
import { blend } from './blend.ts';
import { Pyramid } from './blur.ts';
import { placeOf } from './place.ts';
import type { Plate, Plates } from './plate.ts';
import { warp } from './warp.ts';

/** The shape of a logo, how much of it is at each pixel, and its widest place. Lengths are its picture's heights, from the middle, y up. */
export interface LogoShape {
  width: number;
  height: number;
  cover: Float32Array;
  /** The middle of the shape, and half of what it takes across and up. */
  middle: readonly [number, number];
  half: readonly [number, number];
  /** The middle of the largest circle that lies within it. */
  deepest: readonly [number, number];
  radius: number;
}

/** Pixels of the longer side that a shape is worked with. */
const LONGEST = 1024;
/** Shares of the frame's height and width that a logo comes to first. */
const [HIGH, WIDE] = [0.5, 0.7];
/** Share of the transition in which it comes there; in the rest it is flown through. */
const COMES = 0.45;

const shapes = new WeakMap<Picture, LogoShape | null>();

/** The shape of a picture: what of it cannot be seen through or, where nothing can, what is unlike its corner. Null: there is none. */
export function logoShape(picture: Picture): LogoShape | null {
  const known = shapes.get(picture);
  if (known !== undefined) return known;
  const { cover, width, height } = coverOf(picture);
  const shape = shapeOf(cover, width, height);
  shapes.set(picture, shape);
  return shape;
}

/** How much of a logo is at each pixel, in a picture whose longer side is not too long: means of its pixels. */
function coverOf({ width, height, data }: Picture): { cover: Float32Array; width: number; height: number } {
  const clear = data.some((v, i) => i % 4 === 3 && v < 250);
  const step = Math.max(1, Math.ceil(Math.max(width, height) / LONGEST));
  const [w, h] = [Math.ceil(width / step), Math.ceil(height / step)];
  const cover = new Float32Array(w * h);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = (y * width + x) * 4;
      const unlike = Math.abs(data[i] - data[0]) + Math.abs(data[i + 1] - data[1]) + Math.abs(data[i + 2] - data[2]);
      const there = clear ? data[i + 3] / 255 : Math.min(1, unlike / 128);
      cover[Math.floor(y / step) * w + Math.floor(x / step)] += there / (step * step);
    }
  return { cover, width: w, height: h };
}

function shapeOf(cover: Float32Array, width: number, height: number): LogoShape | null {
  let [left, right, top, bottom] = [width, -1, height, -1];
  const inside = depths(cover, width, height);
  let deepest = 0;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (inside[i] === 0) continue;
      [left, right] = [Math.min(left, x), Math.max(right, x + 1)];
      [top, bottom] = [Math.min(top, y), y + 1];
      if (inside[i] > inside[deepest]) deepest = i;
    }
  if (right < 0) return null;
  const at = (x: number, y: number): [number, number] => [(x - width / 2) / height, (height / 2 - y) / height];
  return {
    ...{ width, height, cover },
    middle: at((left + right) / 2, (top + bottom) / 2),
    half: [(right - left) / 2 / height, (bottom - top) / 2 / height],
    deepest: at((deepest % width) + 0.5, Math.floor(deepest / width) + 0.5),
    radius: Math.max(0.5, inside[deepest] - 0.5) / height,
  };
}

/** How far inside of a shape each pixel is, 0 outside: a chamfer of steps 3 and 4 over 3 (Borgefors 1986), which is right to a twelfth. */
function depths(cover: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(width * height);
  const at = (x: number, y: number): number => (x < 0 || y < 0 || x >= width || y >= height ? 0 : out[y * width + x]);
  for (let i = 0; i < out.length; i++) out[i] = cover[i] > 0.5 ? width + height : 0;
  const far = 4 / 3;
  const pass = (x: number, y: number, by: number): void => {
    const i = y * width + x;
    if (out[i] === 0) return;
    const straight = Math.min(at(x - by, y), at(x, y - by)) + 1;
    const slanted = Math.min(at(x - by, y - by), at(x + by, y - by)) + far;
    out[i] = Math.min(out[i], straight, slanted);
  };
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) pass(x, y, 1);
  for (let y = height - 1; y >= 0; y--) for (let x = width - 1; x >= 0; x--) pass(x, y, -1);
  return out;
}

/** Where a logo lies: the middle of its picture in heights of the frame from its middle, y up, and how high it is. */
export function logoPlace(
  { middle, half, deepest, radius }: LogoShape,
  aspect: number,
  t: number,
): { x: number; y: number; scale: number } {
  const rests = Math.min(HIGH / 2 / half[1], (WIDE * aspect) / 2 / half[0]);
  if (t < COMES) {
    const left = 1 - t / COMES;
    const scale = rests * (1 - left * left * left);
    return { x: -middle[0] * scale, y: -middle[1] * scale, scale };
  }
  const u = (t - COMES) / (1 - COMES);
  // Until the circle that lies within it has the whole frame in it, a twelfth and more to spare.
  const whole = Math.max(rests, (1.15 * Math.sqrt(aspect * aspect + 1)) / 2 / radius);
  const scale = rests * exp2(log2(whole / rests) * u * u);
  const still = (1 - u) * (1 - u);
  const away = (c: 0 | 1): number => (deepest[c] - middle[c]) * rests * still - deepest[c] * scale;
  return { x: away(0), y: away(1), scale };
}

/**
 * The coming picture is seen through a logo, which comes to the middle of the frame and is then flown through where it is widest.
 * @param logo with straight alpha. @returns whether there is a shape to see through.
 */
export function revealThrough(plates: Plates, going: Plate, coming: Plate, logo: Picture, t: number): boolean {
  const shape = logoShape(logo);
  if (!shape) return false;
  const { width, height } = going;
  const { x, y, scale } = logoPlace(shape, width / height, t);
  if (scale <= 0) return true;
  const mask = plates.make(width, height);
  plates.within(() => {
    const source = plates.raw(shape.width, shape.height);
    const { data } = source;
    shape.cover.forEach((there, i) => data.fill(there, i * 4, i * 4 + 4));
    const place = placeOf({ x, y, scale, stretch: 1, rotation: 0 }, width, height);
    warp(plates, mask, new Pyramid(plates, source), place, 1);
  });
  const open = plates.floats(width * height);
  const [into, from] = [open.data, mask.data];
  for (let i = 0; i < into.length; i++) into[i] = from[i * 4 + 3];
  const over = plates.copy(coming);
  plates.kernel.cover(over.at, open.at, width * height);
  blend(plates, going, over, 'over', 1);
  return true;
}
