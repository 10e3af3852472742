import type { Panorama } from '../light/index.ts';

/** Ways to make a panorama all round of one that is not twice as wide as high. */
export const PANORAMA_FITS = ['stretch', 'fill'] as const;
export type PanoramaFit = (typeof PANORAMA_FITS)[number];

/** How far from 2:1 still counts as all round. */
const NEAR = 0.02;

/** Whether a picture goes all round: twice as wide as it is high. */
export function isAllRound({ width, height }: Pick<Panorama, 'width' | 'height'>): boolean {
  return Math.abs(width / height - 2) <= NEAR;
}

/** Averages pixels together until it is at most `most` wide, so that small bright lamps keep their light. */
export function reducePanorama({ width, height, data }: Panorama, most: number): Panorama {
  const factor = Math.max(1, Math.ceil(width / most));
  const [w, h] = [Math.max(1, Math.floor(width / factor)), Math.max(1, Math.floor(height / factor))];
  const out = new Float32Array(w * h * 3);
  for (let y = 0; y < Math.min(height, h * factor); y++)
    for (let x = 0; x < w * factor; x++)
      for (let c = 0; c < 3; c++) {
        const v = data[(y * width + x) * 3 + c];
        if (Number.isFinite(v) && v > 0)
          out[(Math.floor(y / factor) * w + Math.floor(x / factor)) * 3 + c] += v / (factor * factor);
      }
  return { width: w, height: h, data: out };
}

/**
 * A panorama all round, twice as wide as high. `stretch` takes it for one that is only squeezed; `fill` takes it for a band
 * round the horizon, or a part of the round: what is missing above and below runs from its edge to the edge's mean, what is
 * missing at the sides is its mirror image.
 */
export function allRound(panorama: Panorama, fit: PanoramaFit): Panorama {
  const { width, height } = panorama;
  if (isAllRound(panorama)) return panorama;
  if (fit === 'stretch') return resampled(panorama, width, Math.max(1, Math.round(width / 2)), (u, v) => [u, v]);
  // Its pixels keep their proportions: a broad one is a band, a high one a part of the round.
  const [w, h] = width > 2 * height ? [width, Math.round(width / 2)] : [2 * height, height];
  const [share, rise] = [width / w, height / h];
  const whole = resampled(panorama, w, h, (u, v) => [mirrored(u / share), clamp01((v - (1 - rise) / 2) / rise)]);
  for (const [first, last] of [
    [0, Math.floor((h * (1 - rise)) / 2)],
    [h - 1, Math.ceil((h * (1 + rise)) / 2) - 1],
  ])
    fade(whole, first, last);
  return whole;
}

const clamp01 = (v: number): number => Math.min(1, Math.max(0, v));
/** There and back again over 0..1. */
const mirrored = (u: number): number => {
  const t = u % 2;
  return t > 1 ? 2 - t : t;
};

function resampled(
  { width, height, data }: Panorama,
  w: number,
  h: number,
  from: (u: number, v: number) => [number, number],
): Panorama {
  const out = new Float32Array(w * h * 3);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [u, v] = from((x + 0.5) / w, (y + 0.5) / h);
      const [sx, sy] = [Math.min(width - 1, Math.floor(u * width)), Math.min(height - 1, Math.floor(v * height))];
      for (let c = 0; c < 3; c++) out[(y * w + x) * 3 + c] = data[(sy * width + sx) * 3 + c];
    }
  return { width: w, height: h, data: out };
}

/** Rows from the pole `first` to `last`, the edge of what is there, run from the edge's mean to the edge. */
function fade({ width, data }: Panorama, first: number, last: number): void {
  if (first === last) return;
  const mean = [0, 0, 0];
  for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++) mean[c] += data[(last * width + x) * 3 + c] / width;
  const step = last > first ? 1 : -1;
  for (let y = first; y !== last; y += step) {
    const edge = Math.abs(y - first) / Math.abs(last - first);
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++)
        data[(y * width + x) * 3 + c] = mean[c] * (1 - edge) + data[(last * width + x) * 3 + c] * edge;
  }
}
