import { expect } from 'chai';
import { newPromo, newTransition, removeFootage, runCommand, type PromoDocument } from '@tender-orbit/core/document';
import { drawTransition, logoPlace, logoShape } from '@tender-orbit/core/composite';
import type { Picture } from '@tender-orbit/core/picture';
import { assemble, frameKey, shownAt, takeFramesAt, type TakeFrame } from '@tender-orbit/core/promo';
import { plates } from './composite-box.ts';
import { openPainter } from './title-box.ts';

const [WIDE, HIGH] = [160, 90];
const SIDE = 200;

/** A picture that is there where `inside` says, from its middle in its pixels; opaque ones are dark on white. */
function logo(inside: (x: number, y: number) => boolean, opaque = false): Picture {
  const data = new Uint8ClampedArray(SIDE * SIDE * 4);
  for (let y = 0, i = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++, i += 4) {
      const there = inside(x + 0.5 - SIDE / 2, SIDE / 2 - y - 0.5);
      data.set(
        opaque ? [there ? 20 : 255, there ? 20 : 255, there ? 60 : 255, 255] : [90, 40, 120, there ? 255 : 0],
        i,
      );
    }
  return { width: SIDE, height: SIDE, data };
}
const ring = (x: number, y: number): boolean => Math.hypot(x, y) < 80 && Math.hypot(x, y) > 50;

/** How much of each pixel is of the coming picture: black gives way to white. */
function open(of: Picture | null, t: number): Float32Array {
  return plates.within(() => {
    const [going, coming] = [plates.make(WIDE, HIGH), plates.make(WIDE, HIGH)];
    for (let i = 3; i < going.data.length; i += 4) going.data[i] = 1;
    coming.data.fill(1);
    drawTransition(plates, going, coming, newTransition('logo', 24), t, of);
    return Float32Array.from({ length: WIDE * HIGH }, (_, i) => going.data[i * 4]);
  });
}
const sum = (values: Float32Array): number => values.reduce((a, b) => a + b, 0);

describe('promo: through a logo', () => {
  it('a shape is what cannot be seen through, or what is unlike the corner; its widest place lies within it', () => {
    for (const opaque of [false, true]) {
      const shape = logoShape(logo(ring, opaque))!;
      expect(shape.middle[0]).closeTo(0, 1e-6);
      expect(shape.half[1]).closeTo(80 / SIDE, 0.01);
      const away = Math.hypot(...shape.deepest) * SIDE;
      expect(away, 'in the middle of the band').closeTo(65, 2);
      expect(shape.radius * SIDE).closeTo(15, 2);
    }
    expect(logoShape(logo(() => false))).equal(null);
    expect(logoShape(logo(() => false, true))).equal(null);
  });

  it('a picture of many pixels has the same shape', () => {
    const large: Picture = { width: 2600, height: 1300, data: new Uint8ClampedArray(2600 * 1300 * 4) };
    for (let y = 400; y < 900; y++) for (let x = 1800; x < 2200; x++) large.data[(y * 2600 + x) * 4 + 3] = 255;
    const { width, middle, half, radius } = logoShape(large)!;
    expect(width).most(1024);
    expect(middle[0]).closeTo(700 / 1300, 0.003);
    expect(half[0]).closeTo(200 / 1300, 0.003);
    expect(radius).closeTo(200 / 1300, 0.02);
  });

  it('comes to the middle with its own outline, and ends with the whole picture', () => {
    const of = logo(ring);
    const shape = logoShape(of)!;
    const at = 0.449;
    const { scale } = logoPlace(shape, WIDE / HIGH, at);
    const area = Math.PI * (80 * 80 - 50 * 50) * ((scale * HIGH) / SIDE) ** 2;
    const seen = open(of, at);
    expect(sum(seen)).closeTo(area, area * 0.03);
    expect(scale * 2 * shape.half[1], 'half of the frame').closeTo(0.5, 0.01);
    expect(seen[(HIGH / 2) * WIDE + WIDE / 2], 'the hole of the ring').below(0.01);
    const [left, right] = [0, 1].map((side) => sum(seen.filter((_, i) => i % WIDE < WIDE / 2 === (side === 0))));
    expect(left).closeTo(right, area * 0.02);
    expect(Math.min(...open(of, 0.999))).above(0.99);
    expect(sum(open(of, 0.02))).below(area * 0.05);
  });

  it('only grows, and does not jump', () => {
    const shape = logoShape(logo((x, y) => ring(x + 10, y - 12)))!;
    let before = logoPlace(shape, WIDE / HIGH, 0);
    for (let t = 0.002; t < 1; t += 0.002) {
      const now = logoPlace(shape, WIDE / HIGH, t);
      expect(now.scale, `at ${t}`).least(before.scale);
      // What the frame's middle shows goes on evenly.
      expect(Math.abs(now.x / now.scale - before.x / (before.scale || 1)), `at ${t}`).below(t < 0.01 ? Infinity : 0.02);
      before = now;
    }
  });

  it('dissolves where there is no logo, or nothing in it', () => {
    for (const of of [null, logo(() => false)]) {
      const seen = open(of, 0.25);
      expect(Math.min(...seen)).closeTo(0.25, 1e-6);
      expect(Math.max(...seen)).closeTo(0.25, 1e-6);
    }
  });

  it('shows footage of the promo, which is read for its frames; removed it dissolves', async () => {
    const painter = await openPainter();
    const mark = { id: 'mark', name: 'Mark', list: '', poster: '', frames: 1, rate: 24, width: SIDE, height: SIDE };
    const promo: PromoDocument = {
      ...newPromo('Launch', WIDE, HIGH),
      clips: [
        { id: 'a', take: 'black', start: 0, length: 20 },
        { id: 'b', take: 'white', start: 0, length: 20, into: { ...newTransition('logo', 11), logo: 'mark' } },
      ],
      footage: [mark],
    };
    const takes = (of: PromoDocument, frame: number): string[] => takeFramesAt(of, frame, () => 20).map((p) => p.take);
    expect(takes(promo, 20)).to.deep.equal(['black', 'white', 'mark']);
    expect(takes(promo, 5)).to.deep.equal(['black']);
    const pictureOf = ({ take }: TakeFrame): Picture => {
      if (take === 'mark') return logo(ring);
      const data = new Uint8ClampedArray(WIDE * HIGH * 4).fill(take === 'white' ? 255 : 0);
      for (let i = 3; i < data.length; i += 4) data[i] = 255;
      return { width: WIDE, height: HIGH, data };
    };
    const levels = (of: PromoDocument): Set<number> => {
      const { data } = assemble(
        plates,
        of,
        20,
        shownAt(of, 20, () => 20),
        pictureOf,
        painter,
      );
      return new Set(data.filter((_, i) => i % 4 === 0));
    };
    expect(levels(promo)).include(0).include(255);
    const without = runCommand(promo, removeFootage('mark'));
    expect(takes(without, 20)).to.deep.equal(['black', 'white']);
    expect(levels(without).size).equal(1);
    expect(frameKey(promo, 20, () => 20)).not.equal(frameKey(without, 20, () => 20));
    painter.dispose();
  });
});
