import { mixMusic, silence, type Sound } from '../audio/index.ts';
import type { PromoDocument } from '../document/index.ts';
import { framesToSamples, framesToSeconds, type BeatGrid, type FrameRate } from '../time/index.ts';
import { placedClips, promoLength } from './cut.ts';

/** The promo's sound, exactly as long as its pictures; silence when it has no music. Preview and file both play this. */
export function soundTrack(promo: PromoDocument, rate: FrameRate, music: Sound | null, sampleRate: number): Sound {
  const samples = framesToSamples(promoLength(promo), rate, sampleRate);
  return promo.music && music ? mixMusic(music, promo.music, samples, sampleRate) : silence(samples, sampleRate);
}

/** The music's beats on the promo's time line; null when its tempo is not known. */
export function promoBeats(promo: PromoDocument): BeatGrid | null {
  const music = promo.music;
  if (!music || music.tempo <= 0) return null;
  const { tempo, firstBeat, beats, beatsPerBar, downbeat, trim } = music;
  return { tempo, firstBeat: firstBeat - trim, beatsPerBar, times: beats.map((beat) => beat - trim), downbeat };
}

/**
 * Seconds into the music file at a shot's first frame: as it was set by hand, else where the first clip of one of its takes has
 * it; a shot that is in no cut yet begins with the promo's music.
 */
export function musicAtShot(
  promo: PromoDocument,
  byHand: number | null,
  takes: ReadonlySet<string>,
  rate: FrameRate,
): number {
  if (byHand !== null) return byHand;
  const trim = promo.music?.trim ?? 0;
  const placed = placedClips(promo).find((p) => takes.has(p.clip.take));
  return placed ? trim + framesToSeconds(placed.from - placed.clip.start, rate) : trim;
}
