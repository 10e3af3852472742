import { expect } from 'chai';
import fc from 'fast-check';
import {
  newBlock,
  newCamera,
  newSet,
  newShot,
  plainItem,
  type Key,
  type SetDocument,
  type ShotDocument,
  type Track,
} from '@tender-orbit/core/document';
import { boundsOf, buildBox, buildTurned, mergeMeshes, placementMatrix, supportOf } from '@tender-orbit/core/geometry';
import { compileMoves, poseSet } from '@tender-orbit/core/motion';
import type { PropertyValue } from '@tender-orbit/core/properties';
import { builtDocument, builtMeshes, modelKey, newBuilder, TURNED_PRESETS } from '@tender-orbit/core/product';
import { compile, evaluate, evaluateMotion, frameSpace, type EvaluateContext } from '@tender-orbit/core/scene';

const jar = builtDocument('Jar', TURNED_PRESETS.jar);
const carton = builtDocument('Carton', newBuilder('carton'));
const meshes = new Map([jar, carton].map((p) => [modelKey(p), builtMeshes(modelKey(p))!]));
const context: EvaluateContext = {
  products: new Map([
    ['jar', jar],
    ['carton', carton],
  ]),
  meshes: (model) => meshes.get(model),
  aspect: 1.5,
};

function scene(): SetDocument {
  const set = newSet('Studio');
  const item = (id: string, product: string, x: number, values: object = {}): SetDocument['products'][number] => ({
    ...plainItem(),
    ...{ id, name: id, product, position: [x, 0, 0] },
    ...values,
  });
  set.products = [
    item('top', 'jar', 0.3, { standsOn: 'box' }),
    item('still', 'jar', 0),
    item('box', 'carton', 0.3, { standsOn: 'plinth' }),
  ];
  set.surfaces.push(newBlock('plinth', 'plinth', { position: [0.3, 0, 0] }));
  return set;
}

const keys = <V extends PropertyValue>(values: readonly V[], ease: Key['ease'] = 'linear'): Array<Key<V>> =>
  values.map((value, i) => ({ frame: i * 10, value, ease }));
const track = (thing: string, path: string, values: readonly PropertyValue[], ease?: Key['ease']): Track => ({
  ...{ thing, path },
  keys: keys(values, ease),
});
const shot = (...tracks: Track[]): ShotDocument => ({ ...newShot('Shot', 'set', 'hero', 21), tracks });

describe('scene: properties of every type move', () => {
  const at = (frame: number, ...tracks: Track[]): SetDocument => poseSet(compileMoves(scene(), shot(...tracks)), frame);

  it('numbers are clamped and rounded as their property says', () => {
    const set = at(
      5,
      track('hero', 'blades', [0, 7]),
      track('key', 'lumens', [-400, 100]),
      track('hero', 'fNumber', [2, 3]),
    );
    expect(set.cameras[0].blades).equal(4);
    expect(set.lights[0].lumens).equal(0);
    expect(set.cameras[0].fNumber).equal(2.5);
    expect(at(2, track('hero', 'blades', [0, 7])).cameras[0].blades).equal(0);
  });

  it('colours are blended in linear light', () => {
    const grey = at(5, track('sweep', 'colour', ['#000000', '#FFFFFF'])).surfaces[0].colour;
    // Half of white's light is sRGB 188.
    expect(grey).equal('#BCBCBC');
  });

  it('switches and choices hold until the next key', () => {
    const tracks = [track('still', 'visible', [true, false]), track('key', 'shape', ['disc', 'sphere'])];
    const before = at(9.99, ...tracks);
    const then = at(10, ...tracks);
    expect([before.products[1].visible, before.lights[0].shape]).deep.equal([true, 'disc']);
    expect([then.products[1].visible, then.lights[0].shape]).deep.equal([false, 'sphere']);
  });

  it('whole places move as one', () => {
    const set = at(
      5,
      track('key', 'position', [
        [0, 1, 0],
        [2, 1, -4],
      ]),
    );
    expect(set.lights[0].position).deep.equal([1, 1, -2]);
  });

  it('items of lists are reached by id', () => {
    const set = scene();
    set.environment.room.boxes.push({
      ...{ id: 'box', azimuth: 0, elevation: 10, width: 40, height: 20, brightness: 4, kelvin: 5000, softness: 0.2 },
    });
    const moved = poseSet(compileMoves(set, shot(track('environment', 'room.boxes.box.azimuth', [0, 90]))), 5);
    expect(moved.environment.room.boxes[0].azimuth).equal(45);
    expect(set.environment.room.boxes[0].azimuth).equal(0);
  });

  it('keys of another type than the property are passed over', () => {
    const tracks = [track('key', 'lumens', ['#FFFFFF']), track('sweep', 'colour', [4]), track('key', 'on', ['yes'])];
    expect(at(0, ...tracks)).deep.equal(scene());
  });

  it('what does not move is the same object as in the set', () => {
    const set = scene();
    const moved = poseSet(compileMoves(set, shot(track('still', 'turn', [0, 90]))), 5);
    expect(moved.lights).equal(set.lights);
    expect(moved.products[0]).equal(set.products[0]);
    expect(moved.products[1].rayVisibility).equal(set.products[1].rayVisibility);
    expect(moved.products[1].turn).equal(45);
  });
});

describe('scene: a compiled shot', () => {
  it('gives the same tableau in any order of frames, whatever was evaluated before', () => {
    const set = scene();
    const moves = shot(
      track('box', 'tilt', [0, 40, 10], 'eased'),
      track('plinth', 'height', [0.05, 0.2]),
      track('key', 'kelvin', [3000, 6000]),
      track('sweep', 'roughness', [0, 1]),
      track('hero', 'focalLength', [50, 100]),
    );
    const fresh = (frame: number): unknown =>
      evaluateMotion(compile(JSON.parse(JSON.stringify(set)) as SetDocument, structuredClone(moves)), frame, context);
    const program = compile(set, moves);
    for (const frame of [20, 0, 7, 7, 13.5, 0])
      expect(evaluateMotion(program, frame, context)).deep.equal(fresh(frame));
  });

  it('keeps what stands still as the same objects from frame to frame', () => {
    const program = compile(scene(), shot(track('still', 'turn', [0, 90])));
    const [a, b] = [evaluate(program, 3, context), evaluate(program, 4, context)];
    expect(a.lights.every((l, i) => l === b.lights[i])).equal(true);
    expect(a.surfaces.every((s, i) => s === b.surfaces[i])).equal(true);
    expect(a.instances.map((t, i) => t === b.instances[i])).deep.equal([false, true, true]);
    expect(a.instances[0].parts).equal(b.instances[0].parts);
  });

  it('keeps a finish the same object while only its thing moves', () => {
    const program = compile(scene(), shot(track('plinth', 'position.0', [0, 1])));
    const [a, b] = [evaluate(program, 3, context), evaluate(program, 4, context)];
    expect(a.surfaces[1].matrix).not.deep.equal(b.surfaces[1].matrix);
    expect(a.surfaces[1].finish).equal(b.surfaces[1].finish);
  });

  it('an edit of one key compiles one track again and takes the rest over', () => {
    const set = scene();
    const first = shot(track('box', 'turn', [0, 90]), track('top', 'turn', [0, 45]));
    const before = compileMoves(set, first);
    const after = compileMoves(set, { ...first, tracks: [first.tracks[0], track('top', 'turn', [0, 60])] });
    expect(after.posers.get('box')).equal(before.posers.get('box'));
    expect(after.posers.get('top')).not.equal(before.posers.get('top'));
    expect(compileMoves(set, first)).equal(before);
  });

  it('things that stand on moving things move with them; things at rest have no motion', () => {
    const program = compile(scene(), shot(track('plinth', 'height', [0, 0.4])));
    const tableau = evaluateMotion(program, 5, context);
    const of = (id: string) => tableau.instances.find((i) => i.id === id)!;
    for (const id of ['box', 'top']) {
      expect(of(id).matrix[13] - of(id).before![13], id).closeTo(0.04, 1e-9);
      expect(of(id).close![13] - of(id).matrix[13], id).closeTo(0.02, 1e-9);
    }
    expect(of('still')).not.have.any.keys('close', 'before');
    expect(tableau.camera.close).equal(undefined);
  });

  it('motion is the difference of two evaluations', () => {
    const set = { ...scene(), cameras: [newCamera('hero', 'Hero', { shutter: 360 })] };
    const program = compile(
      set,
      shot(track('box', 'tilt', [0, 60]), track('key', 'position.1', [1, 2]), track('hero', 'position.0', [0, 1])),
    );
    const now = evaluateMotion(program, 5, context);
    const [close, before] = [evaluate(program, 6, context), evaluate(program, 4, context)];
    for (const list of ['instances', 'lights'] as const)
      now[list].forEach((thing, i) => {
        if (thing.close) expect(thing.close).deep.equal(close[list][i].matrix);
        if (thing.before) expect(thing.before).deep.equal(before[list][i].matrix);
      });
    expect(now.instances.filter((i) => i.close).map((i) => i.id)).deep.equal(['box', 'top']);
    expect(now.camera.close).deep.equal(close.camera.matrix);
  });

  it('between two frames, in slow motion, the shutter is open for its share of the shorter step', () => {
    const set = { ...scene(), cameras: [newCamera('hero', 'Hero', { shutter: 180 })] };
    const program = compile(set, shot(track('box', 'tilt', [0, 60]), track('hero', 'position.0', [0, 1])));
    const now = evaluateMotion(program, 5.25, context, { next: 0.5, last: 0.25 });
    const [open, close, before] = [5.25, 5.5, 5].map((at) => evaluate(program, at, context));
    const box = (of: { instances: Array<{ id: string }> }) => of.instances.find((i) => i.id === 'box') as never;
    expect((box(now) as { matrix: unknown }).matrix).deep.equal((box(open) as { matrix: unknown }).matrix);
    expect((box(now) as { close: unknown }).close).deep.equal((box(close) as { matrix: unknown }).matrix);
    expect((box(now) as { before: unknown }).before).deep.equal((box(before) as { matrix: unknown }).matrix);
    expect(now.camera.close).deep.equal(close.camera.matrix);
    const space = frameSpace(program, 5.25, now, 0.5);
    expect([space.shutter, space.closing?.eye[0]]).deep.equal([0.25, close.camera.matrix[12]]);
  });
});

describe('scene: references to what is gone read as none', () => {
  it('a ground, a variant, a focus, a linked thing and a product that were deleted do no harm', () => {
    const set = scene();
    set.products[0].standsOn = 'nobody';
    set.products[0].variant = 'nobody';
    set.products[1].product = 'nobody';
    set.cameras[0].focusOn = 'nobody';
    set.lights[0].lightLinking = { mode: 'only', things: ['nobody'] };
    const tableau = evaluate(compile(set, shot(track('nobody', 'turn', [0, 1]))), 0, context);
    expect(tableau.instances.map((i) => i.id).sort()).deep.equal(['box', 'top']);
    const top = tableau.instances.find((i) => i.id === 'top')!;
    expect(
      boundsOf(
        top.parts.map((p) => meshes.get(modelKey(jar))![p.index]),
        top.matrix,
      ).min[1],
    ).closeTo(0, 1e-6);
    expect(tableau.camera.focusDistance).above(0.1);
  });

  it('things that stand on each other in a ring end on the floor', () => {
    const set = scene();
    set.products[0].standsOn = 'box';
    set.products[2].standsOn = 'top';
    const tableau = evaluate(compile(set, shot()), 0, context);
    for (const i of tableau.instances) expect(Number.isFinite(i.matrix[13])).equal(true);
  });
});

describe('geometry: how far a mesh reaches', () => {
  const bodies = [
    mergeMeshes(meshes.get(modelKey(jar))!),
    mergeMeshes([...buildBox({ size: [0.1, 0.2, 0.3], bevel: 0.01 }).panels]),
    buildTurned({
      profile: [
        [0, -1],
        [1, 0],
        [0, 1],
      ],
      segments: 48,
    }),
  ];

  it('is the same to the last bit as looking at every vertex, in any direction', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...bodies),
        fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -2, max: 2, noNaN: true }))),
        (mesh, [x, y, z]) => {
          const support = supportOf(mesh).lowest(x, y, z);
          let lowest = Infinity;
          const p = mesh.positions;
          for (let i = 0; i < p.length; i += 3) lowest = Math.min(lowest, x * p[i] + y * p[i + 1] + z * p[i + 2]);
          expect(support).equal(lowest);
        },
      ),
    );
  });

  it('is Infinity for a mesh of nothing, and takes points that all lie on each other', () => {
    expect(supportOf({ positions: new Float32Array(0) }).lowest(0, 1, 0)).equal(Infinity);
    expect(supportOf({ positions: new Float32Array(300).fill(2) }).lowest(0, 1, 0)).equal(2);
  });

  it('seats a tilted body on its lowest vertex', () => {
    const [mesh] = bodies;
    const matrix = placementMatrix([0, 0, 0], 20, 50, -35, 1.7);
    expect(supportOf(mesh).lowest(matrix[1], matrix[5], matrix[9])).closeTo(boundsOf([mesh], matrix).min[1], 1e-12);
  });
});
