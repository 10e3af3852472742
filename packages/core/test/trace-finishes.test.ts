import { expect } from 'chai';
import type { Vec3 } from '@tender-orbit/core/geometry';
import { LightSampler, MATERIAL, OpaqueBsdf, Surface } from '@tender-orbit/core/trace';
import { floor, LAMBERT, pack, panel, trace } from './studio.ts';

let seed = 1;
const random = (): number => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 4294967296;

describe('trace: finishes', () => {
  const above = { eye: [0, 4, 0.001] as Vec3, fov: 2 };
  const texels = {
    width: 2,
    height: 2,
    data: Uint8Array.from([255, 0, 0, 255, 0, 255, 0, 255, 0, 0, 255, 255, 255, 255, 255, 255]),
  };
  const art = {
    image: 0,
    offset: [0, 0] as [number, number],
    rotation: 0,
    scale: [1, 1] as [number, number],
    strength: 1,
    wrap: ['repeat', 'repeat'] as ['repeat', 'repeat'],
  };
  const unlit = (use: object): number[] =>
    [
      ...trace(
        pack({
          ...above,
          fov: 0.01,
          aim: [0.5, 0, 0.5],
          images: [texels],
          things: [{ mesh: floor(1), finish: { unlit: true, textures: { baseColor: { ...art, ...use } } } }],
        }),
        4,
        1,
      ).beauty,
    ].map((v) => Math.round(v * 100) / 100);

  it('art lies as glTF says: the first pixel at uv 0 0', () => {
    // The floor's uv 0.75 0.75 lies at x = z = 0.5: the middle of the last of two by two pixels.
    expect(unlit({})).deep.equal([1, 1, 1]);
    expect(unlit({ offset: [-0.5, -0.5] })).deep.equal([1, 0, 0]);
    expect(unlit({ offset: [-0.5, 0] })).deep.equal([0, 0, 1]);
    expect(unlit({ offset: [0, -0.5] })).deep.equal([0, 1, 0]);
  });

  it('art repeats, mirrors or is held beyond its edge', () => {
    expect(unlit({ offset: [0.5, 0] })).deep.equal([0, 0, 1]);
    expect(unlit({ offset: [0.5, 0], wrap: ['mirror', 'repeat'] })).deep.equal([1, 1, 1]);
    expect(unlit({ offset: [9, -0.5], wrap: ['clamp', 'repeat'] })).deep.equal([0, 1, 0]);
  });

  it('emission is seen as it is', () => {
    const { beauty } = trace(
      pack({
        ...above,
        things: [{ mesh: floor(), finish: { ...LAMBERT, emissive: [1, 0.5, 0.25], emissiveStrength: 8 } }],
      }),
      4,
      1,
    );
    [8, 4, 2].forEach((v, i) => expect(beauty[i]).closeTo(v, 1e-4));
  });

  it('the reflection keeps to the laws: reciprocal, its density sums to one, samples match their density', () => {
    const scene = pack({
      things: [
        {
          mesh: floor(),
          finish: {
            baseColor: [0.8, 0.5, 0.2],
            metallic: 0.3,
            roughness: 0.4,
            clearcoat: 0.6,
            clearcoatRoughness: 0.2,
          },
        },
      ],
    });
    const surface = new Surface(scene);
    surface.at(0, 0.2, 0.2);
    const bsdf = new OpaqueBsdf();
    const bare = pack({
      things: [{ mesh: floor(), finish: { baseColor: [0.8, 0.5, 0.2], metallic: 0.3, roughness: 0.4 } }],
    });
    const direction = (z: number, a: number): Vec3 => [
      Math.sqrt(1 - z * z) * Math.cos(a),
      z,
      Math.sqrt(1 - z * z) * Math.sin(a),
    ];
    const f = (v: Vec3, l: Vec3): number => {
      bsdf.prepare(surface, bare.materials, 0, 1, 0, ...v);
      bsdf.evaluate(...l);
      return bsdf.g / l[1];
    };
    for (let i = 0; i < 50; i++) {
      const [v, l] = [direction(0.1 + 0.9 * random(), 6 * random()), direction(0.1 + 0.9 * random(), 6 * random())];
      // Without coat, whose weight depends on the viewer's side as in the glTF reference.
      expect(f(v, l) / f(l, v)).closeTo(1, 1e-9);
    }
    const view = direction(0.6, 1);
    bsdf.prepare(surface, scene.materials, 0, 1, 0, ...view);
    let total = 0;
    const n = 400;
    for (let i = 0; i < n; i++) {
      for (let j = 0; j < n; j++) {
        bsdf.evaluate(...direction((i + 0.5) / n, ((j + 0.5) / n) * 2 * Math.PI));
        total += (bsdf.pdf * 2 * Math.PI) / (n * n);
      }
    }
    // What is drawn below the surface is lost: the sum is one at most, and nearly that.
    expect(total).within(0.93, 1.003);
    for (let i = 0; i < 200; i++) {
      if (!bsdf.sample(random(), random(), random())) continue;
      const drawn = bsdf.pdf;
      bsdf.evaluate(bsdf.lx, bsdf.ly, bsdf.lz);
      expect(bsdf.pdf).equal(drawn);
    }
  });

  it('clay gives every thing the same finish', () => {
    const { materials } = pack({
      clay: true,
      things: [
        { mesh: floor(), finish: { transmission: 1, thickness: 1 } },
        { mesh: floor(), finish: { metallic: 1 } },
      ],
    });
    expect([...materials.subarray(0, MATERIAL.stride)]).deep.equal([
      ...materials.subarray(MATERIAL.stride, 2 * MATERIAL.stride),
    ]);
    expect(materials[MATERIAL.transmission]).equal(0);
  });
});

describe('trace: lights as densities', () => {
  const scene = pack({
    lights: [panel([0.5, 1, 0], [0, 0, 0], 0.3, 0.4, 300), panel([-1, 0.6, 0.4], [0, 0, 0], 0.2, 0.5, 900)],
    room: 1,
  });

  it('a sampled direction has the density that hitting the panel reports', () => {
    const lights = new LightSampler(scene);
    for (let i = 0; i < 200; i++) {
      if (!lights.samplePanel(0.1, 0, 0.2, random(), random(), random())) continue;
      const { pdf, dx, dy, dz, distance } = lights;
      expect(lights.panelHit(0.1, 0, 0.2, dx, dy, dz, 1e-5, Infinity, false)).equal(true);
      expect(lights.t).closeTo(distance, 1e-4);
      expect(lights.panelPdf(0.1, 0, 0.2, lights.panel, dx, dy, dz, lights.t) / pdf).closeTo(1, 1e-3);
    }
  });

  it('an even room is sampled all over, with the density that looking it up reports', () => {
    const lights = new LightSampler(scene);
    let area = 0;
    const draws = 4096;
    for (let i = 0; i < draws; i++) {
      lights.sampleEnvironment(random(), (i + 0.5) / draws);
      const drawn = lights.pdf;
      area += 1 / drawn / draws;
      lights.environmentAt(lights.dx, lights.dy, lights.dz);
      expect(drawn / lights.pdf).closeTo(1, 1e-3);
    }
    // The mean of 1 / density over samples is the area that is sampled: the whole sphere.
    expect(area / (4 * Math.PI)).closeTo(1, 0.005);
  });
});
