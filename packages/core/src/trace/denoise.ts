import { log } from '../maths/index.ts';
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
  'features',
  'featureCount',
  'ease',
  'input',
  'output',
  'channels',
  'outVariance',
];
const ALBEDO_FLOOR = 0.02;
const BAND = 16;
/** How far two pixels' surfaces may differ before they count as different: albedo, normal, depth over depth. */
const ALIKE = { albedo: 0.08, normal: 0.22, depth: 0.06 };
/** The first pass finds out what the light is, the second filters by it. */
const GUIDE_WINDOW = { reach: 5, dense: 1, step: 3 };
const GUIDE = { patch: 2, tolerance: 0.45 };
/**
 * Pixels that are looked at round one: all up to `dense` away, and one in `step` of those up to `reach`, in a lattice. The far
 * ones say little that their neighbours do not say too: a third of them costs a third, and keeps more detail.
 */
interface Window {
  reach: number;
  dense: number;
  step: number;
}
/** How much the spread of features among neighbours eases their comparison. */
const EASE = 2;
const FINAL_WINDOW = { reach: 8, dense: 2, step: 4 };
const FINAL = { patch: 1, tolerance: 1.1 };

/** Features of shape: normal and depth. */
const SHAPE = [3, 4, 5, 6];

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
 * Takes the noise out of a traced picture in steps (a band of rows each), for who must listen to others in between.
 * Light is filtered apart from albedo, so that label art stays sharp; all light passes go through the same weights, so
 * that they still add up to the beauty.
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
  const light = demodulate(bright, passes);
  const luminance = luminanceOf(light);
  const planesOfFeatures = featurePlanes(passes);
  const features = storePlanes(memory, frame, planesOfFeatures);
  const spread = spreadOf(
    SHAPE.map((k) => planesOfFeatures[k]),
    width,
    height,
  );
  const ease = storePlanes(memory, frame, [easeOf(spread)]);
  const variance = storePlanes(memory, frame, [demodulatedVariance(passes)]);
  const noisy = storePlanes(memory, frame, [luminance]);
  const guide = memory.reserve(frame.size * 4);
  const guideVariance = memory.reserve(frame.size * 4);
  const shared = { ...frame, features, featureCount: 7, ease };
  yield* filter(memory, kernel, frame, GUIDE_WINDOW, {
    ...{ ...shared, ...GUIDE, light: noisy, variance, input: noisy, output: guide, channels: 1 },
    outVariance: guideVariance,
  });
  spreadBorder(memory, frame, guide);
  spreadBorder(memory, frame, guideVariance);
  // Last the light with albedo in it, for where albedo is a mixture that has noise itself.
  const colours = lights.length + 2;
  const input = memory.reserve(frame.size * 12 * colours);
  storeColour(memory, frame, input, light);
  lights.forEach((l, i) => storeColour(memory, frame, input + (i + 1) * frame.size * 12, l, passes.albedo));
  storeColour(memory, frame, input + (colours - 1) * frame.size * 12, bright);
  const output = memory.reserve(frame.size * 12 * colours);
  yield* filter(memory, kernel, frame, FINAL_WINDOW, {
    ...{ ...shared, ...FINAL, light: guide, variance: guideVariance, input, output, channels: colours * 3 },
  });
  const filtered = Array.from({ length: colours }, (_, i) => readRgb(memory, frame, output, i * 3));
  const whole = filtered.pop()!;
  return remodulate(filtered, whole, spread, passes);
}

/**
 * Brings the albedo back. `whole` is light that was filtered with its albedo in it: pixels that are a mixture of different
 * surfaces (an edge, or one out of focus) take it as far as they are one, so that neither the noise of albedo nor a dark
 * glossy neighbour's light over its albedo comes in.
 */
function remodulate(
  [light, ...lights]: readonly Float32Array[],
  whole: Float32Array,
  spread: Float32Array,
  { albedo }: Passes,
): Denoised {
  const beauty = new Float32Array(light.length);
  const outs = lights.map(() => new Float32Array(light.length));
  for (let i = 0; i < light.length; i++) {
    const a = albedoAt(albedo, i);
    const clean = light[i] * a;
    const mixed = Math.min(1, spread[(i / 3) | 0]);
    beauty[i] = clean + (whole[i] - clean) * mixed;
    // Each light keeps its share of the beauty.
    const share = clean > 0 ? (a * beauty[i]) / clean : a;
    for (let k = 0; k < outs.length; k++) outs[k][i] = lights[k][i] * share;
  }
  return { beauty, lights: outs };
}

function* filter(
  memory: KernelMemory,
  kernel: KernelExports,
  frame: Frame,
  window: Window,
  words: Record<string, number>,
): Generator<void> {
  const pairs = offsetsIn(window);
  const offsets = memory.store(new Uint32Array(pairs.buffer));
  const address = memory.store(new Uint32Array(FILTER_WORDS.length));
  const room = memory.reserve(kernel.bandBytes(frame.stride, BAND, words.patch));
  memory.words(address, FILTER_WORDS, { ...words, offsets, offsetCount: pairs.length / 2 }, ['tolerance']);
  for (let y = 0; y < frame.height; y += BAND) {
    kernel.filterBand(address, y, Math.min(frame.height, y + BAND), room);
    yield;
  }
}

/** Pairs of pixels right and down. */
function offsetsIn({ reach, dense, step }: Window): Int32Array {
  const out: number[] = [];
  for (let y = -reach; y <= reach; y++) {
    for (let x = -reach; x <= reach; x++) {
      const near = Math.max(Math.abs(x), Math.abs(y)) <= dense;
      if (near || ((x + 2 * y) % step === 0 && x * x + y * y <= reach * (reach + 1))) out.push(x, y);
    }
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

/** Stores a colour in three planes; over its albedo, where that is given. */
function storeColour(
  memory: KernelMemory,
  frame: Frame,
  address: number,
  rgb: Float32Array,
  albedo?: Float32Array,
): void {
  const { width, height, border, stride, size } = frame;
  for (let c = 0; c < 3; c++) {
    const plane = new Float32Array(memory.buffer, address + c * size * 4, size);
    for (let y = 0, k = c; y < height; y++) {
      const row = (y + border) * stride + border;
      for (let x = row; x < row + width; x++, k += 3) plane[x] = albedo ? rgb[k] / albedoAt(albedo, k) : rgb[k];
    }
    spreadBorder(memory, frame, address + c * size * 4);
  }
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
      for (let x = 0; x < width; x++) out[(y * width + x) * 3 + c] = plane[row + x];
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

function demodulate(beauty: Float32Array, { albedo }: Passes): Float32Array {
  const out = new Float32Array(beauty.length);
  for (let i = 0; i < out.length; i++) out[i] = beauty[i] / albedoAt(albedo, i);
  return out;
}

/** Albedo, normal and depth, scaled so that a difference of one matters. */
function featurePlanes({ width, height, albedo, normal, depth }: Passes): Float32Array[] {
  const count = width * height;
  const planes = [0, 1, 2, 3, 4, 5, 6].map(() => new Float32Array(count));
  for (let i = 0; i < count; i++) {
    for (let c = 0; c < 3; c++) {
      planes[c][i] = albedo[i * 3 + c] / ALIKE.albedo;
      planes[3 + c][i] = normal[i * 3 + c] / ALIKE.normal;
    }
    // Differences of logarithms are relative differences.
    planes[6][i] = log(Math.max(0.01, depth[i] || 100)) / ALIKE.depth;
  }
  return planes;
}

/**
 * One over one plus the variance of shape among each pixel's neighbours. Over an edge pixels are mixtures that all
 * differ a little: they may be compared, or the edge would keep its noise.
 */
function easeOf(spread: Float32Array): Float32Array {
  return spread.map((v) => 1 / (1 + EASE * v));
}

/** Variance of features among each pixel's neighbours, added up. */
function spreadOf(planes: readonly Float32Array[], width: number, height: number): Float32Array {
  const out = new Float32Array(width * height);
  const squares = new Float32Array(width * height);
  for (const plane of planes) {
    for (let i = 0; i < squares.length; i++) squares[i] = plane[i] * plane[i];
    const [mean, meanSquare] = [blur(plane, width, height), blur(squares, width, height)];
    for (let i = 0; i < out.length; i++) out[i] += Math.max(0, meanSquare[i] - mean[i] * mean[i]);
  }
  return out;
}

/** How much brighter than its second brightest neighbour a pixel may be. */
const SPECK = 1.4;

/** Beauty with lone sparks (one lucky path in one pixel) brought down to their neighbourhood, colour kept. */
function despeckle({ width, height, beauty }: Passes): Float32Array {
  const out = beauty.slice();
  const luminance = luminanceOf(beauty);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let first = 0;
      let second = 0;
      for (let j = Math.max(0, y - 1); j <= Math.min(height - 1, y + 1); j++) {
        for (let i = Math.max(0, x - 1); i <= Math.min(width - 1, x + 1); i++) {
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
      if (own > second * SPECK && second > 0) for (let c = 0; c < 3; c++) out[p * 3 + c] *= (second * SPECK) / own;
    }
  }
  return out;
}

/** Variance of luminance over albedo, blurred 3 x 3: a few samples alone estimate their own variance badly. */
function demodulatedVariance({ width, height, variance, albedo }: Passes): Float32Array {
  const own = new Float32Array(variance.length);
  for (let i = 0, k = 0; i < own.length; i++, k += 3) {
    const a = 0.2126 * albedoAt(albedo, k) + 0.7152 * albedoAt(albedo, k + 1) + 0.0722 * albedoAt(albedo, k + 2);
    own[i] = variance[i] / (a * a);
  }
  return blur(own, width, height);
}
