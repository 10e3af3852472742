import { highWord, scaleByPower, withHighWord } from './bits.ts';

/** Exponentials and logarithms in plain double arithmetic, after fdlibm; see trigonometry.ts for why. */

const LN2_HIGH = 6.9314718036912381649e-1;
const LN2_LOW = 1.90821492927058770002e-10;
const INVERSE_LN2 = 1.442695040888963387;

/** e to the x. */
export function exp(x: number): number {
  if (Number.isNaN(x)) return x;
  if (x > 709.782712893383973096) return Infinity;
  if (x < -745.13321910194110842) return 0;
  if (x === 0) return 1;
  const k = Math.abs(x) > 0.34657359027997264 ? Math.round(x * INVERSE_LN2) : 0;
  return scaleByPower(expNear(x - k * LN2_HIGH, k * LN2_LOW), k);
}

/** e to the (high - low) for an argument within half of ln 2. */
function expNear(high: number, low: number): number {
  const x = high - low;
  const z = x * x;
  const c =
    x -
    z *
      (1.66666666666666019037e-1 +
        z *
          (-2.77777777770155933842e-3 +
            z * (6.61375632143793436117e-5 + z * (-1.6533902205465251539e-6 + z * 4.13813679705723846039e-8))));
  return 1 + ((x * c) / (2 - c) - low + high);
}

/** Hyperbolic tangent: odd, and within -1..1. */
export function tanh(x: number): number {
  const a = Math.abs(x);
  // The first terms of its series: the quotient below would lose the small ones.
  if (a < 1e-3) return x * (1 - (x * x) / 3);
  const twice = exp(-2 * a);
  const value = (1 - twice) / (1 + twice);
  return x < 0 ? -value : value;
}

/** log() in two parts that are added last: the whole powers of two keep their bits. */
const parts = { k: 0, f: 0, rest: 0 };

function split(x: number): void {
  let [value, k] = [x, 0];
  if (value < 2.2250738585072014e-308) {
    value *= 18014398509481984;
    k = -54;
  }
  // The mantissa between root half and root two.
  const high = highWord(value) + (0x3ff00000 - 0x3fe6a09e);
  k += (high >>> 20) - 0x3ff;
  const f = withHighWord(value, (high & 0xfffff) + 0x3fe6a09e) - 1;
  const s = f / (2 + f);
  const z = s * s;
  const w = z * z;
  const even = w * (3.999999999940941908e-1 + w * (2.222219843214978396e-1 + w * 1.531383769920937332e-1));
  const odd =
    z *
    (6.66666666666673513e-1 +
      w * (2.857142874366239149e-1 + w * (1.818357216161805012e-1 + w * 1.479819860511658591e-1)));
  const half = 0.5 * f * f;
  parts.k = k;
  parts.f = f;
  parts.rest = s * (half + even + odd) - half;
}

/** Natural logarithm; -Infinity at 0, NaN below. */
export function log(x: number): number {
  if (x === 0) return -Infinity;
  if (!(x > 0) || x === Infinity) return x === Infinity ? x : NaN;
  split(x);
  const { k, f, rest } = parts;
  return rest + k * LN2_LOW + f + k * LN2_HIGH;
}

/** Logarithm to the base 2. */
export function log2(x: number): number {
  if (!(x > 0) || x === Infinity) return log(x);
  split(x);
  // Powers of two come out whole.
  return parts.k + (parts.f + parts.rest) * INVERSE_LN2;
}

/** Logarithm to the base 10. */
export function log10(x: number): number {
  return log(x) * 4.34294481903251816668e-1;
}

/**
 * x to the y, within a few units in the last place for the moderate powers that light and curves need; whole powers up to 64
 * by multiplication. Negative x only with whole y.
 */
export function pow(x: number, y: number): number {
  if (y === 0) return 1;
  // Squares are most of what is asked for.
  if (y === 2) return x * x;
  if (Number.isInteger(y) && Math.abs(y) <= 64) {
    const value = wholePower(x, Math.abs(y));
    return y < 0 ? 1 / value : value;
  }
  if (x < 0) return Number.isInteger(y) ? (y % 2 === 0 ? 1 : -1) * pow(-x, y) : NaN;
  if (x === 0) return y > 0 ? 0 : Infinity;
  if (x === 2) return exp2(y);
  return exp(y * log(x));
}

function wholePower(x: number, n: number): number {
  let [result, square, left] = [1, x, n];
  while (left > 0) {
    if (left & 1) result *= square;
    square *= square;
    left >>= 1;
  }
  return result;
}

/** 2 to the x; exact for whole x. */
export function exp2(x: number): number {
  const k = Math.round(x);
  if (!Number.isFinite(x) || Math.abs(k) > 2000) return x > 0 ? Infinity : Number.isNaN(x) ? NaN : 0;
  return scaleByPower(exp((x - k) * Math.LN2), k);
}

/** Length of a vector. Unlike Math.hypot it is one plain sum, and so the same everywhere. */
export function hypot(...values: number[]): number {
  let sum = 0;
  for (const v of values) sum += v * v;
  return Math.sqrt(sum);
}
