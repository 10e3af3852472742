import { cos, sin } from '../maths/index.ts';

/** How far the pixel filter reaches from a pixel's middle, pixels. */
export const FILTER_RADIUS = 1.5;
/** Steps of the table: its last entry is the filter's edge. */
export const FILTER_STEPS = 256;

/** Four-term minimum window of Harris (1978), "On the use of windows for harmonic analysis". */
const TERMS = [0.35875, 0.48829, 0.14128, 0.01168];

/** The filter's height at `x` pixels from the middle, 0 beyond its radius; its integral is `2 * FILTER_RADIUS * 0.35875`. */
export function blackmanHarris(x: number): number {
  const turn = (Math.PI * x) / FILTER_RADIUS;
  if (Math.abs(x) >= FILTER_RADIUS) return 0;
  return TERMS.reduce((sum, term, k) => sum + term * cos(k * turn), 0);
}

/** Share of the filter that lies to the left of `x`. */
function shareBelow(x: number): number {
  const turn = (Math.PI * x) / FILTER_RADIUS;
  const waves = TERMS.slice(1).reduce((sum, term, k) => sum + (term * sin((k + 1) * turn)) / (k + 1), 0);
  return 0.5 + (TERMS[0] * turn + waves) / (2 * Math.PI * TERMS[0]);
}

/**
 * Where a sample goes that is to fall by the filter: entry i of FILTER_STEPS + 1 lies where i / FILTER_STEPS of the filter
 * is to its left, pixels from the middle. Read linearly in between, the pixel filter by importance sampling (Ernst et al.
 * 2006): every sample counts the same, and pixels share none, so that noise stays apart from pixel to pixel.
 */
export function filterPlaces(): Float32Array {
  const places = new Float32Array(FILTER_STEPS + 1);
  for (let i = 0; i <= FILTER_STEPS; i++) {
    let [low, high] = [-FILTER_RADIUS, FILTER_RADIUS];
    for (let step = 0; step < 48; step++) {
      const middle = (low + high) / 2;
      if (shareBelow(middle) < i / FILTER_STEPS) low = middle;
      else high = middle;
    }
    places[i] = (low + high) / 2;
  }
  places[0] = -FILTER_RADIUS;
  places[FILTER_STEPS] = FILTER_RADIUS;
  return places;
}
