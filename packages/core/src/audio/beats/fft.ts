import { cos, sin } from '../../maths/index.ts';

/**
 * A complex Fourier transform of 2^n values in place (Cooley and Tukey 1965, radix 4), its tables made once. Two real signals
 * are transformed at once by handing one as real and one as imaginary parts.
 */
export class Fft {
  private readonly cosines: Float64Array;
  private readonly sines: Float64Array;
  private readonly reversed: Uint32Array;

  constructor(readonly size: number) {
    this.cosines = new Float64Array(size / 2);
    this.sines = new Float64Array(size / 2);
    for (let i = 0; i < size / 2; i++) {
      this.cosines[i] = cos((2 * Math.PI * i) / size);
      this.sines[i] = -sin((2 * Math.PI * i) / size);
    }
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
    // An odd number of stages begins with one by itself, whose turns are none.
    let half = 1;
    if (log2Odd(size)) {
      for (let i = 0; i < size; i += 2) {
        const [r, m] = [re[i + 1], im[i + 1]];
        re[i + 1] = re[i] - r;
        im[i + 1] = im[i] - m;
        re[i] += r;
        im[i] += m;
      }
      half = 2;
    }
    // Two stages in one go over the values: what the memory gives is what a large transform waits for.
    for (; half < size; half *= 4) {
      const step = size / (4 * half);
      for (let at = 0; at < size; at += 4 * half)
        for (let k = 0; k < half; k++) {
          const c1 = cosines[2 * k * step];
          const s1 = sines[2 * k * step];
          const c2 = cosines[k * step];
          const s2 = sines[k * step];
          const a = at + k;
          const b = a + half;
          const c = b + half;
          const d = c + half;
          let r = re[b] * c1 - im[b] * s1;
          let m = re[b] * s1 + im[b] * c1;
          const [ar, ai] = [re[a] + r, im[a] + m];
          const [br, bi] = [re[a] - r, im[a] - m];
          r = re[d] * c1 - im[d] * s1;
          m = re[d] * s1 + im[d] * c1;
          const [cr, ci] = [re[c] + r, im[c] + m];
          const [dr, di] = [re[c] - r, im[c] - m];
          r = cr * c2 - ci * s2;
          m = cr * s2 + ci * c2;
          re[a] = ar + r;
          im[a] = ai + m;
          re[c] = ar - r;
          im[c] = ai - m;
          // A quarter of a turn further than the pair before.
          r = dr * s2 + di * c2;
          m = di * s2 - dr * c2;
          re[b] = br + r;
          im[b] = bi + m;
          re[d] = br - r;
          im[d] = bi - m;
        }
    }
  }
}

/** Whether a power of two is an odd one. */
const log2Odd = (size: number): boolean => (size & 0x55555555) === 0;
