import { cos, sin } from '../maths/index.ts';
import { silence, type Sound } from './sound.ts';

/** Samples to each side that a value is made of, and entries of the table between two of them. */
const TAPS = 12;
const ENTRIES = 256;

/** A sinc under a Hann window, by the distance in parts of a sample. */
let table: Float32Array | null = null;
const windowed = (): Float32Array =>
  (table ??= Float32Array.from({ length: TAPS * ENTRIES + 2 }, (_, i) => {
    const x = i / ENTRIES;
    if (x >= TAPS) return 0;
    return x === 0 ? 1 : ((sin(Math.PI * x) / (Math.PI * x)) * (1 + cos((Math.PI * x) / TAPS))) / 2;
  }));

/**
 * A sound read at other places than its samples': its pitch goes up where they lie farther apart. What would be too high for the sample
 * rate then is left out (band-limited interpolation, Smith and Gossett 1984).
 * @param placeOf the place in the sound, in samples and parts of them, of each sample that is made.
 */
export function readAlong(sound: Sound, samples: number, placeOf: (sample: number) => number): Sound {
  const out = silence(samples, sound.sampleRate);
  const { left, right } = sound;
  const weights = windowed();
  let place = placeOf(0);
  for (let i = 0; i < samples; i++) {
    const next = placeOf(i + 1);
    // Samples that are passed by at once are all heard.
    const wide = Math.max(1, Math.abs(next - place));
    const reach = TAPS * wide;
    const [first, last] = [Math.max(0, Math.ceil(place - reach)), Math.min(left.length - 1, Math.floor(place + reach))];
    let [l, r] = [0, 0];
    for (let n = first; n <= last; n++) {
      const entry = (Math.abs(n - place) / wide) * ENTRIES;
      const low = Math.floor(entry);
      const weight = weights[low] + (weights[low + 1] - weights[low]) * (entry - low);
      l += left[n] * weight;
      r += right[n] * weight;
    }
    out.left[i] = l / wide;
    out.right[i] = r / wide;
    place = next;
  }
  return out;
}
