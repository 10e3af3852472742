import type { Passes } from '@tender-orbit/core/trace';

/** A plain joint bilateral filter (Petschnigg et al. 2004): weights by distance and by likeness of albedo, normal, depth. */
export function jointBilateral({ width, height, beauty, albedo, normal, depth }: Passes, sigma: number): Float32Array {
  const out = new Float32Array(beauty.length);
  const reach = Math.ceil(sigma * 2);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const p = y * width + x;
      const sum = [0, 0, 0];
      let total = 0;
      for (let j = Math.max(0, y - reach); j <= Math.min(height - 1, y + reach); j++) {
        for (let i = Math.max(0, x - reach); i <= Math.min(width - 1, x + reach); i++) {
          const q = j * width + i;
          let d = ((i - x) ** 2 + (j - y) ** 2) / (2 * sigma * sigma);
          for (let c = 0; c < 3; c++) {
            d += ((albedo[p * 3 + c] - albedo[q * 3 + c]) / 0.1) ** 2;
            d += ((normal[p * 3 + c] - normal[q * 3 + c]) / 0.25) ** 2;
          }
          d += ((depth[p] - depth[q]) / (0.05 * Math.max(0.01, depth[p]))) ** 2;
          const w = Math.exp(-d);
          total += w;
          for (let c = 0; c < 3; c++) sum[c] += w * beauty[q * 3 + c];
        }
      }
      for (let c = 0; c < 3; c++) out[p * 3 + c] = sum[c] / total;
    }
  }
  return out;
}
