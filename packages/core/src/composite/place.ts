import type { LayerBase } from '../document/index.ts';
import { DEGREES } from '../geometry/index.ts';
import { cos, sin } from '../maths/index.ts';
import type { Plate } from './plate.ts';

/** From pixels of a picture to a layer's own lengths: shares of the picture's height, y up, its middle at 0. */
export interface Place {
  /** u = a px + b py + c, v = d px + e py + f, for pixel centres at halves. */
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
  f: number;
  /** A pixel's width in the layer's own lengths. */
  pixel: number;
}

/** What of a layer says where it lies. */
export type Placed = Pick<LayerBase, 'x' | 'y' | 'scale' | 'stretch' | 'rotation'>;

/** Where a layer lies in a picture of some size. */
export function placeOf({ x, y, scale, stretch, rotation }: Placed, width: number, height: number): Place {
  const [co, si] = [cos(rotation * DEGREES), sin(rotation * DEGREES)];
  const [su, sv] = [1 / (height * scale * stretch), 1 / (height * scale)];
  const [mx, my] = [width / 2 + x * height, height / 2 - y * height];
  // A turn to the left in a picture whose rows go down.
  const [a, b] = [co * su, -si * su];
  const [d, e] = [-si * sv, -co * sv];
  return { a, b, c: -(a * mx + b * my), d, e, f: -(d * mx + e * my), pixel: sv };
}

/**
 * The smallest scale at which a picture, turned and moved, leaves no corner of a frame empty: every corner of the frame, seen from the
 * picture, lies within it.
 * @param aspect of the frame, width over height. @param picture its size at scale 1 in heights of the frame; left out: the frame's own.
 */
export function coveringScale(
  { x, y, rotation }: Pick<Placed, 'x' | 'y' | 'rotation'>,
  aspect: number,
  picture: { wide: number; high: number } = { wide: aspect, high: 1 },
): number {
  const [co, si] = [cos(rotation * DEGREES), sin(rotation * DEGREES)];
  let scale = 0;
  for (const [cx, cy] of [
    [aspect / 2, 0.5],
    [-aspect / 2, 0.5],
    [aspect / 2, -0.5],
    [-aspect / 2, -0.5],
  ]) {
    const [dx, dy] = [cx - x, cy - y];
    const [u, v] = [dx * co + dy * si, dy * co - dx * si];
    scale = Math.max(scale, Math.abs(u) / (picture.wide / 2), Math.abs(v) / (picture.high / 2));
  }
  return scale;
}

/** What a layer is at a place of its own: colour from 0 on into `out`, @returns how much of it is there, 0..1. */
export type Paint = (u: number, v: number, out: Float64Array) => number;

/** Paints every pixel of a plate. */
export function paint({ width, height, data }: Plate, { a, b, c, d, e, f }: Place, of: Paint): void {
  const out = new Float64Array(3);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 4) {
      const [px, py] = [x + 0.5, y + 0.5];
      const there = of(a * px + b * py + c, d * px + e * py + f, out);
      if (there <= 0) continue;
      data[o] = out[0] * there;
      data[o + 1] = out[1] * there;
      data[o + 2] = out[2] * there;
      data[o + 3] = there;
    }
}

/** How much is there at every pixel. */
export function coverage(
  out: Float32Array,
  width: number,
  height: number,
  { a, b, c, d, e, f }: Place,
  of: (u: number, v: number) => number,
): void {
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      out[i] = of(a * (x + 0.5) + b * (y + 0.5) + c, d * (x + 0.5) + e * (y + 0.5) + f);
}

/** Coverage of a pixel whose middle is so far inside an edge (negative: outside) that is so wide. */
export function edge(inside: number, wide: number): number {
  const t = inside / wide + 0.5;
  return t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t);
}
