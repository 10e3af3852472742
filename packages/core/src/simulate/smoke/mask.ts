import { MOST_MASK, type EmitterMask } from '../../document/index.ts';
import { srgbToLinear, type PixelPicture } from '../../finish/index.ts';

/** Steps that a mask's values have. */
const STEPS = 15;

/**
 * The mask of a picture, made smaller to MOST_MASK pixels along its longer side: how opaque it is when parts of it are clear (a logo), else
 * its luminance (Rec. 709, of the light).
 * @param picture 8-bit sRGB with alpha apart from colour, rows from the top.
 */
export function emitterMask({ width, height, data }: PixelPicture, from: EmitterMask['from']): EmitterMask {
  const scale = Math.min(1, MOST_MASK / Math.max(width, height));
  const [w, h] = [width, height].map((n) => Math.max(1, Math.round(n * scale)));
  let clear = false;
  for (let at = 3; at < data.length && !clear; at += 4) clear = data[at] < 255;
  const share = (at: number): number => {
    if (clear) return data[at + 3] / 255;
    const [r, g, b] = [0, 1, 2].map((c) => srgbToLinear(data[at + c] / 255));
    return 0.2126 * r + 0.7152 * g + 0.0722 * b;
  };
  let values = '';
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let [sum, count] = [0, 0];
      const [left, right] = [Math.floor((x * width) / w), Math.ceil(((x + 1) * width) / w)];
      for (let j = Math.floor((y * height) / h); j < Math.ceil(((y + 1) * height) / h); j++)
        for (let i = left; i < right; i++, count++) sum += share((j * width + i) * 4);
      values += Math.round((sum / count) * STEPS).toString(16);
    }
  return { from, width: w, height: h, values };
}

/** Reads a mask over what gives off. */
export class MaskReader {
  private readonly values: Float32Array;

  constructor(private readonly mask: EmitterMask) {
    this.values = Float32Array.from(mask.values, (digit) => Number.parseInt(digit, 16) / STEPS);
  }

  /**
   * What it lets through at a place of the box round what gives off, 0..1: bilinear between its pixels, which go on beyond its edges (skin lies
   * outside the box round a thing).
   * @param x, y, z shares of the box, from the left, the floor and behind.
   */
  at(x: number, y: number, z: number): number {
    const { from, width, height } = this.mask;
    const [u, v] = from === 'front' ? [x, 1 - y] : from === 'side' ? [1 - z, 1 - y] : [x, z];
    const [px, py] = [u * width - 0.5, v * height - 0.5];
    const [i, j] = [Math.floor(px), Math.floor(py)];
    const [s, t] = [px - i, py - j];
    const value = (a: number, b: number): number =>
      this.values[Math.min(height - 1, Math.max(0, b)) * width + Math.min(width - 1, Math.max(0, a))];
    return (
      (value(i, j) * (1 - s) + value(i + 1, j) * s) * (1 - t) +
      (value(i, j + 1) * (1 - s) + value(i + 1, j + 1) * s) * t
    );
  }
}
