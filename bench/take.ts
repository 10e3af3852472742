import { availableParallelism } from 'node:os';
import sharp from 'sharp';
import { toDisplay } from '@tender-orbit/core/picture';
import { compile, evaluateMotion } from '@tender-orbit/core/scene';
import { AROUND, PackCache, packScene, QUALITIES, steady, type KernelTracer } from '@tender-orbit/core/trace';
import type { Bench } from './bench.ts';
import { demoScene } from './demo-scene.ts';
import { kernelWith } from './kernel.ts';
import { heroShot } from './shots.ts';

type QualityName = keyof typeof QUALITIES;

/** Four seconds; a frame of the demo's hero shot, in which camera and jar move, stands for all of them. */
const FRAMES = 96;
const MIDDLE = 24;

interface Seconds {
  trace: number;
  /** Steadying, taking out the noise, view transform, encoding. */
  after: number;
}

/** Seconds of one frame in the middle of a take: evaluated, packed, traced; steadied, denoised, shown, encoded. */
async function frameSeconds(quality: QualityName, width: number, height: number): Promise<Seconds> {
  const { set, context, models } = await demoScene();
  const { samples, adapt, features, limits, clay } = QUALITIES[quality];
  const shot = heroShot('demo-set');
  const program = compile(set, shot);
  const cache = new PackCache();
  let tracer: KernelTracer | null = null;
  const run = async (size: { width: number; height: number }): Promise<Seconds> => {
    const start = performance.now();
    const tableau = evaluateMotion(program, MIDDLE, context);
    const scene = packScene(tableau, models, { clay, cache });
    tracer = tracer ? tracer.load(scene) : kernelWith(scene);
    const { exposureScale } = tableau.camera;
    const options = {
      ...size,
      samples,
      adapt,
      features,
      frame: MIDDLE,
      detail: true,
      limits: { ...limits, exposureScale },
    };
    const frame = structuredClone(tracer.traceFrame(options)!);
    const traced = performance.now();
    // Neighbours cost what they cost to be compared, whatever is in them.
    const still = await steady(frame, (offset) => (Math.abs(offset) > AROUND ? undefined : frame));
    const shown = toDisplay({ ...size, data: tracer.denoise(still).beauty }, exposureScale, tableau.view);
    await sharp(shown.data, { raw: { ...size, channels: 4 } })
      .removeAlpha()
      .webp({ lossless: true, effort: 0 })
      .toBuffer();
    return { trace: (traced - start) / 1000, after: (performance.now() - traced) / 1000 };
  };
  // The first run compiles the code and loads what all frames share.
  await run({ width: 160, height: 90 });
  return run({ width, height });
}

const [WIDE, HIGH] = [960, 540];
let measured: Promise<Seconds> | null = null;
const final = (): Promise<Seconds> => (measured ??= frameSeconds('final', WIDE, HIGH));

function wholeShot(quality: QualityName): Bench {
  return {
    name: `take/${quality}-seconds-4s-shot`,
    unit: 's',
    run: async () => {
      const { trace, after } = await frameSeconds(quality, WIDE / 2, HIGH / 2);
      const threads = availableParallelism();
      return {
        value: ((trace + after) * FRAMES) / threads,
        note: `${FRAMES} frames of ${WIDE / 2} x ${HIGH / 2}: ${trace.toFixed(2)} s to trace and ${after.toFixed(2)} s after it each; ${threads} threads, taken as that many of one`,
      };
    },
  };
}

export const takeBenches: Bench[] = [
  wholeShot('clay'),
  wholeShot('draft'),
  {
    name: 'take/final-frame-seconds',
    unit: 's',
    run: async () => {
      const { trace, after } = await final();
      return { value: trace + after, note: `${WIDE} x ${HIGH} on one thread` };
    },
  },
  {
    name: 'take/after-trace-seconds',
    unit: 's',
    run: async () => ({
      value: (await final()).after,
      note: `of a final frame of ${WIDE} x ${HIGH}: steadied with 6, denoised, shown, encoded`,
    }),
  },
];
