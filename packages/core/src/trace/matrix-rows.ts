import type { Rows } from './layout.ts';
import type { Mat4 } from '../geometry/index.ts';

/** The upper three rows of a column-major 4x4 matrix, row by row: what the kernel multiplies with. */
export function rowsOf(m: Mat4): number[] {
  return [0, 1, 2].flatMap((r) => [m[r], m[4 + r], m[8 + r], m[12 + r]]);
}

/** Inverse of an affine transform given as rows. */
export function invertRows(m: Rows): number[] {
  const [a, b, c, x, d, e, f, y, g, h, i, z] = m;
  const s = 1 / (a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g));
  const r = [
    [(e * i - f * h) * s, (c * h - b * i) * s, (b * f - c * e) * s],
    [(f * g - d * i) * s, (a * i - c * g) * s, (c * d - a * f) * s],
    [(d * h - e * g) * s, (b * g - a * h) * s, (a * e - b * d) * s],
  ];
  return r.flatMap((row) => [...row, -(row[0] * x + row[1] * y + row[2] * z)]);
}
