import { expect } from 'chai';
import {
  bringMusic,
  changeMusic,
  newClipPicture,
  newPace,
  newPromo,
  recut,
  runCommand,
  setPart,
  splitClip,
  TRANSITIONS,
  validateDocument,
  type Clip,
  type ClipPicture,
  type Ease,
  type PromoDocument,
  type Track,
  type Transition,
  type TransitionKind,
} from '@tender-orbit/core/document';
import { makePicture, type Picture } from '@tender-orbit/core/picture';
import {
  assemble,
  framesPlayed,
  halvesOf,
  missingFrames,
  pictureSize,
  pictureAt,
  fromTo,
  shownAt,
  takeTime,
} from '@tender-orbit/core/promo';
import { coveringScale } from '@tender-orbit/core/composite';
import { plates } from './composite-box.ts';

const [WIDTH, HEIGHT] = [64, 36];
const clip = (id: string, take: string, length: number, values: Partial<Clip> = {}): Clip => ({
  ...{ id, take, start: 0, length },
  ...values,
});
const promo = (clips: Clip[], tracks: Track[] = []): PromoDocument => ({
  ...newPromo('Launch', WIDTH, HEIGHT),
  ...{ clips, tracks },
});
/** A cut of one clip whose picture goes from one place to another. */
function moving(
  id: string,
  take: string,
  length: number,
  way: Parameters<typeof fromTo> extends [number, ...infer R] ? R : never,
): PromoDocument {
  const { picture, keys } = fromTo(length, ...way);
  const tracks = Object.entries(keys).map(([path, own]): Track => ({ thing: id, path, keys: own }));
  return promo([clip(id, take, length, { picture: newClipPicture({ cover: false, ...picture }) })], tracks);
}
const into = (kind: TransitionKind, frames: number, values: Partial<Transition> = {}): Transition => ({
  ...{ kind, frames, angle: 0, softness: 0.2, colour: '#000000' },
  ...values,
});
const COLOURS: Record<string, [number, number, number]> = { red: [200, 0, 0], blue: [0, 0, 200] };
const nobody = { draw: () => null };
/** White on the left, a dark red on the right. */
function halves(): Picture {
  const picture = makePicture(WIDTH, HEIGHT, [80, 0, 0]);
  for (let i = 0; i < picture.data.length; i += 4) if ((i / 4) % WIDTH < WIDTH / 2) picture.data.fill(255, i, i + 3);
  return picture;
}
/** A frame of a cut of takes of one colour, which are 100 frames long. */
function frameOf(cut: PromoDocument, frame: number, picture?: Picture): Picture {
  const shown = shownAt(cut, frame, () => 100);
  return assemble(
    plates,
    cut,
    frame,
    shown,
    ({ take }) => picture ?? (take === 'halves' ? halves() : makePicture(WIDTH, HEIGHT, COLOURS[take])),
    nobody,
  );
}
const at = ({ data }: Picture, x: number, y: number): number[] => [
  ...data.slice((y * WIDTH + x) * 4, (y * WIDTH + x) * 4 + 3),
];

describe('promo: pace of clips', () => {
  const paced = (from: number, to: number, reverse = false): Clip =>
    clip('a', 't', 48, { start: 10, pace: { from, to, reverse, between: 'nearest' } });

  it('is the integral of a speed that changes evenly: in and out are the frames asked for', () => {
    const ramp = paced(2, 0.5);
    expect(takeTime(ramp, 0)).equal(10);
    expect(framesPlayed(ramp)).equal(60);
    expect(takeTime(ramp, 48)).closeTo(70, 1e-9);
    // Against the sum of very short steps.
    let sum = 10;
    for (let i = 0; i < 24000; i++) sum += (2 - (1.5 * (i + 0.5)) / 48000) / 1000;
    expect(takeTime(ramp, 24)).closeTo(sum, 1e-6);
    expect(takeTime(paced(1, 1), 17)).equal(27);
  });

  it('goes on as it is before the first frame and after the last, holds at 0, and plays the other way', () => {
    expect(takeTime(paced(2, 1), -3)).equal(4);
    expect(takeTime(paced(1, 3), 50)).closeTo(takeTime(paced(1, 3), 48) + 6, 1e-9);
    expect([0, 20, 47].map((f) => takeTime(paced(0, 0), f))).deep.equal([10, 10, 10]);
    expect([0, 1, 47].map((f) => takeTime(paced(1, 1, true), f))).deep.equal([57, 56, 10]);
  });

  it('between two frames either the nearest is shown, or both in the light that each has', () => {
    const half = (between: 'nearest' | 'blend'): Clip =>
      clip('a', 't', 8, { pace: { from: 0.5, to: 0.5, reverse: false, between } });
    const frames = (c: Clip, n: number) => shownAt(promo([c]), n, () => 100)!.clip.frames;
    expect(frames(half('nearest'), 2)).deep.equal([{ take: 't', frame: 1, weight: 1 }]);
    expect(frames(half('blend'), 3).map((f) => [f.frame, f.weight])).deep.equal([
      [1, 0.5],
      [2, 0.5],
    ]);
    const cut = promo([half('blend')]);
    const made = assemble(
      plates,
      cut,
      3,
      shownAt(cut, 3, () => 100),
      ({ frame }) => makePicture(WIDTH, HEIGHT, frame === 1 ? [255, 255, 255] : [0, 0, 0]),
      nobody,
    );
    // Half of white's light, not of its code.
    expect(at(made, 5, 5)).deep.equal([188, 188, 188]);
  });

  it('frames that a take does not have are told, transitions included', () => {
    const cut = promo([clip('a', 't', 90), clip('b', 't', 20, { start: 2, into: into('dissolve', 12) })]);
    expect(missingFrames(cut, 'a', 100)).deep.equal({ before: 0, after: 0 });
    expect(missingFrames(cut, 'a', 94)).deep.equal({ before: 0, after: 2 });
    expect(missingFrames(cut, 'b', 15)).deep.equal({ before: 4, after: 7 });
    expect(missingFrames(promo([paced(2, 2)]), 'a', 100)).deep.equal({ before: 0, after: 6 });
  });
});

describe('promo: splitting clips', () => {
  const times = (clips: Clip[]): number[] =>
    clips.flatMap((c) => Array.from({ length: c.length }, (_, f) => takeTime(c, f)));
  for (const reverse of [false, true])
    it(`the halves show what the whole showed${reverse ? ', backwards as well' : ''}`, () => {
      const pace = { from: 1.5, to: 0.5, reverse, between: 'nearest' as const };
      const whole = moving('a', 't', 40, [{ scale: 1 }, { scale: 1.08 }]);
      whole.clips[0] = { ...whole.clips[0], start: 6, pace, into: into('wipe', 4) };
      const [first, second] = halvesOf(whole.clips[0], 16);
      const split = runCommand(whole, splitClip('a', 16, 'b', second, first));
      expect(split.clips.map((c) => c.length)).deep.equal([16, 24]);
      expect(split.clips.map((c) => c.into?.kind)).deep.equal(['wipe', undefined]);
      // First frames are whole ones, so that half a frame may be between them.
      times(split.clips).forEach((time, f) => expect(time).closeTo(takeTime(whole.clips[0], f), reverse ? 1.01 : 0.51));
      const scale = (cut: PromoDocument, n: number, f: number): number =>
        pictureAt(cut.clips[n], cut, f, WIDTH / HEIGHT).scale;
      for (const f of [0, 9, 23]) expect(scale(split, 1, f)).closeTo(scale(whole, 0, 16 + f), 1e-9);
      expect(validateDocument('promo', { ...split, height: 64 }).tracks).length(2);
    });

  it('nothing is split at its ends, and parts of clips come and go by commands', () => {
    const one = { ...promo([clip('a', 't', 9)]), height: 64 };
    expect(runCommand(one, splitClip('a', 0, 'b', {}, {})).clips).length(1);
    expect(runCommand(one, splitClip('a', 9, 'b', {}, {})).clips).length(1);
    const paced = runCommand(one, setPart('a', 'Pace', 'pace', { ...newPace(), from: 2 }));
    expect(paced.clips[0].pace?.from).equal(2);
    expect('pace' in runCommand(paced, setPart('a', 'Natural', 'pace', null)).clips[0]).equal(false);
    expect(validateDocument('promo', paced)).deep.equal(paced);
    const fast = { ...paced, clips: [{ ...paced.clips[0], pace: { ...newPace(), from: 900 } }] };
    expect(() => validateDocument('promo', fast)).throw(/Speed at the start/);
    const heard = runCommand(one, bringMusic({ asset: 'a'.repeat(64), name: 'Heath' }));
    expect(validateDocument('promo', heard)).deep.equal(heard);
    const loud = runCommand(heard, changeMusic('Loudness', { loudness: -16, ring: 2 }));
    expect(validateDocument('promo', loud).music).include({ loudness: -16, ring: 2 });
    expect(runCommand(loud, changeMusic('As it is', { loudness: undefined })).music).not.property('loudness');
    const deaf = runCommand(heard, changeMusic('Loudness', { loudness: 3 }));
    expect(() => validateDocument('promo', deaf)).throw(/Loudness must be a number between -60 and 0/);
    expect(runCommand(one, recut([clip('x', 't', 3)])).clips.map((c) => c.id)).deep.equal(['x']);
  });
});

describe('promo: moves of clips', () => {
  it('the covering scale is the smallest: turned by 45 degrees, moved, and by a quarter', () => {
    const place = { x: 0, y: 0, scale: 1, rotation: 0 };
    expect(coveringScale(place, 16 / 9)).closeTo(1, 1e-12);
    expect(coveringScale({ ...place, rotation: 90 }, 16 / 9)).closeTo(16 / 9, 1e-9);
    expect(coveringScale({ ...place, rotation: 45 }, 1)).closeTo(Math.SQRT2, 1e-9);
    expect(coveringScale({ ...place, rotation: 45 }, 16 / 9)).closeTo((16 / 9 + 1) * Math.SQRT1_2, 1e-9);
    expect(coveringScale({ ...place, x: 0.2 }, 2)).closeTo(1.2, 1e-9);
  });

  it('covered, no corner is ever empty, and a little less leaves one', () => {
    const turned = moving('a', 'red', 12, [
      { x: 0, y: 0, scale: 1, rotation: 45 },
      { x: 0.3, y: 0.1, scale: 1, rotation: 20 },
    ]);
    const white = makePicture(WIDTH, HEIGHT, [255, 255, 255]);
    const least = (scale: number, frame: number): number => {
      const [still] = turned.clips;
      const covered = { ...still, picture: { ...still.picture!, cover: true } };
      const place = pictureAt(covered, turned, frame, WIDTH / HEIGHT);
      const fixed: ClipPicture = { ...place, scale: place.scale * scale, cover: false };
      const { data } = frameOf(promo([clip('a', 'red', 12, { picture: fixed })]), 0, white);
      return data.filter((_, i) => i % 4 === 0).reduce((a, b) => Math.min(a, b), 255);
    };
    for (const frame of [0, 5, 11]) expect(least(1.03, frame), String(frame)).equal(255);
    expect(Math.min(...[0, 5, 11].map((frame) => least(0.9, frame)))).below(60);
  });

  it('goes from one place to the other by its ease, and the picture with it', () => {
    const across = (ease: Ease): PromoDocument => moving('a', 'red', 11, [{ x: 0 }, { x: WIDTH / HEIGHT / 2 }, ease]);
    const x = (cut: PromoDocument, frame: number): number => pictureAt(cut.clips[0], cut, frame, 1).x;
    const moved = across('linear');
    expect(x(moved, 5)).closeTo(WIDTH / HEIGHT / 4, 1e-9);
    expect(x(moved, 40)).closeTo(WIDTH / HEIGHT / 2, 1e-9);
    expect(x(across({ kind: 'bezier', out: [1 / 3, 1], in: [2 / 3, 1] }), 5)).above(x(moved, 5) * 1.5);
    const last = frameOf(moved, 10);
    expect(at(last, 16, 18)).deep.equal([0, 0, 0]);
    expect(at(last, 48, 18)).deep.equal([200, 0, 0]);
    expect(at(frameOf(promo([clip('a', 'red', 11)]), 10), 16, 18)).deep.equal([200, 0, 0]);
  });
});

describe('promo: pictures of another proportion', () => {
  /** Wide: red, green and blue thirds. */
  const wide = makePicture(96, 30);
  for (let i = 0; i < 96 * 30; i++)
    wide.data.set(
      [
        [200, 0, 0],
        [0, 200, 0],
        [0, 0, 200],
      ][Math.floor((i % 96) / 32)],
      i * 4,
    );
  const tall = (values: Partial<Clip>): Picture => {
    const cut = { ...promo([clip('a', 'wide', 9, values)]), width: 36, height: 64 };
    return assemble(
      plates,
      cut,
      0,
      shownAt(cut, 0, () => 9),
      () => wide,
      nobody,
    );
  };
  const pixel = ({ data, width }: Picture, x: number, y: number): number[] => [
    ...data.slice((y * width + x) * 4, (y * width + x) * 4 + 3),
  ];

  it('stand between bars, fill the frame cropped, or lie over themselves', () => {
    expect(pixel(tall({}), 18, 4)).deep.equal([0, 0, 0]);
    const cropped = tall({ fill: 'cropped' });
    for (const y of [1, 32, 62]) for (const x of [2, 18, 33]) expect(pixel(cropped, x, y)).deep.equal([0, 200, 0]);
    const blurred = tall({ fill: 'blurred' });
    expect(pixel(blurred, 18, 32)).deep.equal(pixel(tall({}), 18, 32));
    expect(pixel(blurred, 18, 4)[1]).within(60, 180);
  });

  it('cropped, the part that is seen is chosen, and never leaves the picture', () => {
    const at = (x: number): Picture =>
      tall({
        fill: 'cropped',
        picture: newClipPicture({ x }),
      });
    // Almost two frame heights to each side.
    expect(pixel(at(1.2), 18, 32)).deep.equal([200, 0, 0]);
    expect(pixel(at(-1.2), 18, 32)).deep.equal([0, 0, 200]);
    const size = pictureSize({ fill: 'cropped' }, 36 / 64, 3.2);
    expect(size).deep.equal({ wide: 3.2, high: 1 });
    const place = pictureAt(
      { id: 'a', length: 1, fill: 'cropped', picture: newClipPicture({ x: 1.3 }) },
      promo([]),
      0,
      36 / 64,
      3.2,
    );
    expect(place.scale).closeTo(1, 1e-9);
  });
});

describe('promo: transitions', () => {
  const cut = (transition: Transition): PromoDocument =>
    promo([clip('a', 'red', 20, { start: 5 }), clip('b', 'blue', 20, { start: 30, into: transition })]);

  it('lie half before the cut, show frames past both ends, and leave the rest alone', () => {
    const shown = (frame: number) => shownAt(cut(into('dissolve', 8)), frame, () => 100)!;
    expect([15, 16, 23, 24].map((f) => shown(f).transition !== null)).deep.equal([false, true, true, false]);
    expect(shown(22).clip.frames[0]).include({ take: 'red', frame: 27 });
    expect(shown(17).next!.frames[0]).include({ take: 'blue', frame: 27 });
    expect(shown(16).t).above(0);
    expect(shown(23).t).below(1);
    // Half of what it joins at most.
    const short = promo([clip('a', 'red', 3), clip('b', 'blue', 50, { into: into('dissolve', 40) })]);
    expect([1, 2, 4, 5].map((f) => shownAt(short, f, () => 100)!.transition !== null)).deep.equal([
      ...[false, true, true, false],
    ]);
  });

  it('of a short clip that comes and goes by one never meet: each runs from its beginning to its end', () => {
    for (const length of [4, 5, 7]) {
      const cut = promo([
        clip('a', 'red', 30),
        clip('b', 'blue', length, { into: into('dissolve', 20) }),
        clip('c', 'red', 30, { into: into('wipe', 20) }),
      ]);
      for (const kind of ['dissolve', 'wipe']) {
        const shares = Array.from({ length: 60 + length }, (_, f) => shownAt(cut, f, () => 100)!)
          .filter((shown) => shown.transition?.kind === kind)
          .map((shown) => shown.t);
        expect(shares).length(length);
        shares.forEach((t, i) => expect(t).closeTo((i + 1) / (length + 1), 1e-9));
      }
    }
  });

  for (const kind of TRANSITIONS)
    it(`${kind} goes from one clip to the other`, () => {
      const share = (frame: number): number => {
        const { data } = frameOf(cut(into(kind, 15)), frame);
        let [red, blue] = [0, 0];
        for (let i = 0; i < data.length; i += 4) [red, blue] = [red + data[i], blue + data[i + 2]];
        return (blue + 1) / (red + blue + 2);
      };
      const shares = [13, 16, 20, 24, 27].map(share);
      expect(shares[0], String(shares)).below(0.25);
      expect(shares[4], String(shares)).above(0.75);
      for (let i = 1; i < shares.length; i++) expect(shares[i], String(shares)).at.least(shares[i - 1] - 1e-6);
    });

  it('a dissolve mixes light, a dip passes through its colour, a flash is white', () => {
    const middle = (transition: Transition): number[] => at(frameOf(cut(transition), 20), 30, 20);
    const half = Math.round(255 * (1.055 * (0.5 * ((200 / 255 + 0.055) / 1.055) ** 2.4) ** (1 / 2.4) - 0.055));
    expect(middle(into('dissolve', 1))).deep.equal([half, 0, half]);
    expect(middle(into('dip', 1, { colour: '#00FF00' }))).deep.equal([0, 255, 0]);
    expect(middle(into('flash', 1))).deep.equal([255, 255, 255]);
  });

  it('an iris opens in the middle, a luma wipe where the picture is bright, light leaks in its colour', () => {
    const open = frameOf(cut(into('iris', 1, { softness: 0 })), 20);
    expect(at(open, 32, 18)).deep.equal([0, 0, 200]);
    expect(at(open, 1, 1)).deep.equal([200, 0, 0]);
    const leak = at(frameOf(cut(into('leak', 1, { colour: '#00FF00' })), 20), 26, 18);
    expect(leak[1]).above(100);
    expect([leak[0], leak[2]]).deep.equal(at(frameOf(cut(into('leak', 1)), 20), 26, 18).filter((_, c) => c !== 1));
    // A red is darker than a white: it gives way later.
    const two = promo([
      clip('a', 'halves', 20, { start: 5 }),
      clip('b', 'blue', 20, { start: 30, into: into('luma', 1, { softness: 0 }) }),
    ]);
    const luma = frameOf(two, 20);
    expect(at(luma, 8, 18)).deep.equal([0, 0, 200]);
    expect(at(luma, 56, 18)).deep.equal([80, 0, 0]);
  });

  it('a wipe has its edge where it is to be, a push both pictures side by side, either way', () => {
    const wiped = frameOf(cut(into('wipe', 1, { softness: 0, angle: 0 })), 20);
    expect(at(wiped, 8, 18)).deep.equal([0, 0, 200]);
    expect(at(wiped, 56, 18)).deep.equal([200, 0, 0]);
    const up = frameOf(cut(into('push', 1, { angle: 90 })), 20);
    expect(at(up, 30, 4)).deep.equal([200, 0, 0]);
    expect(at(up, 30, 32)).deep.equal([0, 0, 200]);
    const left = frameOf(cut(into('slide', 1, { angle: 180 })), 20);
    expect(at(left, 8, 18)).deep.equal([200, 0, 0]);
    expect(at(left, 56, 18)).deep.equal([0, 0, 200]);
  });
});
