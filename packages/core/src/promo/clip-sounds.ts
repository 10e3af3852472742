import { decibelsToGain, peaks, readAlong, silence, stretchAlong, type Sound } from '../audio/index.ts';
import type { Clip, OwnSound, PromoDocument, PromoOverlay } from '../document/index.ts';
import { cos, sin } from '../maths/index.ts';
import { framesToSamples, secondsToFrames, type FrameRate } from '../time/index.ts';
import { handlesOf, placedClips, transitionSpan } from './cut.ts';
import { framesPlayed } from './pace.ts';

/** Sound of what clips and overlays show, and its frames a second. */
export interface HeardSource {
  sound: Sound;
  rate: number;
}

/** Seconds over which a sound that is cut goes on and off. */
const SOFT = 0.005;
/** Speeds below which what stands all but still fades out: it would drone. */
const STILL = 0.1;
/** Samples between two places that are worked out. */
const EVERY = 64;

/** Something that is heard for a while. */
interface Heard extends OwnSound {
  id: string;
  /** Frames of the promo in which it is heard. */
  from: number;
  to: number;
  /** Frames over which it comes and goes, in transitions. */
  rise: number;
  fall: number;
  /** The frame of its source, and parts of it, that is heard at a frame of the promo. */
  at: (frame: number) => number;
}

function heardClips(promo: PromoDocument): Heard[] {
  const placed = placedClips(promo);
  return placed.flatMap(({ clip, from }, n) => {
    if (!clip.sound || clip.off) return [];
    const { before, after } = handlesOf(promo, clip.id);
    const next = placed[n + 1];
    const rise = n > 0 ? transitionSpan(placed[n - 1].clip, clip, from) : null;
    const fall = next ? transitionSpan(clip, next.clip, next.from) : null;
    return [
      {
        ...clip.sound,
        ...{ id: clip.take, from: from - before, to: from + clip.length + after },
        ...{ rise: rise?.frames ?? 0, fall: fall?.frames ?? 0 },
        at: (frame: number) => sourceTime(clip, frame - from),
      },
    ];
  });
}

/** Where in its source a clip's sound is: played the other way it goes back from the end of what is played. */
function sourceTime(clip: Clip, at: number): number {
  const played = framesPlayed(clip, at);
  return clip.start + (clip.pace?.reverse ? framesPlayed(clip) - played : played);
}

const overlayTime = ({ first, speed }: Pick<PromoOverlay, 'first' | 'speed'>, at: number): number => first + at * speed;

const heardOverlays = ({ overlays }: PromoDocument): Heard[] =>
  overlays.flatMap(({ sound, footage, start, length, first, speed, arrive, leave }) =>
    sound
      ? [
          {
            ...sound,
            ...{
              id: footage,
              from: start,
              to: start + length,
              at: (frame: number) => overlayTime({ first, speed }, frame - start),
            },
            ...{ rise: Math.min(length, arrive.frames), fall: Math.min(length, leave.frames) },
          },
        ]
      : [],
  );

/** Ids of what clips and overlays are heard of, each once. */
export const heardIds = (promo: PromoDocument): string[] => [
  ...new Set([...heardClips(promo), ...heardOverlays(promo)].map(({ id }) => id)),
];

/**
 * How loud what a clip or an overlay is heard of is along it, 0..1, as it is in its file: its waveform, at the speed of its picture.
 * @param source of what it shows. @param steps of equal length. @returns null where it is not heard.
 */
export function ownPeaks(
  promo: PromoDocument,
  id: string,
  { sound, rate }: HeardSource,
  steps: number,
): Float32Array | null {
  const clip = promo.clips.find((c) => c.id === id);
  const overlay = promo.overlays.find((o) => o.id === id);
  const heard = clip ?? overlay;
  if (!heard?.sound) return null;
  const secondsAt = (share: number): number => {
    const at = share * heard.length;
    return (clip ? sourceTime(clip, at) : overlayTime(overlay!, at)) / rate;
  };
  return Float32Array.from({ length: steps }, (_, n) => {
    const [from, to] = [secondsAt(n / steps), secondsAt((n + 1) / steps)];
    return peaks(sound, Math.min(from, to), Math.max(from, to), 1)[0];
  });
}

/**
 * Adds the sounds of clips and overlays to a sound as long as the promo: at the speed of their pictures, at their own pitch or with that
 * speed; in transitions they come and go with equal power.
 * @param sourceOf null for what has no sound. @returns whether any is heard.
 */
export function layDownClips(
  into: Sound,
  promo: PromoDocument,
  rate: FrameRate,
  sourceOf: (id: string) => HeardSource | null,
): boolean {
  let any = false;
  for (const heard of [...heardClips(promo), ...heardOverlays(promo)]) {
    const source = sourceOf(heard.id);
    if (!source) continue;
    any = true;
    add(into, heard, rate, source);
  }
  return any;
}

function add(into: Sound, heard: Heard, rate: FrameRate, source: HeardSource): void {
  const { sampleRate } = into;
  const sampleOf = (frame: number): number => framesToSamples(frame, rate, sampleRate);
  const begins = sampleOf(heard.from);
  const samples = sampleOf(heard.to) - begins;
  if (samples <= 0) return;
  const perSource = sampleRate / source.rate;
  const places = Float64Array.from(
    { length: Math.ceil(samples / EVERY) + 2 },
    (_, n) => heard.at(secondsToFrames((begins + n * EVERY) / sampleRate, rate)) * perSource,
  );
  const placeOf = (i: number): number => {
    const n = Math.min(places.length - 2, Math.floor(i / EVERY));
    return places[n] + (places[n + 1] - places[n]) * (i / EVERY - n);
  };
  const made = played(source.sound, samples, placeOf, heard.pitch);
  const gain = decibelsToGain(heard.gain);
  const shareOf = (frames: number): number => Math.max(SOFT * sampleRate, sampleOf(frames));
  const [rise, fall] = [shareOf(heard.rise), shareOf(heard.fall)];
  const end = Math.min(into.left.length, begins + samples);
  for (let to = Math.max(0, begins); to < end; to++) {
    const i = to - begins;
    let now = gain;
    if (i < rise) now *= sin(((i / rise) * Math.PI) / 2);
    if (samples - 1 - i < fall) now *= cos(((1 - (samples - 1 - i) / fall) * Math.PI) / 2);
    const speed = Math.abs(placeOf(i + 1) - placeOf(i));
    if (speed < STILL) now *= speed / STILL;
    into.left[to] += made.left[i] * now;
    into.right[to] += made.right[i] * now;
  }
}

/** So many samples of a sound, read along its places. */
function played(sound: Sound, samples: number, placeOf: (sample: number) => number, pitch: OwnSound['pitch']): Sound {
  const [first, last] = [placeOf(0), placeOf(samples)];
  let even = true;
  for (let i = 0; i <= samples && even; i += EVERY) even = Math.abs(placeOf(i) - first - i) < 1;
  if (even) {
    // As it is, to the sample.
    const out = silence(samples, sound.sampleRate);
    const from = Math.round(first);
    for (const side of ['left', 'right'] as const)
      for (let i = Math.max(0, -from); i < samples && from + i < sound.left.length; i++)
        out[side][i] = sound[side][from + i];
    return out;
  }
  if (pitch === 'follows') return readAlong(sound, samples, placeOf);
  if (last >= first) return stretchAlong(sound, samples, placeOf);
  const count = sound.left.length;
  const back: Sound = { ...sound, left: sound.left.slice().reverse(), right: sound.right.slice().reverse() };
  return stretchAlong(back, samples, (i) => count - placeOf(i));
}
