import { expect } from 'chai';
import { newTitle, styleOf, validateDocument, newPromo, type Title } from '@tender-orbit/core/document';
import { bentAt, posedParts, type TitlePainter } from '@tender-orbit/core/promo';
import { openPainter } from './title-box.ts';

const [WIDE, HIGH] = [480, 270];
const still = { kind: 'none', frames: 0 } as const;
const title = (values: Partial<Title> = {}): Title =>
  newTitle('t', { text: 'SLOW AS THE HILL', size: 36, x: 0.5, y: 0.5, arrive: still, leave: still, ...values });

describe('promo: bent titles', () => {
  it('letters lie on a circle as far apart as they were, each at right angles to it', () => {
    // Half a circle of 200 pixels: its radius is 200 over pi.
    const radius = 200 / Math.PI;
    const top = bentAt(180, 200, [0, 0]);
    expect(top).deep.equal({ by: [0, 0], turn: 0 });
    const end = bentAt(180, 200, [100, 0]);
    expect(end.turn).closeTo(90, 1e-9);
    expect(100 + end.by[0]).closeTo(radius, 1e-9);
    expect(end.by[1]).closeTo(radius, 1e-9);
    // A bowl is the arch the other way up, and the left the right mirrored.
    const bowl = bentAt(-180, 200, [100, 0]);
    expect([bowl.turn, bowl.by[0], bowl.by[1]].map((v) => v.toFixed(9))).deep.equal(
      [-90, end.by[0], -end.by[1]].map((v) => v.toFixed(9)),
    );
    const left = bentAt(180, 200, [-100, 0]);
    expect([left.turn, left.by[0], left.by[1]].map((v) => v.toFixed(9))).deep.equal(
      [-90, -end.by[0], end.by[1]].map((v) => v.toFixed(9)),
    );
    // A line above lies on a circle that is wider by as much.
    const above = bentAt(180, 200, [100, -20]);
    expect(100 + above.by[0]).closeTo(radius + 20, 1e-9);
    expect(bentAt(0, 200, [100, 0])).deep.equal({ by: [0, 0], turn: 0 });
  });

  it('a bent title has a letter for each, with the pose of its part', () => {
    const words = title({
      bend: 60,
      arrive: { kind: 'fade', frames: 20 },
      parts: { part: 'word', order: 'forward', overlap: 0, seed: 0, times: [] },
    });
    const poses = posedParts(words, 7);
    expect(poses).length('SLOWASTHEHILL'.length);
    const shares = poses.map(({ pose }) => pose.opacity);
    expect(new Set(shares.slice(0, 4)).size).equal(1);
    expect(shares[0]).above(shares[4]);
    expect(posedParts(title({ bend: 60 }), 7).every(({ pose }) => pose.opacity === 1)).equal(true);
  });

  describe('drawn', () => {
    let painter: TitlePainter;
    before(async () => void (painter = await openPainter()));
    after(() => painter.dispose());
    /** Where ink is, row and column of its middle in thirds from left to right. */
    function thirds(of: Title): number[] {
      const drawn = painter.draw(of, 5, WIDE, HIGH)!;
      const places: Array<[x: number, y: number]> = [];
      for (let y = 0; y < drawn.height; y++)
        for (let x = 0; x < drawn.width; x++)
          if (drawn.data[(y * drawn.width + x) * 4 + 3] > 128) places.push([x + drawn.left, y + drawn.top]);
      const [from, to] = [Math.min(...places.map(([x]) => x)), Math.max(...places.map(([x]) => x))];
      return [0, 1, 2].map((n) => {
        const own = places.filter(([x]) => Math.min(2, Math.floor(((x - from) / (to + 1 - from)) * 3)) === n);
        return own.reduce((sum, [, y]) => sum + y, 0) / own.length;
      });
    }

    it('an arch is highest in its middle, a bowl lowest, and a straight one level', () => {
      const [a, b, c] = thirds(title());
      expect(Math.max(a, b, c) - Math.min(a, b, c)).below(3);
      const arch = thirds(title({ bend: 120 }));
      expect(arch[1]).below(Math.min(arch[0], arch[2]) - 15);
      expect(arch[0]).closeTo(arch[2], 12);
      const bowl = thirds(title({ bend: -120 }));
      expect(bowl[1]).above(Math.max(bowl[0], bowl[2]) + 15);
    });

    it('all of it is in the picture that is drawn, with its outline and shadow, on a whole circle too', () => {
      const drawn = painter.draw(title({ bend: 360, size: 24 }), 5, WIDE, HIGH)!;
      const solid = (of: typeof drawn): number => of.data.filter((v, i) => i % 4 === 3 && v > 128).length;
      const flat = painter.draw(title({ size: 24 }), 5, WIDE, HIGH)!;
      expect(solid(drawn)).closeTo(solid(flat), 0.12 * solid(flat));
    });
  });

  it('is kept with the document and its style, and not beyond a whole circle', () => {
    const promo = { ...newPromo('P', WIDE, HIGH), titles: [title({ bend: 45 })] };
    expect(validateDocument('promo', JSON.parse(JSON.stringify(promo)))).deep.equal(promo);
    expect(styleOf(title({ bend: 45 })).bend).equal(45);
    expect(() => validateDocument('promo', { ...promo, titles: [title({ bend: 400 })] })).throw(/Bend/);
  });
});
