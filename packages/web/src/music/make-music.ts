import type { TrackPlan } from '@tender-orbit/core/audio';
import type { MusicReply } from '../workers/music-worker.ts';

export type MadeMusic = Extract<MusicReply, { made: unknown }>;

/** Makes music in a worker of its own. @throws Error with a sentence for a person; AbortError when it is no longer wanted. */
export function makeMusic(plan: TrackPlan, signal: AbortSignal): Promise<MadeMusic> {
  const worker = new Worker(new URL('../workers/music-worker.ts', import.meta.url), { type: 'module' });
  return new Promise<MadeMusic>((done, fail) => {
    signal.addEventListener('abort', () => fail(new DOMException('', 'AbortError')));
    worker.onmessage = ({ data }: MessageEvent<MusicReply>) =>
      'made' in data ? done(data) : fail(new Error(data.problem));
    worker.onerror = () => fail(new Error('This music could not be made: reload the page and try again.'));
    worker.postMessage(plan);
  }).finally(() => worker.terminate());
}
