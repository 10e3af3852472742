import { expect } from 'chai';
import {
  newEmitter,
  newShot,
  newSet,
  newSmoke,
  plainItem,
  runCommand,
  setEmitters,
  validateDocument,
  type ProductDocument,
  type SetDocument,
  type ShotDocument,
  type SmokeEffect,
} from '@tender-orbit/core/document';
import { buildCard, identity, type Mesh } from '@tender-orbit/core/geometry';
import { builtDocument, builtMeshes, modelKey, TURNED_PRESETS } from '@tender-orbit/core/product';
import { compile, evaluate, playedFrame, type Slot } from '@tender-orbit/core/scene';
import {
  addDistance,
  addMovedDistance,
  checkDomain,
  costOf,
  densityBetween,
  domainOf,
  FAR,
  fieldOf,
  lightSmoke,
  packSmoke,
  readSmoke,
  SmokeRun,
  writeSmoke,
} from '@tender-orbit/core/simulate';
import { placeSmokeKit, SMOKE_KITS, subjectOf } from '@tender-orbit/core/staging';
import { keysOf } from './moves-scene.ts';
import { kernel } from './smoke-box.ts';
import { ball, block, moved } from './studio.ts';

const RATE = { num: 24, den: 1 };
const jar = builtDocument('Jar', TURNED_PRESETS.jar);
const products = new Map<string, ProductDocument>([['jar', jar]]);
const meshes = builtMeshes(modelKey(jar))!;
const context = { products, meshes: () => meshes as readonly Mesh[], aspect: 16 / 9 };

const HOST = { kernel, state: () => undefined };
/** A source beside the jar. */
const beside = newEmitter('source', 'Source', { position: [0.12, 0.06, 0] });

function setWith(values: Partial<SmokeEffect> = {}): SetDocument {
  const set = newSet('Studio');
  set.products = [{ ...plainItem(), id: 'jar', name: 'Jar', product: 'jar', position: [0, 0, 0] }];
  const small = { coarse: 0.03, normal: 0.02, fine: 0.01 };
  set.effects = [
    newSmoke('smoke', 'Smoke', { width: 0.48, height: 0.48, depth: 0.48, cells: small, emitters: [beside], ...values }),
  ];
  return set;
}
const shotOf = (values: Partial<ShotDocument> = {}): ShotDocument => ({
  ...newShot('Shot', 'set', 'hero', 16),
  ...values,
});
const runOf = (set: SetDocument, shot: ShotDocument): SmokeRun => {
  const program = compile(set, shot);
  return new SmokeRun(program, program.effects[0] as Slot<SmokeEffect>, context, 'coarse', RATE);
};
const keysIn = (run: SmokeRun): string[] => Array.from({ length: run.frames }, (_, f) => run.key(f));

describe('smoke: documents', () => {
  it('a set with smoke is sound, is told from one with too much, and its emitters are changed by a command', () => {
    const set = setWith();
    expect(validateDocument('set', JSON.parse(JSON.stringify(set)))).deep.equal(set);
    const more = runCommand(set, setEmitters('smoke', [newEmitter('a', 'A'), newEmitter('b', 'B')], 'Add'));
    expect((more.effects[0] as SmokeEffect).emitters.map(({ id }) => id)).deep.equal(['a', 'b']);
    expect(() => validateDocument('set', { ...set, effects: [{ ...set.effects[0], lift: 1e9 }] })).throw(
      /Rises by heat/,
    );
  });

  it('every kit makes sound smoke that suits the size of what it is made for', () => {
    for (const kit of SMOKE_KITS) {
      const set = setWith();
      const made = placeSmokeKit(kit, set, subjectOf(set, products, set.cameras[0]), 'kit');
      const whole = { ...set, effects: [made] };
      expect(validateDocument('set', JSON.parse(JSON.stringify(whole))), kit).deep.equal(whole);
      for (const level of ['coarse', 'normal', 'fine'] as const) {
        const { cells } = costOf(checkDomain(made, level));
        expect(cells, `${kit} ${level}`).within(2000, 3_000_000);
      }
    }
  });
});

describe('smoke: domains', () => {
  it('cells are cubes, whole eights of them, and the floor stays where it is', () => {
    const effect = setWith({ position: [0.1, 0.05, 0] }).effects[0] as SmokeEffect;
    const { size, cell, origin } = domainOf(effect, 'fine');
    expect(size).deep.equal([48, 48, 48]);
    expect(cell).equal(0.01);
    expect(origin[1]).equal(0.05);
    expect(origin[0] + (size[0] * cell) / 2).closeTo(0.1, 1e-12);
  });

  it('ten metres by the millimetre are refused with what they would take', () => {
    const huge = setWith({ width: 10, height: 10, depth: 10, cells: { coarse: 0.1, normal: 0.05, fine: 0.001 } });
    const effect = huge.effects[0] as SmokeEffect;
    expect(() => checkDomain(effect, 'fine')).throw(/1000000 million cells and \d+ GB/);
    expect(costOf(checkDomain(effect, 'coarse')).cells).equal(104 * 104 * 104);
  });
});

describe('smoke: distances', () => {
  const grid = {
    size: [32, 32, 32] as [number, number, number],
    cell: 0.05,
    origin: [-0.8, -0.8, -0.8] as [number, number, number],
  };
  const place = (n: number): [number, number, number] =>
    [n % 32, Math.floor(n / 32) % 32, Math.floor(n / 1024)].map((v) => (v + 0.5) * 0.05 - 0.8) as [
      number,
      number,
      number,
    ];

  it('from a ball they are what they are, negative inside', () => {
    const field = fieldOf(grid, FAR);
    addDistance(field, ball(0.5), identity());
    field.values.forEach((d, n) => {
      const real = (Math.hypot(...place(n)) - 0.5) / 0.05;
      // The ball is made of flat triangles.
      if (Math.abs(real) < FAR - 0.1) expect(d).closeTo(real, 0.12);
      else expect(Math.sign(d)).equal(Math.sign(real));
    });
  });

  it('of what is moved they are the same as made anew', () => {
    const matrix = moved(0.13, -0.07, 0.021);
    const [anew, kept] = [fieldOf(grid, FAR), fieldOf(grid, FAR)];
    addDistance(anew, block([0.5, 0.7, 0.3]), matrix);
    addMovedDistance(kept, block([0.5, 0.7, 0.3]), matrix);
    anew.values.forEach((d, n) => {
      if (Math.abs(d) < 1) expect(kept.values[n], `${place(n)}`).closeTo(d, 0.35);
      else expect(Math.sign(kept.values[n])).equal(Math.sign(d));
    });
  });

  it('an open sheet has no inside', () => {
    const field = fieldOf(grid, FAR);
    addDistance(field, buildCard(1, 1), identity());
    expect(Math.min(...field.values)).at.least(0);
  });
});

describe('smoke: keys', () => {
  it('are the same for the same settings, and do not ask how the smoke looks or is played', () => {
    const keys = keysIn(runOf(setWith(), shotOf()));
    const playback = { backwards: true, speed: 2, offset: 5, loop: true };
    const look = setWith({ colour: '#FF0000', thickness: 1, name: 'Other', playback, level: 'fine' });
    expect(keysIn(runOf(look, shotOf()))).deep.equal(keys);
    expect(new Set(keys).size).equal(keys.length);
  });

  it('do not ask what an emitter is called or what keeps its place in the list, but what it gives off', () => {
    const { emitters } = setWith().effects[0] as SmokeEffect;
    const keys = keysIn(runOf(setWith(), shotOf()));
    const named = emitters.map((e, n) => ({ ...e, name: 'Other', order: `a${n}` }));
    expect(keysIn(runOf(setWith({ emitters: named }), shotOf()))).deep.equal(keys);
    const more = emitters.map((e) => ({ ...e, rate: e.rate + 1 }));
    expect(keysIn(runOf(setWith({ emitters: more }), shotOf()))).not.deep.equal(keys);
  });

  it('a change at a frame keeps the frames before it', () => {
    const before = keysIn(runOf(setWith(), shotOf()));
    const change = (...keys: Array<[number, number]>): string[] =>
      keysIn(runOf(setWith(), shotOf({ tracks: [{ thing: 'smoke', path: 'lift', keys: keysOf(...keys) }] })));
    const rises = change([9, 2], [10, -4]);
    expect(rises.slice(0, 10)).deep.equal(before.slice(0, 10));
    expect(rises[10]).not.equal(before[10]);
    expect(rises[15]).not.equal(before[15]);
  });

  it('what moves through the smoke counts, from the frame in which it moves', () => {
    const still = keysIn(runOf(setWith(), shotOf()));
    const across = shotOf({ tracks: [{ thing: 'jar', path: 'position.0', keys: keysOf([8, 0], [15, 0.1]) }] });
    const moving = keysIn(runOf(setWith(), across));
    expect(moving.slice(0, 9)).deep.equal(still.slice(0, 9));
    expect(moving[9]).not.equal(still[9]);
    // Far outside the domain nothing of it matters.
    const away = setWith({ position: [3, 0, 0] });
    expect(keysIn(runOf(away, across))).deep.equal(keysIn(runOf(away, shotOf())));
  });
});

describe('smoke: frames', () => {
  const run = runOf(setWith(), shotOf());
  run.begin(HOST);
  while (run.frame < 12) run.next();
  const frame = run.result();

  it('a source gives off smoke that rises and stays out of the jar', () => {
    expect(frame.most).above(0.5);
    const [nx, ny, nz] = frame.size;
    let [sum, high] = [0, 0];
    for (let k = 0; k < nz; k++)
      for (let j = 0; j < ny; j++)
        for (let i = 0; i < nx; i++) {
          const d = frame.density[(k * ny + j) * nx + i];
          sum += d;
          high = d > 0 ? Math.max(high, j) : high;
        }
    expect(sum).above(0);
    expect(high).above(3);
  });

  it('goes to bytes and back', () => {
    expect(readSmoke(writeSmoke(frame))).deep.equal({
      ...frame,
      cell: Math.fround(frame.cell),
      most: Math.fround(frame.most),
      origin: frame.origin.map(Math.fround),
      heat: { ...frame.heat, most: Math.fround(frame.heat!.most) },
      motion: { ...frame.motion, most: Math.fround(frame.motion!.most) },
      flow: { ...frame.flow, most: Math.fround(frame.flow!.most), share: frame.flow!.share },
    });
    const bytes = writeSmoke(frame);
    expect(() => readSmoke(bytes.subarray(0, bytes.length - 2))).throw(/not whole/);
    expect(() => readSmoke(bytes.with(4, 99))).throw(/another version/);
    expect(() => readSmoke(new Uint8Array(100))).throw(/no frame of smoke/);
  });

  it('between two frames density is between theirs', () => {
    const grid = {
      size: [2, 1, 1] as [number, number, number],
      cell: 1,
      origin: [0, 0, 0] as [number, number, number],
    };
    const [a, b] = [packSmoke(grid, Float32Array.of(1, 0)), packSmoke(grid, Float32Array.of(0, 3))];
    expect([...densityBetween(a, b, 0.25)].map((v) => Number(v.toFixed(4)))).deep.equal([0.75, 0.75]);
    expect([...packSmoke(grid, new Float32Array(2)).density]).deep.equal([0, 0]);
  });

  it('an emitter outside the domain gives nothing, one on a thing gives along its skin', () => {
    const total = (values: Partial<SmokeEffect>): number => {
      const other = runOf(setWith(values), shotOf());
      other.begin(HOST);
      while (other.frame < 3) other.next();
      return other.result().density.reduce((sum, d) => sum + d, 0);
    };
    expect(total({ emitters: [newEmitter('e', 'E', { position: [9, 0, 0] })] })).equal(0);
    expect(total({ emitters: [newEmitter('e', 'E', { shape: 'thing', thing: 'jar' })] })).above(0);
    expect(total({ emitters: [newEmitter('e', 'E', { shape: 'thing', thing: 'gone' })] })).equal(0);
    expect(total({ emitters: [] })).equal(0);
  });

  it('a thing that fills the whole domain leaves no room, and nothing breaks', () => {
    const inside = setWith({
      width: 0.02,
      height: 0.02,
      depth: 0.02,
      position: [0, 0.02, 0],
      cells: { coarse: 0.001, normal: 0.001, fine: 0.001 },
    });
    inside.products[0].scale = 40;
    const other = runOf(inside, shotOf());
    other.begin(HOST);
    while (other.frame < 3) other.next();
    expect(other.result().density.every(Number.isFinite)).equal(true);
  });
});

describe('smoke: playing', () => {
  const effect = (values: Partial<SmokeEffect>): SmokeEffect => newSmoke('s', 'S', values);
  const playback = { backwards: false, speed: 1, offset: 0, loop: false };
  it('forwards, later, slower, backwards and over and over', () => {
    const at = (values: Partial<typeof playback>, start = 0): Array<number | null> =>
      [0, 5, 9].map((frame) => playedFrame(effect({ start, playback: { ...playback, ...values } }), frame, 10));
    expect(at({})).deep.equal([0, 5, 9]);
    expect(at({}, -4)).deep.equal([4, 9, 13]);
    expect(at({}, 6)).deep.equal([null, null, 3]);
    expect(at({ offset: 3 })).deep.equal([null, 2, 6]);
    expect(at({ speed: 0.5 })).deep.equal([0, 2.5, 4.5]);
    expect(at({ speed: 2 })).deep.equal([0, 9, 9]);
    expect(at({ backwards: true })).deep.equal([9, 4, 0]);
    expect(at({ speed: 2, loop: true })).deep.equal([0, 0, 8]);
  });

  it('a tableau has the smoke that is there, and none that is not', () => {
    const program = compile(setWith({ thickness: 50, colour: '#808080', albedo: 0.5 }), shotOf());
    const smoke = {
      kind: 'smoke' as const,
      size: [2, 2, 2] as [number, number, number],
      cell: 0.24,
      origin: [-0.24, 0, -0.24] as [number, number, number],
      density: new Float32Array(8).fill(1),
    };
    const seen = evaluate(program, 3, {
      ...context,
      simulated: (id, at) => (id === 'smoke' && at === 3 ? smoke : undefined),
    });
    expect(seen.volumes).length(1);
    expect(seen.volumes[0]).include({ extinction: 50 });
    expect(seen.volumes[0].colour[0]).closeTo(0.5 * 0.2158, 1e-3);
    expect(evaluate(program, 4, { ...context, simulated: () => undefined }).volumes).deep.equal([]);
    const lit = lightSmoke(seen.volumes[0], seen);
    expect(lit.most).above(0);
    expect(Math.max(...lit.light)).equal(255);
  });
});
