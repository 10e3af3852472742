import { cos, sin } from '../../maths/index.ts';

/**
 * A complex Fourier transform of 2^n values in place (Cooley and Tukey 1965, radix 2), its tables made once. Two real signals
 * are transformed at once by handing one as real and one as imaginary parts.
 */
export class Fft {
  private readonly cosines: Float64Array;
  private readonly sines: Float64Array;
  private readonly reversed: Uint32Array;

  constructor(readonly size: number) {
    this.cosines = Float64Array.from({ length: size / 2 }, (_, i) => cos((2 * Math.PI * i) / size));
    this.sines = Float64Array.from({ length: size / 2 }, (_, i) => -sin((2 * Math.PI * i) / size));
    this.reversed = new Uint32Array(size);
    for (let i = 1; i < size; i++) this.reversed[i] = (this.reversed[i >> 1] >> 1) | (i & 1 ? size >> 1 : 0);
  }

  transform(re: Float64Array, im: Float64Array): void {
    const { size, cosines, sines, reversed } = this;
    for (let i = 0; i < size; i++) {
      const j = reversed[i];
      if (j <= i) continue;
      const [r, m] = [re[i], im[i]];
      re[i] = re[j];
      im[i] = im[j];
      re[j] = r;
      im[j] = m;
    }
    for (let half = 1; half < size; half *= 2) {
      const step = size / (2 * half);
      for (let at = 0; at < size; at += 2 * half)
        for (let k = 0; k < half; k++) {
          const [c, s] = [cosines[k * step], sines[k * step]];
          const [i, j] = [at + k, at + k + half];
          const r = re[j] * c - im[j] * s;
          const m = re[j] * s + im[j] * c;
          re[j] = re[i] - r;
          im[j] = im[i] - m;
          re[i] += r;
          im[i] += m;
        }
    }
  }
}
