import type { EffectLevel, SetEffect } from '../document/index.ts';
import type { Vec3 } from '../geometry/index.ts';
import { particlesOf } from './particles/run.ts';
import { costOf, domainOf } from './smoke/domain.ts';
import { hasColours } from './smoke/sources.ts';

/** What an effect asks for, so that it can be said beforehand. */
export interface EffectCost {
  /** Cells of a domain, or particles that are alive at once. */
  count: number;
  /** Memory while it is simulated. */
  bytes: number;
}

/** @param seconds a frame. */
export function effectCost(effect: SetEffect, level: EffectLevel, seconds: number): EffectCost {
  if (effect.kind === 'smoke') {
    const { cells, bytes } = costOf(domainOf(effect, level), hasColours(effect));
    return { count: cells, bytes };
  }
  const { count, frameBytes } = particlesOf(effect, seconds);
  return { count, bytes: 3 * frameBytes };
}

/**
 * The box that an effect fills or comes from: its least corner and its size in metres; null where it has none of its own.
 * @param placeOf where things stand that it may cling to.
 */
export function effectBox(
  effect: SetEffect,
  level: EffectLevel,
  placeOf: (thing: string) => Vec3 | undefined,
): [Vec3, Vec3] | null {
  if (effect.kind === 'smoke') {
    const { origin, size, cell } = domainOf(effect, level);
    return [origin, size.map((n) => n * cell) as Vec3];
  }
  const { source, thing, position, width, height, depth } = effect;
  const base = thing ? placeOf(thing) : ([0, 0, 0] as Vec3);
  if (source === 'thing' || !base) return null;
  const size = source === 'point' ? [0.01, 0.01, 0.01] : [width, height, depth];
  return [position.map((v, a) => v + base[a] - size[a] / 2) as Vec3, size as Vec3];
}
