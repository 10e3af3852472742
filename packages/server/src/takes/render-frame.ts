import sharp from 'sharp';
import { evaluate } from '@tender-orbit/core/motion';
import { toDisplay } from '@tender-orbit/core/picture';
import {
  denoise,
  packScene,
  QUALITIES,
  type KernelTracer,
  type ModelData,
  type Passes,
  type Quality,
  type TraceOptions,
} from '@tender-orbit/core/trace';
import { loadModel } from '../workers/index.ts';
import { tracerFor } from './kernel.ts';
import type { TakeSnapshot } from './snapshot.ts';

const models = new Map<string, ModelData>();
/** Models kept decoded between frames. */
const KEEP = 12;

async function modelsFor(snapshot: TakeSnapshot, paths: Record<string, string>): Promise<Map<string, ModelData>> {
  for (const { model } of Object.values(snapshot.products)) {
    if (!models.has(model)) models.set(model, await loadModel(paths[model]));
  }
  for (const hash of models.keys()) {
    if (models.size <= KEEP) break;
    if (!Object.values(snapshot.products).some((p) => p.model === hash)) models.delete(hash);
  }
  return models;
}

/** The packed scene of one frame, ready to trace, with what its quality asks for. */
async function openFrame(snapshot: TakeSnapshot, frame: number, paths: Record<string, string>): Promise<OpenFrame> {
  const loaded = await modelsFor(snapshot, paths);
  const tableau = evaluate(snapshot.set, snapshot.shot, frame, {
    products: new Map(Object.entries(snapshot.products)),
    meshes: (model) => loaded.get(model)?.meshes,
    aspect: snapshot.width / snapshot.height,
  });
  const quality = QUALITIES[snapshot.quality];
  const { exposureScale } = tableau.camera;
  return {
    tracer: tracerFor(packScene(tableau, loaded, { clay: quality.clay })),
    options: { samples: snapshot.samples || quality.samples, limits: { ...quality.limits, exposureScale }, frame },
    quality,
    exposureScale,
  };
}

interface OpenFrame {
  tracer: KernelTracer;
  options: Pick<TraceOptions, 'samples' | 'limits' | 'frame'>;
  quality: Quality;
  exposureScale: number;
}

/** Cleans a traced picture of noise, brings it to display values and encodes it as lossless WebP. */
function develop(passes: Passes, { quality, exposureScale }: OpenFrame): Promise<Uint8Array> {
  const { width, height } = passes;
  const data = quality.denoise ? denoise(passes) : passes.beauty;
  const picture = toDisplay({ width, height, data }, exposureScale);
  return sharp(picture.data, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .webp({ lossless: true, effort: 4 })
    .toBuffer();
}

/** Traces one frame of a take. `paths` gives the file of each model by hash. @returns lossless WebP. */
export async function renderFrame(
  snapshot: TakeSnapshot,
  frame: number,
  paths: Record<string, string>,
): Promise<Uint8Array> {
  const open = await openFrame(snapshot, frame, paths);
  const { width, height } = snapshot;
  return develop(open.tracer.traceFrame({ width, height, ...open.options })!, open);
}

export interface Probe {
  /** Seconds a frame takes in one worker. */
  secondsPerFrame: number;
}

/** Pixels and samples of the small picture that a probe traces: enough to rise above the clock's noise. */
const PROBE = { height: 90, samples: 3 };

/**
 * Measures a take's cost on small pictures of its first and middle frame: what each frame costs once (evaluating and
 * packing), each path, and each pixel afterwards, scaled to the take's size.
 */
export async function probe(snapshot: TakeSnapshot, paths: Record<string, string>): Promise<Probe> {
  const { height, samples } = PROBE;
  const width = Math.round((height * snapshot.width) / snapshot.height);
  // The first run compiles the code and loads the models, so it is not counted.
  await renderFrame({ ...snapshot, width, height, samples: 1 }, 0, paths);
  const frames = [0, Math.floor(snapshot.shot.length / 2)];
  let [once, tracing, developing] = [0, 0, 0];
  for (const frame of frames) {
    const times = [performance.now()];
    const open = await openFrame(snapshot, frame, paths);
    times.push(performance.now());
    const passes = open.tracer.traceFrame({ width, height, ...open.options, samples })!;
    times.push(performance.now());
    await develop(passes, open);
    times.push(performance.now());
    once += times[1] - times[0];
    tracing += times[2] - times[1];
    developing += times[3] - times[2];
  }
  const perFrame = once / frames.length;
  const perPath = tracing / frames.length / (width * height * samples);
  const perPixel = developing / frames.length / (width * height);
  const count = snapshot.width * snapshot.height;
  const all = snapshot.samples || QUALITIES[snapshot.quality].samples;
  return { secondsPerFrame: (perFrame + perPath * count * all + perPixel * count) / 1000 };
}
