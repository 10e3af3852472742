import { Problem } from '../problem/index.ts';

/** Display-referred sRGB, 8 bits, 4 bytes a pixel, rows from the top, alpha not premultiplied. */
export interface Picture {
  width: number;
  height: number;
  data: Uint8ClampedArray;
}

/** Linear scene-referred Rec.709, 3 floats a pixel, rows from the top. */
export interface LinearPicture {
  width: number;
  height: number;
  data: Float32Array;
}

/** A picture filled with one opaque colour (0..255). @throws Problem `picture/bad-size`. */
export function makePicture(
  width: number,
  height: number,
  fill: readonly [number, number, number] = [0, 0, 0],
): Picture {
  if (!(width > 0 && height > 0 && Number.isInteger(width) && Number.isInteger(height))) {
    throw new Problem(
      'picture/bad-size',
      `A picture of ${width} x ${height} cannot be made: use whole numbers above zero.`,
      'Picture size',
    );
  }
  const data = new Uint8ClampedArray(width * height * 4);
  for (let i = 0; i < data.length; i += 4) {
    data[i] = fill[0];
    data[i + 1] = fill[1];
    data[i + 2] = fill[2];
    data[i + 3] = 255;
  }
  return { width, height, data };
}
