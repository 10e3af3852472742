import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { createHash } from 'node:crypto';
import { compile, evaluateMotion } from '@tender-orbit/core/scene';
import {
  AROUND,
  packScene,
  QUALITIES,
  steady,
  type KernelTracer,
  type PackedScene,
  type Passes,
} from '@tender-orbit/core/trace';
import { heroShot, lidShot } from '@tender-orbit/demo';
import type { Bench } from './bench.ts';
import { demoScene } from './demo-scene.ts';
import { jointBilateral } from './joint-bilateral.ts';
import { kernelWith } from './kernel.ts';

/** References are kept here, outside version control: they take minutes. */
const CACHE = fileURLToPath(new URL('../node_modules/.cache/bench', import.meta.url));
const [WIDTH, HEIGHT] = [960, 540];
const EXPOSURE = 0.0015;
const REFERENCE_SAMPLES = 4096;
const limits = { ...QUALITIES.final.limits, exposureScale: EXPOSURE };
/** Edge of the compared square, and of the picture round it that is cleaned. */
const [INNER, OUTER] = [48, 112];

/** Places of the demo's shots: glass and honey, label and floor, the dipper's shadow, the embossed lid. */
const CROPS = [
  { shot: 'hero', frame: 30, x: 360, y: 160 },
  { shot: 'hero', frame: 30, x: 380, y: 330 },
  { shot: 'hero', frame: 30, x: 660, y: 360 },
  { shot: 'lid', frame: 18, x: 470, y: 120 },
] as const;
type Crop = (typeof CROPS)[number];

async function sceneOf({ shot, frame }: Pick<Crop, 'shot' | 'frame'>): Promise<PackedScene> {
  const { set, context, models } = await demoScene();
  const document = shot === 'hero' ? heroShot('demo-set') : lidShot('demo-set');
  return packScene(evaluateMotion(compile(set, document), frame, context), models);
}

function square(tracer: KernelTracer, { x, y, frame }: Crop, edge: number, samples: number, firstSample = 0): Passes {
  const by = (edge - INNER) / 2;
  const region = { x0: x - by, y0: y - by, x1: x - by + edge, y1: y - by + edge };
  const options = { width: WIDTH, height: HEIGHT, samples, firstSample, limits, frame, region };
  return structuredClone(tracer.traceFrame(options)!);
}

/** The crop's true light: read from the cache, or traced in pieces whose samples go on from each other. */
function referenceOf(tracer: KernelTracer, crop: Crop, scene: PackedScene): Float32Array {
  const key = createHash('sha256').update(JSON.stringify([crop, QUALITIES.final.limits]));
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
    square(tracer, crop, INNER, step, 1_000_000 + done).beauty.forEach((v, i) => (sum[i] += v));
  }
  const out = Float32Array.from(sum, (v) => (v * step) / REFERENCE_SAMPLES);
  mkdirSync(CACHE, { recursive: true });
  writeFileSync(path, Buffer.from(out.buffer));
  return out;
}

/** The middle of a cleaned square. */
function inner(picture: Float32Array): Float32Array {
  const by = (OUTER - INNER) / 2;
  return Float32Array.from({ length: INNER * INNER * 3 }, (_, i) => {
    const [p, c] = [Math.floor(i / 3), i % 3];
    return picture[((Math.floor(p / INNER) + by) * OUTER + (p % INNER) + by) * 3 + c];
  });
}

/** Relative mean squared error in display units, with 0.01 in the denominator. */
function relativeError(picture: Float32Array, truth: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < truth.length; i++) {
    const [v, t] = [picture[i] * EXPOSURE, truth[i] * EXPOSURE];
    sum += (v - t) ** 2 / (t * t + 0.01);
  }
  return sum / truth.length;
}

interface Errors {
  noisy: number;
  clean: number;
  bilateral: number;
}
let measured: Promise<Errors[]> | null = null;

async function measure(): Promise<Errors[]> {
  const all: Errors[] = [];
  for (const crop of CROPS) {
    const scene = await sceneOf(crop);
    const tracer = kernelWith(scene);
    const truth = referenceOf(tracer, crop, scene);
    const passes = square(tracer, crop, OUTER, 32);
    // The best of several widths: the plain filter has no way to choose for itself.
    const bilateral = [2, 3, 5, 8].map((width) => relativeError(inner(jointBilateral(passes, width)), truth));
    all.push({
      noisy: relativeError(inner(passes.beauty), truth),
      clean: relativeError(inner(tracer.denoise(passes).beauty), truth),
      bilateral: Math.min(...bilateral),
    });
  }
  return all;
}

const mean = (values: readonly number[]): number => values.reduce((n, v) => n + v, 0) / values.length;
const each = (values: readonly number[]): string => values.map((v) => v.toFixed(1)).join(', ');

async function flicker(): Promise<{ before: number; after: number }> {
  const { set, context, models } = await demoScene();
  const shot = heroShot('demo-set');
  // The jar turns before a camera that stands still.
  const turntable = { ...shot, tracks: shot.tracks.filter((t) => t.thing === 'jar') };
  const [width, height] = [320, 180];
  const frames: Passes[] = [];
  let tracer: KernelTracer | null = null;
  for (let frame = 18; frame < 28; frame++) {
    const scene = packScene(evaluateMotion(compile(set, turntable), frame, context), models);
    tracer = tracer ? tracer.load(scene) : kernelWith(scene);
    frames.push(structuredClone(tracer.traceFrame({ width, height, samples: 16, limits, frame, detail: true })!));
  }
  const still = (i: number): boolean => frames.every((f) => Math.abs(f.detail!.motion[i * 2]) < 1e-4);
  const places = Array.from({ length: width * height }, (_, i) => i).filter(still);
  const change = (pictures: Float32Array[]): number =>
    mean(
      pictures
        .slice(1)
        .map((picture, k) => mean(places.map((p) => Math.abs(picture[p * 3 + 1] - pictures[k][p * 3 + 1]) * EXPOSURE))),
    );
  const middle = [3, 4, 5, 6];
  const steadied = await Promise.all(
    middle.map((k) => steady(frames[k], (offset) => (Math.abs(offset) > AROUND ? undefined : frames[k + offset]))),
  );
  return {
    before: change(middle.map((k) => tracer!.denoise(frames[k]).beauty)),
    after: change(steadied.map((frame) => tracer!.denoise(frame).beauty)),
  };
}

export const denoiseBenches: Bench[] = [
  {
    name: 'denoise/relmse-gain-32spp',
    unit: 'times',
    run: async () => {
      const all = await (measured ??= measure());
      const gains = all.map((e) => e.noisy / e.clean);
      return {
        value: mean(all.map((e) => e.noisy)) / mean(all.map((e) => e.clean)),
        note: `relative error of 32 samples against ${REFERENCE_SAMPLES}, without and with; ${CROPS.length} places of the demo: ${each(gains)}`,
      };
    },
  },
  {
    name: 'denoise/vs-joint-bilateral',
    unit: 'times',
    run: async () => {
      const all = await (measured ??= measure());
      const gains = all.map((e) => e.bilateral / e.clean);
      return {
        value: mean(all.map((e) => e.bilateral)) / mean(all.map((e) => e.clean)),
        note: `relative error of a plain joint bilateral filter at its best width over ours: ${each(gains)}`,
      };
    },
  },
  {
    name: 'denoise/flicker-gain',
    unit: 'times',
    run: async () => {
      const { before, after } = await flicker();
      return {
        value: before / after,
        note: 'change from frame to frame of what stands still beside the turning jar, cleaned alone and steadied first',
      };
    },
  },
];
