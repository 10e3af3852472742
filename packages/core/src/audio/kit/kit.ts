import { pow } from '../../maths/index.ts';
import { addRoom, normalise } from '../instruments.ts';
import { SAMPLE_RATE, type Sound } from '../sound.ts';
import { glassTap, hit, riser, roomTone, shimmer, smokePuff, subDrop, whoosh, type Voice } from './voices.ts';

/** Sounds that are made by code. */
export const KIT_KINDS = [
  ...(['whoosh', 'riser', 'hit', 'sub-drop'] as const),
  ...(['shimmer', 'glass-tap', 'smoke-puff', 'room-tone'] as const),
];
export type KitKind = (typeof KIT_KINDS)[number];

/** How long a sound of the kit is, in seconds. */
export const KIT_SECONDS = { least: 0.05, most: 20 };

export interface KitTraits {
  name: string;
  /** What it is for. */
  use: string;
  /** Seconds that it usually lasts. */
  seconds: number;
  /** Share of its length at which its accent falls: what is put on a beat. */
  accent: number;
  /** Highest sample. */
  peak: number;
  /** Of a hall around it, 0..1. */
  room: number;
  voice: Voice;
}

export const SOUND_KIT: Readonly<Record<KitKind, KitTraits>> = {
  whoosh: {
    ...{ name: 'Whoosh', use: 'Something goes past, or the picture changes', seconds: 0.9, accent: 0.6 },
    ...{ peak: 0.6, room: 0.15, voice: whoosh },
  },
  riser: {
    ...{ name: 'Riser', use: 'Leads up to a reveal', seconds: 2.5, accent: 0.97 },
    ...{ peak: 0.55, room: 0.2, voice: riser },
  },
  hit: {
    ...{ name: 'Hit', use: 'A reveal, or the first beat of a part', seconds: 1.6, accent: 0 },
    ...{ peak: 0.85, room: 0.3, voice: hit },
  },
  'sub-drop': {
    ...{ name: 'Sub drop', use: 'Weight under a reveal', seconds: 1.8, accent: 0 },
    ...{ peak: 0.7, room: 0, voice: subDrop },
  },
  shimmer: {
    ...{ name: 'Shimmer', use: 'Light runs over the product', seconds: 1.8, accent: 0.4 },
    ...{ peak: 0.35, room: 0.5, voice: shimmer },
  },
  'glass-tap': {
    ...{ name: 'Glass tap', use: 'Glass is touched, or a title lands', seconds: 0.8, accent: 0 },
    ...{ peak: 0.4, room: 0.25, voice: glassTap },
  },
  'smoke-puff': {
    ...{ name: 'Smoke puff', use: 'Smoke comes or goes', seconds: 1.4, accent: 0.2 },
    ...{ peak: 0.4, room: 0.25, voice: smokePuff },
  },
  'room-tone': {
    ...{ name: 'Room tone', use: 'So that silence is not dead', seconds: 6, accent: 0 },
    ...{ peak: 0.03, room: 0, voice: roomTone },
  },
};

/** Which sound of the kit, and how. */
export interface KitSound {
  kind: KitKind;
  seconds: number;
  /** Semitones. */
  pitch: number;
  /** 0 airy, 1 heavy. */
  weight: number;
  seed: number;
}

/** Where the sides of a sound differ in their chance: a seed as far apart as no person chooses. */
const OTHER_SIDE = 500_009;

/** A sound of the kit in stereo, the same samples for the same numbers everywhere. */
export function makeKitSound({ kind, seconds, pitch, weight, seed }: KitSound, sampleRate = SAMPLE_RATE): Sound {
  const { accent, peak, room, voice } = SOUND_KIT[kind];
  const samples = Math.max(1, Math.round(seconds * sampleRate));
  const of = { sampleRate, samples, pitch: pow(2, pitch / 12), weight, accent };
  const sound: Sound = {
    sampleRate,
    left: voice({ ...of, seed }),
    right: voice({ ...of, seed: seed + OTHER_SIDE }),
  };
  if (room > 0) addRoom(sound, room);
  fadeEnd(sound);
  normalise(sound, peak);
  return sound;
}

/** A hall that is cut off clicks. */
function fadeEnd({ left, right, sampleRate }: Sound): void {
  const soft = Math.min(left.length >> 2, Math.round(0.03 * sampleRate));
  for (const channel of [left, right]) for (let i = 0; i < soft; i++) channel[channel.length - 1 - i] *= i / soft;
}
