import type { LayerBase } from '../document/index.ts';
import { after, inverseOf, type Homography, type Place } from './place.ts';
import type { Plate } from './plate.ts';

/** What of a layer says where the corners of its picture lie. */
export type Pinned = Pick<LayerBase, 'pinAX' | 'pinAY' | 'pinBX' | 'pinBY' | 'pinCX' | 'pinCY' | 'pinDX' | 'pinDY'>;
type Corner = readonly [number, number];

/** Where the corners of a picture lie in its layer's lengths, from the top left, clockwise. @param aspect width over height. */
export function cornersOf(pinned: Pinned, aspect: number, high: number): [Corner, Corner, Corner, Corner] {
  const [w, h] = [(aspect * high) / 2, high / 2];
  return [
    [-w + pinned.pinAX, h + pinned.pinAY],
    [w + pinned.pinBX, h + pinned.pinBY],
    [w + pinned.pinCX, -h + pinned.pinCY],
    [-w + pinned.pinDX, -h + pinned.pinDY],
  ];
}

/** Whether any corner is moved. */
export const isPinned = (p: Pinned): boolean =>
  [p.pinAX, p.pinAY, p.pinBX, p.pinBY, p.pinCX, p.pinCY, p.pinDX, p.pinDY].some((v) => v !== 0);

/** From a rectangle about the middle to four corners anywhere: the homography through them (Heckbert 1989). */
export function cornerHomography(aspect: number, high: number, corners: readonly Corner[]): Homography {
  // Of the unit square first, its corners (0, 0), (1, 0), (1, 1), (0, 1) from the top left.
  const [[x0, y0], [x1, y1], [x2, y2], [x3, y3]] = corners;
  const [sx, sy] = [x0 - x1 + x2 - x3, y0 - y1 + y2 - y3];
  const [dx1, dx2, dy1, dy2] = [x1 - x2, x3 - x2, y1 - y2, y3 - y2];
  const det = dx1 * dy2 - dx2 * dy1 || 1e-12;
  const [g, h] = [(sx * dy2 - dx2 * sy) / det, (dx1 * sy - sx * dy1) / det];
  const square: Homography = [x1 - x0 + g * x1, x3 - x0 + h * x3, x0, y1 - y0 + g * y1, y3 - y0 + h * y3, y0, g, h, 1];
  const toSquare: Homography = [1 / (aspect * high), 0, 0.5, 0, -1 / high, 0.5, 0, 0, 1];
  return after(square, toSquare);
}

/** A place as it is once a picture's corners are pinned; itself where they are not. */
export function pinnedPlace(place: Place, pinned: Pinned | null, aspect: number, high: number): Place {
  if (!pinned || !isPinned(pinned)) return place;
  const to = inverseOf(cornerHomography(aspect, high, cornersOf(pinned, aspect, high)));
  const { a, b, c, d, e, f, g, h, i } = place;
  const [na, nb, nc, nd, ne, nf, ng, nh, ni] = after(to, [a, b, c, d, e, f, g, h, i]);
  // Positive where the picture is before the eye: at its own middle.
  const sign = to[8] < 0 ? -1 : 1;
  const [a1, b1, c1] = [na * sign, nb * sign, nc * sign];
  return {
    ...{ a: a1, b: b1, c: c1, d: nd * sign, e: ne * sign, f: nf * sign, g: ng * sign, h: nh * sign, i: ni * sign },
    pixel: place.pixel,
  };
}

/** Cuts shares off a picture's sides. Changes the plate. */
export function crop(
  { width, height, data }: Plate,
  { cropLeft, cropRight, cropTop, cropBottom }: Pick<LayerBase, 'cropLeft' | 'cropRight' | 'cropTop' | 'cropBottom'>,
): void {
  if (cropLeft <= 0 && cropRight <= 0 && cropTop <= 0 && cropBottom <= 0) return;
  /** How much of a pixel lies between two edges, so that a crop that is keyed moves evenly. */
  const between = (at: number, from: number, to: number): number =>
    Math.max(0, Math.min(at + 1, to) - Math.max(at, from));
  for (let y = 0; y < height; y++) {
    const row = between(y, cropTop * height, (1 - cropBottom) * height);
    for (let x = 0; x < width; x++) {
      const share = row * between(x, cropLeft * width, (1 - cropRight) * width);
      if (share >= 1) continue;
      const at = (y * width + x) * 4;
      for (let c = 0; c < 4; c++) data[at + c] *= share;
    }
  }
}
