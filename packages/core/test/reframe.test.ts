import { expect } from 'chai';
import {
  newClipPicture,
  newLayer,
  newOverlay,
  newPromo,
  newTitle,
  validateDocument,
  type Clip,
  type Footage,
  type Layer,
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

  describe('layers over it', () => {
    const over = (kind: 'shape' | 'text' | 'grade' | 'null' | 'solid', id: string, values: object): Layer =>
      newLayer(kind, id, id, values as Partial<Layer>);
    const box = { form: 'rectangle', width: 0.4, height: 0.2 };
    const layers = [
      over('solid', 'all', { x: 0.2, mask: 'ellipse', maskX: 0.8, maskWidth: 1.6, maskHeight: 0.9 }),
      over('shape', 'tag', { ...box, x: 0.8, y: -0.3, scale: 0.5 }),
      over('shape', 'back', { ...box, width: 16 / 9, height: 1 }),
      over('null', 'hand', { x: -0.4 }),
      over('text', 'name', { x: 0.3, scale: 0.8, parent: 'hand' }),
      over('grade', 'warm', {}),
      newLayer('mask', 'hole', 'Hole', { group: 'tag', maskX: 0.8, maskWidth: 0.2, maskHeight: 0.1 } as Partial<Layer>),
      over('shape', 'drawn', {
        ...{ ...box, x: 0.2, mask: 'path' },
        maskPath: [
          {
            frame: 0,
            points: [[-0.2, 0.1] as const, [0.2, 0.1] as const, [0, -0.3] as const].map((at) => ({
              ...{ at: [...at], in: [-0.04, 0], out: [0.04, 0], feather: 1 },
            })),
          },
        ],
      }),
    ];
    const keys = (thing: string, path: string, values: number[]) => ({
      ...{ thing, path },
      keys: values.map((value, frame) => ({ frame, value, ease: 'linear' as const })),
    });
    const tracks = [keys('tag', 'x', [0.8, -0.8]), keys('tag', 'scale', [0.5, 1]), keys('tag', 'y', [0, 0.1])];
    const document = promo({ layers, tracks: [...tracks, keys('warm', 'exposure', [0, 1])] });
    const made = tall(document);
    const of = (id: string): Layer => made.layers.find((layer) => layer.id === id)!;
    const across = ASPECT / (16 / 9);

    it('lie at the same share of the width, at the same height, as large to the eye', () => {
      expect(of('tag').x / ASPECT).closeTo(0.8 / (16 / 9), 1e-4);
      expect(of('tag').y).equal(-0.3);
      // As many pixels as before: the area of the frame is the same.
      expect(of('tag').scale * TALL.height).closeTo(0.5 * 540, 0.5);
      expect(of('hand').x).closeTo(-0.4 * across, 1e-4);
    });

    it('take their keys along, and leave those of other numbers', () => {
      const values = (path: string): number[] =>
        made.tracks.find((t) => t.path === path)!.keys.map(({ value }) => value as number);
      values('x').forEach((v, n) => expect(v).closeTo([0.8, -0.8][n] * across, 1e-4));
      values('scale').forEach((v, n) => expect(v).closeTo([0.5, 1][n] * 0.5625, 1e-4));
      expect(values('y')).deep.equal([0, 0.1]);
      expect(values('exposure')).deep.equal([0, 1]);
    });

    it('what fills the frame fills it, what is carried is left to what carries it, masks come along', () => {
      expect(of('back').scale).equal(1);
      expect(of('name')).include({ x: 0.3, scale: 0.8 });
      expect(of('all')).include({ scale: 1, maskHeight: 0.9 });
      expect(of('all').maskX).closeTo(0.8 * across, 1e-4);
      expect(of('all').maskWidth).closeTo(1.6 * across, 1e-4);
      // A further mask goes by what it masks, a drawn one by its points.
      expect(of('hole').maskX).closeTo(0.8 * across, 1e-4);
      expect([of('hole').maskWidth, of('hole').maskHeight].map((v) => v / 0.5625)).deep.equal([0.2, 0.1]);
      const [first, , last] = of('drawn').maskPath[0].points;
      expect([...first.at, ...last.at].map((v) => Number((v / 0.5625).toFixed(6)))).deep.equal([-0.2, 0.1, 0, -0.3]);
      expect(first.out[0]).closeTo(0.04 * 0.5625, 1e-9);
      expect(validateDocument('promo', JSON.parse(JSON.stringify(made)))).deep.equal(made);
      // And in a frame that is wider.
      const wide = reframed(made, {
        ...{ width: 960, height: 540, name: 'Again', focusOf: () => null },
        ...{ aspectOf: () => 16 / 9, takeLength: () => 100 },
      });
      const [, tag, back] = wide.layers as Array<Layer & { width: number; height: number }>;
      expect(tag.x).closeTo(0.8, 1e-3);
      expect(tag.scale).closeTo(0.5, 1e-3);
      expect(back.width * back.scale).at.least(16 / 9 - 1e-6);
      expect(back.height * back.scale).at.least(1);
    });
  });
});
