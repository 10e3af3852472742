import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { expect } from 'chai';
import { instantiateKernel, sharedMemory } from '@tender-orbit/kernel';
import { randomTile, type SimulationExports } from '@tender-orbit/core/simulate';

const module = new WebAssembly.Module(
  readFileSync(fileURLToPath(import.meta.resolve('@tender-orbit/kernel/simulate-shared.wasm'))),
);

/** The second thread: its own instance on the same memory. */
const HELPER = `
const { parentPort, workerData } = require('node:worker_threads');
const { module, memory, call } = workerData;
const { exports } = new WebAssembly.Instance(module, { env: { memory, abort() { throw new Error('abort'); } } });
parentPort.postMessage('ready');
parentPort.on('message', () => {
  exports.advance(...call, 1);
  parentPort.postMessage('done');
});
`;
const CELLS = 32;

/** Density and red after some frames of warm, coloured smoke that blows about, by so many threads. */
async function densityBy(threads: number): Promise<Float32Array> {
  const memory = sharedMemory();
  const exports = instantiateKernel(module, memory).exports as unknown as SimulationExports;
  const grid = exports.create(CELLS, CELLS, CELLS, threads, 1000, 1);
  const [row, plane] = [CELLS + 8, (CELLS + 8) * (CELLS + 2)];
  const floats = plane * (CELLS + 2);
  new Float32Array(memory.buffer, exports.address(grid, 5), floats).fill(1);
  exports.enclose(grid, 0);
  new Float32Array(memory.buffer, exports.address(grid, 8), 32 * 32 * 32 * 4).set(randomTile(32));
  const forces = exports.reserve(60);
  new Float32Array(memory.buffer, forces, 15).set([-1, 2, 5, 60, 0.1, 1, 2, 3, 9, 0, 4, 0.5, 1920, 0.9, 0.7]);
  const sources = exports.reserve(48 * 64);
  for (let n = 0; n < 64; n++) {
    const cell = (14 + (n >> 4)) * plane + (4 + ((n >> 2) & 3)) * row + 14 + (n & 3);
    new Int32Array(memory.buffer, sources + n * 48, 1)[0] = cell;
    new Float32Array(memory.buffer, sources + n * 48 + 4, 11).set([20, 300, 1, 0, 40, 0, 0.5, n % 2, 0.3, 1, 0]);
  }
  const call = [grid, forces, sources, 64, 1 / 24, 1, 1e-3, 12] as const;
  const helper = threads > 1 ? new Worker(HELPER, { eval: true, workerData: { module, memory, call } }) : null;
  const answer = (): Promise<unknown> => new Promise((done) => helper!.once('message', done));
  if (helper) await answer();
  for (let frame = 0; frame < 6; frame++) {
    const done = helper && answer();
    helper?.postMessage('go');
    exports.advance(...call, 0);
    await done;
  }
  await helper?.terminate();
  // Density, and the shares of red.
  const fields = [3, 9].map((which) => new Float32Array(memory.buffer, exports.address(grid, which), floats));
  return Float32Array.from([...fields[0], ...fields[1]]);
}

describe('smoke: threads', () => {
  it('one thread and two give the same bytes', async () => {
    const [one, two] = [await densityBy(1), await densityBy(2)];
    expect(Math.max(...one)).above(0.5);
    expect(two).deep.equal(one);
  });
});
