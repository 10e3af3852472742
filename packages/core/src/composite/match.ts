import { linearToSrgb, srgbToLinear } from '../finish/index.ts';
import { pow } from '../maths/index.ts';
import { Problem } from '../problem/index.ts';
import type { Picture } from '../picture/index.ts';

type Three = [number, number, number];
type Matrix = [Three, Three, Three];

/** Pixels of a picture that are looked at, about. */
const LOOKED_AT = 40_000;
/** Alpha from which a pixel counts. */
const OPAQUE = 128;
/** Spread that every picture has at least in each direction, so that one without any is not divided by nothing. */
const LEAST_VARIANCE = 1e-5;
/** Times that colours are drawn apart or together at most: a flat picture has no spread that could be stretched to that of a lively one. */
const MOST_STRETCH = 4;

const cbrt = (v: number): number => pow(Math.max(0, v), 1 / 3);

/** Linear Rec.709 as Oklab (Ottosson 2020): lightness, green to red, blue to yellow. */
export function toOklab(r: number, g: number, b: number): Three {
  const l = cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** The way back; colours may lie outside 0 to 1. */
export function fromOklab([lightness, a, b]: Three): Three {
  const [l, m, s] = [
    lightness + 0.3963377774 * a + 0.2158037573 * b,
    lightness - 0.1055613458 * a - 0.0638541728 * b,
    lightness - 0.0894841775 * a - 1.291485548 * b,
  ].map((v) => v * v * v);
  return [
    4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s,
    -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s,
    -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s,
  ];
}

/** Mean and covariance of a picture's colours in Oklab. */
export interface ColourStatistics {
  mean: Three;
  covariance: Matrix;
}

/** @throws Problem `match/empty` when hardly anything of it is opaque. */
export function colourStatistics({ width, height, data }: Picture): ColourStatistics {
  const step = Math.max(1, Math.floor((width * height) / LOOKED_AT));
  const sum: Three = [0, 0, 0];
  const squares: Matrix = [
    [0, 0, 0],
    [0, 0, 0],
    [0, 0, 0],
  ];
  let count = 0;
  for (let i = 0; i < width * height; i += step) {
    const at = i * 4;
    if (data[at + 3] < OPAQUE) continue;
    const [r, g, b] = [0, 1, 2].map((c) => srgbToLinear(data[at + c] / 255));
    const lab = toOklab(r, g, b);
    for (let j = 0; j < 3; j++) {
      sum[j] += lab[j];
      for (let k = 0; k < 3; k++) squares[j][k] += lab[j] * lab[k];
    }
    count++;
  }
  if (count < 16)
    throw new Problem('match/empty', 'There is hardly anything to be seen in the picture: choose another.', 'Picture');
  const mean = sum.map((v) => v / count) as Three;
  const covariance = squares.map((row, j) => row.map((v, k) => v / count - mean[j] * mean[k])) as Matrix;
  return { mean, covariance };
}

const times = (a: Matrix, b: Matrix): Matrix =>
  a.map((row) => [0, 1, 2].map((k) => row[0] * b[0][k] + row[1] * b[1][k] + row[2] * b[2][k])) as Matrix;

/** A function of a symmetric matrix, by its eigenvalues (cyclic Jacobi rotations). */
function ofSymmetric(matrix: Matrix, of: (eigenvalue: number) => number): Matrix {
  const a = matrix.map((row) => [...row]);
  const v = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  for (let sweep = 0; sweep < 24; sweep++)
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ]) {
      if (Math.abs(a[p][q]) < 1e-18) continue;
      const theta = (a[q][q] - a[p][p]) / (2 * a[p][q]);
      const t = (theta < 0 ? -1 : 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
      const c = 1 / Math.sqrt(t * t + 1);
      const s = t * c;
      for (let k = 0; k < 3; k++) [a[k][p], a[k][q]] = [c * a[k][p] - s * a[k][q], s * a[k][p] + c * a[k][q]];
      for (let k = 0; k < 3; k++) [a[p][k], a[q][k]] = [c * a[p][k] - s * a[q][k], s * a[p][k] + c * a[q][k]];
      for (let k = 0; k < 3; k++) [v[k][p], v[k][q]] = [c * v[k][p] - s * v[k][q], s * v[k][p] + c * v[k][q]];
    }
  const f = [0, 1, 2].map((i) => of(a[i][i]));
  return [0, 1, 2].map((j) =>
    [0, 1, 2].map((k) => f[0] * v[j][0] * v[k][0] + f[1] * v[j][1] * v[k][1] + f[2] * v[j][2] * v[k][2]),
  ) as Matrix;
}

/**
 * Brings the colours of one picture to those of another: the linear map in Oklab that gives its mean and covariance with the least change
 * (Pitie and Kokaram 2007), within limits of stretch.
 *
 * @returns changes a display colour coded as sRGB, 0 to 1, in place; what falls out of range is cut off
 */
export function colourMatch(from: ColourStatistics, to: ColourStatistics): (rgb: Float64Array) => void {
  const spread = (m: Matrix): Matrix =>
    m.map((row, j) => row.map((v, k) => (j === k ? v + LEAST_VARIANCE : v))) as Matrix;
  const root = ofSymmetric(spread(from.covariance), (v) => Math.sqrt(Math.max(0, v)));
  const back = ofSymmetric(spread(from.covariance), (v) => 1 / Math.sqrt(Math.max(LEAST_VARIANCE, v)));
  const middle = ofSymmetric(times(times(root, spread(to.covariance)), root), (v) => Math.sqrt(Math.max(0, v)));
  const whole = times(times(back, middle), back);
  const map = ofSymmetric(whole, (v) => Math.min(MOST_STRETCH, Math.max(1 / MOST_STRETCH, v)));
  return (rgb) => {
    const lab = toOklab(srgbToLinear(rgb[0]), srgbToLinear(rgb[1]), srgbToLinear(rgb[2]));
    const off = lab.map((v, k) => v - from.mean[k]);
    const moved = map.map((row, j) => to.mean[j] + row[0] * off[0] + row[1] * off[1] + row[2] * off[2]) as Three;
    fromOklab(moved).forEach((v, c) => (rgb[c] = linearToSrgb(Math.min(1, Math.max(0, v)))));
  };
}
