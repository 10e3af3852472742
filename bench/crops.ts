import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { compile, evaluateMotion } from '@tender-orbit/core/scene';
import {
  FILTER_RADIUS,
  packScene,
  PICTURES,
  QUALITIES,
  type KernelTracer,
  type PackedScene,
  type Passes,
  type TraceOptions,
} from '@tender-orbit/core/trace';
import { demoScene } from './demo-scene.ts';
import { kernelWith } from './kernel.ts';
import { heroShot, lidShot } from './shots.ts';

/** References are kept here, outside version control: they take minutes. */
const CACHE = fileURLToPath(new URL('../node_modules/.cache/bench', import.meta.url));
const [WIDTH, HEIGHT] = [960, 540];
/** What one cd/m2 becomes, of display white. */
export const EXPOSURE = 0.0015;
export const REFERENCE_SAMPLES = 4096;
export const limits = { ...QUALITIES.final.limits, exposureScale: EXPOSURE };
/** Edge of the compared square, and of the picture round it that is cleaned. */
export const [INNER, OUTER] = [48, 112];

/** A place of the demo's shots, by the corner of its square. */
export interface Crop {
  shot: 'hero' | 'lid';
  frame: number;
  x: number;
  y: number;
}

export async function sceneOf({ shot, frame }: Crop): Promise<PackedScene> {
  const { set, context, models } = await demoScene();
  const document = shot === 'hero' ? heroShot('demo-set') : lidShot('demo-set');
  return packScene(evaluateMotion(compile(set, document), frame, context), models);
}

/** The square of `edge` pixels round a crop, traced. */
export function square(
  tracer: KernelTracer,
  { x, y, frame }: Crop,
  edge: number,
  how: Pick<TraceOptions, 'samples' | 'adapt' | 'features' | 'firstSample' | 'detail'>,
): Passes {
  const by = (edge - INNER) / 2;
  const region = { x0: x - by, y0: y - by, x1: x - by + edge, y1: y - by + edge };
  return structuredClone(tracer.traceFrame({ width: WIDTH, height: HEIGHT, ...how, limits, frame, region })!);
}

/** The crop's true light: read from the cache, or traced in pieces whose samples go on from each other. */
function referenceOf(tracer: KernelTracer, crop: Crop, scene: PackedScene): Float32Array {
  const { shot, frame, x, y } = crop;
  const place = [shot, frame, x, y, QUALITIES.final.limits, FILTER_RADIUS, PICTURES];
  const key = createHash('sha256').update(JSON.stringify(place));
  for (const part of [scene.materials, scene.lights, scene.camera]) key.update(part);
  const path = `${CACHE}/${key.digest('hex').slice(0, 16)}-${REFERENCE_SAMPLES}.f32`;
  if (existsSync(path)) {
    const bytes = readFileSync(path);
    return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
  }
  const sum = new Float64Array(INNER * INNER * 3);
  const step = 512;
  for (let done = 0; done < REFERENCE_SAMPLES; done += step) {
    // Other samples than those of the noisy picture.
    const piece = square(tracer, crop, INNER, { samples: step, firstSample: 1_000_000 + done });
    piece.beauty.forEach((v, i) => (sum[i] += v));
  }
  const out = Float32Array.from(sum, (v) => (v * step) / REFERENCE_SAMPLES);
  mkdirSync(CACHE, { recursive: true });
  writeFileSync(path, Buffer.from(out.buffer));
  return out;
}

/** A crop's scene in a tracer, and its true light. */
export async function withReference(crop: Crop): Promise<{ tracer: KernelTracer; truth: Float32Array }> {
  const scene = await sceneOf(crop);
  const tracer = kernelWith(scene);
  return { tracer, truth: referenceOf(tracer, crop, scene) };
}

/** The middle of a cleaned square. */
export function inner(picture: Float32Array): Float32Array {
  const by = (OUTER - INNER) / 2;
  return Float32Array.from({ length: INNER * INNER * 3 }, (_, i) => {
    const [p, c] = [Math.floor(i / 3), i % 3];
    return picture[((Math.floor(p / INNER) + by) * OUTER + (p % INNER) + by) * 3 + c];
  });
}

/** Relative mean squared error in display units, with 0.01 in the denominator. */
export function relativeError(picture: Float32Array, truth: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < truth.length; i++) {
    const [v, t] = [picture[i] * EXPOSURE, truth[i] * EXPOSURE];
    sum += (v - t) ** 2 / (t * t + 0.01);
  }
  return sum / truth.length;
}

/** The same of the differences between neighbours, right and down: what steps and speckles along edges change most. */
export function gradientError(picture: Float32Array, truth: Float32Array): number {
  let sum = 0;
  let count = 0;
  for (const step of [3, INNER * 3]) {
    for (let i = 0; i + step < truth.length; i++) {
      if (step === 3 && Math.floor(i / 3) % INNER === INNER - 1) continue;
      const off = picture[i + step] - picture[i] - (truth[i + step] - truth[i]);
      const t = truth[i] * EXPOSURE;
      sum += (off * EXPOSURE) ** 2 / (t * t + 0.01);
      count++;
    }
  }
  return sum / count;
}

/** Structural similarity of luminance over 8 x 8 blocks (Wang et al. 2004), 1 for equal pictures. */
export function similarity(picture: Float32Array, truth: Float32Array): number {
  const at = (rgb: Float32Array, p: number): number =>
    Math.min(1, (0.2126 * rgb[p * 3] + 0.7152 * rgb[p * 3 + 1] + 0.0722 * rgb[p * 3 + 2]) * EXPOSURE);
  let sum = 0;
  const across = INNER / 8;
  for (let block = 0; block < across * across; block++) {
    const first = Math.floor(block / across) * 8 * INNER + (block % across) * 8;
    let [a, b, aa, bb, ab] = [0, 0, 0, 0, 0];
    for (let i = 0; i < 64; i++) {
      const p = first + (i >> 3) * INNER + (i & 7);
      const [x, y] = [at(picture, p), at(truth, p)];
      a += x / 64;
      b += y / 64;
      aa += (x * x) / 64;
      bb += (y * y) / 64;
      ab += (x * y) / 64;
    }
    const [va, vb, cov] = [aa - a * a, bb - b * b, ab - a * b];
    sum += ((2 * a * b + 1e-4) * (2 * cov + 9e-4)) / ((a * a + b * b + 1e-4) * (va + vb + 9e-4));
  }
  return sum / (across * across);
}
