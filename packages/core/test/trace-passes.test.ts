import { Worker } from 'node:worker_threads';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { instantiateKernel, sharedMemory } from '@tender-orbit/kernel';
import type { Vec3 } from '@tender-orbit/core/geometry';
import { addSamples, KernelTracer, matte, placeRegion, shadowPass, type Passes } from '@tender-orbit/core/trace';
import {
  ART,
  ball,
  block,
  floor,
  FREE,
  LAMBERT,
  mean,
  moved,
  pack,
  panel,
  trace,
  tracer,
  type Studio,
} from './studio.ts';

/** A matt floor with a metal block, a plastic ball and a glass one, under two panels, a lamp of a thing and the room. */
const STUDIO: Studio = {
  things: [
    { mesh: floor(2), finish: { roughness: 0.4 } },
    { mesh: block([0.4, 0.4, 0.4]), matrix: moved(-0.5, 0.001, 0), finish: { metallic: 1, roughness: 0.2 } },
    { mesh: ball(0.25), matrix: moved(0.1, 0.26, 0.2), finish: { baseColor: [0.8, 0.2, 0.1], roughness: 0.3 } },
    { mesh: ball(0.2), matrix: moved(0.6, 0.21, 0.1), finish: { transmission: 1, thickness: 1, roughness: 0 } },
    { mesh: block([0.1, 0.3, 0.1]), matrix: moved(0.4, 0.001, -0.5), finish: { emissive: [3, 2, 1] } },
  ],
  lights: [
    { ...panel([1, 1.5, 1], [0, 0.2, 0], 0.8, 0.8, 8, true), id: 'key' },
    { ...panel([-1, 1, -0.5], [0, 0.2, 0], 0.2, 1, 20), id: 'rim' },
  ],
  room: 0.4,
  eye: [0, 0.8, 1.8],
  aim: [0, 0.2, 0],
  fov: 40,
};
const SIZE = 32;
const scene = pack(STUDIO);
const full = (samples = 16, more = {}): Passes => trace(scene, samples, SIZE, FREE, { detail: true, ...more });
const keep = (passes: Passes): Passes => structuredClone(passes);
const bytes = (passes: Passes): Buffer =>
  Buffer.concat(
    [passes.beauty, passes.variance, passes.alpha, passes.normal].map((p) =>
      Buffer.from(p.buffer.slice(p.byteOffset, p.byteOffset + p.byteLength) as ArrayBuffer),
    ),
  );

function expectSum(passes: Passes, parts: readonly Float32Array[]): void {
  passes.beauty.forEach((v, i) => {
    const sum = parts.reduce((n, part) => n + part[i], 0);
    expect(Math.abs(sum - v)).below(1e-4 + 1e-4 * Math.abs(v));
  });
}

describe('passes: parts of the light', () => {
  const passes = keep(full());
  const detail = passes.detail!;

  it('one pass for each light, the room and what glows: they add up to the beauty', () => {
    expect(scene.lightPasses).deep.equal(['key', 'rim', 'room', 'glow']);
    expectSum(passes, detail.lights);
    for (const part of detail.lights) expect(mean(part)).above(0.001);
  });

  it('direct and indirect add up, as do diffuse, glossy, transmission and emission', () => {
    expectSum(passes, [detail.direct, detail.indirect]);
    expectSum(passes, [detail.diffuse, detail.glossy, detail.transmission, detail.emission]);
    for (const part of [detail.direct, detail.indirect, detail.diffuse, detail.glossy, detail.transmission])
      expect(mean(part)).above(0.005);
  });

  it("each light's pass is the picture under that light alone", () => {
    const matt = { ...STUDIO, things: [STUDIO.things![0], STUDIO.things![2]] };
    const levels = [matt, { ...matt, room: 0, lights: [STUDIO.lights![1]] }].map((studio) => {
      const { detail: parts } = trace(pack(studio), 1024, 8, FREE, { detail: true });
      return mean(parts!.lights[studio.lights!.length - 1]);
    });
    expect(levels[0] / levels[1]).closeTo(1, 0.015);
  });

  it('reflection is the part of gloss that shows other things, none of the lights', () => {
    const bare = { mesh: floor(2), finish: { metallic: 1, roughness: 0.2 } };
    const reflected = (things: Studio['things']): number =>
      mean(trace(pack({ ...STUDIO, things }), 64, 8, FREE, { detail: true }).detail!.reflection);
    expect(reflected([bare])).equal(0);
    expect(reflected([bare, STUDIO.things![4]])).above(0);
  });

  it('shadow is 1 in the open and 0 where every light is hidden', () => {
    const cover = { mesh: block([1, 0.02, 1]), matrix: moved(0, 0.5, 0) };
    const lights = [panel([0, 1, 0], [0, 0, 0], 0.1, 0.1, 1000)];
    const at = (x: number): number => {
      const eye: Vec3 = [x, 0.1, 2];
      const studio = { things: [{ mesh: floor() }, cover], lights, eye, aim: [x, 0, 0] as Vec3, fov: 0.2 };
      return mean(shadowPass(trace(pack(studio), 16, 4, FREE, { detail: true }).detail!));
    };
    expect(at(0)).equal(0);
    expect(at(4)).closeTo(1, 1e-3);
  });

  it('without detail the beauty is the same, byte for byte', () => {
    const plain = trace(scene, 16, SIZE, FREE);
    expect(Buffer.from(plain.beauty.slice().buffer).equals(Buffer.from(passes.beauty.slice().buffer))).equal(true);
    expect(plain.detail).equal(null);
  });
});

describe('passes: what lies first in the way', () => {
  it('depth, normal, colour and cover', () => {
    const thing = { mesh: floor(1), finish: { roughness: 1, baseColor: [0.2, 0.4, 0.6] as Vec3, specular: 0 } };
    const passes = trace(pack({ things: [thing], eye: [0, 3, 0.001], fov: 60 }), 64, 9);
    const middle = 4 * 9 + 4;
    expect(passes.depth[middle]).closeTo(3, 0.03);
    expect(passes.normal[middle * 3 + 1]).closeTo(1, 1e-5);
    [0.2, 0.4, 0.6].forEach((v, i) => expect(passes.albedo[middle * 3 + i]).closeTo(v, 1e-5));
    expect(passes.alpha[middle]).equal(1);
    expect(passes.alpha[0]).equal(0);
  });

  it('mattes of things and finishes are cut by cover and add up to the alpha', () => {
    const passes = full(64);
    const { thing, thingCover, finish, finishCover } = passes.detail!;
    const mattes = scene.things.map((_, i) => matte(thing, thingCover, i));
    const byFinish = scene.finishes.map((_, i) => matte(finish, finishCover, i));
    for (const set of [mattes, byFinish])
      passes.alpha.forEach((a, i) => expect(set.reduce((n, m) => n + m[i], 0)).closeTo(a, 0.02));
    const soft = mattes[2].filter((v) => v > 0.02 && v < 0.98).length;
    const solid = mattes[2].filter((v) => v >= 0.98).length;
    // The ball is round: a ring of soft pixels about it.
    expect(soft).within(16, 80);
    expect(solid).above(soft / 2);
  });

  it('motion vectors tell where each pixel was a frame before, of things and of the camera', () => {
    const shift = 0.2;
    const before = moved(-0.1, -0.5, 0);
    const view: Studio = { eye: [0, 0, 4], fov: 20 };
    const wall = { mesh: block([1, 1, 0.01]), matrix: moved(-0.1 + shift, -0.5, 0), before };
    const size = 33;
    const pixel = (2 * 4 * Math.tan(Math.PI / 18)) / size;
    const motion = (studio: Studio): number[] => {
      const { detail } = trace(pack(studio), 16, size, FREE, { detail: true });
      const p = (16 * size + 16) * 2;
      return [detail!.motion[p], detail!.motion[p + 1]];
    };
    const [x, y] = motion({ ...view, things: [wall] });
    expect(x).closeTo(shift / pixel, 0.05);
    expect(y).closeTo(0, 0.05);
    const still = { mesh: block([1, 1, 0.01]), matrix: moved(0, -0.5, 0) };
    const [cx, cy] = motion({ ...view, things: [still], camera: { before: moved(-0.1, 0.05, 4) } });
    expect(cx).closeTo(-0.1 / pixel, 0.05);
    expect(cy).closeTo(-0.05 / pixel, 0.05);
  });
});

describe('passes: samples', () => {
  it('the same inputs give the same bytes, another frame other noise', () => {
    const [a, b, c] = [3, 3, 4].map((frame) => bytes(full(4, { frame })));
    expect(a.equals(b)).equal(true);
    expect(a.equals(c)).equal(false);
  });

  it('a take is the same bytes on one thread and on three', async () => {
    const wasm = new WebAssembly.Module(
      readFileSync(fileURLToPath(import.meta.resolve('@tender-orbit/kernel/trace-shared.wasm'))),
    );
    const options = { width: 80, height: 64, samples: 4, limits: FREE, frame: 0, adapt: { target: 0.1, most: 16 } };
    const memory = sharedMemory();
    const shared = new KernelTracer(instantiateKernel(wasm, memory), 3).load(scene);
    const code = `
      const { workerData, parentPort } = require('node:worker_threads');
      const { exports } = new WebAssembly.Instance(workerData.wasm, { env: { memory: workerData.memory, abort() {} } });
      exports.traceTiles(workerData.job, workerData.scratch, 0x7fffffff);
      parentPort.postMessage(0);`;
    const job = shared.begin(options);
    await Promise.all(
      [1, 2].map((thread) => {
        const worker = new Worker(code, { eval: true, workerData: { wasm, memory, ...job.share(thread) } });
        return new Promise((done) => worker.once('message', done)).then(() => worker.terminate());
      }),
    );
    job.run(1e9);
    const alone = tracer.load(scene).traceFrame(options)!;
    expect(bytes(job.finish()).equals(bytes(alone))).equal(true);
  });

  it('samples traced in two goes add up to the picture of all', () => {
    const first = keep(trace(scene, 4, SIZE, FREE));
    const second = keep(trace(scene, 4, SIZE, FREE, { firstSample: 4 }));
    const [joined, whole] = [addSamples(first, second), trace(scene, 8, SIZE, FREE)];
    expect(joined.samples).equal(8);
    for (const plane of ['beauty', 'albedo', 'normal', 'alpha', 'depth'] as const)
      joined[plane].forEach((v, i) => expect(v).closeTo(whole[plane][i], 1e-4 + 1e-4 * Math.abs(v)));
    expect(mean(joined.variance)).closeTo(mean(whole.variance), 0.5 * mean(whole.variance));
  });

  it('the first samples of a longer picture are those of a shorter one: its points are well spread at every length', () => {
    const error = (samples: number): number => {
      const truth = trace(scene, 1024, 8, FREE, { frame: 7 }).beauty.slice();
      const seen = trace(scene, samples, 8, FREE).beauty;
      return Math.sqrt(mean(seen.map((v, i) => (v - truth[i]) ** 2)));
    };
    const [few, many] = [error(8), error(128)];
    // Random points would gain a factor of four.
    expect(few / many).above(4);
  });

  it('adaptive pictures spend samples where it is noisy, within bounds', () => {
    const passes = trace(scene, 8, 64, FREE, { adapt: { target: 0.05, most: 64 } });
    expect(Math.min(...passes.sampleCount)).at.least(8);
    expect(Math.max(...passes.sampleCount)).at.most(64);
    const counts = new Set(passes.sampleCount);
    expect(counts.size).above(1);
    // The empty sky above is done at once.
    const loose = mean(trace(scene, 8, 64, FREE, { adapt: { target: 0.5, most: 64 } }).sampleCount);
    expect(loose).below(mean(passes.sampleCount.slice()) + 1e-9);
  });

  it('adaptive pictures leave to denoising what it can do: even light gets fewer samples than a busy place as noisy', () => {
    const lights = [panel([0.9, 0.5, 0.9], [0, 0, 0], 2, 2, 8)];
    const view = { eye: [0, 3, 0.001] as Vec3, aim: [0, 0, 0] as Vec3, fov: 20, lights };
    const ground = { mesh: floor(2), finish: LAMBERT };
    const studs = Array.from({ length: 64 }, (_, i) => ({
      mesh: block([0.04, 0.1, 0.04]),
      matrix: moved(((i % 8) - 3.5) * 0.12, 0, (Math.floor(i / 8) - 3.5) * 0.12),
      finish: LAMBERT,
    }));
    const adapt = { target: 0.04, most: 64 };
    const spent = (things: (typeof ground)[]): { samples: number; noise: number } => {
      const samples = mean(trace(pack({ ...view, things }), 4, 32, FREE, { adapt }).sampleCount);
      const first = trace(pack({ ...view, things }), 4, 32, FREE);
      const noise = mean(first.variance.map((v, i) => Math.sqrt(v) / (first.beauty[i * 3] + 0.05)));
      return { samples, noise };
    };
    const [even, busy] = [spent([ground]), spent([ground, ...studs])];
    expect(even.noise / busy.noise).above(0.4);
    expect(busy.samples / even.samples).above(2);
  });

  it('adaptive pictures give print more samples than plain paper under the same light', () => {
    const lights = [panel([0.9, 0.5, 0.9], [0, 0, 0], 2, 2, 8)];
    const view = { eye: [0, 0.5, 0.001] as Vec3, aim: [0, 0, 0] as Vec3, fov: 20, lights };
    const stripes = Uint8Array.from({ length: 64 * 64 * 4 }, (_, i) => (i % 4 === 3 || (i >> 2) % 8 < 4 ? 255 : 20));
    const finish = { ...LAMBERT, textures: { baseColor: { ...ART, scale: [20, 20] as [number, number] } } };
    const spent = (more: object): number => {
      const ground = { mesh: floor(2), finish: { ...LAMBERT, ...more } };
      const images = [{ width: 64, height: 64, data: stripes }];
      const adapt = { target: 0.04, most: 64 };
      return mean(trace(pack({ ...view, things: [ground], images }), 4, 32, FREE, { adapt }).sampleCount);
    };
    expect(spent(finish) / spent({})).above(1.5);
  });

  it('a region is the same picture cut out', () => {
    const region = { x0: 5, y0: 9, x1: 21, y1: 30 };
    const whole = keep(full(4));
    const part = keep(full(4, { region }));
    expect([part.width, part.height]).deep.equal([16, 21]);
    const placed = placeRegion(part, region, SIZE, SIZE);
    for (let y = 0; y < SIZE; y++)
      for (let x = 0; x < SIZE; x++) {
        const inside = x >= 5 && x < 21 && y >= 9 && y < 30;
        const p = (y * SIZE + x) * 3;
        expect(placed.beauty[p]).equal(inside ? whole.beauty[p] : 0);
        expect(placed.detail!.lights[0][p]).equal(inside ? whole.detail!.lights[0][p] : 0);
      }
  });
});
