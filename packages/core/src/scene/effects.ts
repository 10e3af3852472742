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
  /** Colour of each cell by its emitters: red, green, blue as square roots of their shares, 0..255. None: white. */
  colours?: Uint8Array;
  /** Degrees above the room's, a cell. */
  heat?: Float32Array;
  motion?: SmokeMotion;
  flow?: SmokeFlow;
  /** What it is known by, when the same smoke may come in another array. */
  key?: string;
}

/** Where gas goes in a simulated frame: metres, three a cell of a coarser grid over the same box. */
export interface SmokeMotion {
  size: Vec3;
  ways: Float32Array;
}

/**
 * How far gas was carried since a moment, so that a pattern can go with it: metres, three a cell of a coarser grid. Two of them, begun at
 * different times; each counts nothing as it begins anew.
 */
export interface SmokeFlow {
  size: Vec3;
  carried: readonly [Float32Array, Float32Array];
  /** How much the first one counts, 0..1; the other has the rest. */
  share: number;
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
