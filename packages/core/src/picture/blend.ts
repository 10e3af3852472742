import type { Picture } from './picture.ts';

/** A drawing over part of a picture: premultiplied sRGB bytes, its top left corner at (left, top). */
export interface Overlay {
  left: number;
  top: number;
  width: number;
  height: number;
  data: Uint8Array | Uint8ClampedArray;
}

/** Draws `overlay` over `picture` (which changes) with `opacity` 0..1; parts outside the picture are left out. */
export function drawOver(picture: Picture, overlay: Overlay, opacity = 1): void {
  const x0 = Math.max(0, overlay.left);
  const x1 = Math.min(picture.width, overlay.left + overlay.width);
  const y0 = Math.max(0, overlay.top);
  const y1 = Math.min(picture.height, overlay.top + overlay.height);
  for (let y = y0; y < y1; y++) {
    for (let x = x0; x < x1; x++) {
      const s = ((y - overlay.top) * overlay.width + x - overlay.left) * 4;
      const a = overlay.data[s + 3];
      if (a === 0) continue;
      const keep = 1 - (a / 255) * opacity;
      const d = (y * picture.width + x) * 4;
      picture.data[d] = overlay.data[s] * opacity + picture.data[d] * keep;
      picture.data[d + 1] = overlay.data[s + 1] * opacity + picture.data[d + 1] * keep;
      picture.data[d + 2] = overlay.data[s + 2] * opacity + picture.data[d + 2] * keep;
    }
  }
}
