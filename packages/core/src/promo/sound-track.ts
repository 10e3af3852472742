import { decibelsToGain, measureLoudness, mixMusic, ringOut, silence, type Sound } from '../audio/index.ts';
import type { PromoDocument } from '../document/index.ts';
import { beatsBetween, framesToSamples, framesToSeconds, type BeatGrid, type FrameRate } from '../time/index.ts';
import { placedClips, promoLength } from './cut.ts';
import { addSoundsTo, limitPeaks } from './sounds.ts';

/** Highest peak of a promo that is brought to a loudness, in dBTP. */
const HIGHEST_PEAK = -1;
/** How long the last hit is heard before it rings out, in seconds. */
const HIT = 0.12;

/** Where the music stops and rings out: just after the beat that is nearest to as long before the end as it rings. */
export function ringStart(promo: PromoDocument, rate: FrameRate): number {
  const end = framesToSeconds(promoLength(promo), rate);
  const wanted = end - (promo.music?.ring ?? 0);
  const grid = promoBeats(promo);
  if (!grid) return Math.max(0, wanted);
  const beats = beatsBetween(grid, rate, 0, promoLength(promo)).map(({ frame }) => framesToSeconds(frame, rate));
  const near = beats.reduce(
    (best, beat) => (Math.abs(beat - wanted) < Math.abs(best - wanted) ? beat : best),
    Infinity,
  );
  // A beat so far away is not the one that was meant.
  return Math.max(0, Math.abs(near - wanted) < 60 / grid.tempo ? near + HIT : wanted);
}

/**
 * The promo's sound, exactly as long as its pictures; silence when it has none. Preview and file both play this. Brought to a
 * loudness it may stay quieter: no peak goes above -1 dBTP.
 * @param files sound files that its sounds are of, by hash; those that are missing are not heard.
 */
export function soundTrack(
  promo: PromoDocument,
  rate: FrameRate,
  music: Sound | null,
  sampleRate: number,
  files: ReadonlyMap<string, Sound> = new Map(),
): Sound {
  const samples = framesToSamples(promoLength(promo), rate, sampleRate);
  const sound = promo.music && music ? musicBed(promo, rate, music, samples, sampleRate) : silence(samples, sampleRate);
  if (addSoundsTo(sound, promo, rate, files)) limitPeaks(sound);
  if (promo.music?.loudness !== undefined) bringTo(sound, promo.music.loudness);
  return sound;
}

/** The last bed made of each piece of music: what is changed of the sounds over it leaves it as it is. */
const beds = new WeakMap<Sound, { key: string; bed: Sound }>();

/** The music as it lies below all sounds; the caller's own to change. */
function musicBed(promo: PromoDocument, rate: FrameRate, music: Sound, samples: number, sampleRate: number): Sound {
  const use = promo.music!;
  const { ring = 0, trim, gain, fadeIn, fadeOut } = use;
  const stop = ring > 0 ? Math.round(ringStart(promo, rate) * sampleRate) : 0;
  const key = JSON.stringify([trim, gain, fadeIn, fadeOut, ring, stop, samples, sampleRate]);
  let known = beds.get(music);
  if (known?.key !== key) {
    const bed = mixMusic(music, ring > 0 ? { ...use, fadeOut: 0 } : use, samples, sampleRate);
    if (ring > 0) ringOut(bed, stop, ring);
    beds.set(music, (known = { key, bed }));
  }
  const { bed } = known;
  return { ...bed, left: bed.left.slice(), right: bed.right.slice() };
}

/** Brings a sound to a loudness in LUFS, or as near as its highest peak allows. */
function bringTo(sound: Sound, loudness: number): void {
  const { integrated, truePeak } = measureLoudness(sound);
  if (!Number.isFinite(integrated)) return;
  const gain = decibelsToGain(Math.min(loudness - integrated, HIGHEST_PEAK - truePeak));
  for (const channel of [sound.left, sound.right]) for (let i = 0; i < channel.length; i++) channel[i] *= gain;
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
