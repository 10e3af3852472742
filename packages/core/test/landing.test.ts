import { expect } from 'chai';
import {
  landing,
  landMoves,
  newPromo,
  newRecipe,
  newTitle,
  openDocument,
  retimePromo,
  runCommand,
  validateDocument,
  type Clip,
  type Point,
} from '@tender-orbit/core/document';
import { curveOfPath } from '@tender-orbit/core/motion';
import { framesPlayed, placedClips } from '@tender-orbit/core/promo';
import { pathOfStroke } from '@tender-orbit/core/staging';
import { keysOf, movesShot } from './moves-scene.ts';

const beats = (first: number, every: number): number[] => Array.from({ length: 12 }, (_, i) => first + i * every);

describe('landing on the beats again', () => {
  it('finds the smallest shift that brings most onto beats, and puts what is close on one', () => {
    const to = landing([7, 19, 31, 44], beats(0, 12));
    // All were five frames early; the last one lay a frame off.
    expect([7, 19, 31, 44].map(to)).deep.equal([12, 24, 36, 48]);
    // What lies between beats keeps its distance.
    expect(to(25)).equal(30);
    expect(landing([5], [])(5)).equal(5);
  });

  it('moves keys and recipes; what begins with the shot or lasts to its end stays', () => {
    const shot = movesShot({
      tracks: [{ thing: 'a', path: 'turn', keys: keysOf([0, 0], [14, 90], [26, 0], [47, 10]) }],
      recipes: [
        newRecipe('in', 'pop-in', { start: 14, length: 10, things: ['a', 'b'], at: [0, 12] }),
        newRecipe('all', 'turntable', { start: 0, length: 48, things: ['c'] }),
      ],
    });
    const landed = runCommand(shot, landMoves(beats(4, 12)));
    expect(landed.tracks[0].keys.map((k) => k.frame)).deep.equal([0, 16, 28, 47]);
    expect(landed.recipes[0]).include({ start: 16 });
    expect(landed.recipes[0].at).deep.equal([0, 12]);
    expect(landed.recipes[1]).include({ start: 0, length: 48 });
  });
});

describe('a promo at another frame rate', () => {
  const clip = (values: Partial<Clip> = {}): Clip => ({ id: 'a', take: 't', start: 10, length: 48, ...values });
  const title = newTitle('t', {
    ...{ start: 12, length: 24, arrive: { kind: 'fade', frames: 6 }, leave: { kind: 'fade', frames: 3 } },
    parts: { part: 'word', order: 'forward', overlap: 0, seed: 1, times: [0, 5] },
  });

  it('shows the same of each take in the same time, and titles keep theirs', () => {
    const ramp = clip({ id: 'b', pace: { from: 0.5, to: 2, reverse: true, between: 'blend' } });
    const promo = openDocument({ ...newPromo('Launch', 320, 180), clips: [clip(), ramp], titles: [title] });
    const quick = runCommand(promo, retimePromo(2));
    validateDocument('promo', quick);
    expect(quick.clips.map((c) => c.length)).deep.equal([96, 96]);
    quick.clips.forEach((c, i) => expect(framesPlayed(c)).closeTo(framesPlayed(promo.clips[i]), 1e-9));
    expect(quick.titles[0]).include({ start: 24, length: 48 });
    expect(quick.titles[0].arrive.frames).equal(12);
    expect(quick.titles[0].parts!.times).deep.equal([0, 10]);
    expect(runCommand(quick, retimePromo(0.5))).deep.equal(promo);
  });
});

describe('a promo at a rate that does not divide', () => {
  it('cuts stay where they were in time, however many clips lie before them', () => {
    const clips = Array.from({ length: 9 }, (_, i): Clip => ({ id: `c${i}`, take: 't', start: 0, length: 15 }));
    const promo = openDocument({ ...newPromo('Launch', 320, 180), clips });
    const other = runCommand(promo, retimePromo(25 / 24));
    placedClips(other).forEach(({ from }, i) => expect(from).equal(Math.round((i * 15 * 25) / 24)));
    // Chosen back it is the very same again.
    expect(runCommand(other, retimePromo(24 / 25))).deep.equal(promo);
  });

  it('no pace becomes faster than a clip can play', () => {
    const pace = { from: 90, to: 100, reverse: false, between: 'nearest' } as const;
    const promo = openDocument({
      ...newPromo('Launch', 320, 180),
      clips: [{ id: 'c', take: 't', start: 0, length: 60, pace }],
    });
    validateDocument('promo', runCommand(promo, retimePromo(0.4)));
  });
});

describe('a path drawn by hand', () => {
  const circle = (noise: number): Point[] =>
    Array.from({ length: 200 }, (_, i) => {
      const angle = (i / 199) * Math.PI * 2;
      const r = 0.3 + noise * Math.sin(i * 2.3);
      return [r * Math.cos(angle), 0, r * Math.sin(angle)];
    });

  it('closes where it ends as it began, has few points, and lies where it was drawn', () => {
    const path = pathOfStroke(circle(0), 0, { id: 'p', name: 'Path' })!;
    expect(path.closed).equal(true);
    expect(path.points.length).within(8, 40);
    for (const [x, , z] of curveOfPath(path).points(60)) expect(Math.hypot(x, z)).closeTo(0.3, 0.006);
  });

  it('loses its tremble by smoothing, not its shape; open ends stay', () => {
    const rough = pathOfStroke(circle(0.012), 0, { id: 'p', name: 'Path' })!;
    const even = pathOfStroke(circle(0.012), 0.4, { id: 'p', name: 'Path' })!;
    const off = (path: typeof even): number =>
      Math.max(
        ...curveOfPath(path)
          .points(100)
          .map(([x, , z]) => Math.abs(Math.hypot(x, z) - 0.3)),
      );
    expect(off(even)).below(off(rough) * 0.6);
    expect(even.points.length).below(rough.points.length);
    const arc = circle(0.01).slice(0, 90);
    const open = pathOfStroke(arc, 1, { id: 'p', name: 'Path' })!;
    expect(open.closed).equal(false);
    arc[0].forEach((v, axis) => expect(open.points[0].at[axis]).closeTo(v, 1e-4));
    arc[89].forEach((v, axis) => expect(open.points.at(-1)!.at[axis]).closeTo(v, 1e-4));
    validateDocument('shot', movesShot({ paths: [open] }));
  });

  it('a stroke that goes nowhere is none', () => {
    expect(pathOfStroke([[0, 0, 0]], 0, { id: 'p', name: 'Path' })).equal(null);
    expect(
      pathOfStroke(
        [
          [0, 0, 0],
          [0, 0, 0],
        ],
        0,
        { id: 'p', name: 'Path' },
      ),
    ).equal(null);
  });
});
