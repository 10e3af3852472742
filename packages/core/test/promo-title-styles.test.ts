import { expect } from 'chai';
import {
  addTitle,
  newPromo,
  newTitle,
  runCommand,
  setVariables,
  styleOf,
  styleTitles,
  validateDocument,
  type ArrivalKind,
  type Title,
} from '@tender-orbit/core/document';
import { countUp, fillIn, filledTitle, slotsOf, TITLE_LOOKS, type TitlePainter } from '@tender-orbit/core/promo';
import type { Overlay } from '@tender-orbit/core/picture';
import { openPainter } from './title-box.ts';

const title = (values: Partial<Title> = {}): Title =>
  newTitle('t', {
    ...{ text: 'Vellowmere', size: 40, x: 0.5, y: 0.5, start: 0, length: 60, colour: '#FFFFFF' },
    arrive: { kind: 'none', frames: 0 },
    leave: { kind: 'none', frames: 0 },
    ...values,
  });

describe('titles: words from elsewhere', () => {
  it('variables are filled in by their names; what is not known stays as it is written', () => {
    const variables = [
      { name: 'Product', value: 'Heather honey' },
      { name: 'price', value: '12.50' },
    ];
    expect(fillIn('{product}, {Price} a jar', variables)).equal('Heather honey, 12.50 a jar');
    expect(fillIn('{season} {product}', variables)).equal('{season} Heather honey');
    expect(slotsOf('{a} and { b } and {a}, {}')).deep.equal(['a', 'b']);
    const plain = title();
    expect(filledTitle(plain, variables)).equal(plain);
    const promo = runCommand(newPromo('P', 64, 64), setVariables(variables));
    expect(validateDocument('promo', promo).variables).deep.equal(variables);
    expect('variables' in runCommand(promo, setVariables([]))).equal(false);
  });

  it('numbers count up with their own decimals, thousands and zeros', () => {
    expect(countUp('1,200 jars', 0.5)).equal('600 jars');
    expect(countUp('12,000', 0.5)).equal('6,000');
    expect(countUp('4.50 and 007', 0.5)).equal('2.25 and 004');
    expect(countUp('no number', 0.2)).equal('no number');
    expect(countUp('98 %', 1)).equal('98 %');
    expect(countUp('98 %', 0)).equal('0 %');
  });
});

describe('titles: styles', () => {
  it('go to other titles without their words, their place and the times of their parts', () => {
    const styled = title({
      font: 'caveat-700',
      fill: { colour: '#FF0000', angle: 90 },
      balanced: true,
      parts: { part: 'word', order: 'back', overlap: 0.2, seed: 4, times: [0, 9] },
    });
    const other = title({ id: 'u', text: 'Slow', x: 0.1, start: 12, measure: 0.4 });
    let promo = runCommand({ ...newPromo('P', 64, 64) }, addTitle(styled));
    promo = runCommand(promo, addTitle(other));
    const made = runCommand(promo, styleTitles(['u'], styleOf(promo.titles[0])));
    expect(made.titles[1]).include({ text: 'Slow', x: 0.1, start: 12, font: 'caveat-700', balanced: true });
    expect(made.titles[1].parts).deep.include({ order: 'back', times: [] });
    expect('measure' in made.titles[1]).equal(false);
    expect(validateDocument('promo', made)).deep.equal(made);
  });

  it('of the gallery are sound, each another', () => {
    const promo = TITLE_LOOKS.reduce(
      (document, { style }, i) =>
        runCommand(runCommand(document, addTitle(title({ id: `t${i}` }))), styleTitles([`t${i}`], style)),
      newPromo('P', 64, 64),
    );
    expect(validateDocument('promo', promo)).deep.equal(promo);
    expect(new Set(TITLE_LOOKS.map(({ style }) => JSON.stringify(style))).size).equal(TITLE_LOOKS.length);
    expect(TITLE_LOOKS.length).least(8);
  });
});

describe('titles: how they are drawn', () => {
  let painter: TitlePainter;
  before(async () => {
    painter = await openPainter();
  });
  after(() => painter.dispose());
  const draw = (values: Partial<Title>, frame = 30): Overlay | null => painter.draw(title(values), frame, 320, 180);
  /** Rows and columns that have ink, and all of it. */
  function inkOf(drawn: Overlay | null): {
    rows: number;
    columns: number;
    left: number;
    top: number;
    wide: number;
    sum: number;
  } {
    if (!drawn) return { rows: 0, columns: 0, left: 0, top: 0, wide: 0, sum: 0 };
    const [rows, columns] = [new Set<number>(), new Set<number>()];
    let sum = 0;
    for (let i = 3; i < drawn.data.length; i += 4) {
      sum += drawn.data[i];
      if (drawn.data[i] < 100) continue;
      rows.add(drawn.top + Math.floor((i >> 2) / drawn.width));
      columns.add(drawn.left + ((i >> 2) % drawn.width));
    }
    const left = Math.min(...columns);
    const wide = Math.max(...columns) - left;
    return { rows: rows.size, columns: columns.size, left, top: Math.min(...rows), wide, sum };
  }
  const arriving = (kind: ArrivalKind, frame: number, parts = false): Overlay | null =>
    draw(
      {
        arrive: { kind, frames: 20 },
        ...(parts && { parts: { part: 'letter', order: 'forward', overlap: 0.5, seed: 1, times: [] } }),
      },
      frame,
    );

  for (const kind of ['unmask', 'blur', 'turn', 'tracking', 'flicker', 'count'] as const)
    for (const parts of [false, true])
      it(`${kind} arrives ${parts ? 'letter by letter' : 'at once'} and ends where a title rests`, () => {
        const rest = inkOf(draw({}));
        const there = inkOf(arriving(kind, 40, parts));
        expect(there.sum).closeTo(rest.sum, 0.01 * rest.sum);
        expect(there.left).closeTo(rest.left, 1);
        if (kind === 'count' || kind === 'flicker') return;
        const early = inkOf(arriving(kind, 4, parts));
        expect(Math.abs(early.sum - rest.sum) + Math.abs(early.columns - rest.columns)).above(5);
      });

  it('one that comes out of its line is hidden above and below it', () => {
    const rest = inkOf(draw({}));
    const half = arriving('unmask', 3);
    const now = inkOf(half);
    expect(now.rows).below(rest.rows);
    expect(now.top).above(rest.top);
    expect(inkOf(arriving('unmask', 0)).rows).below(now.rows);
  });

  it('blur spreads it, a turn turns it, tracking widens it, numbers count', () => {
    const rest = inkOf(draw({}));
    const { wide } = inkOf(arriving('tracking', 10));
    expect(wide).above(rest.wide * 1.02);
    expect(inkOf(arriving('turn', 6)).rows).above(rest.rows * 1.3);
    const counted = (frame: number): Overlay | null =>
      draw({ text: '80', arrive: { kind: 'count', frames: 20 } }, frame);
    const zero = painter.draw(title({ text: '0' }), 30, 320, 180)!;
    expect(inkOf(counted(0)).columns).closeTo(inkOf(zero).columns, 25);
    expect(inkOf(counted(30)).sum).equal(inkOf(draw({ text: '80' })).sum);
  });

  it('letters flicker by themselves, the same each time', () => {
    const once = arriving('flicker', 8, true)!;
    expect(Buffer.from(once.data).equals(Buffer.from(arriving('flicker', 8, true)!.data))).equal(true);
    const sums = [6, 7, 8, 9, 10].map((frame) => inkOf(arriving('flicker', frame, true)).sum);
    expect(new Set(sums).size).above(3);
  });

  it('a fill goes from its colour to the other across the text, or up it', () => {
    const side = (angle: number, far: 'right' | 'top'): number => {
      const { data, width, height } = draw({ colour: '#0000FF', fill: { colour: '#FF0000', angle } })!;
      let [red, blue] = [0, 0];
      for (let i = 0; i < data.length; i += 4) {
        const [x, y] = [(i >> 2) % width, Math.floor((i >> 2) / width)];
        if (far === 'right' ? x < width * 0.6 : y > height * 0.45) continue;
        red += data[i];
        blue += data[i + 2];
      }
      return red / (red + blue);
    };
    expect(side(0, 'right')).above(0.6);
    expect(side(180, 'right')).below(0.4);
    expect(side(90, 'top')).above(0.55);
    expect(side(-90, 'top')).below(0.45);
  });

  it('lines are as long as they are told, and alike where they are balanced', () => {
    const text = 'slow as the hill and as dark as the heath';
    const wide = inkOf(draw({ text, size: 20, measure: 0.9 }));
    const narrow = inkOf(draw({ text, size: 20, measure: 0.4 }));
    expect(narrow.columns).below(wide.columns * 0.6);
    expect(narrow.rows).above(wide.rows * 1.5);
    const balanced = inkOf(draw({ text, size: 20, measure: 0.9, balanced: true }));
    expect(balanced.columns).below(wide.columns * 0.85);
    // As many lines as before.
    expect(balanced.rows).closeTo(wide.rows, 4);
  });
});
