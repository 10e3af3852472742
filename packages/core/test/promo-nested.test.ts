import { expect } from 'chai';
import {
  newClipPicture,
  newLayer,
  newOverlay,
  newPromo,
  newTitle,
  newTransition,
  runCommand,
  validateDocument,
  type Clip,
  type Layer,
  type Track,
  type PromoDocument,
} from '@tender-orbit/core/document';
import type { Picture } from '@tender-orbit/core/picture';
import {
  assemble,
  cutsWithin,
  fromTo,
  nestItems,
  placedClips,
  promoLength,
  shownAt,
  showsCut,
  sourceLength,
  type TakeFrame,
} from '@tender-orbit/core/promo';
import { plates } from './composite-box.ts';
import { openPainter } from './title-box.ts';

const [WIDTH, HEIGHT] = [128, 72];
const clip = (id: string, take: string, length: number, values: Partial<Clip> = {}): Clip => ({
  ...{ id, take, start: 0, length },
  ...values,
});
const cut = (name: string, ...clips: Clip[]): PromoDocument => ({ ...newPromo(name, WIDTH, HEIGHT), clips });
const of =
  (cuts: Record<string, PromoDocument>) =>
  (id: string): PromoDocument | undefined =>
    cuts[id];

/** Every frame of a take has a colour of its own. */
function takeFrame({ take, frame }: TakeFrame): Picture {
  const colour = [(take.charCodeAt(0) * 37) % 200, (frame * 11) % 250, (frame * 53) % 240, 255];
  return {
    width: WIDTH,
    height: HEIGHT,
    data: Uint8ClampedArray.from({ length: WIDTH * HEIGHT * 4 }, (_, i) => colour[i % 4]),
  };
}

describe('promo: cuts in cuts', () => {
  it('are found however deep they lie, each once, and rings end', () => {
    const cuts = {
      a: cut('A', clip('1', 'b', 5), clip('2', 'take', 5)),
      b: { ...cut('B', clip('3', 'c', 5)), overlays: [newOverlay('o', { id: 'd', frames: 5, rate: 24 }, 24)] },
      c: cut('C', clip('4', 'a', 5)),
      d: cut('D'),
    };
    expect(Object.keys(cutsWithin(cuts.a, of(cuts))).sort()).to.deep.equal(['a', 'b', 'c', 'd']);
    expect(Object.keys(cutsWithin(cuts.d, of(cuts)))).to.deep.equal([]);
    expect(showsCut('a', 'd', of(cuts))).equal(true);
    expect(showsCut('d', 'a', of(cuts))).equal(false);
    expect(showsCut('d', 'd', of(cuts)), 'itself').equal(true);
    expect(showsCut('gone', 'a', of(cuts))).equal(false);
  });

  it('are as long as all that they play', () => {
    const length = sourceLength({ a: cut('A', clip('1', 't', 5), clip('2', 't', 7)) }, () => 40);
    expect(length('a')).equal(12);
    expect(length('t')).equal(40);
  });

  describe('made of what is chosen', () => {
    const { picture, keys } = fromTo(8, { scale: 1.1, x: -0.1 }, { scale: 1.3, x: 0.1 });
    const whole = (): PromoDocument => ({
      ...cut(
        'Launch',
        clip('first', 'a', 6),
        clip('second', 'b', 8, {
          start: 5,
          into: newTransition('dip', 3),
          picture: newClipPicture(picture),
        }),
        clip('third', 'c', 7, { into: newTransition('dissolve', 4) }),
        clip('last', 'd', 5, { into: newTransition('dip', 3) }),
      ),
      tracks: Object.entries(keys).map(([path, own]) => ({ thing: 'second', path, keys: own })),
      titles: [
        newTitle('inside', { text: 'Honey', size: 20, start: 8, length: 9 }),
        newTitle('across', { text: 'Heather', size: 14, start: 4, length: 20, y: 0.8 }),
      ],
    });

    /** Holds every frame of a promo against the one whose clips were nested. */
    async function alike(before: PromoDocument, inner: PromoDocument, after: PromoDocument): Promise<void> {
      const painter = await openPainter();
      const length = sourceLength({ middle: inner }, () => 40);
      const picture = (of: PromoDocument, frame: number): Picture => {
        const pictureOf = (part: TakeFrame): Picture =>
          part.take === 'middle' ? picture(inner, part.frame) : takeFrame(part);
        return assemble(plates, of, frame, shownAt(of, frame, length), pictureOf, painter, null, length);
      };
      for (let frame = 0; frame < promoLength(before); frame++) {
        // In a transition what the new cut shows is light that was bytes before.
        const most = shownAt(before, frame, length)?.next ? 1 : 0;
        const [was, now] = [picture(before, frame).data, picture(after, frame).data];
        const away = was.reduce((far, v, i) => Math.max(far, Math.abs(v - now[i])), 0);
        expect(away, `frame ${frame}`).most(most);
      }
      painter.dispose();
    }

    it('show in every frame what was there before', async () => {
      const before = whole();
      const { cut: inner, place } = nestItems(before, ['second', 'third', 'inside', 'across'], 'Middle')!;
      const after = runCommand(before, place('middle', 'nested'));
      expect(after.clips.map(({ id, length }) => [id, length])).to.deep.equal([
        ['first', 6],
        ['nested', 15],
        ['last', 5],
      ]);
      expect(after.clips[1].into?.kind, 'it comes in as its first clip did').equal('dip');
      expect(inner.clips[0].into, 'which begins without').equal(undefined);
      // A title that goes on beyond the new cut stays where it is.
      expect(after.titles.map(({ id }) => id)).to.deep.equal(['across']);
      expect(inner.titles.map(({ id, start }) => [id, start])).to.deep.equal([['inside', 3]]);
      expect(after.tracks).to.deep.equal([]);
      expect(inner.tracks.length).above(0);

      await alike(before, inner, after);
    });

    it('letters go along their stroke still, which is not seen twice', async () => {
      const before = whole();
      before.layers = [
        newLayer('stroke', 'way', 'Way', { form: 'arc', width: 1.2, height: 0.4, visible: false } as Partial<Layer>),
      ];
      before.tracks.push({
        ...{ thing: 'way', path: 'rotation' },
        keys: [
          { frame: 8, value: -20, ease: 'linear' },
          { frame: 16, value: 40, ease: 'linear' },
        ],
      } as Track);
      before.titles[0].along = 'way';
      const { cut: inner, place } = nestItems(before, ['second', 'third', 'inside'], 'Middle')!;
      expect(inner.layers.map(({ id, visible }) => [id, visible])).to.deep.equal([['way', false]]);
      const after = runCommand(before, place('middle', 'nested'));
      expect(after.layers, 'others may need it').length(1);
      await alike(before, inner, after);
      expect(() => validateDocument('promo', inner)).not.to.throw();
    });

    it('may be kept, and taken back', () => {
      const before = whole();
      const { cut: inner, place } = nestItems(before, ['third', 'second'], 'Middle')!;
      expect(() => validateDocument('promo', inner)).not.to.throw();
      expect(() => validateDocument('promo', runCommand(before, place('middle', 'nested')))).not.to.throw();
      expect(before.clips.length, 'the promo itself is not changed').equal(4);
      expect(inner.music).equal(null);
      expect(inner.sounds).to.deep.equal([]);
    });

    it('take in what lies between them, and need a clip', () => {
      const { cut: inner } = nestItems(whole(), ['first', 'third'], 'Three')!;
      expect(inner.clips.map(({ id }) => id)).to.deep.equal(['first', 'second', 'third']);
      expect(nestItems(whole(), ['inside'], 'None')).equal(null);
      expect(placedClips(inner)[2].from).equal(14);
    });
  });
});
