import { expect } from 'chai';
import {
  changeLinkedEase,
  clearMoves,
  deleteKeys,
  easeKeys,
  linkEase,
  moveKeys,
  newSet,
  newShot,
  replaceTracks,
  runCommand,
  toggleKey,
  USUAL_EASES,
  validateDocument,
  type Command,
  type Ease,
  type EaseShape,
  type Key,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { compileMoves, easeFunction, NumberCurve, poseSet, resolveEase, springAt } from '@tender-orbit/core/motion';

const SHAPES = Object.values(USUAL_EASES);
const soft = (start: number, landing: number): EaseShape => ({ kind: 'soft', start, landing });
const H = 1e-6;
const speedAt = (f: (t: number) => number, t: number): number =>
  t < H ? (f(H) - f(0)) / H : t > 1 - H ? (f(1) - f(1 - H)) / H : (f(t + H) - f(t - H)) / (2 * H);
const times = Array.from({ length: 101 }, (_, i) => i / 100);

describe('eases: shapes', () => {
  for (const shape of [...SHAPES, soft(1, 0), soft(0, 1), soft(0.4, 0.7)])
    it(`${JSON.stringify(shape)} begins at its key and ends on the next`, () => {
      const f = easeFunction(shape);
      expect(f(0)).closeTo(0, 1e-12);
      expect(f(1)).closeTo(1, 1e-12);
      for (const t of times) expect(Number.isFinite(f(t))).equal(true);
    });

  it('soft: the speed at an end is exactly 0 at full strength, and that of a straight line at none', () => {
    for (const [start, landing] of [
      [1, 1],
      [1, 0],
      [0, 1],
      [1, 0.5],
      [0.5, 1],
    ]) {
      const f = easeFunction(soft(start, landing));
      if (start === 1) expect(speedAt(f, 0)).closeTo(0, 1e-5);
      if (landing === 1) expect(speedAt(f, 1)).closeTo(0, 1e-5);
    }
    const straight = easeFunction(soft(0, 0));
    for (const t of times) expect(straight(t)).closeTo(t, 1e-12);
    // One end alone is a parabola, both are the cubic that rests at either end.
    const [starts, lands, both] = [soft(1, 0), soft(0, 1), soft(1, 1)].map(easeFunction);
    for (const t of times) {
      expect(starts(t)).closeTo(t * t, 1e-12);
      expect(lands(t)).closeTo(t * (2 - t), 1e-12);
      expect(both(t)).closeTo(t * t * (3 - 2 * t), 1e-12);
    }
  });

  it('soft: never turns back and never goes beyond, whatever the strengths', () => {
    for (let i = 0; i <= 10; i++)
      for (let j = 0; j <= 10; j++) {
        const f = easeFunction(soft(i / 10, j / 10));
        for (let k = 1; k < times.length; k++) expect(f(times[k])).at.least(f(times[k - 1]) - 1e-12);
      }
  });

  it('overshoot: its peak lies beyond the key by just the amount, and it lands at rest', () => {
    for (const amount of [0, 0.02, 0.1, 0.5, 1]) {
      const f = easeFunction({ kind: 'overshoot', amount });
      const peak = Math.max(...Array.from({ length: 20001 }, (_, i) => f(i / 20000)));
      expect(peak).closeTo(1 + amount, 1e-6);
      expect(speedAt(f, 1)).closeTo(0, 1e-4);
    }
  });

  it('bounce: touches the key once more than it bounces, each height the kept share of the one before', () => {
    const kept = 0.4;
    const f = easeFunction({ kind: 'bounce', bounces: 3, kept });
    const fine = Array.from({ length: 40001 }, (_, i) => f(i / 40000));
    expect(Math.max(...fine)).at.most(1);
    const heights = fine.flatMap((v, i) =>
      i > 0 && i < fine.length - 1 && v < fine[i - 1] && v <= fine[i + 1] ? [1 - v] : [],
    );
    expect(heights).length(3);
    heights.forEach((height, i) => expect(height).closeTo(Math.pow(kept, i + 1), 1e-4));
    // Falling and bouncing have one acceleration.
    const bend = (t: number): number => (f(t + 1e-3) - 2 * f(t) + f(t - 1e-3)) / 1e-6;
    expect(bend(0.1)).closeTo(bend(0.55), 1e-3);
  });

  it('spring: solves its differential equation, from rest, for weak, critical and strong damping', () => {
    const h = 1e-4;
    for (const spring of [
      { mass: 1, stiffness: 200, damping: 6 },
      { mass: 0.5, stiffness: 200, damping: 20 },
      { mass: 2, stiffness: 50, damping: 40 },
      { mass: 1, stiffness: 100, damping: 20.0000001 },
    ]) {
      expect(springAt(spring, 0)).closeTo(0, 1e-12);
      expect((springAt(spring, h) - springAt(spring, 0)) / h).below(0.05);
      for (const t of [0.05, 0.2, 0.5, 0.9]) {
        const [a, b, c] = [springAt(spring, t - h), springAt(spring, t), springAt(spring, t + h)];
        const pull = spring.mass * ((a - 2 * b + c) / (h * h)) + spring.damping * ((c - a) / (2 * h));
        expect(pull + spring.stiffness * (b - 1)).closeTo(0, 2e-3);
      }
    }
  });

  it('steps: so many equal ones, each held', () => {
    const f = easeFunction({ kind: 'steps', count: 4 });
    expect([0, 0.249, 0.25, 0.5, 0.74, 0.75, 0.999, 1].map(f)).deep.equal([0, 0, 0.25, 0.5, 0.5, 0.75, 0.75, 1]);
    // Frames of a span are no exact shares of it.
    const hundred = easeFunction({ kind: 'steps', count: 100 });
    for (let i = 0; i < 100; i++) expect(hundred(i / 100)).closeTo(i / 100, 1e-12);
  });

  it('handles: a straight line on the diagonal, and the curve’s own points elsewhere', () => {
    const straight = easeFunction({ kind: 'bezier', out: [0.3, 0.3], in: [0.7, 0.7] });
    for (const t of times) expect(straight(t)).closeTo(t, 1e-9);
    const [x1, y1, x2, y2] = [0.9, -0.4, 0.1, 1.6];
    const f = easeFunction({ kind: 'bezier', out: [x1, y1], in: [x2, y2] });
    const point = (a: number, b: number, s: number): number =>
      3 * (1 - s) * (1 - s) * s * a + 3 * (1 - s) * s * s * b + s * s * s;
    for (const s of [0.1, 0.35, 0.5, 0.8]) expect(f(point(x1, x2, s))).closeTo(point(y1, y2, s), 1e-7);
  });
});

describe('eases: of keys', () => {
  const key = (frame: number, value: number, ease: Ease): Key<number> => ({ frame, value, ease });

  it('rule the span from their key to the next', () => {
    const curve = new NumberCurve([key(0, 10, soft(0, 1)), key(20, 30, 'linear'), key(40, 50, 'hold')]);
    expect(curve.at(10)).closeTo(10 + 20 * 0.75, 1e-12);
    expect(curve.at(30)).closeTo(40, 1e-12);
  });

  const shotOf = (): ShotDocument => ({
    ...newShot('S', 'set', 'hero', 48),
    tracks: [
      { thing: 'key', path: 'lumens', keys: [key(0, 100, 'eased'), key(20, 900, 'eased')] },
      { thing: 'key', path: 'position.1', keys: [key(0, 0.2, 'eased'), key(10, 0.6, 'eased')] },
    ],
  });
  const first = [
    { thing: 'key', path: 'lumens', frame: 0 },
    { thing: 'key', path: 'position.1', frame: 0 },
  ];

  it('that are linked change together, at once wherever they are evaluated', () => {
    const set = newSet('S');
    const linked = runCommand(shotOf(), linkEase(first, { id: 'e1', name: 'Pop', ease: soft(0, 1) }));
    expect(validateDocument('shot', linked)).deep.equal(linked);
    const lightAt = (shot: ShotDocument, frame: number) => poseSet(compileMoves(set, shot), frame).lights[0];
    expect(lightAt(linked, 10).lumens).closeTo(100 + 800 * 0.75, 1e-9);
    expect(lightAt(linked, 5).position[1]).closeTo(0.2 + 0.4 * 0.75, 1e-9);
    const changed = runCommand(linked, changeLinkedEase('e1', { ease: soft(1, 0) }));
    expect(changed.tracks).equal(linked.tracks);
    expect(lightAt(changed, 10).lumens).closeTo(100 + 800 * 0.25, 1e-9);
    expect(lightAt(linked, 10).lumens).closeTo(100 + 800 * 0.75, 1e-9);
  });

  it('linked ones go with the last key that has them, and a link to nothing eases as usual', () => {
    const linked = runCommand(shotOf(), linkEase(first, { id: 'e1', name: 'Pop', ease: soft(0, 1) }));
    const one = runCommand(linked, easeKeys([first[0]], 'linear'));
    expect(one.eases).length(1);
    expect(runCommand(one, easeKeys([first[1]], 'hold')).eases).deep.equal([]);
    expect(resolveEase({ kind: 'linked', id: 'gone' }, [])).equal('eased');
  });

  it('linked ones go whichever way their last key goes, and stay while another has them', () => {
    const linked = runCommand(shotOf(), linkEase(first, { id: 'e1', name: 'Pop', ease: soft(0, 1) }));
    const left = (...commands: Command<ShotDocument>[]): number => commands.reduce(runCommand, linked).eases.length;
    const lumens = { thing: 'key', path: 'lumens', keys: [key(0, 1, 'linear')] };
    const height = { thing: 'key', path: 'position.1', keys: [key(0, 1, 'linear')] };
    // A key that is run over gives way: here both that have the ease.
    const over = (path: string, frame: number) => moveKeys([{ thing: 'key', path, frame }], -frame);
    for (const [one, other] of [
      [deleteKeys([first[0]]), deleteKeys([first[1]])],
      [toggleKey(first[0], 1, 'lumens'), toggleKey(first[1], 1, 'height')],
      [over('lumens', 20), over('position.1', 10)],
      [replaceTracks('Recipe', [lumens]), replaceTracks('Recipe', [height])],
    ]) {
      expect(left(one)).equal(1);
      expect(left(one, other)).equal(0);
    }
    expect(left(clearMoves())).equal(0);
  });

  it('of a wrong kind or out of bounds are refused with what is wrong', () => {
    const withEase = (ease: unknown): object => {
      const shot = shotOf();
      return { ...shot, tracks: [{ ...shot.tracks[0], keys: [{ frame: 0, value: 1, ease }] }] };
    };
    for (const shape of SHAPES) expect(() => validateDocument('shot', withEase(shape))).not.throw();
    for (const [ease, words] of [
      [{ kind: 'soft', start: 2, landing: 0 }, /Soft start must be a number between 0 and 1/],
      [{ kind: 'spring', mass: 0, stiffness: 100, damping: 1 }, /Mass must be a number between 0.1 and 10/],
      [{ kind: 'bezier', out: [1.2, 0], in: [0.5, 1] }, /Handle must lie between its two keys/],
      [{ kind: 'bezier', out: [NaN, 0], in: [0.5, 1] }, /Handle/],
      [{ kind: 'wobble' }, /Ease/],
      ['wobbly', /Ease must be one of: eased, linear, hold/],
    ] as const)
      expect(() => validateDocument('shot', withEase(ease)), JSON.stringify(ease)).throw(words);
  });
});
