import { log2, pow } from '../maths/index.ts';
import type { Place } from './place.ts';
import { newPlate, type Plate } from './plate.ts';

/** A plate with versions of it that are each half as large. */
export class Pyramid {
  private readonly levels: Plate[];

  constructor(plate: Plate) {
    this.levels = [plate];
  }

  /** The plate halved so many times; four pixels become one. */
  level(n: number): Plate {
    while (this.levels.length <= n) {
      const last = this.levels[this.levels.length - 1];
      if (last.width === 1 && last.height === 1) return last;
      this.levels.push(halved(last));
    }
    return this.levels[n];
  }
}

function halved({ width, height, data }: Plate): Plate {
  const out = newPlate(Math.max(1, width >> 1), Math.max(1, height >> 1));
  for (let y = 0, o = 0; y < out.height; y++)
    for (let x = 0; x < out.width; x++)
      for (let c = 0; c < 4; c++, o++) {
        const [x1, y1] = [Math.min(width - 1, 2 * x + 1), Math.min(height - 1, 2 * y + 1)];
        const [top, low] = [2 * y * width, y1 * width];
        out.data[o] =
          (data[(top + 2 * x) * 4 + c] +
            data[(top + x1) * 4 + c] +
            data[(low + 2 * x) * 4 + c] +
            data[(low + x1) * 4 + c]) /
          4;
      }
  return out;
}

/** Weights of four neighbours at `t` between the middle two (Catmull-Rom: it goes through them, so that nothing at rest blurs). */
function weights(t: number, out: Float64Array): void {
  const [t2, t3] = [t * t, t * t * t];
  out[0] = (-t3 + 2 * t2 - t) / 2;
  out[1] = (3 * t3 - 5 * t2 + 2) / 2;
  out[2] = (-3 * t3 + 4 * t2 + t) / 2;
  out[3] = (t3 - t2) / 2;
}

/** Whether each pixel of a picture falls on the same pixel of a plate of its size. */
function atRest({ a, b, c, d, e, f }: Place, width: number, height: number, high: number): boolean {
  const one = (v: number, wanted: number): boolean => Math.abs(v * height - wanted) < 1e-9 * height;
  return high === 1 && one(a, 1) && one(b, 0) && one(d, 0) && one(e, -1) && one(c, -width / 2) && one(f, height / 2);
}

/**
 * Draws a picture into a plate of another size: so many of the layer's lengths high, its middle at 0. Made smaller it is read from
 * a halved version, so that nothing shimmers; made larger or moved by parts of a pixel by bicubic interpolation. Its edge is a pixel
 * soft.
 */
export function warp(target: Plate, source: Pyramid, place: Place, high: number): void {
  const { width, height, data } = target;
  const { a, b, c, d, e, f } = place;
  const full = source.level(0);
  if (width === full.width && height === full.height && atRest(place, width, height, high)) {
    data.set(full.data);
    return;
  }
  const per = full.height / high;
  // How many of its pixels a pixel of the target covers, by the direction in which it covers most.
  const covers = per * Math.max(Math.sqrt(a * a + d * d), Math.sqrt(b * b + e * e));
  const n = Math.max(0, Math.round(log2(Math.max(1, covers)) - 0.25));
  const { width: w, height: h, data: from } = source.level(n);
  const [sx, sy] = [w / full.width, h / full.height];
  const [wx, wy] = [new Float64Array(4), new Float64Array(4)];
  const soft = Math.max(1, covers / Math.max(1, pow(2, n)));
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 4) {
      const [px, py] = [x + 0.5, y + 0.5];
      const s = ((a * px + b * py + c) * per + full.width / 2) * sx;
      const t = (full.height / 2 - (d * px + e * py + f) * per) * sy;
      const inside = Math.min(s, w - s, t, h - t) / soft + 0.5;
      if (inside <= 0) continue;
      const edge = Math.min(1, inside);
      const [i, j] = [Math.floor(s - 0.5), Math.floor(t - 0.5)];
      weights(s - 0.5 - i, wx);
      weights(t - 0.5 - j, wy);
      for (let k = 0; k < 4; k++) {
        let sum = 0;
        for (let q = 0; q < 4; q++) {
          const row = Math.min(h - 1, Math.max(0, j - 1 + q)) * w;
          let line = 0;
          for (let p = 0; p < 4; p++) line += wx[p] * from[(row + Math.min(w - 1, Math.max(0, i - 1 + p))) * 4 + k];
          sum += wy[q] * line;
        }
        data[o + k] = Math.max(0, sum) * edge;
      }
      data[o + 3] = Math.min(1, data[o + 3]);
    }
}
