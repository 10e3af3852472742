import { compile, evaluateMotion } from '@tender-orbit/core/scene';
import { AROUND, packScene, steady, type KernelTracer, type Passes } from '@tender-orbit/core/trace';
import { mean, type Bench } from './bench.ts';
import {
  EXPOSURE,
  inner,
  limits,
  OUTER,
  REFERENCE_SAMPLES,
  relativeError,
  square,
  withReference,
  type Crop,
} from './crops.ts';
import { demoScene } from './demo-scene.ts';
import { jointBilateral } from './joint-bilateral.ts';
import { kernelWith } from './kernel.ts';
import { heroShot } from './shots.ts';

/** Glass and honey, label and floor, the dipper's shadow, the embossed lid. */
const CROPS: Crop[] = [
  { shot: 'hero', frame: 30, x: 360, y: 160 },
  { shot: 'hero', frame: 30, x: 380, y: 330 },
  { shot: 'hero', frame: 30, x: 660, y: 360 },
  { shot: 'lid', frame: 18, x: 470, y: 120 },
];

const FEATURES = 64;

interface Errors {
  noisy: number;
  clean: number;
  bilateral: number;
}
let measured: Promise<Errors[]> | null = null;

async function measure(): Promise<Errors[]> {
  const all: Errors[] = [];
  for (const crop of CROPS) {
    const { tracer, truth } = await withReference(crop);
    const passes = square(tracer, crop, OUTER, { samples: 32, features: FEATURES });
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

const each = (values: readonly number[]): string => values.map((v) => v.toFixed(1)).join(', ');

let flickering: Promise<{ before: number; after: number }> | null = null;

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
    frames.push(
      structuredClone(
        tracer.traceFrame({ width, height, samples: 16, features: FEATURES, limits, frame, detail: true })!,
      ),
    );
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
    name: 'denoise/flicker',
    unit: 'x 1e-4',
    run: async () => {
      const { before, after } = await (flickering ??= flicker());
      return {
        value: after * 1e4,
        note: `mean change from frame to frame of what stands still beside the turning jar, in display white; ${(before * 1e4).toFixed(1)} when cleaned alone`,
      };
    },
  },
  {
    name: 'denoise/flicker-gain',
    unit: 'times',
    run: async () => {
      const { before, after } = await (flickering ??= flicker());
      return {
        value: before / after,
        note: 'change from frame to frame of what stands still beside the turning jar, cleaned alone and steadied first',
      };
    },
  },
];
