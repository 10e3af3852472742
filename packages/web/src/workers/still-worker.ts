import type { Tableau } from '@tender-orbit/core/scene';
import { toDisplay } from '@tender-orbit/core/picture';
import { PackCache, packScene, QUALITIES } from '@tender-orbit/core/trace';
import { Crew } from './crew.ts';
import { TableauReader } from './tableau-reader.ts';

/** Traces small pictures one after another: finishes on a ball, variants of a product. */
export interface StillRequest {
  key: string;
  tableau: Tableau;
  width: number;
  height: number;
  samples: number;
}

export interface StillReply {
  key: string;
  width: number;
  height: number;
  /** Nothing when it could not be traced. */
  pixels?: ArrayBuffer;
}

const { limits } = QUALITIES.final;
const { features } = QUALITIES.draft;
const gathered = Crew.gather();
const reader = new TableauReader();
const cache = new PackCache();
let turn: Promise<void> = Promise.resolve();

async function trace({ key, tableau, width, height, samples }: StillRequest): Promise<void> {
  const reply: StillReply = { key, width, height };
  try {
    const crew = await gathered;
    const { models, ...art } = await reader.read(tableau);
    crew.tracer.load(packScene(tableau, models, { cache, ...art }));
    const { exposureScale } = tableau.camera;
    const options = { width, height, samples, features, frame: 0, limits: { ...limits, exposureScale } };
    const passes = await crew.trace(
      options,
      () => true,
      () => Promise.resolve(),
    );
    const clean = crew.tracer.denoise(passes!).beauty;
    reply.pixels = toDisplay({ width, height, data: clean }, exposureScale, tableau.view).data.buffer as ArrayBuffer;
  } catch {
    // The reply without pixels says it; the list then shows its plain mark.
  }
  self.postMessage(reply, { transfer: reply.pixels ? [reply.pixels] : [] });
}

self.onmessage = (event: MessageEvent<StillRequest>) => {
  turn = turn.then(() => trace(event.data));
};
