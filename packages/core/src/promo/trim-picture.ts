import { crop, type Plate } from '../composite/index.ts';
import type { ClipPicture } from '../document/index.ts';

/** What of a picture is cut off, and the radius of the corners of what is left in heights of it. */
export type Trim = Pick<ClipPicture, 'cropLeft' | 'cropRight' | 'cropTop' | 'cropBottom' | 'radius'>;

/** Cuts off a picture's sides and rounds the corners of what is left. Changes the plate. */
export function trimPicture(plate: Plate, picture: Trim): void {
  crop(plate, picture);
  if (picture.radius <= 0) return;
  const { width, height, data } = plate;
  const { cropLeft, cropRight, cropTop, cropBottom } = picture;
  const [left, top] = [cropLeft * width, cropTop * height];
  const [right, bottom] = [(1 - cropRight) * width, (1 - cropBottom) * height];
  const radius = Math.min(picture.radius * height, (right - left) / 2, (bottom - top) / 2);
  for (let y = 0; y < height; y++) {
    const dy = Math.max(top + radius - y - 0.5, y + 0.5 - bottom + radius, 0);
    if (dy <= 0) continue;
    for (let x = 0; x < width; x++) {
      const dx = Math.max(left + radius - x - 0.5, x + 0.5 - right + radius, 0);
      if (dx <= 0) continue;
      const share = Math.min(1, Math.max(0, radius + 0.5 - Math.sqrt(dx * dx + dy * dy)));
      for (let c = 0, at = (y * width + x) * 4; c < 4; c++) data[at + c] *= share;
    }
  }
}
