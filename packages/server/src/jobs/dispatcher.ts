import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import type { Statements } from '../database/index.ts';
import type { JobQueue } from './job-queue.ts';
import type { JobEvents } from './job-events.ts';
import { LEASE_SECONDS, type Job, type Queue } from './job.ts';

/** What a job is done with. */
export interface JobRun {
  /** Aborted when the job is taken away: the work is given up and its result not wanted. */
  signal: AbortSignal;
  /** Says how far it is, 0..1. */
  progress: (share: number) => void;
}

/** What came of a job: something to keep in its row, and what to write with it in one transaction. */
export interface JobResult {
  result?: unknown;
  also?: (statements: Statements) => Promise<void>;
}

/** Does jobs of one kind. It leaves nothing half-done behind when it throws or is aborted. */
export type JobHandler = (job: Job, run: JobRun) => Promise<JobResult | void>;

/** Hands jobs to whoever does them. Threads of this machine are one way; a farm of machines would be another. */
export interface JobDispatcher {
  start(): void;
  /** There may be new jobs. */
  wake(): void;
  /** A subject's jobs were paused or taken away: work on them is given up. */
  drop(subject: string): Promise<void>;
  /** Gives up what is being worked on; those jobs go back to the queue. */
  stop(): Promise<void>;
}

export interface DispatcherOptions {
  /** How many jobs of each queue are worked on at a time; asked again before each where it changes. */
  slots: Partial<Record<Queue, number | (() => number)>>;
  handlers: Readonly<Record<string, JobHandler>>;
  /** Milliseconds between looks at the table, for jobs that others added or lost. */
  lookEvery?: number;
  /** Milliseconds between signs of life. */
  beatEvery?: number;
}

/** Progress reaches the database at most this often, in ms. */
const REPORT_EVERY = 250;

interface Working {
  job: Job;
  abort: AbortController;
  ended: Promise<void>;
}

/** Serves the job table from this process. Several of them, here or on other machines, share the work. */
export class ThreadDispatcher implements JobDispatcher {
  readonly owner = randomUUID();
  private readonly working = new Map<number, Working>();
  private readonly timers: Array<ReturnType<typeof setInterval>> = [];
  private stopping = false;
  private pumping: Promise<void> | null = null;
  private again = false;

  constructor(
    private readonly queue: JobQueue,
    private readonly events: JobEvents,
    private readonly log: Logger,
    private readonly options: DispatcherOptions,
  ) {}

  start(): void {
    const { lookEvery = 2000, beatEvery = (LEASE_SECONDS * 1000) / 6 } = this.options;
    const every = (ms: number, what: string, work: () => Promise<unknown>): void => {
      const timer = setInterval(() => void this.guard(what, work), ms);
      timer.unref();
      this.timers.push(timer);
    };
    every(beatEvery, 'sign of life', () => this.beat());
    every(lookEvery, 'lost jobs', async () => {
      await this.queue.reclaim();
      this.wake();
    });
    this.wake();
  }

  wake(): void {
    if (this.stopping) return;
    if (this.pumping) {
      this.again = true;
      return;
    }
    this.pumping = this.guard('claiming', () => this.pump()).then(() => {
      this.pumping = null;
      if (!this.again) return;
      this.again = false;
      this.wake();
    });
  }

  async drop(subject: string): Promise<void> {
    const dropped = [...this.working.values()].filter(({ job }) => job.subject === subject);
    for (const { abort } of dropped) abort.abort();
    await Promise.all(dropped.map(({ ended }) => ended));
    this.wake();
  }

  async stop(): Promise<void> {
    this.stopping = true;
    this.timers.forEach(clearInterval);
    await this.pumping;
    const left = [...this.working.values()];
    for (const { abort } of left) abort.abort();
    await Promise.all(left.map(({ ended }) => ended));
  }

  /** Runs what must not end the process when it fails: a lost database comes back, and the timers go on. */
  private async guard(what: string, work: () => Promise<unknown>): Promise<void> {
    try {
      await work();
    } catch (error) {
      this.log.error({ err: error }, `jobs: ${what}`);
    }
  }

  private async beat(): Promise<void> {
    const lost = await this.queue.heartbeat(this.owner, [...this.working.keys()]);
    for (const id of lost) this.working.get(id)?.abort.abort();
  }

  private async pump(): Promise<void> {
    for (const [queue, slots] of Object.entries(this.options.slots) as Array<[Queue, number | (() => number)]>) {
      const busy = (): number => [...this.working.values()].filter(({ job }) => job.queue === queue).length;
      const most = (): number => (typeof slots === 'number' ? slots : slots());
      while (!this.stopping && busy() < most()) {
        const job = await this.queue.claim(queue, this.owner);
        if (!job) break;
        const abort = new AbortController();
        this.working.set(job.id, { job, abort, ended: Promise.resolve() });
        const ended = this.work(job, abort).finally(() => {
          this.working.delete(job.id);
          this.events.changed(job.campaign);
          this.wake();
        });
        // Kept only while it runs: it may have ended at once.
        const entry = this.working.get(job.id);
        if (entry) entry.ended = ended;
        this.events.changed(job.campaign);
      }
    }
  }

  /** Does a job and writes what came of it. Never throws: what cannot be written comes back when its lease ends. */
  private async work(job: Job, abort: AbortController): Promise<void> {
    const started = performance.now();
    let reported = -Infinity;
    const progress = (share: number): void => {
      if (performance.now() - reported < REPORT_EVERY) return;
      reported = performance.now();
      void this.guard('progress', async () => {
        await this.queue.report(job.id, this.owner, share);
        this.events.changed(job.campaign);
      });
    };
    await this.guard(`${job.kind} ${job.subject} ${job.part}`, async () => {
      try {
        const handler = this.options.handlers[job.kind];
        if (!handler) throw new Error(`Nobody here knows how to do "${job.kind}".`);
        const { result, also } = (await handler(job, { signal: abort.signal, progress })) ?? {};
        const seconds = (performance.now() - started) / 1000;
        await this.queue.finish(job.id, this.owner, { seconds, result, also });
      } catch (error) {
        if (abort.signal.aborted) {
          if (this.stopping) await this.queue.release(job.id, this.owner);
          return;
        }
        if (!(error instanceof Error) || error.name !== 'Problem') this.log.error({ err: error }, `job ${job.kind}`);
        await this.queue.fail(job, this.owner, error);
      }
    });
  }
}
