/** Stretches a second of sound is cut into. */
export const PEAKS_PER_SECOND = 100;
const LOUDEST = 255;

/** Finds the peaks of a sound that comes in pieces, so that it never lies in memory whole. */
export class PeakMeter {
  private readonly peaks: number[] = [];
  private peak = 0;
  private filled = 0;
  /** Samples so far, of each channel. */
  samples = 0;

  constructor(private readonly sampleRate: number) {}

  /** @param interleaved samples of two channels in turn, -1..1 */
  push(interleaved: Float32Array): void {
    const stretch = this.sampleRate / PEAKS_PER_SECOND;
    for (let i = 0; i + 1 < interleaved.length; i += 2) {
      this.peak = Math.max(this.peak, Math.abs(interleaved[i]), Math.abs(interleaved[i + 1]));
      this.samples++;
      if (++this.filled < stretch) continue;
      this.end();
    }
  }

  /** One byte a stretch: 255 is full scale, and what is louder. */
  done(): Uint8Array {
    if (this.filled > 0) this.end();
    return Uint8Array.from(this.peaks);
  }

  private end(): void {
    this.peaks.push(Math.min(LOUDEST, Math.round(this.peak * LOUDEST) || 0));
    this.peak = 0;
    this.filled = 0;
  }
}

/** The peaks of `count` equal stretches from `start` to `end` seconds, 0..1, out of a file of peaks. */
export function peaksBetween(file: Uint8Array, start: number, end: number, count: number): Float32Array {
  const out = new Float32Array(count);
  const step = ((end - start) * PEAKS_PER_SECOND) / count;
  for (let i = 0; i < count; i++) {
    const from = start * PEAKS_PER_SECOND + i * step;
    const [a, b] = [Math.max(0, Math.floor(from)), Math.min(file.length, Math.max(from + 1, from + step))];
    for (let s = a; s < b; s++) out[i] = Math.max(out[i], file[s] / LOUDEST);
  }
  return out;
}
