import { cos, GOLDEN_TURN, log, sin } from '../maths/index.ts';
import type { KernelExports } from './kernel-exports.ts';
import type { KernelMemory } from './kernel-memory.ts';
import { blur } from './blur.ts';
import type { Passes } from './passes.ts';

/** Words of the kernel's Filter, in order. */
const FILTER_WORDS = [
  'stride',
  'border',
  'width',
  'height',
  'offsets',
  'offsetCount',
  'patch',
  'light',
  'variance',
  'tolerance',
  'paired',
  'features',
  'fall',
  'ridge',
  'input',
  'output',
  'channels',
  'outVariance',
];
const FLOATS = ['tolerance', 'fall', 'ridge'];
const ALBEDO_FLOOR = 0.02;
const BAND = 16;
/** Depth as a feature is its logarithm times this, beside albedo and normal as they are. */
const DEPTH = 2;
/** Pixels count less by the square of their features' distance: a model that is linear is so nearby. */
const FIT = { fall: 4, ridge: 0.001 };
/** The first pass finds out what the light is, the second filters by it. */
const GUIDE_WINDOW = { reach: 5, dense: 1, step: 3 };
const GUIDE = { patch: 2, tolerance: 0.45 };
/**
 * Pixels that are looked at round one: all up to `dense` away, and about one in `step` of those up to `reach`. The far ones say little
 * that their neighbours do not say too: some of them cost less, and keep more detail.
 */
interface Window {
  reach: number;
  dense: number;
  step: number;
}
const FINAL_WINDOW = { reach: 8, dense: 3, step: 6 };
const FINAL = { patch: 1, tolerance: 1.5 };

/** Planes with a border, in the kernel's memory. */
interface Frame {
  width: number;
  height: number;
  border: number;
  stride: number;
  /** Floats of a plane. */
  size: number;
}

/** What came out: light without noise, and that of each light pass when they were given. */
export interface Denoised {
  beauty: Float32Array;
  lights: Float32Array[];
}

/**
 * Takes the noise out of a traced picture in steps (a band of rows each), for who must listen to others in between: light is
 * fitted to albedo, normal and depth round each pixel, over pixels whose light over albedo is alike (see the kernel's
 * denoise.ts). All light passes go through the same weights, so that they still add up to the beauty.
 */
export function* denoiseSteps(
  memory: KernelMemory,
  kernel: KernelExports,
  passes: Passes,
  lights: readonly Float32Array[] = [],
): Generator<void, Denoised> {
  const { width, height } = passes;
  const border = Math.max(FINAL_WINDOW.reach + FINAL.patch, GUIDE_WINDOW.reach + GUIDE.patch) + 4;
  const stride = Math.ceil((width + 2 * border) / 4) * 4;
  const frame: Frame = { width, height, border, stride, size: stride * (height + 2 * border) };
  const bright = despeckle(passes);
  const { pairedAlbedo, pairedNormal, pairedDepth } = passes;
  const paired = storePlanes(memory, frame, featurePlanes(pairedAlbedo, pairedNormal, pairedDepth));
  const features = storePlanes(memory, frame, featurePlanes(passes.albedo, passes.normal, passes.depth));
  const noisy = storePlanes(memory, frame, [luminanceOf(demodulate(bright, pairedAlbedo))]);
  const variance = storePlanes(memory, frame, [demodulatedVariance(passes)]);
  const guide = memory.reserve(frame.size * 4);
  const guideVariance = memory.reserve(frame.size * 4);
  const shared = { ...frame, ...FIT, paired, features };
  yield* filter(memory, kernel, GUIDE_WINDOW, {
    ...{ ...shared, ...GUIDE, light: noisy, variance, input: noisy, output: guide, channels: 1 },
    outVariance: guideVariance,
  });
  spreadBorder(memory, frame, guide);
  smoothPlane(memory, frame, guideVariance);
  const colours = lights.length + 1;
  const input = memory.reserve(frame.size * 12 * colours);
  storeColour(memory, frame, input, bright);
  lights.forEach((l, i) => storeColour(memory, frame, input + (i + 1) * frame.size * 12, l));
  const output = memory.reserve(frame.size * 12 * colours);
  yield* filter(memory, kernel, FINAL_WINDOW, {
    ...{ ...shared, ...FINAL, light: guide, variance: guideVariance, input, output, channels: colours * 3 },
  });
  const [beauty, ...cleaned] = Array.from({ length: colours }, (_, i) => readRgb(memory, frame, output, i * 3));
  shareOut(beauty, cleaned);
  return { beauty, lights: cleaned };
}

/** Scales lights so that they add up to the beauty: it may come of more frames than they do. */
function shareOut(beauty: Float32Array, lights: readonly Float32Array[]): void {
  for (let i = 0; i < beauty.length && lights.length > 0; i++) {
    let sum = 0;
    for (const light of lights) sum += light[i];
    for (const light of lights) light[i] *= sum > 0 ? beauty[i] / sum : 0;
  }
}

function* filter(
  memory: KernelMemory,
  kernel: KernelExports,
  window: Window,
  words: Record<string, number>,
): Generator<void> {
  const pairs = offsetsIn(window);
  const offsetCount = pairs.length / 2;
  const offsets = memory.store(new Uint32Array(pairs.buffer));
  const address = memory.store(new Uint32Array(FILTER_WORDS.length));
  const room = memory.reserve(kernel.bandBytes(words.stride, BAND, words.patch, offsetCount, words.channels));
  memory.words(address, FILTER_WORDS, { ...words, offsets, offsetCount }, FLOATS);
  for (let y = 0; y < words.height; y += BAND) {
    kernel.filterBand(address, y, Math.min(words.height, y + BAND), room);
    yield;
  }
}

/**
 * Pairs of pixels right and down: the near ones, then a sunflower's seeds (Vogel 1979). A lattice would look at every fourth pixel of
 * a picture apart from the rest, which shows as a pattern of dots.
 */
function offsetsIn({ reach, dense, step }: Window): Int32Array {
  const out: number[] = [];
  const taken = new Set<string>();
  const take = (x: number, y: number): void => {
    if (taken.has(`${x} ${y}`)) return;
    taken.add(`${x} ${y}`);
    out.push(x, y);
  };
  for (let y = -dense; y <= dense; y++) for (let x = -dense; x <= dense; x++) take(x, y);
  const seeds = Math.round((Math.PI * reach * reach) / step);
  for (let i = 0; i < seeds; i++) {
    const r = reach * Math.sqrt((i + 0.5) / seeds);
    const [x, y] = [r * cos(i * GOLDEN_TURN), r * sin(i * GOLDEN_TURN)].map(Math.round);
    if (Math.max(Math.abs(x), Math.abs(y)) > dense) take(x, y);
  }
  return Int32Array.from(out);
}

/** Stores planes one after the other, each with its edge repeated in the border. */
function storePlanes(memory: KernelMemory, frame: Frame, planes: readonly Float32Array[]): number {
  const { width, height, border, stride, size } = frame;
  const address = memory.reserve(size * 4 * planes.length);
  const all = new Float32Array(memory.buffer, address, size * planes.length);
  planes.forEach((plane, k) => {
    for (let y = 0; y < height; y++) {
      all.set(plane.subarray(y * width, (y + 1) * width), k * size + (y + border) * stride + border);
    }
    spreadBorder(memory, frame, address + k * size * 4);
  });
  return address;
}

/** Stores a colour in three planes. */
function storeColour(memory: KernelMemory, frame: Frame, address: number, rgb: Float32Array): void {
  const { width, height, border, stride, size } = frame;
  for (let c = 0; c < 3; c++) {
    const plane = new Float32Array(memory.buffer, address + c * size * 4, size);
    for (let y = 0, k = c; y < height; y++) {
      const row = (y + border) * stride + border;
      for (let x = row; x < row + width; x++, k += 3) plane[x] = rgb[k];
    }
    spreadBorder(memory, frame, address + c * size * 4);
  }
}

/** Blurs a plane, 3 x 3. */
function smoothPlane(memory: KernelMemory, frame: Frame, address: number): void {
  const { width, height, border, stride, size } = frame;
  const all = new Float32Array(memory.buffer, address, size);
  const inside = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = (y + border) * stride + border;
    inside.set(all.subarray(row, row + width), y * width);
  }
  const smooth = blur(inside, width, height);
  for (let y = 0; y < height; y++) {
    all.set(smooth.subarray(y * width, (y + 1) * width), (y + border) * stride + border);
  }
  spreadBorder(memory, frame, address);
}

function spreadBorder(memory: KernelMemory, { width, height, border, stride, size }: Frame, address: number): void {
  const plane = new Float32Array(memory.buffer, address, size);
  for (let y = border; y < border + height; y++) {
    const row = y * stride;
    plane.fill(plane[row + border], row, row + border);
    plane.fill(plane[row + border + width - 1], row + border + width, row + stride);
  }
  for (let y = 0; y < border; y++) {
    plane.copyWithin(y * stride, border * stride, (border + 1) * stride);
    const last = border + height - 1;
    plane.copyWithin((last + 1 + y) * stride, last * stride, (last + 1) * stride);
  }
}

function readRgb(
  memory: KernelMemory,
  { width, height, border, stride, size }: Frame,
  address: number,
  first: number,
): Float32Array {
  const out = new Float32Array(width * height * 3);
  for (let c = 0; c < 3; c++) {
    const plane = new Float32Array(memory.buffer, address + (first + c) * size * 4, size);
    for (let y = 0; y < height; y++) {
      const row = (y + border) * stride + border;
      // The model may read less than nothing.
      for (let x = 0; x < width; x++) out[(y * width + x) * 3 + c] = Math.max(0, plane[row + x]);
    }
  }
  return out;
}

function luminanceOf(rgb: Float32Array): Float32Array {
  const out = new Float32Array(rgb.length / 3);
  for (let i = 0; i < out.length; i++) {
    out[i] = 0.2126 * rgb[i * 3] + 0.7152 * rgb[i * 3 + 1] + 0.0722 * rgb[i * 3 + 2];
  }
  return out;
}

// Where nothing was hit the albedo is 0, and the light is what it is.
function albedoAt(albedo: Float32Array, i: number): number {
  return Math.max(ALBEDO_FLOOR, albedo[i] || 1);
}

function demodulate(beauty: Float32Array, albedo: Float32Array): Float32Array {
  const out = new Float32Array(beauty.length);
  for (let i = 0; i < out.length; i++) out[i] = beauty[i] / albedoAt(albedo, i);
  return out;
}

/** Albedo, normal and depth, scaled so that differences of one are alike. */
function featurePlanes(albedo: Float32Array, normal: Float32Array, depth: Float32Array): Float32Array[] {
  const planes = [0, 1, 2, 3, 4, 5, 6].map(() => new Float32Array(depth.length));
  for (let i = 0; i < depth.length; i++) {
    for (let c = 0; c < 3; c++) {
      planes[c][i] = albedo[i * 3 + c];
      planes[3 + c][i] = normal[i * 3 + c];
    }
    // Differences of logarithms are relative differences.
    planes[6][i] = log(Math.max(0.01, depth[i] || 100)) * DEPTH;
  }
  return planes;
}

/** How much brighter than its second brightest neighbour a pixel may be. */
const SPECK = 1.4;

/**
 * Beauty with lone sparks (one lucky path in one pixel) brought down to their neighbourhood, colour kept. What is taken from a
 * spark goes to the pixels round it in equal parts: the light is right in the mean of all, and few samples find much of it so.
 */
function despeckle({ width, height, beauty }: Passes): Float32Array {
  const out = beauty.slice();
  const luminance = luminanceOf(beauty);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [x0, x1] = [Math.max(0, x - 1), Math.min(width - 1, x + 1)];
      const [y0, y1] = [Math.max(0, y - 1), Math.min(height - 1, y + 1)];
      let first = 0;
      let second = 0;
      for (let j = y0; j <= y1; j++) {
        for (let i = x0; i <= x1; i++) {
          if (i === x && j === y) continue;
          const l = luminance[j * width + i];
          if (l > first) {
            second = first;
            first = l;
          } else if (l > second) second = l;
        }
      }
      const p = y * width + x;
      const own = luminance[p];
      if (own <= second * SPECK || second <= 0) continue;
      const share = (1 - (second * SPECK) / own) / ((x1 - x0 + 1) * (y1 - y0 + 1) - 1);
      for (let c = 0; c < 3; c++) {
        const light = beauty[p * 3 + c];
        out[p * 3 + c] -= light * (1 - (second * SPECK) / own);
        for (let j = y0; j <= y1; j++)
          for (let i = x0; i <= x1; i++) if (i !== x || j !== y) out[(j * width + i) * 3 + c] += light * share;
      }
    }
  }
  return out;
}

/** Variance of luminance over albedo, blurred 3 x 3: a few samples alone estimate their own variance badly. */
function demodulatedVariance({ width, height, variance, pairedAlbedo }: Passes): Float32Array {
  const own = new Float32Array(variance.length);
  for (let i = 0, k = 0; i < own.length; i++, k += 3) {
    const a =
      0.2126 * albedoAt(pairedAlbedo, k) +
      0.7152 * albedoAt(pairedAlbedo, k + 1) +
      0.0722 * albedoAt(pairedAlbedo, k + 2);
    own[i] = variance[i] / (a * a);
  }
  return blur(own, width, height);
}
