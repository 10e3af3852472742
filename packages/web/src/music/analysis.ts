import type { MusicAnalysis } from '@tender-orbit/core/audio';
import { watch } from 'vue';
import type { BeatsReply, BeatsRequest } from '../workers/beats-worker.ts';
import { musicOf } from './music.ts';

const known = new Map<string, Promise<MusicAnalysis>>();
const waiting = new Map<string, { done: (analysis: MusicAnalysis) => void; fail: (error: Error) => void }>();
let worker: Worker | null = null;

/**
 * What is heard in music, listened to once, in a worker.
 * @throws Error with a sentence for a person, when it cannot be listened to.
 */
export function listenTo(asset: string): Promise<MusicAnalysis> {
  let heard = known.get(asset);
  if (!heard) {
    heard = new Promise<MusicAnalysis>((done, fail) => waiting.set(asset, { done, fail }));
    known.set(asset, heard);
    // It can be asked for again after it failed.
    heard.catch(() => known.delete(asset));
    whenDecoded(asset);
  }
  return heard;
}

function whenDecoded(asset: string): void {
  const stop = watch(
    () => musicOf(asset),
    (sound) => {
      if (!sound) return;
      worker ??= start();
      const { sampleRate, left, right } = sound;
      worker.postMessage({ key: asset, sampleRate, left, right } satisfies BeatsRequest);
      queueMicrotask(() => stop());
    },
    { immediate: true },
  );
}

function start(): Worker {
  const started = new Worker(new URL('../workers/beats-worker.ts', import.meta.url), { type: 'module' });
  started.onmessage = ({ data }: MessageEvent<BeatsReply>) => {
    const one = waiting.get(data.key);
    waiting.delete(data.key);
    if (data.analysis) one?.done(data.analysis);
    else one?.fail(new Error(data.problem));
  };
  return started;
}
