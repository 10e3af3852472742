import { Problem } from '../../problem/index.ts';
import type { Sound } from '../sound.ts';
import { activation } from './activation.ts';
import { findBars } from './bars.ts';
import { rightLevel } from './level.ts';
import { onsetsOf, type Onsets } from './onsets.ts';
import { findSections, type MusicSection } from './sections.ts';
import { trackBeats } from './track-beats.ts';

/** What is heard in a piece of music. */
export interface MusicAnalysis {
  /** Seconds of each beat; none in silence, or where nothing beats. */
  beats: number[];
  beatsPerBar: 3 | 4;
  /** Which of the beats is the first that begins a bar. */
  downbeat: number;
  /** The usual tempo, beats a minute; 0 without beats. */
  tempo: number;
  sections: MusicSection[];
  levels: MusicLevels;
}

/** Loudness by register, 0..1 of the loudest. */
export interface MusicLevels {
  /** Values a second. */
  rate: number;
  low: Float32Array;
  middle: Float32Array;
  high: Float32Array;
  all: Float32Array;
}

/** Longest music that is listened to, seconds. */
export const LONGEST_MUSIC = 30 * 60;
/** Level under which a piece counts as silence. */
const SILENT = 1e-4;
/** Beats on each side that an uneven one is drawn towards. */
const AROUND = 4;
/** Seconds that a beat may be from its neighbours' line to be drawn onto it. */
const NEAR = 0.018;

/**
 * Finds beats, bars and sections of music. Beats follow a tempo that drifts or changes; of what could be counted at several paces the
 * one near 116 a minute is taken, unless the drums tell otherwise.
 *
 * @throws Problem `music/too-long` for more than half an hour.
 */
export function analyseMusic(sound: Sound): MusicAnalysis {
  const seconds = sound.left.length / sound.sampleRate;
  if (seconds > LONGEST_MUSIC)
    throw new Problem(
      'music/too-long',
      `Beats are found in at most ${LONGEST_MUSIC / 60} minutes of music, and this is ${Math.round(seconds / 60)} minutes long: cut a part out of it.`,
    );
  const onsets = onsetsOf(sound);
  const levels = levelsOf(onsets);
  const loudest = onsets.level.reduce((most, v) => Math.max(most, v), 0);
  const none = { beats: [], beatsPerBar: 4 as const, downbeat: 0, tempo: 0, sections: [], levels };
  if (loudest < SILENT) return none;
  const activity = activation(onsets);
  const at = rightLevel(trackBeats(activity, onsets.rate).at, onsets, activity);
  if (at.length < 4) return none;
  const bars = findBars(at, onsets);
  const beats = evenly(at.map((t) => t / onsets.rate));
  const spans = beats.slice(1).map((t, i) => t - beats[i]);
  spans.sort((a, b) => a - b);
  const starts = beats.filter((_, i) => i >= bars.downbeat && (i - bars.downbeat) % bars.beatsPerBar === 0);
  return {
    ...bars,
    beats,
    tempo: Number((60 / spans[spans.length >> 1]).toFixed(2)),
    sections: findSections(starts, onsets.level, onsets.rate, seconds),
    levels,
  };
}

/** Instants are found to a hundredth of a second; where they lie near the line through their neighbours they go onto it. */
function evenly(beats: readonly number[]): number[] {
  return beats.map((beat, i) => {
    const [from, to] = [Math.max(0, i - AROUND), Math.min(beats.length - 1, i + AROUND)];
    const n = to - from + 1;
    if (n < 5) return beat;
    let [sx, sy, sxx, sxy] = [0, 0, 0, 0];
    for (let k = from; k <= to; k++) {
      sx += k;
      sy += beats[k];
      sxx += k * k;
      sxy += k * beats[k];
    }
    const slope = (n * sxy - sx * sy) / (n * sxx - sx * sx);
    const line = (k: number): number => sy / n + slope * (k - sx / n);
    for (let k = from; k <= to; k++) if (Math.abs(line(k) - beats[k]) > NEAR) return beat;
    return Number(line(i).toFixed(4));
  });
}

/** Values a second that levels are kept at. */
const LEVEL_RATE = 50;

function levelsOf({ bands, bandCount, level, rate }: Onsets): MusicLevels {
  const every = rate / LEVEL_RATE;
  const count = Math.ceil(level.length / every);
  const parts = { low: [0, 0.22], middle: [0.22, 0.72], high: [0.72, 1] } as const;
  const mean = (from: number, to: number, frame: number): number => {
    let sum = 0;
    for (let b = from; b < to; b++) sum += bands[frame * bandCount + b];
    return sum / Math.max(1, to - from);
  };
  const register = ([from, to]: readonly [number, number]): Float32Array =>
    full(
      Float32Array.from({ length: count }, (_, i) =>
        mean(Math.floor(from * bandCount), Math.floor(to * bandCount), Math.min(level.length - 1, i * every)),
      ),
    );
  return {
    rate: LEVEL_RATE,
    low: register(parts.low),
    middle: register(parts.middle),
    high: register(parts.high),
    all: full(Float32Array.from({ length: count }, (_, i) => level[Math.min(level.length - 1, i * every)])),
  };
}

function full(values: Float32Array): Float32Array {
  const most = values.reduce((a, b) => Math.max(a, b), 0);
  return most > 0 ? values.map((v) => v / most) : values;
}
