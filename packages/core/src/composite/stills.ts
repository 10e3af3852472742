import { srgbToLinear } from '../finish/index.ts';
import type { Overlay, Picture } from '../picture/index.ts';
import type { Plate, Plates } from './plate.ts';

/** Linear light for each sRGB byte. */
const LINEAR = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));
/** The bytes themselves as shares. */
const SHARES = Float32Array.from({ length: 256 }, (_, i) => i / 255);

/** A still as a plate: light for the scene, sRGB for the glass. */
export function stillPlate(plates: Plates, { width, height, data }: Picture, scene: boolean): Plate {
  const plate = plates.raw(width, height);
  const out = plate.data;
  const codes = scene ? LINEAR : SHARES;
  for (let i = 0; i < data.length; i += 4) {
    // Most pictures cannot be seen through.
    if (data[i + 3] === 255) {
      out[i] = codes[data[i]];
      out[i + 1] = codes[data[i + 1]];
      out[i + 2] = codes[data[i + 2]];
      out[i + 3] = 1;
      continue;
    }
    const alpha = data[i + 3] / 255;
    for (let c = 0; c < 3; c++) out[i + c] = alpha * (scene ? LINEAR[data[i + c]] : data[i + c] / 255);
    out[i + 3] = alpha;
  }
  return plate;
}

/** A drawing over part of a picture as a plate of the whole of it. */
export function overlayPlate(plates: Plates, overlay: Overlay, width: number, height: number, scene: boolean): Plate {
  const plate = plates.make(width, height);
  const out = plate.data;
  const { left, top, data } = overlay;
  for (let y = Math.max(0, top); y < Math.min(height, top + overlay.height); y++)
    for (let x = Math.max(0, left); x < Math.min(width, left + overlay.width); x++) {
      const from = ((y - top) * overlay.width + x - left) * 4;
      const alpha = data[from + 3] / 255;
      if (alpha === 0) continue;
      const to = (y * width + x) * 4;
      for (let c = 0; c < 3; c++) {
        const straight = Math.min(255, Math.round(data[from + c] / alpha));
        out[to + c] = alpha * (scene ? LINEAR[straight] : straight / 255);
      }
      out[to + 3] = alpha;
    }
  return plate;
}
