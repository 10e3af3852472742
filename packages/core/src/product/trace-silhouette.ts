import { hypot } from '../maths/index.ts';
import type { PixelPicture } from '../finish/index.ts';
import { Problem } from '../problem/index.ts';

export interface SilhouetteOptions {
  /** Real height of what is seen, metres. */
  height: number;
  /** How much a colour may differ from the background and still be it, 0..1. */
  threshold: number;
  /** How far the profile may leave the traced edge, metres. */
  tolerance: number;
}

/**
 * The profile of a body turned round an upright axis, from its silhouette before a plain background: pixels that differ
 * from the colour along the picture's border, their largest connected piece, the edge left and right in each row (to a
 * fraction of a pixel), the axis that halves them in the mean, and the half width as radius, simplified by
 * Douglas and Peucker's method.
 *
 * @returns from the middle of the base to the top: [radius, height, 0].
 * @throws Problem `silhouette/...` when nothing stands out or it runs out of the picture.
 */
export function traceSilhouette(
  picture: PixelPicture,
  { height, threshold, tolerance }: SilhouetteOptions,
): Array<[number, number, number]> {
  const { width: w, height: h } = picture;
  const difference = differences(picture);
  const inside = largestPiece(difference, w, h, threshold);
  const rows: Array<{ y: number; left: number; right: number }> = [];
  for (let y = 0; y < h; y++) {
    let [first, last] = [-1, -1];
    for (let x = 0; x < w; x++) {
      if (!inside[y * w + x]) continue;
      if (first < 0) first = x;
      last = x;
    }
    if (first < 0) continue;
    if (first === 0 || last === w - 1)
      throw new Problem(
        'silhouette/cut',
        'What stands before the background runs out of the picture at its side: choose a photo that shows all of it.',
      );
    const at = (x: number): number => difference[y * w + x];
    // The edge lies where the difference crosses the threshold, between the pixels' middles.
    const between = (outer: number, inner: number): number =>
      (threshold - at(outer)) / Math.max(1e-6, at(inner) - at(outer));
    rows.push({ y, left: first - 0.5 + between(first - 1, first), right: last + 1.5 - between(last + 1, last) });
  }
  if (rows.length < 8)
    throw new Problem(
      'silhouette/none',
      'Nothing stands out from the background: choose a photo before a plain background, or lower the threshold.',
    );
  const spread = rows.reduce((n, r) => n + (r.right - r.left), 0);
  const axis = rows.reduce((n, r) => n + ((r.left + r.right) / 2) * (r.right - r.left), 0) / spread;
  const [top, bottom] = [rows[0].y, rows[rows.length - 1].y + 1];
  const scale = height / (bottom - top);
  const points: Point[] = rows
    .reverse()
    .map((r) => [((Math.abs(r.right - axis) + Math.abs(axis - r.left)) / 2) * scale, (bottom - r.y - 0.5) * scale]);
  const side: Point[] = [[points[0][0], 0], ...points, [points[points.length - 1][0], height]];
  return [[0, 0, 0], ...simplify(side, tolerance).map(([r, y]): [number, number, number] => [round(r), round(y), 0])];
}

type Point = [number, number];
const round = (v: number): number => Math.round(v * 1e6) / 1e6;

/** How far each pixel's colour is from the border's, 0..1; what is transparent is background. */
function differences({ width, height, data }: PixelPicture): Float32Array {
  const border: number[] = [];
  for (let x = 0; x < width; x++) border.push(x, (height - 1) * width + x);
  for (let y = 0; y < height; y++) border.push(y * width, y * width + width - 1);
  const ground = [0, 1, 2].map((c) => {
    const sorted = border.map((p) => data[p * 4 + c]).sort((a, b) => a - b);
    return sorted[sorted.length >> 1];
  });
  return Float32Array.from({ length: width * height }, (_, p) => {
    const far = Math.max(...[0, 1, 2].map((c) => Math.abs(data[p * 4 + c] - ground[c])));
    return (far / 255) * (data[p * 4 + 3] / 255);
  });
}

/** The largest piece of connected pixels above the threshold; dust beside it is left out. */
function largestPiece(difference: Float32Array, w: number, h: number, threshold: number): Uint8Array {
  const piece = new Int32Array(w * h);
  let [best, bestSize, count] = [0, 0, 0];
  for (let start = 0; start < w * h; start++) {
    if (piece[start] || difference[start] <= threshold) continue;
    const stack = [start];
    piece[start] = ++count;
    let size = 0;
    while (stack.length > 0) {
      const p = stack.pop()!;
      size++;
      const x = p % w;
      for (const q of [x > 0 ? p - 1 : -1, x < w - 1 ? p + 1 : -1, p - w, p + w]) {
        if (q < 0 || q >= w * h || piece[q] || difference[q] <= threshold) continue;
        piece[q] = count;
        stack.push(q);
      }
    }
    if (size > bestSize) [best, bestSize] = [count, size];
  }
  return Uint8Array.from(piece, (n) => (n > 0 && n === best ? 1 : 0));
}

function simplify(points: Point[], tolerance: number): Point[] {
  if (points.length < 3) return points;
  const [a, b] = [points[0], points[points.length - 1]];
  const length = hypot(b[0] - a[0], b[1] - a[1]) || 1e-12;
  let [far, at] = [0, 0];
  for (let i = 1; i < points.length - 1; i++) {
    const off = Math.abs((b[0] - a[0]) * (points[i][1] - a[1]) - (points[i][0] - a[0]) * (b[1] - a[1])) / length;
    if (off > far) [far, at] = [off, i];
  }
  if (far <= tolerance) return [a, b];
  return [...simplify(points.slice(0, at + 1), tolerance).slice(0, -1), ...simplify(points.slice(at), tolerance)];
}
