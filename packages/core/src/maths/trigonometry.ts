/**
 * Sine and its kin in plain double arithmetic: +, -, * and / are the same to the last bit in every engine, while
 * Math.sin and its like are each engine's own. The polynomials are those of fdlibm (Sun Microsystems, 1993), errors below
 * one unit in the last place.
 */

const INVERSE_HALF_PI = 6.36619772367581382433e-1;
/** Half of pi in three parts: the first two have 33 bits, so that their products with whole numbers are exact. */
const HALF_PI_1 = 1.57079632673412561417;
const HALF_PI_2 = 6.077100506303966e-11;
const HALF_PI_3 = 2.02226624879595063154e-21;
/** Beyond this angle whole turns are taken off first; fmod is exact, two pi as a double is not. */
const FAR = 1e6;

/** What is left of an angle within a quarter turn: nearest multiple of half pi, remainder and its tail. */
const reduced = { quadrant: 0, rest: 0, tail: 0 };

function reduce(x: number): void {
  const angle = Math.abs(x) > FAR ? x % (2 * Math.PI) : x;
  const n = Math.round(angle * INVERSE_HALF_PI);
  const a = angle - n * HALF_PI_1;
  const b = n * HALF_PI_2;
  const first = a - b;
  const lost = a - first - b;
  const c = n * HALF_PI_3 - lost;
  reduced.rest = first - c;
  reduced.tail = first - reduced.rest - c;
  reduced.quadrant = n & 3;
}

/** Sine of x + y for |x| < pi / 4 and a tail y. */
function sinNear(x: number, y: number): number {
  const z = x * x;
  const r =
    8.33333333332248946124e-3 +
    z *
      (-1.98412698298579493134e-4 +
        z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)));
  const v = z * x;
  return x - (z * (0.5 * y - v * r) - y - v * -1.66666666666666324348e-1);
}

/** Cosine of x + y for |x| < pi / 4 and a tail y. */
function cosNear(x: number, y: number): number {
  const z = x * x;
  const r =
    z *
    (4.16666666666666019037e-2 +
      z *
        (-1.38888888888741095749e-3 +
          z *
            (2.48015872894767294178e-5 +
              z * (-2.75573143513906633035e-7 + z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11)))));
  const half = 0.5 * z;
  const w = 1 - half;
  return w + (1 - w - half + (z * r - x * y));
}

/** Sine of an angle in radians. NaN for what is not finite. */
export function sin(x: number): number {
  // A negative zero stays one.
  if (x === 0 || !Number.isFinite(x)) return x === 0 ? x : NaN;
  reduce(x);
  const { quadrant, rest, tail } = reduced;
  const value = quadrant & 1 ? cosNear(rest, tail) : sinNear(rest, tail);
  return quadrant & 2 ? -value : value;
}

/** Cosine of an angle in radians. NaN for what is not finite. */
export function cos(x: number): number {
  if (!Number.isFinite(x)) return NaN;
  reduce(x);
  const { quadrant, rest, tail } = reduced;
  const value = quadrant & 1 ? sinNear(rest, tail) : cosNear(rest, tail);
  return quadrant === 1 || quadrant === 2 ? -value : value;
}

/** Tangent of an angle in radians. */
export function tan(x: number): number {
  return x === 0 ? x : sin(x) / cos(x);
}

const ATAN_HIGH = [
  4.63647609000806093515e-1, 7.85398163397448278999e-1, 9.82793723247329054082e-1, 1.570796326794896558,
];
const ATAN_LOW = [
  2.26987774529616870924e-17, 3.06161699786838301793e-17, 1.39033110312309984516e-17, 6.12323399573676603587e-17,
];

/** Angle in radians, -pi / 2 to pi / 2, of which `x` is the tangent. */
export function atan(x: number): number {
  const a = Math.abs(x);
  if (Number.isNaN(x) || a < 1e-8) return x;
  if (a > 1e17) return x > 0 ? ATAN_HIGH[3] : -ATAN_HIGH[3];
  let near = -1;
  let t = a;
  if (a >= 2.4375) [near, t] = [3, -1 / a];
  else if (a >= 1.1875) [near, t] = [2, (a - 1.5) / (1 + 1.5 * a)];
  else if (a >= 0.6875) [near, t] = [1, (a - 1) / (a + 1)];
  else if (a >= 0.4375) [near, t] = [0, (2 * a - 1) / (2 + a)];
  const z = t * t;
  const w = z * z;
  const odd =
    z *
    (3.33333333333329318027e-1 +
      w *
        (1.42857142725034663711e-1 +
          w *
            (9.09088713343650656196e-2 +
              w * (6.66107313738753120669e-2 + w * (4.97687799461593236017e-2 + w * 1.62858201153657823623e-2)))));
  const even =
    w *
    (-1.99999999998764832476e-1 +
      w *
        (-1.1111110405462355788e-1 +
          w * (-7.69187620504482999495e-2 + w * (-5.83357013379057348645e-2 + w * -3.6531572744216915527e-2))));
  const value = near < 0 ? t - t * (odd + even) : ATAN_HIGH[near] - (t * (odd + even) - ATAN_LOW[near] - t);
  return x < 0 ? -value : value;
}

/** Direction of (x, y) in radians, -pi to pi; signs of zeros count as IEEE 754 has them. */
export function atan2(y: number, x: number): number {
  if (Number.isNaN(x) || Number.isNaN(y)) return NaN;
  const down = y < 0 || Object.is(y, -0);
  const back = x < 0 || Object.is(x, -0);
  const signed = (value: number): number => (down ? -value : value);
  if (y === 0) return signed(back ? Math.PI : 0);
  if (x === 0) return signed(Math.PI / 2);
  if (!Number.isFinite(x)) {
    if (!Number.isFinite(y)) return signed(back ? (3 * Math.PI) / 4 : Math.PI / 4);
    return signed(back ? Math.PI : 0);
  }
  if (!Number.isFinite(y)) return signed(Math.PI / 2);
  const z = atan(Math.abs(y / x));
  return signed(back ? Math.PI - (z - 1.2246467991473532e-16) : z);
}

/** Angle in radians, -pi / 2 to pi / 2, of which `x` is the sine; NaN beyond -1..1. */
export function asin(x: number): number {
  return x === 0 ? x : atan2(x, Math.sqrt((1 - x) * (1 + x)));
}

/** Angle in radians, 0 to pi, of which `x` is the cosine; NaN beyond -1..1. */
export function acos(x: number): number {
  return atan2(Math.sqrt((1 - x) * (1 + x)), x);
}

/** Radians: turns of this much lay any number of points evenly on a disc or a sphere (Vogel 1979). */
export const GOLDEN_TURN = Math.PI * (3 - Math.sqrt(5));
