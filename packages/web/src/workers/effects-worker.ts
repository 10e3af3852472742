import plainUrl from '@tender-orbit/kernel/simulate.wasm?url';
import { instantiateKernel } from '@tender-orbit/kernel';
import type { EffectLevel, ProductDocument, SetDocument, SetEffect, ShotDocument } from '@tender-orbit/core/document';
import type { Mesh } from '@tender-orbit/core/geometry';
import { Problem } from '@tender-orbit/core/problem';
import { modelKey } from '@tender-orbit/core/product';
import { compile } from '@tender-orbit/core/scene';
import {
  runOf,
  STATE_EVERY,
  type EffectFrame,
  type EffectRun,
  type SimulationHost,
  type SimulationKernel,
  smokeArrays,
} from '@tender-orbit/core/simulate';
import type { FrameRate } from '@tender-orbit/core/time';
import { readModelByKey } from './read-model.ts';

/** Simulates the effects of a shot, each from the first frame that nobody has yet; a later request takes the place of an earlier one. */
export interface EffectsRequest {
  id: number;
  set: SetDocument;
  shot: ShotDocument;
  products: ReadonlyMap<string, ProductDocument>;
  aspect: number;
  rate: FrameRate;
  /** Which effects at which level; of those that are simulated elsewhere only the keys are said. */
  effects: ReadonlyArray<{ id: string; level: EffectLevel; elsewhere: boolean }>;
  /** Keys of frames that are there. */
  known: ReadonlySet<string>;
}

export type EffectsReply =
  | { kind: 'keys'; id: number; effect: string; level: EffectLevel; keys: string[] }
  | { kind: 'frame'; id: number; effect: string; key: string; frame: EffectFrame; milliseconds: number }
  | { kind: 'problem'; id: number; effect: string; message: string }
  | { kind: 'done'; id: number };

/** Bytes of states that are kept to go on from. */
const MOST_BYTES = 250_000_000;

const module = WebAssembly.compileStreaming(fetch(plainUrl));
const models = new Map<string, Promise<Mesh[]>>();
const states = new Map<string, Uint8Array>();
let bytes = 0;
let current = 0;
let turn: Promise<void> = Promise.resolve();
const say = (reply: EffectsReply, transfer: Transferable[] = []): void => self.postMessage(reply, { transfer });

/** Lets a waiting message in. */
const breath = (): Promise<void> => new Promise((done) => setTimeout(done));

async function meshesFor(products: EffectsRequest['products']): Promise<Map<string, readonly Mesh[]>> {
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

function keepState(key: string, state: Uint8Array): void {
  bytes += state.length - (states.get(key)?.length ?? 0);
  states.delete(key);
  states.set(key, state);
  // The map is in the order of use: those used longest ago go first.
  for (const [old, { length }] of states) {
    if (bytes <= MOST_BYTES || old === key) break;
    states.delete(old);
    bytes -= length;
  }
}

async function simulate(request: EffectsRequest): Promise<void> {
  const { id, products, aspect } = request;
  const wanted = (): boolean => id === current;
  const meshes = await meshesFor(products);
  const program = compile(request.set, request.shot);
  const context = { products, aspect, meshes: (key: string) => meshes.get(key) };
  for (const { id: effect, level, elsewhere } of request.effects) {
    const slot = program.effects.find(({ thing }) => thing.id === effect);
    if (!slot || !wanted()) continue;
    try {
      const run = runOf(program, slot, context, level, request.rate);
      const keys = Array.from({ length: run.frames }, (_, frame) => run.key(frame));
      say({ kind: 'keys', id, effect, level, keys });
      await breath();
      if (!elsewhere) await finish(run, effect, keys, request, wanted);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      say({ kind: 'problem', id, effect, message: error.message });
    }
  }
  if (wanted()) say({ kind: 'done', id });
}

async function finish(
  run: EffectRun<SetEffect>,
  effect: string,
  keys: readonly string[],
  { id, known }: EffectsRequest,
  wanted: () => boolean,
): Promise<void> {
  let missing = 1;
  while (missing < keys.length && known.has(keys[missing])) missing++;
  if (missing >= keys.length) return;
  const compiled = await module;
  const host: SimulationHost = {
    kernel: () => instantiateKernel(compiled) as unknown as SimulationKernel,
    state: (key) => states.get(key),
  };
  run.begin(host, missing - 1);
  while (run.frame < keys.length - 1 && wanted()) {
    const begun = performance.now();
    run.next();
    const key = keys[run.frame];
    if (run.frame % STATE_EVERY === 0 || run.frame === missing - 1) keepState(key, run.state());
    if (run.frame >= missing) {
      const frame = run.result();
      const milliseconds = performance.now() - begun;
      // Particles go on from what is shown: they are copied.
      const transfer = frame.kind === 'smoke' ? smokeArrays(frame).map(({ buffer }) => buffer as ArrayBuffer) : [];
      say({ kind: 'frame', id, effect, key, frame, milliseconds }, transfer);
    }
    await breath();
  }
}

self.onmessage = ({ data }: MessageEvent<EffectsRequest>) => {
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
