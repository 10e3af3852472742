import type { ParticlesEffect } from '../../document/index.ts';
import type { Vec3 } from '../../geometry/index.ts';
import { cos, hashed, sin } from '../../maths/index.ts';
import type { Solid } from '../bodies-in.ts';
import { PARTICLE } from '../../scene/index.ts';

const TURN = 2 * Math.PI;

/** How many are born in a frame: those that the rate brings, and a burst at its beginning. */
export interface Births {
  burst: number;
  /** Seconds before the frame's end at which each of the others is born. */
  ages: number[];
  /** The share of the next one that is due. */
  due: number;
}

/** @param frame simulated frame, from 1: it covers the time since the one before. @param due share of one left over. */
export function birthsIn(effect: ParticlesEffect, frame: number, seconds: number, due: number): Births {
  const { rate, burst, burstAt, burstEvery } = effect;
  const since = frame - 1 - Math.round(burstAt);
  const every = Math.round(burstEvery);
  const bursts = since === 0 || (since > 0 && every > 0 && since % every === 0);
  const coming = due + rate * seconds;
  const count = Math.floor(coming);
  const ages = Array.from({ length: count }, (_, i) => seconds * (1 - (i + 1 - due) / (rate * seconds)));
  return { burst: bursts ? Math.round(burst) : 0, ages, due: coming - count };
}

/** Where particles come from: writes a place, and the way out there. @returns false when there is none. */
export type Source = (number: number, place: Vec3, out: Vec3) => boolean;

/** A direction for two even numbers from 0 to 1, of length 1. */
function direction(a: number, b: number, out: Vec3): void {
  const z = 1 - 2 * a;
  const r = Math.sqrt(Math.max(0, 1 - z * z));
  out[0] = r * cos(TURN * b);
  out[1] = z;
  out[2] = r * sin(TURN * b);
}

/** @param base place of what the source clings to; @param solids those of the thing whose skin it may be. */
export function sourceOf(effect: ParticlesEffect, base: Vec3 | undefined, solids: readonly Solid[]): Source {
  const { source, seed, position } = effect;
  if (source === 'thing') return skinOf(solids, seed);
  if (!base) return () => false;
  const middle = position.map((v, a) => v + base[a]);
  const half = [effect.width, effect.height, effect.depth].map((v) => v / 2);
  return (number, place, out) => {
    const h = (k: number): number => hashed(number, k, 1, seed);
    direction(h(0), h(1), out);
    const far = Math.max(h(2), h(3), h(4));
    for (let a = 0; a < 3; a++) {
      const off = source === 'point' ? 0 : source === 'ball' ? out[a] * far : 2 * h(5 + a) - 1;
      place[a] = middle[a] + off * half[a];
    }
    if (source !== 'box') return true;
    const long = Math.sqrt([0, 1, 2].reduce((sum, a) => sum + (place[a] - middle[a]) * (place[a] - middle[a]), 0));
    if (long > 1e-9) for (let a = 0; a < 3; a++) out[a] = (place[a] - middle[a]) / long;
    return true;
  };
}

/** Places evenly over the surfaces of solids. */
function skinOf(solids: readonly Solid[], seed: number): Source {
  const corner = (s: Solid, index: number): Vec3 => {
    const [p, m, v] = [s.mesh.positions, s.matrix, s.mesh.indices[index] * 3];
    return [0, 1, 2].map((a) => m[a] * p[v] + m[a + 4] * p[v + 1] + m[a + 8] * p[v + 2] + m[a + 12]) as Vec3;
  };
  const faces: Array<{ solid: Solid; first: number }> = [];
  const sums: number[] = [];
  let area = 0;
  for (const solid of solids)
    for (let t = 0; t < solid.mesh.indices.length; t += 3) {
      const [a, b, c] = [corner(solid, t), corner(solid, t + 1), corner(solid, t + 2)];
      area += longOf(crossOf(a, b, c));
      faces.push({ solid, first: t });
      sums.push(area);
    }
  if (area === 0) return () => false;
  return (number, place, out) => {
    const h = (k: number): number => hashed(number, k, 1, seed);
    const wanted = h(0) * area;
    let [low, high] = [0, sums.length - 1];
    while (low < high) {
      const mid = (low + high) >> 1;
      if (sums[mid] > wanted) high = mid;
      else low = mid + 1;
    }
    const { solid, first } = faces[low];
    const [a, b, c] = [corner(solid, first), corner(solid, first + 1), corner(solid, first + 2)];
    const root = Math.sqrt(h(1));
    const [u, v] = [1 - root, h(2) * root];
    const n = crossOf(a, b, c);
    const long = longOf(n);
    for (let k = 0; k < 3; k++) {
      out[k] = n[k] / long;
      // A hair off the skin, so that it is not inside.
      place[k] = a[k] + u * (b[k] - a[k]) + v * (c[k] - a[k]) + out[k] * 1e-5;
    }
    return true;
  };
}

function crossOf(a: Vec3, b: Vec3, c: Vec3): Vec3 {
  const [x, y, z] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const [p, q, r] = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
  return [y * r - z * q, z * p - x * r, x * q - y * p];
}
const longOf = ([x, y, z]: Vec3): number => Math.sqrt(x * x + y * y + z * z);

/** Writes a newborn particle. @returns false when its source has no place for it. */
export function bear(effect: ParticlesEffect, number: number, source: Source, data: Float32Array, at: number): boolean {
  const { seed, spread, velocity, outward, life, lifeSpread, tumble } = effect;
  const h = (k: number): number => hashed(number, k, 2, seed);
  const place: Vec3 = [0, 0, 0];
  const out: Vec3 = [0, 0, 0];
  if (!source(number, place, out)) return false;
  const aside: Vec3 = [0, 0, 0];
  direction(h(0), h(1), aside);
  const fast = 1 + spread * (2 * h(2) - 1);
  const stray = 0.5 * spread * h(3) * (longOf(velocity as Vec3) + Math.abs(outward));
  // An even turn of three (Shoemake 1992).
  const [r1, r2] = [Math.sqrt(1 - h(4)), Math.sqrt(h(4))];
  const turn = at + PARTICLE.turn;
  data[turn] = r1 * sin(TURN * h(5));
  data[turn + 1] = r1 * cos(TURN * h(5));
  data[turn + 2] = r2 * sin(TURN * h(6));
  data[turn + 3] = r2 * cos(TURN * h(6));
  const axis: Vec3 = [0, 0, 0];
  direction(h(7), h(8), axis);
  const spin = TURN * tumble * (0.4 + 1.2 * h(9));
  for (let a = 0; a < 3; a++) {
    data[at + PARTICLE.place + a] = place[a];
    data[at + PARTICLE.velocity + a] = (velocity[a] + out[a] * outward) * fast + aside[a] * stray;
    data[at + PARTICLE.spin + a] = axis[a] * spin;
  }
  data[at + PARTICLE.age] = 0;
  data[at + PARTICLE.life] = life * (1 + lifeSpread * (2 * h(10) - 1));
  data[at + PARTICLE.rest] = 0;
  return true;
}
