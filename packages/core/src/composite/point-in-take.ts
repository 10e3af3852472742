import type { Vec3 } from '../geometry/index.ts';
import type { FrameSpace } from '../scene/index.ts';
import { hiddenAt, spotOf } from './in-set.ts';
import { NOTHING, type DepthFrame } from './light-frame.ts';

/** A place of the set that a frame of a take shows. */
export interface PointInSet {
  /** The thing that it is on; empty: none that has a place of its own. */
  thing: string;
  /** Metres, in the world. */
  at: Vec3;
}

/** How much nearer than a point what hides it is, as a share of how far away that is. */
const CLEARLY = 0.01;

/**
 * What is seen at a point of a take's frame. @param spot shares of the picture's height from its middle, x to the right, y up.
 * @returns null where nothing is, or the frame does not know how far away anything is.
 */
export function pointUnder(
  { width, height, depths }: DepthFrame,
  [sx, sy]: readonly [number, number],
): PointInSet | null {
  const [x, y] = [Math.floor(width / 2 + sx * height), Math.floor(height / 2 - sy * height)];
  if (!depths || x < 0 || y < 0 || x >= width || y >= height) return null;
  const pixel = y * width + x;
  const far = depths.depth[pixel];
  if (!(far > 0)) return null;
  const { eye, right, up, forward, focal, shift } = depths.space.camera;
  const [u, v] = [(sx + shift[0]) / focal, (sy + shift[1]) / focal];
  const along = far / Math.sqrt(1 + u * u + v * v);
  const at = [0, 1, 2].map((i) => eye[i] + (forward[i] + right[i] * u + up[i] * v) * along) as Vec3;
  const number = depths.ids[pixel * 2];
  return { thing: number === NOTHING ? '' : (depths.things[number] ?? ''), at };
}

/**
 * Where a place of the world is in a take's frame, and how much of it is seen, 0..1; null behind the camera.
 * @param light of the frame; null: whether anything hides it is not known.
 */
export function pointSeen(
  at: Vec3,
  space: FrameSpace,
  light: DepthFrame | null,
): [x: number, y: number, seen: number] | null {
  const spot = spotOf(at, space);
  if (!spot) return null;
  const { eye } = space.camera;
  const away = Math.sqrt(at.reduce((sum, v, i) => sum + (v - eye[i]) * (v - eye[i]), 0)) * (1 - CLEARLY);
  return [...spot, light ? inSight(light, spot, away) : 1];
}

/** How much is seen of what is so far away: all of it where a pixel by it shows as much, which an edge may lie in. */
function inSight(light: DepthFrame, [sx, sy]: readonly [number, number], away: number): number {
  let most = 0;
  for (const down of NEAR)
    for (const across of NEAR) {
      const beside = [sx + across / light.height, sy + down / light.height] as const;
      most = Math.max(most, 1 - hiddenAt(light, beside, away));
    }
  return most;
}
const NEAR = [-1, 0, 1];
