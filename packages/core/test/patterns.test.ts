import { expect } from 'chai';
import {
  candidatesFor,
  drawPattern,
  FINISH_LIBRARY,
  makePicture,
  PATTERN_KINDS,
  patternAt,
  pictureKey,
  type PatternKind,
  type PatternRecipe,
} from '@tender-orbit/core/finish';

const recipe = (kind: PatternKind, values: Partial<PatternRecipe> = {}): PatternRecipe => ({
  ...{ kind, seed: 5, count: 4, amount: 0.5, softness: 0.3, size: 96 },
  colours: ['#FFFFFF', '#000000', '#FF0000'],
  ...values,
});
const mean = (values: number[]): number => values.reduce((n, v) => n + v, 0) / values.length;

describe('finish: patterns', () => {
  for (const kind of PATTERN_KINDS) {
    it(`${kind} tiles: the step across the seam is like any step inside`, () => {
      const { data, width } = drawPattern(recipe(kind));
      const at = (x: number, y: number): number => data[(y * width + x) * 4 + 1];
      const step = (x: number, across: boolean): number =>
        mean(
          Array.from({ length: width }, (_, i) => {
            const next = (x + 1) % width;
            return Math.abs(across ? at(next, i) - at(x, i) : at(i, next) - at(i, x));
          }),
        );
      for (const across of [true, false]) {
        const inner = Array.from({ length: width - 1 }, (_, x) => step(x, across));
        expect(step(width - 1, across)).most(Math.max(...inner) * 1.05 + 0.5);
      }
    });

    it(`${kind} shows something, is the same each time and another with another seed or count`, () => {
      const picture = drawPattern(recipe(kind));
      const greens = [...picture.data].filter((_, i) => i % 4 === 1);
      expect(Math.max(...greens) - Math.min(...greens)).above(40);
      expect(drawPattern(recipe(kind)).data).deep.equal(picture.data);
      expect(drawPattern(recipe(kind, { count: 7, seed: 6 })).data).not.deep.equal(picture.data);
    });
  }

  it('go on beyond the tile as they began', () => {
    for (const kind of PATTERN_KINDS) {
      const r = recipe(kind);
      for (const [u, v] of [
        [0.13, 0.77],
        [0.5, 0.02],
      ]) {
        expect(patternAt(r, u + 1, v - 2).figure).closeTo(patternAt(r, u, v).figure, 1e-6);
      }
    }
  });

  it('let the figure grow with its amount', () => {
    const dark = (amount: number): number =>
      mean([...drawPattern(recipe('stripes', { amount })).data].filter((_, i) => i % 4 === 0));
    expect(dark(0.8)).below(dark(0.2) - 60);
  });
});

describe('finish: three candidates from words', () => {
  it('answer the words: a known kind and known colours', () => {
    const three = candidatesFor('golden honeycomb', 3);
    expect(three.map((r) => r.kind)).deep.equal(['honeycomb', 'honeycomb', 'honeycomb']);
    expect(new Set(three.map((r) => r.seed)).size).equal(3);
    for (const r of three) expect(r.colours[1]).equal('#D9982B');
  });

  it('are the same for the same words and seed, others for another seed', () => {
    expect(candidatesFor('misty moor', 1)).deep.equal(candidatesFor('misty moor', 1));
    expect(candidatesFor('misty moor', 1)).not.deep.equal(candidatesFor('misty moor', 2));
  });

  it('use each kind that is asked for, and something for words that say nothing', () => {
    expect(candidatesFor('stripes and dots', 1).map((r) => r.kind)).deep.equal(['stripes', 'dots', 'stripes']);
    for (const r of candidatesFor('xyzzy', 9)) expect(PATTERN_KINDS).include(r.kind);
  });
});

describe('finish: pictures', () => {
  const art = { width: 2, height: 1, data: Uint8Array.from([64, 128, 192, 255, 255, 255, 255, 0]) };
  const source = { asset: 'a', pattern: null, look: null, emboss: false };

  it('leave art as it is without a look', () => {
    expect(makePicture(source, art)).equal(art);
  });

  it('stretch levels, invert, tint, and keep alpha', () => {
    const look = { black: 64 / 255, white: 192 / 255, invert: false, tint: '#FFFF00' };
    expect([...makePicture({ ...source, look }, art).data]).deep.equal([0, 128, 0, 255, 255, 255, 0, 0]);
    expect(makePicture({ ...source, look: { ...look, invert: true } }, art).data[0]).equal(255);
  });

  it('turn ink into raised normals: the slope leans away from the ink on both sides', () => {
    const stripe = { width: 8, height: 8, data: new Uint8Array(256).fill(255) };
    for (let y = 0; y < 8; y++)
      (stripe.data.fill(0, (y * 8 + 3) * 4, (y * 8 + 5) * 4),
        (stripe.data[(y * 8 + 3) * 4 + 3] = 255),
        (stripe.data[(y * 8 + 4) * 4 + 3] = 255));
    const { data } = makePicture({ ...source, emboss: true }, stripe);
    const x = (px: number): number => data[(4 * 8 + px) * 4] - 128;
    expect(x(2)).below(-20);
    expect(x(5)).above(20);
    expect(x(0)).equal(0);
  });

  it('are known by everything that changes them', () => {
    const keys = [
      source,
      { ...source, asset: 'b' },
      { ...source, emboss: true },
      { ...source, pattern: recipe('dots') },
    ].map(pictureKey);
    expect(new Set(keys).size).equal(4);
  });
});

describe('finish: the library', () => {
  it('has at least 24 finishes with names of their own, in physical range', () => {
    expect(FINISH_LIBRARY.length).least(24);
    expect(new Set(FINISH_LIBRARY.map((f) => f.finish.name)).size).equal(FINISH_LIBRARY.length);
    for (const { finish } of FINISH_LIBRARY) {
      expect(Math.max(...finish.baseColor), finish.name).most(1);
      expect(finish.roughness, finish.name).within(0, 1);
      expect(finish.ior, finish.name).within(1, 2.5);
      if (finish.metallic === 1) expect(finish.transmission, finish.name).equal(0);
    }
  });
});
