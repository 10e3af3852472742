import type { PromoDocument } from '../document/index.ts';
import { compileCurve } from '../motion/index.ts';
import { secondsToFrames, type FrameRate } from '../time/index.ts';

/** Samples between two values of a key's curve. */
const SET_EVERY = 32;

/** How keys of a sound lie in it: `lead` seconds before the frame that they count from its first sample is heard. */
export interface SampledTime {
  rate: FrameRate;
  sampleRate: number;
  samples: number;
  lead: number;
}

/** A keyed value by the sample; null where it is not keyed. */
export function sampledCurve(
  promo: Pick<PromoDocument, 'tracks' | 'eases'>,
  thing: string,
  path: string,
  property: Parameters<typeof compileCurve>[1],
  { rate, sampleRate, samples, lead }: SampledTime,
): ((sample: number) => number) | null {
  const track = promo.tracks.find((t) => t.thing === thing && t.path === path && t.keys.length > 0);
  const curve = track && compileCurve(track, property, promo.eases);
  if (!curve) return null;
  const values = Float32Array.from({ length: Math.ceil(samples / SET_EVERY) + 1 }, (_, n) =>
    Number(curve.at(secondsToFrames((n * SET_EVERY) / sampleRate - lead, rate))),
  );
  return (sample) => {
    const n = Math.floor(sample / SET_EVERY);
    return values[n] + ((values[n + 1] ?? values[n]) - values[n]) * (sample / SET_EVERY - n);
  };
}
