import type { SmokeDomain } from './domain.ts';

/** How the gas of a domain moves: velocities on the faces between cells, as the solver keeps them (cells a second). */
export class GasVelocity {
  constructor(
    private readonly domain: SmokeDomain,
    private readonly u: Float32Array,
    private readonly v: Float32Array,
    private readonly w: Float32Array,
    /** Floats in a row. */
    private readonly row: number,
  ) {}

  /** Metres a second at a place in the world, into `out`. @returns whether it lies in the domain. */
  at(x: number, y: number, z: number, out: Float64Array): boolean {
    const { size, cell, origin } = this.domain;
    const [i, j, k] = [(x - origin[0]) / cell, (y - origin[1]) / cell, (z - origin[2]) / cell];
    if (!(i >= 0 && j >= 0 && k >= 0 && i <= size[0] && j <= size[1] && k <= size[2])) return false;
    // In arrays with one row of ghosts before, cell centres lie at halves; a face lies half a cell before its cell.
    out[0] = this.sample(this.u, i + 1, j + 0.5, k + 0.5) * cell;
    out[1] = this.sample(this.v, i + 0.5, j + 1, k + 0.5) * cell;
    out[2] = this.sample(this.w, i + 0.5, j + 0.5, k + 1) * cell;
    return true;
  }

  private sample(field: Float32Array, x: number, y: number, z: number): number {
    const [nx, ny, nz] = this.domain.size;
    const i = Math.min(nx, Math.floor(x));
    const j = Math.min(ny, Math.floor(y));
    const k = Math.min(nz, Math.floor(z));
    const [a, b, c] = [x - i, y - j, z - k];
    const plane = this.row * (ny + 2);
    const at = k * plane + j * this.row + i;
    const line = (from: number): number => field[from] * (1 - a) + field[from + 1] * a;
    const low = line(at) * (1 - b) + line(at + this.row) * b;
    const high = line(at + plane) * (1 - b) + line(at + plane + this.row) * b;
    return low * (1 - c) + high * c;
  }
}
