import { strFromU8, strToU8 } from 'fflate';
import { exp2, log2 } from '../maths/index.ts';
import type { ViewTransform } from '../document/index.ts';
import { srgbToLinear } from '../finish/index.ts';
import { lightOf, type Picture } from '../picture/index.ts';
import { Problem } from '../problem/index.ts';
import type { FrameSpace } from '../scene/index.ts';

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
  /** What layers that stand in the set need to know; missing in takes from before there were such. */
  depths?: FrameDepths;
}

export interface FrameDepths {
  space: FrameSpace;
  /** Metres along the ray to the first surface, one a pixel; 0 where nothing is. */
  depth: Float32Array;
  /** Names of the numbers in `ids`. */
  things: readonly string[];
  /** The two things that cover most of a pixel (NOTHING: none) and their shares, two bytes a pixel each. */
  ids: Uint8Array;
  covers: Uint8Array;
  /** The same of finishes, by their names; missing in takes from before they were kept. */
  finishes?: Covered;
  /** How glass of products colours what is seen through it: linear RGB with a mean of 1, 3 floats a pixel; missing where none does. */
  tint?: Float32Array;
  /**
   * How far what is seen came since the frame before, right and down in heights of the picture, two floats a pixel; missing in takes from
   * before it was kept.
   */
  motion?: Float32Array;
}

/** The two of many that cover most of each pixel (NOTHING: none) and their shares, two bytes a pixel each. */
export interface Covered {
  names: readonly string[];
  ids: Uint8Array;
  covers: Uint8Array;
}
/** No thing. */
export const NOTHING = 255;

const MARK = 0x5447494c;
const VERSION = 2;
const HEADER = 4;
/** The least and most light that is told apart, in stops, and steps over all of them: of 0.27 %, finer than any eye tells. */
const LEAST = -14;
const MOST = 18;
const STEPS = 8191;

/**
 * A frame as bytes, to be compressed: light in 13 bits by its logarithm (32 stops, 256 steps each), planes one after the other, each
 * pixel as the difference from the one before it, low bytes apart from high ones, which is what compresses best. Then the matte, and what
 * is known of depth: the camera and places as JSON, metres like light, things and what they cover.
 */
export function writeLight({ width, height, light, matte, depths }: LightFrame): Uint8Array {
  const count = width * height;
  const finishes = depths?.finishes;
  const about = depths
    ? {
        space: depths.space,
        things: depths.things,
        finishes: finishes?.names,
        tinted: depths.tint && true,
        moving: depths.motion && true,
      }
    : null;
  const json = strToU8(about ? JSON.stringify(about) : '');
  const writer = new Writer((HEADER + 1) * 4 + count * bytesOf(about) + json.length);
  writer.words(MARK, VERSION, width, height, json.length);
  writer.bytes(json);
  for (let c = 0; c < 3; c++) writer.plane(light, c, 3, count);
  writer.shares(matte, 0, 1, count, 255);
  if (!depths) return writer.out;
  writer.plane(depths.depth, 0, 1, count);
  const covered = finishes ? [finishes.ids, finishes.covers] : [];
  for (const plane of [depths.ids, depths.covers, ...covered])
    for (let k = 0; k < 2; k++) writer.numbers(plane, k, 2, count);
  const { tint, motion } = depths;
  if (tint) for (let c = 0; c < 3; c++) writer.shares(tint, c, 3, count, TINT_STEPS);
  if (motion) for (let c = 0; c < 2; c++) writer.ways(motion, c, 2, count);
  return writer.out;
}

/** What is said of a frame with depths, as JSON. */
interface About {
  space: FrameSpace;
  things: readonly string[];
  /** Names; missing: finishes were not kept. */
  finishes?: readonly string[];
  /** Whether glass colours what is seen through it. */
  tinted?: boolean;
  /** Whether it says how far what is seen came. */
  moving?: boolean;
}

/** Steps of 1 in how glass colours: three times a mean of 1 is the most that a colour can be. */
const TINT_STEPS = 85;

/** Steps of a picture's height in which motion is kept: a fifteenth of a pixel of full HD. */
const MOTION_STEPS = 16384;
const MOST_MOTION = 0x7fff;
const motionCode = (v: number): number =>
  Math.max(-MOST_MOTION, Math.min(MOST_MOTION, Math.round(v * MOTION_STEPS))) & 0xffff;

/** Bytes of a pixel: its light and matte, its depth and things, its finishes, how its glass colours, how far it came. */
const bytesOf = (about: About | null): number =>
  7 + (about ? 6 : 0) + (about?.finishes ? 4 : 0) + (about?.tinted ? 3 : 0) + (about?.moving ? 4 : 0);

/** @throws Problem `take/light` for bytes that are no such frame. */
export function readLight(bytes: Uint8Array): LightFrame {
  let light = new Float32Array(0);
  const rest = readFrame(bytes, (count) => (light = new Float32Array(count)));
  return { ...rest, light };
}

/** A frame without its light. */
export type DepthFrame = Omit<LightFrame, 'light'>;

/** What is known of a frame besides its light, in a fraction of the time. @throws like readLight() */
export const readDepths = (bytes: Uint8Array): DepthFrame => readFrame(bytes, null);

function readFrame(bytes: Uint8Array, make: ((count: number) => Float32Array) | null): DepthFrame {
  const reader = new Reader(bytes);
  const [mark, version, width, height] = reader.words(HEADER);
  const length = mark === MARK && version === VERSION ? reader.words(1)[0] : 0;
  const count = width * height;
  const begins = HEADER * 4 + (version === VERSION ? 4 + length : 0);
  if (mark !== MARK || version < 1 || version > VERSION || count === 0 || bytes.length < begins) throw unreadable();
  const about = length > 0 ? (reader.json(length) as About) : null;
  if (bytes.length !== begins + count * bytesOf(about)) throw unreadable();
  const light = make?.(count * 3);
  for (let c = 0; c < 3; c++)
    if (light) reader.plane(light, c, 3, count);
    else reader.skip(count * 2);
  const matte = new Float32Array(count);
  reader.shares(matte, 0, 1, count, 255);
  if (!about) return { width, height, matte };
  const depth = new Float32Array(count);
  reader.plane(depth, 0, 1, count);
  const covered = (): Pick<Covered, 'ids' | 'covers'> => {
    const [ids, covers] = [new Uint8Array(count * 2), new Uint8Array(count * 2)];
    for (const plane of [ids, covers]) for (let k = 0; k < 2; k++) reader.numbers(plane, k, 2, count);
    return { ids, covers };
  };
  const { space, things, finishes, tinted, moving } = about;
  const depths: FrameDepths = { space, things, depth, ...covered() };
  if (finishes) depths.finishes = { names: finishes, ...covered() };
  if (tinted) {
    depths.tint = new Float32Array(count * 3);
    for (let c = 0; c < 3; c++) reader.shares(depths.tint, c, 3, count, TINT_STEPS);
  }
  if (moving) {
    depths.motion = new Float32Array(count * 2);
    for (let c = 0; c < 2; c++) reader.ways(depths.motion, c, 2, count);
  }
  return { width, height, matte, depths };
}

/** What one light of a take brings to a frame: the id of its thing, and three floats a pixel like LightFrame's. */
export interface LightPart {
  light: string;
  data: Float32Array;
}

/** A take's frame light by light. */
export interface LightParts {
  width: number;
  height: number;
  parts: readonly LightPart[];
}

const PARTS_MARK = 0x54524150;

/** Lights of a frame as bytes, to be compressed, each as writeLight() has it. */
export function writeLightParts({ width, height, parts }: LightParts): Uint8Array {
  const count = width * height;
  const json = strToU8(JSON.stringify(parts.map(({ light }) => light)));
  const writer = new Writer((HEADER + 1) * 4 + count * 6 * parts.length + json.length);
  writer.words(PARTS_MARK, 1, width, height, json.length);
  writer.bytes(json);
  for (const { data } of parts) for (let c = 0; c < 3; c++) writer.plane(data, c, 3, count);
  return writer.out;
}

/** @throws Problem `take/light` for bytes that are no lights of a frame. */
export function readLightParts(bytes: Uint8Array): LightParts {
  const reader = new Reader(bytes);
  const [mark, version, width, height, length] = reader.words(HEADER + 1);
  if (mark !== PARTS_MARK || version !== 1 || (HEADER + 1) * 4 + length > bytes.length) throw unreadable();
  const lights = reader.json(length) as string[];
  const count = width * height;
  if (bytes.length !== (HEADER + 1) * 4 + length + count * 6 * lights.length) throw unreadable();
  const parts = lights.map((light) => {
    const data = new Float32Array(count * 3);
    for (let c = 0; c < 3; c++) reader.plane(data, c, 3, count);
    return { light, data };
  });
  return { width, height, parts };
}

const unreadable = (): Problem =>
  new Problem('take/light', 'The light of a frame cannot be read: render the take again.');

class Writer {
  readonly out: Uint8Array;
  private at = 0;

  constructor(size: number) {
    this.out = new Uint8Array(size);
  }

  words(...words: number[]): void {
    const view = new DataView(this.out.buffer);
    for (const word of words) {
      view.setUint32(this.at, word, true);
      this.at += 4;
    }
  }

  bytes(bytes: Uint8Array): void {
    this.out.set(bytes, this.at);
    this.at += bytes.length;
  }

  // Each kind has a loop of its own: a call for every number would cost more than all else.
  /** Every `stride`th number from `first` on by its logarithm. */
  plane(data: Float32Array, first: number, stride: number, count: number): void {
    const { out, at } = this;
    for (let i = 0, from = first, last = 0; i < count; i++, from += stride) {
      const code = encode(data[from]);
      const step = code - last;
      out[at + i] = step & 0xff;
      out[at + count + i] = (step >> 8) & 0xff;
      last = code;
    }
    this.at += count * 2;
  }

  /** Motion, with a sign. */
  ways(data: Float32Array, first: number, stride: number, count: number): void {
    const { out, at } = this;
    for (let i = 0, from = first, last = 0; i < count; i++, from += stride) {
      const code = motionCode(data[from]);
      const step = code - last;
      out[at + i] = step & 0xff;
      out[at + count + i] = (step >> 8) & 0xff;
      last = code;
    }
    this.at += count * 2;
  }

  /** Numbers from 0 on in steps of one part of `unit`, as many as a byte holds. */
  shares(data: Float32Array, first: number, stride: number, count: number, unit: number): void {
    const { out, at } = this;
    for (let i = 0, from = first, last = 0; i < count; i++, from += stride) {
      const v = Math.min(255, Math.max(0, Math.round(data[from] * unit)));
      out[at + i] = (v - last) & 0xff;
      last = v;
    }
    this.at += count;
  }

  numbers(data: Uint8Array, first: number, stride: number, count: number): void {
    const { out, at } = this;
    for (let i = 0, from = first, last = 0; i < count; i++, from += stride) {
      out[at + i] = (data[from] - last) & 0xff;
      last = data[from];
    }
    this.at += count;
  }
}

class Reader {
  private at = 0;
  private readonly view: DataView;

  constructor(private readonly all: Uint8Array) {
    this.view = new DataView(all.buffer, all.byteOffset, all.byteLength);
  }

  words(count: number): number[] {
    if (this.at + count * 4 > this.all.length) throw unreadable();
    return Array.from({ length: count }, () => {
      this.at += 4;
      return this.view.getUint32(this.at - 4, true);
    });
  }

  skip(count: number): void {
    this.at += count;
  }

  json(length: number): unknown {
    const text = strFromU8(this.all.subarray(this.at, this.at + length));
    this.at += length;
    try {
      return JSON.parse(text);
    } catch {
      throw unreadable();
    }
  }

  plane(out: Float32Array, first: number, stride: number, count: number): void {
    const table = decodeTable();
    const { all } = this;
    const [low, high] = [this.at, this.at + count];
    let code = 0;
    for (let i = 0, to = first; i < count; i++, to += stride) {
      code = (code + all[low + i] + (all[high + i] << 8)) & 0xffff;
      out[to] = table[code];
    }
    this.at += count * 2;
  }

  /** Motion, with a sign. */
  ways(out: Float32Array, first: number, stride: number, count: number): void {
    const { all, at: low } = this;
    for (let i = 0, to = first, code = 0; i < count; i++, to += stride) {
      code = (code + all[low + i] + (all[low + count + i] << 8)) & 0xffff;
      out[to] = ((code << 16) >> 16) / MOTION_STEPS;
    }
    this.at += count * 2;
  }

  /** Every `stride`th number from `first` on, as shares of `unit`. */
  shares(out: Float32Array, first: number, stride: number, count: number, unit: number): void {
    const { all, at } = this;
    for (let i = 0, to = first, v = 0; i < count; i++, to += stride) {
      v = (v + all[at + i]) & 0xff;
      out[to] = v / unit;
    }
    this.at += count;
  }

  numbers(out: Uint8Array, first: number, stride: number, count: number): void {
    const { all, at } = this;
    for (let i = 0, to = first, v = 0; i < count; i++, to += stride) {
      v = (v + all[at + i]) & 0xff;
      out[to] = v;
    }
    this.at += count;
  }
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
