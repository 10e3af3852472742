import { createHash } from 'node:crypto';
import { lookOf, shotTime, takeLength, type SetEffect, type TakeSnapshot } from '@tender-orbit/core/document';
import { PICTURES } from '@tender-orbit/core/trace';
import { playedFrame, posed, type ShotProgram } from '@tender-orbit/core/scene';
import type { EffectRun } from '@tender-orbit/core/simulate';
import { tableaux, type Files } from './render-frame.ts';
import { neighboursOf, sourcesOf } from './snapshot.ts';

const digest = (parts: readonly string[]): string =>
  createHash('sha256').update(parts.join('\n')).digest('hex').slice(0, 32);

/** Raised when frames come with more beside their pictures: those from before are not shared with takes of today. */
const LIGHT = 2;

/** Meshes that change their shape are long rows of numbers: their bytes say the same. */
const plain = (_: string, value: unknown): unknown =>
  ArrayBuffer.isView(value)
    ? createHash('sha256')
        .update(new Uint8Array(value.buffer, value.byteOffset, value.byteLength))
        .digest('hex')
    : value;

/** What says how an effect looks in a frame: which of its frames is seen, also as the shutter closes, and its look there. */
function seenOf({ set, shot, effects }: ShotProgram, run: EffectRun<SetEffect>, id: string, frame: number): unknown {
  const effect = posed(
    effects.find(({ thing }) => thing.id === id)!,
    frame,
  );
  const at = effect.visible ? playedFrame(effect, frame, shot.length) : null;
  if (at === null || at <= 0) return null;
  const key = (n: number): string => run.key(Math.min(run.frames - 1, Math.max(0, Math.floor(n))));
  const around = effect.kind === 'smoke' ? [key(at)] : [-1, 0, 1, 2].map((n) => key(at + n * effect.playback.speed));
  const flying = effect.kind === 'particles' && set.products.find((p) => p.id === effect.product);
  return [around, at - Math.floor(at), lookOf(effect), flying];
}

/**
 * What each frame of a take shows, as a digest of 32 hex digits: frames with equal ones are the same picture but for the
 * noise they are made from. All that is seen goes in, of the frame and of those that it is steadied with, and how it is
 * rendered; not where it stands in the shot.
 */
export async function contentsOf(snapshot: TakeSnapshot, files: Files): Promise<string[]> {
  const { quality, width, height, samples, passes, lights, region, set } = snapshot;
  const { at, runs, program } = await tableaux(snapshot, files);
  // What is simulated is known by what it follows from: it need not be there yet.
  const simulated = (frame: number): string =>
    JSON.stringify([...runs].map(([id, run]) => seenOf(program, run, id, shotTime(snapshot, frame))));
  // Layers are called by the names of what they show.
  const names = passes ? [...set.products, ...set.surfaces, ...set.lights].map((t) => t.name) : [];
  const how = JSON.stringify([PICTURES, quality, width, height, samples, passes, lights, region, names, LIGHT]);
  const own = Array.from({ length: takeLength(snapshot) }, (_, frame) =>
    digest([
      JSON.stringify({ ...at(frame), frame: 0, volumes: [], swarms: [] }, plain),
      ...(runs.size > 0 ? [simulated(frame)] : []),
    ]),
  );
  return sourcesOf(snapshot).map((frame) => {
    const around = neighboursOf(frame, snapshot);
    return digest([how, String(frame - around[0]), ...around.map((f) => own[f])]);
  });
}
