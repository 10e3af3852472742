import { seeded } from '../../maths/index.ts';

/**
 * A tile of noise that repeats without a seam: at each of its cells a direction (x, y, z and an unused fourth number), free of
 * divergence, since it is the curl of a random field (Bridson, Houriham and Nordenstam 2007). Of length about 1.
 */
export function randomTile(cells: number): Float32Array {
  const random = seeded(1);
  const next = (): number => 2 * random() - 1;
  const count = cells * cells * cells;
  // Two sizes of eddies: one of eight cells, a weaker one of four.
  const potential = [0, 1, 2].map(() =>
    added(smoothed(lattice(cells, 8, next), cells, 8), smoothed(lattice(cells, 4, next), cells, 4), 0.4),
  );
  const at = (field: Float64Array, i: number, j: number, k: number): number => {
    const wrap = (v: number): number => (v + cells) % cells;
    return field[(wrap(k) * cells + wrap(j)) * cells + wrap(i)];
  };
  const out = new Float32Array(count * 4);
  let squares = 0;
  for (let k = 0; k < cells; k++)
    for (let j = 0; j < cells; j++)
      for (let i = 0; i < cells; i++) {
        const slope = (field: Float64Array, axis: number): number => {
          const d = [0, 0, 0].with(axis, 1);
          return at(field, i + d[0], j + d[1], k + d[2]) - at(field, i - d[0], j - d[1], k - d[2]);
        };
        const [px, py, pz] = potential;
        const curl = [slope(pz, 1) - slope(py, 2), slope(px, 2) - slope(pz, 0), slope(py, 0) - slope(px, 1)];
        squares += curl[0] * curl[0] + curl[1] * curl[1] + curl[2] * curl[2];
        out.set(curl, ((k * cells + j) * cells + i) * 4);
      }
  const scale = 1 / Math.sqrt(squares / count);
  for (let i = 0; i < out.length; i++) out[i] *= scale;
  return out;
}

const lattice = (cells: number, size: number, next: () => number): Float64Array =>
  Float64Array.from({ length: (cells / size) * (cells / size) * (cells / size) }, next);

function added(a: Float64Array, b: Float64Array, share: number): Float64Array {
  return a.map((v, i) => v + share * b[i]);
}

/** Values of a coarse lattice between its points, by a cubic that is smooth across them. */
function smoothed(points: Float64Array, cells: number, size: number): Float64Array {
  const n = cells / size;
  const out = new Float64Array(cells * cells * cells);
  const ease = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);
  const of = (v: number): [number, number, number] => {
    const at = Math.floor(v / size);
    return [at % n, (at + 1) % n, ease(v / size - at)];
  };
  for (let k = 0; k < cells; k++)
    for (let j = 0; j < cells; j++)
      for (let i = 0; i < cells; i++) {
        const [x, y, z] = [of(i), of(j), of(k)];
        let sum = 0;
        for (let c = 0; c < 8; c++) {
          const [a, b, d] = [c & 1, (c >> 1) & 1, c >> 2];
          const weight = (a ? x[2] : 1 - x[2]) * (b ? y[2] : 1 - y[2]) * (d ? z[2] : 1 - z[2]);
          sum += weight * points[(z[d] * n + y[b]) * n + x[a]];
        }
        out[(k * cells + j) * cells + i] = sum;
      }
  return out;
}
