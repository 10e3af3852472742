import { expect } from 'chai';
import { BLEND_MODES, type BlendMode } from '@tender-orbit/core/document';
import { blend, blurPlate, gaussianWeights, placeOf, Pyramid, warp, type Plate } from '@tender-orbit/core/composite';
import { at, plateOf, plates } from './composite-box.ts';

describe('composite: blends', () => {
  /** W3C Compositing and Blending Level 1, chapter 10, written out once more by its text. */
  const soft = (b: number, s: number): number => {
    const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
    return s <= 0.5 ? b - (1 - 2 * s) * b * (1 - b) : b + (2 * s - 1) * (d - b);
  };
  const hard = (b: number, s: number): number => (s <= 0.5 ? b * 2 * s : b + (2 * s - 1) - b * (2 * s - 1));
  const SEPARABLE: Partial<Record<BlendMode, (b: number, s: number) => number>> = {
    over: (_, s) => s,
    multiply: (b, s) => b * s,
    screen: (b, s) => b + s - b * s,
    overlay: (b, s) => hard(s, b),
    'hard light': hard,
    'soft light': soft,
    lighten: Math.max,
    darken: Math.min,
    'colour dodge': (b, s) => (b === 0 ? 0 : s === 1 ? 1 : Math.min(1, b / (1 - s))),
    'colour burn': (b, s) => (b === 1 ? 1 : s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
    difference: (b, s) => Math.abs(b - s),
  };
  const lum = (c: number[]): number => 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2];
  const setLum = (c: number[], l: number): number[] => {
    const shifted = c.map((v) => v + l - lum(c));
    const [n, x, m] = [Math.min(...shifted), Math.max(...shifted), lum(shifted)];
    let out = shifted;
    if (n < 0) out = out.map((v) => m + ((v - m) * m) / (m - n));
    if (x > 1) out = out.map((v) => m + ((v - m) * (1 - m)) / (x - m));
    return out;
  };
  const WHOLE: Partial<Record<BlendMode, (b: number[], s: number[]) => number[]>> = {
    luminosity: (b, s) => setLum(b, lum(s)),
    colour: (b, s) => setLum(s, lum(b)),
  };
  const STEPS = [0, 0.15, 0.25, 0.5, 0.8, 1];
  const GRID = STEPS.flatMap((r) => STEPS.map((g, i) => [r, g, STEPS[(i + 2) % STEPS.length]]));
  const ALPHAS = [
    [1, 1],
    [0.5, 1],
    [1, 0.4],
    [0.3, 0.7],
  ];

  for (const mode of BLEND_MODES)
    it(`${mode} follows its formula over a grid of colours and alphas`, () => {
      const [below, over] = [plates.make(1, 1), plates.make(1, 1)];
      for (const b of GRID)
        for (const s of GRID)
          for (const [ab, as] of ALPHAS) {
            below.data.set([...b.map((v) => v * ab), ab]);
            over.data.set([...s.map((v) => v * as), as]);
            blend(plates, below, over, mode, 1);
            const each = SEPARABLE[mode];
            const mixed = each ? b.map((v, c) => each(v, s[c])) : (WHOLE[mode]?.(b, s) ?? []);
            const wanted =
              mode === 'add'
                ? [...b.map((v, c) => v * ab + s[c] * as), Math.min(1, ab + as)]
                : [
                    ...b.map((v, c) => (1 - as) * ab * v + (1 - ab) * as * s[c] + as * ab * mixed[c]),
                    as + ab - as * ab,
                  ];
            below.data.forEach((v, c) => {
              if (Math.abs(v - wanted[c]) > 2e-5)
                expect(v, `${mode} ${b} ${s} ${ab} ${as} ${c}`).closeTo(wanted[c], 2e-5);
            });
          }
    });

  it('light above white is kept by every mode', () => {
    for (const mode of BLEND_MODES) {
      const below = plateOf(1, 1, [8, 4, 2, 1]);
      blend(plates, below, plateOf(1, 1, [0.25, 0.25, 0.25, 0.5]), mode, 1);
      expect(below.data.every(Number.isFinite)).equal(true);
      if (mode !== 'multiply' && mode !== 'darken') expect(below.data[0], mode).above(3.9);
    }
  });

  it('an opacity halves what a layer does', () => {
    const below = plateOf(1, 1, [0.2, 0.2, 0.2, 1]);
    blend(plates, below, plateOf(1, 1, [1, 1, 1, 1]), 'over', 0.25);
    expect(below.data[0]).closeTo(0.4, 1e-6);
  });
});

describe('composite: blur', () => {
  /** A point of light in the middle, blurred. */
  const point = (n: number, sigma: number, off = 0): Plate => {
    const plate = plates.make(n, n);
    const middle = (n >> 1) + off;
    plate.data.set([1, 1, 1, 1], (middle * n + middle) * 4);
    blurPlate(plates, plate, sigma);
    return plate;
  };
  it('spreads a point with the variance of its Gaussian, and loses nothing', () => {
    for (const sigma of [0.4, 1, 2.5, 3.5, 7, 12, 15]) {
      const n = 161;
      const { data } = point(n, sigma);
      let [sum, variance] = [0, 0];
      for (let y = 0; y < n; y++)
        for (let x = 0; x < n; x++) {
          const v = data[(y * n + x) * 4];
          sum += v;
          variance += v * (x - 80) * (x - 80);
        }
      expect(sum, String(sigma)).closeTo(1, 1e-4);
      expect(variance / (sigma * sigma), String(sigma)).closeTo(1, 2e-3);
    }
  });
  it('comes within 1 % of the Gaussian itself wherever the point lies, and leaves an even plate as it is', () => {
    for (const sigma of [2.9, 3.1, 6, 11.9, 12])
      for (const off of [0, 1, 2, 3]) {
        const { data } = point(129, sigma, off);
        const peak = 1 / (2 * Math.PI * sigma * sigma);
        for (let x = -30; x <= 30; x++) {
          const wanted = peak * Math.exp((-x * x) / (2 * sigma * sigma));
          const v = data[((64 + off) * 129 + 64 + off + x) * 4];
          expect(Math.abs(v - wanted), `${sigma} ${off} ${x}`).below(peak * 0.01);
        }
      }
    const even = plateOf(9, 9, new Float32Array(9 * 9 * 4).fill(0.7));
    for (const sigma of [0.5, 3, 20]) blurPlate(plates, even, sigma);
    for (const v of even.data) expect(v).closeTo(0.7, 1e-5);
  });
  it('weights of a narrow Gaussian have its variance', () => {
    for (const sigma of [0.2, 0.5, 1, 2.9]) {
      const w = gaussianWeights(sigma);
      expect(w.reduce((n, v, k) => n + (k ? 2 * v : v), 0)).closeTo(1, 1e-6);
      expect(w.reduce((n, v, k) => n + 2 * v * k * k, 0)).closeTo(sigma * sigma, sigma * sigma * 1e-3);
    }
  });
});

describe('composite: placing pictures', () => {
  const still = { x: 0, y: 0, scale: 1, stretch: 1, rotation: 0 };
  function checks(size: number, cell: number): Plate {
    const plate = plates.make(size, size);
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++) {
        const v = (Math.floor(x / cell) + Math.floor(y / cell)) & 1;
        plate.data.set([v, v, v, 1], (y * size + x) * 4);
      }
    return plate;
  }
  it('at rest it is the picture itself, to the bit', () => {
    const source = checks(32, 3);
    const out = plates.make(32, 32);
    warp(plates, out, new Pyramid(plates, source), placeOf(still, 32, 32), 1);
    expect(out.data).deep.equal(source.data);
  });
  it('a whole turn of a quarter moves pixels, and y goes up', () => {
    const source = plates.make(8, 8);
    source.data.set([1, 0, 0, 1], (1 * 8 + 6) * 4);
    const turned = plates.make(8, 8);
    warp(plates, turned, new Pyramid(plates, source), placeOf({ ...still, rotation: 90 }, 8, 8), 1);
    expect(at(turned, 1, 1)[0]).closeTo(1, 1e-6);
    const up = plates.make(8, 8);
    warp(plates, up, new Pyramid(plates, source), placeOf({ ...still, y: 1 / 8 }, 8, 8), 1);
    expect(at(up, 6, 0)[0]).closeTo(1, 1e-6);
  });
  it('made smaller it is the mean of what it covers, against a picture sampled many times', () => {
    const source = plates.make(256, 256);
    for (let i = 0; i < 256 * 256; i++) {
      const [x, y] = [i % 256, Math.floor(i / 256)];
      const v = 0.5 + 0.5 * Math.sin(x * 0.7 + y * 0.4) * Math.sin(y * 0.9);
      source.data.set([v, v, v, 1], i * 4);
    }
    const out = plates.make(32, 32);
    warp(plates, out, new Pyramid(plates, source), placeOf(still, 32, 32), 1);
    let error = 0;
    for (let y = 2; y < 30; y++)
      for (let x = 2; x < 30; x++) {
        let mean = 0;
        for (let q = 0; q < 64; q++) mean += source.data[((y * 8 + (q >> 3)) * 256 + x * 8 + (q & 7)) * 4] / 64;
        error += Math.abs(at(out, x, y)[0] - mean) / (28 * 28);
      }
    expect(error).below(0.01);
  });
});
