import {
  applyStrip,
  dampen,
  decibelsToGain,
  limit,
  limitAhead,
  measureLoudness,
  mixMusic,
  ringOut,
  silence,
  type Sound,
} from '../audio/index.ts';
import { MUSIC_PROPERTIES, MUSIC_THING, type PromoDocument } from '../document/index.ts';
import { beatsBetween, framesToSamples, framesToSeconds, type BeatGrid, type FrameRate } from '../time/index.ts';
import { placedClips, promoLength } from './cut.ts';
import { editedMusic, editedSeconds } from './music-time.ts';
import { sampledCurve } from './sampled-curve.ts';
import { layDownClips, type HeardSource } from './clip-sounds.ts';
import { layDownSounds } from './sounds.ts';

/** Highest peak of a promo that is mixed or brought to a loudness, in dBTP. */
const HIGHEST_PEAK = -1;
/** Decibels by which peaks are limited at most when it is. */
const LIMITED = 6;
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

/** The promo's sound, and the rows of the mixer that it is made of, as they are heard in it. */
export interface SoundStems {
  music: Sound;
  sounds: Sound;
  out: Sound;
}

/**
 * The promo's sound, exactly as long as its pictures; silence when it has none. Preview and file both play this. Brought to a
 * loudness it may stay quieter: no peak goes above -1 dBTP, and none is limited by more than 6 dB for it.
 * @param files sound files that its sounds are of, by hash; those that are missing are not heard. @param cuts other cuts that it shows, by
 * their ids; the files of their music and sounds are among `files`.
 */
export function soundTrack(
  promo: PromoDocument,
  rate: FrameRate,
  music: Sound | null,
  sampleRate: number,
  files: ReadonlyMap<string, Sound> = new Map(),
  cuts: CutsById = {},
): Sound {
  return soundStems(promo, rate, music, sampleRate, files, cuts).out;
}

type CutsById = Readonly<Record<string, PromoDocument>>;

/** The same with the rows that it is mixed from, before all that is done to both together. */
export function soundStems(
  promo: PromoDocument,
  rate: FrameRate,
  music: Sound | null,
  sampleRate: number,
  files: ReadonlyMap<string, Sound> = new Map(),
  cuts: CutsById = {},
): SoundStems {
  return stemsWithin([], promo, rate, music, sampleRate, files, cuts);
}

/** @param within cuts that this one is heard in: what shows itself is not heard in itself. */
function stemsWithin(
  within: readonly PromoDocument[],
  promo: PromoDocument,
  rate: FrameRate,
  music: Sound | null,
  sampleRate: number,
  files: ReadonlyMap<string, Sound>,
  cuts: CutsById,
): SoundStems {
  const { mixer } = promo;
  const samples = framesToSamples(promoLength(promo), rate, sampleRate);
  const bed = promo.music && music ? musicBed(promo, rate, music, samples, sampleRate) : silence(samples, sampleRate);
  const { sounds, heard: own } = layDownSounds(bed, promo, rate, files);
  const around = [...within, promo];
  // A cut that is shown several times is mixed once.
  const mixed = new Map<string, Sound>();
  const heard = layDownClips(sounds, promo, rate, sourceOf) || own;
  function sourceOf(id: string): HeardSource | null {
    const footage = promo.footage.find((f) => f.id === id);
    const file = footage?.sound ? files.get(footage.sound) : undefined;
    if (footage) return file ? { sound: file, rate: footage.rate } : null;
    const cut = cuts[id];
    if (!cut || around.includes(cut)) return null;
    const bed = cut.music ? (files.get(cut.music.asset) ?? null) : null;
    const sound = mixed.get(id) ?? stemsWithin(around, cut, rate, bed, sampleRate, files, cuts).out;
    mixed.set(id, sound);
    return { sound, rate: rate.num / rate.den };
  }
  if (mixer) {
    applyStrip(bed, mixer.music);
    applyStrip(sounds, mixer.sounds);
  }
  const out: Sound = { ...bed, left: bed.left.slice(), right: bed.right.slice() };
  if (heard) for (const side of ['left', 'right'] as const) sounds[side].forEach((v, i) => (out[side][i] += v));
  if (mixer) applyStrip(out, mixer.all);
  if (heard || mixer) limitAhead(out, HIGHEST_PEAK);
  if (promo.music?.loudness !== undefined) bringTo(out, promo.music.loudness);
  return { music: bed, sounds, out };
}

/** The last bed made of each piece of music: what is changed of the sounds over it leaves it as it is. */
const beds = new WeakMap<Sound, { key: string; bed: Sound }>();

/** The music as it lies below all sounds; the caller's own to change. */
function musicBed(promo: PromoDocument, rate: FrameRate, file: Sound, samples: number, sampleRate: number): Sound {
  const use = promo.music!;
  const music = editedMusic(file, use);
  const { ring = 0, trim, gain, fadeIn, fadeOut, lowPass } = use;
  const stop = ring > 0 ? Math.round(ringStart(promo, rate) * sampleRate) : 0;
  const tracks = promo.tracks.filter((t) => t.thing === MUSIC_THING);
  const key = JSON.stringify([
    trim,
    gain,
    fadeIn,
    fadeOut,
    ring,
    stop,
    samples,
    sampleRate,
    lowPass,
    tracks,
    promo.eases,
  ]);
  let known = beds.get(music);
  if (known?.key !== key) {
    const time = { rate, sampleRate, samples, lead: 0 };
    const curveOf = (path: keyof typeof MUSIC_PROPERTIES): ReturnType<typeof sampledCurve> =>
      sampledCurve(promo, MUSIC_THING, path, MUSIC_PROPERTIES[path], time);
    const gains = curveOf('gain');
    const own = { ...use, ...(ring > 0 && { fadeOut: 0 }), ...(gains && { gain: 0 }) };
    const bed = mixMusic(music, own, samples, sampleRate);
    if (gains)
      for (const channel of [bed.left, bed.right])
        for (let i = 0; i < samples; i++) channel[i] = limit(channel[i] * decibelsToGain(gains(i)));
    const corners = curveOf('lowPass') ?? (lowPass ? () => lowPass : null);
    if (corners) dampen(bed, corners);
    if (ring > 0) ringOut(bed, stop, ring);
    beds.set(music, (known = { key, bed }));
  }
  const { bed } = known;
  return { ...bed, left: bed.left.slice(), right: bed.right.slice() };
}

/** Brings a sound to a loudness in LUFS, its peaks limited, or as near as they can be limited without being heard. */
function bringTo(sound: Sound, loudness: number): void {
  const { integrated, truePeak } = measureLoudness(sound);
  if (!Number.isFinite(integrated)) return;
  const most = HIGHEST_PEAK - truePeak + LIMITED;
  const raise = (decibels: number): void => {
    const gain = decibelsToGain(decibels);
    for (const channel of [sound.left, sound.right]) for (let i = 0; i < channel.length; i++) channel[i] *= gain;
  };
  let raised = Math.min(loudness - integrated, most);
  raise(raised);
  if (truePeak + raised <= HIGHEST_PEAK) return;
  limitAhead(sound, HIGHEST_PEAK);
  // What the limiter took is given back.
  for (let again = 0; again < 2; again++) {
    const lost = Math.min(loudness - measureLoudness(sound).integrated, most - raised);
    if (lost <= 0.05) return;
    raised += lost;
    raise(lost);
    limitAhead(sound, HIGHEST_PEAK);
  }
}

/** The music's beats on the promo's time line; null when its tempo is not known. */
export function promoBeats(promo: PromoDocument): BeatGrid | null {
  const { music } = promo;
  if (!music || music.tempo <= 0) return null;
  const { beats, beatsPerBar, downbeat, trim, stretch = 1 } = music;
  const tempo = music.tempo / stretch;
  const firstBeat = music.firstBeat * stretch - trim;
  if (beats.length === 0) return { tempo, firstBeat, beatsPerBar, times: [], downbeat };
  const times = beats
    .flatMap((beat, i) =>
      editedSeconds(music, beat).map((at) => ({ at: at - trim, bar: (i - downbeat) % beatsPerBar === 0 })),
    )
    .sort((a, b) => a.at - b.at);
  const first = times.findIndex(({ bar }) => bar);
  return { tempo, firstBeat, beatsPerBar, times: times.map(({ at }) => at), downbeat: Math.max(0, first) };
}

/**
 * Seconds into the music, as it is edited, at a shot's first frame: as it was set by hand, else where the first clip of one of its takes has
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
