import { readFile, rename, writeFile } from 'node:fs/promises';
import sharp from 'sharp';
import { readHdr, writeExr } from '@tender-orbit/core/interchange';
import type { Panorama } from '@tender-orbit/core/light';
import { compile, evaluateMotion, picturesIn, type Tableau } from '@tender-orbit/core/scene';
import { toDisplay } from '@tender-orbit/core/picture';
import { modelKey } from '@tender-orbit/core/product';
import {
  exrOf,
  PackCache,
  packScene,
  placeRegion,
  QUALITIES,
  steady,
  type DecodedImage,
  type KernelTracer,
  type ModelData,
  type PackedScene,
  type Passes,
  type Quality,
  type TraceOptions,
} from '@tender-orbit/core/trace';
import { loadModel, loadPicture } from '../workers/index.ts';
import { tracerFor, threadTracer } from './kernel.ts';
import { NEIGHBOUR_PLANES, readRaw, writeRaw } from './raw-passes.ts';
import { neighboursOf } from './snapshot.ts';
import type { TakeSnapshot } from '@tender-orbit/core/document';

const models = new Map<string, ModelData>();
const pictures = new Map<string, DecodedImage>();
const panoramas = new Map<string, Panorama>();
/** Models and pictures kept decoded between frames. */
const KEEP = 12;
const cache = new PackCache();

async function modelsFor(snapshot: TakeSnapshot, paths: Record<string, string>): Promise<Map<string, ModelData>> {
  const keys = Object.values(snapshot.products).map(modelKey);
  for (const key of keys) if (!models.has(key)) models.set(key, await loadModel(key, paths));
  forget(models, keys);
  return models;
}

async function picturesFor(tableau: Tableau, paths: Record<string, string>): Promise<Map<string, DecodedImage>> {
  const wanted = picturesIn(tableau);
  for (const [key, source] of wanted) if (!pictures.has(key)) pictures.set(key, await loadPicture(source, paths));
  forget(pictures, [...wanted.keys()]);
  return pictures;
}

async function panoramasFor(tableau: Tableau, paths: Record<string, string>): Promise<Map<string, Panorama>> {
  const { asset } = tableau.environment.room;
  if (asset && !panoramas.has(asset)) panoramas.set(asset, readHdr(new Uint8Array(await readFile(paths[asset]))));
  forget(panoramas, [asset]);
  return panoramas;
}

/** Lets go of what was kept from earlier frames beyond a number, but not of what is in use. */
function forget(kept: Map<string, unknown>, used: readonly string[]): void {
  for (const key of kept.keys()) {
    if (kept.size <= KEEP) break;
    if (!used.includes(key)) kept.delete(key);
  }
}

interface OpenFrame {
  tracer: KernelTracer;
  tableau: Tableau;
  scene: PackedScene;
  options: TraceOptions;
  quality: Quality;
}

/** The packed scene of one frame, ready to trace, with what its quality asks for. */
async function openFrame(snapshot: TakeSnapshot, frame: number, paths: Record<string, string>): Promise<OpenFrame> {
  const loaded = await modelsFor(snapshot, paths);
  const { width, height } = snapshot;
  const tableau = evaluateMotion(compile(snapshot.set, snapshot.shot), frame, {
    products: new Map(Object.entries(snapshot.products)),
    meshes: (model) => loaded.get(model)?.meshes,
    aspect: width / height,
  });
  const quality = QUALITIES[snapshot.quality];
  const { exposureScale } = tableau.camera;
  const scene = packScene(tableau, loaded, {
    ...{ clay: quality.clay, cache },
    pictures: await picturesFor(tableau, paths),
    panoramas: await panoramasFor(tableau, paths),
  });
  const samples = snapshot.samples || quality.samples;
  // Asked for a number of samples, a take gets just that many.
  const adapt = snapshot.samples ? undefined : quality.adapt;
  return {
    tracer: tracerFor(scene),
    tableau,
    scene,
    options: {
      ...{ width, height, samples, adapt, frame, detail: quality.detail },
      limits: { ...quality.limits, exposureScale },
      region: regionOf(snapshot),
    },
    quality,
  };
}

/** The part of the picture that is rendered, in pixels. */
function regionOf({ region, width, height }: TakeSnapshot): TraceOptions['region'] {
  if (!region) return undefined;
  const [x0, y0] = [Math.floor(region.x0 * width), Math.floor(region.y0 * height)];
  return {
    ...{ x0, y0 },
    x1: Math.min(width, Math.max(x0 + 1, Math.ceil(region.x1 * width))),
    y1: Math.min(height, Math.max(y0 + 1, Math.ceil(region.y1 * height))),
  };
}

function trace({ tracer, options }: OpenFrame): Passes {
  const passes = tracer.traceFrame(options)!;
  return options.region ? placeRegion(passes, options.region, options.width, options.height) : passes;
}

/** Display values as lossless WebP. */
function encode(
  data: Float32Array,
  size: { width: number; height: number },
  exposure: number,
  view: Tableau['view'],
): Promise<Uint8Array> {
  const { width, height } = size;
  const picture = toDisplay({ width, height, data }, exposure, view);
  return sharp(picture.data, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .webp({ lossless: true, effort: 4 })
    .toBuffer();
}

/** Cleans a traced picture of noise, brings it to display values and encodes it. */
function develop(passes: Passes, { tracer, quality, tableau }: OpenFrame): Promise<Uint8Array> {
  const data = quality.denoise ? tracer.denoise(passes).beauty : passes.beauty;
  return encode(data, passes, tableau.camera.exposureScale, tableau.view);
}

/** Renders one frame whole. `paths` gives the file of each model by hash. @returns lossless WebP. */
export async function renderFrame(
  snapshot: TakeSnapshot,
  frame: number,
  paths: Record<string, string>,
): Promise<Uint8Array> {
  const open = await openFrame(snapshot, frame, paths);
  return develop(trace(open), open);
}

/** First half of a frame that is steadied with its neighbours: its passes, written to `raw`. */
export async function traceFrame(
  snapshot: TakeSnapshot,
  frame: number,
  paths: Record<string, string>,
  raw: string,
): Promise<void> {
  const open = await openFrame(snapshot, frame, paths);
  const { scene, tableau } = open;
  const named = new Map(
    [...snapshot.set.products, ...snapshot.set.surfaces, ...snapshot.set.lights].map((t) => [t.id, t.name]),
  );
  const names = {
    things: scene.things.map((id) => named.get(id) ?? id),
    finishes: scene.finishes,
    lights: scene.lightPasses.map((id) => named.get(id) ?? id),
  };
  const about = { exposureScale: tableau.camera.exposureScale, view: tableau.view, names };
  await writeRaw(raw, trace(open), about, snapshot.passes ?? false);
}

/**
 * Second half: steadies a frame with its traced neighbours, cleans it and encodes it.
 * @param raw gives the passes' file of a frame, @param exr where the layers go when the take keeps them.
 */
export async function developFrame(
  snapshot: TakeSnapshot,
  frame: number,
  raw: (frame: number) => string,
  exr: string,
): Promise<Uint8Array> {
  const around = neighboursOf(frame, snapshot.shot.length);
  const { header, passes } = await readRaw(raw(frame));
  const still = await steady(passes, async (offset) =>
    around.includes(frame + offset) ? (await readRaw(raw(frame + offset), NEIGHBOUR_PLANES)).passes : undefined,
  );
  const clean = threadTracer().denoise(still, snapshot.passes ? passes.detail!.lights : []);
  if (snapshot.passes) {
    await writeFile(`${exr}.part`, writeExr(exrOf(passes, clean, header.names, header.exposureScale)));
    await rename(`${exr}.part`, exr);
  }
  return encode(clean.beauty, passes, header.exposureScale, header.view);
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
  const small = { ...snapshot, width, height };
  // The first run compiles the code and loads the models, so it is not counted.
  await renderFrame({ ...small, samples: 1 }, 0, paths);
  const frames = [0, Math.floor(snapshot.shot.length / 2)];
  let [once, tracing, developing] = [0, 0, 0];
  const wanted = snapshot.samples || QUALITIES[snapshot.quality].samples;
  const { adapt } = QUALITIES[snapshot.quality];
  let perPixelSamples = wanted;
  for (const frame of frames) {
    const times = [performance.now()];
    const open = await openFrame({ ...small, samples }, frame, paths);
    times.push(performance.now());
    const passes = trace(open);
    times.push(performance.now());
    await develop(passes, open);
    times.push(performance.now());
    once += times[1] - times[0];
    tracing += times[2] - times[1];
    developing += times[3] - times[2];
    if (adapt && !snapshot.samples)
      perPixelSamples = Math.max(perPixelSamples, samplesFor(passes, open, adapt, wanted));
  }
  const perFrame = once / frames.length;
  const share = snapshot.region
    ? (snapshot.region.x1 - snapshot.region.x0) * (snapshot.region.y1 - snapshot.region.y0)
    : 1;
  const perPath = tracing / frames.length / (width * height * samples) / share;
  const perPixel = developing / frames.length / (width * height);
  const count = snapshot.width * snapshot.height;
  return { secondsPerFrame: (perFrame + perPath * count * share * perPixelSamples + perPixel * count) / 1000 };
}

/** Samples a pixel that tiles will need on average, by the noise of the probe's few: error falls with their root. */
function samplesFor(passes: Passes, open: OpenFrame, adapt: { target: number; most: number }, least: number): number {
  const { exposureScale } = open.tableau.camera;
  let sum = 0;
  for (let i = 0; i < passes.variance.length; i++) {
    const l =
      (0.2126 * passes.beauty[i * 3] + 0.7152 * passes.beauty[i * 3 + 1] + 0.0722 * passes.beauty[i * 3 + 2]) *
      exposureScale;
    const error = (Math.sqrt(passes.variance[i]) * exposureScale) / (l + 0.05);
    const needed = passes.samples * (error / adapt.target) ** 2;
    sum += Math.min(adapt.most, Math.max(least, needed));
  }
  return sum / passes.variance.length;
}
