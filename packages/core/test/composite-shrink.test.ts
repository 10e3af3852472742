import { expect } from 'chai';
import { pin, placeOf, Pyramid, warp, type Place, type Plate } from '@tender-orbit/core/composite';
import { plates } from './composite-box.ts';

const WHOLE = { corner: 0, view: 1, scroll: 0 };
const REST = { x: 0, y: 0, scale: 1, stretch: 1, rotation: 0 };

/** Noise that is even over all frequencies, as light. */
function noise(width: number, height: number): Plate {
  const plate = plates.raw(width, height);
  let state = 1;
  const { data } = plate;
  for (let i = 0; i < data.length; i += 4) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    data[i] = data[i + 1] = data[i + 2] = state / 2 ** 32;
    data[i + 3] = 1;
  }
  return plate;
}

/** Standard deviation in the middle of a plate. */
function spread({ data, width, height }: Plate, half: number): number {
  let [sum, squares, count] = [0, 0, 0];
  for (let y = height / 2 - half; y < height / 2 + half; y++)
    for (let x = width / 2 - half; x < width / 2 + half; x++) {
      const v = data[(y * width + x) * 4];
      [sum, squares, count] = [sum + v, squares + v * v, count + 1];
    }
  return Math.sqrt(squares / count - (sum / count) ** 2);
}

describe('composite: pictures made smaller', () => {
  /** How rough noise is that is drawn smaller and smaller, by pixels that one shows. */
  function roughness(draw: (target: Plate, source: Pyramid, place: Place) => void): Array<[number, number]> {
    return plates.within(() => {
      const source = new Pyramid(plates, noise(512, 512));
      // Versions that are made within a step would go with it.
      for (let n = 0; n < 4; n++) source.level(n);
      const out: Array<[number, number]> = [];
      for (let covers = 1.02; covers < 4.6; covers *= 1.03)
        plates.within(() => {
          const target = plates.make(512, 512);
          draw(target, source, placeOf({ ...REST, x: 0.0007, scale: 1 / covers }, 512, 512));
          out.push([covers, spread(target, 48)]);
        });
      return out;
    });
  }

  const ways: Array<[string, (target: Plate, source: Pyramid, place: Place) => void]> = [
    ['flat', (target, source, place) => warp(plates, target, source, place, 1)],
    ['as a card', (target, source, place) => pin(plates, target, source, { ...place, g: 1e-12 }, 1, WHOLE)],
  ];
  for (const [name, draw] of ways)
    it(`${name}, grow smooth without a jump, as much as the mean of what a pixel shows or more`, () => {
      const steps = roughness(draw);
      for (let i = 1; i < steps.length; i++) {
        const [was, now] = [steps[i - 1][1], steps[i][1]];
        expect(now / was, `at ${steps[i][0].toFixed(2)}`).within(0.8, 1.1);
      }
      const [first] = steps;
      for (const [covers, rough] of steps.filter(([c]) => c > 1.9))
        expect(rough * covers, `at ${covers.toFixed(2)}`).within(first[1] * 0.5, first[1] * 1.25);
    });

  it('a pixel is the same wherever it lies in the run that it is drawn in', () => {
    const lean = { ...REST, rotation: 8, tilt: 25, turn: -35 };
    plates.within(() => {
      const source = new Pyramid(plates, noise(300, 200));
      const [whole, part] = [plates.make(300, 200), plates.make(211, 200)];
      const place = placeOf(lean, 300, 200);
      pin(plates, whole, source, place, 1, WHOLE);
      // The same, 37 pixels to the right: other pixels begin and end runs.
      const { a, c, d, f, g, i } = place;
      const on = { ...place, c: c + 37 * a, f: f + 37 * d, i: i + 37 * g };
      pin(plates, part, source, on, 1, WHOLE);
      const [all, cut] = [whole.data, part.data];
      let [most, seen] = [0, 0];
      for (let y = 0; y < 200; y++)
        for (let x = 0; x < 211; x++) {
          const [p, q] = [(y * 211 + x) * 4, (y * 300 + x + 37) * 4];
          if (all[q + 3] === 1) seen++;
          most = Math.max(most, Math.abs(cut[p] - all[q]));
        }
      expect(seen).above(20_000);
      // A run's own share of smoothing changes by a little from one to the next.
      expect(most).below(0.02);
    });
  });

  it('a page shows the same scrolled by whole pixels as cut out, and past its ends its outermost rows', () => {
    const lean = { ...REST, rotation: 3, tilt: 20, turn: -25, scale: 0.8 };
    plates.within(() => {
      const page = noise(240, 400);
      const place = placeOf(lean, 320, 180);
      const drawn = (source: Plate, frame: { corner: number; view: number; scroll: number }): Plate => {
        const target = plates.make(320, 180);
        pin(plates, target, new Pyramid(plates, source), place, 1, frame);
        return target;
      };
      // Rows 120 to 279 of the page, and what they are read with.
      const scrolled = drawn(page, { corner: 0, view: 0.4, scroll: 0.5 });
      const cut = plates.make(240, 160);
      cut.data.set(page.data.subarray(240 * 120 * 4, 240 * 280 * 4));
      const alone = drawn(cut, WHOLE);
      const [a, b] = [scrolled.data, alone.data];
      let [most, inside] = [0, 0];
      for (let y = 50; y < 130; y++)
        for (let x = 110; x < 210; x++) {
          const i = (y * 320 + x) * 4;
          if (a[i + 3] === 1) inside++;
          most = Math.max(most, Math.abs(a[i] - b[i]));
        }
      expect(inside).above(6000);
      expect(most).below(2e-3);
      const past = drawn(page, { corner: 0, view: 0.4, scroll: 1.5 }).data;
      expect(past.every(Number.isFinite)).equal(true);
      expect(past.some((v) => v > 0.5)).equal(true);
    });
  });

  it('a card far away is the mean of what it shows, however small it is', () => {
    plates.within(() => {
      const source = new Pyramid(plates, noise(512, 512));
      const target = plates.make(512, 512);
      pin(plates, target, source, placeOf({ ...REST, x: 0.31, y: 0.22, scale: 0.02, turn: 5 }, 512, 512), 1, WHOLE);
      const { data } = target;
      const lit: number[] = [];
      for (let i = 0; i < data.length; i += 4) if (data[i + 3] === 1) lit.push(data[i]);
      expect(lit.length).within(50, 110);
      for (const v of lit) expect(v).closeTo(0.5, 0.05);
    });
  });
});
