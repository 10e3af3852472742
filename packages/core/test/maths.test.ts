import { expect } from 'chai';
import {
  acos,
  asin,
  atan,
  atan2,
  cos,
  exp,
  exp2,
  hypot,
  log,
  log10,
  log2,
  pow,
  sin,
  tan,
  tanh,
} from '@tender-orbit/core/maths';
import { randomNumbers } from './studio.ts';

/** Difference in units of the last place of `wanted`. */
function ulps(actual: number, wanted: number): number {
  if (Object.is(actual, wanted)) return 0;
  const step = Math.max(Number.MIN_VALUE, Math.abs(wanted) * Number.EPSILON);
  return Math.abs(actual - wanted) / step;
}

describe('maths: the same in every engine, and right', () => {
  const random = randomNumbers(5);
  const many = (from: number, to: number, count = 20000): number[] =>
    Array.from({ length: count }, () => from + (to - from) * random());
  const worst = (own: (x: number) => number, host: (x: number) => number, inputs: readonly number[]): number =>
    inputs.reduce((most, x) => Math.max(most, ulps(own(x), host(x))), 0);

  it('trigonometry agrees with this engine’s own to the last place or two', () => {
    // Near a zero of sine and cosine the last place is tiny, and reduction is what is tested.
    for (const inputs of [many(-10, 10), many(-2e4, 2e4), many(-1e-3, 1e-3)]) {
      expect(worst(sin, Math.sin, inputs)).below(1.5);
      expect(worst(cos, Math.cos, inputs)).below(1.5);
      expect(worst(tan, Math.tan, inputs)).below(3);
    }
    expect(worst(atan, Math.atan, [...many(-5, 5), ...many(-1e6, 1e6)])).below(1.5);
    expect(worst(asin, Math.asin, many(-1, 1))).below(3);
    expect(worst(acos, Math.acos, many(-1, 1))).below(3);
    for (const y of many(-3, 3, 200))
      for (const x of many(-3, 3, 20)) expect(ulps(atan2(y, x), Math.atan2(y, x))).below(2);
  });

  it('powers and logarithms as well', () => {
    expect(worst(exp, Math.exp, [...many(-700, 700), ...many(-1, 1)])).below(1.5);
    expect(worst(log, Math.log, [...many(0, 1), ...many(0, 1e12), ...many(0.9, 1.1)])).below(1.5);
    expect(worst(log2, Math.log2, [...many(0, 1), ...many(0, 1e12)])).below(4);
    expect(worst(log10, Math.log10, many(0, 1e12))).below(3);
    expect(worst(exp2, (x) => 2 ** x, many(-100, 100))).below(2);
    expect(many(-5, 5).every((x) => Math.abs(tanh(x) - Math.tanh(x)) < 1e-12)).equal(true);
    // The display curve, and its way back.
    expect(
      worst(
        (x) => pow(x, 1 / 2.4),
        (x) => x ** (1 / 2.4),
        many(0, 1),
      ),
    ).below(4);
    expect(
      worst(
        (x) => pow(x, 2.4),
        (x) => x ** 2.4,
        many(0, 1),
      ),
    ).below(40);
    expect(
      worst(
        (x) => pow(x, 5),
        (x) => x ** 5,
        many(-10, 10),
      ),
    ).below(3);
  });

  it('is exact where the answer is', () => {
    expect([sin(0), cos(0), tan(0), atan(0), exp(0), log(1), pow(7, 0), exp2(10), log2(1024)]).deep.equal([
      0, 1, 0, 0, 1, 0, 1, 1024, 10,
    ]);
    expect(Object.is(sin(-0), -0)).equal(true);
    expect([atan2(0, 1), atan2(0, -1), atan2(1, 0), atan2(-1, 0)]).deep.equal([0, Math.PI, Math.PI / 2, -Math.PI / 2]);
    expect(hypot(3, 4)).equal(5);
    expect(hypot(2, 3, 6)).equal(7);
  });

  it('takes the ends of its range as they come', () => {
    for (const f of [sin, cos]) for (const x of [Infinity, -Infinity, NaN]) expect(f(x)).NaN;
    expect([exp(1000), exp(-1000), log(0), log(-1), log(Infinity), asin(2), acos(-2)]).deep.equal([
      Infinity,
      0,
      -Infinity,
      NaN,
      Infinity,
      NaN,
      NaN,
    ]);
    expect([pow(0, 0.5), pow(0, -0.5), pow(-8, 1 / 3), pow(-2, 3), exp2(-5000), exp2(5000)]).deep.equal([
      0,
      Infinity,
      NaN,
      -8,
      0,
      Infinity,
    ]);
    expect(log(5e-324)).closeTo(Math.log(5e-324), 1e-12);
    expect(Math.abs(sin(1e15))).at.most(1);
  });
});
