import { availableParallelism } from 'node:os';
import Piscina from 'piscina';
import { Problem, type ProblemDetails } from '@tender-orbit/core/problem';

type Reply<T> = { ok: true; value: T } | { ok: false; problem: ProblemDetails };

export interface PoolOptions {
  /** Threads at most. */
  threads?: number;
  /** Megabytes of heap that a task may use. */
  memoryMb?: number;
}

export interface RunOptions {
  /** Gives the task up; its thread is ended. */
  signal?: AbortSignal;
  /** Seconds it may take, and what is said when it takes longer or runs out of memory. */
  seconds?: number;
  tooHeavy?: Problem;
  transfer?: readonly ArrayBuffer[];
}

/** Threads that run one TypeScript file, whose default export is the work. They are started when needed and kept. */
export class WorkerPool<Task, Result> {
  private readonly pool: Piscina;

  constructor(url: URL, { threads = availableParallelism(), memoryMb }: PoolOptions = {}) {
    this.pool = new Piscina({
      filename: new URL('./boot.mjs', import.meta.url).href,
      workerData: { url: url.href },
      minThreads: 0,
      maxThreads: Math.max(1, threads),
      idleTimeout: 60_000,
      resourceLimits: memoryMb ? { maxOldGenerationSizeMb: memoryMb } : undefined,
      // A thread that dies is said by the task's own promise.
      recordTiming: false,
    });
    this.pool.on('error', () => undefined);
  }

  /** @throws Problem what the work reported, or `tooHeavy`; AbortError when given up; what ended its thread otherwise. */
  async run(task: Task, { signal, seconds, tooHeavy, transfer = [] }: RunOptions = {}): Promise<Result> {
    const limit = seconds ? AbortSignal.timeout(seconds * 1000) : undefined;
    const signals = [signal, limit].filter((s) => s !== undefined);
    try {
      const reply = (await this.pool.run(task, {
        signal: signals.length > 0 ? AbortSignal.any(signals) : undefined,
        transferList: [...transfer],
      })) as Reply<Result>;
      if (reply.ok) return reply.value;
      throw new Problem(reply.problem.code, reply.problem.message, reply.problem.thing);
    } catch (error) {
      if (tooHeavy && (limit?.aborted || (error as NodeJS.ErrnoException).code === 'ERR_WORKER_OUT_OF_MEMORY'))
        throw tooHeavy;
      throw error;
    }
  }

  async close(): Promise<void> {
    await this.pool.destroy();
  }
}
