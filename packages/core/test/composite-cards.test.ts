import { expect } from 'chai';
import { VIEWED_FROM, type LayerOf } from '@tender-orbit/core/document';
import {
  cornerHomography,
  cornersOf,
  filmFrame,
  inverseOf,
  pin,
  placeOf,
  Pyramid,
  type Plate,
} from '@tender-orbit/core/composite';
import type { Picture } from '@tender-orbit/core/picture';
import { at, composed, layer, plateOf, plates } from './composite-box.ts';

const CARD = { x: 0.1, y: -0.05, scale: 0.9, stretch: 1.2, rotation: 20, tilt: 35, turn: -40 };
const WHOLE = { corner: 0, view: 1, scroll: 0 };

/** Where a length of a card comes to in the picture, by turning it step by step. */
function seen([u, v]: readonly [number, number], width: number, height: number): [number, number] {
  const turned = (a: number, b: number, degrees: number): [number, number] => {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    return [a * c - b * s, a * s + b * c];
  };
  let [x, y] = turned(u * CARD.scale * CARD.stretch, v * CARD.scale, CARD.rotation);
  let z = 0;
  [y, z] = turned(y, z, -CARD.tilt);
  [z, x] = turned(z, x, CARD.turn);
  const near = VIEWED_FROM / (VIEWED_FROM - z);
  return [width / 2 + (x + CARD.x) * near * height, height / 2 - (y + CARD.y) * near * height];
}

/** Mean of a plate over the pixels whose middles a test takes. */
function mean(plate: Plate, channel: number, takes: (x: number, y: number) => boolean): number {
  let [sum, count] = [0, 0];
  for (let y = 0; y < plate.height; y++)
    for (let x = 0; x < plate.width; x++) {
      if (!takes(x, y)) continue;
      sum += plate.data[(y * plate.width + x) * 4 + channel];
      count++;
    }
  return sum / count;
}

describe('composite: cards in space', () => {
  it('every place of a card comes to where turning and the eye’s rays put it, and back', () => {
    const place = placeOf(CARD, 640, 360);
    for (const u of [-0.5, -0.1, 0.4])
      for (const v of [-0.5, 0.2, 0.5]) {
        const [px, py] = seen([u, v], 640, 360);
        const w = place.g * px + place.h * py + place.i;
        expect((place.a * px + place.b * py + place.c) / w).closeTo(u, 1e-9);
        expect((place.d * px + place.e * py + place.f) / w).closeTo(v, 1e-9);
        expect(w).above(0);
      }
  });

  it('turned by nothing it is the flat layer', () => {
    const flat = placeOf({ ...CARD, tilt: 0, turn: 0 }, 640, 360);
    const barely = placeOf({ ...CARD, tilt: 1e-9, turn: 0 }, 640, 360);
    for (const key of ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i'] as const)
      expect(barely[key] / barely.i).closeTo(flat[key], 1e-6);
  });

  it('shows a picture as one that is sampled very finely does, without shimmer where it leans away', () =>
    plates.within(() => {
      const [w, h] = [256, 256];
      // Stripes that are far finer than a pixel at the far end.
      const of = (s: number, t: number): number => 0.5 + 0.3 * Math.sin(s / 3) + 0.2 * Math.sin(t / 17);
      const numbers = Array.from({ length: w * h * 4 }, (_, i) => {
        const p = i >> 2;
        return i % 4 === 3 ? 1 : of((p % w) + 0.5, Math.floor(p / w) + 0.5);
      });
      const source = new Pyramid(plates, plateOf(w, h, numbers));
      const lean = { x: 0, y: 0, scale: 1.2, stretch: 1, rotation: 0, tilt: 70, turn: 0 };
      const [width, height] = [96, 54];
      const place = placeOf(lean, width, height);
      const target = plates.make(width, height);
      pin(plates, target, source, place, 1, WHOLE);
      let [worst, sum, count] = [0, 0, 0];
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          if (target.data[(y * width + x) * 4 + 3] < 1) continue;
          let wanted = 0;
          let inside = true;
          for (let k = 0; k < 256; k++) {
            const [px, py] = [x + ((k % 16) + 0.5) / 16, y + (Math.floor(k / 16) + 0.5) / 16];
            const q = place.g * px + place.h * py + place.i;
            const s = ((place.a * px + place.b * py + place.c) / q + 0.5) * w;
            const t = (0.5 - (place.d * px + place.e * py + place.f) / q) * h;
            if (s < 2 || t < 2 || s > w - 2 || t > h - 2) inside = false;
            wanted += of(s, t) / 256;
          }
          if (!inside) continue;
          const off = Math.abs(target.data[(y * width + x) * 4] - wanted);
          worst = Math.max(worst, off);
          sum += off;
          count++;
        }
      expect(count).above(500);
      expect(sum / count).below(0.02);
      expect(worst).below(0.12);
    }));

  it('has round corners of the radius asked for: its cover is its area', () =>
    plates.within(() => {
      const source = new Pyramid(plates, plateOf(80, 40, new Float32Array(80 * 40 * 4).fill(1)));
      const target = plates.make(200, 100);
      const flat = { x: 0, y: 0, scale: 1, stretch: 1, rotation: 0 };
      pin(plates, target, source, placeOf(flat, 200, 100), 0.8, { corner: 0.25, view: 1, scroll: 0 });
      const radius = 0.25 * 80;
      const area = 160 * 80 - (4 - Math.PI) * radius * radius;
      expect(mean(target, 3, () => true) * 200 * 100).closeTo(area, area * 0.002);
      expect(at(target, 22, 12)[3]).below(0.02);
    }));

  it('a page scrolls in its frame: the top, the middle, the end', () => {
    const page: Picture = { width: 8, height: 64, data: new Uint8ClampedArray(8 * 64 * 4).fill(255) };
    for (let y = 0; y < 64; y++) for (let x = 0; x < 8; x++) page.data[(y * 8 + x) * 4] = y * 4;
    const red = (scroll: number): number => {
      const still = layer('still', { asset: 'p', height: 1, view: 0.25, scroll, space: 'glass' });
      const { data } = composed([still], { still: () => page });
      return data[(18 * 64 + 32) * 4];
    };
    // The middle of the frame is an eighth of the page below its upper edge.
    expect(red(0)).closeTo(32, 3);
    expect(red(0.5)).closeTo(128, 3);
    expect(red(1)).closeTo(224, 3);
  });

  it('drawn layers turn in space as pictures do', () => {
    const values = { width: 1, height: 1, tilt: 50, turn: 20, space: 'glass' as const };
    const shape = composed([layer('shape', { ...values, form: 'rectangle', colour: '#FFFFFF' })]);
    const white: Picture = { width: 64, height: 64, data: new Uint8ClampedArray(64 * 64 * 4).fill(255) };
    const card = composed([layer('still', { asset: 'w', tilt: 50, turn: 20, height: 1, space: 'glass' })], {
      still: () => white,
    });
    let off = 0;
    for (let i = 0; i < shape.data.length; i++) off += Math.abs(shape.data[i] - card.data[i]);
    expect(off / shape.data.length).below(1.5);
    expect(card.data.some((v) => v === 255)).equal(true);
  });
});

describe('composite: footage', () => {
  const film = { list: 'a', name: 'film', frames: 10, rate: 25 };
  const of = (values: Partial<LayerOf<'footage'>>, seconds: number): number | undefined =>
    filmFrame(layer('footage', { film, ...values }), seconds)?.frame;

  it('shows the frame that is on, at its own rate', () => {
    expect([0, 0.039, 0.04, 0.2, 0.3599].map((s) => of({}, s))).deep.equal([0, 0, 1, 5, 8]);
    // Thirds of a second are no whole numbers.
    expect(of({ film: { ...film, rate: 30 } }, 3 * (1 / 30))).equal(3);
  });

  it('begins where it is told, goes faster, slower and backwards', () => {
    expect(of({ skip: 0.2 }, 0.04)).equal(6);
    expect(of({ pace: 2 }, 0.08)).equal(4);
    expect(of({ pace: 0.5 }, 0.08)).equal(1);
    expect(of({ pace: -1, skip: 0.36 }, 0.12)).equal(6);
  });

  it('holds, loops or is gone at its ends', () => {
    expect([-1, 0.5].map((s) => of({ ends: 'hold' }, s))).deep.equal([0, 9]);
    expect([-0.04, 0.4, 0.52].map((s) => of({ ends: 'loop' }, s))).deep.equal([9, 0, 3]);
    expect([-0.04, 0.4].map((s) => of({ ends: 'nothing' }, s))).deep.equal([undefined, undefined]);
    expect(filmFrame(layer('footage'), 0)).equal(null);
  });
});

describe('composite: corner pin and crop', () => {
  const pins = { pinAX: 0.1, pinAY: -0.05, pinBX: 0.3, pinBY: 0.05, pinCX: -0.1, pinCY: 0, pinDX: 0, pinDY: -0.15 };

  it('the four corners come to where they are pinned, whatever they are, and straight lines stay straight', () => {
    const corners = cornersOf(pins, 1.5, 0.8);
    const h = cornerHomography(1.5, 0.8, corners);
    const to = (u: number, v: number): number[] => {
      const w = h[6] * u + h[7] * v + h[8];
      return [(h[0] * u + h[1] * v + h[2]) / w, (h[3] * u + h[4] * v + h[5]) / w];
    };
    const ends = [
      [-0.6, 0.4],
      [0.6, 0.4],
      [0.6, -0.4],
      [-0.6, -0.4],
    ];
    ends.forEach(([u, v], i) => to(u, v).forEach((at, axis) => expect(at).closeTo(corners[i][axis], 1e-9)));
    const [[ax, ay], [bx, by], [cx, cy]] = [to(-0.6, 0.1), to(0.1, 0.1), to(0.6, 0.1)];
    expect((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)).closeTo(0, 1e-9);
    const back = inverseOf(h);
    const w = back[6] * ax + back[7] * ay + back[8];
    expect((back[0] * ax + back[1] * ay + back[2]) / w).closeTo(-0.6, 1e-9);
  });

  it('a picture whose corners are pinned covers the area between them', () => {
    const white: Picture = { width: 60, height: 40, data: new Uint8ClampedArray(60 * 40 * 4).fill(255) };
    const still = layer('still', { asset: 'a', height: 0.8, space: 'glass', ...pins } as Partial<LayerOf<'still'>>);
    const picture = composed([still], { width: 480, height: 240, still: () => white });
    let sum = 0;
    for (let i = 0; i < picture.data.length; i += 4) sum += picture.data[i] / 255;
    const corners = cornersOf(pins, 1.5, 0.8);
    const area = corners.reduce((n, [x, y], i) => {
      const [nx, ny] = corners[(i + 1) % 4];
      return n + (x * ny - nx * y) / 2;
    }, 0);
    expect(sum / 240 / 240).closeTo(Math.abs(area), 0.01);
  });

  it('a crop cuts shares off the sides, evenly as it is keyed', () => {
    const white: Picture = { width: 60, height: 40, data: new Uint8ClampedArray(60 * 40 * 4).fill(255) };
    const covered = (values: object): number => {
      const still = layer('still', { asset: 'a', height: 1, space: 'glass', ...values } as Partial<LayerOf<'still'>>);
      const { data } = composed([still], { width: 240, height: 120, still: () => white });
      let sum = 0;
      for (let i = 0; i < data.length; i += 4) sum += data[i] / 255;
      return sum / 120 / 120 / 1.5;
    };
    const whole = covered({});
    expect(covered({ cropLeft: 0.25 }) / whole).closeTo(0.75, 0.01);
    expect(covered({ cropTop: 0.1, cropBottom: 0.4, cropRight: 0.5 }) / whole).closeTo(0.25, 0.01);
    expect(covered({ cropLeft: 0.5, cropRight: 0.6 })).equal(0);
    expect(covered({ cropLeft: 0.2583 }) / whole).closeTo(0.7417, 0.01);
  });
});
