import { expect } from 'chai';
import { nudgePart, partBetween } from '../src/composite/region.ts';
import { formatNumber, parseNumber } from '../src/ui/parse-number.ts';
import { frameUnder, labelStep, percent } from '../src/timeline/lane.ts';
import { tapTempo, rowsOf, waveOutline } from '../src/promo/layout.ts';
import { durationLabel } from '../src/ui/duration-label.ts';
import { AdaptiveQuality } from '../src/viewer/quality.ts';
import { companionsOf } from '../src/products/model-kinds.ts';
import { kept } from '../src/controls/kept.ts';
import { lengthWords, rigWords, sizeWords, unitOffer } from '../src/controls/size-words.ts';
import { newTitle } from '@tender-orbit/core/document';

describe('web: numbers as people type them', () => {
  it('plain, with arithmetic, with a comma', () => {
    expect(parseNumber('12')).equal(12);
    expect(parseNumber(' -0.5 ')).equal(-0.5);
    expect(parseNumber('360*5')).equal(1800);
    expect(parseNumber('12/2 + 1')).equal(7);
    expect(parseNumber('(1 + 2) * -3')).equal(-9);
    expect(parseNumber('1,5')).equal(1.5);
  });

  it('with a unit, turned into that of the field', () => {
    expect(parseNumber('1.2 m', 'cm')).closeTo(120, 1e-9);
    expect(parseNumber('35mm', 'cm')).closeTo(3.5, 1e-9);
    expect(parseNumber('1m + 20cm', 'cm')).closeTo(120, 1e-9);
    expect(parseNumber('5600K', 'K')).equal(5600);
    expect(parseNumber('80%', '%')).equal(80);
  });

  it('nothing else: no names, no calls, no infinity, no endless text', () => {
    for (const text of [
      '',
      'x',
      'NaN',
      'Infinity',
      '1/0',
      '2 kg',
      'alert(1)',
      'a.b',
      '1;2',
      '[1]',
      '1'.repeat(500),
      '((((',
    ])
      expect(parseNumber(text, 'cm'), text).equal(null);
  });

  it('are shown with as many decimals as their step needs', () => {
    expect(formatNumber(9.190001, 0.1)).equal('9.19');
    expect(formatNumber(5.0, 1)).equal('5');
    expect(formatNumber(0.1 + 0.2, 0.01)).equal('0.3');
  });
});

describe('web: time lines', () => {
  it('place frames by share and read them back from the pointer', () => {
    expect(percent(12, 48)).equal('25.0000%');
    expect(frameUnder(150, { left: 100, width: 200 }, 48)).equal(12);
  });

  it('label no more than fits', () => {
    for (const seconds of [0.4, 3, 17, 65, 900]) expect(seconds / labelStep(seconds, 14)).at.most(14);
  });

  it('stack titles only where they overlap', () => {
    const at = (id: string, start: number, length: number) => newTitle(id, { start, length });
    const rows = rowsOf([at('c', 20, 10), at('a', 0, 10), at('b', 5, 10), at('d', 10, 5)]);
    expect([...rows].sort()).deep.equal([
      ['a', 0],
      ['b', 1],
      ['c', 0],
      ['d', 0],
    ]);
  });

  it('draw a wave as one closed outline, symmetric about the middle', () => {
    expect(waveOutline([0.5, 1], 100, 40)).equal('M0.00 10.00L50.00 0.00L50.00 40.00L0.00 30.00Z');
    expect(waveOutline([], 100, 40)).equal('');
  });

  it('hear the tempo of taps, one late finger included', () => {
    expect(tapTempo([0, 625, 1250, 1875])).equal(96);
    expect(tapTempo([0, 500, 1000, 1700, 2000, 2500])).equal(120);
    expect(tapTempo([0, 500, 1000])).equal(0);
  });

  it('say how long is left as people do', () => {
    expect([0.2, 40, 720, 4810].map(durationLabel)).deep.equal(['1 s', '40 s', '12 min', '1 h 20 min']);
  });
});

describe('web: the viewer', () => {
  it('draws coarser while things move on a slow machine, finer on a fast one, and in full at rest', () => {
    const quality = new AdaptiveQuality();
    const wide = 2000;
    expect(quality.scale(true, wide)).equal(1);
    for (let i = 0; i < 9; i++) quality.measured(500);
    expect(quality.scale(true, wide)).below(0.5);
    expect(quality.scale(false, wide)).equal(1);
    // A small picture stays wide enough to tell something.
    expect(quality.scale(true, 720) * 720).closeTo(480, 1e-9);
    expect(quality.scale(true, 300)).equal(1);
    for (let i = 0; i < 9; i++) quality.measured(4);
    expect(quality.scale(true, wide)).equal(1);
  });
});

describe('web: model files that are brought', () => {
  const files = ['jar.obj', 'jar.mtl', 'Label art.PNG', 'notes.txt', 'lid.stl'].map((name) => ({ name }));

  it('bring what they may refer to, and nothing else', () => {
    expect(companionsOf(files[0], files).map((f) => f.name)).deep.equal(['jar.mtl', 'Label art.PNG']);
    expect(companionsOf(files[4], files)).deep.equal([]);
  });

  it('are said in a unit that reads well', () => {
    expect([0.002, 0.155, 1.2, 155, 0.0032].map(lengthWords)).deep.equal([
      '2 mm',
      '15.5 cm',
      '120 cm',
      '155 m',
      '3.2 mm',
    ]);
    expect(sizeWords([80, 120.04, 80], 0.001)).equal('8 x 12 x 8 cm');
    expect(unitOffer('mm', [10, 155, 20])).equal('In millimetres: 15.5 cm');
    expect(rigWords(2, 1)).equal('2 lights and 1 camera');
    expect(rigWords(0, 0)).equal('');
  });
});

describe('web: the part of a picture that is rendered', () => {
  it('lies between two corners in any order, inside the picture, never too small to see', () => {
    expect(partBetween(0.7, 0.6, 0.2, 0.1)).deep.equal({ x0: 0.2, y0: 0.1, x1: 0.7, y1: 0.6 });
    expect(partBetween(-1, -1, 2, 2)).deep.equal({ x0: 0, y0: 0, x1: 1, y1: 1 });
    const dot = partBetween(1, 1, 1, 1);
    expect(dot.x1 - dot.x0).closeTo(0.04, 1e-9);
    expect(dot.x1).at.most(1);
  });

  it('is moved as a whole up to the edge, or grown by its far corner', () => {
    const part = { x0: 0.2, y0: 0.2, x1: 0.6, y1: 0.5 };
    expect(nudgePart(part, 0.1, -0.1, false)).deep.equal({ x0: 0.3, y0: 0.1, x1: 0.7, y1: 0.4 });
    expect(nudgePart(part, 9, 0, false)).deep.equal({ x0: 0.6, y0: 0.2, x1: 1, y1: 0.5 });
    expect(nudgePart(part, 0.1, 0.2, true)).deep.equal({ x0: 0.2, y0: 0.2, x1: 0.7, y1: 0.7 });
  });
});

describe('kept values', () => {
  it('are the same objects where nothing changed, and new ones where something did', () => {
    const before = { rows: [{ id: 'a', at: [1, 2] }, { id: 'b' }], more: { x: Number.NaN } };
    expect(kept(before, structuredClone(before))).equal(before);
    const after = kept(before, { ...structuredClone(before), rows: [{ id: 'a', at: [1, 3] }, { id: 'b' }] });
    expect(after).not.equal(before);
    expect(after.rows[0]).deep.equal({ id: 'a', at: [1, 3] });
    expect(after.rows[1]).equal(before.rows[1]);
    expect(after.more).equal(before.more);
  });

  it('notice what is gone, longer, or of another kind', () => {
    const same = (a: unknown, b: unknown): boolean => kept(a, b) === a;
    expect(same({ a: 1, b: undefined }, { a: 1 })).equal(false);
    expect(same([1], [1, undefined])).equal(false);
    expect(same([], {})).equal(false);
    expect(same(null, {})).equal(false);
    const own = new Map();
    expect(kept({ own: new Map() }, { own }).own).equal(own);
  });
});
