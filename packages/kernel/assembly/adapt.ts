import { Path } from './path-state';
import { Pixel } from './pixel';
import { TILE } from './scene';

/** Where more samples are worth their time. */

/** Dark places may be as noisy as this luminance, in display white, would. */
const DARK: f64 = 0.05;
/** Pixels of even light that denoising takes together. */
const TOGETHER: f64 = 24;
const LEAST_ALBEDO: f64 = 0.02;
/** Logarithm of the depth where nothing is met. */
const FAR: f64 = 4.6;

/** Terms that light over albedo is fitted to over a block: a constant, albedo's luminance, normal, depth. */
const TERMS: i32 = 6;
const PAIRS: i32 = (TERMS * (TERMS + 1)) / 2;
/** Ridge of the fit, of the number of pixels. */
const RIDGE: f64 = 0.001;

/** Bytes that a fit works in: its matrix, its right side, and the terms of the pixel at hand. */
export const FIT_BYTES: usize = <usize>((PAIRS + 2 * TERMS) << 3);

/**
 * Relative standard error of a block that will be left after denoising. Of light over albedo, what varies from pixel to
 * pixel more than its surfaces and noise explain (s) cannot be told from the noise (n): the best linear filter leaves
 * n s / (n + s) of it (Wiener 1949). Even light can be averaged.
 * @param width of the block, whose pixels lie from `pixels` on, TILE in a row, `stride` bytes each.
 */
export function errorLeft(path: Path, width: i32, height: i32, pixels: usize, stride: usize): f64 {
  const fit = path.fit;
  memory.fill(fit, 0, (PAIRS + TERMS) << 3);
  const row = fit + ((PAIRS + TERMS) << 3);
  let squares: f64 = 0;
  let sum: f64 = 0;
  let noise: f64 = 0;
  let bright: f64 = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const pixel = changetype<Pixel>(pixels + <usize>(y * TILE + x) * stride);
      const albedo = Math.max(LEAST_ALBEDO, pixel.albedo());
      const light = pixel.mean / albedo;
      sum += light;
      squares += light * light;
      noise += pixel.variance() / (albedo * albedo);
      bright += pixel.mean;
      describe(pixel, row, albedo);
      let at = fit;
      for (let j = 0; j < TERMS; j++) {
        const v = load<f64>(row + (j << 3));
        for (let k = j; k < TERMS; k++, at += 8) store<f64>(at, load<f64>(at) + v * load<f64>(row + (k << 3)));
      }
      for (let j = 0; j < TERMS; j++, at += 8) store<f64>(at, load<f64>(at) + light * load<f64>(row + (j << 3)));
    }
  }
  if (sum <= 0) return 0;
  const count = <f64>(width * height);
  const mean = sum / count;
  const n = noise / count;
  const s = Math.max(0, (squares - explained(fit, count)) / Math.max(1.0, count - <f64>TERMS) - n);
  const left = n / TOGETHER + (n * s) / (n + s + 1e-30);
  const shown = (bright / count) * <f64>path.scene.exposureScale;
  return (Math.sqrt(left) / mean) * (shown / (shown + DARK));
}

/** The terms of a pixel: its first surfaces as its paths saw them. */
function describe(pixel: Pixel, row: usize, albedo: f64): void {
  const k = 1.0 / <f64>pixel.count;
  store<f64>(row, 1);
  store<f64>(row, albedo, 8);
  store<f64>(row, pixel.sumNx * k, 16);
  store<f64>(row, pixel.sumNy * k, 24);
  store<f64>(row, pixel.sumNz * k, 32);
  const hits = pixel.sumAlpha + pixel.sumCaught;
  store<f64>(row, hits > 0 ? Math.log(Math.max(0.01, pixel.sumDepth / hits)) : FAR, 40);
}

// @ts-ignore: decorator
@inline
function entry(fit: usize, j: i32, k: i32): usize {
  return fit + ((<usize>(j * TERMS - ((j * (j - 1)) >> 1) + k - j)) << 3);
}

/** Sum of squares that the fit explains: its right side times its solution, by Cholesky in place. */
function explained(fit: usize, count: f64): f64 {
  const right = fit + (PAIRS << 3);
  let sum: f64 = 0;
  for (let j = 0; j < TERMS; j++) {
    let d = load<f64>(entry(fit, j, j)) + (j > 0 ? RIDGE * count : 1e-9);
    for (let i = 0; i < j; i++) {
      const l = load<f64>(entry(fit, i, j));
      d -= l * l;
    }
    const inverse = 1.0 / Math.sqrt(Math.max(1e-12, d));
    for (let k = j + 1; k < TERMS; k++) {
      let v = load<f64>(entry(fit, j, k));
      for (let i = 0; i < j; i++) v -= load<f64>(entry(fit, i, j)) * load<f64>(entry(fit, i, k));
      store<f64>(entry(fit, j, k), v * inverse);
    }
    const at = right + ((<usize>j) << 3);
    let z = load<f64>(at);
    for (let i = 0; i < j; i++) z -= load<f64>(entry(fit, i, j)) * load<f64>(right + ((<usize>i) << 3));
    z *= inverse;
    store<f64>(at, z);
    sum += z * z;
  }
  return sum;
}
