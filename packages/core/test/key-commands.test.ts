import { expect } from 'chai';
import {
  addPath,
  changePath,
  copyMotion,
  mirrorKeys,
  movedThings,
  movePathPoint,
  moveRule,
  newRecipe,
  nextKey,
  pastedAt,
  pasteKeys,
  removeMotion,
  removePath,
  removeRule,
  retimeKeys,
  retimeShot,
  reverseKeys,
  runCommand,
  stretchKeys,
  takeKeys,
  validateDocument,
  type Command,
  type Key,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { keysOf, movesSet, movesShot, ruleOf, thingAt } from './moves-scene.ts';
import { suggestPath } from '@tender-orbit/core/staging';

const at = (frame: number, path = 'turn', thing = 'a') => ({ thing, path, frame });
const shot = (): ShotDocument =>
  movesShot({
    tracks: [
      { thing: 'a', path: 'turn', keys: keysOf([0, 10], [8, 30], [20, 90]) },
      { thing: 'a', path: 'visible', keys: [{ frame: 4, value: true, ease: 'hold' }] },
      { thing: 'b', path: 'turn', keys: keysOf([5, 1]) },
    ],
  });
const after = (command: Command<ShotDocument>, from = shot()): ShotDocument => {
  const made = runCommand(from, command);
  expect(validateDocument('shot', JSON.parse(JSON.stringify(made)))).deep.equal(made);
  return made;
};
const turns = (made: ShotDocument, thing = 'a'): Array<[number, unknown]> =>
  made.tracks.find((t) => t.thing === thing && t.path === 'turn')!.keys.map((k) => [k.frame, k.value]);

describe('keys in hand', () => {
  it('are copied as they are and pasted at a frame; those that are there give way, others stay', () => {
    const clip = takeKeys(shot(), [at(8), at(20), at(4, 'visible')]);
    expect(clip.length).equal(16);
    const made = after(pasteKeys(clip, 16));
    expect(turns(made)).deep.equal([
      [0, 10],
      [8, 30],
      [20, 30],
      [32, 90],
    ]);
    expect(pastedAt(clip, 16)).deep.include.members([at(32), at(16, 'visible')]);
  });

  it('are stretched about a frame, and retimed by a map', () => {
    expect(turns(after(stretchKeys([at(0), at(8), at(20)], 0, 1.5))).map(([f]) => f)).deep.equal([0, 12, 30]);
    const beats = new Map([
      [8, 12],
      [20, 24],
    ]);
    expect(turns(after(retimeKeys([at(8), at(20)], beats, 'Fit'))).map(([f]) => f)).deep.equal([0, 12, 24]);
  });

  it('run backwards in the same time, their eases turned round', () => {
    const eased = shot();
    eased.tracks[0].keys[0].ease = { kind: 'soft', start: 1, landing: 0.2 };
    eased.tracks[0].keys[1].ease = { kind: 'bezier', out: [0.2, 0.1], in: [0.7, 0.9] };
    const { keys } = after(reverseKeys([at(0), at(8), at(20)]), eased).tracks.find((t) => t.path === 'turn')!;
    expect(keys.map((k) => [k.frame, k.value])).deep.equal([
      [0, 90],
      [12, 30],
      [20, 10],
    ]);
    const [first, second] = keys.map((k: Key) => k.ease as unknown as { in: number[]; start: number; landing: number });
    expect(first.in.map((v) => Number(v.toFixed(9)))).deep.equal([0.8, 0.9]);
    expect([second.start, second.landing]).deep.equal([0.2, 1]);
  });

  it('are mirrored about the first of their thread; what is no number stays', () => {
    const made = after(mirrorKeys([at(0), at(8), at(4, 'visible')]));
    expect(turns(made)).deep.equal([
      [0, 10],
      [8, -10],
      [20, 90],
    ]);
  });

  it('motion goes to other things by property, and is taken from many', () => {
    const copied = after(copyMotion('a', ['b', 'c'], ['turn']));
    expect([turns(copied, 'b'), turns(copied, 'c')]).deep.equal([turns(shot()), turns(shot())]);
    expect(copied.tracks.some((t) => t.thing === 'c' && t.path === 'visible')).equal(false);
    expect(after(removeMotion(['a', 'b'], ['turn'])).tracks.map((t) => t.path)).deep.equal(['visible']);
  });

  it('the next one is found both ways, of all things or of some', () => {
    expect([nextKey(shot(), 4, 1), nextKey(shot(), 4, -1), nextKey(shot(), 5, 1, ['b'])]).deep.equal([5, 0, null]);
    expect(nextKey(shot(), 8, 1, ['a'])).equal(20);
  });
});

describe('another frame rate', () => {
  it('keeps the time of keys, rules and recipes, and comes back', () => {
    const set = movesSet();
    const wave = ruleOf('b', 'position.1', { kind: 'wave', period: 24, amount: 0.1, axes: [1, 1, 1], phase: 0 });
    const full = movesShot({
      tracks: [
        { thing: 'a', path: 'turn', keys: keysOf([0, 10], [9, 30], [20, 90]) },
        { thing: wave.id, path: 'period', keys: keysOf([0, 24], [40, 12]) },
      ],
      rules: [wave],
      recipes: [newRecipe('r', 'pop-in', { start: 5, length: 13, things: ['c', 'a'] })],
    });
    const quick = after(retimeShot(25 / 24), full);
    expect(quick.length).equal(50);
    for (const frame of [3, 12, 31.5]) {
      const [was, now] = ['a', 'b', 'c']
        .map((id) => [thingAt(set, full, id, frame), thingAt(set, quick, id, (frame * 25) / 24)])
        .reduce(
          ([w, n], [one, two]) => [
            [...w, one],
            [...n, two],
          ],
          [[], []] as [object[], object[]],
        );
      was.forEach((thing, i) => {
        const [one, two] = [thing, now[i]] as Array<{ turn: number; scale: number; position: number[] }>;
        expect(two.turn).closeTo(one.turn, 1e-2);
        expect(two.scale).closeTo(one.scale, 1e-3);
        expect(two.position[1]).closeTo(one.position[1], 1e-4);
      });
    }
    expect(after(retimeShot(24 / 25), quick).tracks.map((t) => t.keys.map((k) => k.frame))).deep.equal(
      full.tracks.map((t) => t.keys.map((k) => k.frame)),
    );
  });
});

describe('rules, paths and recipes of a shot', () => {
  const orbit = ruleOf('a', '', { kind: 'roll', radius: 0.03 });

  it('rules change places among those of their thing alone', () => {
    const rules = [orbit, ruleOf('b', '', { kind: 'shortest' }), ruleOf('a', '', { kind: 'shortest' })];
    const made = after(moveRule('shortest-of-a', -1), movesShot({ rules }));
    expect(made.rules.filter((r) => r.thing === 'a').map((r) => r.kind)).deep.equal(['shortest', 'roll']);
    expect(after(moveRule('shortest-of-a', 1), movesShot({ rules })).rules.map((r) => r.id)).deep.equal(
      rules.map((r) => r.id),
    );
  });

  it('a rule goes with its own keys, a path with what rides on it', () => {
    const ride = ruleOf('b', '', { kind: 'ride', target: 'way', progress: 0, orient: false, bank: 0 });
    const way = suggestPath('way', movesSet(), movesShot(), 'b');
    const full = movesShot({
      rules: [ride, orbit],
      tracks: [{ thing: ride.id, path: 'progress', keys: keysOf([0, 0], [9, 1]) }],
    });
    const drawn = after(addPath(way), full);
    const bent = after(movePathPoint('way', 'way-1', [1, 0, 2]), drawn);
    expect(bent.paths[0].points.map((p) => p.at)).deep.equal([way.points[0].at, [1, 0, 2], way.points[2].at]);
    expect(after(changePath('way', { closed: true }), bent).paths[0].closed).equal(true);
    expect(after(removeRule(ride.id), drawn).tracks).deep.equal([]);
    const gone = after(removePath('way'), drawn);
    expect([gone.paths.length, gone.rules.map((r) => r.kind), gone.tracks.length]).deep.equal([0, ['roll'], 0]);
  });

  it('a path with one point and a number that is none are refused in words', () => {
    const way = { ...suggestPath('way', movesSet(), movesShot(), 'b') };
    const one = movesShot({ paths: [{ ...way, points: way.points.slice(0, 1) }] });
    expect(() => validateDocument('shot', one)).throw(/needs two points/);
    const nan = movesShot({ rules: [{ ...orbit, radius: NaN } as typeof orbit] });
    expect(() => validateDocument('shot', nan)).throw(/Radius must be a number/);
    const strange = { ...orbit, kind: 'teleport' } as unknown as typeof orbit;
    expect(() => validateDocument('shot', movesShot({ rules: [strange] }))).throw(/Rule must be one of/);
  });

  it('what moves in a shot is told by its keys, rules and recipes that act', () => {
    const recipe = newRecipe('r', 'pop-in', { start: 0, length: 10, things: ['c'] });
    const full = { ...shot(), rules: [ruleOf('hero', '', { kind: 'shortest' })], recipes: [recipe] };
    expect(movedThings(full)).have.members(['a', 'b', 'c', 'hero']);
    expect(movedThings({ ...full, recipes: [{ ...recipe, muted: true }] })).not.include('c');
    // Keys of a layer or of a path's points move no thing of the set.
    const keys = [{ frame: 0, value: 1, ease: 'linear' as const }];
    const more = {
      ...full,
      layers: [{ id: 'glow' } as never],
      paths: [suggestPath('way', movesSet(), full, 'b')],
      tracks: [...full.tracks, ...['glow', 'way'].map((thing) => ({ thing, path: 'x', keys }))],
    };
    expect(movedThings(more)).have.members(['a', 'b', 'c', 'hero']);
  });
});
