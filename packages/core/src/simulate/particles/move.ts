import type { ParticlesEffect } from '../../document/index.ts';
import { exp, hashed, sin } from '../../maths/index.ts';
import { PARTICLE, particleSize } from '../../scene/index.ts';
import type { Air } from './air.ts';
import type { Contacts } from './contacts.ts';
import { spinBy, upOf } from './turning.ts';

const { place: P, velocity: V, spin: W, age: AGE, life: LIFE, rest: REST } = PARTICLE;
/** Parts that a frame is cut into for one particle at most. */
const MOST_PARTS = 12;
/** Share of the drag that a thin plate has along itself. */
const EDGEWISE = 0.12;
/** How strongly air turns a plate across its way, and how it slows its turning. */
const RIGHTING = 0.1;
const SLOWING = 0.06;
/** Vortices come off a plate so often for each of its widths that it moves, and turn it so strongly. */
const SHEDDING = 0.16;
const SHED_TURN = 0.16;
/** Radians a second at most. */
const FASTEST_SPIN = 60;
/** How thick a plate lies, in its width. */
const PLATE = 0.08;

/** How far from its middle a particle touches things: a plate lies flat. */
export const touchOf = ({ flutter }: ParticlesEffect, size: number): number => size * (flutter > 0 ? PLATE : 0.5);

/** What drag and a steady pull make of a velocity within a time (exact): w e^-kh + a F, and of a way: w F + a G. */
class Drag {
  keeps = 1;
  f = 0;
  g = 0;

  constructor(rate: number, seconds: number) {
    this.keeps = exp(-rate * seconds);
    const small = rate * seconds < 1e-4;
    this.f = small ? seconds : (1 - this.keeps) / rate;
    this.g = small ? (seconds * seconds) / 2 : (seconds - this.f) / rate;
  }
}

/** Moves particles through a frame; each goes its own way, whatever others there are. */
export class ParticleMover {
  private readonly air = new Float64Array(3);
  private readonly normal = new Float64Array(3);
  /** Drags over a frame cut into so many parts. */
  private readonly drags: Array<[Drag, Drag] | undefined> = new Array(MOST_PARTS + 1).fill(undefined);

  /** @param frame seconds of a whole frame. */
  constructor(
    private readonly effect: ParticlesEffect,
    private readonly wind: Air,
    private readonly contacts: Contacts,
    private readonly frame: number,
  ) {}

  /** Drag across and along a plate over a part of a time. */
  private drag(seconds: number, parts: number): [Drag, Drag] {
    // Newborn particles have times of their own: those are not worth keeping.
    const whole = seconds === this.frame;
    const known = whole ? this.drags[parts] : undefined;
    if (known) return known;
    const { drag, flutter } = this.effect;
    const time = seconds / parts;
    const drags: [Drag, Drag] = [new Drag(drag, time), new Drag(drag * (1 - flutter * (1 - EDGEWISE)), time)];
    if (whole) this.drags[parts] = drags;
    return drags;
  }

  /** @param at where the particle's floats begin; @param seconds to move on, the frame's or what is left of it for a newborn. */
  move(data: Float32Array, at: number, number: number, seconds: number): void {
    data[at + AGE] += seconds;
    if (data[at + AGE] >= data[at + LIFE]) return;
    const { contact, collides, eddies, flutter, turbulence, tumble } = this.effect;
    if (data[at + REST] !== 0) {
      if (collides && contact === 'stick') {
        this.contacts.carry(data, at, seconds);
        return;
      }
      data[at + REST] = 0;
    }
    // Only what touches, or flutters, asks how large it is.
    const size = collides || flutter > 0 ? particleSize(this.effect, number) : 0;
    const vx = data[at + V];
    const vy = data[at + V + 1];
    const vz = data[at + V + 2];
    const far = Math.sqrt(vx * vx + vy * vy + vz * vz) * seconds;
    let step = turbulence > 0 ? eddies * 0.4 : Infinity;
    if (flutter > 0) step = Math.min(step, size * 0.5);
    if (collides) step = Math.min(step, this.contacts.reach);
    const parts = Math.min(MOST_PARTS, Math.max(1, Math.ceil(far / step)));
    const time = seconds / parts;
    const drags = this.drag(seconds, parts);
    const turns = flutter !== 0 || tumble !== 0 || collides;
    for (let part = 0; part < parts; part++) {
      this.fly(data, at, drags, time);
      if (turns) this.turn(data, at, number, size, time);
      if (!collides) continue;
      this.contacts.meet(data, at, touchOf(this.effect, size), time);
      if (data[at + REST] !== 0 && contact === 'stick') return;
      if (data[at + AGE] >= data[at + LIFE]) return;
    }
  }

  private fly(data: Float32Array, at: number, [across, along]: [Drag, Drag], seconds: number): void {
    const { gravity, pull, goal, flutter } = this.effect;
    const { air, normal } = this;
    this.wind.at(data[at + P], data[at + P + 1], data[at + P + 2], air);
    let ax = 0;
    let ay = -gravity;
    let az = 0;
    if (pull !== 0) {
      const d = [0, 1, 2].map((a) => goal[a] - data[at + P + a]);
      const long = Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]);
      // Near the goal it weakens, so that nothing is flung past it.
      const s = pull / Math.max(long, 0.02);
      ax += d[0] * s;
      ay += d[1] * s;
      az += d[2] * s;
    }
    const x = data[at + V] - air[0];
    const y = data[at + V + 1] - air[1];
    const z = data[at + V + 2] - air[2];
    if (flutter === 0) {
      const { keeps, f, g } = across;
      this.put(data, at, seconds, x * keeps + ax * f, y * keeps + ay * f, z * keeps + az * f);
      data[at + P] += x * f + ax * g;
      data[at + P + 1] += y * f + ay * g;
      data[at + P + 2] += z * f + az * g;
      return;
    }
    upOf(data, at, normal);
    const p = normal[0];
    const q = normal[1];
    const r = normal[2];
    const w = x * p + y * q + z * r;
    const a = ax * p + ay * q + az * r;
    // Across the plate with the whole drag, along it with less.
    const keeps = along.keeps;
    const dw = w * (across.keeps - keeps) + a * (across.f - along.f);
    const dx = w * (across.f - along.f) + a * (across.g - along.g);
    const { f, g } = along;
    this.put(data, at, seconds, x * keeps + ax * f + dw * p, y * keeps + ay * f + dw * q, z * keeps + az * f + dw * r);
    data[at + P] += x * f + ax * g + dx * p;
    data[at + P + 1] += y * f + ay * g + dx * q;
    data[at + P + 2] += z * f + az * g + dx * r;
  }

  /** Writes a velocity against the air, and carries the particle along with the air. */
  private put(data: Float32Array, at: number, seconds: number, x: number, y: number, z: number): void {
    const { air } = this;
    data[at + V] = x + air[0];
    data[at + V + 1] = y + air[1];
    data[at + V + 2] = z + air[2];
    data[at + P] += air[0] * seconds;
    data[at + P + 1] += air[1] * seconds;
    data[at + P + 2] += air[2] * seconds;
  }

  private turn(data: Float32Array, at: number, number: number, size: number, seconds: number): void {
    const { flutter, drag, seed } = this.effect;
    let wx = data[at + W];
    let wy = data[at + W + 1];
    let wz = data[at + W + 2];
    if (flutter > 0) {
      const { air, normal } = this;
      upOf(data, at, normal);
      const p = normal[0];
      const q = normal[1];
      const r = normal[2];
      const x = data[at + V] - air[0];
      const y = data[at + V + 1] - air[1];
      const z = data[at + V + 2] - air[2];
      const fast = Math.sqrt(x * x + y * y + z * z);
      const per = fast / size;
      const w = x * p + y * q + z * r;
      const righting = (flutter * RIGHTING * w) / (size * size);
      const cx = q * z - r * y;
      const cy = r * x - p * z;
      const cz = p * y - q * x;
      // Vortices come off its edges in turn (Strouhal): a push about an axis of its own in its plane.
      const way = 2 * Math.PI * hashed(number, 1, 4, seed);
      const shed = flutter * SHED_TURN * per * per * sin(2 * Math.PI * SHEDDING * per * data[at + AGE] + way);
      const sx = sin(way);
      const sy = sin(way * 1.7 + 1);
      const sz = sin(way * 2.3 + 2);
      wx += (righting * cx + shed * (q * sz - r * sy)) * seconds;
      wy += (righting * cy + shed * (r * sx - p * sz)) * seconds;
      wz += (righting * cz + shed * (p * sy - q * sx)) * seconds;
      const slows = 1 / (1 + flutter * SLOWING * per * seconds + 0.2 * seconds);
      wx *= slows;
      wy *= slows;
      wz *= slows;
    } else {
      const slows = 1 / (1 + 0.1 * drag * seconds);
      wx *= slows;
      wy *= slows;
      wz *= slows;
    }
    const fast = Math.sqrt(wx * wx + wy * wy + wz * wz);
    if (fast > FASTEST_SPIN) {
      const s = FASTEST_SPIN / fast;
      wx *= s;
      wy *= s;
      wz *= s;
    }
    data[at + W] = wx;
    data[at + W + 1] = wy;
    data[at + W + 2] = wz;
    spinBy(data, at, wx * seconds, wy * seconds, wz * seconds);
  }
}
