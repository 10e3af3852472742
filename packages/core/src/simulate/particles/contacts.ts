import type { ParticlesEffect } from '../../document/index.ts';
import type { Vec3 } from '../../geometry/index.ts';
import type { SolidProbe } from '../probe.ts';
import { PARTICLE } from '../../scene/index.ts';
import { spinBy, upOf } from './turning.ts';

const { place: P, velocity: V, spin: W, age: AGE, life: LIFE, rest: REST } = PARTICLE;
const FLOOR = -1;
/** Metres a second below which a hit gives nothing back. */
const SOFT = 0.06;
/** Share of the way to lying flat that a plate which touches goes in a second, as a rate. */
const FLATTENS = 14;

/** What particles meet: the floor at height 0, and solids. */
export class Contacts {
  /** How far a particle may go at a time without passing through a wall, metres. */
  readonly reach: number;
  private readonly out = new Float64Array(3);
  private readonly way = new Float64Array(3);
  private readonly up = new Float64Array(3);

  /** @param cell how fine solids are told; @param seconds of the frame. */
  constructor(
    private readonly effect: ParticlesEffect,
    private readonly probes: readonly SolidProbe[],
    cell: number,
    private readonly seconds: number,
  ) {
    this.reach = cell * 1.2;
  }

  /** Whether a place lies in matter. */
  inside(x: number, y: number, z: number): boolean {
    return y < 0 || this.probes.some((probe) => probe.distance(x, y, z) < 0);
  }

  /** Puts a particle out of what it has run into. @param radius metres. */
  meet(data: Float32Array, at: number, radius: number, seconds: number): void {
    const { out, way } = this;
    if (data[at + P + 1] < radius) {
      [out[0], out[1], out[2]] = [0, 1, 0];
      way.fill(0);
      this.hit(data, at, radius - data[at + P + 1], FLOOR, radius, seconds);
    }
    for (const probe of this.probes) {
      const x = data[at + P];
      const y = data[at + P + 1];
      const z = data[at + P + 2];
      const far = probe.distance(x, y, z);
      if (far >= radius || !probe.normal(x, y, z, out)) continue;
      if (probe.moves) probe.travel(x, y, z, way);
      else way.fill(0);
      this.hit(data, at, radius - far, probe.solid.number, radius, seconds);
    }
  }

  private hit(data: Float32Array, at: number, deep: number, what: number, radius: number, seconds: number): void {
    const { out, way, effect } = this;
    const [x, y, z] = out;
    data[at + P] += x * deep;
    data[at + P + 1] += y * deep;
    data[at + P + 2] += z * deep;
    if (effect.contact === 'vanish') {
      data[at + AGE] = data[at + LIFE];
      return;
    }
    this.flatten(data, at, seconds);
    if (effect.contact === 'stick') {
      data[at + REST] = what;
      for (let a = 0; a < 3; a++) {
        data[at + V + a] = way[a] / this.seconds;
        data[at + W + a] = 0;
      }
      return;
    }
    // Against the surface's own motion.
    const [sx, sy, sz] = [way[0] / this.seconds, way[1] / this.seconds, way[2] / this.seconds];
    const [vx, vy, vz] = [data[at + V] - sx, data[at + V + 1] - sy, data[at + V + 2] - sz];
    const into = vx * x + vy * y + vz * z;
    if (into >= 0) return;
    // What gravity alone adds in a step is no hit.
    const soft = SOFT + Math.abs(effect.gravity) * seconds * 1.1;
    const back = -into > soft ? -into * effect.bounce : 0;
    const [tx, ty, tz] = [vx - into * x, vy - into * y, vz - into * z];
    const along = Math.sqrt(tx * tx + ty * ty + tz * tz);
    // Coulomb: friction takes away as much as the push allows, and no more than there is.
    const keeps = along > 0 ? Math.max(0, 1 - (effect.friction * (back - into)) / along) : 0;
    data[at + V] = tx * keeps + x * back + sx;
    data[at + V + 1] = ty * keeps + y * back + sy;
    data[at + V + 2] = tz * keeps + z * back + sz;
    if (effect.flutter > 0) {
      for (let a = 0; a < 3; a++) data[at + W + a] *= 0.8;
      return;
    }
    // It comes to roll over what it touches.
    const rolls = Math.min(1, effect.friction * 2) / radius;
    data[at + W] += (rolls * keeps * (y * tz - z * ty) - data[at + W]) * 0.5;
    data[at + W + 1] += (rolls * keeps * (z * tx - x * tz) - data[at + W + 1]) * 0.5;
    data[at + W + 2] += (rolls * keeps * (x * ty - y * tx) - data[at + W + 2]) * 0.5;
  }

  /** Lays a plate flat on what it touches, a part of the way. */
  private flatten(data: Float32Array, at: number, seconds: number): void {
    if (this.effect.flutter === 0) return;
    const { out, up } = this;
    upOf(data, at, up);
    const same = up[0] * out[0] + up[1] * out[1] + up[2] * out[2] < 0 ? -1 : 1;
    const s = same * Math.min(1, FLATTENS * seconds);
    spinBy(
      data,
      at,
      (up[1] * out[2] - up[2] * out[1]) * s,
      (up[2] * out[0] - up[0] * out[2]) * s,
      (up[0] * out[1] - up[1] * out[0]) * s,
    );
  }

  /** Takes a particle along with what it clings to. */
  carry(data: Float32Array, at: number, seconds: number): void {
    const { out, way } = this;
    const probe = this.probes.find(({ solid }) => solid.number === data[at + REST]);
    const [x, y, z]: Vec3 = [data[at + P], data[at + P + 1], data[at + P + 2]];
    if (data[at + REST] === FLOOR) [out[0], out[1], out[2]] = [0, 1, 0];
    else if (!probe?.normal(x, y, z, out)) {
      // What it clung to has gone.
      data[at + REST] = 0;
      return;
    }
    this.flatten(data, at, seconds);
    if (!probe?.moves) return;
    const there = probe.carried([x, y, z]);
    for (let a = 0; a < 3; a++) {
      way[a] = there[a] - data[at + P + a];
      data[at + P + a] = there[a];
      data[at + V + a] = way[a] / this.seconds;
    }
  }
}
