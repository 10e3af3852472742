import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { instantiateKernel } from '@tender-orbit/kernel';
import { newSmoke, type SmokeEffect } from '@tender-orbit/core/document';
import type { Vec3 } from '@tender-orbit/core/geometry';
import {
  DistanceFields,
  obstaclesOf,
  SmokeSolver,
  wallsOf,
  type SimulationKernel,
  type SmokeDomain,
  type SmokeState,
  type Solid,
  type SolveLimits,
} from '@tender-orbit/core/simulate';

const module = new WebAssembly.Module(
  readFileSync(fileURLToPath(import.meta.resolve('@tender-orbit/kernel/simulate.wasm'))),
);
export const kernel = (): SimulationKernel => instantiateKernel(module) as unknown as SimulationKernel;

export const CLOSED = { left: true, right: true, floor: true, top: true, back: true, front: true };
export const OPEN = { left: false, right: false, floor: false, top: false, back: false, front: false };

/** Gas without forces or loss, in a box that is shut. */
export const calm = (values: Partial<SmokeEffect> = {}): SmokeEffect =>
  newSmoke('smoke', 'Smoke', {
    ...{ emitters: [], lift: 0, weight: 0, swirl: 0, turbulence: 0, dissipation: 0, cooling: 0, walls: CLOSED },
    ...values,
  });

/** A cube of so many cells, a metre wide unless told otherwise. */
export const cube = (cells: number, metres = 1): SmokeDomain => ({
  size: [cells, cells, cells],
  cell: metres / cells,
  origin: [-metres / 2, 0, -metres / 2],
});

/** A solver in a box whose solids and sides are put. */
export class SmokeBox {
  readonly solver: SmokeSolver;

  constructor(
    readonly effect: SmokeEffect,
    readonly domain: SmokeDomain,
    solids: readonly Solid[] = [],
    readonly seconds = 1 / 24,
  ) {
    this.solver = new SmokeSolver(kernel(), domain, effect.name);
    const obstacles = obstaclesOf(domain, new DistanceFields(domain, solids));
    this.solver.enclose(wallsOf(effect, domain, obstacles, this.solver.row, seconds));
  }

  /** Index of a cell in the solver's arrays; cells count from 0. */
  at(i: number, j: number, k: number): number {
    const { row } = this.solver;
    return ((k + 1) * (this.domain.size[1] + 2) + j + 1) * row + i + 1;
  }

  /** Middle of a cell, metres from the domain's corner. */
  middle(i: number, j: number, k: number): Vec3 {
    return [i, j, k].map((v) => (v + 0.5) * this.domain.cell) as Vec3;
  }

  /** Puts a state made cell by cell: velocities in metres a second at the faces towards the cells before. */
  fill(make: (at: Vec3, axis: number) => number, density: (at: Vec3) => number = () => 0): void {
    const state = this.solver.state();
    const [nx, ny, nz] = this.domain.size;
    const { cell } = this.domain;
    for (let k = 0; k <= nz; k++)
      for (let j = 0; j <= ny; j++)
        for (let i = 0; i <= nx; i++) {
          const n = this.at(i, j, k);
          [state.u, state.v, state.w].forEach((to, axis) => {
            const place = this.middle(i, j, k);
            place[axis] -= cell / 2;
            to[n] = make(place, axis) / cell;
          });
          if (i < nx && j < ny && k < nz) state.density[n] = density(this.middle(i, j, k));
        }
    this.solver.restore(state);
  }

  step(frames = 1, sources: Float32Array = new Float32Array(0), limits?: SolveLimits): SmokeState {
    for (let f = 0; f < frames; f++) this.solver.advance(this.effect, sources, this.seconds, f, limits);
    return this.solver.state();
  }

  /** All that is there of a quantity of the cells. */
  total(values: Float32Array): number {
    const [nx, ny, nz] = this.domain.size;
    let sum = 0;
    for (let k = 0; k < nz; k++)
      for (let j = 0; j < ny; j++) for (let i = 0; i < nx; i++) sum += values[this.at(i, j, k)];
    return sum;
  }
}

/** Whether all of a state are numbers. */
export function finite({ u, v, w, density, heat }: SmokeState): boolean {
  return [u, v, w, density, heat].every((values) => values.every(Number.isFinite));
}
