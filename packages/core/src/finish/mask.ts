import { hypot, pow } from '../maths/index.ts';
/** One stroke of a mask's brush. */
export interface MaskStroke {
  /** Takes art away, or brings back what was taken. */
  hide: boolean;
  /** Of the brush, as a share of the label's width. */
  radius: number;
  /** u, v, u, v... of the label, 0..1 from its upper left. */
  points: number[];
}

/**
 * Strokes one after the other; `aspect` is the label's height over its width, so that the brush is round on it. The mask
 * lies on the label, so art that lies in it moved, repeated or turned (radians) is laid out first.
 */
export interface Mask {
  aspect: number;
  strokes: MaskStroke[];
  place?: { offset: [number, number]; repeat: [number, number]; rotation: number };
}

/** How much of the brush's radius its soft edge takes. */
const SOFT = 0.25;

/**
 * How much of the art each pixel keeps, 0..1, row by row from the top.
 * @param width and @param height in pixels.
 */
export function drawMask({ aspect, strokes }: Mask, width: number, height: number): Float32Array {
  const kept = new Float32Array(width * height).fill(1);
  for (const stroke of strokes) {
    const cover = coverOf(stroke, aspect, width, height);
    for (let i = 0; i < kept.length; i++) {
      if (cover[i] > 0) kept[i] += ((stroke.hide ? 0 : 1) - kept[i]) * cover[i];
    }
  }
  return kept;
}

/** How much of each pixel one stroke covers: the brush drawn along its points. */
function coverOf({ points, radius }: MaskStroke, aspect: number, width: number, height: number): Float32Array {
  const cover = new Float32Array(width * height);
  const count = points.length / 2;
  for (let i = 0; i < count; i++) {
    const j = Math.min(count - 1, i + 1);
    const [ax, ay, bx, by] = [points[2 * i], points[2 * i + 1] * aspect, points[2 * j], points[2 * j + 1] * aspect];
    const [x0, x1] = [Math.min(ax, bx) - radius, Math.max(ax, bx) + radius].map((v) => Math.floor(v * width));
    const [y0, y1] = [Math.min(ay, by) - radius, Math.max(ay, by) + radius].map((v) =>
      Math.floor((v / aspect) * height),
    );
    const along = pow(bx - ax, 2) + pow(by - ay, 2);
    for (let y = Math.max(0, y0); y <= Math.min(height - 1, y1); y++) {
      for (let x = Math.max(0, x0); x <= Math.min(width - 1, x1); x++) {
        const [px, py] = [(x + 0.5) / width, ((y + 0.5) / height) * aspect];
        const t = along > 0 ? Math.min(1, Math.max(0, ((px - ax) * (bx - ax) + (py - ay) * (by - ay)) / along)) : 0;
        const off = hypot(px - ax - t * (bx - ax), py - ay - t * (by - ay)) / radius;
        const here = Math.min(1, Math.max(0, (1 - off) / SOFT));
        if (here > cover[y * width + x]) cover[y * width + x] = here;
      }
    }
  }
  return cover;
}
