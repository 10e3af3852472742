import { availableParallelism } from 'node:os';
import sharp from 'sharp';
import { toDisplay } from '@tender-orbit/core/picture';
import type { SmokeEffect } from '@tender-orbit/core/document';
import { compile, evaluateMotion, type EvaluateContext, type ShotProgram, type Slot } from '@tender-orbit/core/scene';
import { simulatedBetween, SmokeRun } from '@tender-orbit/core/simulate';
import { AROUND, PackCache, packScene, QUALITIES, steady, type KernelTracer } from '@tender-orbit/core/trace';
import type { Bench } from './bench.ts';
import { demoScene } from './demo-scene.ts';
import { kernelWith } from './kernel.ts';
import { revealShot } from '@tender-orbit/demo';
import { heroShot } from './shots.ts';
import { simulationKernel } from './simulate.ts';

type QualityName = keyof typeof QUALITIES;

/** Four seconds; a frame of the demo's hero shot, in which camera and jar move, stands for all of them. */
const FRAMES = 96;
const MIDDLE = 24;

interface Seconds {
  trace: number;
  /** Steadying, taking out the noise, view transform, encoding. */
  after: number;
}

/** What a frame is of: the demo's hero shot unless told otherwise. */
interface Filmed {
  program: ShotProgram;
  simulated?: EvaluateContext['simulated'];
}

/** Seconds of one frame in the middle of a take: evaluated, packed, traced; steadied, denoised, shown, encoded. */
async function frameSeconds(quality: QualityName, width: number, height: number, filmed?: Filmed): Promise<Seconds> {
  const { set, context: demo, models } = await demoScene();
  const { samples, adapt, features, limits, clay } = QUALITIES[quality];
  const program = filmed?.program ?? compile(set, heroShot('demo-set'));
  const context = { ...demo, simulated: filmed?.simulated };
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

/** A frame full of smoke against the same without: both reach the same error by the same measure. */
const smokeAgainstClear: Bench = {
  name: 'trace/smoke-take-vs-clear',
  unit: 'times',
  run: async () => {
    const { set, context } = await demoScene();
    const program = compile(set, revealShot('demo-set'));
    const slot = program.effects[0] as Slot<SmokeEffect>;
    const run = new SmokeRun(program, slot, context, 'normal', { num: 24, den: 1 });
    run.begin({ kernel: simulationKernel, state: () => undefined });
    // Played backwards, this is what the measured frame shows.
    while (run.frame < run.frames - 1 - MIDDLE / 3) run.next();
    const smoke = simulatedBetween(run.result(), run.result(), 0);
    const full = await frameSeconds('draft', WIDE / 2, HIGH / 2, { program, simulated: () => smoke });
    const clear = await frameSeconds('draft', WIDE / 2, HIGH / 2, { program });
    const seconds = [full, clear].map(({ trace, after }) => trace + after);
    return {
      value: seconds[0] / seconds[1],
      note: `a draft frame of ${WIDE / 2} x ${HIGH / 2}: ${seconds[0].toFixed(1)} s with smoke, ${seconds[1].toFixed(1)} s without`,
    };
  },
};

export const takeBenches: Bench[] = [
  smokeAgainstClear,
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
