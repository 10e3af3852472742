import { strToU8, zlibSync } from 'fflate';

/** One channel of an OpenEXR picture: `layer.X` by convention, 1 float a pixel, rows from the top. */
export interface ExrChannel {
  name: string;
  /** Half floats have 11 significant bits and end at 65504; depth and ids want whole ones. */
  type: 'half' | 'float';
  data: Float32Array;
}

export interface ExrPicture {
  width: number;
  height: number;
  channels: ExrChannel[];
  /** Text attributes of the header. */
  notes?: Record<string, string>;
}

type Deflate = (bytes: Uint8Array) => Uint8Array;

const MAGIC = 20000630;
/** Version 2, single part, scan lines; names may be longer than 31 characters. */
const VERSION = 2 | 0x400;
const ZIP = 3;
const ZIP_LINES = 16;
const HALF_MAX = 65504;

/**
 * A scan-line OpenEXR file with any number of layers, ZIP-compressed 16 lines at a time, as "OpenEXR File Layout" (Academy
 * Software Foundation) describes it. Values beyond a half float's range are held to it.
 *
 * @param deflate makes zlib streams (RFC 1950); where there is a native one it is several times faster than the own.
 * @throws RangeError when a channel has not one value a pixel, or two have the same name.
 */
export function writeExr(
  { width, height, channels, notes = {} }: ExrPicture,
  deflate: Deflate = (bytes) => zlibSync(bytes, { level: 6 }),
): Uint8Array {
  // The format wants channels in the order of their bytes.
  const sorted = [...channels].sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
  sorted.forEach(({ name, data }, i) => {
    if (data.length !== width * height) throw new RangeError(`Channel "${name}" has not one value a pixel.`);
    if (sorted[i + 1]?.name === name) throw new RangeError(`There are two channels "${name}".`);
  });
  const header = writeHeader(width, height, sorted, notes);
  const blocks: Uint8Array[] = [];
  for (let y = 0; y < height; y += ZIP_LINES) {
    blocks.push(packBlock(sorted, width, y, Math.min(height, y + ZIP_LINES), deflate));
  }
  const tableBytes = blocks.length * 8;
  const total = header.length + tableBytes + blocks.reduce((n, b) => n + b.length, 0);
  const out = new Uint8Array(total);
  out.set(header);
  const table = new DataView(out.buffer, header.length, tableBytes);
  let at = header.length + tableBytes;
  blocks.forEach((block, i) => {
    table.setBigUint64(i * 8, BigInt(at), true);
    out.set(block, at);
    at += block.length;
  });
  return out;
}

function writeHeader(width: number, height: number, channels: ExrChannel[], notes: Record<string, string>): Uint8Array {
  const bytes: number[] = [];
  const int = (v: number): void => void bytes.push(v & 255, (v >> 8) & 255, (v >> 16) & 255, (v >>> 24) & 255);
  const text = (s: string): void => void bytes.push(...strToU8(s), 0);
  const float = (v: number): void => void bytes.push(...new Uint8Array(Float32Array.from([v]).buffer));
  const attribute = (name: string, type: string, size: number): void => {
    text(name);
    text(type);
    int(size);
  };
  int(MAGIC);
  int(VERSION);
  const names = channels.map((c) => strToU8(c.name));
  attribute('channels', 'chlist', names.reduce((n, name) => n + name.length + 17, 0) + 1);
  channels.forEach(({ type }, i) => {
    bytes.push(...names[i], 0);
    int(type === 'half' ? 1 : 2);
    int(0);
    int(1);
    int(1);
  });
  bytes.push(0);
  attribute('compression', 'compression', 1);
  bytes.push(ZIP);
  for (const name of ['dataWindow', 'displayWindow']) {
    attribute(name, 'box2i', 16);
    [0, 0, width - 1, height - 1].forEach(int);
  }
  attribute('lineOrder', 'lineOrder', 1);
  bytes.push(0);
  attribute('pixelAspectRatio', 'float', 4);
  float(1);
  attribute('screenWindowCenter', 'v2f', 8);
  float(0);
  float(0);
  attribute('screenWindowWidth', 'float', 4);
  float(1);
  for (const [name, value] of Object.entries(notes)) {
    const encoded = strToU8(value);
    attribute(name, 'string', encoded.length);
    bytes.push(...encoded);
  }
  bytes.push(0);
  return Uint8Array.from(bytes);
}

/** Lines y0 to y1 of all channels, compressed, with the block's own header. */
function packBlock(channels: ExrChannel[], width: number, y0: number, y1: number, deflate: Deflate): Uint8Array {
  const lineBytes = channels.reduce((n, c) => n + width * (c.type === 'half' ? 2 : 4), 0);
  const raw = new Uint8Array(lineBytes * (y1 - y0));
  const view = new DataView(raw.buffer);
  let at = 0;
  for (let y = y0; y < y1; y++) {
    for (const { type, data } of channels) {
      for (let i = y * width; i < (y + 1) * width; i++) {
        if (type === 'half') {
          view.setUint16(at, toHalf(data[i]), true);
          at += 2;
        } else {
          view.setFloat32(at, data[i], true);
          at += 4;
        }
      }
    }
  }
  const packed = deflate(predict(raw));
  const body = packed.length < raw.length ? packed : raw;
  const out = new Uint8Array(8 + body.length);
  const head = new DataView(out.buffer);
  head.setInt32(0, y0, true);
  head.setInt32(4, body.length, true);
  out.set(body, 8);
  return out;
}

/** Even bytes first, then odd ones, each as the difference to the one before: what deflate shortens best. */
function predict(raw: Uint8Array): Uint8Array {
  const out = new Uint8Array(raw.length);
  const half = (raw.length + 1) >> 1;
  for (let i = 0; i < raw.length; i++) out[(i & 1 ? half : 0) + (i >> 1)] = raw[i];
  let before = out[0];
  for (let i = 1; i < out.length; i++) {
    const v = out[i];
    out[i] = (v - before + 384) & 255;
    before = v;
  }
  return out;
}

const floatBits = new Float32Array(1);
const intBits = new Uint32Array(floatBits.buffer);

/** IEEE 754 half precision, rounded to nearest even, held to the largest finite value; NaN becomes 0. */
export function toHalf(value: number): number {
  if (Number.isNaN(value)) return 0;
  floatBits[0] = Math.min(HALF_MAX, Math.max(-HALF_MAX, value));
  const bits = intBits[0];
  const sign = (bits >>> 16) & 0x8000;
  const exponent = ((bits >>> 23) & 255) - 127 + 15;
  let mantissa = bits & 0x7fffff;
  if (exponent <= 0) {
    // Too small for a normal half: the leading one becomes part of the mantissa.
    if (exponent < -10) return sign;
    mantissa |= 0x800000;
    const shift = 14 - exponent;
    const rounded = mantissa >> shift;
    const rest = mantissa & ((1 << shift) - 1);
    const tie = 1 << (shift - 1);
    return sign | (rounded + (rest > tie || (rest === tie && rounded & 1) ? 1 : 0));
  }
  const rest = mantissa & 0x1fff;
  const half = (exponent << 10) | (mantissa >> 13);
  // A carry runs into the exponent, which is what rounding up to the next power of two means.
  return sign | (half + (rest > 0x1000 || (rest === 0x1000 && half & 1) ? 1 : 0));
}
