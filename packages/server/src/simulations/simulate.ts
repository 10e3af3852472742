import type { SetEffect, TakeSnapshot } from '@tender-orbit/core/document';
import { mayShow, playedFrame, type EvaluateContext, type ShotProgram, type Simulated } from '@tender-orbit/core/scene';
import { runOf, simulatedBetween, STATE_EVERY, type EffectFrame, type EffectRun } from '@tender-orbit/core/simulate';
import type { FrameRate } from '@tender-orbit/core/time';
import { SimulationStore } from './store.ts';
import { kernelMaker } from './team.ts';

/** What simulates each effect of a take's shot that may be seen, at the level that its takes use. */
export function effectRuns(
  program: ShotProgram,
  context: EvaluateContext,
  rate: FrameRate,
): Map<string, EffectRun<SetEffect>> {
  const runs = new Map<string, EffectRun<SetEffect>>();
  for (const slot of program.effects)
    if (mayShow(slot.thing, program.shot))
      runs.set(slot.thing.id, runOf(program, slot, context, slot.thing.level, rate));
  return runs;
}

/** Frames that one job simulates: the state that the next one goes on from is kept. */
export const CHUNK = STATE_EVERY;

/** The last simulated frame that a frame of a shot looks at: that of particles is asked for as the shutter closes as well. */
function lastLookedAt(effect: SetEffect, frame: number, length: number): number | null {
  const at = playedFrame(effect, frame, length);
  if (at === null || effect.kind === 'smoke') return at;
  return Math.max(at, playedFrame(effect, frame + 1, length) ?? at);
}

/** The chunks of effects that a frame of a shot needs, by the number of the effect. */
export function chunksFor({ set, shot }: Pick<TakeSnapshot, 'set' | 'shot'>, frame: number): Array<[number, number]> {
  return set.effects.flatMap((effect, n): Array<[number, number]> => {
    const at = mayShow(effect, shot) ? lastLookedAt(effect, frame, shot.length) : null;
    return at === null || at <= 0 ? [] : [[n, Math.ceil(Math.ceil(at) / CHUNK) - 1]];
  });
}

/** Frames of an effect that a shot has simulated: the one that it begins with is there without; none when it is never seen. */
export function frameCount({ set, shot }: Pick<TakeSnapshot, 'set' | 'shot'>, effect: number): number {
  if (!mayShow(set.effects[effect], shot)) return 0;
  return Math.max(0, shot.length - 1 - Math.round(set.effects[effect].start));
}

/** How many chunks that are. */
export const chunkCount = (snapshot: Pick<TakeSnapshot, 'set' | 'shot'>, effect: number): number =>
  Math.ceil(frameCount(snapshot, effect) / CHUNK);

/**
 * Simulates a chunk of an effect, unless it is there already. It goes on from the state that the chunk before left; without that,
 * from the last one that is there.
 * @returns the keys of its frames.
 */
export async function simulateChunk(run: EffectRun<SetEffect>, chunk: number, folder: string): Promise<string[]> {
  const store = new SimulationStore(folder);
  const first = chunk * CHUNK;
  const end = Math.min(first + CHUNK, run.frames - 1);
  const there = (frame: number): boolean => store.has(run.key(frame));
  const whole = end < first + CHUNK || store.has(run.key(end), 'state');
  const own = Array.from({ length: end - first }, (_, i) => first + 1 + i);
  const keys = own.map((frame) => run.key(frame));
  if (whole && own.every(there)) return keys;
  run.begin({ kernel: await kernelMaker(), state: (key) => store.state(key) }, first);
  while (run.frame < end) {
    run.next();
    const key = run.key(run.frame);
    if (run.frame % CHUNK === 0) await store.writeState(key, run.state());
    if (!there(run.frame)) await store.writeFrame(key, run.result());
  }
  return keys;
}

/** Seconds that simulating an effect takes, from some of its frames; none when its last frame is there. */
export async function trySimulation(run: EffectRun<SetEffect>, frames: number, folder: string): Promise<number> {
  const last = run.frames - 1;
  if (last <= 0 || new SimulationStore(folder).has(run.key(last))) return 0;
  run.begin({ kernel: await kernelMaker(), state: () => undefined });
  const tried = Math.min(frames, last);
  const started = performance.now();
  while (run.frame < tried) run.next();
  return ((performance.now() - started) / 1000 / tried) * last;
}

/** What is simulated, for evaluating: reads it; frames that are not there are left out. */
export function simulatedFrom(
  runs: ReadonlyMap<string, EffectRun<SetEffect>>,
  folder: string,
): (effect: string, at: number) => Simulated | undefined {
  const store = new SimulationStore(folder);
  const kept = new Map<string, EffectFrame>();
  const frame = (run: EffectRun<SetEffect>, n: number): EffectFrame | undefined => {
    const key = run.key(Math.min(n, run.frames - 1));
    let found = kept.get(key);
    if (!found) {
      found = store.frame(key);
      if (kept.size > 3) kept.clear();
      if (found) kept.set(key, found);
    }
    return found;
  };
  return (effect, at) => {
    const run = runs.get(effect);
    // At its very beginning there is nothing to see.
    if (!run || at <= 0) return undefined;
    const [low, share] = [Math.floor(at), at - Math.floor(at)];
    const first = low > 0 ? frame(run, low) : frame(run, 1);
    const second = share > 0 ? frame(run, low + 1) : first;
    if (!first || !second) return undefined;
    return simulatedBetween(first, second, low > 0 ? share : 1);
  };
}
