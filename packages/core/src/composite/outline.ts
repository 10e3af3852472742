import type { MaskPoint } from '../document/index.ts';
import type { Place } from './place.ts';

/** Straight pieces that each round side becomes. */
const PIECES = 16;
/** Numbers of a piece: where it begins, its way, one over its length squared, feathers of its ends. */
const STRIDE = 7;
/** Pixels along a tile that is wholly in or out, and between those where a wide soft edge is worked out. */
const TILE = 8;
const COARSE = 4;
/** A soft edge so many pixels wide changes so little from one to the next that what lies between can be read off a line. */
const WIDE = 32;

/** The closed line of a drawn mask, as straight pieces; lengths are the mask's own. */
export class Outline {
  private readonly pieces: Float64Array;
  private readonly count: number;
  /** The most that a point adds to the feather. */
  private most = 0;
  /** Of the nearest point of the last place that was asked for. */
  private feather = 0;

  constructor(points: readonly MaskPoint[]) {
    const corners = points.flatMap((p, i) => cornersOf(p, points[(i + 1) % points.length]));
    this.count = corners.length;
    this.pieces = new Float64Array(this.count * STRIDE);
    corners.forEach(([x, y, feather], i) => {
      const [nx, ny, next] = corners[(i + 1) % corners.length];
      const [dx, dy] = [nx - x, ny - y];
      const long = dx * dx + dy * dy;
      this.pieces.set([x, y, dx, dy, long > 0 ? 1 / long : 0, feather, next], i * STRIDE);
      this.most = Math.max(this.most, feather);
    });
  }

  get empty(): boolean {
    return this.count === 0;
  }

  /** How far a place is inside, by the non-zero rule; outside: less than 0. */
  private inside(u: number, v: number): number {
    const { pieces, count } = this;
    let [winding, nearest, feather] = [0, Infinity, 0];
    for (let i = 0, o = 0; i < count; i++, o += STRIDE) {
      const [rx, ry, dx, dy] = [u - pieces[o], v - pieces[o + 1], pieces[o + 2], pieces[o + 3]];
      const along = (rx * dx + ry * dy) * pieces[o + 4];
      const t = along < 0 ? 0 : along > 1 ? 1 : along;
      const [ax, ay] = [rx - t * dx, ry - t * dy];
      const away = ax * ax + ay * ay;
      if (away < nearest) {
        nearest = away;
        feather = pieces[o + 5] + (pieces[o + 6] - pieces[o + 5]) * t;
      }
      const side = dx * ry - dy * rx;
      if (ry >= 0) {
        if (ry < dy && side > 0) winding++;
      } else if (ry >= dy && side < 0) winding--;
    }
    this.feather = feather;
    const distance = Math.sqrt(nearest);
    return winding !== 0 ? distance : -distance;
  }

  /**
   * Fills in how much is seen at every pixel: of whole tiles where they are far from the edge, at every fourth pixel and in lines between
   * where the edge is wide, else at each.
   * @param soft width of the edge. @param grow how far it may be moved. @param shown of a distance inside and the feather of the point.
   */
  cover(
    out: Float32Array,
    width: number,
    height: number,
    { a, b, c, d, e, f, pixel }: Place,
    soft: number,
    grow: number,
    shown: (inside: number, feather: number) => number,
  ): void {
    const at = (px: number, py: number): number => this.inside(a * px + b * py + c, d * px + e * py + f);
    const reach = (soft + this.most) / 2 + grow + TILE * 0.71 * pixel + pixel;
    const wide = soft / pixel >= WIDE && this.most === 0;
    for (let top = 0; top < height; top += TILE)
      for (let left = 0; left < width; left += TILE) {
        const [right, bottom] = [Math.min(width, left + TILE), Math.min(height, top + TILE)];
        const middle = at(left + TILE / 2, top + TILE / 2);
        if (Math.abs(middle) > reach) {
          const whole = shown(middle, 0);
          for (let y = top; y < bottom; y++) out.fill(whole, y * width + left, y * width + right);
        } else if (wide) {
          for (let y = top; y < bottom; y += COARSE)
            for (let x = left; x < right; x += COARSE) {
              const corner = (i: number, j: number): number => shown(at(x + 0.5 + i * COARSE, y + 0.5 + j * COARSE), 0);
              const [p, q, r, s] = [corner(0, 0), corner(1, 0), corner(0, 1), corner(1, 1)];
              for (let j = 0; j < COARSE && y + j < bottom; j++)
                for (let i = 0; i < COARSE && x + i < right; i++) {
                  const [u, v] = [i / COARSE, j / COARSE];
                  out[(y + j) * width + x + i] = (p * (1 - u) + q * u) * (1 - v) + (r * (1 - u) + s * u) * v;
                }
            }
        } else {
          for (let y = top; y < bottom; y++)
            for (let x = left; x < right; x++) {
              const inside = at(x + 0.5, y + 0.5);
              out[y * width + x] = shown(inside, this.feather);
            }
        }
      }
  }
}

/** The straight pieces of a side, by where each begins, with what the feather is more there. */
function cornersOf(p: MaskPoint, q: MaskPoint): Array<[x: number, y: number, feather: number]> {
  const straight = [...p.out, ...q.in].every((v) => v === 0);
  const pieces = straight ? 1 : PIECES;
  return Array.from({ length: pieces }, (_, k) => {
    const t = k / pieces;
    const s = 1 - t;
    const [w0, w1, w2, w3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
    const on = (axis: 0 | 1): number =>
      w0 * p.at[axis] + w1 * (p.at[axis] + p.out[axis]) + w2 * (q.at[axis] + q.in[axis]) + w3 * q.at[axis];
    return [on(0), on(1), s * p.feather + t * q.feather];
  });
}
