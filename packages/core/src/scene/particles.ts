import type { ParticlesEffect } from '../document/index.ts';
import { hashed } from '../maths/index.ts';

/** Floats that a simulated particle has, and where each begins. */
export const PARTICLE = {
  stride: 16,
  /** Metres. */
  place: 0,
  /** Metres a second. */
  velocity: 3,
  /** Quaternion x, y, z, w; a plate's normal is its Y. */
  turn: 6,
  /** Radians a second. */
  spin: 10,
  /** Seconds. */
  age: 13,
  life: 14,
  /** The number of the solid that it clings to, -1 for the floor, 0 for none. */
  rest: 15,
} as const;

/** Particles at a simulated frame as a tableau takes them. */
export interface SimulatedParticles {
  kind: 'particles';
  count: number;
  /** PARTICLE.stride floats each. */
  data: Float32Array;
  /** The number of each, counted from the first that was born; rising. */
  numbers: Uint32Array;
  /** What they are known by, when the same may come in other arrays. */
  key?: string;
}

/** Metres across of a particle as grown up. */
export function particleSize({ size, sizeSpread, seed }: ParticlesEffect, number: number): number {
  return size * (1 + sizeSpread * (2 * hashed(number, 0, 3, seed) - 1));
}

/** Where a particle's colour lies between an effect's two, 0..1. */
export function particleTone({ colourSpread, seed }: ParticlesEffect, number: number): number {
  return 0.5 + colourSpread * (hashed(number, 1, 3, seed) - 0.5);
}
