import { expect } from 'chai';
import { layersOver, type CompositeReader } from '@tender-orbit/core/composite';
import {
  newLayer,
  newPromo,
  newShot,
  validateDocument,
  type Layer,
  type PromoDocument,
  type TakeComposite,
} from '@tender-orbit/core/document';
import { makePicture, type Picture } from '@tender-orbit/core/picture';
import { assemble, shownAt } from '@tender-orbit/core/promo';
import { at, layer, lightOf, plates } from './composite-box.ts';

const RATE = { num: 24, den: 1 };
const still: Picture = makePicture(8, 8, [255, 0, 0]);
const reader: CompositeReader = {
  plates,
  light: async () => lightOf(64, 36, [0, 0, 1]),
  parts: async () => null,
  still: async (asset) => (asset === 'there' ? still : null),
  cube: async () => null,
  vector: async () => null,
  film: async () => null,
  text: () => null,
};
/** Every code that a channel can have, each with others. */
const codes = makePicture(64, 36);
for (let i = 0; i < 64 * 36; i++) codes.data.set([i % 256, (i * 7) % 256, (i * 31) % 256, 255], i * 4);

const promo = (layers: Layer[], values: Partial<PromoDocument> = {}): PromoDocument => ({
  ...newPromo('Launch', 64, 36),
  clips: [{ id: 'c', take: 't', start: 0, length: 48 }],
  layers,
  ...values,
});
async function frameOf(
  document: PromoDocument,
  frame = 0,
  others: Record<string, TakeComposite> = {},
  below: Picture = codes,
): Promise<Picture> {
  const layers = await layersOver(document, others, frame, RATE, reader);
  const shown = shownAt(document, frame, () => 48);
  return assemble(plates, document, frame, shown, () => below, { draw: () => null }, layers);
}

describe('promo: layers over the picture', () => {
  it('that do nothing leave every code as it was', async () => {
    const nothing = promo([layer('grade', { exposure: 0 })]);
    expect(await layersOver(nothing, {}, 0, RATE, reader)).not.equal(null);
    expect((await frameOf(nothing)).data).deep.equal(codes.data);
  });

  it('are not asked for where none is seen, and are seen within their spans', async () => {
    const bars = promo([layer('solid', { colour: '#102030', start: 10, length: 5, space: 'glass' })]);
    expect(await layersOver(promo([]), {}, 0, RATE, reader)).equal(null);
    expect(await layersOver(bars, {}, 9, RATE, reader)).equal(null);
    expect(at(await frameOf(bars, 10), 3, 3)).deep.equal([16, 32, 48, 255]);
    expect((await frameOf(bars, 15)).data).deep.equal(codes.data);
  });

  it('grade all that lies below in linear light, by keys in frames of the promo', async () => {
    const keys = [0, 40].map((frame) => ({ frame, value: frame === 0 ? 0 : -1, ease: 'linear' as const }));
    const graded = promo([layer('grade')], { tracks: [{ thing: 'grade', path: 'exposure', keys }] });
    const white = makePicture(64, 36, [255, 255, 255]);
    expect(at(await frameOf(graded, 0, {}, white), 4, 4)[0]).equal(255);
    // A stop less is half of white's light.
    expect(at(await frameOf(graded, 40, {}, white), 4, 4)[0]).equal(188);
    expect(validateDocument('promo', { ...graded, height: 64 })).deep.include({ tracks: graded.tracks });
  });

  it('stills and takes of shots stand on cards; what is gone leaves a gap', async () => {
    const card = (asset: string): Promise<Picture> =>
      frameOf(promo([newLayer('still', 's', 'S', { asset, height: 0.5, space: 'glass' } as Partial<Layer>)]));
    expect(at(await card('there'), 32, 18)).deep.equal([255, 0, 0, 255]);
    expect((await card('gone')).data).deep.equal(codes.data);
    const shows = promo([
      newLayer('composite', 's', 'S', { take: 't', height: 0.5, space: 'glass' } as Partial<Layer>),
    ]);
    const other: TakeComposite = { shot: newShot('S', 'set', 'camera', 48), view: 'plain' };
    expect(at(await frameOf(shows, 0, { t: other }), 32, 18)).deep.equal([0, 0, 255, 255]);
    expect(at(await frameOf(shows, 0, { t: other }), 1, 1)).deep.equal(at(codes, 1, 1));
  });
});
