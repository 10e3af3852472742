import type { JobHandler } from '../jobs/index.ts';
import type { RenderNode } from '../takes/index.ts';
import { RUN_JOB, type RunQueue } from './run-queue.ts';

/** Simulates chunks of runs on the threads that render. */
export class RunNode {
  constructor(
    private readonly queue: RunQueue,
    private readonly renderNode: RenderNode,
  ) {}

  /** What the dispatcher gives chunks to; the keys of a chunk's frames are kept with its job. */
  get handlers(): Record<string, JobHandler> {
    return {
      [RUN_JOB]: async ({ subject, part, payload }, { signal }) => {
        const snapshot = await this.queue.snapshotOf(subject);
        const { effect } = payload as { effect: number };
        return { result: await this.renderNode.simulate(snapshot, effect, part, signal) };
      },
    };
  }
}
