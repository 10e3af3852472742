import { expect } from 'chai';
import {
  changeClip,
  clearClipPicture,
  clipTracks,
  copyClipAttributes,
  deleteClip,
  duplicateClip,
  keyClip,
  newClipPicture,
  newPace,
  newPromo,
  recut,
  retimePromo,
  runCommand,
  toggleKey,
  validateDocument,
  type Clip,
  type ClipPicture,
  type PromoDocument,
} from '@tender-orbit/core/document';
import { srgbToLinear } from '@tender-orbit/core/finish';
import { makePicture, type Picture } from '@tender-orbit/core/picture';
import { assemble, fromTo, PICTURE_RECIPES, pictureAt, pictureRecipe, shownAt } from '@tender-orbit/core/promo';
import { at, plates } from './composite-box.ts';

const [WIDTH, HEIGHT] = [64, 36];
const clip = (id: string, length: number, values: Partial<Clip> = {}): Clip => ({
  ...{ id, take: 'white', start: 0, length },
  ...values,
});
const promo = (...clips: Clip[]): PromoDocument => ({ ...newPromo('Launch', WIDTH, HEIGHT), clips });
const white = makePicture(WIDTH, HEIGHT, [255, 255, 255]);
const pictured = (values: Partial<ClipPicture>, source: Picture = white): Picture => {
  const cut = promo(clip('a', 9, { picture: newClipPicture({ cover: false, ...values }) }));
  return assemble(
    plates,
    cut,
    0,
    shownAt(cut, 0, () => 9),
    () => source,
    { draw: () => null },
  );
};
/** How much of the frame's light there is, 0..1. */
const share = ({ data }: Picture): number => {
  let sum = 0;
  for (let i = 0; i < data.length; i += 4) sum += srgbToLinear(data[i] / 255);
  return sum / (WIDTH * HEIGHT);
};

describe('promo: pictures of clips', () => {
  it('are cropped by shares of their sides, and stay where they are', () => {
    const cropped = pictured({ cropLeft: 0.25, cropTop: 0.5 });
    expect(at(cropped, 15, 30)[0]).equal(0);
    expect(at(cropped, 16, 30)[0]).equal(255);
    expect(at(cropped, 40, 17)[0]).equal(0);
    expect(share(cropped)).closeTo(0.75 * 0.5, 0.002);
  });

  it('lose to round corners what a square has more than a circle', () => {
    const radius = 0.3;
    const lost = (4 - Math.PI) * radius * radius * HEIGHT * HEIGHT;
    expect(share(pictured({ radius }))).closeTo(1 - lost / (WIDTH * HEIGHT), 0.004);
    // About what is left when it is cropped.
    const both = pictured({ radius, cropRight: 0.5 });
    expect(share(both)).closeTo(0.5 - lost / (WIDTH * HEIGHT), 0.004);
  });

  it('are seen through over black in light, mirrored, and soft', () => {
    expect(at(pictured({ opacity: 0.5 }), 30, 20)[0]).equal(188);
    const half = makePicture(WIDTH, HEIGHT, [0, 0, 0]);
    for (let i = 0; i < half.data.length; i += 4) if ((i / 4) % WIDTH < 20) half.data.fill(255, i, i + 3);
    const mirrored = pictured({ mirror: true }, half);
    expect([at(mirrored, 10, 9)[0], at(mirrored, 50, 9)[0]]).deep.equal([0, 255]);
    const soft = pictured({ blur: 0.1 }, half);
    expect(at(soft, 17, 18)[0]).within(120, 240);
    expect(at(soft, 24, 18)[0]).within(60, 200);
  });

  it('a clip that is off is black for as long as it is', () => {
    const cut = promo(clip('a', 4, { off: true }), clip('b', 4));
    const frame = (n: number): number[] => {
      const shown = shownAt(cut, n, () => 9);
      return at(
        assemble(plates, cut, n, shown, () => white, { draw: () => null }),
        5,
        5,
      );
    };
    expect([frame(3)[0], frame(4)[0]]).deep.equal([0, 255]);
  });
});

describe('promo: keys of clips', () => {
  const keyed = (): PromoDocument => {
    const { picture, keys } = fromTo(24, { scale: 1, x: 0 }, { scale: 1.5, x: 0.2 });
    return runCommand({ ...promo(clip('a', 24), clip('b', 9)), height: 64 }, keyClip('a', 'Push', keys, picture));
  };
  const frames = (document: PromoDocument, id: string): number[][] =>
    clipTracks(document, id).map(({ keys }) => keys.map((k) => k.frame));

  it('one on the last frame stays on the last frame, others where they are', () => {
    const three = runCommand(keyed(), toggleKey({ thing: 'a', path: 'x', frame: 12 }, 0.05, 'across'));
    const longer = runCommand(three, changeClip('a', 'Length', { length: 40 }));
    expect(frames(longer, 'a')).deep.equal([
      [0, 39],
      [0, 12, 39],
    ]);
    // What it runs over gives way.
    expect(frames(runCommand(three, changeClip('a', 'Length', { length: 13 })), 'a')[1]).deep.equal([0, 12]);
    expect(validateDocument('promo', longer)).deep.equal(longer);
  });

  it('go with their clip, its copies and what is pasted', () => {
    const document = keyed();
    expect(frames(runCommand(document, duplicateClip('a', 'c')), 'c')).deep.equal(frames(document, 'a'));
    expect(runCommand(document, deleteClip('a')).tracks).deep.equal([]);
    expect(runCommand(document, recut([clip('x', 9)])).tracks).deep.equal([]);
    const pasted = runCommand(document, copyClipAttributes('a', ['b'], ['picture']));
    expect(pictureAt(pasted.clips[1], pasted, 23, 16 / 9).scale).closeTo(1.5, 1e-9);
    expect(pasted.clips[1].pace).equal(undefined);
    const paced = runCommand(document, changeClip('a', 'Pace', { pace: { ...newPace(), from: 2 } }));
    const only = runCommand(paced, copyClipAttributes('a', ['b'], ['pace']));
    expect([only.clips[1].pace?.from, only.clips[1].picture]).deep.equal([2, undefined]);
    const rest = runCommand(pasted, clearClipPicture(['a', 'b']));
    expect([rest.tracks, rest.clips[0].picture]).deep.equal([[], undefined]);
  });

  it('keep their times at another rate', () => {
    const twice = runCommand(keyed(), retimePromo(2));
    expect(twice.clips[0].length).equal(48);
    expect(frames(twice, 'a')).deep.equal([
      [0, 47],
      [0, 47],
    ]);
  });
});

describe('promo: recipes of moves', () => {
  const ground = { length: 48, beats: [0, 12, 24, 36], strength: 1, seed: 3 };
  for (const kind of PICTURE_RECIPES)
    it(`${kind} moves a picture by keys within the clip, the same each time`, () => {
      const { picture, keys } = pictureRecipe(kind, ground);
      expect(pictureRecipe(kind, ground)).deep.equal({ picture, keys });
      const document = runCommand({ ...promo(clip('a', 48)), height: 64 }, keyClip('a', kind, keys, picture));
      expect(validateDocument('promo', document)).deep.equal(document);
      const values = Array.from({ length: 48 }, (_, f) => JSON.stringify(pictureAt(document.clips[0], document, f, 1)));
      expect(new Set(values).size).above(2);
      for (const { keys: own } of document.tracks) for (const { frame } of own) expect(frame).within(0, 47);
      // A clip of a frame has no room for one.
      for (const length of [1, 2, 5]) pictureRecipe(kind, { ...ground, length });
    });

  it('punches are on the beats: between them the picture stands still', () => {
    const { picture, keys } = pictureRecipe('punch in on beats', ground);
    const document = runCommand(promo(clip('a', 48)), keyClip('a', 'Punch', keys, picture));
    const scale = (f: number): number => pictureAt(document.clips[0], document, f, 16 / 9).scale;
    expect([scale(1), scale(10)]).deep.equal([1, 1]);
    expect([13, 20, 22].map(scale)).deep.equal([1.12, 1.12, 1.12]);
    expect(scale(47)).closeTo(1.36, 1e-9);
  });

  it('a shake covers the frame: no corner is ever empty', () => {
    const { picture, keys } = pictureRecipe('shake', { ...ground, strength: 3 });
    const document = runCommand(promo(clip('a', 48)), keyClip('a', 'Shake', keys, picture));
    for (const frame of [0, 3, 7, 20]) {
      const shown = shownAt(document, frame, () => 99);
      const { data } = assemble(plates, document, frame, shown, () => white, { draw: () => null });
      expect(data.filter((_, i) => i % 4 === 0).reduce((a, b) => Math.min(a, b), 255)).above(250);
    }
  });
});
