import type { Tableau } from '@tender-orbit/core/scene';
import { toDisplay } from '@tender-orbit/core/picture';
import { addSamples, PackCache, packScene, QUALITIES, type Passes } from '@tender-orbit/core/trace';
import { Crew } from './crew.ts';
import { TableauReader } from './tableau-reader.ts';

/** Traces the viewer's tableau: a coarse picture at once, then finer ones for as long as nothing changes. */
export type TraceRequest =
  { kind: 'trace'; id: number; tableau: Tableau; width: number; height: number } | { kind: 'stop' };

export interface TraceReply {
  id: number;
  width: number;
  height: number;
  samples: number;
  pixels: ArrayBuffer;
  /** Exposed scene luminance of each pixel. */
  luminance: ArrayBuffer;
}

/** The first picture has a quarter of the size each way. */
const COARSE = { divisor: 4, samples: 2 };
/** Samples after which a full-size picture is shown; each is cleaned of noise, which costs as much as several samples. */
const SHOWN = [2, 6, 16, 40, 96];
/** Others are listened to at least this often, ms. */
const PATIENCE = 30;
const { limits } = QUALITIES.final;

const reader = new TableauReader();
const gathered = Crew.gather();
const cache = new PackCache();
let crew: Crew | null = null;
let current = 0;
/** The picture that was asked for last runs after the one before has let go of the kernel. */
let turn: Promise<void> = Promise.resolve();

function luminanceOf(rgb: Float32Array, exposure: number): Float32Array {
  return Float32Array.from({ length: rgb.length / 3 }, (_, i) => {
    const at = i * 3;
    return exposure * (0.2126 * rgb[at] + 0.7152 * rgb[at + 1] + 0.0722 * rgb[at + 2]);
  });
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

async function trace({ id, tableau, width, height }: Extract<TraceRequest, { kind: 'trace' }>): Promise<void> {
  crew = await gathered;
  const { models, ...art } = await reader.read(tableau);
  if (id !== current) return;
  const { tracer } = crew;
  tracer.load(packScene(tableau, models, { cache, ...art }));
  const { exposureScale } = tableau.camera;
  const wanted = (): boolean => id === current;

  const picture = (w: number, h: number, firstSample: number, samples: number): Promise<Passes | null> =>
    crew!.trace(
      {
        ...{ width: w, height: h, samples, firstSample, frame: tableau.frame },
        limits: { ...limits, exposureScale },
      },
      wanted,
      breath,
    );
  /** False as soon as another request has come. */
  const show = async (passes: Passes): Promise<boolean> => {
    const steps = tracer.denoiseSteps(passes);
    let heard = performance.now();
    let step = steps.next();
    for (; !step.done; step = steps.next()) {
      if (performance.now() - heard < PATIENCE) continue;
      await breath();
      if (id !== current) return false;
      heard = performance.now();
    }
    const shown = toDisplay(
      { width: passes.width, height: passes.height, data: step.value.beauty },
      exposureScale,
      tableau.view,
    );
    const reply: TraceReply = {
      id,
      width: shown.width,
      height: shown.height,
      samples: passes.samples,
      pixels: shown.data.buffer as ArrayBuffer,
      luminance: luminanceOf(step.value.beauty, exposureScale).buffer as ArrayBuffer,
    };
    self.postMessage(reply, { transfer: [reply.pixels, reply.luminance] });
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
    const more: Passes | null = await picture(width, height, done, samples - done);
    if (!more) return;
    sum = sum ? addSamples(sum, more) : more;
    if (!(await show(sum))) return;
  }
}

self.onmessage = (event: MessageEvent<TraceRequest>) => {
  crew?.cancel();
  if (event.data.kind === 'stop') {
    current = -1;
    return;
  }
  const request = event.data;
  current = request.id;
  turn = turn
    .then(() => (request.id === current ? trace(request) : undefined))
    .catch((error: unknown) => {
      // The kernel's own failures must not stop the pictures that follow.
      setTimeout(() => {
        throw error;
      });
    });
};
