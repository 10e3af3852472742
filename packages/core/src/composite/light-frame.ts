import { exp2, log2 } from '../maths/index.ts';
import type { ViewTransform } from '../document/index.ts';
import { srgbToLinear } from '../finish/index.ts';
import { lightOf, type Picture } from '../picture/index.ts';
import { Problem } from '../problem/index.ts';

/**
 * A take's frame as light: linear Rec.709 after exposure, 1 is white before the view transform, and how much of what lies behind
 * the products they hide (their coverage, less what glass lets through).
 */
export interface LightFrame {
  width: number;
  height: number;
  /** Three floats a pixel. */
  light: Float32Array;
  /** One a pixel, 0..1. */
  matte: Float32Array;
}

const MARK = 0x5447494c;
const HEADER = 4;
/** The least and most light that is told apart, in stops, and steps over all of them: of 0.27 %, finer than any eye tells. */
const LEAST = -14;
const MOST = 18;
const STEPS = 8191;

/**
 * A frame as bytes, to be compressed: light in 13 bits by its logarithm (32 stops, 256 steps each), planes one after the other, each
 * pixel as the difference from the one before it, low bytes apart from high ones, which is what compresses best.
 */
export function writeLight({ width, height, light, matte }: LightFrame): Uint8Array {
  const count = width * height;
  const out = new Uint8Array(HEADER * 4 + count * 7);
  const words = new DataView(out.buffer);
  [MARK, 1, width, height].forEach((v, i) => words.setUint32(i * 4, v, true));
  for (let c = 0; c < 3; c++) {
    const low = HEADER * 4 + c * 2 * count;
    const high = low + count;
    let last = 0;
    for (let i = 0; i < count; i++) {
      const code = encode(light[i * 3 + c]);
      const step = (code - last) & 0xffff;
      out[low + i] = step & 0xff;
      out[high + i] = step >> 8;
      last = code;
    }
  }
  const at = HEADER * 4 + 6 * count;
  for (let i = 0, last = 0; i < count; i++) {
    const v = Math.round(Math.min(1, Math.max(0, matte[i])) * 255);
    out[at + i] = (v - last) & 0xff;
    last = v;
  }
  return out;
}

/** @throws Problem `take/light` for bytes that are no such frame. */
export function readLight(bytes: Uint8Array): LightFrame {
  const words = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const sound = bytes.length >= HEADER * 4 && words.getUint32(0, true) === MARK && words.getUint32(4, true) === 1;
  const [width, height] = sound ? [words.getUint32(8, true), words.getUint32(12, true)] : [0, 0];
  const count = width * height;
  if (count === 0 || bytes.length !== HEADER * 4 + count * 7)
    throw new Problem('take/light', 'The light of a frame cannot be read: render the take again.');
  const light = new Float32Array(count * 3);
  const matte = new Float32Array(count);
  const table = decodeTable();
  for (let c = 0; c < 3; c++) {
    const low = HEADER * 4 + c * 2 * count;
    let code = 0;
    for (let i = 0; i < count; i++) {
      code = (code + bytes[low + i] + (bytes[low + count + i] << 8)) & 0xffff;
      light[i * 3 + c] = table[code];
    }
  }
  const at = HEADER * 4 + 6 * count;
  for (let i = 0, v = 0; i < count; i++) {
    v = (v + bytes[at + i]) & 0xff;
    matte[i] = v / 255;
  }
  return { width, height, light, matte };
}

/** 0 is no light at all. */
function encode(v: number): number {
  if (!(v > 0)) return 0;
  const stops = log2(v);
  return Math.min(STEPS, Math.max(1, Math.round(((stops - LEAST) / (MOST - LEAST)) * STEPS)));
}

let decoded: Float32Array | null = null;
function decodeTable(): Float32Array {
  return (decoded ??= Float32Array.from({ length: STEPS + 1 }, (_, code) =>
    code === 0 ? 0 : exp2(LEAST + ((MOST - LEAST) * code) / STEPS),
  ));
}

/**
 * About the light that a display picture was made of, where a take has no light of its own: its view transform the other way, nothing
 * much above display white, and nothing hidden.
 */
export function lightOfPicture({ width, height, data }: Picture, view: ViewTransform): LightFrame {
  const linear = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));
  const back = lightOf(view);
  const light = new Float32Array(width * height * 3);
  const rgb = [0, 0, 0];
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) rgb[c] = linear[data[i * 4 + c]];
    back(rgb);
    for (let c = 0; c < 3; c++) light[i * 3 + c] = rgb[c];
  }
  return { width, height, light, matte: new Float32Array(width * height) };
}
