import { partsOfItem, type ShotDocument, type SmokeEffect, type SmokeEmitter } from '../../document/index.ts';
import { hexToLinear } from '../../finish/index.ts';
import { boundsOf, type Vec3 } from '../../geometry/index.ts';
import { hashed } from '../../maths/index.ts';
import type { SmokeDomain } from './domain.ts';
import { joined, type CellBox, type SmokeWindow } from './window.ts';
import type { Solid } from '../bodies-in.ts';
import { MaskReader } from './mask.ts';
import type { DistanceFields, Obstacles } from './obstacles.ts';

/** A cell that gives off smoke: twelve words, as the kernel's sources.ts reads them. */
export const SOURCE_WORDS = 12;

/** How far from a thing's skin its smoke begins and ends, in cells. */
const SKIN_FROM = 0.4;
const SKIN_TO = 1.6;
/** Cells round an emitter in which something may be given off. */
const ROUND = 2;
/** Cells of noise across an emitter. */
const NOISE_CELLS = 5;

const smooth = (t: number): number => t * t * (3 - 2 * t);

/** Value noise, 0..1, that changes with time as it does with place. */
function noiseAt(x: number, y: number, z: number, seed: number): number {
  const [i, j, k] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  const [u, v, w] = [smooth(x - i), smooth(y - j), smooth(z - k)];
  let sum = 0;
  for (let c = 0; c < 8; c++) {
    const [a, b, d] = [c & 1, (c >> 1) & 1, c >> 2];
    sum += (a ? u : 1 - u) * (b ? v : 1 - v) * (d ? w : 1 - w) * hashed(i + a, j + b, k + d, seed);
  }
  return sum;
}

/** The cell in the middle of each emitter that has a place: the hollow that it is in is to stay open. */
export function sourceCells(effect: SmokeEffect, { size, cell, origin }: SmokeWindow, placeOf: PlaceOf): Set<number> {
  const cells = new Set<number>();
  for (const { on, shape, thing, position } of effect.emitters) {
    const base = thing ? placeOf(thing) : ([0, 0, 0] as Vec3);
    if (!on || shape === 'thing' || !base) continue;
    const [i, j, k] = position.map((v, a) => Math.floor((v + base[a] - origin[a]) / cell));
    if (i >= 0 && j >= 0 && k >= 0 && i < size[0] && j < size[1] && k < size[2])
      cells.add((k * size[1] + j) * size[0] + i);
  }
  return cells;
}

/** Where things stand that emitters are bound to. */
export type PlaceOf = (thing: string) => Vec3 | undefined;

/**
 * The cells that give off smoke at a frame, for the solver. Emitters outside the domain, and what lies inside solids, give
 * nothing.
 * @param frame simulated frame, so that unevenness changes with time.
 */
export function sourcesOf(
  effect: SmokeEffect,
  domain: SmokeWindow,
  obstacles: Obstacles,
  fields: DistanceFields,
  placeOf: PlaceOf,
  row: number,
  frame: number,
): Float32Array {
  const words: number[] = [];
  effect.emitters.forEach((emitter, n) => {
    if (!emitter.on || (emitter.rate === 0 && emitter.heat === 0)) return;
    const whole = shareOf(emitter, domain, fields, placeOf);
    const share = whole && masked(emitter, whole);
    if (share) fill(words, emitter, n, effect.seed, domain, obstacles, share, row, frame);
  });
  return Float32Array.from(words);
}

/** The box round all cells that may give off smoke, in cells of the domain; null without any. */
export function sourceBox(
  { emitters }: SmokeEffect,
  { size, cell, origin }: SmokeDomain,
  solids: readonly Solid[],
  placeOf: PlaceOf,
): CellBox | null {
  const boxes = emitters.flatMap(({ on, rate, heat, shape, thing, position, width, height, depth }): CellBox[] => {
    if (!on || (rate === 0 && heat === 0)) return [];
    const base = thing && shape !== 'thing' ? placeOf(thing) : ([0, 0, 0] as Vec3);
    if (!base) return [];
    const half = [width, height, depth].map((v) => v / 2);
    const placed = [-1, 1].map((side) => position.map((v, a) => v + base[a] + side * half[a]) as Vec3);
    const [min, max] = shape === 'thing' ? boxOf(solids.filter((s) => s.thing === thing)) : placed;
    const low = min.map((v, a) => Math.max(0, Math.floor((v - origin[a]) / cell) - ROUND)) as Vec3;
    const high = max.map((v, a) => Math.min(size[a] - 1, Math.ceil((v - origin[a]) / cell) + ROUND)) as Vec3;
    return low.every((v, a) => v <= high[a]) ? [{ low, high }] : [];
  });
  return boxes.reduce<CellBox | null>(joined, null);
}

/** How much of an emitter lies in a cell, 0..1, by the cell's place and number. */
interface Share {
  low: Vec3;
  high: Vec3;
  /** The box round it, in cells from the middle of the first one, and how large it may be along an axis. */
  min: Vec3;
  max: Vec3;
  across: number;
  at: (i: number, j: number, k: number, index: number) => number;
}

function shareOf(emitter: SmokeEmitter, window: SmokeWindow, fields: DistanceFields, placeOf: PlaceOf): Share | null {
  const { size, cell, origin, domain } = window;
  if (emitter.shape === 'thing') {
    const parts = emitter.parts === '' ? null : new Set(partsOfItem(emitter.parts));
    const all = fields.solids.filter((s) => s.thing === emitter.thing);
    const skins = all.filter((s) => !parts || parts.has(s.part)).map((s) => fields.of(s).values);
    if (skins.length === 0) return null;
    const [min, max] = boxOf(all).map((corner) => corner.map((v, a) => (v - origin[a]) / cell - 0.5) as Vec3);
    const [from, to] = [emitter.lowest, emitter.highest].map((v) => min[1] + (max[1] - min[1]) * v);
    return {
      ...{ low: [0, 0, 0], high: size.map((n) => n - 1) as Vec3, min, max, across: Math.max(...domain.size) - 1 },
      at: (_i, j, _k, index) => {
        // The ends reach to what lies on the skin there.
        if ((emitter.lowest > 0 && j < from) || (emitter.highest < 1 && j > to)) return 0;
        let nearest = Infinity;
        for (const values of skins) nearest = Math.min(nearest, values[index]);
        return nearest > SKIN_FROM && nearest < SKIN_TO ? 1 : 0;
      },
    };
  }
  const base = emitter.thing ? placeOf(emitter.thing) : ([0, 0, 0] as Vec3);
  if (!base) return null;
  const middle = emitter.position.map((v, a) => (v + base[a] - origin[a]) / cell - 0.5) as Vec3;
  // No emitter is so small that it falls between cells.
  const half = [emitter.width, emitter.height, emitter.depth].map((v) => Math.max(0.75, v / cell / 2)) as Vec3;
  const clamp = (v: number, a: number): number => Math.min(size[a] - 1, Math.max(0, v));
  const low = middle.map((v, a) => clamp(Math.floor(v - half[a]), a)) as Vec3;
  const high = middle.map((v, a) => clamp(Math.ceil(v + half[a]), a)) as Vec3;
  const ball = emitter.shape === 'ball';
  return {
    ...{ low, high, min: middle.map((v, a) => v - half[a]) as Vec3, max: middle.map((v, a) => v + half[a]) as Vec3 },
    across: Math.max(...high.map((v, a) => v - low[a])),
    at: (i, j, k) => {
      const d = [i - middle[0], j - middle[1], k - middle[2]].map((v, a) => Math.abs(v) / half[a]);
      const far = ball ? Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]) : Math.max(...d);
      // Its edge is a cell soft.
      return Math.min(1, Math.max(0, (1 - far) * Math.min(...half) + 0.5));
    },
  };
}

/** What of an emitter its mask lets through, which is thrown over the box round it. */
function masked({ mask }: SmokeEmitter, share: Share): Share {
  if (!mask) return share;
  const reader = new MaskReader(mask);
  const { min, max, at } = share;
  const along = (v: number, a: number): number => (v - min[a]) / Math.max(1e-9, max[a] - min[a]);
  return { ...share, at: (i, j, k, index) => at(i, j, k, index) * reader.at(along(i, 0), along(j, 1), along(k, 2)) };
}

/** The box round things in the set. */
function boxOf(solids: readonly Solid[]): [min: Vec3, max: Vec3] {
  const boxes = solids.map(({ mesh, matrix }) => boundsOf([mesh], matrix));
  const over = (pick: (...values: number[]) => number, of: 'min' | 'max'): Vec3 =>
    [0, 1, 2].map((a) => pick(...boxes.map((box) => box[of][a]))) as Vec3;
  return [over(Math.min, 'min'), over(Math.max, 'max')];
}

/** Whether its emitters give off other colours than white. */
export const hasColours = ({ emitters }: SmokeEffect): boolean =>
  emitters.some(({ colour }) => colour.toUpperCase() !== '#FFFFFF');

/** Whether cells have colours of their own in a shot: emitters do, or are keyed to. */
export const isTinted = (effect: SmokeEffect, { tracks }: Pick<ShotDocument, 'tracks'>): boolean =>
  hasColours(effect) || tracks.some(({ thing, path }) => thing === effect.id && /^emitters\..*\.colour$/.test(path));

function fill(
  words: number[],
  emitter: SmokeEmitter,
  number: number,
  seed: number,
  { size: [nx, ny], cell, offset: [ox, oy, oz] }: SmokeWindow,
  { owner }: Obstacles,
  { low, high, across, at }: Share,
  row: number,
  frame: number,
): void {
  const index = new Int32Array(1);
  const asFloat = new Float32Array(index.buffer);
  const scale = NOISE_CELLS / Math.max(1, across);
  const speed = emitter.velocity.map((v) => v / cell);
  const colour = hexToLinear(emitter.colour) ?? [1, 1, 1];
  const blown = speed.some((v) => v !== 0) ? 0.5 : 0;
  for (let k = low[2]; k <= high[2]; k++)
    for (let j = low[1]; j <= high[1]; j++)
      for (let i = low[0]; i <= high[0]; i++) {
        const here = (k * ny + j) * nx + i;
        const share = owner[here] === 0 ? at(i, j, k, here) : 0;
        if (share <= 0) continue;
        const [x, y, z] = [(i + ox) * scale, (j + oy) * scale, (k + oz) * scale];
        const noise = noiseAt(x, y + frame * 0.21, z - frame * 0.17, seed * 31 + number);
        const uneven = 1 - emitter.noise + emitter.noise * Math.max(0, 2 * noise - 0.2);
        index[0] = (k + 1) * row * (ny + 2) + (j + 1) * row + i + 1;
        words.push(asFloat[0], emitter.rate * uneven, emitter.heat * uneven, share, ...speed, blown * share);
        words.push(...colour, 0);
      }
}
