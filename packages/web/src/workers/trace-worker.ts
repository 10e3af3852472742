import wasmUrl from '@tender-orbit/kernel/trace.wasm?url';
import { instantiateKernel } from '@tender-orbit/kernel';
import { readModel } from '@tender-orbit/core/interchange';
import type { Tableau } from '@tender-orbit/core/motion';
import { toDisplay } from '@tender-orbit/core/picture';
import {
  addSamples,
  denoiseSteps,
  KernelTracer,
  packScene,
  QUALITIES,
  relight,
  type ModelData,
  type PackedScene,
  type Passes,
} from '@tender-orbit/core/trace';

/** Traces the viewer's tableau: a coarse picture at once, then finer ones for as long as nothing changes. */
export type TraceRequest =
  { kind: 'trace'; id: number; tableau: Tableau; width: number; height: number } | { kind: 'stop' };

export interface TraceReply {
  id: number;
  width: number;
  height: number;
  samples: number;
  pixels: ArrayBuffer;
}

/** The first picture has a quarter of the size each way. */
const COARSE = { divisor: 4, samples: 3 };
/** Samples after which a full-size picture is shown; each is cleaned of noise, which costs as much as several samples. */
const SHOWN = [2, 6, 16, 40, 96];
/** Others are listened to at least this often, ms. */
const PATIENCE = 30;
const { limits } = QUALITIES.final;

const models = new Map<string, Promise<ModelData>>();
const tracer = WebAssembly.compileStreaming(fetch(wasmUrl)).then(
  (module) => new KernelTracer(instantiateKernel(module)),
);
let current = 0;

async function readData(hash: string): Promise<ModelData> {
  const response = await fetch(`/api/assets/${hash}`);
  if (!response.ok) throw new Error(`the server answered ${response.status}`);
  const model = await readModel(new Uint8Array(await response.arrayBuffer()));
  const images = await Promise.all(
    model.images.map(async ({ bytes, mimeType }) => {
      const bitmap = await createImageBitmap(new Blob([new Uint8Array(bytes)], { type: mimeType }), {
        colorSpaceConversion: 'none',
        premultiplyAlpha: 'none',
      });
      const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d', { willReadFrequently: true })!;
      context.drawImage(bitmap, 0, 0);
      return context.getImageData(0, 0, bitmap.width, bitmap.height);
    }),
  );
  return { meshes: model.parts.map((p) => p.mesh), images };
}

/** The models of a tableau; one that cannot be fetched is left out and asked for again next time. */
async function modelsOf(tableau: Tableau): Promise<Map<string, ModelData>> {
  const out = new Map<string, ModelData>();
  for (const { model } of tableau.instances) {
    if (!models.has(model)) models.set(model, readData(model));
    try {
      out.set(model, await models.get(model)!);
    } catch {
      models.delete(model);
    }
  }
  return out;
}

/** Lets a waiting message in. */
function breath(): Promise<void> {
  return new Promise((done) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      done();
    };
    port2.postMessage(0);
  });
}

let packed: { key: string; scene: PackedScene } | null = null;

/** The packed scene; what only differs in light or camera keeps its geometry, whose tree takes longest to make. */
function sceneOf(tableau: Tableau, data: Map<string, ModelData>): PackedScene {
  const key = JSON.stringify([[...data.keys()], tableau.instances, tableau.surfaces]);
  const scene = packed?.key === key ? relight(packed.scene, tableau) : packScene(tableau, data);
  packed = { key, scene };
  return scene;
}

async function trace({ id, tableau, width, height }: Extract<TraceRequest, { kind: 'trace' }>): Promise<void> {
  const [kernel, data] = [await tracer, await modelsOf(tableau)];
  if (id !== current) return;
  kernel.load(sceneOf(tableau, data));
  const { exposureScale } = tableau.camera;

  /** Null as soon as another request has come. */
  const picture = async (w: number, h: number, firstSample: number, samples: number): Promise<Passes | null> => {
    const rows = kernel.begin({
      width: w,
      height: h,
      samples,
      firstSample,
      limits: { ...limits, exposureScale },
      frame: tableau.frame,
    });
    let heard = performance.now();
    for (let y = 0; y < h; y++) {
      rows.trace(y);
      if (performance.now() - heard < PATIENCE) continue;
      await breath();
      if (id !== current) return null;
      heard = performance.now();
    }
    return rows.finish();
  };
  /** False as soon as another request has come. */
  const show = async (passes: Passes): Promise<boolean> => {
    const steps = denoiseSteps(passes);
    let heard = performance.now();
    let step = steps.next();
    for (; !step.done; step = steps.next()) {
      if (performance.now() - heard < PATIENCE) continue;
      await breath();
      if (id !== current) return false;
      heard = performance.now();
    }
    const shown = toDisplay({ width: passes.width, height: passes.height, data: step.value }, exposureScale);
    const reply: TraceReply = {
      id,
      width: shown.width,
      height: shown.height,
      samples: passes.samples,
      pixels: shown.data.buffer as ArrayBuffer,
    };
    self.postMessage(reply, { transfer: [reply.pixels] });
    return true;
  };

  const coarse = await picture(
    Math.ceil(width / COARSE.divisor),
    Math.ceil(height / COARSE.divisor),
    0,
    COARSE.samples,
  );
  if (!coarse || !(await show(coarse))) return;
  let sum: Passes | null = null;
  for (const samples of SHOWN) {
    const done: number = sum?.samples ?? 0;
    const more = await picture(width, height, done, samples - done);
    if (!more) return;
    sum = sum ? addSamples(sum, more) : more;
    if (!(await show(sum))) return;
  }
}

self.onmessage = (event: MessageEvent<TraceRequest>) => {
  if (event.data.kind === 'stop') {
    current = -1;
    return;
  }
  current = event.data.id;
  void trace(event.data);
};
