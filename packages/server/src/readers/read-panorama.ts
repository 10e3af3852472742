import { readFile, writeFile } from 'node:fs/promises';
import sharp from 'sharp';
import { FloatType } from 'three';
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js';
import { srgbToLinear } from '@tender-orbit/core/finish';
import {
  allRound,
  exrWindows,
  isAllRound,
  PANORAMA_FITS,
  readHdr,
  reducePanorama,
  writeHdr,
  type PanoramaFit,
} from '@tender-orbit/core/interchange';
import { toMeanOne, type Panorama } from '@tender-orbit/core/light';
import { Problem } from '@tender-orbit/core/problem';
import { PANORAMA_SHAPE } from '@tender-orbit/core/contract';
import { MOST_PIXELS } from './plain-pictures.ts';

/** Width that panoramas light the set with: finer detail adds noise, not light. */
const WIDTH = 1024;

export interface PanoramaTask {
  kind: 'panorama';
  fileName: string;
  path: string;
  /** What is done with one that does not go all round; empty refuses it and says so. */
  fit: PanoramaFit | '';
  mirror: boolean;
  out: string;
}

/** Reads a panorama - .hdr, .exr or a picture - and writes it as lights use it: all round, reduced, mean luminance 1. */
export async function readPanoramaFile({ fileName, path, fit, mirror, out }: PanoramaTask): Promise<object> {
  const bytes = new Uint8Array(await readFile(path));
  const read = reducePanorama(await panoramaOf(bytes, fileName), WIDTH);
  if (!isAllRound(read) && !PANORAMA_FITS.includes(fit as PanoramaFit))
    throw new Problem(
      PANORAMA_SHAPE,
      `"${fileName}" is not twice as wide as it is high, as a panorama all round is: stretch it, or have the missing part filled.`,
      fileName,
    );
  const whole = toMeanOne(allRound(read, fit || 'stretch'));
  await writeFile(out, writeHdr(mirror ? flipped(whole) : whole));
  return {};
}

async function panoramaOf(bytes: Uint8Array, fileName: string): Promise<Panorama> {
  if (bytes[0] === 0x76 && bytes[1] === 0x2f) return readExr(bytes, fileName);
  if (bytes[0] === 0x23 && bytes[1] === 0x3f) return readHdr(bytes, fileName);
  try {
    const { data, info } = await sharp(bytes, { limitInputPixels: MOST_PIXELS })
      .autoOrient()
      .toColourspace('srgb')
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const linear = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));
    return { width: info.width, height: info.height, data: Float32Array.from(data, (v) => linear[v]) };
  } catch {
    throw new Problem(
      'panorama/broken',
      `"${fileName}" could not be read as a panorama: bring a .hdr, .exr, .jpg or .png file.`,
      fileName,
    );
  }
}

/** An OpenEXR picture as it is shown: data beyond the display window is cut off, what has none is black. */
function readExr(bytes: Uint8Array, fileName: string): Panorama {
  const { display, data: window } = exrWindows(bytes, fileName);
  let read;
  try {
    const whole = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
    read = new EXRLoader().setDataType(FloatType).parse(whole);
  } catch {
    throw new Problem(
      'panorama/broken',
      `"${fileName}" could not be read as OpenEXR: save it again, with scan lines and ZIP compression.`,
      fileName,
    );
  }
  const [w, h] = [0, 1].map((a) => window.max[a] - window.min[a] + 1);
  const [width, height] = [0, 1].map((a) => display.max[a] - display.min[a] + 1);
  const channels = read.data!.length / (w * h);
  const out = new Float32Array(width * height * 3);
  for (let y = Math.max(display.min[1], window.min[1]); y <= Math.min(display.max[1], window.max[1]); y++)
    for (let x = Math.max(display.min[0], window.min[0]); x <= Math.min(display.max[0], window.max[0]); x++) {
      // The reader gives rows from the bottom.
      const from = ((window.max[1] - y) * w + (x - window.min[0])) * channels;
      const to = ((y - display.min[1]) * width + (x - display.min[0])) * 3;
      for (let c = 0; c < 3; c++) out[to + c] = read.data![from + Math.min(c, channels - 1)];
    }
  return { width, height, data: out };
}

function flipped({ width, height, data }: Panorama): Panorama {
  const out = new Float32Array(data.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++) out[(y * width + x) * 3 + c] = data[(y * width + width - 1 - x) * 3 + c];
  return { width, height, data: out };
}
