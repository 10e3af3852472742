import { parentPort } from 'node:worker_threads';
import { replyOf } from '../workers/index.ts';
import { probe, renderFrame } from './render-frame.ts';
import type { TakeSnapshot } from './snapshot.ts';

/** One job at a time: a frame to render, or a take to measure. */
export interface RenderJob {
  task: 'frame' | 'probe';
  snapshot: TakeSnapshot;
  frame: number;
  paths: Record<string, string>;
}

parentPort!.on('message', (job: RenderJob) => {
  void replyOf<unknown>(() =>
    job.task === 'frame' ? renderFrame(job.snapshot, job.frame, job.paths) : probe(job.snapshot, job.paths),
  ).then((reply) => parentPort!.postMessage(reply));
});
