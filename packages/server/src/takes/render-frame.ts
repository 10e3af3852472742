import sharp from 'sharp';
import { evaluate } from '@tender-orbit/core/motion';
import { toDisplay } from '@tender-orbit/core/picture';
import { denoise, packScene, QUALITIES, type ModelData } from '@tender-orbit/core/trace';
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

/** Traces one frame of a take and encodes it as lossless WebP. `paths` gives the file of each model by hash. */
export async function renderFrame(
  snapshot: TakeSnapshot,
  frame: number,
  paths: Record<string, string>,
): Promise<Uint8Array> {
  const { width, height, quality } = snapshot;
  const loaded = await modelsFor(snapshot, paths);
  const tableau = evaluate(snapshot.set, snapshot.shot, frame, {
    products: new Map(Object.entries(snapshot.products)),
    meshes: (model) => loaded.get(model)?.meshes,
    aspect: width / height,
  });
  const settings = QUALITIES[quality];
  const { exposureScale } = tableau.camera;
  const passes = tracerFor(packScene(tableau, loaded, { clay: settings.clay })).traceFrame({
    width,
    height,
    samples: snapshot.samples || settings.samples,
    limits: { ...settings.limits, exposureScale },
    frame,
  });
  const picture = toDisplay(
    { width, height, data: settings.denoise ? denoise(passes!) : passes!.beauty },
    exposureScale,
  );
  return sharp(picture.data, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .webp({ lossless: true, effort: 4 })
    .toBuffer();
}

export interface Probe {
  /** Seconds a frame takes in one worker. */
  secondsPerFrame: number;
}

/** Measures a take's cost by tracing small pictures of its first and middle frame. */
export async function probe(snapshot: TakeSnapshot, paths: Record<string, string>): Promise<Probe> {
  const height = 54;
  const small: TakeSnapshot = {
    ...snapshot,
    height,
    width: Math.round((height * snapshot.width) / snapshot.height),
    samples: 2,
  };
  // The first run compiles the tracer and loads the models, so it is not counted.
  await renderFrame(small, 0, paths);
  const at = [0, Math.floor(snapshot.shot.length / 2)];
  const timed = async (size: TakeSnapshot): Promise<number> => {
    const start = performance.now();
    for (const frame of at) await renderFrame(size, frame, paths);
    return (performance.now() - start) / at.length / 1000;
  };
  const tiny = await timed({ ...small, width: 16, height: 9, samples: 1 });
  const larger = await timed({ ...small, samples: 4 });
  const perSample = Math.max(0, larger - tiny) / (small.width * small.height * 4 - 144);
  const samples = snapshot.samples || QUALITIES[snapshot.quality].samples;
  return { secondsPerFrame: tiny + perSample * snapshot.width * snapshot.height * samples };
}
