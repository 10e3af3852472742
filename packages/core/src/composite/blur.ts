import type { Plate } from './plate.ts';

/** Times that a box is laid over: four come within 4 % of the peak of a Gaussian. */
const PASSES = 4;
/** Pixels of a tile that is turned about its diagonal at a time. */
const TILE = 16;

/**
 * Blurs planes of a picture as a Gaussian does, by four extended boxes whose variances add up to its own (Gwosdek, Grewenig, Bruhn
 * and Weickert 2011): the time does not depend on its width. Beyond the picture's edge its outermost pixels go on.
 * @param data `channels` floats a pixel; changes. @param sigma pixels.
 */
export function gaussian(data: Float32Array, width: number, height: number, channels: number, sigma: number): void {
  if (!(sigma > 0.05)) return;
  rows(data, height, width, channels, sigma);
  // Columns lie far apart in memory: turned about the diagonal they are rows.
  const turned = transposed(data, width, height, channels);
  rows(turned, width, height, channels, sigma);
  data.set(transposed(turned, height, width, channels));
}

function transposed(data: Float32Array, width: number, height: number, channels: number): Float32Array {
  const out = new Float32Array(data.length);
  for (let by = 0; by < height; by += TILE)
    for (let bx = 0; bx < width; bx += TILE) {
      const [ey, ex] = [Math.min(height, by + TILE), Math.min(width, bx + TILE)];
      for (let y = by; y < ey; y++)
        for (let x = bx; x < ex; x++) {
          const from = (y * width + x) * channels;
          const to = (x * height + y) * channels;
          for (let c = 0; c < channels; c++) out[to + c] = data[from + c];
        }
    }
  return out;
}

/** Blurs each row. */
function rows(data: Float32Array, lines: number, count: number, channels: number, sigma: number): void {
  const variance = (sigma * sigma) / PASSES;
  // The largest box of whole pixels that is no wider, and how much of the next two pixels makes up the rest.
  const r = Math.floor(0.5 * Math.sqrt(12 * variance + 1) - 0.5);
  const edge = ((2 * r + 1) * (r * (r + 1) - 3 * variance)) / (6 * (variance - (r + 1) * (r + 1)));
  const weight = 1 / (2 * r + 1 + 2 * edge);
  const pad = r + 1;
  const a = new Float64Array(count + 2 * pad);
  const b = new Float64Array(count + 2 * pad);
  for (let line = 0; line < lines; line++)
    for (let c = 0; c < channels; c++) {
      const first = line * count * channels + c;
      for (let i = 0; i < count; i++) a[pad + i] = data[first + i * channels];
      boxed(a, b, count, pad, edge, weight);
      boxed(b, a, count, pad, edge, weight);
      boxed(a, b, count, pad, edge, weight);
      boxed(b, a, count, pad, edge, weight);
      for (let i = 0; i < count; i++) data[first + i * channels] = a[pad + i];
    }
}

/** One box over a line that lies `pad` pixels into its buffer; how far it reaches to each side besides the pixels at its ends. */
function boxed(from: Float64Array, to: Float64Array, count: number, pad: number, edge: number, weight: number): void {
  const last = pad + count - 1;
  for (let i = 0; i < pad; i++) {
    from[i] = from[pad];
    from[last + 1 + i] = from[last];
  }
  const r = pad - 1;
  let sum = 0;
  for (let i = pad - r; i <= pad + r; i++) sum += from[i];
  for (let i = pad; i <= last; i++) {
    to[i] = (sum + edge * (from[i - pad] + from[i + pad])) * weight;
    sum += from[i + pad] - from[i - r];
  }
}

/** Blurs a plate. @param sigma pixels. */
export function blurPlate({ data, width, height }: Plate, sigma: number): void {
  gaussian(data, width, height, 4, sigma);
}
