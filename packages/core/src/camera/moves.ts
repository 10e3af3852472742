import { hypot } from '../maths/index.ts';
import type { Vec3 } from '../geometry/index.ts';

/** What of a camera decides its view. Lengths in metres, focal length and sensor in mm, shift in picture heights. */
export interface View {
  position: Vec3;
  aim: Vec3;
  focalLength: number;
  sensorWidth: number;
  shiftY: number;
}

/**
 * The same view with the camera held level and its lens shifted instead: upright edges stay upright in the picture. What
 * was in the middle of the picture stays there.
 *
 * @param aspect picture width over height. @returns null when it looks too steeply for a shift of one picture height.
 */
export function levelled(view: View, aspect: number): Pick<View, 'aim' | 'shiftY'> | null {
  const [dx, dy, dz] = view.aim.map((v, a) => v - view.position[a]);
  const ground = hypot(dx, dz);
  if (ground < 1e-6) return null;
  // The point aimed at lies so many picture heights above the level line of sight.
  const heights = (dy / ground) * (view.focalLength / (view.sensorWidth / aspect));
  const shiftY = view.shiftY + heights;
  if (Math.abs(shiftY) > 1) return null;
  return { aim: [view.aim[0], view.position[1], view.aim[2]], shiftY };
}

/** The camera with another lens, stepped back or forward on its line of sight so that what it aims at keeps its size. */
export function dollied(view: View, focalLength: number): Pick<View, 'position' | 'focalLength'> {
  const scale = focalLength / view.focalLength;
  return { focalLength, position: view.aim.map((v, a) => v + (view.position[a] - v) * scale) as Vec3 };
}
