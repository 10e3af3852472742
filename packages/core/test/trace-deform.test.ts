import { expect } from 'chai';
import { instantiateKernel } from '@tender-orbit/kernel';
import {
  multiply,
  placementMatrix,
  smoothNormals,
  transformMesh,
  type Mat4,
  type Mesh,
} from '@tender-orbit/core/geometry';
import type { PartShape } from '@tender-orbit/core/product';
import { KernelTracer, PackCache, packScene, type ModelData, type Passes } from '@tender-orbit/core/trace';
import { ball, block, FREE, mean, module, moved, pack, panel, tableauOf, trace, type Studio } from './studio.ts';

const glow = { emissive: [1, 1, 1] as [number, number, number], emissiveStrength: 1, unlit: true };
const VIEW = { eye: [0, 0, 4] as [number, number, number], fov: 15 };

/** A mesh with its vertices moved by `change`; normals follow. */
function bent(mesh: Mesh, change: (x: number, y: number, z: number) => [number, number, number]): Mesh {
  const positions = new Float32Array(mesh.positions.length);
  for (let i = 0; i < positions.length; i += 3)
    positions.set(change(mesh.positions[i], mesh.positions[i + 1], mesh.positions[i + 2]), i);
  return { ...mesh, positions, normals: smoothNormals(positions, mesh.indices) };
}
const between = (a: Mesh, b: Mesh, t: number): Mesh => ({
  ...a,
  positions: a.positions.map((v, i) => v + (b.positions[i] - v) * t),
  normals: a.normals.map((v, i) => v + (b.normals[i] - v) * t),
});
const shapeOf = (open: Mesh, close?: Mesh, before?: Mesh): PartShape => ({
  mesh: open,
  close: close && { positions: close.positions, normals: close.normals },
  before: before?.positions,
});

function picture(studio: Studio, size = 32, samples = 256): Passes {
  return trace(pack({ ...VIEW, ...studio }), samples, size, FREE, { detail: true });
}
/** Root mean square difference of two pictures, against the brighter one's mean. */
function difference(a: Float32Array, b: Float32Array): number {
  return Math.sqrt(mean(a.map((v, i) => (v - b[i]) ** 2))) / Math.max(mean(a), mean(b));
}

describe('tracer: meshes that deform', () => {
  const plate = block([0.12, 0.12, 0.01]);

  it('vertices that all move alike are the same as a thing that moves', () => {
    const there = bent(plate, (x, y, z) => [x + 0.3, y + 0.1, z]);
    const deformed = picture({ things: [{ mesh: plate, finish: glow, shape: shapeOf(plate, there) }] });
    const carried = picture({ things: [{ mesh: plate, finish: glow, close: moved(0.3, 0.1, 0) }] });
    expect(difference(deformed.beauty, carried.beauty)).below(0.02);
    expect(mean(deformed.beauty)).closeTo(mean(carried.beauty), 0.01 * mean(carried.beauty));
  });

  it('a bar that bends is smeared as many pictures between are, light and shadow too', () => {
    const bar = block([0.4, 0.06, 0.06]);
    const fine = subdivided(bar, 3);
    const curl = (amount: number): Mesh => bent(fine, (x, y, z) => [x, y + amount * x * x, z]);
    const [open, close] = [curl(-1.5), curl(1.5)];
    const lit: Studio = {
      lights: [panel([0, 2, 2], [0, 0, 0], 0.4, 0.4, 300)],
      room: 0.3,
    };
    const blurred = picture({ ...lit, things: [{ mesh: fine, shape: shapeOf(open, close) }] }, 24, 1024).beauty;
    const steps = 32;
    const sum = new Float32Array(blurred.length);
    for (let i = 0; i < steps; i++) {
      const mesh = between(open, close, (i + 0.5) / steps);
      const still = picture({ ...lit, things: [{ mesh: fine, shape: shapeOf(mesh) }] }, 24, 64).beauty;
      still.forEach((v, k) => (sum[k] += v / steps));
    }
    expect(difference(blurred, sum)).below(0.05);
    expect(mean(blurred)).closeTo(mean(sum), 0.01 * mean(sum));
    // It is a smear: neither end alone looks like it.
    const end = picture({ ...lit, things: [{ mesh: fine, shape: shapeOf(open) }] }, 24, 256).beauty;
    expect(difference(blurred, end)).above(0.2);
  });

  it('normals turn with the surface while the shutter is open', () => {
    // A plate that swings from facing the light to facing away by 60 degrees, its place kept.
    const facing = { ...plate, normals: plate.normals.map((_, i) => [0, 0, 1][i % 3]) };
    const [c, s] = [Math.cos(Math.PI / 3), Math.sin(Math.PI / 3)];
    const turned = { ...plate, normals: plate.normals.map((_, i) => [s, 0, c][i % 3]) };
    const lights = [panel([0, 0, 10], [0, 0, 0], 0.2, 0.2, 5000)];
    const seen = (shape: PartShape): number =>
      mean(picture({ fov: 1, lights, things: [{ mesh: plate, shape }] }, 4, 2048).beauty);
    const blurred = seen(shapeOf(facing, turned));
    const steps = 16;
    let sum = 0;
    for (let i = 0; i < steps; i++) sum += seen(shapeOf(between(facing, turned, (i + 0.5) / steps))) / steps;
    expect(blurred / sum).closeTo(1, 0.02);
    expect(blurred / seen(shapeOf(facing))).below(0.95);
  });

  it('motion vectors say where each point was one frame before', () => {
    // The right half of the plate was 0.02 lower. Its front lies at z = 0.005; the picture is 2 d tan(1.5 degrees) wide.
    const before = bent(plate, (x, y, z) => [x, x > 0 ? y - 0.02 : y, z]);
    const things = [{ mesh: plate, finish: glow, shape: shapeOf(plate, undefined, before) }];
    const { detail, alpha } = picture({ things, fov: 3 }, 32, 64);
    const pixels = 32 / (2 * 3.995 * Math.tan((1.5 * Math.PI) / 180));
    const inside = Array.from({ length: 32 * 32 }, (_, i) => i).filter((i) => alpha[i] > 0.999);
    const column = Math.max(...inside.map((i) => i % 32));
    const moves = inside.filter((i) => i % 32 === column).map((i) => [...detail!.motion.subarray(i * 2, i * 2 + 2)]);
    expect(moves.length).above(10);
    // A point between vertices moves with its triangle: at the right edge nearly the whole step.
    for (const [, y] of moves) expect(Math.abs(y)).within(0.85 * 0.02 * pixels, 1.01 * 0.02 * pixels);
    const left = inside.filter((i) => i % 32 === Math.min(...inside.map((k) => k % 32)));
    for (const i of left) expect(Math.abs(detail!.motion[i * 2 + 1])).below(0.2 * 0.02 * pixels);
    for (const [x] of moves) expect(Math.abs(x)).below(0.05);
  });

  it('motion vectors of vertices that all move alike are those of a thing that moves', () => {
    const back = bent(plate, (x, y, z) => [x - 0.05, y + 0.02, z]);
    const deformed = picture(
      { things: [{ mesh: plate, finish: glow, shape: shapeOf(plate, undefined, back) }] },
      32,
      64,
    );
    const carried = picture({ things: [{ mesh: plate, finish: glow, before: moved(-0.05, 0.02, 0) }] }, 32, 64);
    expect(mean(carried.detail!.motion.map(Math.abs))).above(0.01);
    deformed.detail!.motion.forEach((v, i) => expect(v).closeTo(carried.detail!.motion[i], 2e-3));
  });

  it('shadows of what deforms are smeared as well', () => {
    const wide = block([4, 0.01, 4]);
    const above = bent(plate, (x, y, z) => [x, y + 0.5, z]);
    const away = bent(above, (x, y, z) => [x + 0.8, y, z]);
    const scene = (shape: PartShape): Studio => ({
      ...{ eye: [0, 3, 0.001], aim: [0, 0, 0], fov: 30 },
      lights: [panel([0, 3, 0], [0, 0, 0], 0.01, 0.01, 1e6)],
      things: [
        { mesh: wide, finish: {} },
        { mesh: plate, shape, rayVisibility: { camera: false, reflections: false, shadows: true, lighting: false } },
      ],
    });
    const blurred = picture(scene(shapeOf(above, away)), 24, 512).beauty;
    const steps = 24;
    const sum = new Float32Array(blurred.length);
    for (let i = 0; i < steps; i++)
      picture(scene(shapeOf(between(above, away, (i + 0.5) / steps))), 24, 32).beauty.forEach(
        (v, k) => (sum[k] += v / steps),
      );
    expect(difference(blurred, sum)).below(0.05);
  });

  it('only what deforms is built anew, and its memory is used again', () => {
    const instance = instantiateKernel(module);
    let planned = 0;
    const exports = { ...instance.exports } as Record<string, unknown>;
    const planMesh = exports.planMesh as (...args: number[]) => number;
    exports.planMesh = (...args: number[]) => {
      planned++;
      return planMesh(...args);
    };
    const own = new KernelTracer({ memory: instance.memory, exports } as never);
    const still = ball(0.2);
    const models = new Map<string, ModelData>([['m', { meshes: [still, plate], images: [] }]]);
    const cache = new PackCache();
    const sizes: number[] = [];
    for (let frame = 0; frame < 30; frame++) {
      const open = bent(plate, (x, y, z) => [x, y + frame * 0.01, z]);
      const studio = { ...VIEW, things: [{ mesh: still }, { mesh: plate, shape: shapeOf(open) }] };
      own.load(packScene(tableauOf(studio), models, { cache }));
      sizes.push(own.bytes);
    }
    expect(planned).equal(31);
    // Trees differ by a few nodes from shape to shape; nothing piles up.
    expect(Math.max(...sizes) / Math.min(...sizes)).below(1.05);
  });
});

describe('tracer: parts with places of their own', () => {
  const plate = block([0.12, 0.12, 0.01]);
  const hinge = placementMatrix([0.05, 0.02, 0.1], 40, 20, 0, 1);

  it('are where the part’s place in the model and the model’s in the world put them', () => {
    const world = placementMatrix([0.1, -0.05, 0], 15, 0, 0, 1.2);
    const lights = [panel([0, 1, 3], [0, 0, 0], 0.5, 0.5, 100)];
    const seen = (thing: NonNullable<Studio['things']>[number]): Float32Array =>
      picture({ lights, things: [{ ...thing, matrix: world }] }, 24, 256).beauty;
    const placed = seen({ mesh: plate, place: { matrix: hinge } });
    const made = seen({ mesh: transformMesh(plate, hinge) });
    expect(difference(placed, made)).below(0.03);
  });

  it('move in their model while it moves in the world: blur and motion vectors take both', () => {
    const open = placementMatrix([0, 0, 0], 0, 0, 0, 1);
    const lid: Mat4 = moved(0.1, 0, 0);
    const both = picture({
      things: [
        {
          ...{ mesh: plate, finish: glow, matrix: open, close: moved(0, 0.15, 0), before: moved(0, -0.1, 0) },
          place: { matrix: open, close: lid, before: moved(-0.05, 0, 0) },
        },
      ],
    });
    const one = picture({
      things: [
        {
          mesh: plate,
          finish: glow,
          matrix: open,
          close: multiply(moved(0, 0.15, 0), lid),
          before: moved(-0.05, -0.1, 0),
        },
      ],
    });
    expect(difference(both.beauty, one.beauty)).below(0.02);
    both.detail!.motion.forEach((v, i) => expect(v).closeTo(one.detail!.motion[i], 0.02));
  });

  it('belong to their thing in the id passes', () => {
    const scene = pack({ things: [{ mesh: plate, place: { matrix: hinge } }, { mesh: plate }] });
    expect(scene.things).deep.equal(['t0', 't1']);
    expect(scene.instances.map((i) => i.thing)).deep.equal([0, 1]);
  });
});

describe('packing: many different meshes', () => {
  it('four hundred of them are packed once, not anew in every frame', () => {
    const count = 400;
    const meshes = Array.from({ length: count }, () => block([0.01, 0.01, 0.01]));
    const models = new Map<string, ModelData>([['m', { meshes, images: [] }]]);
    const tableau = tableauOf({ things: meshes.map((mesh, i) => ({ mesh, matrix: moved(i * 0.02, 0, 0) })) });
    const cache = new PackCache();
    const first = packScene(tableau, models, { cache }).meshes;
    expect(new Set(first).size).equal(count);
    for (let frame = 0; frame < 3; frame++) {
      const again = packScene(tableau, models, { cache }).meshes;
      expect(again.every((mesh, i) => mesh === first[i])).equal(true);
    }
  });

  it('what no scene has any more is let go', () => {
    const cache = new PackCache();
    const one = (i: number) => {
      const models = new Map<string, ModelData>([
        [`m`, { meshes: [block([0.01, 0.01, 0.01 + i * 1e-4])], images: [] }],
      ]);
      const tableau = tableauOf({ things: [{ mesh: models.get('m')!.meshes[0] }] });
      tableau.instances[0].model = `m${i}`;
      return packScene(tableau, new Map([[`m${i}`, models.get('m')!]]), { cache }).meshes[0];
    };
    const first = one(0);
    for (let i = 1; i < 400; i++) one(i);
    expect(one(399)).equal(one(399));
    expect(one(0)).not.equal(first);
  });
});

/** Each triangle in four, `times` over: enough vertices to bend. */
function subdivided(mesh: Mesh, times: number): Mesh {
  const positions = [...mesh.positions];
  let indices = [...mesh.indices];
  for (let n = 0; n < times; n++) {
    const next: number[] = [];
    const middle = (a: number, b: number): number => {
      for (let k = 0; k < 3; k++) positions.push((positions[a * 3 + k] + positions[b * 3 + k]) / 2);
      return positions.length / 3 - 1;
    };
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = indices.slice(i, i + 3);
      const [ab, bc, ca] = [middle(a, b), middle(b, c), middle(c, a)];
      next.push(a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca);
    }
    indices = next;
  }
  const flat = { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) };
  const count = flat.positions.length / 3;
  return { ...flat, normals: smoothNormals(flat.positions, flat.indices), uvs: new Float32Array(count * 2) };
}
