import { expect } from 'chai';
import { linearToSrgb, srgbToLinear } from '@tender-orbit/core/finish';
import type { Vec3 } from '@tender-orbit/core/geometry';
import { toDisplay } from '@tender-orbit/core/picture';
import { makeLevels } from '@tender-orbit/core/trace';
import { ART, block, floor, FREE, LAMBERT, mean, moved, pack, trace, type Studio } from './studio.ts';

const glow = (v: number): object => ({ ...LAMBERT, baseColor: [0, 0, 0], emissive: [v, v, v] });
/** Luminance of one row of pixels. */
function picture(studio: Studio, size = 32, samples = 64): Float32Array {
  return trace(pack(studio), samples, size).beauty.filter((_, i) => i % 3 === 0);
}
const litIn = (seen: Float32Array): number => seen.filter((v) => v > 0).length;
const spread = (values: Float32Array): number => values.filter((v) => v > 0.02 && v < 0.98).length;

describe('camera: lens', () => {
  const dot = (size: number): NonNullable<Studio['things']>[number] => ({
    mesh: block([size, size, 0.001]),
    matrix: moved(0, -size / 2, 0),
    finish: glow(1),
  });

  it('is sharp at its distance of focus and soft elsewhere', () => {
    const edges = (focus: number, aperture: number): number =>
      spread(picture({ things: [dot(0.2)], eye: [0, 0, 4], fov: 10, aperture, focus }));
    expect(edges(4, 0.1)).at.most(edges(4, 0) + 12);
    expect(edges(2, 0.1)).above(2.5 * edges(4, 0.1));
  });

  it('a point out of focus grows into a disc of the size the thin lens gives', () => {
    const [aperture, focus, distance] = [0.1, 2, 4];
    const size = 64;
    const fov = 12;
    const seen = picture({ things: [dot(0.02)], eye: [0, 0, distance], fov, aperture, focus }, size, 1024);
    // On the plane of focus the disc is (distance - focus) / distance of the lens wide.
    const radius = (aperture * (distance - focus)) / distance;
    const pixel = (2 * focus * Math.tan((fov * Math.PI) / 360)) / size;
    // The dot's own half edge, half as large on that plane, and half a pixel lie round it.
    const wanted = Math.PI * ((radius + 0.005) / pixel + 0.5) ** 2;
    expect(litIn(seen) / wanted).closeTo(1, 0.07);
  });

  it('blades make the disc a polygon: six keep 3 sqrt(3) / 2 pi of its area', () => {
    const area = (blades: number): number =>
      litIn(
        picture(
          { things: [dot(0.02)], eye: [0, 0, 4], fov: 12, aperture: 0.2, focus: 2, camera: { blades } },
          64,
          1024,
        ),
      );
    expect(area(6) / area(0)).closeTo((3 * Math.sqrt(3)) / (2 * Math.PI), 0.06);
  });

  it('shift moves the picture and keeps verticals straight', () => {
    const post = { mesh: block([0.2, 8, 0.2]), matrix: moved(0.83, -1, 0), finish: glow(1) };
    const left = (shift: number): number[] => {
      const seen = picture({ things: [post], eye: [0, 0, 4], fov: 40, camera: { shift: [0, shift] } }, 32, 16);
      return Array.from({ length: 32 }, (_, y) => seen.subarray(y * 32, y * 32 + 32).findIndex((v) => v > 0.5));
    };
    const [still, shifted] = [left(0), left(0.7)];
    expect(new Set(shifted).size).equal(1);
    expect(shifted[0]).equal(still[0]);
    const top = (shift: number): number => {
      const seen = picture({ things: [dot(0.5)], eye: [0, 0, 4], fov: 40, camera: { shift: [0, shift] } }, 32, 16);
      return seen.findIndex((v) => v > 0.5) >> 5;
    };
    // Half a half-picture up: the thing sinks by a quarter of the picture.
    expect(top(0.5) - top(0)).closeTo(8, 1);
  });
});

describe('camera: shutter', () => {
  it('a thing that moves is drawn out over its way, its light kept', () => {
    const mesh = block([0.1, 0.1, 0.001]);
    const view = { eye: [0, 0.05, 4] as Vec3, aim: [0, 0.05, 0] as Vec3, fov: 15 };
    const seen = (close?: number[]): Float32Array =>
      picture({ ...view, things: [{ mesh, finish: glow(1), matrix: moved(-0.2, 0, 0), close }] }, 32, 256);
    const [still, moving] = [seen(), seen(moved(0.2, 0, 0))];
    expect(mean(moving) / mean(still)).closeTo(1, 0.03);
    const lit = (p: Float32Array): number => p.filter((v) => v > 0.01).length;
    expect(lit(moving) / lit(still)).within(3.5, 5.5);
    expect(Math.max(...moving)).within(0.2, 0.32);
  });

  it('a camera that moves smears what stands still', () => {
    const things = [{ mesh: block([0.1, 0.1, 0.001]), finish: glow(1) }];
    const seen = (close?: number[]): Float32Array =>
      picture({ things, eye: [0, 0.05, 4], aim: [0, 0.05, 0], fov: 15, camera: { close } }, 32, 256);
    const lit = (p: Float32Array): number => p.filter((v) => v > 0.01).length;
    expect(lit(seen(moved(0.3, 0.05, 4))) / lit(seen())).above(2.5);
  });
});

describe('textures', () => {
  const above = { eye: [0, 4, 0.001] as Vec3, fov: 2, view: 'plain' as const };
  const texels = {
    width: 2,
    height: 2,
    data: Uint8Array.from([255, 0, 0, 255, 0, 255, 0, 255, 0, 0, 255, 255, 255, 255, 255, 255]),
  };
  const unlit = (use: object): number[] => {
    const finish = { unlit: true, textures: { baseColor: { ...ART, ...use } } };
    const studio = { ...above, fov: 0.01, aim: [0.5, 0, 0.5] as Vec3, images: [texels] };
    const { beauty } = trace(pack({ ...studio, things: [{ mesh: floor(1), finish }] }), 4, 1);
    return [...beauty].map((v) => Math.round(v * 100) / 100);
  };

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

  it('far away fine stripes are their mean, not noise', () => {
    const stripes = {
      width: 64,
      height: 64,
      data: Uint8Array.from(
        Array.from({ length: 64 * 64 }, (_, i) =>
          Array(3)
            .fill(i % 2 ? 255 : 0)
            .concat(255),
        ).flat(),
      ),
    };
    const finish = { unlit: true, textures: { baseColor: { ...ART, scale: [16, 16] as [number, number] } } };
    const studio = {
      view: 'plain' as const,
      images: [stripes],
      things: [{ mesh: floor(1), finish }],
      eye: [0, 4, 0.001] as Vec3,
      fov: 20,
    };
    const seen = picture(studio, 16, 1);
    expect(Math.max(...seen) - Math.min(...seen)).below(0.25);
    expect(mean(seen)).closeTo(0.5, 0.03);
  });

  it('smaller levels keep the mean light of the picture', () => {
    const random = Uint8Array.from({ length: 8 * 8 * 4 }, (_, i) => (i % 4 === 3 ? 255 : (i * 7919) % 256));
    const levels = makeLevels({ width: 8, height: 8, data: random }, true);
    const light = (b: number): number => (b <= 10 ? b / 255 / 12.92 : ((b / 255 + 0.055) / 1.055) ** 2.4);
    const means = levels.map((level) => mean([...level].filter((_, i) => i % 4 === 0).map(light)));
    expect(levels.map((level) => level.length / 4)).deep.equal([64, 16, 4, 1]);
    for (const m of means) expect(m).closeTo(means[0], 0.01);
  });

  it('emission is seen as it is', () => {
    const finish = { ...LAMBERT, emissive: [1, 0.5, 0.25] as Vec3, emissiveStrength: 8 };
    const { beauty } = trace(pack({ ...above, things: [{ mesh: floor(), finish }] }), 4, 1);
    [8, 4, 2].forEach((v, i) => expect(beauty[i]).closeTo(v, 1e-4));
  });
});

describe('unlit finishes', () => {
  const COLOURS: Vec3[] = [
    [1, 1, 1],
    [0, 0, 0],
    [0.5, 0.5, 0.5],
    [0.8, 0.1, 0.02],
    [0.1, 0.9, 0.6],
    [0.97, 0.9, 0.95],
  ];
  const above = { eye: [0, 4, 0.001] as Vec3, fov: 2 };

  it('show their colour on the display, through every view transform and at any exposure', () => {
    for (const view of ['neutral', 'filmic', 'plain'] as const)
      for (const exposureScale of [0.002, 1, 30])
        for (const baseColor of COLOURS) {
          const things = [{ mesh: floor(), finish: { ...LAMBERT, unlit: true, baseColor } }];
          const { beauty } = trace(pack({ ...above, view, things }), 4, 1, { ...FREE, exposureScale });
          const { data } = toDisplay({ width: 1, height: 1, data: beauty.slice(0, 3) }, exposureScale, view);
          const wanted = baseColor.map((v) => Math.round(linearToSrgb(v) * 255));
          [0, 1, 2].forEach((c) => expect(data[c], `${view} ${exposureScale} ${baseColor}`).closeTo(wanted[c], 1));
        }
  });

  it('too bright and saturated for a view that bleaches, they keep their hue and lose little of either', () => {
    for (const baseColor of [
      [1, 0.2, 0.2],
      [1, 0, 0],
      [0.05, 0.95, 0.1],
    ] as Vec3[]) {
      const things = [{ mesh: floor(), finish: { ...LAMBERT, unlit: true, baseColor } }];
      const { beauty } = trace(pack({ ...above, view: 'neutral', things }), 4, 1, { ...FREE, exposureScale: 3 });
      const { data } = toDisplay({ width: 1, height: 1, data: beauty.slice(0, 3) }, 3, 'neutral');
      const off = baseColor.map((v, c) => srgbToLinear(data[c] / 255) - v);
      expect(
        off.reduce((most, v) => Math.max(most, Math.abs(v)), 0),
        `${baseColor} ${data}`,
      ).below(0.17);
      expect(data.indexOf(Math.max(...data.subarray(0, 3))), String(baseColor)).equal(
        baseColor.indexOf(Math.max(...baseColor)),
      );
    }
  });

  it('do not glow on what mirrors them roughly', () => {
    const card = { mesh: block([1, 1, 0.001]), matrix: moved(0, 0, -1), finish: { ...LAMBERT, unlit: true } };
    const ground = { mesh: floor(3), finish: { ...LAMBERT, specular: 1, roughness: 0.5 } };
    const down = { eye: [0, 0.5, 1] as Vec3, aim: [0, 0, 0] as Vec3, fov: 10 };
    const seen = mean(picture({ ...down, view: 'neutral', things: [card, ground] }, 8, 256));
    expect(seen).above(0).below(0.1);
  });

  it('light nothing, and are seen in mirrors', () => {
    const card = { mesh: block([1, 1, 0.001]), matrix: moved(0, 0, -1), finish: { ...LAMBERT, unlit: true } };
    const ground = { mesh: floor(3), finish: LAMBERT };
    const down = { eye: [0, 0.5, 1] as Vec3, aim: [0, 0, 0] as Vec3, fov: 10 };
    const glowing = { ...card, finish: glow(1) };
    expect(mean(picture({ ...down, things: [glowing, ground] }, 4, 64))).above(0.01);
    expect(mean(picture({ ...down, things: [card, ground] }, 4, 64))).equal(0);
    const mirror = { mesh: floor(3), finish: { ...LAMBERT, metallic: 1, roughness: 0 } };
    expect(mean(picture({ ...down, view: 'plain', things: [card, mirror] }, 4, 16))).closeTo(1, 0.02);
  });
});
