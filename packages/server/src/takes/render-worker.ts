import type { TakeSnapshot } from '@tender-orbit/core/document';
import { developFrame, probe, renderFrame, traceFrame, type Probe } from './render-frame.ts';

/**
 * A frame whole, its first half (`trace`: passes written to a file) or second half (`develop`), or a take to measure.
 */
export interface RenderTask {
  task: 'frame' | 'trace' | 'develop' | 'probe';
  snapshot: TakeSnapshot;
  frame: number;
  /** Model files by hash. */
  paths: Record<string, string>;
  /** Files of traced passes by frame, and of the frame's layers. */
  raw: Record<number, string>;
  exr: string;
}

export default async function run({
  task,
  snapshot,
  frame,
  paths,
  raw,
  exr,
}: RenderTask): Promise<Uint8Array | Probe | null> {
  switch (task) {
    case 'frame':
      return renderFrame(snapshot, frame, paths);
    case 'trace':
      await traceFrame(snapshot, frame, paths, raw[frame]);
      return null;
    case 'develop':
      return developFrame(snapshot, frame, (f) => raw[f], exr);
    case 'probe':
      return probe(snapshot, paths);
  }
}
