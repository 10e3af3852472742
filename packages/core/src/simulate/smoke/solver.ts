import type { SmokeEffect } from '../../document/index.ts';
import type { Vec3 } from '../../geometry/index.ts';
import { log } from '../../maths/index.ts';
import { Problem } from '../../problem/index.ts';
import { randomTile } from './turbulence.ts';
import type { SmokeDomain } from './domain.ts';
import { GasVelocity } from './gas.ts';
import type { Walls } from './obstacles.ts';
import { SOURCE_WORDS } from './sources.ts';

/** An instance of the simulation kernel, as a host makes it. */
export interface SimulationKernel {
  memory: { readonly buffer: ArrayBuffer };
  exports: SimulationExports;
  /** Threads that do each step together, where there are several: `begin` has the others do one, with what advance() takes before the thread. */
  team?: { threads: number; begin(step: readonly number[]): void };
}

/** What the kernel's simulation module exports; addresses are bytes. */
export interface SimulationExports {
  create(nx: number, ny: number, nz: number, threads: number, walls: number, tinted: number): number;
  address(grid: number, which: number): number;
  reserve(bytes: number): number;
  enclose(grid: number, walls: number): void;
  forget(grid: number): void;
  divergenceLeft(grid: number): number;
  cyclesTaken(grid: number): number;
  advance(
    grid: number,
    forces: number,
    sources: number,
    count: number,
    seconds: number,
    second: number,
    tolerance: number,
    cycles: number,
    thread: number,
  ): void;
}

/** What the kernel's address() gives, by name. */
const ARRAY = {
  ...{ u: 0, v: 1, w: 2, density: 3, heat: 4, open: 5, walls: 6, wallSpeeds: 7, noise: 8 },
  ...{ red: 9, green: 10, blue: 11 },
} as const;
const FORCE_FLOATS = 15;
/** Cells that gas crosses in a frame at most. */
export const FASTEST = 80;
const NOISE_CELLS = 32;

/** Everything that a frame's smoke follows from: the arrays of the solver, ghost cells included. */
export interface SmokeState {
  u: Float32Array;
  v: Float32Array;
  w: Float32Array;
  density: Float32Array;
  heat: Float32Array;
  /** Density of each colour's share, of smoke that has colours. */
  red?: Float32Array;
  green?: Float32Array;
  blue?: Float32Array;
}
const PLAIN = ['u', 'v', 'w', 'density', 'heat'] as const;
const TINTS = ['red', 'green', 'blue'] as const;

/** Arrays one after the other as bytes: those of a state, then what else goes on with it. */
export function writeState(state: SmokeState, besides: readonly Float32Array[] = []): Uint8Array {
  const arrays = [...namesIn(Boolean(state.red)).map((name) => state[name]!), ...besides];
  const all = new Float32Array(arrays.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const array of arrays) {
    all.set(array, at);
    at += array.length;
  }
  return new Uint8Array(all.buffer);
}

/** What writeState() gave, as it was. @param besides arrays to fill with what was written besides the state. */
export function readState(bytes: Uint8Array, tinted = false, besides: readonly Float32Array[] = []): SmokeState {
  const all = new Float32Array(bytes.length / 4);
  new Uint8Array(all.buffer).set(bytes);
  const names = namesIn(tinted);
  const count = (all.length - besides.reduce((sum, { length }) => sum + length, 0)) / names.length;
  let at = count * names.length;
  for (const array of besides) {
    array.set(all.subarray(at, at + array.length));
    at += array.length;
  }
  return Object.fromEntries(
    names.map((name, i) => [name, all.subarray(i * count, (i + 1) * count)]),
  ) as unknown as SmokeState;
}

const namesIn = (tinted: boolean): ReadonlyArray<keyof SmokeState> => (tinted ? [...PLAIN, ...TINTS] : PLAIN);

/** How exactly pressure is solved: relative divergence that may be left, and cycles at most. */
export interface SolveLimits {
  tolerance: number;
  cycles: number;
}

export const SOLVE: SolveLimits = { tolerance: 1.5e-3, cycles: 24 };

/** Smoke in a box of cells, driven by the kernel. One for each instance of the kernel. */
export class SmokeSolver {
  private readonly exports: SimulationExports;
  private readonly grid: number;
  private readonly forces: number;
  private sources = 0;
  private sourceRoom = 0;
  /** Floats in a row of its arrays. */
  readonly row: number;
  private readonly floats: number;

  /** @throws Problem `effect/memory` when there is no memory for so many cells. */
  constructor(
    private readonly kernel: SimulationKernel,
    readonly domain: SmokeDomain,
    name: string,
    private readonly tinted = false,
    /** Cells before its first ones, when it is a part of a larger domain: patterns go on over it. */
    private readonly offset: Vec3 = [0, 0, 0],
  ) {
    const [nx, ny, nz] = domain.size;
    this.exports = kernel.exports;
    this.row = nx + 8;
    this.floats = this.row * (ny + 2) * (nz + 2);
    this.grid = this.exports.create(nx, ny, nz, kernel.team?.threads ?? 1, this.floats * 3, tinted ? 1 : 0);
    this.forces = this.exports.reserve(FORCE_FLOATS * 4);
    if (this.exports.address(this.grid, ARRAY.noise) === 0 || this.forces === 0)
      throw new Problem('effect/memory', `There is no memory for "${name}": make its cells larger.`, name);
    this.array(ARRAY.noise, NOISE_CELLS * NOISE_CELLS * NOISE_CELLS * 4).set(randomTile(NOISE_CELLS));
  }

  private array(which: number, floats = this.floats): Float32Array {
    return new Float32Array(this.kernel.memory.buffer, this.exports.address(this.grid, which), floats);
  }

  /** Puts solids and sides where they are in the frame to come. */
  enclose({ open, faces, speeds }: Walls): void {
    this.array(ARRAY.open).set(open);
    new Int32Array(this.kernel.memory.buffer, this.exports.address(this.grid, ARRAY.walls), faces.length).set(faces);
    this.array(ARRAY.wallSpeeds, speeds.length).set(speeds);
    this.exports.enclose(this.grid, faces.length);
  }

  /**
   * Moves on by a frame.
   * @param effect as it is at that frame. @param frame its number, from the beginning of the simulation.
   */
  advance(effect: SmokeEffect, sources: Float32Array, seconds: number, frame: number, limits = SOLVE): void {
    this.setForces(effect, seconds, frame);
    if (sources.length > this.sourceRoom) {
      this.sourceRoom = sources.length * 2;
      this.sources = this.exports.reserve(this.sourceRoom * 4);
    }
    if (sources.length > 0) new Float32Array(this.kernel.memory.buffer, this.sources, sources.length).set(sources);
    // Pressure of the frame before would be a better start, but what is resumed has none: both are to be the same.
    this.exports.forget(this.grid);
    const count = sources.length / SOURCE_WORDS;
    const { tolerance, cycles } = limits;
    const step = [this.grid, this.forces, this.sources, count, seconds, 1, tolerance, cycles] as const;
    this.kernel.team?.begin(step);
    this.exports.advance(...step, 0);
  }

  private setForces(effect: SmokeEffect, seconds: number, frame: number): void {
    const { cell } = this.domain;
    const drift = frame * 0.11 + effect.seed * 7.3;
    // An eddy is four cells of the tile wide.
    const scale = (4 * cell) / effect.eddies;
    new Float32Array(this.kernel.memory.buffer, this.forces, FORCE_FLOATS).set([
      -effect.weight / cell,
      effect.lift / 100 / cell,
      effect.swirl,
      effect.turbulence / cell,
      scale,
      ...[drift, drift * 0.7 + 3, drift * 0.4 + 11].map((v, a) => v + scale * this.offset[a]),
      ...effect.wind.map((v) => v / cell),
      // The share that is taken on in a second as a rate.
      effect.windGrip >= 1 ? 20 : -log(1 - Math.min(0.999, effect.windGrip)),
      FASTEST / seconds,
      1 - Math.min(1, effect.dissipation),
      1 - Math.min(1, effect.cooling),
    ]);
  }

  /** Relative divergence that the last step left, and the cycles that it took. */
  get left(): { divergence: number; cycles: number } {
    return { divergence: this.exports.divergenceLeft(this.grid), cycles: this.exports.cyclesTaken(this.grid) };
  }

  state(): SmokeState {
    const copies = namesIn(this.tinted).map((name) => [name, this.array(ARRAY[name]).slice()]);
    return Object.fromEntries(copies) as SmokeState;
  }

  /** How gas moves, until the next step is made. */
  gas(): GasVelocity {
    const [u, v, w] = [this.array(ARRAY.u), this.array(ARRAY.v), this.array(ARRAY.w)];
    return new GasVelocity(this.domain, u, v, w, this.row);
  }

  restore(state: SmokeState): void {
    for (const name of namesIn(this.tinted)) this.array(ARRAY[name]).set(state[name]!);
  }

  /** Goes on with what another solver of the same domain has where both are; elsewhere there is air at rest. */
  takeOver(other: SmokeSolver): void {
    this.clear();
    const [low, high] = [0, 1, 2].reduce(
      ([from, to], a) => [
        [...from, Math.max(this.offset[a], other.offset[a])],
        [...to, Math.min(this.offset[a] + this.domain.size[a], other.offset[a] + other.domain.size[a])],
      ],
      [[], []] as [number[], number[]],
    );
    for (const name of namesIn(this.tinted)) {
      // A velocity lies on the face before its cell: the last face has none of its own.
      const [x, y, z] = (['u', 'v', 'w'] as const).map((axis) => (axis === name ? 1 : 0));
      const [from, to] = [other.array(ARRAY[name]), this.array(ARRAY[name])];
      const length = high[0] + x - low[0];
      for (let k = low[2]; length > 0 && k < high[2] + z; k++)
        for (let j = low[1]; j < high[1] + y; j++) {
          const start = other.index(low[0], j, k);
          to.set(from.subarray(start, start + length), this.index(low[0], j, k));
        }
    }
  }

  /** Where a cell of the whole domain lies in its arrays. */
  private index(i: number, j: number, k: number): number {
    const [x, y, z] = this.offset;
    return ((k - z + 1) * (this.domain.size[1] + 2) + j - y + 1) * this.row + i - x + 1;
  }

  /** The largest speed along an axis, cells a second. */
  fastest(): number {
    let most = 0;
    for (const name of ['u', 'v', 'w'] as const)
      for (const v of this.array(ARRAY[name])) if (v > most || -v > most) most = Math.abs(v);
    return most;
  }

  /** Nothing anywhere, at rest. */
  clear(): void {
    for (const name of namesIn(this.tinted)) this.array(ARRAY[name]).fill(0);
  }

  /** What the domain's cells hold, without ghosts. */
  cells(name: 'density' | 'heat' | (typeof TINTS)[number]): Float32Array {
    const [nx, ny, nz] = this.domain.size;
    const from = this.array(ARRAY[name]);
    const out = new Float32Array(nx * ny * nz);
    const plane = this.row * (ny + 2);
    for (let k = 0; k < nz; k++)
      for (let j = 0; j < ny; j++) {
        const at = (k + 1) * plane + (j + 1) * this.row + 1;
        out.set(from.subarray(at, at + nx), (k * ny + j) * nx);
      }
    return out;
  }
}
