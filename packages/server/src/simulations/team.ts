import { readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { instantiateKernel, sharedMemory } from '@tender-orbit/kernel';
import type { SimulationKernel } from '@tender-orbit/core/simulate';

const moduleOf = (name: string): WebAssembly.Module =>
  new WebAssembly.Module(readFileSync(fileURLToPath(import.meta.resolve(`@tender-orbit/kernel/${name}.wasm`))));

/** The threads besides the first: an instance of their own on the memory they are told of, in which they do the steps they are told of. */
const HELPER = `
const { parentPort, workerData } = require('node:worker_threads');
const abort = () => { throw new Error('abort'); };
let known = -1;
let exports = null;
parentPort.on('message', ({ id, memory, step }) => {
  if (id !== known) ({ exports } = new WebAssembly.Instance(workerData.module, { env: { memory, abort } }));
  known = id;
  exports.advance(...step, workerData.thread);
});
parentPort.postMessage('ready');
`;

/** Threads that simulate together at most: more would mostly wait for each other. */
const MOST = 4;

let plain: WebAssembly.Module | null = null;
let helpers: Promise<{ module: WebAssembly.Module; workers: Worker[] }> | null = null;
let made = 0;

/** Gets the other threads ready, once; they do not keep a process alive. */
function ready(threads: number): NonNullable<typeof helpers> {
  helpers ??= (async () => {
    const module = moduleOf('simulate-shared');
    const workers = Array.from({ length: threads - 1 }, (_, n) => {
      const worker = new Worker(HELPER, { eval: true, workerData: { module, thread: n + 1 } });
      worker.unref();
      return worker;
    });
    await Promise.all(workers.map((worker) => new Promise((done) => worker.once('message', done))));
    return { module, workers };
  })();
  return helpers;
}

/**
 * What makes instances of the simulation kernel whose steps are shared by several threads: the same bytes as by one, sooner.
 * @param threads 1 for this one alone.
 */
export async function kernelMaker(threads = Math.min(MOST, availableParallelism())): Promise<() => SimulationKernel> {
  if (threads < 2) return () => instantiateKernel((plain ??= moduleOf('simulate'))) as unknown as SimulationKernel;
  const { module, workers } = await ready(threads);
  return () => {
    const memory = sharedMemory();
    const id = made++;
    const begin = (step: readonly number[]): void => {
      for (const worker of workers) worker.postMessage({ id, memory, step });
    };
    return {
      ...(instantiateKernel(module, memory) as unknown as SimulationKernel),
      team: { threads: workers.length + 1, begin },
    };
  };
}
