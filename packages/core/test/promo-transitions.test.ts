import { expect } from 'chai';
import { newTransition, type Transition } from '@tender-orbit/core/document';
import { drawTransition, smokeFront } from '@tender-orbit/core/composite';
import { plates } from './composite-box.ts';

const [WIDE, HIGH] = [160, 90];

/** How much of each pixel is of the coming picture: black gives way to white. */
function open(values: Partial<Transition>, t: number): Float32Array {
  return plates.within(() => {
    const [going, coming] = [plates.make(WIDE, HIGH), plates.make(WIDE, HIGH)];
    for (let i = 3; i < going.data.length; i += 4) going.data[i] = 1;
    coming.data.fill(1);
    drawTransition(plates, going, coming, { ...newTransition('iris', 12), softness: 0, ...values }, t);
    return Float32Array.from({ length: WIDE * HIGH }, (_, i) => going.data[i * 4]);
  });
}
const sum = (values: Float32Array): number => values.reduce((a, b) => a + b, 0);

describe('promo: an iris in other outlines', () => {
  /** Areas over the square of the farthest corner. */
  const AREAS = {
    circle: Math.PI,
    hexagon: (3 * Math.sqrt(3)) / 2,
    diamond: 2,
    star: 5 * 0.45 * Math.sin(Math.PI / 5),
  };

  for (const shape of ['circle', 'hexagon', 'diamond', 'star'] as const)
    it(`a ${shape} has its area, is open at the end, and turns`, () => {
      // The largest that lies wholly in the picture shows its farthest corner on its edge.
      let inside = open({ shape }, 0.02);
      for (let t = 0.04; t < 1; t += 0.02) {
        const next = open({ shape }, t);
        const edge = next.some((v, i) => v > 0 && (i < WIDE || i >= WIDE * (HIGH - 1)));
        if (edge) break;
        inside = next;
      }
      let radius = 0;
      for (let y = 0; y < HIGH; y++)
        for (let x = 0; x < WIDE; x++)
          if (inside[y * WIDE + x] > 0.5) radius = Math.max(radius, Math.hypot(x + 0.5 - WIDE / 2, y + 0.5 - HIGH / 2));
      expect(sum(inside) / radius ** 2).closeTo(AREAS[shape], 0.12 * AREAS[shape]);
      expect(Math.min(...open({ shape }, 0.999))).above(0.99);
      expect(Math.max(...open({ shape }, 0.001))).equal(0);
      const turned = open({ shape, angle: 25 }, 0.4);
      const still = open({ shape }, 0.4);
      const moved = turned.reduce((n, v, i) => n + Math.abs(v - still[i]), 0);
      if (shape === 'circle') expect(moved).below(1e-3);
      else expect(moved).above(20);
    });

  it('a star points up', () => {
    const star = open({ shape: 'star' }, 0.35);
    const row = (y: number): number => sum(star.slice(y * WIDE, (y + 1) * WIDE));
    const rows = Array.from({ length: HIGH }, (_, y) => y).filter((y) => row(y) > 0.5);
    expect(row(rows[0])).below(4);
    expect(HIGH / 2 - rows[0]).above(rows.at(-1)! + 1 - HIGH / 2);
  });
});

describe('promo: a wipe of smoke', () => {
  it('covers as many places by each moment, from the left on, in billows of its own seed', () => {
    const front = smokeFront(16 / 9, 3);
    expect(smokeFront(16 / 9, 3)).equal(front);
    const { width, height, arrival } = front;
    const sorted = Array.from(arrival).sort((a, b) => a - b);
    sorted.forEach((v, i) => i % 500 === 0 && expect(v).closeTo((i + 0.5) / sorted.length, 1e-5));
    const column = (x: number): number[] => Array.from({ length: height }, (_, y) => arrival[y * width + x]);
    const mean = (values: number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
    expect(mean(column(4))).below(0.15);
    expect(mean(column(width - 5))).above(0.75);
    // Billows: a column in the middle is not reached at one moment.
    const middle = column(width >> 1);
    expect(Math.max(...middle) - Math.min(...middle)).above(0.08);
    const other = smokeFront(16 / 9, 4).arrival;
    expect(mean(Array.from(arrival, (v, i) => Math.abs(v - other[i])))).above(0.01);
    expect(arrival.every((share) => share > 0 && share < 1)).equal(true);
  });

  it('air keeps its volume: the front goes on evenly, from any side', () => {
    const values = { kind: 'smoke', colour: '#000000', softness: 0 } as const;
    const [early, middle, late] = [0.2, 0.5, 0.8].map((t) => sum(open(values, t)) / (WIDE * HIGH));
    expect(early).below(0.1);
    expect(middle).within(0.1, 0.6);
    expect(late).within(0.7, 1);
    const left = (of: Float32Array): number => sum(of.filter((_, i) => i % WIDE < WIDE / 2));
    const right = (of: Float32Array): number => sum(of.filter((_, i) => i % WIDE >= WIDE / 2));
    const there = open({ ...values, angle: 0 }, 0.5);
    const back = open({ ...values, angle: 180 }, 0.5);
    expect(left(there)).above(4 * right(there));
    expect(right(back)).above(4 * left(back));
  });

  it('hides both pictures in its own colour where it is', () => {
    plates.within(() => {
      const [going, coming] = [plates.make(WIDE, HIGH), plates.make(WIDE, HIGH)];
      for (let i = 0; i < going.data.length; i += 4) {
        going.data[i] = coming.data[i + 1] = 1;
        going.data[i + 3] = coming.data[i + 3] = 1;
      }
      drawTransition(plates, going, coming, { ...newTransition('smoke', 12), colour: '#0000FF' }, 0.45);
      let [red, green, blue] = [0, 0, 0];
      for (let i = 0; i < going.data.length; i += 4) {
        if (going.data[i] > 0.9) red++;
        if (going.data[i + 1] > 0.9) green++;
        if (going.data[i + 2] > 0.3 && going.data[i] < 0.1 && going.data[i + 1] < 0.4) blue++;
      }
      expect(Math.min(red, green, blue)).above(300);
    });
  });
});

describe('promo: flying past a picture', () => {
  /** A frame of it: the going picture is red, the coming one blue. */
  function flown(t: number, angle = 0): Float32Array {
    return plates.within(() => {
      const [going, coming] = [plates.make(WIDE, HIGH), plates.make(WIDE, HIGH)];
      for (let i = 0; i < going.data.length; i += 4) {
        going.data.set([1, 0, 0, 1], i);
        coming.data.set([0, 0, 1, 1], i);
      }
      drawTransition(plates, going, coming, { ...newTransition('fly', 12), angle }, t);
      return going.data.slice();
    });
  }
  const share = (data: Float32Array, c: number, x0 = 0, x1 = WIDE): number => {
    let [total, count] = [0, 0];
    for (let y = 0; y < HIGH; y++)
      for (let x = x0; x < x1; x++) [total, count] = [total + data[(y * WIDE + x) * 4 + c], count + 1];
    return total / count;
  };

  it('begins with the one, ends with the other, and is nowhere empty in between', () => {
    expect(share(flown(0.001), 0)).closeTo(1, 1e-3);
    expect(share(flown(0.999), 2)).closeTo(1, 1e-3);
    let gone = 1;
    for (const t of [0.2, 0.4, 0.5, 0.6, 0.8]) {
      const data = flown(t);
      for (let i = 0; i < data.length; i += 4) expect(data[i] + data[i + 2]).closeTo(1, 2e-3);
      expect(share(data, 0)).most(gone + 1e-6);
      gone = share(data, 0);
    }
    expect(gone).equal(0);
  });

  it('the going one leaves on the side that the camera does not fly to', () => {
    const data = flown(0.44);
    expect(share(data, 0, 0, WIDE / 2)).above(share(data, 0, WIDE / 2) + 0.1);
    const other = flown(0.44, 180);
    expect(share(other, 0, WIDE / 2)).above(share(other, 0, 0, WIDE / 2) + 0.1);
  });
});
