import { expect } from 'chai';
import type { Vec3 } from '@tender-orbit/core/geometry';
import { steady, type Passes } from '@tender-orbit/core/trace';
import { ART, block, floor, FREE, LAMBERT, mean, moved, pack, panel, trace, tracer } from './studio.ts';

const stripes = Uint8Array.from({ length: 64 * 64 * 4 }, (_, i) => (i % 4 === 3 || (i >> 2) % 8 < 4 ? 255 : 20));
const print = { ...LAMBERT, textures: { baseColor: { ...ART, scale: [6, 6] as [number, number] } } };
const lights = [panel([0.9, 0.5, 0.9], [0, 0, 0], 2, 2, 8)];
/** A printed floor from above, with a block whose edges cross it. */
const printed = pack({
  images: [{ width: 64, height: 64, data: stripes }],
  things: [
    { mesh: floor(2), finish: print },
    { mesh: block([0.2, 0.1, 0.2]), matrix: moved(0.1, 0.001, 0), finish: LAMBERT },
  ],
  lights,
  room: 0.3,
  eye: [0, 1.4, 0.001],
  aim: [0, 0, 0],
  fov: 30,
});
const SIZE = 48;
const look = (samples: number, features: number, frame = 0): Passes =>
  structuredClone(trace(printed, samples, SIZE, FREE, { features, frame, detail: true }));
const distance = (a: Float32Array, b: Float32Array): number => mean(a.map((v, i) => (v - b[i]) ** 2));

describe('tracer: more samples of the first surface', () => {
  const truth = look(1024, 0, 99);
  const [plain, more] = [look(4, 0), look(4, 64)];

  it('leave the light as it is, and what its own samples saw', () => {
    expect([...more.beauty]).deep.equal([...plain.beauty]);
    expect([...more.pairedAlbedo]).deep.equal([...plain.albedo]);
    expect([...more.pairedNormal]).deep.equal([...plain.normal]);
    expect([...more.pairedDepth]).deep.equal([...plain.depth]);
    expect([...plain.pairedAlbedo]).deep.equal([...plain.albedo]);
  });

  it('bring albedo and mattes near the truth where print and edges are', () => {
    expect(distance(plain.albedo, truth.albedo) / distance(more.albedo, truth.albedo)).above(8);
    const cover = (p: Passes): Float32Array => p.detail!.thingCover;
    expect(distance(cover(plain), cover(truth)) / distance(cover(more), cover(truth))).above(3);
    expect(mean(more.alpha)).closeTo(1, 1e-6);
  });

  it('are not spent on even surfaces', () => {
    const even = pack({ things: [{ mesh: floor(2), finish: LAMBERT }], lights, eye: [0, 1, 0.001] as Vec3, fov: 20 });
    const [few, many] = [0, 64].map((features) => {
      const passes = trace(even, 4, 16, FREE, { features });
      return { rays: tracer.rays, albedo: passes.albedo.slice() };
    });
    expect(many.rays).equal(few.rays);
    expect([...many.albedo]).deep.equal([...few.albedo]);
  });

  it('let few samples of light show print and edges as they are', () => {
    const error = (passes: Passes): number => distance(tracer.denoise(passes).beauty, truth.beauty);
    expect(error(plain) / error(more)).above(2);
  });

  it('are what neighbours are read by: print that falls otherwise on their pixels stays sharp', async () => {
    const around = [1, 2, 3].map((frame) => look(4, 64, frame));
    const own = look(4, 64, 2);
    const steadied = await steady(own, (offset) => (offset === 0 ? own : around[1 + offset]));
    // The own samples' pattern of print goes with their light, whatever this frame's own features are.
    expect([...steadied.albedo]).deep.equal([...own.albedo]);
    expect(distance(steadied.pairedAlbedo, own.pairedAlbedo)).above(1e-4);
    const error = (passes: Passes): number => distance(tracer.denoise(passes).beauty, truth.beauty);
    expect(error(steadied)).below(error(own) * 0.9);
  });
});

describe('tracer: choices that are made by what they bring', () => {
  it('glass that mirrors a lamp: odds are learned, the mean stays, the noise falls', () => {
    // A pane that mirrors a panel behind the camera, before a wall in the dark.
    const scene = pack({
      things: [
        { mesh: block([1.2, 1.2, 0.02]), finish: { transmission: 1, thickness: 1, roughness: 0 } },
        { mesh: block([3, 3, 0.1]), matrix: moved(0, -0.5, -0.6), finish: LAMBERT },
      ],
      lights: [panel([0, 0.6, 2], [0, 0.6, 0], 0.8, 0.8, 60, true)],
      room: 0.2,
      eye: [0, 0.6, 1.5],
      aim: [0, 0.6, 0],
      fov: 30,
    });
    const limits = { ...FREE, maxBounces: 2, maxDepth: 12 };
    const most = 64;
    const seen = (how: object): Passes => structuredClone(trace(scene, 8, 24, limits, how));
    const truth = structuredClone(trace(scene, 2048, 24, limits, { frame: 5 }));
    const plain = structuredClone(trace(scene, most, 24, limits, {}));
    const learned = seen({ adapt: { target: 1e-9, most } });
    expect(Math.min(...learned.sampleCount)).equal(most);
    expect(mean(learned.beauty) / mean(truth.beauty)).closeTo(1, 0.02);
    // Where the lamp is seen in the pane.
    const mirrored = [...truth.beauty.keys()].filter((i) => truth.beauty[i] > 1.3 * mean(truth.beauty));
    expect(mirrored.length).above(100);
    const error = (p: Passes): number => mean(mirrored.map((i) => (p.beauty[i] / truth.beauty[i] - 1) ** 2));
    expect(error(learned) / error(plain)).below(0.85);
  });

  it('few lights looked at all at once bring what each of them brings alone, and their shadows', () => {
    const places: Vec3[] = [
      [1, 1.5, 1],
      [-1, 1, -0.5],
      [0, 2, 0],
      [0.5, 0.4, -1],
    ];
    const lamps = places.map((at, i) => ({ ...panel(at, [0, 0.2, 0], 0.3, 0.3, 5 + 20 * i), id: `lamp ${i}` }));
    const things = [
      { mesh: floor(2), finish: { roughness: 0.3 } },
      { mesh: block([0.3, 0.3, 0.3]), matrix: moved(0, 0.001, 0), finish: { metallic: 1, roughness: 0.3 } },
    ];
    const view = { things, room: 0.2, eye: [0, 1, 2] as Vec3, aim: [0, 0.2, 0] as Vec3, fov: 40 };
    const samples = 256;
    const all = trace(pack({ ...view, lights: lamps }), samples, 24, FREE, { detail: true });
    const passes = all.detail!.lights.map((l) => mean(l));
    lamps.forEach((lamp, i) => {
      const alone = trace(pack({ ...view, lights: [lamp] }), samples, 24, FREE, { detail: true });
      expect(passes[i] / mean(alone.detail!.lights[0])).closeTo(1, 0.03);
    });
  });

  it('many lights share what few of the same power bring', () => {
    const row = (count: number) =>
      Array.from({ length: count }, (_, i) => ({
        ...panel([((i + 0.5) / count - 0.5) * 1.6, 1, 0.4], [0, 0, 0], 1.6 / count, 0.4, 10),
        id: `lamp ${i}`,
      }));
    const light = (count: number): number =>
      mean(
        trace(
          pack({ things: [{ mesh: floor(2), finish: LAMBERT }], lights: row(count), eye: [0, 1, 1.5], aim: [0, 0, 0] }),
          256,
          16,
          FREE,
          {},
        ).beauty,
      );
    // Beyond eight, one of them is chosen by a tree.
    expect(light(8) / light(16)).closeTo(1, 0.03);
  });
});
