import type { FollowedPoint } from '@tender-orbit/core/contract';
import { takeLength, type TakeSnapshot } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import type { AssetStore } from '../assets/index.ts';
import type { Job, JobHandler } from '../jobs/index.ts';
import { WorkerPool } from '../workers/index.ts';
import { filePaths } from './file-paths.ts';
import type { FollowRequest } from './follow-point.ts';
import type { FrameQueue } from './frame-queue.ts';
import type { FrameStore } from './frame-store.ts';
import type { Probe } from './render-frame.ts';
import type { RenderTask } from './render-worker.ts';
import { neighboursOf } from './snapshot.ts';

const WORKER = new URL('./render-worker.ts', import.meta.url);
/** A probe traces a few thousand pixels: what takes longer than this is out of all proportion. */
const PROBE_SECONDS = 180;
/** Snapshots kept at hand; a night's queue may hold many takes. */
const KEEP = 8;

/** The earlier frame of its take that a frame shows again, if any. */
const sameAs = ({ payload }: Job): number | null => (payload as { same: number } | null)?.same ?? null;

type Work = Pick<RenderTask, 'snapshot' | 'paths'>;

/** Renders frames on this machine's threads. */
export class RenderNode {
  private readonly pool: WorkerPool<RenderTask, Uint8Array | string[] | null>;
  /** A probe, and a look at what frames show, run in threads of their own: they do not wait behind a long frame. */
  private readonly probes: WorkerPool<RenderTask, Probe | number>;
  private readonly looks: WorkerPool<RenderTask, string[] | FollowedPoint>;
  private readonly works = new Map<string, Promise<Work>>();

  constructor(
    private readonly queue: FrameQueue,
    private readonly frames: FrameStore,
    private readonly assets: AssetStore,
    threads: number,
  ) {
    this.pool = new WorkerPool(WORKER, { threads });
    this.probes = new WorkerPool(WORKER, { threads: 1 });
    this.looks = new WorkerPool(WORKER, { threads: 1 });
  }

  /** What the dispatcher gives frames to. */
  get handlers(): Record<string, JobHandler> {
    return {
      // Takes that were begun before every quality was steadied still have frames of this kind.
      'take-frame': async (job, { signal }) => {
        const picture = await this.run('frame', job, signal);
        await this.frames.write(job.subject, job.part, picture!);
      },
      'take-simulate': async (job, { signal }) => {
        const { snapshot, paths } = await this.workOf(job.subject);
        const { effect, chunk } = job.payload as { effect: number; chunk: number };
        await this.pool.run({ ...this.plain('simulate', snapshot, paths), effect, chunk }, { signal });
      },
      'take-trace': async (job, { signal }) => void (await this.run('trace', job, signal)),
      'take-develop': async (job, { signal }) => {
        const same = sameAs(job);
        if (same !== null) await this.frames.copy(job.subject, same, job.subject, job.part);
        else await this.frames.write(job.subject, job.part, (await this.run('develop', job, signal))!);
        await this.clearRaw(job.subject, job.part);
      },
    };
  }

  /** Measures what a frame of a take costs. @throws Problem `take/too-heavy` when not even that comes to an end. */
  async probe(snapshot: TakeSnapshot): Promise<Probe> {
    const tooHeavy = new Problem(
      'take/too-heavy',
      `"${snapshot.shot.name}" is too heavy to be measured within ${PROBE_SECONDS} s: try clay, or hide what is not needed.`,
      snapshot.shot.name,
    );
    return (await this.probes.run(this.taskOf('probe', snapshot), { seconds: PROBE_SECONDS, tooHeavy })) as Probe;
  }

  /**
   * Simulates a chunk of an effect of a shot. @param effect its number on the set.
   * @returns the keys of its frames.
   */
  async simulate(snapshot: TakeSnapshot, effect: number, chunk: number, signal: AbortSignal): Promise<string[]> {
    const task = { ...this.taskOf('simulate', snapshot), effect, chunk };
    return (await this.pool.run(task, { signal })) as string[];
  }

  /** Seconds that simulating an effect of a shot takes. @throws Problem `simulation/too-heavy` when a few frames take too long. */
  async simulationSeconds(snapshot: TakeSnapshot, effect: number): Promise<number> {
    const { name } = snapshot.set.effects[effect];
    const tooHeavy = new Problem(
      'simulation/too-heavy',
      `"${name}" is too fine to be measured within ${PROBE_SECONDS} s: choose larger cells or a coarser level.`,
      name,
    );
    const task = { ...this.taskOf('simulation', snapshot), effect };
    return (await this.probes.run(task, { seconds: PROBE_SECONDS, tooHeavy })) as number;
  }

  /** What a take's frames show: see contentsOf(). @throws Problem `take/too-heavy` when not even that comes to an end. */
  async contents(snapshot: TakeSnapshot): Promise<string[]> {
    const { name } = snapshot.shot;
    const length = takeLength(snapshot);
    const tooHeavy = new Problem(
      'take/too-heavy',
      `The ${length} frames of "${name}" could not be evaluated within ${PROBE_SECONDS} s: shorten the shot, or hide what is not needed.`,
      name,
    );
    return (await this.looks.run(this.taskOf('contents', snapshot), { seconds: PROBE_SECONDS, tooHeavy })) as string[];
  }

  /** Follows a point through frames of a take: see followPoint(). @throws Problem `take/too-heavy` when that does not come to an end. */
  async follow(take: string, point: FollowRequest): Promise<FollowedPoint> {
    const { snapshot, paths } = await this.workOf(take);
    const { name } = snapshot.shot;
    const tooHeavy = new Problem(
      'take/too-heavy',
      `"${name}" could not be looked through within ${PROBE_SECONDS} s: shorten the clip.`,
      name,
    );
    const span = Array.from({ length: point.to - point.from + 1 }, (_, n) => point.from + n);
    const raw = Object.fromEntries([...span, point.frame].map((f) => [f, this.frames.lightPath(take, f)]));
    const task = { ...this.plain('follow', snapshot, paths), raw, point };
    return (await this.looks.run(task, { seconds: PROBE_SECONDS, tooHeavy })) as FollowedPoint;
  }

  private taskOf(task: RenderTask['task'], snapshot: TakeSnapshot): RenderTask {
    return this.plain(task, snapshot, filePaths(this.assets, snapshot));
  }

  private plain(task: RenderTask['task'], snapshot: TakeSnapshot, paths: Record<string, string>): RenderTask {
    return { task, snapshot, frame: 0, paths, raw: {}, exr: '', light: '', parts: '', simulations: this.frames.folder };
  }

  /** Forgets what it keeps of a take that is gone. */
  forget(take: string): void {
    this.works.delete(take);
  }

  async close(): Promise<void> {
    await Promise.all([this.pool.close(), this.probes.close(), this.looks.close()]);
  }

  /**
   * Takes away traced passes near a frame just written that no frame needs any more. Asked of the pictures, not of the jobs:
   * of two frames that end together each would take the other for unfinished, and both would leave their passes.
   */
  private async clearRaw(take: string, frame: number): Promise<void> {
    const { snapshot } = await this.workOf(take);
    for (const near of neighboursOf(frame, snapshot))
      if (neighboursOf(near, snapshot).every((other) => this.frames.has(take, other)))
        await this.frames.removeRaw(take, near);
  }

  private async run(task: RenderTask['task'], { subject, part }: Job, signal: AbortSignal): Promise<Uint8Array | null> {
    const work = await this.workOf(subject);
    await this.frames.makeFolder(subject);
    const around = neighboursOf(part, work.snapshot);
    try {
      return (await this.pool.run(
        {
          ...work,
          ...{ task, frame: part, simulations: this.frames.folder },
          ...{ exr: this.frames.exrPath(subject, part), light: this.frames.lightPath(subject, part) },
          parts: this.frames.partsPath(subject, part),
          raw: Object.fromEntries(around.map((f) => [f, this.frames.rawPath(subject, f)])),
        },
        { signal },
      )) as Uint8Array | null;
    } catch (error) {
      await this.frames.removeParts(subject, part);
      throw error;
    }
  }

  private workOf(take: string): Promise<Work> {
    const known = this.works.get(take);
    if (known) return known;
    const made = this.queue
      .snapshotOf(take)
      .then((snapshot) => ({ snapshot, paths: filePaths(this.assets, snapshot) }));
    this.works.set(take, made);
    // What could not be read is read again for the next frame.
    made.catch(() => this.works.delete(take));
    for (const other of this.works.keys()) {
      if (this.works.size <= KEEP) break;
      if (other !== take) this.works.delete(other);
    }
    return made;
  }
}
