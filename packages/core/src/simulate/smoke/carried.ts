import type { Vec3 } from '../../geometry/index.ts';
import type { SmokeDomain } from './domain.ts';
import type { GasVelocity } from './gas.ts';

/** Cells of the smoke in one of the grid of ways, and of the grid that says how far gas was carried. */
const MOTION = 2;
const FLOW = 4;
/** Frames after which a pattern begins anew; the other one does half a turn later. */
const TURN = 24;

const coarser = ({ size }: SmokeDomain, by: number): Vec3 => size.map((n) => n / by) as Vec3;

/** Visits the middles of a grid's cells. */
function each(
  [nx, ny, nz]: Vec3,
  width: number,
  origin: Vec3,
  visit: (n: number, x: number, y: number, z: number) => void,
): void {
  let n = 0;
  for (let k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++)
        visit(n++, origin[0] + (i + 0.5) * width, origin[1] + (j + 0.5) * width, origin[2] + (k + 0.5) * width);
}

/** Metres that gas goes in a frame, on a grid of half as many cells along each axis. */
export function waysOf(domain: SmokeDomain, gas: GasVelocity, seconds: number): { size: Vec3; ways: Float32Array } {
  const size = coarser(domain, MOTION);
  const ways = new Float32Array(size[0] * size[1] * size[2] * 3);
  const speed = new Float64Array(3);
  each(size, domain.cell * MOTION, domain.origin, (n, x, y, z) => {
    if (gas.at(x, y, z, speed)) for (let a = 0; a < 3; a++) ways[n * 3 + a] = speed[a] * seconds;
  });
  return { size, ways };
}

/**
 * How far gas at each place of a coarse grid was carried since a pattern began (advected coordinates; Max, Crawfis and Williams 1992): two
 * of them, which begin anew in turn.
 */
export class Carried {
  readonly size: Vec3;
  readonly fields: readonly [Float32Array, Float32Array];
  private readonly before: Float32Array;

  constructor(private readonly domain: SmokeDomain) {
    this.size = coarser(domain, FLOW);
    const room = (): Float32Array => new Float32Array(this.size[0] * this.size[1] * this.size[2] * 3);
    this.fields = [room(), room()];
    this.before = room();
  }

  /** How much the first pattern counts at a frame: nothing as it begins anew. */
  static share(frame: number): number {
    const age = frame % TURN;
    return 1 - Math.abs((2 * age) / TURN - 1);
  }

  clear(): void {
    this.fields.forEach((field) => field.fill(0));
  }

  /** Goes on by a frame with the gas as it is at its end. */
  next(gas: GasVelocity, seconds: number, frame: number): void {
    const { domain, size, before } = this;
    const width = domain.cell * FLOW;
    const speed = new Float64Array(3);
    const ways = new Float32Array(before.length);
    each(size, width, domain.origin, (n, x, y, z) => {
      if (!gas.at(x, y, z, speed)) return;
      // From the middle of the way back, what is a second order step.
      const inside = gas.at(
        x - (speed[0] * seconds) / 2,
        y - (speed[1] * seconds) / 2,
        z - (speed[2] * seconds) / 2,
        speed,
      );
      for (let a = 0; a < 3; a++) ways[n * 3 + a] = inside ? speed[a] * seconds : 0;
    });
    this.fields.forEach((field, which) => {
      if ((frame + (which * TURN) / 2) % TURN === 0) {
        field.fill(0);
        return;
      }
      before.set(field);
      each(size, 1, [0, 0, 0], (n, x, y, z) => {
        // Where no gas moves what was carried stays.
        if (ways[n * 3] === 0 && ways[n * 3 + 1] === 0 && ways[n * 3 + 2] === 0) return;
        const at = [x, y, z].map((v, a) => v - 0.5 - ways[n * 3 + a] / width) as Vec3;
        for (let a = 0; a < 3; a++) field[n * 3 + a] = this.sample(before, at, a) + ways[n * 3 + a];
      });
    });
  }

  private sample(field: Float32Array, at: Vec3, axis: number): number {
    const { size } = this;
    const [i, j, k] = at.map((v, a) => Math.min(size[a] - 1, Math.max(0, v)));
    const [x, y, z] = [i, j, k].map((v, a) => Math.min(Math.max(0, size[a] - 2), Math.floor(v)));
    const [u, v, w] = [i - x, j - y, k - z];
    let sum = 0;
    for (let c = 0; c < 8; c++) {
      const [a, b, d] = [c & 1, (c >> 1) & 1, c >> 2];
      const weight = (a ? u : 1 - u) * (b ? v : 1 - v) * (d ? w : 1 - w);
      if (weight > 0) sum += weight * field[(((z + d) * size[1] + y + b) * size[0] + x + a) * 3 + axis];
    }
    return sum;
  }
}
