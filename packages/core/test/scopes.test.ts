import { expect } from 'chai';
import { drawScope, makePicture, scopeOf, SCOPES, type Picture } from '@tender-orbit/core/picture';

const flat = (rgb: readonly [number, number, number]): Picture => makePicture(40, 20, rgb);
/** Cells with anything in them, and of which channels. */
const lit = ({ width, counts }: ReturnType<typeof scopeOf>): Array<[x: number, y: number, c: number]> =>
  [...counts].flatMap((n, i): Array<[number, number, number]> =>
    n > 0 ? [[Math.floor(i / 3) % width, Math.floor(i / 3 / width), i % 3]] : [],
  );

describe('scopes', () => {
  it('a waveform has luma over the columns: white at the top, a ramp as a line', () => {
    expect(new Set(lit(scopeOf('waveform', flat([255, 255, 255]), 20, 101)).map(([, y]) => y))).deep.equal(
      new Set([0]),
    );
    expect(new Set(lit(scopeOf('waveform', flat([0, 0, 0]), 20, 101)).map(([, y]) => y))).deep.equal(new Set([100]));
    const ramp = makePicture(256, 4);
    for (let i = 0; i < 256 * 4; i++) ramp.data.fill(i % 256, i * 4, i * 4 + 3);
    for (const [x, y] of lit(scopeOf('waveform', ramp, 256, 256))) expect(x + y).closeTo(255, 1);
    const green = lit(scopeOf('waveform', flat([0, 255, 0]), 20, 101));
    expect(green[0][1]).equal(Math.round((1 - 0.7152) * 100));
  });

  it('a parade has each channel in a third of its own', () => {
    const cells = lit(scopeOf('parade', flat([255, 128, 0]), 60, 101));
    for (const [x, y, c] of cells) {
      expect(Math.floor(x / 20)).equal(c);
      expect(y).equal([0, 50, 100][c]);
    }
    expect(cells).length(60);
  });

  it('a vectorscope has greys in the middle and colours where Rec.709 puts them', () => {
    const middle = lit(scopeOf('vectorscope', flat([90, 90, 90]), 101, 101));
    expect(new Set(middle.map(([x, y]) => `${x} ${y}`))).deep.equal(new Set(['50 50']));
    const [[x, y]] = lit(scopeOf('vectorscope', flat([255, 0, 0]), 101, 101));
    expect(y).equal(0);
    expect(x).equal(Math.round((0.5 - 0.2126 / (2 * (1 - 0.0722))) * 100));
    const [[bx, by]] = lit(scopeOf('vectorscope', flat([0, 0, 255]), 101, 101));
    expect(bx).equal(100);
    expect(by).above(50);
  });

  it('a histogram is filled from below by how often values are met; clipped ends do not press it flat', () => {
    const picture = flat([0, 0, 0]);
    picture.data.fill(128, 0, 400);
    const scope = scopeOf('histogram', picture, 256, 50);
    const column = (at: number): number => lit(scope).filter(([x, , c]) => x === at && c === 0).length;
    expect(column(128)).equal(50);
    expect(column(60)).equal(0);
    expect(column(0)).equal(50);
  });

  it('every scope can be looked at: something is bright, nothing is broken', () => {
    for (const kind of SCOPES) {
      const { data } = drawScope(scopeOf(kind, flat([200, 90, 30]), 64, 48), kind);
      expect(Math.max(...data.filter((_, i) => i % 4 !== 3)), kind).above(150);
      expect(data.every((v, i) => i % 4 !== 3 || v === 255)).equal(true);
    }
  });
});
