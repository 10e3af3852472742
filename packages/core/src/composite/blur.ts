import type { Plate } from './plate.ts';

/** Times that a box is laid over: four come within 3.5 % of the peak of a Gaussian. */
const PASSES = 4;

/**
 * Blurs planes of a picture as a Gaussian does, by four extended boxes whose variances add up to its own (Gwosdek, Grewenig, Bruhn
 * and Weickert 2011): the time does not depend on its width. Beyond the picture's edge its outermost pixels go on.
 * @param data `channels` floats a pixel; changes. @param sigma pixels.
 */
export function gaussian(data: Float32Array, width: number, height: number, channels: number, sigma: number): void {
  if (!(sigma > 0.05)) return;
  const line = new Float64Array(Math.max(width, height));
  const other = new Float64Array(line.length);
  for (let y = 0; y < height; y++)
    for (let c = 0; c < channels; c++) along(data, y * width * channels + c, channels, width, sigma, line, other);
  for (let x = 0; x < width; x++)
    for (let c = 0; c < channels; c++) along(data, x * channels + c, width * channels, height, sigma, line, other);
}

/** One row or column. */
function along(
  data: Float32Array,
  first: number,
  step: number,
  count: number,
  sigma: number,
  line: Float64Array,
  other: Float64Array,
): void {
  for (let i = 0; i < count; i++) line[i] = data[first + i * step];
  const variance = (sigma * sigma) / PASSES;
  // The largest box of whole pixels that is no wider, and how much of the next two pixels makes up the rest.
  const r = Math.floor(0.5 * Math.sqrt(12 * variance + 1) - 0.5);
  const edge = ((2 * r + 1) * (r * (r + 1) - 3 * variance)) / (6 * (variance - (r + 1) * (r + 1)));
  const weight = 1 / (2 * r + 1 + 2 * edge);
  let [from, to] = [line, other];
  for (let pass = 0; pass < PASSES; pass++) {
    const last = count - 1;
    const at = (i: number): number => from[i < 0 ? 0 : i > last ? last : i];
    let sum = 0;
    for (let i = -r; i <= r; i++) sum += at(i);
    for (let i = 0; i < count; i++) {
      to[i] = (sum + edge * (at(i - r - 1) + at(i + r + 1))) * weight;
      sum += at(i + r + 1) - at(i - r);
    }
    [from, to] = [to, from];
  }
  for (let i = 0; i < count; i++) data[first + i * step] = from[i];
}

/** Blurs a plate, so that nothing of it is left beyond its own edge but what runs over it. @param sigma pixels. */
export function blurPlate({ data, width, height }: Plate, sigma: number): void {
  gaussian(data, width, height, 4, sigma);
}
