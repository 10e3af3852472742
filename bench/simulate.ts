import { readFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { fileURLToPath } from 'node:url';
import { instantiateKernel, sharedMemory } from '@tender-orbit/kernel';
import engine from '@dimforge/rapier3d-simd-compat';
import {
  newEmitter,
  newParticles,
  newSet,
  newShot,
  newSmoke,
  type ParticlesEffect,
  type SmokeEffect,
} from '@tender-orbit/core/document';
import { buildExtrusion, buildTurned, identity, mergeMeshes, roundedRectangle } from '@tender-orbit/core/geometry';
import { compile, type Slot } from '@tender-orbit/core/scene';
import {
  addDistance,
  runBodies,
  FAR,
  fieldOf,
  ParticleRun,
  randomTile,
  SmokeRun,
  type Body,
  type SimulationExports,
  type SimulationKernel,
} from '@tender-orbit/core/simulate';
import { inTurn, medianMs, type Bench } from './bench.ts';

const moduleOf = (name: string): WebAssembly.Module =>
  new WebAssembly.Module(readFileSync(fileURLToPath(import.meta.resolve(`@tender-orbit/kernel/${name}.wasm`))));
/** A fresh instance of the simulation kernel. */
export const simulationKernel = (): SimulationKernel =>
  instantiateKernel(moduleOf('simulate')) as unknown as SimulationKernel;

/** Cells along each side of the bench's box, and passes over one field that a step is held against. */
const CELLS = 128;
const STEP_PASSES = 93;
const PROJECTION_PASSES = 66;
const FORCES = 15;

interface Rig {
  exports: SimulationExports;
  memory: WebAssembly.Memory;
  grid: number;
  forces: number;
  sources: number;
  count: number;
}

/** A box with a floor and a source of warm smoke in it, which blows up at `jet` cells a second; `wall` shuts it under a plate with a hole. */
function rig(name: 'simulate' | 'simulate-shared', threads: number, { wall = false, jet = 0 } = {}): Rig {
  const memory = name === 'simulate' ? new WebAssembly.Memory({ initial: 16, maximum: 65536 }) : sharedMemory();
  const exports = instantiateKernel(moduleOf(name), memory).exports as unknown as SimulationExports;
  const n = CELLS;
  const grid = exports.create(n, n, n, threads, 500_000, 0);
  const [row, plane] = [n + 8, (n + 8) * (n + 2)];
  const at = (i: number, j: number, k: number): number => k * plane + j * row + i;
  const open = new Float32Array(memory.buffer, exports.address(grid, 5), plane * (n + 2));
  for (let k = 0; k < n + 2; k++)
    for (let j = 0; j < n + 2; j++)
      for (let i = 0; i < n + 2; i++) {
        const side = i === 0 || k === 0 || i > n || k > n;
        open[at(i, j, k)] = j === 0 || (wall && side) ? 0 : 1;
        // A plate of one cell with a hole in its middle.
        const away = (i - n / 2) * (i - n / 2) + (k - n / 2) * (k - n / 2);
        if (wall && j === n / 2 && away > (n * n) / 100) open[at(i, j, k)] = 0;
      }
  const faces = new Int32Array(memory.buffer, exports.address(grid, 6), 500_000);
  let count = 0;
  for (let k = 1; k <= n + 1; k++)
    for (let j = 1; j <= n + 1; j++)
      for (let i = 1; i <= n + 1; i++)
        [1, row, plane].forEach((step, axis) => {
          const here = at(i, j, k);
          if (open[here] * open[here - step] === 0) faces[count++] = (axis << 28) | here;
        });
  exports.enclose(grid, count);
  new Float32Array(memory.buffer, exports.address(grid, 8), 32 * 32 * 32 * 4).set(randomTile(32));
  const forces = exports.reserve(FORCES * 4);
  new Float32Array(memory.buffer, forces, FORCES).set([0, 2.5, 4, 60, 0.1, 0, 0, 0, 0, 0, 0, 0, 80 * 24, 0.9, 0.7]);
  const cells: number[] = [];
  for (let k = n / 2 - 14; k < n / 2 + 14; k++)
    for (let j = 2; j < 14; j++) for (let i = n / 2 - 14; i < n / 2 + 14; i++) cells.push(at(i, j, k));
  const sources = exports.reserve(cells.length * 48);
  cells.forEach((cell, i) => {
    new Int32Array(memory.buffer, sources + i * 48, 1)[0] = cell;
    new Float32Array(memory.buffer, sources + i * 48 + 4, 10).set([8, 60, 1, 0, jet, 0, jet > 0 ? 1 : 0, 1, 1, 1]);
  });
  return { exports, memory, grid, forces, sources, count: cells.length };
}

/** Seconds in which gas crosses few cells: one step of the solver. */
const ONE_STEP = 1 / 480;

function step({ exports, grid, forces, sources, count }: Rig, cycles = 2, thread = 0): void {
  exports.advance(grid, forces, sources, count, ONE_STEP, 1, 0, cycles, thread);
}

/** Milliseconds in which a field of the bench's box is read once, at the bandwidth of copying, which reads one and writes one. */
async function passMs(): Promise<number> {
  const floats = 12_000_000;
  const [a, b] = [new Float32Array(floats).fill(1), new Float32Array(floats).fill(2)];
  const ms = await medianMs(15, () => a.set(b));
  return (ms / 2) * ((CELLS * CELLS * CELLS) / floats);
}

const HELPER = `
const { parentPort, workerData } = require('node:worker_threads');
const { module, memory, grid, forces, sources, count } = workerData;
const { exports } = new WebAssembly.Instance(module, { env: { memory, abort() { throw new Error('abort'); } } });
parentPort.on('message', () => {
  exports.advance(grid, forces, sources, count, ${ONE_STEP}, 1, 0, 2, 1);
  parentPort.postMessage('done');
});
parentPort.postMessage('ready');
`;

async function twoThreads(): Promise<number> {
  const [alone, both] = [rig('simulate-shared', 1), rig('simulate-shared', 2)];
  const { memory, grid, forces, sources, count } = both;
  const module = moduleOf('simulate-shared');
  const helper = new Worker(HELPER, { eval: true, workerData: { module, memory, grid, forces, sources, count } });
  const answer = (): Promise<unknown> => new Promise((done) => helper.once('message', done));
  await answer();
  const [one, two] = await inTurn(9, [
    () => step(alone),
    () => {
      const done = answer();
      helper.postMessage('go');
      step(both);
      return done;
    },
  ]);
  await helper.terminate();
  return one / two;
}

/** Milliseconds for the first frames of a small plume in a domain so wide, by the centimetre. */
function plumeMs(metres: number): number {
  const set = newSet('Studio');
  const source = newEmitter('source', 'Source', { position: [0, 0.05, 0], width: 0.1, height: 0.05, depth: 0.1 });
  const cells = { coarse: 0.01, normal: 0.01, fine: 0.01 };
  set.effects = [
    newSmoke('smoke', 'Smoke', { width: metres, height: metres, depth: metres, cells, emitters: [source] }),
  ];
  const program = compile(set, newShot('Shot', 'set', 'hero', 24));
  const context = { products: new Map(), meshes: () => undefined, aspect: 16 / 9 };
  const run = new SmokeRun(program, program.effects[0] as Slot<SmokeEffect>, context, 'coarse', { num: 24, den: 1 });
  run.begin({ kernel: simulationKernel, state: () => undefined });
  const begun = performance.now();
  while (run.frame < 12) run.next();
  return performance.now() - begun;
}

export const simulateBenches: Bench[] = [
  {
    name: 'simulate/smoke-128-step-vs-bound',
    unit: 'x',
    run: async () => {
      const box = rig('simulate', 1);
      for (let i = 0; i < 6; i++) step(box);
      const [ms, pass] = [await medianMs(9, () => step(box)), await passMs()];
      const note = `second order, 2 cycles: ${ms.toFixed(0)} ms; a pass is ${pass.toFixed(2)} ms; divergence left ${box.exports.divergenceLeft(box.grid).toExponential(1)}`;
      return { value: ms / (STEP_PASSES * pass), note };
    },
  },
  {
    name: 'simulate/projection-vs-bound',
    unit: 'x',
    run: async () => {
      const [few, many] = [rig('simulate', 1), rig('simulate', 1)];
      for (let i = 0; i < 6; i++) [few, many].forEach((box) => step(box));
      const [two, six] = await inTurn(7, [() => step(few, 2), () => step(many, 6)]);
      const pass = await passMs();
      const cycles = ((six - two) / 4) * 2;
      return { value: cycles / (PROJECTION_PASSES * pass), note: `two cycles take ${cycles.toFixed(0)} ms` };
    },
  },
  {
    name: 'simulate/thin-wall-cycles',
    unit: 'x',
    run: async () => {
      const cyclesOf = (wall: boolean): number => {
        // From rest, a jet against the plate: all of it has to find the hole at once.
        const box = rig('simulate', 1, { wall, jet: 200 });
        const { exports, grid, forces, sources, count } = box;
        exports.advance(grid, forces, sources, count, ONE_STEP, 1, 1e-3, 60, 0);
        return exports.cyclesTaken(grid);
      };
      const [open, walled] = [cyclesOf(false), cyclesOf(true)];
      return Promise.resolve({ value: walled / open, note: `to 1e-3 from nothing: ${walled} cycles against ${open}` });
    },
  },
  {
    name: 'simulate/smoke-in-empty-air',
    unit: 'x',
    run: () => {
      const [fitting, large] = [0.48, 0.96].map(plumeMs);
      const note = `12 frames of a plume, ${fitting.toFixed(0)} ms; ${large.toFixed(0)} ms in eight times the domain`;
      return Promise.resolve({ value: large / fitting, note });
    },
  },
  {
    name: 'simulate/smoke-two-threads',
    unit: 'x',
    run: async () => ({ value: await twoThreads(), note: 'one step, one thread over two' }),
  },
  {
    name: 'simulate/sdf-50k-ms',
    unit: 'ms',
    run: async () => {
      const profile = Array.from({ length: 126 }, (_, i): [number, number] => [
        0.02 + 0.3 * Math.sin((i / 125) * Math.PI),
        0.1 + (i / 125) * 0.8,
      ]);
      const mesh = buildTurned({ profile, segments: 200 });
      const field = {
        size: [96, 96, 96] as [number, number, number],
        cell: 1 / 96,
        origin: [-0.5, 0, -0.5] as [number, number, number],
      };
      const ms = await medianMs(7, () => addDistance(fieldOf(field, FAR), mesh, identity()));
      return { value: ms, note: `${mesh.indices.length / 3} triangles on 96 x 96 x 96` };
    },
  },
  {
    name: 'simulate/particles-100k-ms',
    unit: 'ms',
    run: async () => {
      const [drifting, fluttering] = [
        particles({ turbulence: 0.1, eddies: 0.1, tumble: 0 }),
        particles({ turbulence: 0.1, eddies: 0.1, flutter: 1, size: 0.02 }),
      ];
      const [ms, plates] = await inTurn(9, [() => drifting.next(), () => fluttering.next()]);
      return { value: ms, note: `a frame of dust in turbulent air; thin plates that flutter: ${plates.toFixed(0)} ms` };
    },
  },
  {
    name: 'simulate/bodies-300-ms',
    unit: 'ms',
    run: async () => {
      await engine.init();
      const { front, back, sides } = buildExtrusion([{ outer: roundedRectangle(0.03, 0.03, 0.004), holes: [] }], {
        depth: 0.03,
        bevel: 0.002,
      });
      const mesh = mergeMeshes([front, back, sides]);
      const cubes = Array.from({ length: 300 }, (_, n): Body => {
        const place = [(n % 5) * 0.05 - 0.1, Math.floor(n / 25) * 0.05 + 0.02, (Math.floor(n / 5) % 5) * 0.05 - 0.1];
        return { id: String(n), parts: [{ mesh, density: 900 }], matrix: [...identity().slice(0, 12), ...place, 1] };
      });
      const fall = (): ReturnType<typeof runBodies> =>
        runBodies(engine, cubes, [], {
          ...{ way: 'drop', away: 0.5, direction: 0, flight: 0.5, frequency: 1, damping: 0.3, home: 0 },
          ...{ height: 0.1, stagger: 0.001, spread: 0.01, tumble: 60, bounce: 0.2, friction: 0.5, seed: 1 },
          rate: { num: 24, den: 1 },
        });
      // The engine's code is compiled while it runs for the first time.
      fall();
      const started = performance.now();
      const { frames, rests } = fall();
      const count = frames.get('0')!.length;
      return { value: (performance.now() - started) / count, note: `${count} frames of a heap, at rest at ${rests}` };
    },
  },
];

/** A hundred thousand particles in a wide box, in the air already. */
function particles(values: Partial<ParticlesEffect>): ParticleRun {
  const set = newSet('Studio');
  set.effects = [newParticles('p', 'Particles', { rate: 0, burst: 100_000, life: 600, ...values })];
  const program = compile(set, newShot('Shot', 'set', 'camera', 1000));
  const context = { products: new Map(), aspect: 16 / 9, meshes: () => undefined };
  const slot = program.effects[0] as Slot<ParticlesEffect>;
  const run = new ParticleRun(program, slot, context, 'normal', { num: 24, den: 1 });
  const none = (): never => {
    throw new Error('Particles of their own need no kernel.');
  };
  run.begin({ kernel: none, state: () => undefined });
  run.next();
  return run;
}
