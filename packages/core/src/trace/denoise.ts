import type { Passes } from './trace-frame.ts';

export interface DenoiseOptions {
  /** Passes of the filter; its reach doubles with each. */
  iterations?: number;
  /** How many standard deviations of noise two pixels may differ by and still count as alike. */
  tolerance?: number;
}

const DEFAULTS = { iterations: 4, tolerance: 3 };
const KERNEL = [3 / 8, 1 / 4, 1 / 16];
const ALBEDO_FLOOR = 0.02;

/**
 * Edge-avoiding a-trous wavelet filter (Dammertz et al. 2010) with variance-guided luminance weights as in SVGF
 * (Schied et al. 2017), on light divided by albedo, so that label art stays sharp. Guides: albedo, normal, depth.
 * Works on one frame alone; does not use neighbouring frames. Texture seen through glass is only kept as far as it
 * stands out of the noise.
 *
 * @returns beauty with less noise, 3 floats a pixel.
 */
export function denoise(passes: Passes, options: DenoiseOptions = {}): Float32Array {
  const steps = denoiseSteps(passes, options);
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

/** The same filter, pausing after every row, for who must listen to others in between. */
export function* denoiseSteps(passes: Passes, options: DenoiseOptions = {}): Generator<void, Float32Array> {
  const { iterations, tolerance } = { ...DEFAULTS, ...options };
  const { width, height, albedo } = passes;
  const beauty = despeckle(passes);
  const count = width * height;
  let light: Float32Array = new Float32Array(count * 3);
  for (let i = 0; i < count * 3; i++) light[i] = beauty[i] / Math.max(ALBEDO_FLOOR, albedo[i] || 1);
  let variance: Float32Array = demodulatedVariance(passes);
  let nextLight: Float32Array = new Float32Array(count * 3);
  let nextVariance: Float32Array = new Float32Array(count);
  for (let pass = 0; pass < iterations; pass++) {
    for (let y = 0; y < height; y++) {
      filterRow(passes, light, variance, nextLight, nextVariance, 1 << pass, tolerance, y);
      yield;
    }
    [light, nextLight] = [nextLight, light];
    [variance, nextVariance] = [nextVariance, variance];
  }
  for (let i = 0; i < count * 3; i++) light[i] *= Math.max(ALBEDO_FLOOR, albedo[i] || 1);
  return light;
}

/** How much brighter than its second brightest neighbour a pixel may be. */
const SPECK = 1.4;

/** Beauty with lone sparks (one lucky path in one pixel) brought down to their neighbourhood, colour kept. */
function despeckle({ width, height, beauty }: Passes): Float32Array {
  const out = beauty.slice();
  const luminance = (p: number): number =>
    0.2126 * beauty[p * 3] + 0.7152 * beauty[p * 3 + 1] + 0.0722 * beauty[p * 3 + 2];
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      let first = 0;
      let second = 0;
      for (let j = -1; j <= 1; j++) {
        for (let i = -1; i <= 1; i++) {
          if (i === 0 && j === 0) continue;
          const l = luminance((y + j) * width + x + i);
          if (l > first) {
            second = first;
            first = l;
          } else if (l > second) second = l;
        }
      }
      const p = y * width + x;
      const own = luminance(p);
      if (own > second * SPECK && second > 0) for (let c = 0; c < 3; c++) out[p * 3 + c] *= (second * SPECK) / own;
    }
  }
  return out;
}

/** Variance of luminance over albedo, blurred 3 x 3: a few samples alone estimate their own variance badly. */
function demodulatedVariance({ width, height, variance, albedo }: Passes): Float32Array {
  const own = variance.map((v, i) => {
    const a = Math.max(
      ALBEDO_FLOOR,
      0.2126 * (albedo[i * 3] || 1) + 0.7152 * (albedo[i * 3 + 1] || 1) + 0.0722 * (albedo[i * 3 + 2] || 1),
    );
    return v / (a * a);
  });
  const out = new Float32Array(own.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      let n = 0;
      for (let j = Math.max(0, y - 1); j <= Math.min(height - 1, y + 1); j++) {
        for (let i = Math.max(0, x - 1); i <= Math.min(width - 1, x + 1); i++) {
          sum += own[j * width + i];
          n++;
        }
      }
      out[y * width + x] = sum / n;
    }
  }
  return out;
}

function filterRow(
  passes: Passes,
  light: Float32Array,
  variance: Float32Array,
  outLight: Float32Array,
  outVariance: Float32Array,
  step: number,
  tolerance: number,
  y: number,
): void {
  const { width, height, normal, depth, albedo } = passes;
  for (let x = 0; x < width; x++) {
    const p = y * width + x;
    const lp = 0.2126 * light[p * 3] + 0.7152 * light[p * 3 + 1] + 0.0722 * light[p * 3 + 2];
    const reach = tolerance * Math.sqrt(variance[p]) + 1e-3 * lp + 1e-6;
    const slope = depthSlope(depth, width, height, x, y);
    let sum = 0;
    let r = 0;
    let g = 0;
    let b = 0;
    let v = 0;
    for (let j = -2; j <= 2; j++) {
      const qy = y + j * step;
      if (qy < 0 || qy >= height) continue;
      for (let i = -2; i <= 2; i++) {
        const qx = x + i * step;
        if (qx < 0 || qx >= width) continue;
        const q = qy * width + qx;
        const lq = 0.2126 * light[q * 3] + 0.7152 * light[q * 3 + 1] + 0.0722 * light[q * 3 + 2];
        let exponent = Math.abs(lp - lq) / reach;
        exponent +=
          Math.abs(depth[p] - depth[q]) / (slope * step * (Math.abs(i) + Math.abs(j)) + 0.002 * depth[p] + 1e-4);
        const da =
          (albedo[p * 3] - albedo[q * 3]) ** 2 +
          (albedo[p * 3 + 1] - albedo[q * 3 + 1]) ** 2 +
          (albedo[p * 3 + 2] - albedo[q * 3 + 2]) ** 2;
        exponent += da * 40;
        const dn =
          (normal[p * 3] - normal[q * 3]) ** 2 +
          (normal[p * 3 + 1] - normal[q * 3 + 1]) ** 2 +
          (normal[p * 3 + 2] - normal[q * 3 + 2]) ** 2;
        exponent += dn * 24;
        const w = KERNEL[Math.abs(i)] * KERNEL[Math.abs(j)] * Math.exp(-exponent);
        sum += w;
        r += light[q * 3] * w;
        g += light[q * 3 + 1] * w;
        b += light[q * 3 + 2] * w;
        v += variance[q] * w * w;
      }
    }
    outLight[p * 3] = r / sum;
    outLight[p * 3 + 1] = g / sum;
    outLight[p * 3 + 2] = b / sum;
    outVariance[p] = v / (sum * sum);
  }
}

function depthSlope(depth: Float32Array, width: number, height: number, x: number, y: number): number {
  const p = y * width + x;
  const across = x > 0 && x < width - 1 ? Math.abs(depth[p + 1] - depth[p - 1]) / 2 : 0;
  const down = y > 0 && y < height - 1 ? Math.abs(depth[p + width] - depth[p - width]) / 2 : 0;
  return Math.min(0.05, Math.max(across, down));
}
