import { Worker, type WorkerOptions } from 'node:worker_threads';
import { Problem, type ProblemDetails } from '@tender-orbit/core/problem';

const TSX_API = import.meta.resolve('tsx/esm/api');

/** Starts a TypeScript file in a worker thread. */
export function startWorker(url: URL, options: WorkerOptions = {}): Worker {
  // A worker does not take over its parent's module hooks, so the TypeScript loader is registered inside it.
  const boot = `import(${JSON.stringify(TSX_API)}).then((tsx) => { tsx.register(); return import(${JSON.stringify(url.href)}); })`;
  return new Worker(boot, { eval: true, ...options });
}

/**
 * Stops listening to a worker. Its internal listeners stay: without them a worker that is used again never answers.
 */
export function stopListening(worker: Worker): void {
  worker.removeAllListeners('message');
  worker.removeAllListeners('error');
}

/** How workers report: a result, or a problem that a person can read. */
export type WorkerReply<T> = { ok: true; value: T } | { ok: false; problem: ProblemDetails };

/** Wraps a worker's work so that problems travel as plain data. */
export async function replyOf<T>(work: () => Promise<T>): Promise<WorkerReply<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    if (error instanceof Problem)
      return { ok: false, problem: { code: error.code, message: error.message, thing: error.thing } };
    const message = error instanceof Error ? error.message : String(error);
    return { ok: false, problem: { code: 'worker/failed', message: `The work broke off: ${message.slice(0, 300)}` } };
  }
}

/**
 * Runs one job in a fresh worker that is given `data`, and ends it.
 * @throws Problem what the worker reported, or `timeOut` when it took longer than `seconds` or ran out of memory.
 */
export function runOnce<T>(url: URL, data: unknown, seconds: number, memoryMb: number, timeOut: Problem): Promise<T> {
  return new Promise((done, fail) => {
    const worker = startWorker(url, { workerData: data, resourceLimits: { maxOldGenerationSizeMb: memoryMb } });
    const timer = setTimeout(() => finish(() => fail(timeOut)), seconds * 1000);
    const finish = (then: () => void): void => {
      clearTimeout(timer);
      void worker.terminate();
      then();
    };
    worker.once('message', (reply: WorkerReply<T>) => {
      if (reply.ok) finish(() => done(reply.value));
      else finish(() => fail(new Problem(reply.problem.code, reply.problem.message, reply.problem.thing)));
    });
    worker.once('error', (error: NodeJS.ErrnoException) =>
      finish(() => fail(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? timeOut : error)),
    );
  });
}
