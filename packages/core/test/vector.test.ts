import { expect } from 'chai';
import { readVector } from '@tender-orbit/core/composite';
import { newLayer, type Layer, type LayerOf } from '@tender-orbit/core/document';
import type { Overlay } from '@tender-orbit/core/picture';
import { drawnShare, strokePath, textDrawer, trimmed, type TitlePainter } from '@tender-orbit/core/promo';
import { openPainter } from './title-box.ts';

const svg = (inner: string, box = '0 0 100 50'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box}">${inner}</svg>`;

describe('vector pictures', () => {
  it('gives shapes, transforms and colours of a file: attributes, styles, classes, groups and gradients', () => {
    const text = svg(`
      <style>.leaf { fill: rgb(16, 32, 48); fill-opacity: .5 } .out { stroke: #abc; fill: none }</style>
      <defs><linearGradient id="g"><stop offset="0" style="stop-color: teal"/><stop offset="1" stop-color="red"/></linearGradient>
      <path d="M0 0 L9 9"/></defs>
      <g transform="translate(10 5)" fill="gold" opacity=".5"><rect width="20" height="10" transform="scale(2)"/></g>
      <path class="leaf" d="M0,0 l10,0 0,10 z" opacity="0.5"/>
      <circle class="out" cx="50" cy="25" r="5" stroke-width="2"/>
      <polygon points="0,0 4,0 4,4" fill="url(#g)" fill-rule="evenodd"/>
      <rect width="5" height="5" display="none"/><text>words</text>`);
    const { width, height, shapes } = readVector(text, 'logo.svg');
    expect([width, height]).deep.equal([100, 50]);
    expect(shapes.map((s) => s.fill)).deep.equal(['#FFD700', '#102030', '', '#008080']);
    expect(shapes[0].path).equal('M10 5H50V25H10Z');
    expect(shapes[0].fillOpacity).equal(0.5);
    expect(shapes[1].fillOpacity).equal(0.25);
    expect([shapes[2].stroke, shapes[2].strokeWidth]).deep.equal(['#AABBCC', 2]);
    expect(shapes[3].evenOdd).equal(true);
  });

  it('a picture whose box begins elsewhere begins at 0, one without a box is as large as it says', () => {
    const { shapes } = readVector(svg('<path d="M10 20 L30 20"/>', '10 20 40 40'), 'a.svg');
    expect(shapes[0].path).equal('M0 0L20 0');
    const plain = readVector('<svg width="30px" height="20"><path d="M0 0 L1 1"/></svg>', 'b.svg');
    expect([plain.width, plain.height]).deep.equal([30, 20]);
  });

  it('says by the file’s name what is no drawing, and why', () => {
    expect(() => readVector('<svg', 'x.svg')).throw('"x.svg" is no sound SVG file');
    expect(() => readVector('<p>a</p>', 'x.svg')).throw('"x.svg" holds no drawing');
    expect(() => readVector('<svg><path d="M0 0"/></svg>', 'x.svg')).throw('says no size');
    expect(() => readVector(svg('<text>words</text>'), 'x.svg')).throw('holds no outlines');
    expect(() => readVector('x'.repeat(4_000_001), 'x.svg')).throw('larger than 4 MB');
  });
});

describe('lines of a composite', () => {
  let painter: TitlePainter;
  before(async function () {
    this.timeout(60_000);
    painter = await openPainter();
  });
  after(() => painter.dispose());

  /** Sum of what is covered, in square heights of a picture of 2 to 1; x of its leftmost and rightmost pixel. */
  function seen(layer: Layer, vector?: ReturnType<typeof readVector>): { area: number; left: number; right: number } {
    const overlay = textDrawer(painter)(layer as LayerOf<'stroke'>, 400, 200, vector) as Overlay;
    let [area, left, right] = [0, Infinity, -Infinity];
    for (let i = 0; i < overlay.data.length; i += 4) {
      const alpha = overlay.data[i + 3] / 255;
      area += alpha / (200 * 200);
      if (alpha < 0.5) continue;
      const x = ((i / 4) % 400) / 200 - 1;
      [left, right] = [Math.min(left, x), Math.max(right, x)];
    }
    return { area, left, right };
  }
  const stroke = (values: Partial<LayerOf<'stroke'>>): Layer =>
    newLayer('stroke', 's', 'S', { form: 'line', cap: 'flat', line: 0.1, width: 1.6, ...values } as Partial<Layer>);

  it('a line is as long and wide as it is said to be, trimmed by shares of its length', () => {
    expect(seen(stroke({})).area).closeTo(0.16, 0.001);
    const part = seen(stroke({ from: 0.25, to: 0.5 }));
    expect(part.area).closeTo(0.04, 0.001);
    expect(part.left).closeTo(-0.4, 0.01);
    expect(part.right).closeTo(0, 0.01);
    // Moved over its end it goes on at its beginning.
    const over = seen(stroke({ from: 0, to: 0.25, shift: 0.875 }));
    expect(over.area).closeTo(0.04, 0.001);
    expect([over.left, over.right].map((v) => Math.round(v * 100) / 100)).deep.equal([-0.8, 0.8]);
    expect(trimmed(0.5, 0.5, 0)).deep.equal([]);
    expect(trimmed(0, 1, 0.3)).deep.equal([[0, 1]]);
    expect(trimmed(0.2, 0.4, -0.3)[0][0]).closeTo(0.9, 1e-12);
  });

  it('tapers out of nothing, and dashes leave their gaps', () => {
    // A triangle over half of it.
    expect(seen(stroke({ taperIn: 0.5 })).area).closeTo(0.16 * 0.75, 0.001);
    expect(seen(stroke({ taperIn: 0.5, taperOut: 0.5 })).area).closeTo(0.08, 0.001);
    expect(seen(stroke({ dash: 0.2, gap: 0.2 })).area).closeTo(0.08, 0.001);
  });

  it('every form is a way that can be drawn, a drawn one needs two points', () => {
    for (const form of ['wave', 'arc', 'spiral'] as const) expect(seen(stroke({ form })).area, form).above(0.1);
    expect(strokePath(stroke({ form: 'drawn' }) as LayerOf<'stroke'>)).equal('');
    const points = [
      { at: [-0.5, 0], in: [0, 0], out: [0, 0] },
      { at: [0.5, 0], in: [0, 0], out: [0, 0] },
    ] as LayerOf<'stroke'>['points'];
    expect(seen(stroke({ form: 'drawn', points })).area).closeTo(0.1, 0.001);
  });

  it('a closed line that is filled is a shape, and nothing when all of it is trimmed away', () => {
    const corner = (x: number, y: number): LayerOf<'stroke'>['points'][number] => ({
      at: [x, y],
      in: [0, 0],
      out: [0, 0],
    });
    const points = [corner(-0.4, -0.2), corner(0.4, -0.2), corner(0.4, 0.2), corner(-0.4, 0.2)];
    const drawn = { form: 'drawn', points, closed: true, line: 0.0005 } as const;
    expect(seen(stroke(drawn)).area).below(0.01);
    expect(seen(stroke({ ...drawn, filled: true })).area).closeTo(0.32, 0.003);
    expect(seen(stroke({ ...drawn, filled: true, from: 1 })).area).equal(0);
  });

  it('outlines of a logo are drawn one after the other, then what fills them comes', () => {
    const vector = readVector(
      svg('<rect width="50" height="50" fill="red"/><rect x="50" width="50" height="50"/>'),
      'l',
    );
    const logo = (values: Partial<LayerOf<'logo'>>): Layer =>
      newLayer('logo', 'l', 'L', { height: 0.5, line: 0.02, ...values } as Partial<Layer>);
    // Its left half alone: half of its outline has been drawn when the second begins.
    const half = seen(logo({ drawn: 0.5, filled: 0, overlap: 0 }), vector);
    expect(half.right).closeTo(0.01, 0.011);
    expect(half.area).closeTo(2 * 0.02, 0.004);
    const filled = seen(logo({ drawn: 1, filled: 1 }), vector);
    expect(filled.area).closeTo(0.5, 0.002);
    expect(seen(logo({ drawn: 0 }), vector).area).equal(0);
    expect([0, 1].map((i) => drawnShare(0.5, 0, 2, i))).deep.equal([1, 0]);
    expect([0, 1].map((i) => drawnShare(0.5, 1, 2, i))).deep.equal([0.5, 0.5]);
  });

  it('a logo in one colour has that one alone', () => {
    const vector = readVector(svg('<rect width="100" height="50" fill="red"/>'), 'l');
    const layer = newLayer('logo', 'l', 'L', { height: 1, recoloured: true, colour: '#0000FF' } as Partial<Layer>);
    const { data } = textDrawer(painter)(layer as LayerOf<'logo'>, 40, 20, vector)!;
    expect([...data.slice(400 * 4, 401 * 4)]).deep.equal([0, 0, 255, 255]);
  });
});
