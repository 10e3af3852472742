import type { PackedScene } from './layout.ts';
import { PathTracer, type TraceLimits } from './path.ts';

/** The linear passes of one traced picture, rows from the top. */
export interface Passes {
  width: number;
  height: number;
  samples: number;
  /** 3 floats a pixel, cd/m2. */
  beauty: Float32Array;
  /** 1 float a pixel: variance of the mean luminance. */
  variance: Float32Array;
  alpha: Float32Array;
  albedo: Float32Array;
  /** World space, averaged over the pixel. */
  normal: Float32Array;
  /** Metres along the ray; 0 where nothing was hit. */
  depth: Float32Array;
}

export interface TraceOptions {
  width: number;
  height: number;
  samples: number;
  /** Number of the first sample of every pixel: pictures of following samples add up to one of all. */
  firstSample?: number;
  limits: TraceLimits;
  frame: number;
  /** Called after every row with the share done; returning false stops early. */
  onRow?: (share: number) => boolean | void;
}

/**
 * Traces one picture. The same scene, options and frame give the same bytes anywhere.
 * @returns null when stopped by `onRow`.
 */
export function traceFrame(scene: PackedScene, options: TraceOptions): Passes | null {
  const { width, height, samples, firstSample = 0, limits, frame, onRow } = options;
  const tracer = new PathTracer(scene, limits, frameSeed(scene.seed, frame));
  const count = width * height;
  const passes: Passes = {
    width,
    height,
    samples,
    beauty: new Float32Array(count * 3),
    variance: new Float32Array(count),
    alpha: new Float32Array(count),
    albedo: new Float32Array(count * 3),
    normal: new Float32Array(count * 3),
    depth: new Float32Array(count),
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) tracePixel(tracer, passes, x, y, firstSample);
    if (onRow?.((y + 1) / height) === false) return null;
  }
  return passes;
}

function tracePixel(tracer: PathTracer, out: Passes, x: number, y: number, firstSample: number): void {
  const n = out.samples;
  let r = 0;
  let g = 0;
  let b = 0;
  let mean = 0;
  let m2 = 0;
  let alpha = 0;
  let depth = 0;
  const at = y * out.width + x;
  for (let i = 0; i < n; i++) {
    tracer.trace(x, y, out.width, out.height, firstSample + i);
    r += tracer.r;
    g += tracer.g;
    b += tracer.b;
    const luminance = 0.2126 * tracer.r + 0.7152 * tracer.g + 0.0722 * tracer.b;
    // Welford's update: stable however bright the sample.
    const d = luminance - mean;
    mean += d / (i + 1);
    m2 += d * (luminance - mean);
    alpha += tracer.alpha;
    depth += tracer.depth;
    for (let c = 0; c < 3; c++) {
      out.albedo[at * 3 + c] += tracer.albedo[c] / n;
      out.normal[at * 3 + c] += tracer.normal[c] / n;
    }
  }
  out.beauty[at * 3] = r / n;
  out.beauty[at * 3 + 1] = g / n;
  out.beauty[at * 3 + 2] = b / n;
  out.variance[at] = n > 1 ? m2 / (n - 1) / n : 0;
  out.alpha[at] = alpha / n;
  out.depth[at] = alpha > 0 ? depth / alpha : 0;
}

/** One number from the document's seed and the frame (fractional frames count by thousandths). */
export function frameSeed(seed: number, frame: number): number {
  return (Math.imul(seed >>> 0, 0x85ebca6b) ^ Math.imul(Math.round(frame * 1000), 0xc2b2ae35)) >>> 0;
}
