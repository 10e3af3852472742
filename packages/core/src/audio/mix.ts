import { sin, tanh } from '../maths/index.ts';
import { Problem } from '../problem/index.ts';
import { decibelsToGain, silence, type Sound } from './sound.ts';

export interface MusicMix {
  /** Seconds into the music where the mix begins. */
  trim: number;
  /** Decibels. */
  gain: number;
  /** Seconds. */
  fadeIn: number;
  fadeOut: number;
}

/**
 * `samples` samples of `music` from its trim point, with gain and equal-power (sine) fades, soft-limited above -1 dB so
 * that a loud gain never clips hard. Past the music's end there is silence.
 * @throws Problem `audio/rate` when the music is not at `sampleRate`: resample on import, not here.
 */
export function mixMusic(music: Sound, use: MusicMix, samples: number, sampleRate: number): Sound {
  if (music.sampleRate !== sampleRate) {
    throw new Problem(
      'audio/rate',
      `The music is at ${music.sampleRate} Hz, the mix at ${sampleRate} Hz: import the file again.`,
      'Music',
    );
  }
  const out = silence(samples, sampleRate);
  const offset = Math.round(use.trim * sampleRate);
  const gain = decibelsToGain(use.gain);
  const fadeIn = Math.round(use.fadeIn * sampleRate);
  const fadeOut = Math.round(use.fadeOut * sampleRate);
  for (let i = 0; i < samples; i++) {
    const source = offset + i;
    if (source >= music.left.length) break;
    let level = gain;
    if (i < fadeIn) level *= sin(((i / fadeIn) * Math.PI) / 2);
    const left = samples - 1 - i;
    if (left < fadeOut) level *= sin(((left / fadeOut) * Math.PI) / 2);
    out.left[i] = limit(music.left[source] * level);
    out.right[i] = limit(music.right[source] * level);
  }
  return out;
}

const KNEE = 0.891;

/** Straight up to -1 dB, then bent towards full scale. */
export function limit(v: number): number {
  const a = Math.abs(v);
  if (a <= KNEE) return v;
  return Math.sign(v) * (KNEE + (1 - KNEE) * tanh((a - KNEE) / (1 - KNEE)));
}
