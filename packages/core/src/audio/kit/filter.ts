import { tan } from '../../maths/index.ts';
import type { Sound } from '../sound.ts';

/** Samples between two settings of a filter that glides: no step is heard. */
export const SETTING_EVERY = 32;

/** What a state variable filter gives at a sample. */
export interface Filtered {
  low: number;
  band: number;
  high: number;
}

/**
 * A state variable filter whose corner may glide (Zavalishin, The Art of VA Filter Design, 4.4: trapezoidal integrators, stable at
 * any speed of change).
 */
export class GlidingFilter {
  private readonly out: Filtered = { low: 0, band: 0, high: 0 };
  private g = 0;
  private k = 1;
  private norm = 1;
  private s1 = 0;
  private s2 = 0;

  constructor(private readonly sampleRate: number) {}

  /** @param frequency of the corner in Hz, kept below half the sample rate. @param q 0.5 soft, 10 ringing. */
  set(frequency: number, q: number): void {
    const angle = Math.PI * Math.min(0.45, Math.max(1e-4, frequency / this.sampleRate));
    this.g = tan(angle);
    this.k = 1 / q;
    this.norm = 1 / (1 + this.g * (this.g + this.k));
  }

  /** The next sample; the object is the same each time. */
  next(input: number): Filtered {
    const { g, k, out } = this;
    out.high = (input - (k + g) * this.s1 - this.s2) * this.norm;
    out.band = g * out.high + this.s1;
    out.low = g * out.band + this.s2;
    this.s1 = g * out.high + out.band;
    this.s2 = g * out.band + out.low;
    // At unit gain in its middle, however narrow it is.
    out.band *= k;
    return out;
  }
}

/** Dampens what lies above a corner that may glide, Hz by the sample. Changes the sound. */
export function dampen({ left, right, sampleRate }: Sound, corner: (sample: number) => number): void {
  const filters = [new GlidingFilter(sampleRate), new GlidingFilter(sampleRate)];
  for (let i = 0; i < left.length; i++) {
    if (i % SETTING_EVERY === 0) for (const filter of filters) filter.set(corner(i), Math.SQRT1_2);
    left[i] = filters[0].next(left[i]).low;
    right[i] = filters[1].next(right[i]).low;
  }
}
