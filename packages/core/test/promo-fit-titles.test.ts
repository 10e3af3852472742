import { expect } from 'chai';
import {
  keyTitle,
  newDress,
  newPromo,
  newTitle,
  runCommand,
  type PromoDocument,
  type Title,
} from '@tender-orbit/core/document';
import { fitTitles, reframed, type TitlePainter } from '@tender-orbit/core/promo';
import { openPainter } from './title-box.ts';

const still = { kind: 'none', frames: 0 } as const;
const [WIDE, HIGH] = [270, 480];
const title = (id: string, values: Partial<Title> = {}): Title =>
  newTitle(id, { text: 'Slow', size: 30, arrive: still, leave: still, start: 0, length: 40, ...values });
const cut = (...titles: Title[]): PromoDocument => ({
  ...newPromo('Launch', 480, 270),
  clips: [{ id: 'c', take: 't', start: 0, length: 60 }],
  titles,
});
const tall = (of: PromoDocument): PromoDocument =>
  reframed(of, {
    ...{ width: WIDE, height: HIGH, name: 'Tall', focusOf: () => null, aspectOf: () => 16 / 9, takeLength: () => 60 },
  });

describe('promo: titles of a copy in another proportion', () => {
  let painter: TitlePainter;
  before(async () => void (painter = await openPainter()));
  after(() => painter.dispose());
  const fitted = (of: PromoDocument, copy = tall(of)): Title[] =>
    fitTitles(of, copy, (one, width) => painter.measure(one, width));
  /** Shares of the picture at which the ink of a title begins and ends. */
  function ink(of: Title): { left: number; right: number; top: number; bottom: number } {
    const { data, left, top, width, height } = painter.draw(of, 5, WIDE, HIGH)!;
    let [l, r, t, b] = [Infinity, 0, Infinity, 0];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        if (data[(y * width + x) * 4 + 3] > 40)
          [l, r, t, b] = [Math.min(l, x + left), Math.max(r, x + left), Math.min(t, y + top), Math.max(b, y + top)];
    return { left: l / WIDE, right: r / WIDE, top: t / HIGH, bottom: b / HIGH };
  }

  it('measures what is drawn, with its box', () => {
    const plain = painter.measure(title('t', { text: 'Slow as the hill' }), 480);
    expect(plain.lines).equal(1);
    const drawn = painter.draw(title('t', { text: 'Slow as the hill', y: 0.5 }), 5, 480, 270)!;
    const columns = Array.from({ length: drawn.width }, (_, x) => x).filter((x) =>
      Array.from({ length: drawn.height }, (_, y) => drawn.data[(y * drawn.width + x) * 4 + 3]).some((v) => v > 40),
    );
    expect(plain.wide).closeTo(columns.at(-1)! - columns[0] + 1, 4);
    expect(plain.widest).below(plain.wide / 2);
    const boxed = painter.measure(title('t', { dress: { ...newDress(), box: 1, boxPadding: 0.5 } }), 480);
    expect(boxed.wide - painter.measure(title('t'), 480).wide).closeTo(30, 0.01);
    expect(painter.measure(title('t', { text: 'Slow as the hill' }), 120).lines).above(1);
  });

  it('all of a text is in the safe area, from whichever side it is anchored', () => {
    const long = { text: 'Heather honey, slow as the hill' };
    const of = cut(
      title('l', { ...long, align: 'left', x: 0.5, y: 0.1 }),
      title('c', { ...long, x: 0.9, y: 0.5 }),
      title('r', { ...long, align: 'right', x: 0.2, y: 0.95 }),
    );
    for (const one of fitted(of)) {
      const { left, right, top, bottom } = ink(one);
      expect(left, one.id).least(0.05);
      expect(right, one.id).most(0.95);
      expect(top, one.id).least(0.08);
      expect(bottom, one.id).most(0.92);
    }
  });

  it('a word that is wider than that gets smaller, and a title takes at most a line more, down to a share of its size', () => {
    const copy = tall(cut(title('w', { text: 'VELLOWMEREHONEY', size: 60 })));
    const [word] = fitted(cut(title('w', { text: 'VELLOWMEREHONEY', size: 60 })), copy);
    expect(word.size).below(copy.titles[0].size);
    expect(ink(word).right - ink(word).left).within(0.8, 0.9);
    const many = title('m', { text: 'Made in small numbers, until it is gone', size: 26 });
    const [few] = fitted(cut(many));
    expect(painter.measure(few, WIDE).lines).most(painter.measure(many, 480).lines + 1);
    expect(few.size).least(tall(cut(many)).titles[0].size * 0.6 - 0.01);
    // One that has room keeps its size.
    const [small] = fitted(cut(title('s', { x: 0.5, y: 0.5 })));
    expect(small).deep.include({ size: tall(cut(title('s'))).titles[0].size, x: 0.5, y: 0.5 });
  });

  it('titles that lay apart do not lie over each other; those that did, or are not seen at once, may', () => {
    const lines = { text: 'Heather honey from the moor' };
    const apart = cut(title('a', { ...lines, y: 0.5 }), title('b', { ...lines, y: 0.66 }));
    const [a, b] = fitted(apart).map(ink);
    expect(b.top).least(a.bottom);
    const stacked = cut(title('a', { ...lines, y: 0.5 }), title('b', { ...lines, y: 0.5 }));
    expect(fitted(stacked)[1].y).equal(fitted(stacked)[0].y);
    const later = cut(title('a', { ...lines, y: 0.5 }), title('b', { ...lines, y: 0.66, start: 40 }));
    expect(fitted(later)[1].y).closeTo(0.66, 1e-5);
    // The one above gives way upwards.
    const above = cut(title('a', { ...lines, y: 0.5 }), title('b', { ...lines, y: 0.34 }));
    const [low, high] = fitted(above).map(ink);
    expect(high.bottom).most(low.top);
  });

  it('keyed places and letters along a stroke are left as they are', () => {
    const keyed = runCommand(
      cut(title('k', { x: 0.95, text: 'Slow as the hill' })),
      keyTitle('k', 'Key', { x: [{ frame: 0, value: 0.9, ease: 'linear' }] }),
    );
    const copy = tall(keyed);
    expect(fitted(keyed, copy)).deep.equal(copy.titles);
    const along = cut(title('s', { along: 'x', x: 0.95 }));
    expect(fitted(along)).deep.equal(tall(along).titles);
  });
});
