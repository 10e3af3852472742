import { cos, hypot, sin } from '../maths/index.ts';
import { hexToLinear, linearToSrgb, type PictureSource } from './finish.ts';
import { drawMask, type Mask } from './mask.ts';
import { patternAt, type PatternRecipe } from './patterns.ts';

/** An 8-bit sRGB picture, RGBA with alpha apart from colour, rows from the top. */
export interface PixelPicture {
  width: number;
  height: number;
  data: Uint8Array | Uint8ClampedArray;
}

/** What a picture is known by: the same key, the same pixels. */
export function pictureKey(source: PictureSource): string {
  return JSON.stringify([source.asset, source.pattern, source.look, source.emboss, source.mask]);
}

/**
 * The pixels of a source: its pattern drawn, or `stored` (the decoded file), then levels, tint, mask and emboss.
 * @param stored the decoded file; not used for a pattern.
 */
export function makePicture(source: PictureSource, stored?: PixelPicture): PixelPicture {
  const base = source.pattern ? drawPattern(source.pattern) : stored!;
  const adjusted = source.look ? adjust(base, source.look) : base;
  const masked = source.mask ? cutOut(adjusted, source.mask) : adjusted;
  return source.emboss ? normalMap(masked) : masked;
}

/** A pattern as a picture; four samples a pixel, so that edges are smooth. */
export function drawPattern(recipe: PatternRecipe): PixelPicture {
  const { size } = recipe;
  const [ground, figure, accent] = recipe.colours.map((hex) => hexToLinear(hex) ?? [0.5, 0.5, 0.5]);
  const data = new Uint8ClampedArray(size * size * 4);
  const steps = [0.25, 0.75];
  for (let y = 0; y < size; y++) {
    for (let x = 0; x < size; x++) {
      let [f, a] = [0, 0];
      for (const dy of steps)
        for (const dx of steps) {
          const value = patternAt(recipe, (x + dx) / size, (y + dy) / size);
          f += value.figure / 4;
          a += value.accent / 4;
        }
      const top = Math.min(f, a);
      const at = (y * size + x) * 4;
      for (let c = 0; c < 3; c++)
        data[at + c] = linearToSrgb(ground[c] * (1 - f) + figure[c] * (f - top) + accent[c] * top) * 255 + 0.5;
      data[at + 3] = 255;
    }
  }
  return { width: size, height: size, data };
}

function adjust({ width, height, data }: PixelPicture, look: NonNullable<PictureSource['look']>): PixelPicture {
  const tint = [1, 3, 5].map((at) => parseInt(look.tint.slice(at, at + 2), 16) / 255);
  const range = Math.max(1e-3, look.white - look.black);
  const table = tint.map((t) =>
    Uint8ClampedArray.from({ length: 256 }, (_, v) => {
      const level = Math.min(1, Math.max(0, (v / 255 - look.black) / range));
      return (look.invert ? 1 - level : level) * t * 255 + 0.5;
    }),
  );
  const out = new Uint8ClampedArray(data.length);
  for (let i = 0; i < data.length; i += 4) {
    for (let c = 0; c < 3; c++) out[i + c] = table[c][data[i + c]];
    out[i + 3] = data[i + 3];
  }
  return { width, height, data: out };
}

/** Most pixels along a side of art that is laid out. */
const LAID_OUT = 2048;

/** Repeated, moved and turned art as one picture of the whole label, as KHR_texture_transform has it; nearest pixels. */
function layOut({ width, height, data }: PixelPicture, place: NonNullable<Mask['place']>): PixelPicture {
  const { offset, repeat, rotation } = place;
  const size = [width * repeat[0], height * repeat[1]].map((s) =>
    Math.min(LAID_OUT, Math.max(16, Math.round(Math.abs(s)))),
  );
  const [c, s] = [cos(rotation), sin(rotation)];
  const out = new Uint32Array(size[0] * size[1]);
  const from = new Uint32Array(new Uint8Array(data).buffer);
  const wrap = (v: number, n: number): number => Math.min(n - 1, Math.floor((v - Math.floor(v)) * n));
  for (let y = 0; y < size[1]; y++) {
    for (let x = 0; x < size[0]; x++) {
      const [u, v] = [((x + 0.5) / size[0]) * repeat[0], ((y + 0.5) / size[1]) * repeat[1]];
      const column = wrap(u * c + v * s + offset[0], width);
      out[y * size[0] + x] = from[wrap(v * c - u * s + offset[1], height) * width + column];
    }
  }
  return { width: size[0], height: size[1], data: new Uint8ClampedArray(out.buffer) };
}

function cutOut(picture: PixelPicture, mask: Mask): PixelPicture {
  const { width, height, data } = mask.place ? layOut(picture, mask.place) : picture;
  const kept = drawMask(mask, width, height);
  const out = new Uint8ClampedArray(data);
  kept.forEach((share, i) => {
    out[i * 4 + 3] = data[i * 4 + 3] * share;
  });
  return { width, height, data: out };
}

/** Dark ink (and clear ground as paper) as heights: printed parts are raised. Normals by Sobel's filter, edges wrapping. */
function normalMap({ width, height, data }: PixelPicture): PixelPicture {
  const heights = Float32Array.from({ length: width * height }, (_, i) => {
    const luma = (0.2126 * data[i * 4] + 0.7152 * data[i * 4 + 1] + 0.0722 * data[i * 4 + 2]) / 255;
    return ((1 - luma) * data[i * 4 + 3]) / 255;
  });
  const at = (x: number, y: number): number => heights[((y + height) % height) * width + ((x + width) % width)];
  const out = new Uint8ClampedArray(data.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [l, r, u, d] = [x - 1, x + 1, y - 1, y + 1];
      const dx = (at(r, u) + 2 * at(r, y) + at(r, d) - at(l, u) - 2 * at(l, y) - at(l, d)) / 4;
      const dy = (at(l, d) + 2 * at(x, d) + at(r, d) - at(l, u) - 2 * at(x, u) - at(r, u)) / 4;
      // glTF's normal maps: green up, while rows run down.
      const length = hypot(dx, dy, 1);
      out.set(
        [(-dx / length) * 127.5 + 128, (dy / length) * 127.5 + 128, (1 / length) * 127.5 + 128, 255],
        (y * width + x) * 4,
      );
    }
  }
  return { width, height, data: out };
}
