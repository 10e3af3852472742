import { readFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { fileURLToPath } from 'node:url';
import { instantiateKernel, sharedMemory } from '@tender-orbit/kernel';
import { KernelTracer, type PackedScene, type TraceOptions } from '@tender-orbit/core/trace';
import { inTurn } from './bench.ts';

/** A compiled module of the kernel. */
export function moduleOf(name: string): WebAssembly.Module {
  return new WebAssembly.Module(readFileSync(fileURLToPath(import.meta.resolve(`@tender-orbit/kernel/${name}.wasm`))));
}

/** The compiled kernel holding a scene, as a render thread has it. */
export function kernelWith(scene: PackedScene): KernelTracer {
  return new KernelTracer(instantiateKernel(moduleOf('trace')), 1, () => performance.now()).load(scene);
}

const HELPER = `
const { parentPort, workerData } = require('node:worker_threads');
const { module, memory } = workerData;
const { exports } = new WebAssembly.Instance(module, { env: { memory, abort() { throw new Error('abort'); } } });
parentPort.on('message', ({ job, scratch }) => {
  exports.traceTiles(job, scratch, 0x7fffffff);
  parentPort.postMessage('done');
});
parentPort.postMessage('ready');
`;

/** A tracer on a shared memory and threads that trace its pictures. */
async function withThreads(module: WebAssembly.Module, scene: PackedScene, count: number) {
  const memory = sharedMemory();
  const tracer = new KernelTracer(instantiateKernel(module, memory), count + 1).load(scene);
  const helpers = Array.from(
    { length: count },
    () => new Worker(HELPER, { eval: true, workerData: { module, memory } }),
  );
  const answer = (worker: Worker): Promise<unknown> => new Promise((done) => worker.once('message', done));
  await Promise.all(helpers.map(answer));
  return {
    /** One picture by the first `by` threads. */
    trace: (options: TraceOptions, by: number): Promise<unknown> => {
      const job = tracer.begin(options);
      return Promise.all(
        helpers.slice(0, by).map((worker, i) => {
          const done = answer(worker);
          worker.postMessage(job.share(i + 1));
          return done;
        }),
      );
    },
    end: () => Promise.all(helpers.map((worker) => worker.terminate())),
  };
}

/**
 * How many times faster two threads are than one: `shared` on one picture, and `apart` as two tracers with a memory each
 * that know nothing of one another, which is what the machine itself allows.
 */
export async function inTwoThreads(
  scene: PackedScene,
  options: TraceOptions,
): Promise<{ shared: number; apart: number }> {
  const module = moduleOf('trace-shared');
  const [both, left, right] = [
    await withThreads(module, scene, 2),
    await withThreads(module, scene, 1),
    await withThreads(module, scene, 1),
  ];
  const [one, two, alone, beside] = await inTurn(
    // Two threads leave no core for whatever else the machine does: only many runs find it quiet.
    21,
    [
      () => both.trace(options, 1),
      () => both.trace(options, 2),
      () => left.trace(options, 1),
      () => Promise.all([left.trace(options, 1), right.trace(options, 1)]),
    ],
  );
  await Promise.all([both, left, right].map((t) => t.end()));
  return { shared: one / two, apart: (2 * alone) / beside };
}
