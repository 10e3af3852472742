import { grader, type Cube, type Place } from '@tender-orbit/core/composite';
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

/** Colours through a lattice by tetrahedra. */
export function plainCube(data: Float32Array, { size, data: table }: Cube): void {
  const steps = [3, 3 * size, 3 * size * size];
  const part = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4) {
    let at = 0;
    for (let c = 0; c < 3; c++) {
      const t = Math.min(size - 1, Math.max(0, (data[i + c] / data[i + 3]) * (size - 1)));
      const whole = Math.min(size - 2, Math.floor(t));
      part[c] = t - whole;
      at += whole * steps[c];
    }
    const [r, g, b] = part;
    const first = r >= g ? (r >= b ? 0 : 2) : g >= b ? 1 : 2;
    const last = r < g ? (r < b ? 0 : 2) : g < b ? 1 : 2;
    const middle = 3 - first - last;
    const [p, q] = [at + steps[first], at + steps[first] + steps[middle]];
    const end = q + steps[last];
    for (let c = 0; c < 3; c++)
      data[i + c] =
        data[i + 3] *
        (table[at + c] * (1 - part[first]) +
          table[p + c] * (part[first] - part[middle]) +
          table[q + c] * (part[middle] - part[last]) +
          table[end + c] * part[last]);
  }
}

/** A card in space, bicubic without halved versions. */
export function plainPin(from: Float32Array, to: Float32Array, width: number, height: number, p: Place): void {
  const weights = (t: number): number[] => [
    (-t * t * t + 2 * t * t - t) / 2,
    (3 * t * t * t - 5 * t * t + 2) / 2,
    (-3 * t * t * t + 4 * t * t + t) / 2,
    (t * t * t - t * t) / 2,
  ];
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o += 4) {
      const q = p.g * (x + 0.5) + p.h * (y + 0.5) + p.i;
      const s = ((p.a * (x + 0.5) + p.b * (y + 0.5) + p.c) / q) * height + width / 2 - 0.5;
      const t = height / 2 - 0.5 - ((p.d * (x + 0.5) + p.e * (y + 0.5) + p.f) / q) * height;
      if (s < 0 || t < 0 || s > width - 1 || t > height - 1) continue;
      const [i, j] = [Math.floor(s), Math.floor(t)];
      const [u, v] = [weights(s - i), weights(t - j)];
      for (let c = 0; c < 4; c++) {
        let sum = 0;
        for (let n = 0; n < 4; n++) {
          const row = Math.min(height - 1, Math.max(0, j + n - 1)) * width;
          for (let m = 0; m < 4; m++)
            sum += v[n] * u[m] * from[(row + Math.min(width - 1, Math.max(0, i + m - 1))) * 4 + c];
        }
        to[o + c] = Math.max(0, sum);
      }
    }
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
