import { expect } from 'chai';
import {
  newCamera,
  newSet,
  newShot,
  plainItem,
  plainProduct,
  productFinishes,
  type Key,
  type ProductDocument,
  type SetDocument,
} from '@tender-orbit/core/document';
import { boundsOf, buildBox, buildTurned, transformMesh, type Mesh } from '@tender-orbit/core/geometry';
import { compileMoves, poseSet, sampleKeys } from '@tender-orbit/core/motion';
import { compile, evaluate } from '@tender-orbit/core/scene';
import { makeFinish } from '@tender-orbit/core/finish';

const key = (frame: number, value: number, ease: Key['ease'] = 'eased'): Key<number> => ({ frame, value, ease });

describe('motion: a track', () => {
  it('goes through its keys and stays before the first and after the last', () => {
    const keys = [key(10, 1), key(20, 5), key(35, 2, 'linear'), key(40, 8)];
    for (const k of keys) expect(sampleKeys(keys, k.frame)).equal(k.value);
    expect(sampleKeys(keys, -100)).equal(1);
    expect(sampleKeys(keys, 1e6)).equal(8);
  });

  it('is a straight line when linear and steps when held', () => {
    expect(sampleKeys([key(0, 0, 'linear'), key(10, 20)], 3.5)).closeTo(7, 1e-12);
    const held = [key(0, 4, 'hold'), key(10, 20)];
    expect(sampleKeys(held, 9.999)).equal(4);
    expect(sampleKeys(held, 10)).equal(20);
  });

  it('starts and ends a lone eased move with no speed and no acceleration', () => {
    const keys = [key(0, 0), key(100, 1)];
    const h = 1e-2;
    for (const [frame, side] of [
      [0, 1],
      [100, -1],
    ]) {
      const at = (n: number): number => sampleKeys(keys, frame + side * n * h);
      expect(Math.abs(at(1) - at(0)) / h).below(1e-6);
      expect(Math.abs(at(2) - 2 * at(1) + at(0)) / (h * h)).below(1e-4);
    }
    expect(sampleKeys(keys, 50)).closeTo(0.5, 1e-12);
  });

  it('flows through a middle key of a rising run, and never overshoots', () => {
    const keys = [key(0, 0), key(10, 1), key(20, 10), key(30, 10.5)];
    const speed = (sampleKeys(keys, 10.01) - sampleKeys(keys, 9.99)) / 0.02;
    expect(speed).above(0.01);
    let last = -Infinity;
    for (let f = 0; f <= 30; f += 0.05) {
      const v = sampleKeys(keys, f);
      expect(v).at.least(last - 1e-9);
      last = v;
    }
  });

  it('is continuous in value at every key', () => {
    const keys = [key(0, 3), key(7, -2), key(9, 4, 'linear'), key(16, 4), key(30, 1)];
    for (const k of keys.slice(1)) {
      expect(sampleKeys(keys, k.frame - 1e-6)).closeTo(k.value, 1e-4);
      expect(sampleKeys(keys, k.frame + 1e-6)).closeTo(k.value, 1e-4);
    }
  });
});

const MODEL = 'a'.repeat(64);
const meshes: Mesh[] = [
  buildTurned({
    profile: [
      [0, 0.01],
      [0.03, 0.013],
      [0.03, 0.09],
      [0, 0.1],
    ],
    segments: 24,
  }),
];
const product: ProductDocument = {
  ...plainProduct(),
  version: 3,
  name: 'Jar',
  fileName: 'jar.glb',
  source: MODEL,
  model: MODEL,
  scale: 1,
  extent: [0.06, 0.09, 0.06],
  parts: [{ index: 0, name: 'Body', finish: 'finish-1', triangles: 10, visible: true }],
  finishes: productFinishes([makeFinish('Glass')]),
};

function jarSet(values: Partial<SetDocument['products'][number]> = {}): SetDocument {
  return {
    ...newSet('Studio'),
    products: [
      {
        id: 'jar',
        name: 'Jar',
        product: 'p',
        ...plainItem(),
        position: [0, 0, 0],
        ...values,
      },
    ],
  };
}
const context = {
  products: new Map([['p', product]]),
  meshes: (m: string) => (m === MODEL ? meshes : undefined),
  aspect: 16 / 9,
};
const shot = newShot('Shot', 'set', 'hero', 48);

describe('motion: evaluate()', () => {
  it('seats a product on the floor to a micrometre, however it is turned, tilted and scaled', () => {
    for (const [turn, tilt, roll, scale] of [
      [0, 0, 0, 1],
      [33, 90, 0, 1],
      [10, 47, -21, 2.54],
      [181, -63, 12, 0.001],
    ]) {
      const world = { ...context, products: new Map([['p', { ...product, scale }]]) };
      const { instances } = evaluate(compile(jarSet({ turn, tilt, roll, position: [0.3, 0, -0.2] }), shot), 0, world);
      const box = boundsOf(instances[0].parts.map((p) => transformMesh(meshes[p.index], instances[0].matrix)));
      expect(Math.abs(box.min[1])).below(1e-6);
    }
  });

  it('adds the lift above the floor, and leaves an unseated product where it is', () => {
    const lifted = evaluate(compile(jarSet({ position: [0, 0.05, 0] }), shot), 0, context).instances[0];
    expect(boundsOf(meshes, lifted.matrix).min[1]).closeTo(0.05, 1e-6);
    const free = evaluate(compile(jarSet({ seated: false }), shot), 0, context).instances[0];
    expect(boundsOf(meshes, free.matrix).min[1]).closeTo(0.01, 1e-6);
  });

  it('leaves out what is hidden, switched off, or not loaded yet', () => {
    expect(evaluate(compile(jarSet({ visible: false }), shot), 0, context).instances).length(0);
    expect(evaluate(compile(jarSet(), shot), 0, { ...context, meshes: () => undefined }).instances).length(0);
    const set = jarSet();
    set.lights[0].on = false;
    set.surfaces[0].visible = false;
    const tableau = evaluate(compile(set, shot), 0, context);
    expect(tableau.lights.map((l) => l.id)).deep.equal(['fill', 'rim']);
    expect(tableau.surfaces).deep.equal([]);
  });

  it('gives the same tableau for the same inputs and does not touch the documents', () => {
    const set = jarSet();
    const moving = newShot('Shot', 'set', 'hero', 48);
    moving.tracks = [{ thing: 'jar', path: 'turn', keys: [key(0, 0, 'linear'), key(48, 360)] }];
    const before = JSON.stringify([set, moving]);
    expect(JSON.stringify(evaluate(compile(set, moving), 17.25, context))).equal(
      JSON.stringify(evaluate(compile(set, moving), 17.25, context)),
    );
    expect(JSON.stringify([set, moving])).equal(before);
  });

  it('says what to do when the camera of the shot is gone', () => {
    expect(() => evaluate(compile(jarSet(), { ...shot, camera: 'nowhere' }), 0, context)).throw(
      /choose another camera/,
    );
  });

  it('passes over tracks of things that are gone and of properties that are no numbers', () => {
    const odd = {
      ...shot,
      tracks: [
        { thing: 'ghost', path: 'turn', keys: [key(0, 1)] },
        { thing: 'jar', path: 'name', keys: [key(0, 1)] },
      ],
    };
    expect(poseSet(compileMoves(jarSet(), odd), 5)).deep.equal(jarSet());
  });

  it('focuses on the aim point until told otherwise', () => {
    const set = { ...jarSet(), cameras: [newCamera('hero', 'Hero', { position: [0, 0, 3], aim: [0, 0, 1] })] };
    expect(evaluate(compile(set, shot), 0, context).camera.focusDistance).closeTo(2, 1e-9);
    set.cameras[0].focus = 0.5;
    expect(evaluate(compile(set, shot), 0, context).camera.focusDistance).equal(0.5);
  });
});

describe('motion: a box', () => {
  it('that is tilted onto an edge is seated on that edge', () => {
    const { panels, edges } = buildBox({ size: [0.1, 0.2, 0.1], bevel: 0 });
    const box = {
      ...product,
      model: MODEL,
      parts: [{ index: 0, name: 'All', finish: 'finish-1', triangles: 1, visible: true }],
    };
    const whole = [...panels, edges];
    const world = {
      products: new Map([['p', { ...box, parts: whole.map((_, index) => ({ ...box.parts[0], index })) }]]),
      meshes: () => whole,
      aspect: 1,
    };
    const [instance] = evaluate(compile(jarSet({ tilt: 45 }), shot), 0, world).instances;
    const bounds = boundsOf(whole, instance.matrix);
    expect(bounds.min[1]).closeTo(0, 1e-6);
    // A 0.1 x 0.2 cross-section on its edge stands (0.1 + 0.2) / sqrt 2 high.
    expect(bounds.max[1]).closeTo(0.3 / Math.SQRT2, 1e-6);
  });
});
