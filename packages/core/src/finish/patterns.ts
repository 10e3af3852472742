import { cos, hypot, pow, sin } from '../maths/index.ts';
import { tiledCells, tiledNoise, tiledStrokes, unitHash } from './tiled.ts';

export const PATTERN_KINDS = [
  'stripes',
  'dots',
  'honeycomb',
  'waves',
  'leaves',
  'weave',
  'terrazzo',
  'noise',
  'grain',
  'scratches',
  'fingerprints',
] as const;
export type PatternKind = (typeof PATTERN_KINDS)[number];

/** A pattern that tiles: the picture's left edge goes on at its right, its top at its bottom. */
export interface PatternRecipe {
  kind: PatternKind;
  seed: number;
  /** How many repeats (stripes, cells, threads) lie across the tile. */
  count: number;
  /** How much of the tile the figure takes, 0..1. */
  amount: number;
  /** How softly the figure fades into the ground, 0..1. */
  softness: number;
  /** Ground, figure and accent, sRGB hex. */
  colours: [string, string, string];
  /** Edge of the picture, pixels. */
  size: number;
}

/** How much figure (0..1) and accent (0..1) is at a place; u and v run 0..1 over the tile and may go beyond. */
export interface PatternValue {
  figure: number;
  accent: number;
}

type Draw = (u: number, v: number, recipe: PatternRecipe) => PatternValue;

/** 1 inside, 0 outside of a distance below 0, faded over `soft`. */
function inside(distance: number, soft: number): number {
  const t = Math.min(1, Math.max(0, 0.5 - distance / Math.max(1e-4, soft)));
  return t * t * (3 - 2 * t);
}
const wrap = (x: number): number => x - Math.floor(x);
/** Distance to the nearest whole number. */
const toWhole = (x: number): number => Math.abs(x - Math.round(x));
const plain = (figure: number): PatternValue => ({ figure, accent: 0 });
const softOf = (recipe: PatternRecipe, cells = recipe.count): number =>
  0.6 / recipe.size / (1 / cells) + recipe.softness * 0.5;

const honeycomb: Draw = (u, v, recipe) => {
  const { count, amount, seed } = recipe;
  // Rows of hexagons stand half a cell aside, so only an even number of them tiles: the nearest to regular cells.
  const rows = 2 * Math.max(1, Math.round(count / 0.8660254 / 2));
  const [x, y] = [u * count, v * rows];
  let [best, second, cell] = [Infinity, Infinity, 0];
  const row = Math.floor(y);
  for (let j = row - 1; j <= row + 2; j++) {
    const shift = (((j % 2) + 2) % 2) / 2;
    const i = Math.round(x - shift);
    for (let k = i - 1; k <= i + 1; k++) {
      const d = hypot(x - k - shift, (y - j) * 0.8660254);
      if (d < best) {
        second = best;
        best = d;
        cell = unitHash(seed, ((k % count) + count) % count, ((j % rows) + rows) % rows);
      } else if (d < second) second = d;
    }
  }
  const wall = (second - best) / 2;
  const figure = inside(0.02 + amount * 0.3 - wall, softOf(recipe) * 0.3);
  return { figure, accent: cell < 0.18 ? figure : 0 };
};

const DRAW: Record<PatternKind, Draw> = {
  stripes: (u, _v, recipe) => plain(inside(toWhole(u * recipe.count) - recipe.amount / 2, softOf(recipe))),
  dots: (u, v, recipe) => {
    const { count, amount } = recipe;
    const [x, y] = [u * count, v * count];
    const [own, other] = [hypot(toWhole(x), toWhole(y)), hypot(toWhole(x + 0.5), toWhole(y + 0.5))];
    const figure = inside(Math.min(own, other) - amount * 0.35, softOf(recipe));
    return { figure, accent: other < own ? figure : 0 };
  },
  honeycomb,
  waves: (u, v, recipe) => {
    const { count, amount, seed } = recipe;
    const bend = 0.35 * sin(2 * Math.PI * (u * 2 + unitHash(seed, 1, 0)));
    const more = 0.2 * sin(2 * Math.PI * (u * 3 + unitHash(seed, 2, 0)));
    return plain(inside(toWhole(v * count + bend + more) - amount / 2, softOf(recipe)));
  },
  leaves: (u, v, recipe) => {
    const { figure, pick } = tiledStrokes(u, v, recipe.count, recipe.seed, (x, y, random) => {
      const turn = random(0) * Math.PI * 2;
      const [a, b] = [x * cos(turn) + y * sin(turn), y * cos(turn) - x * sin(turn)];
      const long = 0.3 + 0.35 * recipe.amount;
      const wide = long * (0.22 + 0.14 * random(1)) * Math.max(0, 1 - pow(a / long, 2));
      const vein = Math.abs(b) < 0.018 ? 0.06 : 0;
      return Math.abs(a) < long ? inside(Math.abs(b) - wide + vein, softOf(recipe)) : 0;
    });
    return { figure, accent: pick < 0.3 ? figure : 0 };
  },
  weave: (u, v, recipe) => {
    const { count, amount } = recipe;
    // Threads go over and under by turns; an even number of them tiles.
    const n = count * 2;
    const [x, y] = [u * n, v * n];
    const over = (Math.floor(x) + Math.floor(y)) % 2 === 0;
    const along = over ? wrap(x) : wrap(y);
    const across = over ? wrap(y) : wrap(x);
    const thread = inside(Math.abs(across - 0.5) - (0.3 + 0.2 * amount), softOf(recipe) * 0.6);
    const round = Math.sqrt(Math.max(0, 1 - pow(2 * across - 1, 2))) * (0.55 + 0.45 * sin(Math.PI * along));
    return { figure: thread * round, accent: over ? 0.35 * thread * round : 0 };
  },
  terrazzo: (u, v, recipe) => {
    const { nearest, next, pick } = tiledCells(u, v, recipe.count, recipe.seed);
    const chip = inside(0.06 + (1 - recipe.amount) * 0.35 - (next - nearest), softOf(recipe) * 0.4);
    const shown = pick < 0.35 + recipe.amount * 0.6 ? chip : 0;
    return { figure: shown, accent: pick < 0.2 ? shown : 0 };
  },
  noise: (u, v, recipe) => {
    const n = tiledNoise(u, v, recipe.count, recipe.seed, 5);
    return plain(inside(1 - recipe.amount - n, 0.08 + recipe.softness));
  },
  grain: (u, v, recipe) => {
    const { count, seed } = recipe;
    const bend = 0.9 * tiledNoise(u, v, 2, seed, 2) + 0.25 * tiledNoise(u, v, 6, seed + 1, 2);
    const ring = 0.5 + 0.5 * cos(2 * Math.PI * (u * count + bend * 2));
    const fibre = tiledNoise(u * 1, v, 64, seed + 2, 1);
    return { figure: Math.min(1, ring * (0.25 + recipe.amount) + 0.3 * (fibre - 0.5)), accent: ring > 0.92 ? 0.5 : 0 };
  },
  scratches: (u, v, recipe) => {
    const { figure } = tiledStrokes(u, v, recipe.count, recipe.seed, (x, y, random) => {
      const turn = (random(0) - 0.5) * (0.3 + recipe.softness * 3);
      const [a, b] = [x * cos(turn) + y * sin(turn), y * cos(turn) - x * sin(turn)];
      const long = 0.15 + 0.55 * random(1);
      if (random(2) > recipe.amount || Math.abs(a) > long) return 0;
      return inside(Math.abs(b) - 0.006, 0.02) * (1 - pow(a / long, 2));
    });
    return plain(figure);
  },
  fingerprints: (u, v, recipe) => {
    const { figure } = tiledStrokes(u, v, recipe.count, recipe.seed, (x, y, random) => {
      if (random(3) > 0.25 + recipe.amount * 0.75) return 0;
      const turn = random(0) * Math.PI * 2;
      const [a, b] = [x * cos(turn) + y * sin(turn), (y * cos(turn) - x * sin(turn)) * 0.78];
      const d = hypot(a, b);
      const ridge = 0.5 + 0.5 * cos(2 * Math.PI * (hypot(a * 1.2, b + 0.12 * sin(a * 6)) * 22));
      return inside(d - 0.42, 0.25) * ridge;
    });
    return plain(figure);
  },
};

/** A pattern's value at a place: pure, and the same one tile further on. */
export function patternAt(recipe: PatternRecipe, u: number, v: number): PatternValue {
  const { figure, accent } = DRAW[recipe.kind](wrap(u), wrap(v), recipe);
  return { figure: Math.min(1, Math.max(0, figure)), accent: Math.min(1, Math.max(0, accent)) };
}
