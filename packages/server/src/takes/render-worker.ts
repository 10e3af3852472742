import { parentPort } from 'node:worker_threads';
import { replyOf } from '../workers/index.ts';
import { developFrame, probe, renderFrame, traceFrame } from './render-frame.ts';
import type { TakeSnapshot } from '@tender-orbit/core/document';

/**
 * One job at a time: a frame whole, its first half (`trace`: passes written to a file) or second half (`develop`), or a
 * take to measure.
 */
export interface RenderJob {
  task: 'frame' | 'trace' | 'develop' | 'probe';
  snapshot: TakeSnapshot;
  frame: number;
  /** Model files by hash. */
  paths: Record<string, string>;
  /** Files of traced passes by frame, and of the frame's layers. */
  raw: Record<number, string>;
  exr: string;
}

function run({ task, snapshot, frame, paths, raw, exr }: RenderJob): Promise<unknown> {
  switch (task) {
    case 'frame':
      return renderFrame(snapshot, frame, paths);
    case 'trace':
      return traceFrame(snapshot, frame, paths, raw[frame]);
    case 'develop':
      return developFrame(snapshot, frame, (f) => raw[f], exr);
    case 'probe':
      return probe(snapshot, paths);
  }
}

parentPort!.on('message', (job: RenderJob) => {
  void replyOf<unknown>(() => run(job)).then((reply) => parentPort!.postMessage(reply));
});
