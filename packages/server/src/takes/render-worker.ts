import { setPriority } from 'node:os';
import type { TakeSnapshot } from '@tender-orbit/core/document';
import { contentsOf } from './contents.ts';
import {
  developFrame,
  probe,
  renderFrame,
  simulateEffect,
  simulationOf,
  traceFrame,
  type Probe,
} from './render-frame.ts';

import type { FollowedPoint } from '@tender-orbit/core/contract';
import { followPoint, type FollowRequest } from './follow-point.ts';
import { sketchFrame, sketchProbe } from './sketch-frame.ts';

/** Whoever works at this machine, and the server's own answers, come first. Of this thread alone: its number is 0 to itself. */
const NICE = 10;
try {
  setPriority(0, NICE);
} catch {
  // A system that does not let itself be asked renders at the usual priority.
}

/**
 * A frame whole, its first half (`trace`: passes written to a file) or second half (`develop`); a take to measure, or
 * what its frames show; a chunk of an effect to simulate (`simulate`), or how long all of it would take (`simulation`); a point
 * to follow (`follow`), `raw` being the files of the frames' light.
 */
export interface RenderTask {
  task: 'frame' | 'trace' | 'develop' | 'probe' | 'contents' | 'simulate' | 'simulation' | 'follow';
  snapshot: TakeSnapshot;
  frame: number;
  /** Model files by hash. */
  paths: Record<string, string>;
  /** Files of traced passes by frame, of the frame's layers and of its light. */
  raw: Record<number, string>;
  exr: string;
  light: string;
  /** And of its lights one by one. */
  parts: string;
  /** Folder of what is simulated; and which chunk of which effect is to be. */
  simulations: string;
  effect?: number;
  chunk?: number;
  /** The point that is followed. */
  point?: FollowRequest;
}

export default async function run({
  task,
  snapshot,
  frame,
  paths,
  raw,
  exr,
  light,
  parts,
  simulations,
  effect = 0,
  chunk = 0,
  point,
}: RenderTask): Promise<Uint8Array | Probe | FollowedPoint | string[] | number | null> {
  const files = { paths, simulations };
  switch (task) {
    case 'frame':
      return renderFrame(snapshot, frame, files);
    case 'trace':
      await traceFrame(snapshot, frame, files, raw[frame]);
      return null;
    case 'develop':
      if (snapshot.quality === 'sketch') return sketchFrame(snapshot, frame, files);
      return developFrame(snapshot, frame, (f) => raw[f], { exr, light, parts });
    case 'probe':
      return snapshot.quality === 'sketch' ? sketchProbe(snapshot, files) : probe(snapshot, files);
    case 'contents':
      return contentsOf(snapshot, files);
    case 'simulate':
      return simulateEffect(snapshot, effect, chunk, files);
    case 'follow':
      return followPoint(snapshot, point!, (f) => raw[f] ?? '', files);
    case 'simulation':
      return simulationOf(snapshot, files, snapshot.set.effects[effect]?.id);
  }
}
