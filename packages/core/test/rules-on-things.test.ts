import { expect } from 'chai';
import {
  applyRecipe,
  beginOtherMoves,
  chooseMoves,
  movesName,
  newNull,
  newRecipe,
  retimeShot,
  runCommand,
  switchMoves,
  validateDocument,
  migrate,
  type MovePath,
  type SetDocument,
  type SetNull,
} from '@tender-orbit/core/document';
import { aimMatrix, multiply, placementMatrix, transformPoint, type Vec3 } from '@tender-orbit/core/geometry';
import { cameraAt, distance, keysOf, movesSet, movesShot, ruleOf, thingAt } from './moves-scene.ts';

const JAR_MOVES = [
  { thing: 'a', path: 'position.0', keys: keysOf([0, -0.2], [10, 0.1]) },
  { thing: 'a', path: 'turn', keys: keysOf([0, 0], [10, 720]) },
  { thing: 'a', path: 'scale', keys: keysOf([0, 1], [10, 2]) },
];

describe('rules that copy a motion', () => {
  const mimic = { kind: 'mimic', target: 'a', frames: 4, turn: 90, times: 0.5, random: 0, seed: 1 } as const;

  it('goes where its leader goes, later, turned and scaled, from its own place; full turns are kept', () => {
    const set = movesSet();
    const shot = movesShot({ tracks: JAR_MOVES, rules: [ruleOf('b', '', mimic)] });
    for (const frame of [0, 4, 7, 14, 30]) {
      const [leader, copy] = [thingAt(set, shot, 'a', frame - 4), thingAt(set, shot, 'b', frame)];
      const gone = leader.position[0] + 0.2;
      // A quarter turn about the vertical takes +X to -Z.
      expect(distance(copy.position, [0, 0, -gone])).below(1e-12);
      expect(copy.turn).closeTo(leader.turn + 90, 1e-9);
      expect(copy.scale).closeTo(leader.scale * 0.5, 1e-12);
    }
    expect(thingAt(set, shot, 'b', 20).turn).equal(810);
  });

  it('what is random is the same at every frame, differs by seed, and grows with its share', () => {
    const set = movesSet();
    const turned = (random: number, seed: number, frame: number): number => {
      const shot = movesShot({ rules: [ruleOf('b', '', { ...mimic, turn: 0, random, seed })] });
      return thingAt(set, shot, 'b', frame).turn;
    };
    expect(turned(0.5, 3, 0)).equal(turned(0.5, 3, 20));
    expect(turned(0.5, 3, 0)).not.equal(turned(0.5, 4, 0));
    expect(turned(1, 3, 0)).closeTo(turned(0.5, 3, 0) * 2, 1e-9);
    expect(Math.abs(turned(1, 3, 0))).most(180);
  });

  it('a recipe lays it on every copy, each a step further', () => {
    const set = movesSet();
    const recipe = newRecipe('r', 'copies', {
      ...{ start: 0, length: 48, things: ['a', 'b', 'c'] },
      options: { apart: 3, turned: 20, times: 0.5 },
    });
    const shot = runCommand(movesShot({ tracks: JAR_MOVES }), applyRecipe(recipe));
    const leader = thingAt(set, shot, 'a', 5);
    for (const [id, step] of [
      ['b', 1],
      ['c', 2],
    ] as const) {
      const copy = thingAt(set, shot, id, 5 + step * 3);
      expect(copy.turn).closeTo(leader.turn + step * 20, 1e-9);
      expect(copy.scale).closeTo(leader.scale * 0.5 ** step, 1e-12);
    }
  });
});

describe('aim at parts, roll and the order of turns', () => {
  it('a camera looks at a part wherever its product turns and the part is lifted', () => {
    const set = movesSet();
    const lid: Vec3 = [0.01, 0.1, 0.02];
    const aim = { kind: 'aim', target: 'b', offset: lid, part: '3', roll: 12 } as const;
    const shot = movesShot({
      rules: [ruleOf('hero', '', aim)],
      tracks: [
        { thing: 'b', path: 'turn', keys: keysOf([0, 0], [10, 90]) },
        { thing: 'b', path: 'own.parts.3-4.shift.1', keys: keysOf([0, 0], [10, 0.05]) },
        { thing: 'b', path: 'own.parts.7.shift.1', keys: keysOf([0, 0], [10, 9]) },
      ],
    });
    expect(distance(cameraAt(set, shot, 0).aim, lid)).below(1e-12);
    const there = transformPoint(placementMatrix([0, 0, 0], 90, 0, 0, 1), [lid[0], lid[1] + 0.05, lid[2]]);
    expect(distance(cameraAt(set, shot, 10).aim, there)).below(1e-12);
    expect(cameraAt(set, shot, 10).roll).equal(12);
  });

  it('a camera that rolls keeps its line of sight and turns its picture about it', () => {
    const [eye, target]: [Vec3, Vec3] = [
      [0.3, 0.5, 1],
      [0, 0.1, 0],
    ];
    const [level, rolled] = [aimMatrix(eye, target), aimMatrix(eye, target, 30)];
    expect(rolled.slice(8)).deep.equal(level.slice(8));
    const dot = (column: number): number =>
      [0, 1, 2].reduce((sum, i) => sum + level[column * 4 + i] * rolled[column * 4 + i], 0);
    expect(dot(0)).closeTo(Math.cos(Math.PI / 6), 1e-12);
    expect(dot(1)).closeTo(Math.cos(Math.PI / 6), 1e-12);
    // Tipped to its left its own right goes up.
    expect(rolled[1]).greaterThan(level[1]);
  });

  it('turns can be put together in any order', () => {
    const set = movesSet();
    Object.assign(set.products[1], { turn: 30, tilt: 40, roll: 50 });
    const about = {
      turn: placementMatrix([0, 0, 0], 30, 0, 0, 1),
      tilt: placementMatrix([0, 0, 0], 0, 40, 0, 1),
      roll: placementMatrix([0, 0, 0], 0, 0, 50, 1),
    };
    for (const sequence of ['turn, tilt, roll', 'roll, tilt, turn', 'tilt, roll, turn'] as const) {
      const { turn, tilt, roll } = thingAt(
        set,
        movesShot({ rules: [ruleOf('b', '', { kind: 'turn-order', sequence })] }),
        'b',
        0,
      );
      const [first, second, third] = sequence.split(', ') as Array<keyof typeof about>;
      const wanted = multiply(multiply(about[first], about[second]), about[third]);
      placementMatrix([0, 0, 0], turn, tilt, roll, 1).forEach((v, i) => expect(v).closeTo(wanted[i], 1e-12));
    }
  });
});

describe('nulls and paths that move', () => {
  it('a null is the pivot of what it carries', () => {
    const set: SetDocument = { ...movesSet(), nulls: [newNull('pivot', 'Pivot', [0.2, 0, 0])] };
    const shot = movesShot({
      rules: ['a', 'b'].map((id) => ruleOf(id, '', { kind: 'parent', target: 'pivot', start: 0, end: 48 })),
      tracks: [
        { thing: 'pivot', path: 'turn', keys: keysOf([0, 0], [10, 180]) },
        { thing: 'pivot', path: 'scale', keys: keysOf([0, 1], [10, 2]) },
      ],
    });
    expect(thingAt(set, shot, 'a', 0).position).deep.equal([-0.2, 0, 0]);
    expect(distance(thingAt(set, shot, 'a', 10).position, [1, 0, 0])).below(1e-12);
    expect(distance(thingAt(set, shot, 'b', 10).position, [0.6, 0, 0])).below(1e-12);
    expect(thingAt(set, shot, 'b', 10).scale).closeTo(2, 1e-12);
    expect(thingAt<SetNull>(set, shot, 'pivot', 10).turn).equal(180);
    validateDocument('set', set);
  });

  it('points of a path can be keyed: what rides goes along the path as it is then', () => {
    const way: MovePath = {
      ...{ id: 'way', name: 'Way', closed: false },
      points: [
        { id: 'p0', at: [0, 0, 0], handles: null },
        { id: 'p1', at: [1, 0, 0], handles: null },
      ],
    };
    const shot = movesShot({
      paths: [way],
      rules: [ruleOf('b', '', { kind: 'ride', target: 'way', progress: 0.5, orient: true, bank: 0 })],
      tracks: [
        { thing: 'way', path: 'points.p1.at.1', keys: keysOf([0, 0], [10, 1]) },
        { thing: 'way', path: 'points.gone.at.1', keys: keysOf([0, 0], [10, 9]) },
      ],
    });
    const at = (frame: number): Vec3 => thingAt(movesSet(), shot, 'b', frame).position;
    expect(distance(at(0), [0.5, 0, 0])).below(1e-9);
    expect(distance(at(5), [0.5, 0.25, 0])).below(1e-9);
    expect(distance(at(10), [0.5, 0.5, 0])).below(1e-9);
    expect(thingAt(movesSet(), shot, 'b', 10).tilt).closeTo(-45, 1e-6);
  });
});

describe('two versions of the moves', () => {
  const first = movesShot({
    tracks: [...JAR_MOVES, { thing: 'grain', path: 'opacity', keys: keysOf([0, 0], [10, 1]) }],
    layers: [{ id: 'grain' } as never],
  });

  it('begins alike, is changed apart and switched back and forth; the composite stays', () => {
    const two = runCommand(first, beginOtherMoves());
    expect(movesName(two)).equal('B');
    const changed = { ...two, tracks: two.tracks.filter((t) => t.path !== 'turn') };
    const back = runCommand(changed, switchMoves());
    expect(movesName(back)).equal('A');
    expect(back.tracks.map((t) => t.path).sort()).deep.equal(['opacity', 'position.0', 'scale', 'turn']);
    const forth = runCommand(back, switchMoves());
    expect(forth.tracks.map((t) => t.path).sort()).deep.equal(['opacity', 'position.0', 'scale']);
    const kept = runCommand(forth, chooseMoves());
    expect(kept.other).equal(null);
    expect(kept.tracks).deep.equal(forth.tracks);
  });

  it('both keep their time when the frame rate changes', () => {
    const timed = runCommand(runCommand({ ...first, layers: [] }, beginOtherMoves()), retimeShot(2));
    expect(timed.tracks[0].keys[1].frame).equal(20);
    expect(timed.other!.tracks[0].keys[1].frame).equal(20);
  });

  it('shots and sets of before get what is new: one version, level cameras, no nulls', () => {
    const { other: _other, ...old } = movesShot();
    const aim = { ...ruleOf('hero', '', { kind: 'aim', target: 'b', offset: [0, 0, 0] } as never) };
    const shot = migrate('shot', { ...old, version: 5, rules: [aim] });
    expect(shot.other).equal(null);
    expect(shot.rules[0]).include({ part: '', roll: 0 });
    const set = movesSet();
    const { nulls: _nulls, ...rest } = set;
    const { roll: _roll, ...camera } = set.cameras[0];
    const stored = migrate('set', { ...rest, version: 5, cameras: [camera] });
    expect(stored.cameras[0].roll).equal(0);
    expect(stored.nulls).deep.equal([]);
  });
});
