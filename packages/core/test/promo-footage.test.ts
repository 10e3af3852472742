import { expect } from 'chai';
import {
  addFootage,
  addOverlay,
  carryOverlay,
  changeOverlay,
  deleteOverlay,
  newOverlay,
  newPromo,
  newTitle,
  removeFootage,
  retimePromo,
  runCommand,
  validateDocument,
  type Footage,
  type PromoDocument,
  type PromoOverlay,
} from '@tender-orbit/core/document';
import { makePicture, type Picture } from '@tender-orbit/core/picture';
import { assemble, promoLength, shownAt, takeFramesAt, type TakeFrame } from '@tender-orbit/core/promo';
import { plates } from './composite-box.ts';
import { openPainter } from './title-box.ts';

const WIDTH = 160;
const HEIGHT = 90;
const film: Footage = {
  ...{ id: 'film', name: 'Heath', list: 'a'.repeat(64), poster: 'b'.repeat(64) },
  ...{ frames: 60, width: 160, height: 90, rate: 60 },
};
const logo: Footage = { ...film, id: 'logo', name: 'Logo', frames: 1, width: 40, height: 20, rate: 24 };
const promo = (values: Partial<PromoDocument> = {}): PromoDocument => ({
  ...newPromo('Launch', WIDTH, HEIGHT),
  footage: [film, logo],
  ...values,
});
const over = (footage: Footage, values: Partial<PromoOverlay> = {}): PromoOverlay =>
  newOverlay('o', footage, 24, {
    ...{ arrive: { kind: 'none', frames: 0 }, leave: { kind: 'none', frames: 0 } },
    ...values,
  });
const clip = (take: string, length = 24): PromoDocument['clips'][number] => ({ id: 'c', take, start: 0, length });
const none = (): number => 0;

describe('promo: footage', () => {
  it('is shown by clips as takes are: its frames, the last one held', () => {
    const cut = promo({
      clips: [{ ...clip('film', 30), pace: { from: 2.5, to: 2.5, reverse: false, between: 'nearest' } }],
    });
    const frames = [0, 2, 10, 29].map((f) => takeFramesAt(cut, f, none)[0].frame);
    expect(frames).deep.equal([0, 5, 25, 59]);
    expect(takeFramesAt(promo({ clips: [clip('logo', 48)] }), 47, none)).deep.equal([
      { take: 'logo', frame: 0, weight: 1 },
    ]);
    expect(takeFramesAt(promo({ clips: [clip('gone')] }), 3, none)).deep.equal([]);
  });

  it('over the picture goes by at its own rate from the frame asked for, and its last frame stays', () => {
    const shown = promo({ clips: [clip('')], overlays: [over(film, { start: 4, length: 40, first: 10 })] });
    const frameAt = (f: number): number => takeFramesAt(shown, f, none)[0]?.frame ?? -1;
    expect([3, 4, 6, 8, 40, 43, 44].map(frameAt)).deep.equal([-1, 10, 15, 20, 59, 59, -1]);
    expect(promoLength(shown)).equal(44);
  });

  it('is validated, changed, removed with what shows it, and keeps its time at another rate', () => {
    let document = runCommand(newPromo('P', WIDTH, HEIGHT), addFootage(film));
    document = runCommand(document, addOverlay(over(film, { start: 12, length: 24 }), film.name));
    expect(validateDocument('promo', JSON.parse(JSON.stringify(document)))).deep.equal(document);
    document = runCommand(document, changeOverlay('o', 'Size', { size: 0.5 }));
    expect(document.overlays[0]).include({ size: 0.5, speed: 2.5 });
    expect(runCommand(document, retimePromo(2)).overlays[0]).include({ start: 24, length: 48, speed: 1.25 });
    expect(runCommand(document, deleteOverlay('o')).overlays).deep.equal([]);
    expect(runCommand(document, removeFootage('film'))).deep.include({ footage: [], overlays: [] });
    const refused = (values: object) => () =>
      validateDocument('promo', promo({ overlays: [{ ...over(logo), ...values }] }));
    expect(refused({ size: 0 })).throw(/Height must be a number between 0.01 and 10/);
    expect(refused({ opacity: 2 })).throw(/Opacity/);
    expect(() => validateDocument('promo', promo({ footage: [{ ...film, frames: 0 }] }))).throw(/Frames/);
  });
});

describe('promo: overlays in the picture', () => {
  const painter = { draw: () => null };
  const red = makePicture(40, 20, [255, 0, 0]);
  const seeThrough = (): Picture => {
    const picture = makePicture(40, 20, [255, 255, 255]);
    for (let i = 3; i < picture.data.length; i += 4) picture.data[i] = 128;
    return picture;
  };
  function made(document: PromoDocument, pictures: Record<string, Picture>, frame = 5): Picture {
    const of = ({ take }: TakeFrame): Picture | null => pictures[take] ?? null;
    return assemble(
      plates,
      document,
      frame,
      shownAt(document, frame, () => 24),
      of,
      painter,
    );
  }
  const at = ({ data }: Picture, x: number, y: number): number[] => [
    ...data.subarray((y * WIDTH + x) * 4, (y * WIDTH + x) * 4 + 4),
  ];
  const base = makePicture(WIDTH, HEIGHT, [10, 120, 30]);
  const cut = (overlay: Partial<PromoOverlay> = {}, values: Partial<PromoDocument> = {}): PromoDocument =>
    promo({ clips: [clip('take')], overlays: [over(logo, { size: 0.4, ...overlay })], ...values });

  it('lies where it is put, as large as it is said to be, and leaves the rest as it is', () => {
    // 36 pixels high and 72 wide round (0.25, 0.7).
    const picture = made(cut({ x: 0.25, y: 0.7 }), { take: base, logo: red });
    expect(at(picture, 40, 63)).deep.equal([255, 0, 0, 255]);
    expect(at(picture, 40 + 34, 63 + 16)).deep.equal([255, 0, 0, 255]);
    for (const [x, y] of [
      [40 + 38, 63],
      [40, 63 - 20],
      [150, 10],
    ])
      expect(at(picture, x, y), `${x} ${y}`).deep.equal([10, 120, 30, 255]);
    expect(base.data.every((v, i) => v === [10, 120, 30, 255][i % 4])).equal(true);
  });

  it('mixes as light: half of white over black is not half of its number', () => {
    const black = makePicture(WIDTH, HEIGHT);
    const [half] = at(made(cut(), { take: black, logo: seeThrough() }), 80, 45);
    // 0.5 of light is 188 of 255.
    expect(half).within(187, 189);
    const [faded] = at(made(cut({ opacity: 0.5 }), { take: black, logo: seeThrough() }), 80, 45);
    expect(faded).within(136, 138);
  });

  it('turns, fades in, and is not there before and after', () => {
    const turned = made(cut({ rotation: 90 }), { take: base, logo: red });
    expect(at(turned, 80, 45 + 33)).deep.equal([255, 0, 0, 255]);
    expect(at(turned, 80 + 22, 45)).deep.equal([10, 120, 30, 255]);
    const fading = cut({ start: 4, length: 10, arrive: { kind: 'fade', frames: 4 } });
    const [early, later] = [4, 6].map((frame) => at(made(fading, { take: base, logo: red }, frame), 80, 45)[0]);
    expect(early).within(60, 200).below(later);
    for (const frame of [3, 14]) expect(at(made(fading, { take: base, logo: red }, frame), 80, 45)[0]).equal(10);
  });

  it('lies over those that come before it, until it is carried below them', () => {
    const green = makePicture(40, 20, [0, 255, 0]);
    const other: Footage = { ...logo, id: 'other' };
    const both = promo({
      ...{ footage: [logo, other], clips: [clip('take')] },
      overlays: [over(logo, { id: 'a', size: 0.4 }), over(other, { id: 'b', size: 0.4 })],
    });
    const pictures = { take: base, logo: red, other: green };
    expect(at(made(both, pictures), 80, 45)).deep.equal([0, 255, 0, 255]);
    expect(at(made(runCommand(both, carryOverlay('b', 'back')), pictures), 80, 45)).deep.equal([255, 0, 0, 255]);
    expect(at(made(runCommand(both, carryOverlay('a', 'front')), pictures), 80, 45)).deep.equal([255, 0, 0, 255]);
  });

  it('what is not there is left out, and where none is seen the picture is the same bytes', () => {
    const bare = made(promo({ clips: [clip('take')] }), { take: base });
    expect(Buffer.from(made(cut(), { take: base }).data).equals(Buffer.from(bare.data))).equal(true);
    expect(Buffer.from(made(cut({ opacity: 0 }), { take: base, logo: red }).data).equals(Buffer.from(bare.data))).equal(
      true,
    );
  });

  it('footage in the cut that can be seen through is black there', () => {
    const picture = made(promo({ clips: [clip('logo')] }), { logo: seeThrough() });
    const [r, g, b, a] = at(picture, 80, 45);
    expect([g, b]).deep.equal([r, r]);
    expect(r).within(187, 189);
    expect(a).equal(255);
  });

  it('titles lie over it', async () => {
    const real = await openPainter();
    const title = newTitle('t', {
      text: 'MMM',
      size: 40,
      y: 0.5,
      colour: '#FFFFFF',
      length: 24,
      arrive: { kind: 'none', frames: 0 },
    });
    const document = cut({ size: 1 }, { titles: [title] });
    const picture = assemble(
      plates,
      document,
      5,
      shownAt(document, 5, () => 24),
      ({ take }) => ({ take: base, logo: red })[take] ?? null,
      real,
    );
    expect(picture.data.some((v, i) => i % 4 === 1 && v > 240)).equal(true);
    real.dispose();
  });
});
