import { grader } from '@tender-orbit/core/composite';
import type { LayerOf } from '@tender-orbit/core/document';
import { encodeSrgb, pbrNeutral } from '@tender-orbit/core/picture';

/** The compositor's work as plain loops do it: what the kernel is measured against. */

/** A Gaussian of a narrow width, across and down, four floats a pixel. */
export function plainSmooth(data: Float32Array, width: number, height: number, weights: Float32Array): void {
  const middle = new Float32Array(data.length);
  const reach = weights.length - 1;
  const pass = (from: Float32Array, to: Float32Array, lines: number, count: number, line: number, step: number) => {
    for (let l = 0; l < lines; l++)
      for (let i = 0; i < count; i++) {
        const at = l * line + i * step;
        for (let c = 0; c < 4; c++) {
          let sum = from[at + c] * weights[0];
          for (let k = 1; k <= reach; k++) {
            const a = l * line + Math.max(0, i - k) * step + c;
            const b = l * line + Math.min(count - 1, i + k) * step + c;
            sum += weights[k] * (from[a] + from[b]);
          }
          to[at + c] = sum;
        }
      }
  };
  pass(data, middle, height, width, width * 4, 4);
  pass(middle, data, width, height, 4, width * 4);
}

export function plainGrade(data: Float32Array, grade: LayerOf<'grade'>): void {
  const run = grader(grade);
  for (let i = 0; i < data.length; i += 4) run(data, i);
}

/** Vignette, and light through the neutral transform as sRGB. */
export function plainView(data: Float32Array, width: number, height: number): Uint8ClampedArray {
  const out = new Uint8ClampedArray(data.length);
  const rgb = [0, 0, 0];
  const corner = (width * width + height * height) / 4;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      const [dx, dy] = [x + 0.5 - width / 2, y + 0.5 - height / 2];
      const cos2 = 1 / (1 + (dx * dx + dy * dy) / corner);
      const k = 1 + (cos2 * cos2 - 1) * 0.3;
      for (let c = 0; c < 3; c++) rgb[c] = data[i + c] * k;
      pbrNeutral(rgb);
      for (let c = 0; c < 3; c++) out[i + c] = encodeSrgb(rgb[c]);
      out[i + 3] = 255;
    }
  return out;
}
