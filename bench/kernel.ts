import { readFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { fileURLToPath } from 'node:url';
import { instantiateKernel, sharedMemory } from '@tender-orbit/kernel';
import { KernelTracer, type PackedScene, type TraceOptions } from '@tender-orbit/core/trace';
import { inTurn } from './bench.ts';

function moduleOf(name: string): WebAssembly.Module {
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

/** Milliseconds of a picture by one and by two threads that share a memory. */
export async function inTwoThreads(scene: PackedScene, options: TraceOptions): Promise<{ one: number; two: number }> {
  const module = moduleOf('trace-shared');
  const memory = sharedMemory();
  const tracer = new KernelTracer(instantiateKernel(module, memory), 3).load(scene);
  const helpers = [0, 1].map(() => new Worker(HELPER, { eval: true, workerData: { module, memory } }));
  const answer = (worker: Worker): Promise<unknown> => new Promise((done) => worker.once('message', done));
  await Promise.all(helpers.map(answer));
  const measure = async (count: number): Promise<void> => {
    const job = tracer.begin(options);
    await Promise.all(
      helpers.slice(0, count).map((worker, i) => {
        const done = answer(worker);
        worker.postMessage(job.share(i + 1));
        return done;
      }),
    );
  };
  const { first: one, second: two } = await inTurn(
    // Two threads leave no core for whatever else the machine does: only many runs find it quiet.
    21,
    () => measure(1),
    () => measure(2),
  );
  await Promise.all(helpers.map((worker) => worker.terminate()));
  return { one, two };
}
