import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { instantiateKernel } from '@tender-orbit/kernel';
import { buildBox, buildTurned, mergeMeshes, type Mesh } from '@tender-orbit/core/geometry';
import {
  addSamples,
  Intersector,
  KernelTracer,
  LIGHT,
  relight,
  sobol2,
  traceFrame,
  widenBvh,
  type PackedScene,
  type Passes,
} from '@tender-orbit/core/trace';
import { FREE, floor, LAMBERT, mean, pack, panel, tableauOf, type Studio } from './studio.ts';

const module = new WebAssembly.Module(
  readFileSync(fileURLToPath(import.meta.resolve('@tender-orbit/kernel/trace.wasm'))),
);
const tracer = new KernelTracer(instantiateKernel(module));
const environmentOf = ({ environment, environmentCdf }: PackedScene) => ({ environment, environmentCdf });
let seed = 1;
const random = (): number => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 4294967296;

const block = (size: [number, number, number]): Mesh => {
  const { panels, edges } = buildBox({ size, bevel: 0.02 });
  return mergeMeshes([...panels, edges]);
};
const vase = buildTurned({
  profile: [
    [0, 0],
    [0.3, 0],
    [0.35, 0.2],
    [0.25, 0.5],
    [0.2, 0.5],
    [0.28, 0.2],
    [0.24, 0.04],
    [0, 0.04],
  ],
  segments: 48,
});
const texels = {
  width: 2,
  height: 2,
  data: Uint8Array.from([255, 0, 0, 255, 0, 255, 0, 120, 0, 0, 255, 255, 255, 255, 255, 10]),
};
const art = {
  image: 0,
  offset: [0.1, 0.2] as [number, number],
  rotation: 0.4,
  scale: [3, 2] as [number, number],
  strength: 1,
  wrap: ['repeat', 'mirror'] as ['repeat', 'mirror'],
};

/** Above the floor: of two surfaces in one place either may win. */
const lifted = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0.01, 0, 1];
const higher = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0.1, 0, 1];

/** Scenes that between them use every lobe, light and look-up. */
const base: Studio = {
  lights: [panel([1, 1.5, 1], [0, 0.2, 0], 0.8, 0.8, 8, true), panel([-1, 1, -0.5], [0, 0.2, 0], 0.2, 1, 20)],
  room: 0.4,
  eye: [0, 0.8, 1.8],
  aim: [0, 0.2, 0],
  fov: 40,
};
const SCENES: Record<string, Studio> = {
  'glossy and coated': {
    ...base,
    things: [
      { mesh: floor(2) },
      {
        matrix: lifted,
        mesh: vase,
        finish: {
          roughness: 0.3,
          clearcoat: 0.8,
          clearcoatRoughness: 0.1,
          specular: 0.7,
          specularColor: [1, 0.6, 0.4],
        },
      },
    ],
  },
  metal: {
    ...base,
    things: [
      { mesh: floor(2), finish: { roughness: 0.2 } },
      {
        matrix: higher,
        mesh: block([0.4, 0.4, 0.4]),
        finish: { metallic: 1, roughness: 0.25, baseColor: [0.9, 0.6, 0.3] },
      },
    ],
  },
  'glass with a filling': {
    ...base,
    things: [
      { mesh: floor(2) },
      { matrix: lifted, mesh: vase, finish: { transmission: 1, thickness: 0.1, ior: 1.5, roughness: 0 } },
      {
        matrix: higher,
        mesh: block([0.2, 0.2, 0.2]),
        finish: {
          transmission: 1,
          thickness: 0.2,
          ior: 1.4,
          roughness: 0.2,
          attenuationColor: [0.9, 0.4, 0.1],
          attenuationDistance: 0.1,
        },
      },
    ],
  },
  'thin glass and depth of field': {
    ...base,
    aperture: 0.03,
    focus: 1.7,
    things: [
      { mesh: floor(2) },
      { matrix: lifted, mesh: vase, finish: { transmission: 0.7, thickness: 0, roughness: 0.1 } },
    ],
  },
  'art, alpha and emission': {
    ...base,
    images: [texels],
    things: [
      { mesh: floor(2), finish: { ...LAMBERT, textures: { baseColor: art, normal: { ...art, strength: 0.5 } } } },
      {
        matrix: higher,
        mesh: block([0.3, 0.3, 0.3]),
        finish: { alphaMode: 'blend', alpha: 0.6, textures: { baseColor: art } },
      },
      {
        matrix: lifted,
        mesh: vase,
        finish: {
          alphaMode: 'mask',
          alphaCutoff: 0.3,
          emissive: [1, 0.5, 0.2],
          emissiveStrength: 2,
          textures: { baseColor: art, emissive: art, metallicRoughness: art },
        },
      },
    ],
  },
  'nothing at all': { ...base, things: [] },
};

describe('kernel: the same pictures as the tracer in TypeScript', () => {
  const options = {
    width: 24,
    height: 24,
    samples: 8,
    limits: { ...FREE, maxDepth: 24, maxBounces: 4, clamp: 8 },
    frame: 5,
  };

  for (const [name, studio] of Object.entries(SCENES)) {
    it(name, () => {
      const scene = pack(studio);
      const [wanted, made] = [traceFrame(scene, options)!, tracer.load(scene).traceFrame(options)!];
      for (const plane of ['beauty', 'albedo', 'normal', 'alpha', 'depth', 'variance'] as const) {
        let off = 0;
        wanted[plane].forEach((v, i) => (off += Math.abs(v - made[plane][i]) > 1e-4 + 1e-3 * Math.abs(v) ? 1 : 0));
        // A ray that grazes an edge may fall to the other side of it; all others agree.
        expect(off / wanted[plane].length, plane).below(0.01);
      }
      expect(mean(made.beauty) / mean(wanted.beauty)).closeTo(1, 0.004);
    });
  }

  it('the same bytes every time, also after other scenes', () => {
    const [one, other] = [pack(SCENES.metal), pack(SCENES['glass with a filling'])];
    const bytes = (scene: PackedScene): Buffer =>
      Buffer.from((tracer.load(scene).traceFrame(options) as Passes).beauty.buffer);
    const first = bytes(one);
    bytes(other);
    expect(bytes(one).equals(first)).equal(true);
  });

  it('stops when told to, and can go on with another picture', () => {
    tracer.load(pack(SCENES.metal));
    expect(tracer.traceFrame({ ...options, onRow: (share) => share < 0.5 })).equal(null);
    expect(tracer.traceFrame(options)!.beauty.length).equal(24 * 24 * 3);
  });

  it('samples traced in two goes add up to the picture of all', () => {
    const scene = pack(SCENES.metal);
    const [first, second] = [0, 3].map((firstSample) =>
      tracer.load(scene).traceFrame({ ...options, firstSample, samples: firstSample ? 5 : 3 })!,
    );
    const [joined, whole] = [addSamples(first, second), tracer.traceFrame(options)!];
    expect(joined.samples).equal(8);
    for (const plane of ['beauty', 'albedo', 'normal', 'alpha', 'depth'] as const) {
      joined[plane].forEach((v, i) => expect(v).closeTo(whole[plane][i], 1e-4 + 1e-4 * Math.abs(v)));
    }
    expect(mean(joined.variance)).closeTo(mean(whole.variance), 0.5 * mean(whole.variance));
  });

  it('a scene under other lights is the one packed anew', () => {
    const dark: Studio = { ...SCENES.metal, lights: base.lights!.slice(0, 1), eye: [0.4, 1, 1.5] };
    const scene = relight(pack(SCENES.metal), tableauOf(dark));
    tracer.load(pack(SCENES.metal)).traceFrame(options);
    const shared = tracer.load(relight(pack(SCENES.metal), tableauOf(dark))).traceFrame(options)!;
    expect(scene.lights.length).equal(LIGHT.stride);
    const anew = tracer.load({ ...pack(dark), ...environmentOf(scene) }).traceFrame(options)!;
    expect(Buffer.from(shared.beauty.buffer).equals(Buffer.from(anew.beauty.buffer))).equal(true);
  });

  it('says so when there is no scene', () => {
    expect(() => new KernelTracer(instantiateKernel(module)).traceFrame(options)).throw(/load\(\) one first/);
  });
});

describe('kernel: finding what a ray hits', () => {
  const soup = (count: number, size: number): Mesh => {
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
  };

  for (const [count, size] of [
    [1, 1],
    [3, 1],
    [40, 0.5],
    [5000, 0.1],
  ]) {
    it(`agrees with the reference among ${count} triangles`, () => {
      const scene = pack({ things: [{ mesh: soup(count, size) }] });
      const rays = new Float32Array(4000 * 8);
      for (let i = 0; i < 4000; i++)
        rays.set(
          [
            random() * 4 - 2,
            random() * 4 - 2,
            random() * 4 - 2,
            random() - 0.5,
            random() - 0.5,
            random() - 0.5,
            1e-5,
            i % 3 ? Infinity : 1,
          ],
          i * 8,
        );
      // Along the axes too, where a direction has zeros.
      for (let i = 0; i < 300; i++)
        rays.set(
          [0, 1, 2].map((a) => (a === i % 3 ? (i % 2 ? 1 : -1) : 0)),
          i * 8 + 3,
        );
      const found = tracer.load(scene).castRays(rays);
      const reference = new Intersector(scene);
      let mismatches = 0;
      for (let i = 0; i < 4000; i++) {
        const [ox, oy, oz, dx, dy, dz, near, far] = rays.subarray(i * 8, i * 8 + 8);
        reference.nearest(ox, oy, oz, dx, dy, dz, near, far);
        if (reference.triangle !== found.triangle[i]) mismatches++;
        else if (reference.triangle >= 0) expect(found.t[i] / reference.t).closeTo(1, 1e-6);
      }
      expect(mismatches).equal(0);
    });
  }

  it('its tree keeps every triangle once, inside the boxes above it', () => {
    const scene = pack({ things: [{ mesh: soup(700, 0.2) }] });
    const { nodes, packets } = widenBvh(scene);
    const [nodeInts, packetInts] = [new Int32Array(nodes.buffer), new Int32Array(packets.buffer)];
    const seen: number[] = [];
    const visit = (node: number, min: number[], max: number[]): void => {
      for (let lane = 0; lane < 4; lane++) {
        const box = [0, 1, 2, 3, 4, 5].map((row) => nodes[node * 32 + row * 4 + lane]);
        if (box[0] > box[3]) continue;
        for (let a = 0; a < 3; a++) expect(box[a] >= min[a] && box[3 + a] <= max[a]).equal(true);
        const child = nodeInts[node * 32 + 24 + lane];
        if (child >= 0) visit(child, box.slice(0, 3), box.slice(3));
        else
          for (let p = (-1 - child) >> 3, n = ((-1 - child) & 7) + 1; n > 0; p++, n--)
            seen.push(...packetInts.subarray(p * 40 + 36, p * 40 + 40));
      }
    };
    visit(0, [-9, -9, -9], [9, 9, 9]);
    expect(seen.filter((t) => t >= 0).sort((a, b) => a - b)).deep.equal(Array.from({ length: 700 }, (_, i) => i));
  });
});

describe('kernel: sample points', () => {
  it('the folded second dimension is the Sobol recurrence', () => {
    for (let i = 0; i < 3000; i++) {
      const index = Math.floor(random() * 2 ** 32);
      let [y, v, n] = [0, 0x80000000, index];
      for (; n !== 0; n >>>= 1, v = (v ^ (v >>> 1)) >>> 0) if (n & 1) y = (y ^ v) >>> 0;
      expect(sobol2(index)[1]).equal(y);
    }
  });
});
