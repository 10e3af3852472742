import { expect } from 'chai';
import { applyFilter, compileLayers, type Plate } from '@tender-orbit/core/composite';
import { FILTER_FORMS, newLayer, newShot, type Layer, type LayerOf } from '@tender-orbit/core/document';
import { at, composed, layer, newPlates, plates } from './composite-box.ts';

const [WIDTH, HEIGHT] = [121, 101];
/** A point of light, or whatever a function has, and a filter over it. */
function filtered(
  values: Partial<LayerOf<'filter'>>,
  of = (x: number, y: number): number => (x === 60 && y === 50 ? 1 : 0),
  seconds = 0,
): Plate {
  const plate = plates.make(WIDTH, HEIGHT);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) plate.data.set([of(x, y), of(x, y), of(x, y), 1], (y * WIDTH + x) * 4);
  applyFilter(plates, plate, layer('filter', values), seconds);
  return plate;
}
const sum = (plate: Plate, within: (x: number, y: number) => boolean = () => true): number => {
  let total = 0;
  for (let y = 0; y < HEIGHT; y++) for (let x = 0; x < WIDTH; x++) if (within(x, y)) total += at(plate, x, y)[0];
  return total;
};

describe('composite: filters', () => {
  it('every one leaves an even picture as it is, and alpha full; edges of it are none', () => {
    for (const form of FILTER_FORMS) {
      const even = form === 'edge' ? 0 : 0.3;
      const plate = filtered({ form, size: 0.1 }, () => 0.3);
      for (const [x, y] of [
        [0, 0],
        [60, 50],
        [120, 100],
        [7, 90],
      ])
        at(plate, x, y).forEach((v, c) => expect(v, `${form} ${x} ${y}`).closeTo(c === 3 ? 1 : even, 1e-5));
    }
  });

  it('a box blur spreads a point evenly over its square, parts of pixels by their share', () => {
    const box = filtered({ form: 'box blur', size: 5 / HEIGHT });
    expect(sum(box)).closeTo(1, 1e-5);
    for (const [x, y, wanted] of [
      [58, 48, 0.04],
      [62, 52, 0.04],
      [60, 50, 0.04],
      [63, 50, 0],
      [60, 47, 0],
    ])
      expect(at(box, x, y)[0], `${x} ${y}`).closeTo(wanted, 1e-6);
    // A side of two pixels covers half of the ones beside the middle.
    const two = filtered({ form: 'box blur', size: 2 / HEIGHT });
    expect([at(two, 60, 50)[0], at(two, 61, 50)[0], at(two, 61, 51)[0]].map((v) => Number(v.toFixed(6)))).deep.equal([
      0.25, 0.125, 0.0625,
    ]);
  });

  it('a glow adds what is bright, blurred, and leaves what is dark alone', () => {
    const spot = (x: number, y: number): number => (x === 60 && y === 50 ? 2 : 0.2);
    const glowing = filtered({ form: 'glow', size: 4 / HEIGHT, amount: 1 }, spot);
    const before = 2 + 0.2 * (WIDTH * HEIGHT - 1);
    // Of a light of 2 what is above a half.
    expect(sum(glowing) - before).closeTo(1.5, 0.01);
    expect(at(glowing, 64, 50)[0]).above(0.2);
    expect(at(glowing, 5, 5)[0]).closeTo(0.2, 1e-6);
  });

  it('edges are as bright as the step is high, at the step, whichever way it lies', () => {
    for (const step of [(x: number) => (x < 60 ? 0.1 : 0.7), (_: number, y: number) => (y < 50 ? 0.7 : 0.1)]) {
      const found = filtered({ form: 'edge', size: 3 / HEIGHT, amount: 1 }, step);
      const [x, y] = step(0, 0) === step(0, 100) ? [60, 20] : [20, 50];
      expect(at(found, x, y)[0]).closeTo(0.6, 0.03);
      expect(at(found, x === 60 ? 80 : 20, y === 50 ? 80 : 20)[0]).below(1e-3);
    }
  });

  it('another layer displaces by its brightness: white along the angle, black the other way, grey not at all', () => {
    const place = { form: 'rectangle', softness: 0.001, space: 'glass' } as const;
    const picture = (map: string, angle = 0): number[] => {
      const bar = newLayer('shape', 'bar', 'Bar', {
        ...place,
        width: 0.1,
        height: 4,
        colour: '#FFFFFF',
      } as Partial<Layer>);
      const by = newLayer('solid', 'by', 'By', { colour: map, space: 'glass', visible: false } as Partial<Layer>);
      const filter = newLayer('filter', 'f', 'F', {
        ...{ form: 'displace by layer', size: 0.25, amount: 1, angle, space: 'glass', matteLayer: 'by' },
      } as Partial<Layer>);
      const shot = { ...newShot('S', 'set', 'hero', 24), layers: [by, bar, filter] };
      const made = composed(compileLayers(shot).at(0), { width: 80, height: 40 });
      return Array.from({ length: 80 }, (_, x) => x).filter((x) => at(made, x, 20)[0] > 200);
    };
    // A quarter of the height is ten pixels.
    const still = picture('#808080');
    expect(still).deep.equal([38, 39, 40, 41]);
    expect(picture('#FFFFFF')).deep.equal(still.map((x) => x + 10));
    expect(picture('#000000')).deep.equal(still.map((x) => x - 10));
    expect(picture('#FFFFFF', 180)).deep.equal(still.map((x) => x - 10));
  });

  it('a directional blur spreads a point evenly along its line, and nowhere else', () => {
    const line = filtered({ form: 'directional blur', size: 20 / HEIGHT, angle: 0 });
    expect(sum(line)).closeTo(1, 1e-3);
    expect(sum(line, (_, y) => y !== 50)).equal(0);
    expect(sum(line, (x) => Math.abs(x - 60) > 11)).equal(0);
    for (let x = 52; x <= 68; x++) expect(at(line, x, 50)[0]).closeTo(1 / 20, 0.03);
    const slope = filtered({ form: 'directional blur', size: 20 / HEIGHT, angle: 90 });
    expect(sum(slope, (x) => x === 60)).closeTo(1, 1e-3);
  });

  it('zoom and spin blurs leave their middle, and spread outwards and round it', () => {
    const spot = (x: number, y: number): number => (x === 100 && y === 50 ? 1 : 0);
    const zoomed = filtered({ form: 'zoom blur', size: 0.3 }, spot);
    expect(sum(zoomed, (_, y) => Math.abs(y - 50) > 1)).below(0.003);
    expect(sum(zoomed, (x) => x !== 100)).above(0.5);
    const spun = filtered({ form: 'spin blur', size: 0.3 }, spot);
    expect(sum(spun, (_, y) => Math.abs(y - 50) > 1)).above(0.5);
    expect(sum(spun, (x) => x < 96)).equal(0);
    expect(at(filtered({ form: 'zoom blur', size: 0.3 }), 60, 50)[0]).closeTo(1, 0.05);
    const aside = filtered({ form: 'zoom blur', size: 0.3, x: 40 / HEIGHT }, spot);
    expect(at(aside, 100, 50)[0]).closeTo(1, 0.05);
  });

  it('a mosaic has the mean of each cell, and keeps the light', () => {
    const grain = (x: number, y: number): number => ((x * 31 + y * 17) % 23) / 23;
    const tiles = filtered({ form: 'mosaic', size: 10 / HEIGHT }, grain);
    expect(sum(tiles)).closeTo(sum(filtered({ form: 'blur', size: 0 }, grain)), 0.05);
    expect(new Set(tiles.data.filter((_, i) => i % 4 === 0)).size).at.most(14 * 12);
  });

  it('sharpening widens the step of an edge and leaves what lies flat', () => {
    const edge = (x: number): number => (x < 60 ? 0.2 : 0.6);
    const sharp = filtered({ form: 'sharpen', size: 2 / HEIGHT, amount: 1 }, edge);
    expect(at(sharp, 60, 50)[0]).above(0.7);
    expect(at(sharp, 59, 50)[0]).below(0.1);
    expect(at(sharp, 20, 50)[0]).closeTo(0.2, 1e-4);
    expect(Math.min(...filtered({ form: 'sharpen', size: 2 / HEIGHT, amount: 4 }, edge).data)).at.least(0);
  });

  it('displacement moves by no more than its reach, changes with time, and keeps to its seed', () => {
    const ramp = (x: number): number => x / WIDTH;
    const values = { form: 'displace', size: 4 / HEIGHT, grain: 0.3 } as const;
    const moved = filtered(values, ramp);
    let most = 0;
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 8; x < WIDTH - 8; x++) most = Math.max(most, Math.abs(at(moved, x, y)[0] * WIDTH - x));
    expect(most).within(0.5, 4.01);
    expect(filtered(values, ramp).data).deep.equal(moved.data);
    expect(filtered(values, ramp, 1).data).not.deep.equal(moved.data);
    expect(filtered({ ...values, seed: 9 }, ramp).data).not.deep.equal(moved.data);
  });

  it('acts on what lies below it, within its mask', () => {
    const half = layer('shape', { form: 'rectangle', width: 1, height: 2, x: 0.5, colour: '#FFFFFF' });
    const mask = { mask: 'rectangle', maskY: 0.25, maskHeight: 0.5, maskWidth: 4, feather: 0.001 } as const;
    const picture = composed([half, layer('filter', { size: 0.06, ...mask })], { width: 200, height: 100 });
    expect(at(picture, 96, 20)[0]).within(40, 215);
    expect(at(picture, 96, 80)[0]).equal(0);
  });
});

describe('composite: plates', () => {
  it('what was made within a piece of work is gone after it, and memory that moved does no harm', () => {
    const mine = newPlates();
    const kept = mine.make(4, 4);
    kept.data.fill(0.5);
    const where = mine.within(() => mine.make(8, 8).at);
    expect(mine.within(() => mine.make(2000, 2000).at)).equal(where);
    expect([...kept.data.slice(0, 4)]).deep.equal([0.5, 0.5, 0.5, 0.5]);
    expect(mine.copy(kept).data).deep.equal(kept.data);
  });

  it('more than there can be is refused with a sentence', () => {
    const mine = newPlates();
    expect(() => mine.raw(40000, 40000)).throw(/not enough memory for a picture of this size/);
    expect(mine.make(4, 4).data.every((v) => v === 0)).equal(true);
  });
});
