import type { SmokeEffect } from '../../document/index.ts';
import type { Vec3 } from '../../geometry/index.ts';
import type { SmokeDomain } from './domain.ts';

/** The part of a domain that is simulated: empty air beyond it costs nothing. */
export interface SmokeWindow extends SmokeDomain {
  /** Cells of the domain before its first along x, y, z. */
  offset: Vec3;
  /** The whole domain. */
  domain: SmokeDomain;
}

/** Cells from the first to the last along each axis, both included. */
export interface CellBox {
  low: Vec3;
  high: Vec3;
}

/** Windows lie on eighths, as the solver takes them, and have two of them at least. */
const BLOCK = 8;
const LEAST = 2 * BLOCK;
/** Cells of air round what is busy: at least, and as a share of its size. Air that is drawn in comes from there. */
const MARGIN = { cells: 8, share: 0.25 };
/** Cells that what is busy may come nearer to a side before the window grows, besides what it goes in a frame. */
const CLEAR = 4;
/** A window that has so many times the cells that it needs becomes smaller. */
const TOO_LARGE = 2;
/** What counts as smoke: density, and degrees above the room's. */
const BUSY = { density: 1e-3, heat: 0.1 };

/** All of a domain. */
export const wholeWindow = (domain: SmokeDomain): SmokeWindow => ({ ...domain, offset: [0, 0, 0], domain });

/** A window of so many cells from a cell of the domain on. */
export function windowAt(domain: SmokeDomain, offset: Vec3, size: Vec3): SmokeWindow {
  const { cell, origin } = domain;
  return { size, cell, origin: origin.map((v, a) => v + offset[a] * cell) as Vec3, offset, domain };
}

/** Numbers by which a window is kept beside a state: they are the last ones in it. */
export const placeOfWindow = ({ offset, size }: SmokeWindow): Float32Array => Float32Array.from([...offset, ...size]);

/** The window that a kept state is of. */
export function windowIn(domain: SmokeDomain, state: Uint8Array): SmokeWindow {
  const place = new Float32Array(state.slice(state.length - 24).buffer);
  return windowAt(domain, [place[0], place[1], place[2]], [place[3], place[4], place[5]]);
}

/** The box round two. */
export function joined(a: CellBox | null, b: CellBox | null): CellBox | null {
  if (!a || !b) return a ?? b;
  return {
    low: a.low.map((v, i) => Math.min(v, b.low[i])) as Vec3,
    high: a.high.map((v, i) => Math.max(v, b.high[i])) as Vec3,
  };
}

/** Where there is smoke, and the most of it and of heat in a cell. */
export interface BusyBox extends CellBox {
  density: number;
  heat: number;
}

/** Where there is smoke or heat in a window, in cells of the domain. @param density, heat its cells without ghosts. */
export function busyBox({ size, offset }: SmokeWindow, density: Float32Array, heat: Float32Array): BusyBox | null {
  const [nx, ny, nz] = size;
  const most = { density: 0, heat: 0 };
  const low: Vec3 = [Infinity, Infinity, Infinity];
  const high: Vec3 = [-1, -1, -1];
  for (let k = 0, at = 0; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++, at++) {
        if (density[at] < BUSY.density && heat[at] < BUSY.heat) continue;
        if (density[at] > most.density) most.density = density[at];
        if (heat[at] > most.heat) most.heat = heat[at];
        if (i < low[0]) low[0] = i;
        if (i > high[0]) high[0] = i;
        if (j < low[1]) low[1] = j;
        if (j > high[1]) high[1] = j;
        if (k < low[2]) low[2] = k;
        high[2] = k;
      }
  if (high[0] < 0) return null;
  return { ...most, low: low.map((v, a) => v + offset[a]) as Vec3, high: high.map((v, a) => v + offset[a]) as Vec3 };
}

/**
 * The window for the next frame: the one before while it fits, else one round what is busy. It follows from these alone, so that what goes on
 * from a kept frame has the same.
 * @param travel cells that gas goes in a frame at most.
 */
export function windowFor(
  domain: SmokeDomain,
  busy: CellBox | null,
  travel: number,
  before: SmokeWindow | null,
): SmokeWindow {
  // Without smoke its air is all that counts: it may carry particles.
  if (!busy) return before ?? wholeWindow(domain);
  const reach = (clear: (a: number) => number): { from: Vec3; to: Vec3 } => ({
    from: busy.low.map((v, a) => Math.max(0, v - clear(a))) as Vec3,
    to: busy.high.map((v, a) => Math.min(domain.size[a], v + 1 + clear(a))) as Vec3,
  });
  const wanted = reach((a) => Math.max(MARGIN.cells, MARGIN.share * (busy.high[a] - busy.low[a] + 1)) + travel);
  const offset: Vec3 = [0, 0, 0];
  const size: Vec3 = [0, 0, 0];
  for (let a = 0; a < 3; a++) {
    offset[a] = Math.min(Math.floor(wanted.from[a] / BLOCK) * BLOCK, domain.size[a] - LEAST);
    size[a] = Math.max(LEAST, Math.ceil(wanted.to[a] / BLOCK) * BLOCK - offset[a]);
  }
  if (before) {
    const needed = reach(() => CLEAR + travel);
    const fits = [0, 1, 2].every(
      (a) => needed.from[a] >= before.offset[a] && needed.to[a] <= before.offset[a] + before.size[a],
    );
    const cells = ([x, y, z]: Vec3): number => x * y * z;
    if (fits && cells(before.size) <= TOO_LARGE * cells(size)) return before;
  }
  return windowAt(domain, offset, size);
}

/** An effect whose walls are those of the window's sides: where that ends within the domain, there is air. */
export function walledBy(effect: SmokeEffect, { offset, size, domain }: SmokeWindow): SmokeEffect {
  const first = (a: number): boolean => offset[a] === 0;
  const last = (a: number): boolean => offset[a] + size[a] === domain.size[a];
  const { left, right, floor, top, back, front } = effect.walls;
  const walls = {
    ...{ left: left && first(0), right: right && last(0), floor: floor && first(1), top: top && last(1) },
    ...{ back: back && first(2), front: front && last(2) },
  };
  return { ...effect, walls };
}

/** Cells of a window as those of its whole domain, with nothing round them. */
export function inDomain(window: SmokeWindow, cells: Float32Array): Float32Array {
  const { size, offset, domain } = window;
  if (size.every((n, a) => n === domain.size[a])) return cells;
  const out = new Float32Array(domain.size[0] * domain.size[1] * domain.size[2]);
  for (let k = 0; k < size[2]; k++)
    for (let j = 0; j < size[1]; j++) {
      const from = (k * size[1] + j) * size[0];
      const to = ((k + offset[2]) * domain.size[1] + j + offset[1]) * domain.size[0] + offset[0];
      out.set(cells.subarray(from, from + size[0]), to);
    }
  return out;
}
