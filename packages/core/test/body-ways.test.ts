import { expect } from 'chai';
import engine from '@dimforge/rapier3d-simd-compat';
import { newSet, newShot, nextProduct, type ProductDocument, type ShotDocument } from '@tender-orbit/core/document';
import { boundsCentre, boundsOf, mergeMeshes, type Mat4, type Mesh, type Vec3 } from '@tender-orbit/core/geometry';
import { closedVolume, multiply, transformPoint } from '@tender-orbit/core/geometry';
import { builtDocument, builtMeshes, modelKey, newBuilder, TURNED_PRESETS } from '@tender-orbit/core/product';
import { compile, matterAt } from '@tender-orbit/core/scene';
import {
  bodiesOf,
  hingeAt,
  hingeTracks,
  HINGE_SIDES,
  runBodies,
  type Body,
  type BodySettings,
} from '@tender-orbit/core/simulate';
import { keysOf } from './moves-scene.ts';
import { ball, block, moved } from './studio.ts';

const SETTINGS: BodySettings = {
  ...{ way: 'drop', height: 0.2, stagger: 0.1, spread: 0, tumble: 0, bounce: 0, friction: 0.6, seed: 1 },
  ...{ away: 0.6, direction: 90, flight: 0.4, frequency: 1.5, damping: 0.4, home: 0 },
  rate: { num: 24, den: 1 },
};
const body = (id: string, mesh: Mesh, at: Vec3): Body => ({
  ...{ id, matrix: moved(...at) },
  parts: [{ mesh, density: 900 }],
});
/** Four walls and a floor, in one mesh. */
function bowl(): Mesh {
  const wall = (size: Vec3, at: Vec3): Mesh => {
    const mesh = block(size);
    const positions = mesh.positions.map((v, i) => v + at[i % 3]);
    return { ...mesh, positions };
  };
  return mergeMeshes([
    wall([0.3, 0.02, 0.3], [0, 0, 0]),
    ...([-1, 1] as const).flatMap((s) => [
      wall([0.02, 0.12, 0.3], [0.14 * s, 0.02, 0]),
      wall([0.26, 0.12, 0.02], [0, 0.02, 0.14 * s]),
    ]),
  ]);
}

describe('bodies: ways to come in', () => {
  before(() => engine.init());

  it('thrown things fly the arc that ends at their place', () => {
    const { frames } = runBodies(engine, [body('a', ball(0.03), [0, 0.03, 0])], [], {
      ...SETTINGS,
      ...{ way: 'throw', height: 0 },
    });
    const poses = frames.get('a')!;
    expect(poses[0].position[0]).closeTo(0.6, 1e-6);
    // In the middle of the flight it is half the way there, and as high as a throw of that time goes.
    const middle = (0.4 / 2) * 24;
    const [a, b] = [poses[Math.floor(middle)].position, poses[Math.ceil(middle)].position];
    const at = a.map((v, i) => v + (b[i] - v) * (middle % 1));
    expect(at[0]).closeTo(0.3, 0.004);
    expect(at[1] - 0.03).closeTo((9.81 * 0.4 * 0.4) / 8, 0.012);
  });

  it('what is poured comes in over the middle of all places, one after the other', () => {
    const two = [body('a', ball(0.03), [-0.2, 0.03, 0]), body('b', ball(0.03), [0.2, 0.03, 0])];
    const { frames } = runBodies(engine, two, [], { ...SETTINGS, way: 'pour' });
    const starts = ['a', 'b'].map((id) => frames.get(id)![0].position);
    for (const [x, , z] of starts) expect([x, z]).deep.equal([0, 0]);
    expect(starts[1][1] - starts[0][1]).closeTo(0.1, 1e-6);
  });

  it('what hangs from a spring swings down and comes to rest at its place', () => {
    const hung = { ...SETTINGS, way: 'hang' as const, spread: 0.05, height: 0.25 };
    const { frames, rests } = runBodies(engine, [body('a', ball(0.03), [0.1, 0.4, 0])], [], hung);
    const poses = frames.get('a')!;
    const far = (p: { position: Vec3 }): number => Math.abs(p.position[0] - 0.1) + Math.abs(p.position[2]);
    expect(far(poses[0])).above(0.005);
    expect(rests).within(5, 239);
    poses[rests].position.forEach((v, a) => expect(v).closeTo([0.1, 0.4, 0][a], 0.006));
  });

  it('hung tilted from a soft spring it rights itself, and still ends at its place', () => {
    const hung = { ...SETTINGS, way: 'hang' as const, tumble: 60, height: 0.1, frequency: 0.8, damping: 0.6 };
    const { frames, rests } = runBodies(engine, [body('a', block([0.06, 0.2, 0.06]), [0, 0.5, 0])], [], hung);
    const poses = frames.get('a')!;
    const upright = ({ rotation: [x, , z] }: { rotation: readonly number[] }): number => 1 - 2 * (x * x + z * z);
    expect(upright(poses[0])).below(0.97);
    expect(upright(poses[rests])).above(0.998);
    poses[rests].position.forEach((v, a) => expect(v).closeTo([0, 0.5, 0][a], 0.01));
  });

  it('drawn home, they end just where they were put, however they fell', () => {
    const many = [0, 1, 2].map((n) => body(`b${n}`, block([0.06, 0.06, 0.06]), [n * 0.1 - 0.1, 0, 0]));
    const { frames, rests } = runBodies(engine, many, [], { ...SETTINGS, tumble: 120, spread: 0.1, home: 0.75 });
    many.forEach(({ id, matrix }) => {
      const poses = frames.get(id)!;
      expect(poses).length(rests + 1);
      const { position, rotation } = poses[rests];
      position.forEach((v, a) => expect(v).closeTo(matrix[12 + a], 1e-6));
      expect(Math.abs(rotation[3])).closeTo(1, 1e-6);
      // The last steps are small: nothing jumps there.
      const before = poses[rests - 1].position;
      position.forEach((v, a) => expect(Math.abs(v - before[a])).below(0.004));
    });
  });

  it('a bowl is hollow to what falls into it, and to what it is when it falls itself', () => {
    const sweet = body('sweet', ball(0.03), [0, 0.05, 0]);
    const standing = runBodies(engine, [sweet], [body('bowl', bowl(), [0, 0, 0])], SETTINGS);
    expect(standing.frames.get('sweet')!.at(-1)!.position[1]).closeTo(0.05, 0.006);
    // The bowl falls first; as a hull it would carry the sweet on its rim.
    const both = runBodies(engine, [body('bowl', bowl(), [0, 0, 0]), sweet], [], {
      ...SETTINGS,
      height: 0.02,
      stagger: 0.3,
    });
    expect(both.frames.get('sweet')!.at(-1)!.position[1]).below(0.075);
  });

  it('a carton of open panels that falls straight stands where it stood', () => {
    const carton = builtDocument('Box', newBuilder('carton'));
    const meshes = builtMeshes(modelKey(carton))!;
    const set = newSet('Studio');
    set.products = [nextProduct(set, 'box', { id: 'p', name: 'Box' }, [0, 0], '')];
    const context = { products: new Map([['p', carton]]), meshes: () => meshes, aspect: 16 / 9 };
    const shot = newShot('Shot', 'set', set.cameras[0].id, 24);
    const { falling, still } = bodiesOf(compile(set, shot), 0, context, ['box']);
    const { frames } = runBodies(engine, falling, still, { ...SETTINGS, bounce: 0.25, height: 0.25 });
    const { position, rotation } = frames.get('box')!.at(-1)!;
    expect(position[1]).closeTo(0, 0.002);
    expect(Math.abs(rotation[3])).closeTo(1, 0.001);
  });

  it('what moves by keys pushes what stands in its way', () => {
    const pusher: Body = {
      ...body('pusher', block([0.1, 0.1, 0.1]), [-0.4, 0, 0]),
      matrixAt: (frame): Mat4 => moved(-0.4 + Math.min(frame, 24) * 0.02, 0, 0),
    };
    const { frames } = runBodies(engine, [body('a', block([0.06, 0.06, 0.06]), [0, 0, 0])], [pusher], {
      ...SETTINGS,
      ...{ height: 0, least: 40 },
    });
    const [x] = frames.get('a')!.at(-1)!.position;
    // The pusher ends with its face at 0.13; the block is 0.03 from its middle to its side.
    expect(x).within(0.155, 0.4);
  });
});

describe('bodies: hinges', () => {
  before(() => engine.init());
  const lidded = (): Body => ({
    id: 'box',
    matrix: moved(0, 0, 0),
    parts: [
      { mesh: block([0.2, 0.1, 0.2]), part: 0, density: 900 },
      { mesh: lidMesh(), part: 1, density: 900 },
    ],
  });
  const lidMesh = (): Mesh => {
    const mesh = block([0.2, 0.01, 0.2]);
    return { ...mesh, positions: mesh.positions.map((v, i) => (i % 3 === 1 ? v + 0.101 : v)) };
  };

  it('a lid that stands open falls shut, and no further than it may', () => {
    const box = lidded();
    const hinge = hingeAt(box, 'back', [1], { from: 0, to: 110, start: 80 })!;
    const { hinges } = runBodies(engine, [], [box], SETTINGS, [hinge]);
    expect(hinges[0][0]).closeTo(80, 1e-3);
    expect(hinges[0].at(-1)).closeTo(0, 1);
    hinges[0].forEach((angle) => expect(angle).within(-3, 113));
  });

  it('held open by its limit it stays there', () => {
    const box = lidded();
    const hinge = hingeAt(box, 'left', [1], { from: 30, to: 110, start: 70 })!;
    const { hinges } = runBodies(engine, [], [box], SETTINGS, [hinge]);
    expect(hinges[0].at(-1)).closeTo(30, 1.5);
  });

  it('keys turn the parts about the same line the same way, at every side', () => {
    const product = builtDocument('Box', newBuilder('carton'));
    const products = new Map<string, ProductDocument>([['p', product]]);
    const meshes = builtMeshes(modelKey(product))!;
    const context = { products, meshes: () => meshes, aspect: 16 / 9 };
    const set = newSet('Studio');
    set.products = [nextProduct(set, 'box', { id: 'p', name: 'Box' }, [0, 0], '')];
    const shot = { ...newShot('Shot', 'set', set.cameras[0].id, 24) };
    const [one] = bodiesOf(compile(set, shot), 0, context, ['box']).falling;
    const part = product.parts[0].index;
    for (const side of HINGE_SIDES) {
      const { point, axis } = hingeAt(one, side, [part], { from: 0, to: 90, start: 40 })!;
      const tracks = hingeTracks([{ thing: 'box', parts: [part], side, angles: [40, 40] }], 1, 0, shot);
      const keyed = matterAt(compile(set, { ...shot, tracks }), 0, context).instances[0];
      const place = keyed.parts.find(({ index }) => index === part)!.place!.matrix;
      // The line itself stays, and a point inside the box goes up.
      transformPoint(place, point).forEach((v, a) => expect(v, side).closeTo(point[a], 1e-6));
      const along = point.map((v, a) => v + axis[a]) as Vec3;
      transformPoint(place, along).forEach((v, a) => expect(v, side).closeTo(along[a], 1e-5));
      const middle = boundsCentre(boundsOf([one.parts.find((p) => p.part === part)!.mesh]));
      const inside: Vec3 = [2 * middle[0] - point[0], point[1], 2 * middle[2] - point[2]];
      expect(transformPoint(place, inside)[1], side).above(inside[1] + 1e-4);
    }
  });
});

describe('bodies: what moves on a set', () => {
  it('goes on from the frame at which they begin', () => {
    const jar = builtDocument('Jar', TURNED_PRESETS.jar);
    const products = new Map<string, ProductDocument>([['p', jar]]);
    const context = { products, meshes: () => builtMeshes(modelKey(jar))!, aspect: 16 / 9 };
    const set = newSet('Studio');
    set.products = ['a', 'b'].map((id) => nextProduct(set, id, { id: 'p', name: id }, [0, 0], ''));
    const shot: ShotDocument = {
      ...newShot('Shot', 'set', set.cameras[0].id, 48),
      tracks: [{ thing: 'a', path: 'position.0', keys: keysOf([0, 0], [40, 0.4]) }],
    };
    const { falling, still } = bodiesOf(compile(set, shot), 10, context, ['b']);
    expect(falling.map(({ id }) => id)).deep.equal(['b']);
    const pusher = still.find(({ id }) => id === 'a')!;
    expect(pusher.matrix[12]).closeTo(0.1, 1e-6);
    expect(pusher.matrixAt!(10)[12]).closeTo(0.2, 1e-6);
  });

  it('volumes of meshes are what they are, wherever they lie', () => {
    expect(closedVolume(block([0.2, 0.3, 0.4]))).closeTo(0.024, 1e-6);
    const far = block([0.1, 0.1, 0.1]);
    const matrix = multiply(moved(3, -2, 5), moved(0, 0, 0));
    const positions = Float32Array.from(far.positions);
    for (let i = 0; i < positions.length; i += 3)
      positions.set(transformPoint(matrix, [positions[i], positions[i + 1], positions[i + 2]]), i);
    expect(closedVolume({ ...far, positions })).closeTo(0.001, 1e-5);
    // Without one of its faces it holds nothing that could be counted.
    expect(closedVolume({ ...far, indices: far.indices.slice(3) })).equal(null);
  });
});
