import { hypot } from '../maths/index.ts';
/** A number 0..1 that only the arguments decide (an integer mix after Wang). */
export function unitHash(seed: number, x: number, y: number, which = 0): number {
  let h =
    (seed ^ Math.imul(x + 0x9e37, 0x85ebca6b) ^ Math.imul(y + 0x79b9, 0xc2b2ae35) ^ Math.imul(which + 1, 0x27d4eb2f)) |
    0;
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 0x100000000;
}

const modulo = (i: number, n: number): number => ((i % n) + n) % n;

/** Smooth noise 0..1 in octaves; the lattice wraps after `cells`, so it tiles (Perlin's value noise). */
export function tiledNoise(u: number, v: number, cells: number, seed: number, octaves: number): number {
  let [sum, weight, total] = [0, 1, 0];
  for (let o = 0, n = cells; o < octaves; o++, n *= 2, weight /= 2) {
    const [x, y] = [u * n, v * n];
    const [i, j] = [Math.floor(x), Math.floor(y)];
    const fade = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);
    const [fx, fy] = [fade(x - i), fade(y - j)];
    const at = (a: number, b: number): number => unitHash(seed + o, modulo(a, n), modulo(b, n));
    const low = at(i, j) * (1 - fx) + at(i + 1, j) * fx;
    const high = at(i, j + 1) * (1 - fx) + at(i + 1, j + 1) * fx;
    sum += weight * (low * (1 - fy) + high * fy);
    total += weight;
  }
  return sum / total;
}

/** Distances (in cells) to the nearest and second nearest of one scattered point a cell, and the nearest one's number (Worley). */
export function tiledCells(
  u: number,
  v: number,
  cells: number,
  seed: number,
): { nearest: number; next: number; pick: number } {
  const [x, y] = [u * cells, v * cells];
  const [i, j] = [Math.floor(x), Math.floor(y)];
  let [nearest, next, pick] = [Infinity, Infinity, 0];
  for (let b = j - 2; b <= j + 2; b++) {
    for (let a = i - 2; a <= i + 2; a++) {
      const [ca, cb] = [modulo(a, cells), modulo(b, cells)];
      const d = hypot(a + unitHash(seed, ca, cb, 1) - x, b + unitHash(seed, ca, cb, 2) - y);
      if (d < nearest) {
        next = nearest;
        nearest = d;
        pick = unitHash(seed, ca, cb, 3);
      } else if (d < next) next = d;
    }
  }
  return { nearest, next, pick };
}

/**
 * One figure a cell at a scattered place, drawn by `draw` in cells from its middle; what lies on top is the last in a
 * fixed order. `random` gives numbers of the figure's own.
 */
export function tiledStrokes(
  u: number,
  v: number,
  cells: number,
  seed: number,
  draw: (x: number, y: number, random: (which: number) => number) => number,
): { figure: number; pick: number } {
  const [x, y] = [u * cells, v * cells];
  const [i, j] = [Math.floor(x), Math.floor(y)];
  let [figure, pick] = [0, 1];
  for (let b = j - 1; b <= j + 1; b++) {
    for (let a = i - 1; a <= i + 1; a++) {
      const [ca, cb] = [modulo(a, cells), modulo(b, cells)];
      const random = (which: number): number => unitHash(seed, ca, cb, 10 + which);
      const value = draw(x - a - unitHash(seed, ca, cb, 1), y - b - unitHash(seed, ca, cb, 2), random);
      if (value > figure) {
        figure = value;
        pick = random(9);
      }
    }
  }
  return { figure, pick };
}
