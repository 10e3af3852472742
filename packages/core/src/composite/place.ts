import { VIEWED_FROM, type LayerBase } from '../document/index.ts';
import { DEGREES, type Vec3 } from '../geometry/index.ts';
import { cos, sin, tan } from '../maths/index.ts';
import type { PixelBox, Plate } from './plate.ts';

/**
 * From pixels of a picture to a layer's own lengths: shares of the picture's height, y up, its middle at 0. A homography: where a layer
 * is turned in space g and h are not 0.
 */
export interface Place {
  /** u w = a px + b py + c, v w = d px + e py + f, w = g px + h py + i, for pixel centres at halves; behind the eye w is not above 0. */
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
  f: number;
  g: number;
  h: number;
  i: number;
  /** A pixel's width in the layer's own lengths. */
  pixel: number;
}

/** What of a layer says where it lies. */
export type Placed = Pick<LayerBase, 'x' | 'y' | 'scale' | 'stretch' | 'rotation'> &
  Partial<Pick<LayerBase, 'tilt' | 'turn' | 'anchorX' | 'anchorY' | 'skew'>>;

/** A homography by its rows: from lengths of a layer to shares of the picture's height, y up, the middle at 0. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

/** Where a layer lies in a picture of some size. @param within what it goes along with, as a homography. */
export function placeOf(placed: Placed, width: number, height: number, within?: Homography): Place {
  const { x, y, scale, stretch, rotation, tilt, turn, anchorX, anchorY, skew } = placed;
  if (within || tilt || turn || anchorX || anchorY || skew) {
    const own = homographyOf(placed);
    return placeBy(within ? after(within, own) : own, width, height);
  }
  const [co, si] = [cos(rotation * DEGREES), sin(rotation * DEGREES)];
  const [su, sv] = [1 / (height * scale * stretch), 1 / (height * scale)];
  const [mx, my] = [width / 2 + x * height, height / 2 - y * height];
  // A turn to the left in a picture whose rows go down.
  const [a, b] = [co * su, -si * su];
  const [d, e] = [-si * sv, -co * sv];
  return { a, b, c: -(a * mx + b * my), d, e, f: -(d * mx + e * my), g: 0, h: 0, i: 1, pixel: sv };
}

/**
 * Where a length of a layer across and one up come to once it is stretched, skewed and turned: in its plane, then leant back, then about
 * the upright. Right, up, and towards the eye.
 */
export function sidesOf({ scale, stretch, rotation, tilt = 0, turn = 0, skew = 0 }: Placed): readonly [Vec3, Vec3] {
  const [co, si] = [cos(rotation * DEGREES), sin(rotation * DEGREES)];
  const [ct, st] = [cos(tilt * DEGREES), sin(tilt * DEGREES)];
  const [cr, sr] = [cos(turn * DEGREES), sin(turn * DEGREES)];
  const spaced = (u: number, v: number): Vec3 => {
    const [across, up] = [co * u - si * v, si * u + co * v];
    const deep = -st * up;
    return [cr * across + sr * deep, ct * up, cr * deep - sr * across];
  };
  return [spaced(scale * stretch, 0), spaced(skew === 0 ? 0 : tan(skew * DEGREES) * scale * stretch, scale)];
}

/** A layer's lengths to the picture's. What is turned in space is seen by an eye that looks straight at the picture's middle. */
export function homographyOf(placed: Placed): Homography {
  const [[ux, uy, uz], [vx, vy, vz]] = sidesOf(placed);
  const [wu, wv] = [-uz / VIEWED_FROM, -vz / VIEWED_FROM];
  const { x, y, anchorX = 0, anchorY = 0 } = placed;
  return fromAnchor([ux, vx, x, uy, vy, y, wu, wv, 1], anchorX, anchorY);
}

/** The same for a layer whose anchor lies where its middle did. */
export function fromAnchor(m: Homography, anchorX: number, anchorY: number): Homography {
  const [a, b, c, d, e, f, g, h, i] = m;
  const moved = (across: number, up: number, end: number): number => end - across * anchorX - up * anchorY;
  return [a, b, moved(a, b, c), d, e, moved(d, e, f), g, h, moved(g, h, i)];
}

/** One homography after another. */
export function after(m: Homography, n: Homography): Homography {
  const at = (row: number, column: number): number =>
    m[row * 3] * n[column] + m[row * 3 + 1] * n[column + 3] + m[row * 3 + 2] * n[column + 6];
  return [at(0, 0), at(0, 1), at(0, 2), at(1, 0), at(1, 1), at(1, 2), at(2, 0), at(2, 1), at(2, 2)];
}

/** A homography the other way. */
export function inverseOf([m00, m01, m02, m10, m11, m12, m20, m21, m22]: Homography): Homography {
  const det = m00 * (m11 * m22 - m12 * m21) - m01 * (m10 * m22 - m12 * m20) + m02 * (m10 * m21 - m11 * m20) || 1e-12;
  const row = (...v: [number, number, number]): [number, number, number] =>
    v.map((n) => n / det) as [number, number, number];
  return [
    ...row(m11 * m22 - m12 * m21, m02 * m21 - m01 * m22, m01 * m12 - m02 * m11),
    ...row(m12 * m20 - m10 * m22, m00 * m22 - m02 * m20, m02 * m10 - m00 * m12),
    ...row(m10 * m21 - m11 * m20, m01 * m20 - m00 * m21, m00 * m11 - m01 * m10),
  ];
}

/** Where a layer lies by its homography, in a picture of some size. */
export function placeBy([ha, hb, hc, hd, he, hf, hg, hh, hi]: Homography, width: number, height: number): Place {
  const [mx, my] = [width / 2, height / 2];
  const [m00, m01, m02] = [ha * height + hg * mx, hb * height + hh * mx, hc * height + hi * mx];
  const [m10, m11, m12] = [hg * my - hd * height, hh * my - he * height, hi * my - hf * height];
  const [a, b, c, d, e, f, g, h, i] = inverseOf([m00, m01, m02, m10, m11, m12, hg, hh, hi]);
  // A pixel's width where its middle is.
  return { a, b, c, d, e, f, g, h, i, pixel: Math.sqrt(Math.abs(a * e - b * d)) * Math.abs(hi) };
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

/** Pixels that a rectangle of a layer's own lengths about its middle takes in a picture; all of them where it comes behind the eye. */
export function pixelsOf(
  place: Place,
  reach: readonly [number, number],
  width: number,
  from: number,
  to: number,
): PixelBox {
  const all: PixelBox = { left: 0, right: width, top: from, bottom: to };
  const { a, b, c, d, e, f, g, h, i } = place;
  const m = inverseOf([a, b, c, d, e, f, g, h, i]);
  const corners = [0, 1, 2, 3].map((k) => {
    const [u, v] = [(k & 1 ? 1 : -1) * reach[0], (k & 2 ? 1 : -1) * reach[1]];
    const w = m[6] * u + m[7] * v + m[8];
    return [(m[0] * u + m[1] * v + m[2]) / w, (m[3] * u + m[4] * v + m[5]) / w, w] as const;
  });
  if (!corners.every(([x, y, w]) => w > 1e-9 && Number.isFinite(x + y))) return all;
  const ends = (axis: 0 | 1, least: number, most: number): [number, number] => {
    const places = corners.map((corner) => corner[axis]);
    const within = (v: number): number => Math.min(most, Math.max(least, v));
    return [within(Math.floor(Math.min(...places)) - 1), within(Math.ceil(Math.max(...places)) + 1)];
  };
  const [[left, right], [top, bottom]] = [ends(0, 0, width), ends(1, from, to)];
  return { left, right, top, bottom };
}

/**
 * Paints a plate. @param reach beyond which nothing is, in the layer's own lengths across and up from its middle; left out: everywhere.
 * @param first row of the picture that the plate begins with.
 */
export function paint(plate: Plate, place: Place, of: Paint, reach?: readonly [number, number], first = 0): void {
  const { width, height, data } = plate;
  const { a, b, c, d, e, f, g, h, i } = place;
  const { left, right, top, bottom } = reach
    ? pixelsOf(place, reach, width, first, first + height)
    : { left: 0, right: width, top: first, bottom: first + height };
  const out = new Float64Array(3);
  // Only what is tilted is divided at every pixel.
  const flat = g === 0 && h === 0 ? 1 / i : 0;
  for (let y = top; y < bottom; y++) {
    const py = y + 0.5;
    for (let x = left, o = ((y - first) * width + x) * 4; x < right; x++, o += 4) {
      const px = x + 0.5;
      const w = g * px + h * py + i;
      if (w <= 0) continue;
      const share = flat !== 0 ? flat : 1 / w;
      const there = of((a * px + b * py + c) * share, (d * px + e * py + f) * share, out);
      if (there <= 0) continue;
      data[o] = out[0] * there;
      data[o + 1] = out[1] * there;
      data[o + 2] = out[2] * there;
      data[o + 3] = there;
    }
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
