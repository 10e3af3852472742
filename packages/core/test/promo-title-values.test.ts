import { expect } from 'chai';
import {
  addTitle,
  changeTitle,
  clearRun,
  clearTitleKeys,
  copyTitle,
  deleteTitle,
  editedRuns,
  keyTitle,
  newLayer,
  newPromo,
  newTitle,
  retimePromo,
  runCommand,
  saidOfTitle,
  setRun,
  toggleKey,
  validateDocument,
  writeTitle,
  type ArrivalKind,
  type Key,
  type Layer,
  type LayerOf,
  type PromoDocument,
  type Title,
} from '@tender-orbit/core/document';
import type { Overlay, Picture } from '@tender-orbit/core/picture';
import {
  assemble,
  bentAlong,
  countedTitle,
  filledTitle,
  frameKey,
  promoTexts,
  strokeUnder,
  takeFramesAt,
  TITLE_MOVES,
  titleAt,
  titleMove,
  titleValues,
  type TitlePainter,
} from '@tender-orbit/core/promo';
import { plates } from './composite-box.ts';
import { openPainter } from './title-box.ts';

const [WIDE, HIGH] = [480, 270];
const still = { kind: 'none', frames: 0 } as const;
const title = (values: Partial<Title> = {}): Title =>
  newTitle('t', { text: 'Slow as the hill', size: 36, y: 0.5, arrive: still, leave: still, length: 41, ...values });
const promoOf = (...titles: Title[]): PromoDocument => ({ ...newPromo('P', WIDE, HIGH), titles });
const keys = (...list: Array<[frame: number, value: number]>): Array<Key<number>> =>
  list.map(([frame, value]) => ({ frame, value, ease: 'linear' }));

describe('promo: keyed titles', () => {
  const keyed = runCommand(promoOf(title({ start: 10 })), keyTitle('t', 'Key', { x: keys([0, 0.2], [40, 0.6]) }));

  it('have their values at frames of their own, and stay beyond their keys', () => {
    expect(titleAt(keyed.titles[0], keyed, 10).x).closeTo(0.2, 1e-9);
    expect(titleAt(keyed.titles[0], keyed, 30).x).closeTo(0.4, 1e-9);
    expect(titleAt(keyed.titles[0], keyed, 99).x).closeTo(0.6, 1e-9);
    expect(titleAt(keyed.titles[0], keyed, 30)).deep.include({ text: 'Slow as the hill', y: 0.5 });
    // What keys do not hold is as the title says, and what it does not say as usual.
    expect(titleValues(keyed.titles[0], keyed)(20)).deep.include({ scale: 1, opacity: 1, weight: 400, stretch: 100 });
    const plain = promoOf(title());
    expect(titleAt(plain.titles[0], plain, 3)).equal(plain.titles[0]);
  });

  it('say only what is not usual', () => {
    expect(saidOfTitle('scale', 1)).deep.equal({ scale: undefined });
    expect(saidOfTitle('scale', 2)).deep.equal({ scale: 2 });
    expect(saidOfTitle('x', 0.5)).deep.equal({ x: 0.5 });
  });

  it('carry their keys along, and keep them where they are when their beginning is trimmed', () => {
    const carried = runCommand(keyed, changeTitle('t', 'Move', { start: 30 }));
    expect(titleAt(carried.titles[0], carried, 50).x).closeTo(0.4, 1e-9);
    const trimmed = runCommand(keyed, changeTitle('t', 'Trim', { start: 18, length: 33 }));
    for (const frame of [18, 30, 45])
      expect(titleAt(trimmed.titles[0], trimmed, frame).x).closeTo(titleAt(keyed.titles[0], keyed, frame).x, 1e-9);
    const twice = runCommand(keyed, retimePromo(2));
    expect(titleAt(twice.titles[0], twice, 60).x).closeTo(0.4, 0.006);
  });

  it('take their keys with them when they are copied, and away when they are deleted or come to rest', () => {
    const copied = runCommand(keyed, copyTitle('t', { ...keyed.titles[0], id: 'u', start: 60 }));
    expect(titleAt(copied.titles[1], copied, 80).x).closeTo(0.4, 1e-9);
    const left = runCommand(copied, deleteTitle('t'));
    expect(left.tracks.map(({ thing }) => thing)).deep.equal(['u']);
    expect(runCommand(left, clearTitleKeys('u')).tracks).deep.equal([]);
    const by = runCommand(keyed, toggleKey({ thing: 't', path: 'x', frame: 40 }, 0.6, 'across'));
    expect(by.tracks[0].keys).length(1);
    expect(validateDocument('promo', JSON.parse(JSON.stringify(copied)))).deep.equal(copied);
  });

  it('another picture is asked for where keys move them, and none where they rest', () => {
    const key = (frame: number): string => frameKey(keyed, frame, () => 0);
    const shown = { ...keyed, titles: [{ ...keyed.titles[0], start: 0 }] };
    expect(frameKey(shown, 10, () => 0)).not.equal(frameKey(shown, 11, () => 0));
    expect(key(0)).equal(key(5));
  });

  it('move by recipe from where they lie, and end where keys say', () => {
    const ground = { length: 41, beats: [10, 20, 30], strength: 1, seed: 3 };
    const push = titleMove('slow push', title({ scale: 2 }), ground, 16 / 9).scale!;
    expect([push[0].value, push.at(-1)!.value]).deep.equal([2, 2.16]);
    const drift = titleMove('drift', title({ x: 0.4 }), ground, 16 / 9).x!;
    expect(drift[0].value).closeTo(0.4 - (0.05 * 9) / 16, 1e-9);
    expect(drift[1].value).closeTo(0.4 + (0.05 * 9) / 16, 1e-9);
    expect(
      titleMove('letters drift apart', title({ tracking: 0.1 }), ground, 1).tracking!.map((k) => k.value),
    ).deep.equal([0.1, 0.18]);
    for (const move of TITLE_MOVES) {
      const made = runCommand(promoOf(title()), keyTitle('t', move, titleMove(move, title(), ground, 16 / 9)));
      expect(made.tracks.length, move).above(0);
      expect(() => validateDocument('promo', made)).not.throw();
    }
  });
});

describe('promo: letters set apart', () => {
  const gold = (from: number, to: number) => ({ from, to, colour: '#E0A63C' });

  it('stay with their letters when the text is written on, and go with them', () => {
    const promo = runCommand(promoOf(title()), setRun('t', 'Set', gold(5, 7)));
    const written = (text: string): Array<[number, number]> =>
      (runCommand(promo, writeTitle('t', text)).titles[0].runs ?? []).map(({ from, to }) => [from, to]);
    expect(written('So slow as the hill')).deep.equal([[8, 10]]);
    expect(written('Slow as the hills')).deep.equal([[5, 7]]);
    expect(written('Slow axs the hill')).deep.equal([[5, 8]]);
    expect(written('Slow the hill')).deep.equal([]);
    expect(written('')).deep.equal([]);
  });

  it('what takes the place of a whole run is of it, what meets its edge is not', () => {
    const at = (run: [number, number], ...edits: Array<[number, number, number]>): number[] => {
      const made = editedRuns(
        [{ from: run[0], to: run[1] }],
        edits.map(([from, to, letters]) => ({ from, to, letters })),
      );
      return made.flatMap(({ from, to }) => [from, to]);
    };
    expect(at([2, 5], [2, 5, 9])).deep.equal([2, 11]);
    expect(at([2, 5], [0, 1, 4])).deep.equal([5, 8]);
    expect(at([2, 5], [1, 3, 6])).deep.equal([7, 9]);
    expect(at([2, 5], [4, 6, 6])).deep.equal([2, 4]);
    expect(at([2, 5], [5, 5, 3])).deep.equal([2, 5]);
    expect(at([2, 5], [2, 2, 3])).deep.equal([5, 8]);
    expect(at([2, 5], [0, 9, 1])).deep.equal([]);
    expect(at([6, 8], [0, 2, 1], [3, 5, 4])).deep.equal([7, 9]);
  });

  it('take up letters of others, and are cleared one by one', () => {
    let promo = runCommand(promoOf(title()), setRun('t', 'Set', gold(0, 11)));
    promo = runCommand(promo, setRun('t', 'Set', { from: 5, to: 7, size: 2 }));
    expect(promo.titles[0].runs!.map(({ from, to }) => [from, to])).deep.equal([
      [0, 5],
      [5, 7],
      [7, 11],
    ]);
    expect(validateDocument('promo', JSON.parse(JSON.stringify(promo)))).deep.equal(promo);
    promo = runCommand(promo, clearRun('t', 5));
    expect(promo.titles[0].runs).length(2);
    for (const from of [0, 7]) promo = runCommand(promo, clearRun('t', from));
    expect('runs' in promo.titles[0]).equal(false);
  });

  it('are found again where a value is filled in, and where numbers count up', () => {
    const filled = filledTitle(title({ text: '{a} for {b}', runs: [gold(8, 11)] }), [
      { name: 'a', value: 'Heather honey' },
      { name: 'b', value: '12' },
    ]);
    expect(filled.text.slice(filled.runs![0].from, filled.runs![0].to)).equal('12');
    const counted = countedTitle(title({ text: '1,200 jars', runs: [gold(6, 10)] }), 0.1);
    expect(counted.text.slice(counted.runs![0].from)).equal('jars');
  });

  it('have their own fonts got', () => {
    const promo = promoOf(title({ runs: [{ from: 0, to: 4, font: 'great-vibes-400' }] }));
    expect(promoTexts(promo, []).map(({ font }) => font)).deep.equal(['fraunces-600', 'great-vibes-400']);
  });
});

describe('promo: letters drawn', () => {
  let painter: TitlePainter;
  before(async () => void (painter = await openPainter()));
  after(() => painter.dispose());
  const draw = (values: Partial<Title>, ground?: Parameters<TitlePainter['draw']>[4], frame = 5): Overlay =>
    painter.draw(title(values), frame, WIDE, HIGH, ground)!;
  /** Bounds of what is solid enough, and the sums of its colours. */
  function ink({ data, width, height, left, top }: Overlay, wanted = (_r: number, _g: number, _b: number) => true) {
    let [l, t, r, b, count] = [Infinity, Infinity, -Infinity, -Infinity, 0];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const at = (y * width + x) * 4;
        if (data[at + 3] < 100 || !wanted(data[at], data[at + 1], data[at + 2])) continue;
        [l, t, r, b, count] = [Math.min(l, x), Math.min(t, y), Math.max(r, x), Math.max(b, y), count + 1];
      }
    return { left: l + left, top: t + top, wide: r - l + 1, high: b - t + 1, count };
  }

  it('of a variable font are as heavy and as wide as its axes say, within what they allow', () => {
    const of = (weight: number, stretch: number) => ink(draw({ font: 'archivo-variable', weight, stretch }));
    expect(of(900, 100).count).above(of(200, 100).count * 1.8);
    expect(of(400, 125).wide).above(of(400, 62).wide * 1.4);
    expect(of(1000, 200)).deep.equal(of(900, 125));
    // A font without axes is as it is.
    expect(ink(draw({ weight: 900 }))).deep.equal(ink(draw({})));
  });

  it('are grown and turned about their middle, and as clear as they are said to be', () => {
    const [one, two] = [ink(draw({})), ink(draw({ scale: 1.6 }))];
    expect(two.wide / one.wide).closeTo(1.6, 0.03);
    expect(two.left + two.wide / 2).closeTo(one.left + one.wide / 2, 1.5);
    const upright = ink(draw({ text: 'HILL', rotation: 90 }));
    expect(upright.high).above(upright.wide * 1.5);
    const half = draw({ opacity: 0.5 });
    expect(Math.max(...half.data.filter((_, i) => i % 4 === 3))).closeTo(128, 1);
  });

  it('that are set apart have their own colour, size and height over the line', () => {
    const red = (r: number, g: number, b: number): boolean => r > 90 && g < r / 3 && b < r / 3;
    const plain = draw({ runs: [{ from: 0, to: 4, colour: '#FF0000' }] });
    const own = ink(plain, red);
    expect(own.left).equal(ink(plain).left);
    expect(own.wide).below(ink(plain).wide / 2);
    const large = ink(draw({ runs: [{ from: 0, to: 4, colour: '#FF0000', size: 2 }] }), red);
    expect(large.wide / own.wide).closeTo(2, 0.12);
    const raised = ink(draw({ runs: [{ from: 0, to: 4, colour: '#FF0000', raise: 0.5 }] }), red);
    expect(own.top - raised.top).closeTo(18, 1);
    expect(raised.left).closeTo(own.left, 1);
    // Four letters, each an eighth of an em farther from the next.
    const wide = ink(draw({ runs: [{ from: 0, to: 4, colour: '#FF0000', tracking: 0.125 }] }), red);
    expect(wide.wide - own.wide).closeTo(3 * 0.125 * 36, 1.5);
  });

  it('lines stand apart by their leading, and pairs of letters as far as any when they are not kerned', () => {
    const two = { text: 'HILL\nHILL' };
    expect(ink(draw({ ...two, leading: 2 })).high - ink(draw({ ...two, leading: 1 })).high).closeTo(36, 1.5);
    expect(ink(draw({ text: 'AVAVAV', unkerned: true })).wide).above(ink(draw({ text: 'AVAVAV' })).wide + 3);
  });

  it('show a picture that covers the text, and nothing of it beside them', () => {
    const picture: Picture = { width: 2, height: 1, data: new Uint8ClampedArray([255, 0, 0, 255, 0, 0, 255, 255]) };
    const drawn = draw({ font: 'bebas-neue-400', size: 80 }, { along: null, window: picture });
    const left = ink(drawn, (r, _, b) => r > 2 * b);
    const right = ink(drawn, (r, _, b) => b > 2 * r);
    expect(left.count).above(1000);
    expect(right.count).above(1000);
    expect(left.left + left.wide).below(right.left + right.wide / 2);
    // As much ink as with a colour, but for softer edges.
    const plain = ink(draw({ font: 'bebas-neue-400', size: 80 }));
    expect(ink(drawn).count / plain.count).within(0.93, 1.01);
    expect(ink(drawn).left).closeTo(plain.left, 1);
    expect(ink(drawn).wide).closeTo(plain.wide, 2);
  });

  it('come out of a colour and have their own once they are there', () => {
    const redness = (frame: number, kind: ArrivalKind): number => {
      const arrive = { kind, frames: 10, colour: '#FF0000' };
      const { data } = draw({ arrive, colour: '#FFFFFF' }, undefined, frame);
      let best = 0;
      for (let i = 0; i < data.length; i += 4) if (data[i] > 40) best = Math.max(best, 1 - data[i + 1] / data[i]);
      return best;
    };
    for (const kind of ['fade', 'unmask', 'type', 'count'] as const) {
      expect(redness(3, kind), kind).above(redness(6, kind) + 0.1);
      expect(redness(20, kind), kind).equal(0);
    }
  });

  describe('along a stroke', () => {
    const line = newLayer('stroke', 's', 'Way', { form: 'line', width: 1.2 } as Partial<Layer>) as LayerOf<'stroke'>;

    it('lie on it as they would on a line, and go along as the title’s place says', () => {
      const straight = ink(draw({ text: 'HILL' }, { along: line, window: null }));
      // Their feet stand on the line in the picture's middle, serifs a pixel below.
      expect(straight.top + straight.high).closeTo(HIGH / 2, 2);
      expect(straight.left + straight.wide / 2).closeTo(WIDE / 2, 2);
      const moved = ink(draw({ text: 'HILL', x: 0.75 }, { along: line, window: null }));
      expect(moved.left - straight.left).closeTo(0.25 * 1.2 * HIGH, 1.5);
      // What is beyond its end is not drawn.
      expect(ink(draw({ text: 'HILL', x: 1 }, { along: line, window: null })).wide).below(straight.wide * 0.7);
    });

    it('are turned with it, upright on its left', () => {
      const up = { ...line, rotation: 90 };
      const drawn = ink(draw({ text: 'HILL' }, { along: up, window: null }));
      expect(drawn.high).above(drawn.wide * 1.5);
      expect(drawn.left + drawn.wide).closeTo(WIDE / 2, 2.5);
      const circle = {
        length: 2 * Math.PI * 50,
        closed: true,
        at: (d: number) =>
          [50 * Math.cos(d / 50), 50 * Math.sin(d / 50), -Math.sin(d / 50), Math.cos(d / 50)] as [
            number,
            number,
            number,
            number,
          ],
      };
      const bend = bentAlong(circle, 0, 0, 100, [50, 0]);
      const quarter = bend([25 * Math.PI, -10])!;
      // A quarter of the way round letters stand on their heads: ten pixels above their line is below it.
      expect(Math.abs(quarter.turn)).closeTo(180, 1e-6);
      expect([25 * Math.PI + quarter.by[0], -10 + quarter.by[1]].map((v) => Math.round(v * 1e6) / 1e6 + 0)).deep.equal([
        0, 60,
      ]);
      // Over the end of a closed way they go on at its beginning.
      const over = bentAlong(circle, 1, 0, 100, [50, 0])([0, 0])!;
      expect(over.by[0]).closeTo(50, 1e-9);
    });

    it('find the stroke of the promo, hidden or over, with its keys', () => {
      const hidden = { ...line, visible: false, start: 3, length: 1, opacity: 0 };
      let promo: PromoDocument = { ...promoOf(title({ along: 's' })), layers: [hidden] };
      promo = runCommand(promo, toggleKey({ thing: 's', path: 'y', frame: 0 }, 0, 'up'));
      promo = runCommand(promo, toggleKey({ thing: 's', path: 'y', frame: 20 }, 0.2, 'up'));
      const [at0, at20] = [0, 20].map((frame) => strokeUnder(promo.titles[0], promo, frame)!);
      expect([at0.y, at20.y]).deep.equal([0, 0.2]);
      expect(strokeUnder(title({ along: 'gone' }), promo, 0)).equal(null);
      expect(frameKey(promo, 0, () => 0)).not.equal(frameKey(promo, 20, () => 0));
    });
  });

  it('a promo shows footage in them frame by frame, its last one past its end', () => {
    const footage = {
      id: 'f',
      name: 'F',
      list: 'a'.repeat(64),
      poster: 'b'.repeat(64),
      frames: 10,
      width: 2,
      height: 1,
      rate: 24,
    };
    const letters = title({ font: 'bebas-neue-400', size: 80, start: 5, window: { footage: 'f', first: 4 } });
    const promo: PromoDocument = { ...promoOf(letters), footage: [footage] };
    expect(takeFramesAt(promo, 7, () => 0)).deep.equal([{ take: 'f', frame: 6, weight: 1 }]);
    expect(takeFramesAt(promo, 40, () => 0)[0].frame).equal(9);
    expect(takeFramesAt(promo, 4, () => 0)).deep.equal([]);
    const blue: Picture = { width: 1, height: 1, data: new Uint8ClampedArray([0, 0, 255, 255]) };
    const made = assemble(plates, promo, 7, null, () => blue, painter);
    const seen = made.data.filter((v, i) => i % 4 === 2 && v > 200).length;
    expect(seen).above(1000);
    expect(made.data.some((v, i) => i % 4 === 0 && v > 0)).equal(false);
    expect(runCommand(promo, addTitle(title({ id: 'u' }))).titles).length(2);
  });
});
