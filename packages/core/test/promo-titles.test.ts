import { expect } from 'chai';
import { newDress, newTitle, type PartByPart } from '@tender-orbit/core/document';
import { partTimes, titleParts, type TitlePainter } from '@tender-orbit/core/promo';
import { openPainter } from './title-box.ts';

describe('promo: titles part by part', () => {
  let painter: TitlePainter;
  before(async () => {
    painter = await openPainter();
  });
  after(() => painter.dispose());

  const title = newTitle('t', {
    ...{ text: 'slow as hill', size: 30, x: 0.5, y: 0.5, start: 0, length: 60, colour: '#FFFFFF' },
    arrive: { kind: 'fade', frames: 30 },
    leave: { kind: 'none', frames: 0 },
    parts: { part: 'word', order: 'forward', overlap: 0, seed: 1, times: [] },
  });
  /** Ink in each third of the picture. */
  const thirds = (values: Partial<typeof title>, frame: number): number[] => {
    const drawn = painter.draw({ ...title, ...values }, frame, 300, 100);
    const sums = [0, 0, 0];
    if (drawn)
      for (let i = 3; i < drawn.data.length; i += 4)
        sums[Math.min(2, Math.floor((drawn.left + ((i >> 2) % drawn.width)) / 100))] += drawn.data[i];
    return sums;
  };

  it('a text falls into words, letters and lines', () => {
    const texts = (text: string, part: 'line' | 'word' | 'letter'): string[] =>
      titleParts(text, part).map(({ from, to }) => text.slice(from, to));
    expect(texts('slow as\nthe hill', 'line')).deep.equal(['slow as', 'the hill']);
    expect(texts(' slow  as ', 'word')).deep.equal(['slow', 'as']);
    expect(texts('a é', 'letter')).deep.equal(['a', 'é']);
  });

  it('parts share their time as they overlap, go in their order, or wait for times of their own', () => {
    const begins = (values: object, count = 3): number[] =>
      partTimes({ ...title, parts: { ...title.parts!, ...values } }, count).map(({ begin }) => begin);
    expect(begins({})).deep.equal([0, 10, 20]);
    expect(begins({ order: 'back' })).deep.equal([20, 10, 0]);
    expect(begins({ order: 'middle' }, 5)).deep.equal([18, 6, 0, 12, 24]);
    expect(begins({ overlap: 1 })).deep.equal([0, 0, 0]);
    expect(begins({ times: [0, 12, 24] })).deep.equal([0, 12, 24]);
    expect([...begins({ order: 'random', seed: 3 })].sort((a, b) => a - b)).deep.equal([0, 10, 20]);
    const { begin, frames } = partTimes({ ...title, parts: { ...title.parts!, overlap: 0.5 } }, 3)[2];
    expect(begin + frames).closeTo(30, 1e-9);
  });

  it('words come one after the other, and in the end all is as it would be at once', () => {
    const [early, later] = [thirds({}, 8), thirds({}, 22)];
    expect(early[0]).above(0);
    expect(early[2]).equal(0);
    expect(later[0]).above(early[0]);
    expect(later[2]).above(0);
    const whole = painter.draw({ ...title, parts: undefined }, 50, 300, 100)!;
    const parts = painter.draw(title, 50, 300, 100)!;
    const sum = (data: ArrayLike<number>): number => Array.from(data).reduce((a, b) => a + b, 0);
    expect(sum(parts.data)).closeTo(sum(whole.data), sum(whole.data) * 0.01);
    expect(thirds({ parts: { ...title.parts!, order: 'back' } }, 8)[0]).equal(0);
    expect(thirds({ arrive: { kind: 'type', frames: 30 } }, 0)[0]).above(0);
  });

  it('wears an outline, a shadow and a box, which lie behind its letters and only where they are seen', () => {
    const plain = { ...title, parts: undefined };
    const of = (values: object, parts?: PartByPart, frame = 50) =>
      painter.draw({ ...plain, parts, dress: { ...newDress(), ...values } }, frame, 300, 100)!;
    /** Pixels that are more red than white letters ever are. */
    const red = ({ data }: { data: ArrayLike<number> }): number => {
      let count = 0;
      for (let i = 0; i < data.length; i += 4) if (data[i] > data[i + 1] + 60) count++;
      return count;
    };
    expect(red(of({}))).equal(0);
    const outlined = red(of({ outline: 0.06, outlineColour: '#FF0000' }));
    expect(outlined).above(200);
    expect(red(of({ outline: 0.12, outlineColour: '#FF0000' }))).above(outlined);
    expect(red(of({ shadow: 1, shadowColour: '#FF0000', shadowDown: 0.1, shadowBlur: 0 }))).above(100);
    const box = of({ box: 1, boxColour: '#FF0000', boxPadding: 0.5, boxRadius: 0 });
    expect(red(box)).above(4 * outlined);
    // The letters lie over all of it.
    const white = ({ data }: { data: ArrayLike<number> }): number => {
      let count = 0;
      for (let i = 0; i < data.length; i += 4) if (data[i + 1] > 250 && data[i + 3] > 250) count++;
      return count;
    };
    expect(white(box)).closeTo(white(of({})), 0.05 * white(of({})));
    const words = { part: 'word' as const, order: 'forward' as const, overlap: 0, seed: 1, times: [] };
    const first = red(of({ outline: 0.06, outlineColour: '#FF0000' }, words, 10));
    expect(first).above(20);
    expect(first).below(outlined * 0.6);
  });
});
