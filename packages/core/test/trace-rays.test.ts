import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { instantiateKernel } from '@tender-orbit/kernel';
import { buildTurned, type Mat4, type Mesh } from '@tender-orbit/core/geometry';
import { JOB_WORDS, KernelTracer, SCENE_WORDS } from '@tender-orbit/core/trace';
import { ball, FREE, mean, module, moved, pack, randomNumbers, trace, tracer, type Studio } from './studio.ts';

const random = randomNumbers(7);

function soup(count: number, size: number): Mesh {
  const positions = new Float32Array(count * 9);
  for (let t = 0; t < count; t++) {
    const at = [random() * 2 - 1, random() * 2 - 1, random() * 2 - 1];
    for (let k = 0; k < 9; k++) positions[t * 9 + k] = at[k % 3] + (random() - 0.5) * size;
  }
  return {
    positions,
    normals: new Float32Array(count * 9),
    uvs: new Float32Array(count * 6),
    indices: Uint32Array.from({ length: count * 3 }, (_, i) => i),
  };
}

function randomRays(count: number): Float32Array {
  const rays = new Float32Array(count * 8);
  for (let i = 0; i < count; i++) {
    const origin = [random() * 4 - 2, random() * 4 - 2, random() * 4 - 2];
    const to = [random() - 0.5, random() - 0.5, random() - 0.5];
    const length = Math.hypot(...to);
    rays.set([...origin, ...to.map((v) => v / length), 1e-5, i % 3 ? Infinity : 1], i * 8);
  }
  // Along the axes too, where a direction has zeros.
  for (let i = 0; i < count / 10; i++)
    rays.set(
      [0, 1, 2].map((a) => (a === i % 3 ? (i % 2 ? 1 : -1) : 0)),
      i * 8 + 3,
    );
  return rays;
}

/** Möller and Trumbore in double precision. */
function meet(p: ArrayLike<number>, ray: ArrayLike<number>): number {
  const sub = (a: number, b: number): number[] => [0, 1, 2].map((k) => p[a + k] - p[b + k]);
  const cross = (a: number[], b: number[]): number[] => [
    a[1] * b[2] - a[2] * b[1],
    a[2] * b[0] - a[0] * b[2],
    a[0] * b[1] - a[1] * b[0],
  ];
  const dot = (a: number[], b: number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  const [e1, e2, d] = [sub(3, 0), sub(6, 0), [ray[3], ray[4], ray[5]]];
  const h = cross(d, e2);
  const det = dot(e1, h);
  if (Math.abs(det) < 1e-14) return Infinity;
  const s = [ray[0] - p[0], ray[1] - p[1], ray[2] - p[2]];
  const u = dot(s, h) / det;
  const q = cross(s, e1);
  const v = dot(d, q) / det;
  const t = dot(e2, q) / det;
  return u >= 0 && v >= 0 && u + v <= 1 && t > ray[6] && t < ray[7] ? t : Infinity;
}

const through = (m: Mat4, p: Float32Array): Float32Array =>
  p.map((_, i) => {
    const [x, y, z] = p.subarray(i - (i % 3), i - (i % 3) + 3);
    return m[i % 3] * x + m[4 + (i % 3)] * y + m[8 + (i % 3)] * z + m[12 + (i % 3)];
  });

/** Turned, stretched and moved. */
const placed: Mat4 = [0.8, 0.6, 0, 0, -1.2, 1.6, 0, 0, 0, 0, 0.7, 0, 0.3, -0.2, 0.5, 1];

describe('tracer: what a ray hits', () => {
  for (const [count, size] of [
    [1, 1],
    [3, 1],
    [40, 0.5],
    [300, 0.3],
  ]) {
    it(`agrees with trying every triangle, among ${count} placed three times`, () => {
      const mesh = soup(count, size);
      const places = [moved(0, 0, 0), moved(0.2, 0.1, 0), placed];
      tracer.load(pack({ things: places.map((matrix) => ({ mesh, matrix })) }));
      const worlds = places.map((m) => through(m, mesh.positions));
      const rays = randomRays(800);
      const found = tracer.castRays(rays);
      let wrong = 0;
      for (let i = 0; i < 800; i++) {
        const ray = rays.subarray(i * 8, i * 8 + 8);
        let best = Infinity;
        for (const world of worlds)
          for (let t = 0; t < count; t++) best = Math.min(best, meet(world.subarray(t * 9, t * 9 + 9), ray));
        const same = best < Infinity ? Math.abs(found.t[i] / best - 1) < 1e-4 : found.triangle[i] < 0;
        // A ray that grazes an edge may fall to the other side of it in single precision.
        if (!same) wrong++;
      }
      expect(wrong).at.most(1);
    });
  }

  it('knows which of its copies it met', () => {
    const things = [-1, 0, 1].map((x) => ({ mesh: ball(0.3), matrix: moved(x, 0, 0) }));
    tracer.load(pack({ things }));
    const rays = Float32Array.from([-1, 0, 1].flatMap((x) => [x, 0, 4, 0, 0, -1, 1e-5, Infinity]));
    const { t, instance } = tracer.castRays(rays);
    expect([...instance]).deep.equal([0, 1, 2]);
    t.forEach((v) => expect(v).closeTo(3.7, 1e-3));
  });

  it('stands a set with nothing in it, and triangles all in one place', () => {
    expect(mean(trace(pack({ room: 2 }), 4).beauty)).closeTo(2, 1e-5);
    const same = { ...soup(40, 1), positions: new Float32Array(360).fill(0.5) };
    expect(trace(pack({ things: [{ mesh: same }], room: 1 }), 2).beauty.every(Number.isFinite)).equal(true);
  });

  it('builds trees whose rays meet a fine ball everywhere', () => {
    const mesh = buildTurned({
      profile: Array.from({ length: 200 }, (_, i) => {
        const a = (i / 199) * Math.PI;
        return [Math.sin(a), -Math.cos(a)] as const;
      }),
      segments: 300,
    });
    tracer.load(pack({ things: [{ mesh }] }));
    const count = 2000;
    const rays = new Float32Array(count * 8);
    for (let i = 0; i < count; i++) {
      const [z, a] = [1 - (2 * (i + 0.5)) / count, i * 2.399963];
      const d = [Math.sqrt(1 - z * z) * Math.cos(a), Math.sqrt(1 - z * z) * Math.sin(a), z];
      rays.set([...d.map((v) => v * 3), ...d.map((v) => -v), 1e-5, Infinity], i * 8);
    }
    tracer.castRays(rays).t.forEach((t) => expect(t).closeTo(2, 2e-3));
  });
});

describe('tracer: one scene after another', () => {
  const studio = (x: number): Studio => ({ things: [{ mesh: shared, matrix: moved(x, 0, 0) }], room: 1, fov: 60 });
  const shared = ball(0.5);

  it('gives the same bytes every time, also after other scenes', () => {
    const bytes = (x: number): Buffer => Buffer.from(trace(pack(studio(x)), 4, 16).beauty.slice().buffer);
    const first = bytes(0);
    const other = bytes(0.4);
    expect(other.equals(first)).equal(false);
    expect(bytes(0).equals(first)).equal(true);
  });

  it('stops when told to, and can go on with another picture', () => {
    tracer.load(pack(studio(0)));
    const shares: number[] = [];
    const options = { width: 64, height: 64, samples: 1, limits: FREE, frame: 0 };
    expect(tracer.traceFrame({ ...options, onTiles: (share) => (shares.push(share), share < 0.5) })).equal(null);
    expect(shares.at(-1)).within(0.5, 0.6);
    expect(tracer.traceFrame(options)!.beauty.length).equal(64 * 64 * 3);
  });

  it('says so when there is no scene', () => {
    const bare = new KernelTracer(instantiateKernel(module));
    expect(() => bare.traceFrame({ width: 4, height: 4, samples: 1, limits: FREE, frame: 0 })).throw(
      /load\(\) one first/,
    );
  });
});

describe('tracer: tables shared with the kernel', () => {
  const sourceOf = (name: string): string =>
    readFileSync(
      fileURLToPath(new URL(`../assembly/${name}.ts`, import.meta.resolve('@tender-orbit/kernel/trace.wasm'))),
      'utf8',
    );
  const scene = sourceOf('scene');
  it('the kernel’s constants are those of core’s tables', () => {
    const { status, stderr } = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/kernel-layout.ts', '--check'], {
      encoding: 'utf8',
    });
    expect(stderr).equal('');
    expect(status).equal(0);
  });

  it('the scene header and the job are in the same order', () => {
    const fields = (name: string): string[] => {
      const body = new RegExp(`class ${name} \\{([^]*?)\\n\\}`).exec(scene)![1];
      return [...body.matchAll(/^ {2}(\w+): \w+;/gm)].map(([, field]) => field);
    };
    expect(fields('Scene')).deep.equal([...SCENE_WORDS]);
    expect(fields('Job')).deep.equal([...JOB_WORDS]);
  });
});
