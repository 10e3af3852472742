import type { ParticlesEffect } from '../../document/index.ts';
import { cos, sin } from '../../maths/index.ts';
import type { GasVelocity } from '../smoke/gas.ts';
import { randomTile } from '../smoke/turbulence.ts';

const CELLS = 32;
const MASK = CELLS - 1;
let tile: Float32Array | null = null;

/** How the air moves at a frame: wind, turbulence, a whirl round the goal, and gas that is simulated. */
export class Air {
  private readonly tile: Float32Array;
  private readonly scale: number;
  private readonly drift: readonly number[];
  private readonly gasAt = new Float64Array(3);

  /** @param seconds of the simulation at which the frame ends. */
  constructor(
    private readonly effect: ParticlesEffect,
    seconds: number,
    private readonly gas: GasVelocity | null,
  ) {
    this.tile = tile ??= randomTile(CELLS);
    // An eddy is four cells of the tile wide. They pass by slowly, along a line of their own, so that they change with time.
    this.scale = 4 / effect.eddies;
    const way = effect.seed * 0.618;
    const passed = seconds * 0.7;
    this.drift = [7 * sin(way) + passed * cos(way), way * 3.1 + passed * 0.6, 11 * cos(way) + passed * sin(way)];
  }

  /** Metres a second at a place, into `out`. */
  at(x: number, y: number, z: number, out: Float64Array): void {
    const { wind, turbulence, swirl, goal, following } = this.effect;
    out[0] = wind[0];
    out[1] = wind[1];
    out[2] = wind[2];
    if (turbulence !== 0) this.stir(x, y, z, turbulence, out);
    if (swirl !== 0) {
      const [dx, dz] = [x - goal[0], z - goal[2]];
      const far = Math.sqrt(dx * dx + dz * dz);
      if (far > 1e-6) {
        out[0] += (swirl * dz) / far;
        out[2] -= (swirl * dx) / far;
      }
    }
    if (this.gas?.at(x, y, z, this.gasAt)) for (let a = 0; a < 3; a++) out[a] += following * this.gasAt[a];
  }

  /** Written out, and without arrays of its own: this is where particles spend most of their time. */
  private stir(x: number, y: number, z: number, strength: number, out: Float64Array): void {
    const { tile: t, scale, drift } = this;
    const px = x * scale + drift[0];
    const py = y * scale + drift[1];
    const pz = z * scale + drift[2];
    const i = Math.floor(px);
    const j = Math.floor(py);
    const k = Math.floor(pz);
    const a = px - i;
    const b = py - j;
    const c = pz - k;
    const x0 = (i & MASK) << 2;
    const x1 = ((i + 1) & MASK) << 2;
    const y0 = (j & MASK) << 7;
    const y1 = ((j + 1) & MASK) << 7;
    const z0 = (k & MASK) << 12;
    const z1 = ((k + 1) & MASK) << 12;
    const w11 = b * c * strength;
    const w10 = b * strength - w11;
    const w01 = c * strength - w11;
    const w00 = strength - w10 - w01 - w11;
    const q00 = y0 + z0;
    const q10 = y1 + z0;
    const q01 = y0 + z1;
    const q11 = y1 + z1;
    const l00 = x0 + q00;
    const l10 = x0 + q10;
    const l01 = x0 + q01;
    const l11 = x0 + q11;
    const step = x1 - x0;
    for (let n = 0; n < 3; n++) {
      const low = t[l00 + n] * w00 + t[l10 + n] * w10 + t[l01 + n] * w01 + t[l11 + n] * w11;
      const m = n + step;
      const high = t[l00 + m] * w00 + t[l10 + m] * w10 + t[l01 + m] * w01 + t[l11 + m] * w11;
      out[n] += low + (high - low) * a;
    }
  }
}
