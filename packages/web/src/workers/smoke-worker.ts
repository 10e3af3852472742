import plainUrl from '@tender-orbit/kernel/simulate.wasm?url';
import { instantiateKernel } from '@tender-orbit/kernel';
import type { EffectLevel, ProductDocument, SetDocument, ShotDocument } from '@tender-orbit/core/document';
import type { Mesh } from '@tender-orbit/core/geometry';
import { Problem } from '@tender-orbit/core/problem';
import { modelKey } from '@tender-orbit/core/product';
import { compile } from '@tender-orbit/core/scene';
import {
  SmokeRun,
  STATE_EVERY,
  type SimulationKernel,
  type SmokeFrame,
  type SmokeState,
} from '@tender-orbit/core/simulate';
import type { FrameRate } from '@tender-orbit/core/time';
import { readModelByKey } from './read-model.ts';

/** Simulates the smoke of a shot, from the first frame that nobody has yet; a later request takes the place of an earlier one. */
export interface SmokeRequest {
  id: number;
  set: SetDocument;
  shot: ShotDocument;
  products: ReadonlyMap<string, ProductDocument>;
  aspect: number;
  rate: FrameRate;
  /** Which effects at which level. */
  effects: ReadonlyArray<{ id: string; level: EffectLevel }>;
  /** Keys of frames that are there. */
  known: ReadonlySet<string>;
}

export type SmokeReply =
  | { kind: 'keys'; id: number; effect: string; level: EffectLevel; keys: string[] }
  | { kind: 'frame'; id: number; effect: string; key: string; frame: SmokeFrame; milliseconds: number }
  | { kind: 'problem'; id: number; effect: string; message: string }
  | { kind: 'done'; id: number };

/** States kept to go on from: about 10 MB each at the usual coarse level. */
const MOST_STATES = 24;

const module = WebAssembly.compileStreaming(fetch(plainUrl));
const models = new Map<string, Promise<Mesh[]>>();
const states = new Map<string, SmokeState>();
let current = 0;
let turn: Promise<void> = Promise.resolve();
const say = (reply: SmokeReply, transfer: Transferable[] = []): void => self.postMessage(reply, { transfer });

/** Lets a waiting message in. */
const breath = (): Promise<void> => new Promise((done) => setTimeout(done));

async function meshesFor(products: SmokeRequest['products']): Promise<Map<string, readonly Mesh[]>> {
  const found = new Map<string, readonly Mesh[]>();
  for (const product of products.values()) {
    const key = modelKey(product);
    if (!models.has(key))
      models.set(
        key,
        readModelByKey(key).then(({ meshes }) => meshes),
      );
    try {
      found.set(key, await models.get(key)!);
    } catch {
      models.delete(key);
    }
  }
  return found;
}

function keepState(key: string, state: SmokeState): void {
  states.delete(key);
  states.set(key, state);
  // The map is in the order of use: the one used longest ago goes first.
  if (states.size > MOST_STATES) states.delete(states.keys().next().value!);
}

async function simulate(request: SmokeRequest): Promise<void> {
  const { id, products, aspect } = request;
  const wanted = (): boolean => id === current;
  const meshes = await meshesFor(products);
  const program = compile(request.set, request.shot);
  const context = { products, aspect, meshes: (key: string) => meshes.get(key) };
  const runs: SmokeRun[] = [];
  for (const { id: effect, level } of request.effects) {
    const slot = program.effects.find(({ thing }) => thing.id === effect);
    if (!slot || !wanted()) continue;
    try {
      const run = new SmokeRun(program, slot, context, level, request.rate);
      const keys = Array.from({ length: run.frames }, (_, frame) => run.key(frame));
      say({ kind: 'keys', id, effect, level, keys });
      runs.push(run);
      await breath();
      await finish(run, effect, keys, request, wanted);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      say({ kind: 'problem', id, effect, message: error.message });
    }
  }
  if (wanted()) say({ kind: 'done', id });
}

async function finish(
  run: SmokeRun,
  effect: string,
  keys: readonly string[],
  { id, known }: SmokeRequest,
  wanted: () => boolean,
): Promise<void> {
  let missing = 1;
  while (missing < keys.length && known.has(keys[missing])) missing++;
  if (missing >= keys.length) return;
  let from = missing - 1;
  while (from > 0 && !states.has(keys[from])) from--;
  run.begin(instantiateKernel(await module) as unknown as SimulationKernel, from, states.get(keys[from]));
  while (run.frame < keys.length - 1 && wanted()) {
    const begun = performance.now();
    run.next();
    const key = keys[run.frame];
    if (run.frame % STATE_EVERY === 0 || run.frame === missing - 1) keepState(key, run.state());
    if (run.frame >= missing) {
      const frame = run.smoke();
      const milliseconds = performance.now() - begun;
      say({ kind: 'frame', id, effect, key, frame, milliseconds }, [frame.density.buffer]);
    }
    await breath();
  }
}

self.onmessage = ({ data }: MessageEvent<SmokeRequest>) => {
  current = data.id;
  turn = turn
    .then(() => (data.id === current ? simulate(data) : undefined))
    .catch((error: unknown) => {
      // One failure must not stop what is asked for later.
      setTimeout(() => {
        throw error;
      });
    });
};
