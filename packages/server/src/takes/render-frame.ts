import { readFile, rename, writeFile } from 'node:fs/promises';
import { deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { readHdr, writeExr, type ExrPicture } from '@tender-orbit/core/interchange';
import type { Panorama } from '@tender-orbit/core/light';
import {
  compile,
  evaluateMotion,
  frameSpace,
  picturesIn,
  type EvaluateContext,
  type ShotProgram,
  type Tableau,
} from '@tender-orbit/core/scene';
import { toDisplay } from '@tender-orbit/core/picture';
import type { EffectRun } from '@tender-orbit/core/simulate';
import { modelKey } from '@tender-orbit/core/product';
import {
  AROUND,
  exrOf,
  hidingMatte,
  type Hiding,
  PackCache,
  packScene,
  placeRegion,
  QUALITIES,
  steady,
  type DecodedImage,
  type KernelTracer,
  type LayerNames,
  type ModelData,
  type PackedScene,
  type Passes,
  type TraceOptions,
} from '@tender-orbit/core/trace';
import { effectRuns, simulateChunk, simulatedFrom, trySimulation } from '../simulations/index.ts';
import { loadModel, loadPicture } from '../workers/index.ts';
import { tracerFor, threadTracer } from './kernel.ts';
import { depthsOf, packLight, packParts, writePacked } from './light-file.ts';
import { NEIGHBOUR_PLANES, readRaw, writeRaw } from './raw-passes.ts';
import { neighboursOf, stepsOf } from './snapshot.ts';
import {
  shotTime,
  takeLength,
  type SetEffect,
  type TakeSnapshot,
  type TracedQuality,
} from '@tender-orbit/core/document';

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
  program: ShotProgram;
  tracer: KernelTracer;
  tableau: Tableau;
  scene: PackedScene;
  options: TraceOptions;
}

/** Where a take's files lie: those of its models by hash, and what is simulated. */
export interface Files {
  paths: Record<string, string>;
  simulations: string;
}

interface LoadedShot {
  at: (frame: number) => Tableau;
  loaded: Map<string, ModelData>;
  /** What simulates each effect. */
  runs: Map<string, EffectRun<SetEffect>>;
  program: ShotProgram;
}

/** A take's shot at any frame, its models loaded. @param effects whether what is simulated is wanted too. */
export async function tableaux(
  snapshot: TakeSnapshot,
  { paths, simulations }: Files,
  effects = true,
): Promise<LoadedShot> {
  const loaded = await modelsFor(snapshot, paths);
  const program = compile(snapshot.set, snapshot.shot);
  const context: EvaluateContext = {
    products: new Map(Object.entries(snapshot.products)),
    meshes: (model: string) => loaded.get(model)?.meshes,
    aspect: snapshot.width / snapshot.height,
  };
  const runs = effectRuns(program, context, snapshot.frameRate ?? { num: 24, den: 1 });
  if (effects && runs.size > 0) context.simulated = simulatedFrom(runs, simulations);
  const at = (frame: number): Tableau =>
    evaluateMotion(program, shotTime(snapshot, frame), context, stepsOf(snapshot, frame));
  return { at, loaded, runs, program };
}

/** Simulates a chunk of an effect of a take's set; see simulateChunk(). @returns the keys of its frames. */
export async function simulateEffect(
  snapshot: TakeSnapshot,
  effect: number,
  chunk: number,
  files: Files,
): Promise<string[]> {
  const run = (await tableaux(snapshot, files)).runs.get(snapshot.set.effects[effect]?.id);
  return run ? simulateChunk(run, chunk, files.simulations) : [];
}

/** The packed scene of one frame, ready to trace, with what its quality asks for. */
async function openFrame(snapshot: TakeSnapshot, frame: number, files: Files): Promise<OpenFrame> {
  const { paths } = files;
  const { at, loaded, program } = await tableaux(snapshot, files);
  const { width, height } = snapshot;
  const tableau = at(frame);
  const quality = QUALITIES[snapshot.quality as TracedQuality];
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
    program,
    tableau,
    scene,
    options: {
      ...{ width, height, samples, adapt, features: quality.features, frame, detail: true },
      limits: { ...quality.limits, exposureScale },
      region: regionOf(snapshot),
    },
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

/** Display values as lossless WebP: the least effort takes a sixth of the time of the usual and a sixth more room. */
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
    .webp({ lossless: true, effort: 0 })
    .toBuffer();
}

/** Cleans a traced picture of noise, brings it to display values and encodes it. */
function develop(passes: Passes, { tracer, tableau }: OpenFrame): Promise<Uint8Array> {
  return encode(tracer.denoise(passes).beauty, passes, tableau.camera.exposureScale, tableau.view);
}

/** Renders one frame whole. @returns lossless WebP. */
export async function renderFrame(snapshot: TakeSnapshot, frame: number, files: Files): Promise<Uint8Array> {
  const open = await openFrame(snapshot, frame, files);
  return develop(trace(open), open);
}

function layerNames({ set }: TakeSnapshot, scene: PackedScene): LayerNames {
  const named = new Map([...set.products, ...set.surfaces, ...set.lights].map((t) => [t.id, t.name]));
  return {
    things: scene.things.map((id) => named.get(id) ?? id),
    finishes: scene.finishes,
    lights: scene.lightPasses.map((id) => named.get(id) ?? id),
  };
}

const toExr = (picture: ExrPicture): Uint8Array => writeExr(picture, (bytes) => deflateSync(bytes, { level: 6 }));

/** First half of a frame that is steadied with its neighbours: its passes, written to `raw`. */
export async function traceFrame(snapshot: TakeSnapshot, frame: number, files: Files, raw: string): Promise<void> {
  const open = await openFrame(snapshot, frame, files);
  const { scene, tableau, program } = open;
  const about = {
    ...{ exposureScale: tableau.camera.exposureScale, view: tableau.view, names: layerNames(snapshot, scene) },
    ...{
      space: frameSpace(program, shotTime(snapshot, frame), tableau, stepsOf(snapshot, frame).next),
      things: scene.things,
      lights: scene.lightPasses,
    },
  };
  const passes = trace(open);
  const { passes: all = false, lights = false } = snapshot;
  await writeRaw(raw, passes, about, { all, lights }, hidingOf(passes, open));
}

/** What products and particles hide of what lies behind them. */
function hidingOf(passes: Passes, { scene, tableau }: OpenFrame): Hiding {
  const hiding = [...tableau.instances, ...tableau.swarms].map(({ id }) => id);
  const numbers = new Set(scene.things.flatMap((id, n) => (hiding.includes(id) ? [n] : [])));
  return hidingMatte(passes, numbers, PRODUCT_DEPTH);
}

/** Metres behind the glass of a product within which what is seen through it is the product's own. */
const PRODUCT_DEPTH = 0.15;

/** Where the files of a frame go that is developed, besides its picture. */
export interface FrameFiles {
  /** The layers, when the take keeps them. */
  exr: string;
  /** Its light, for the compositor. */
  light: string;
  /** And light by light, when the take keeps those. */
  parts: string;
}

/**
 * Second half: steadies a frame with its traced neighbours, cleans it and encodes it.
 * @param raw gives the passes' file of a frame.
 */
export async function developFrame(
  snapshot: TakeSnapshot,
  frame: number,
  raw: (frame: number) => string,
  { exr, light, parts }: FrameFiles,
): Promise<Uint8Array> {
  const around = neighboursOf(frame, snapshot);
  const { header, passes, hiding } = await readRaw(raw(frame));
  const still = await steady(passes, async (offset) =>
    around.includes(frame + offset) ? (await readRaw(raw(frame + offset), NEIGHBOUR_PLANES)).passes : undefined,
  );
  const mixed = snapshot.passes || snapshot.lights;
  const clean = threadTracer().denoise(still, mixed ? passes.detail!.lights : []);
  if (snapshot.passes) {
    await writeFile(`${exr}.part`, toExr(exrOf(passes, clean, header.names, header.exposureScale)));
    await rename(`${exr}.part`, exr);
  }
  const { width, height } = passes;
  const exposed = clean.beauty.map((v) => v * header.exposureScale);
  const depths = depthsOf(passes, header.things, header.names.finishes, header.space, hiding.tint);
  if (mixed) {
    const each = clean.lights.map((data, i) => ({
      light: header.lights[i],
      data: data.map((v) => v * header.exposureScale),
    }));
    await writePacked(parts, packParts({ width, height, parts: each }));
  }
  // The light goes last: a frame that has it has its lights too.
  await writePacked(light, packLight({ width, height, light: exposed, matte: hiding.matte, depths }));
  return encode(clean.beauty, passes, header.exposureScale, header.view);
}

export interface Probe {
  /** Seconds a frame takes in one worker. */
  secondsPerFrame: number;
  /** What a frame takes on disk, with its layers when the take keeps them, and how many layers those are. */
  bytesPerFrame: number;
  layers: number;
  /** Seconds that simulating what is not there yet takes before. */
  simulation: number;
}

/** Frames of an effect that are simulated to see how long one takes. */
const TRIED = 3;

/**
 * How long a take's effects take to be simulated in seconds, from their first frames: later ones may take longer.
 * @param only the id of the one that is asked about; none: all of them.
 */
export async function simulationOf(snapshot: TakeSnapshot, files: Files, only?: string): Promise<number> {
  const { runs } = await tableaux(snapshot, files);
  let seconds = 0;
  for (const [id, run] of runs)
    if (only === undefined || id === only) seconds += await trySimulation(run, TRIED, files.simulations);
  return seconds;
}

/**
 * Height of the small picture that a probe traces: enough pixels to rise above the clock's noise, and not so few that all
 * of them are edges, which take the most samples.
 */
const PROBE_HEIGHT = 108;

/**
 * Measures a take's cost on a small picture of its middle frame, traced as the take will be: what the frame costs once
 * (evaluating and packing), each pixel of tracing, and each afterwards, scaled to the take's size.
 */
export async function probe(snapshot: TakeSnapshot, files: Files): Promise<Probe> {
  const height = Math.min(PROBE_HEIGHT, snapshot.height);
  const width = Math.round((height * snapshot.width) / snapshot.height);
  const small = { ...snapshot, width, height };
  // The first run compiles the code and loads the models, so it is not counted.
  await renderFrame({ ...small, samples: 1 }, 0, files);
  const start = performance.now();
  const open = await openFrame(small, Math.floor(takeLength(snapshot) / 2), files);
  const packed = performance.now();
  const passes = trace(open);
  const still = await steady(passes, (offset) => (Math.abs(offset) > AROUND ? undefined : passes));
  const { scene, tableau, tracer } = open;
  const { exposureScale } = tableau.camera;
  const mixed = snapshot.passes || snapshot.lights;
  const clean = tracer.denoise(still, mixed ? passes.detail!.lights : []);
  let bytes = (await encode(clean.beauty, passes, exposureScale, tableau.view)).length;
  const layers = new Set<string>();
  const light = Float32Array.from(clean.beauty, (v) => v * exposureScale);
  const { matte, tint } = hidingOf(passes, open);
  const space = frameSpace(open.program, tableau.frame, tableau);
  const depths = depthsOf(passes, scene.things, scene.finishes, space, tint);
  bytes += packLight({ width, height, light, matte, depths }).length;
  if (mixed) {
    const parts = clean.lights.map((data, i) => ({
      light: scene.lightPasses[i],
      data: data.map((v) => v * exposureScale),
    }));
    bytes += packParts({ width, height, parts }).length;
  }
  if (snapshot.passes) {
    const picture = exrOf(passes, clean, layerNames(snapshot, scene), exposureScale);
    bytes += toExr(picture).length;
    for (const { name } of picture.channels) layers.add(name.replace(/\.?[^.]*$/, ''));
  }
  const done = performance.now();
  // A region is traced alone, but the whole picture is developed: the small one is as large a share of both.
  const pixels = (snapshot.width * snapshot.height) / (width * height);
  return {
    secondsPerFrame: (packed - start + (done - packed) * pixels) / 1000,
    bytesPerFrame: bytes * pixels,
    layers: layers.size,
    simulation: await simulationOf(snapshot, files),
  };
}
