import type { Effect, ShotDocument } from '../document/index.ts';
import type { Vec3 } from '../geometry/index.ts';
import type { SimulatedParticles } from './particles.ts';

/** Density of simulated smoke as a tableau takes it. */
export interface SimulatedSmoke {
  kind: 'smoke';
  size: Vec3;
  /** Metres. */
  cell: number;
  origin: Vec3;
  density: Float32Array;
  /** What it is known by, when the same smoke may come in another array. */
  key?: string;
}

/** What was simulated of an effect for a frame. */
export type Simulated = SimulatedSmoke | SimulatedParticles;

/** Whether an effect may be seen in a shot: it is shown, or keys show it. */
export function mayShow({ id, visible }: Effect, { tracks }: Pick<ShotDocument, 'tracks'>): boolean {
  return visible || tracks.some(({ thing, path }) => thing === id && path === 'visible');
}

/**
 * Which simulated frame is seen in a frame of the shot, counted from the effect's beginning (may lie between two), or null before it
 * begins. @param length frames of the shot.
 */
export function playedFrame({ start, playback }: Effect, frame: number, length: number): number | null {
  const last = Math.max(0, length - 1 - Math.round(start));
  let at = (frame - Math.round(start) - playback.offset) * playback.speed;
  if (playback.loop) at = ((at % (last + 1)) + last + 1) % (last + 1);
  if (playback.backwards) return Math.min(last, Math.max(0, last - at));
  return at < 0 ? null : Math.min(last, at);
}
