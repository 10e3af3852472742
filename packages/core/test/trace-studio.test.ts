import { expect } from 'chai';
import { newSet, visibleToAll } from '@tender-orbit/core/document';
import { makeFinish } from '@tender-orbit/core/finish';
import { identity, type Vec3 } from '@tender-orbit/core/geometry';
import type { TableauSurface } from '@tender-orbit/core/scene';
import { ball, block, floor, FREE, LAMBERT, mean, moved, pack, panel, trace, type Studio } from './studio.ts';

const black: Partial<Parameters<typeof makeFinish>[1]> = { ...LAMBERT, baseColor: [0, 0, 0] };
const glow = (v: number): object => ({ ...black, emissive: [v, v, v] });
const see = (studio: Studio, samples = 64): number => mean(trace(pack(studio), samples).beauty);

function sweep(more: Partial<TableauSurface>, finish: object = LAMBERT): TableauSurface {
  const shape = { kind: 'sweep' as const, width: 8, depth: 8, height: 0.5, radius: 0.2 };
  return {
    id: 's',
    name: 'Floor',
    shape,
    matrix: identity(),
    finish: makeFinish('F', finish),
    rayVisibility: visibleToAll(),
    ...more,
  };
}

describe('studio: what sees what', () => {
  const mirror = { mesh: floor(), finish: { metallic: 1, roughness: 0, baseColor: [1, 1, 1] as Vec3 } };
  const thing = (rayVisibility: Partial<ReturnType<typeof visibleToAll>>): NonNullable<Studio['things']>[number] => ({
    mesh: block([1, 1, 1]),
    matrix: moved(0, 0.3, 0),
    finish: glow(5),
    rayVisibility: { ...visibleToAll(), ...rayVisibility },
  });
  const straight = { eye: [0, 0.8, 3] as Vec3, aim: [0, 0.8, 0] as Vec3, fov: 2 };
  const inMirror = { eye: [0, 0.5, 3] as Vec3, aim: [0, 0, 1.4] as Vec3, fov: 1 };

  it('a thing hidden from the camera is still seen in mirrors, and the other way round', () => {
    const look = (more: object, rayVisibility: object): number =>
      see({ things: [mirror, thing(rayVisibility)], ...more });
    expect(look(straight, {})).closeTo(5, 0.01);
    expect(look(inMirror, {})).closeTo(5, 0.05);
    expect(look(straight, { camera: false })).equal(0);
    expect(look(inMirror, { camera: false })).closeTo(5, 0.05);
    expect(look(inMirror, { reflections: false })).equal(0);
    expect(look(straight, { reflections: false })).closeTo(5, 0.01);
  });

  it('a thing without shadow lets the light by; one without lighting throws none on others', () => {
    const ground = { mesh: floor() };
    const view = { eye: [0, 0.1, 1] as Vec3, fov: 0.2, lights: [panel([0, 1, 0], [0, 0, 0], 0.1, 0.1, 1000)] };
    const cover = (rayVisibility: object): NonNullable<Studio['things']>[number] => ({
      mesh: block([0.6, 0.02, 0.6]),
      matrix: moved(0, 0.5, 0),
      finish: black,
      rayVisibility: { ...visibleToAll(), ...rayVisibility },
    });
    const open = see({ ...view, things: [ground] });
    expect(see({ ...view, things: [ground, cover({})] })).equal(0);
    expect(see({ ...view, things: [ground, cover({ shadows: false })] })).closeTo(open, open * 0.02);

    const wall = (lighting: boolean): NonNullable<Studio['things']>[number] => ({
      mesh: block([0.02, 2, 2]),
      matrix: moved(-0.5, -1, 0),
      finish: { ...LAMBERT, baseColor: [0.9, 0.1, 0.1] },
      rayVisibility: { ...visibleToAll(), lighting, shadows: false },
    });
    const red = (lighting: boolean): number => {
      const { beauty } = trace(pack({ ...view, things: [ground, wall(lighting)] }), 256);
      return beauty[0] / beauty[2];
    };
    expect(red(true)).above(1.02);
    expect(red(false)).closeTo(1, 1e-6);
  });
});

describe('studio: floors', () => {
  it('a shadow catcher takes the shadow into its alpha and shows nothing of itself', () => {
    const lights = [panel([0, 1, 0], [0, 0, 0], 0.2, 0.2, 500)];
    const cover = { mesh: block([0.5, 0.02, 0.5]), matrix: moved(0, 0.5, 0), finish: black };
    const catcher = [sweep({ catcher: true })];
    const at = (x: number, things: Studio['things']): { alpha: number; light: number } => {
      const eye: Vec3 = [x, 0.1, 1.5];
      const passes = trace(pack({ things, surfaces: catcher, lights, eye, aim: [x, 0, 0], fov: 0.2 }), 256);
      return { alpha: mean(passes.alpha), light: mean(passes.beauty) };
    };
    expect(at(0, [])).deep.equal({ alpha: 0, light: 0 });
    const shaded = at(0, [cover]);
    expect(shaded.alpha).closeTo(1, 0.02);
    expect(shaded.light).closeTo(0, 0.01);
    // Beside the shadow there is nothing to see.
    expect(at(1.5, [cover]).alpha).below(0.05);
  });

  it("the artist's mirror shows what stands on it, as strong as asked, and fades out over its reach", () => {
    const lamp = { mesh: block([6, 0.2, 0.2]), finish: glow(10) };
    const seen = (height: number, mirror: TableauSurface['mirror']): number =>
      see(
        {
          things: [{ ...lamp, matrix: moved(0, height, -1) }],
          surfaces: [sweep({ mirror }, black)],
          // The line from the eye by way of the floor to the lamp.
          eye: [0, height + 0.1, 1],
          aim: [0, 0, 0],
          fov: 0.5,
        },
        256,
      );
    expect(seen(0.3, { strength: 0, blur: 0, reach: 0 })).equal(0);
    expect(seen(0.3, { strength: 0.4, blur: 0, reach: 0 })).closeTo(4, 0.2);
    const [near, far] = [0.1, 1].map((h) => seen(h, { strength: 0.4, blur: 0, reach: 1.5 }));
    expect(near).within(0.2, 3.5);
    expect(far).below(near * 0.7);
    const sharp = seen(0.3, { strength: 0.4, blur: 0, reach: 0 });
    expect(seen(0.3, { strength: 0.4, blur: 0.6, reach: 0 })).below(sharp * 0.6);
  });

  it('a new set stands on a floor that can be all this', () => {
    const [surface] = newSet('Test').surfaces;
    expect(surface).include({ kind: 'sweep', catcher: false });
  });
});

describe('studio: glass and fillings', () => {
  it('follows Beer and Lambert through a filling: exp(-sigma d)', () => {
    const filling = {
      transmission: 1,
      thickness: 1,
      ior: 1,
      roughness: 0,
      attenuationColor: [0.8, 0.4, 0.1] as Vec3,
      attenuationDistance: 0.5,
    };
    for (const depth of [0.25, 0.5, 1]) {
      const things = [{ mesh: block([1, 1, depth]), finish: filling, matrix: moved(0, -0.5, 0) }];
      const { beauty } = trace(pack({ things, room: 1, fov: 0.5 }), 8);
      [0.8, 0.4, 0.1].forEach((c, i) => expect(beauty[i]).closeTo(Math.pow(c, depth / 0.5), 1e-3));
    }
  });

  it('where a filling overlaps its vessel the filling wins, without a gap', () => {
    const glass = { transmission: 1, thickness: 1, ior: 1, roughness: 0 };
    const filling = { ...glass, attenuationColor: [0.5, 0.5, 0.5] as Vec3, attenuationDistance: 1 };
    const things = [
      { mesh: block([1, 1, 2]), finish: glass, matrix: moved(0, -0.5, 0) },
      { mesh: block([0.9, 0.9, 1]), finish: filling, matrix: moved(0, -0.45, 0) },
    ];
    expect(see({ things, room: 1, fov: 0.5 }, 16)).closeTo(0.5, 1e-3);
  });

  it('light falls through glass onto what lies behind it, so honey in a jar is lit', () => {
    const lights = [panel([0, 1, 0], [0, 0, 0], 0.2, 0.2, 1000)];
    // A dark floor, so that what the pane throws back at it does not count.
    const ground = { mesh: floor(), finish: { ...LAMBERT, baseColor: [0.02, 0.02, 0.02] as Vec3 } };
    const glass = { transmission: 1, thickness: 1, ior: 1.5, roughness: 0 };
    const pane = { mesh: block([2, 0.02, 2]), finish: glass, matrix: moved(0, 0.5, 0) };
    const lit = (things: Studio['things']): number => see({ things, lights, eye: [0, 0.1, 0.9], fov: 0.2 }, 256);
    // Two faces let 96 % each through.
    expect(lit([ground, pane]) / lit([ground])).closeTo(0.96 ** 2, 0.01);
    const tinted = { ...glass, attenuationColor: [0.5, 0.5, 0.5] as Vec3, attenuationDistance: 0.02 };
    expect(lit([ground, { ...pane, finish: tinted }]) / lit([ground])).closeTo(0.96 ** 2 * 0.5, 0.02);
  });

  it('a ball of glass turns what is behind it upside down', () => {
    const lamp = { mesh: block([4, 2, 0.1]), matrix: moved(0, 0.02, -4), finish: glow(3) };
    const glass = { mesh: ball(), finish: { transmission: 1, thickness: 1, ior: 1.5, roughness: 0 } };
    const at = (y: number): number => see({ things: [lamp, glass], eye: [0, 0, 6], aim: [0, y, 1], fov: 0.2 });
    expect(at(-0.3)).above(2);
    expect(at(0.3)).below(0.6);
  });

  it('alpha: blend shows its share of what is behind, mask all or nothing', () => {
    const seen = (finish: object): number =>
      see({ things: [{ mesh: floor(1), finish: { ...black, ...finish } }], eye: [0, 4, 0.01], room: 1 }, 1024);
    expect(seen({ alphaMode: 'blend', alpha: 0.25 })).closeTo(0.75, 0.01);
    expect(seen({ alphaMode: 'mask', alpha: 0.25, alphaCutoff: 0.5 })).closeTo(1, 1e-5);
    expect(seen({ alphaMode: 'mask', alpha: 0.75, alphaCutoff: 0.5 })).closeTo(0, 1e-6);
  });

  it('a clamp takes the top off indirect light only: what a floor mirrors of a lamp stays', () => {
    const glossy = { ...LAMBERT, roughness: 0.2, baseColor: [0.2, 0.2, 0.2] as [number, number, number] };
    const room = pack({
      things: [
        { mesh: floor(1), finish: glossy },
        { mesh: block([2, 1, 0.02]), matrix: moved(0, 0, -0.3) },
      ],
      lights: [panel([0, 0.4, 0.2], [0, 0, 0], 0.2, 0.2, 5000)],
      eye: [0, 0.6, 1.2],
      fov: 30,
    });
    const [free, clamped] = [FREE, { ...FREE, clamp: 0.01 }].map(
      (limits) => trace(room, 64, 8, limits, { detail: true }).detail!,
    );
    expect(clamped.direct).deep.equal(free.direct);
    expect(mean(clamped.indirect)).above(0);
    expect(mean(clamped.indirect)).below(mean(free.indirect) * 0.5);
  });
});
