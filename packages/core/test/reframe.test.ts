import { expect } from 'chai';
import {
  newClipPicture,
  newOverlay,
  newPromo,
  newTitle,
  validateDocument,
  type Clip,
  type Footage,
  type PromoDocument,
} from '@tender-orbit/core/document';
import { coveringScale } from '@tender-orbit/core/composite';
import { pictureAt, pictureSize, reframed, type Focus, type Reframing } from '@tender-orbit/core/promo';

const TALL = { width: 540, height: 960 };
const ASPECT = TALL.width / TALL.height;
const film: Footage = {
  ...{ id: 'film', name: 'Heath', list: 'a'.repeat(64), poster: 'b'.repeat(64) },
  ...{ frames: 60, width: 1080, height: 1920, rate: 24 },
};
const clip = (values: Partial<Clip> = {}): Clip => ({ id: 'c', take: 't', start: 0, length: 24, ...values });
const promo = (values: Partial<PromoDocument> = {}): PromoDocument => ({
  ...newPromo('Launch 16x9', 960, 540),
  clips: [clip()],
  ...values,
});
const tall = (document: PromoDocument, focus: Reframing['focusOf'] = () => null): PromoDocument =>
  reframed(document, { ...TALL, name: 'Launch 9x16', focusOf: focus, aspectOf: () => 16 / 9, takeLength: () => 100 });
const at = (x: number, y = 0, wide = 0.1, high = 0.2, id = 'jar'): Focus => ({ id, x, y, wide, high });
/** Where in the frame a point of the picture lies at a frame of its clip, heights of the frame from its middle. */
function seenAt(cut: PromoDocument, { x, y }: Focus, frame: number, own = 16 / 9): [number, number] {
  const [first] = cut.clips;
  const place = pictureAt(first, cut, frame, ASPECT, own);
  const { high } = pictureSize(first, ASPECT, own);
  return [place.x + x * place.scale * high, place.y + y * place.scale * high];
}

describe('promo: another proportion', () => {
  it('has its size and name, fills the frame, and keeps times, music and sounds', () => {
    const document = promo({ clips: [clip(), clip({ id: 'd', length: 9 })] });
    const made = tall(document);
    expect(made).include({ name: 'Launch 9x16', ...TALL });
    expect(made.clips.map((c) => [c.take, c.length, c.fill])).deep.equal([
      ['t', 24, 'cropped'],
      ['t', 9, 'cropped'],
    ]);
    expect(made.sounds).deep.equal(document.sounds);
    expect(validateDocument('promo', JSON.parse(JSON.stringify(made)))).deep.equal(made);
    expect(document.clips[0].fill).equal(undefined);
  });

  it('the crop follows what moves through the picture, from the first frame of the clip to its last', () => {
    const moving = (frame: number): Focus => at(-0.3 + frame * 0.02);
    const made = tall(promo({ clips: [clip({ start: 3 })] }), (_, frame) => moving(frame));
    expect(seenAt(made, moving(3), 0)[0]).closeTo(0, 1e-9);
    expect(seenAt(made, moving(26), 23)[0]).closeTo(0, 1e-9);
  });

  it('never shows beyond the picture, however far to the side that is', () => {
    const made = tall(promo(), () => at(0.8));
    for (const frame of [0, 23]) {
      const place = pictureAt(made.clips[0], made, frame, ASPECT, 16 / 9);
      expect(place.scale).closeTo(1, 1e-9);
      expect(coveringScale(place, ASPECT, pictureSize(made.clips[0], ASPECT, 16 / 9))).at.most(1 + 1e-9);
    }
    // As far to that side as there is picture.
    expect(seenAt(made, at(16 / 18), 0)[0]).closeTo(ASPECT / 2, 1e-9);
  });

  it('goes nearer no more than leaves all of it in the frame, and keeps its height in the picture', () => {
    const document = promo({ clips: [clip({ picture: newClipPicture({ y: -0.1, scale: 2 }) })] });
    const focus = at(0, 0.05, 0.4);
    const made = tall(document, () => focus);
    expect(made.clips[0].picture!.cover).equal(true);
    expect(made.clips[0].picture!.scale).closeTo((0.9 * ASPECT) / 0.4, 1e-9);
    expect(made.tracks).deep.equal([]);
    // It was where the old frame had it: 0.05 of the picture, twice as large, moved down by 0.1.
    expect(seenAt(made, focus, 0)[1]).closeTo(0, 1e-9);
    const small = tall(document, () => at(0, 0.05, 0.05));
    expect(small.clips[0].picture!.scale).equal(2);
  });

  it('follows the thing that the cut has in its middle half-way through a clip, from its first frame to its last', () => {
    const asked: Array<[x: number, y: number, frame: number, id: string | undefined]> = [];
    const keys = [
      { frame: 0, value: 0.2, ease: 'linear' as const },
      { frame: 24, value: 0.6, ease: 'linear' as const },
    ];
    const made = tall(
      promo({
        clips: [clip({ length: 25, picture: newClipPicture({ x: 0.2, y: -0.2, scale: 2 }) })],
        tracks: [{ thing: 'c', path: 'x', keys }],
      }),
      (_, frame, near, id) => {
        asked.push([Number(near.x.toFixed(6)), Number(near.y.toFixed(6)), frame, id]);
        return at(frame / 240, 0, 0.1, 0.2, frame === 12 ? 'jar' : 'box');
      },
    );
    expect(made.tracks.map(({ path, keys: own }) => [path, own.map((k) => [k.frame, k.ease])])).deep.equal([
      ['x', [0, 24].map((frame) => [frame, 'linear'])],
    ]);
    expect(asked).deep.equal([
      [-0.2, 0.1, 12, undefined],
      [-0.1, 0.1, 0, 'jar'],
      [-0.3, 0.1, 24, 'jar'],
    ]);
  });

  it('a copy of a copy is what the first would have been: pictures are as wide as they are', () => {
    const square = { width: 600, height: 600, name: 'Square' };
    const [once, twice] = [promo(), tall(promo(), () => at(0.2))].map(
      (document) =>
        reframed(document, { ...square, focusOf: () => at(0.2), aspectOf: () => 16 / 9, takeLength: () => 100 })
          .clips[0].picture!,
    );
    expect(twice.x).closeTo(once.x, 1e-9);
    expect(twice.scale).closeTo(once.scale, 1e-9);
  });

  it('upright footage in an upright promo is whole', () => {
    const made = tall(promo({ footage: [film], clips: [clip({ take: 'film' })] }));
    expect(made.clips[0].picture).include({ x: 0, scale: 1 });
    expect(pictureSize(made.clips[0], ASPECT, 9 / 16)).deep.include({ high: 1 });
  });

  it('titles come inside the safe area at the same size to the eye; overlays fit across', () => {
    const titles = [newTitle('t', { x: 0.01, y: 0.99, size: 60 }), newTitle('u', { x: 0.5, y: 0.4 })];
    const wide: Footage = { ...film, id: 'wide', width: 1600, height: 400, frames: 1 };
    const overlays = [
      newOverlay('o', wide, 24, { x: 0.95, y: 0.02, size: 0.4 }),
      newOverlay('f', film, 24, { size: 1 }),
    ];
    const made = tall(promo({ titles, footage: [film, wide], overlays }));
    expect(made.titles[0]).include({ x: 0.06, y: 0.91, size: 60 });
    expect(made.titles[1]).include({ x: 0.5, y: 0.4 });
    const [banner, full] = made.overlays;
    const half = (banner.size * 4 * TALL.height) / TALL.width / 2;
    expect(banner.x + half).at.most(0.94 + 1e-9);
    expect(banner.x - half).at.least(0.06 - 1e-9);
    expect(banner.y - banner.size / 2).at.least(0.09 - 1e-9);
    expect(full.size).equal(1);
  });
});
