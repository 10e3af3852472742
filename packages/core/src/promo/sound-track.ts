import { mixMusic, silence, type Sound } from '../audio/index.ts';
import type { PromoDocument } from '../document/index.ts';
import { framesToSamples, type BeatGrid, type FrameRate } from '../time/index.ts';
import { promoLength } from './cut.ts';

/** The promo's sound, exactly as long as its pictures; silence when it has no music. Preview and file both play this. */
export function soundTrack(promo: PromoDocument, rate: FrameRate, music: Sound | null, sampleRate: number): Sound {
  const samples = framesToSamples(promoLength(promo), rate, sampleRate);
  return promo.music && music ? mixMusic(music, promo.music, samples, sampleRate) : silence(samples, sampleRate);
}

/** The music's beats on the promo's time line; null when its tempo is not known. */
export function promoBeats(promo: PromoDocument): BeatGrid | null {
  const music = promo.music;
  if (!music || music.tempo <= 0) return null;
  return { tempo: music.tempo, firstBeat: music.firstBeat - music.trim, beatsPerBar: 4 };
}
