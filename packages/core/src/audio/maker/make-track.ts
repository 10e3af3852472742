import { seeded } from '../../maths/index.ts';
import { addRoom, addVoice, bass, brush, kick, mallet, normalise, noteFrequency, pad, shaker } from '../instruments.ts';
import { SAMPLE_RATE, silence, type Sound } from '../sound.ts';
import { formOf, type Bar, type Energy } from './form.ts';
import { leadVoices, moodOf, scaleNote, triad, type MoodName } from './harmony.ts';
import { motif, sing, type Note } from './melody.ts';
import { clap, hat, lift, pluck, sawBass } from './voices.ts';

/** `heath`: mallets, strings and brushes. `pulse`: plucked and synthetic, with a beat. */
export const MUSIC_STYLES = ['heath', 'pulse'] as const;
export type MusicStyle = (typeof MUSIC_STYLES)[number];

export interface TrackPlan {
  style: MusicStyle;
  mood: MoodName;
  energy: Energy;
  /** Beats per minute, before bars are made to fill the length. */
  tempo: number;
  /** Seconds, of which whole bars make all. */
  seconds: number;
  seed: number;
}

export const TRACK_LIMITS = { tempo: [50, 180], seconds: [4, 180] } as const;

/** A bar of a piece as notes: everything that is heard but drums. */
export interface ScoredBar extends Bar {
  degree: number;
  /** The chord's upper voices, and its bass, as MIDI notes. */
  voices: number[];
  root: number;
  melody: Note[];
}

export interface Score {
  bars: ScoredBar[];
  tempo: number;
  tonic: number;
  scale: readonly number[];
}

/** Seconds for which the last bar rings beyond the piece. */
const RINGS = 2;

/** Writes a piece: form, chords with led voices, bass and a melody of motifs that come again. Seeded; all notes are of its key. */
export function writeScore({ mood: name, energy, tempo, seconds, seed }: TrackPlan): Score {
  const random = seeded(seed);
  const mood = moodOf(name);
  const count = Math.max(2, Math.round((seconds * tempo) / 240));
  const tonic = 48 + Math.floor(random() * 12);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const [turn, other] = [pick(mood.turns), pick(mood.other)];
  const motifs = [motif(seed * 7 + 1, 0.4), motif(seed * 7 + 2, 0.6), motif(seed * 7 + 3, 0.9)];
  let before: number[] | null = null;
  let step = 4;
  const bars = formOf(count, energy, seed).map((bar, i): ScoredBar => {
    const degree = bar.part === 'end' ? 0 : (bar.part === 'other' ? other : turn)[i % 4];
    const chord = triad(tonic, mood.scale, degree);
    const voices = leadVoices(chord, before);
    before = voices;
    let melody: Note[] = [];
    if (bar.part === 'end') melody = [{ at: 0, length: 4, note: scaleNote(tonic + 24, mood.scale, 0), loud: 0.8 }];
    else if (bar.energy > 0.35 && bar.part !== 'intro') {
      // The theme says its motif and answers it; what contrasts is busier.
      const own = bar.part === 'other' ? motifs[2] : motifs[i % 2];
      const sung = sing(own, tonic + 24, mood.scale, degree, step);
      step = sung.end;
      melody = sung.notes;
    }
    return { ...bar, degree, voices, root: chord[0] - 12, melody };
  });
  return { bars, tempo: (count * 240) / seconds, tonic, scale: mood.scale };
}

export interface MadeTrack {
  sound: Sound;
  tempo: number;
  /** Seconds of the beats, four to a bar, from 0 on. */
  beats: number[];
  sections: Array<{ from: number; to: number; kind: Bar['kind'] }>;
}

/** Plays a piece: as long as its bars and the last one's ring. */
export function makeTrack(plan: TrackPlan, sampleRate = SAMPLE_RATE): MadeTrack {
  const score = writeScore(plan);
  const beat = 60 / score.tempo;
  const sound = silence(Math.round((plan.seconds + RINGS) * sampleRate), sampleRate);
  score.bars.forEach((bar, i) => PLAYED[plan.style](sound, bar, i, i * 4 * beat, beat, plan.seed));
  addRoom(sound, plan.style === 'heath' ? 0.2 : 0.14);
  normalise(sound, 0.84);
  const sections: MadeTrack['sections'] = [];
  score.bars.forEach((bar, i) => {
    const [from, to] = [i * 4 * beat, (i + 1) * 4 * beat];
    const last = sections.at(-1);
    if (last?.kind === bar.kind) last.to = to;
    else sections.push({ from, to, kind: bar.kind });
  });
  const beats = Array.from({ length: score.bars.length * 4 }, (_, n) => n * beat);
  return { sound, tempo: score.tempo, beats, sections };
}

type Player = (sound: Sound, bar: ScoredBar, index: number, start: number, beat: number, seed: number) => void;

const PLAYED: Readonly<Record<MusicStyle, Player>> = {
  heath: (sound, bar, index, start, beat, seed) => {
    const { energy, part, voices, root, melody } = bar;
    const end = part === 'end';
    const long = (end ? 5 : 4.15) * beat;
    voices.forEach((note, i) =>
      addVoice(sound, start, long, 0.05 + 0.03 * energy, (i - 1) * 0.5, pad(noteFrequency(note), long)),
    );
    if (energy > 0.25 || end) {
      const at = end ? [0] : energy > 0.6 ? [0, 1.5, 2.5] : [0, 2];
      at.forEach((b, i) => {
        const length = ((at[i + 1] ?? 4) - b) * beat;
        addVoice(sound, start + b * beat, length, 0.28, 0, bass(noteFrequency(root), length));
      });
    }
    for (const { at, length, note, loud } of melody)
      addVoice(
        sound,
        start + at * beat,
        Math.max(1.2, length * beat),
        0.18 * loud * (0.6 + 0.4 * energy),
        -0.18,
        mallet(noteFrequency(note)),
      );
    // Broken chords fill what is full already.
    if (energy > 0.7 && !end)
      for (let eighth = 0; eighth < 8; eighth++)
        addVoice(
          sound,
          start + (eighth / 2) * beat,
          0.9,
          0.09,
          0.4 - 0.1 * (eighth % 3),
          pluck(noteFrequency(voices[eighth % 3] + 12), sound.sampleRate, seed + index * 8 + eighth, 0.4),
        );
    if (end) {
      addVoice(sound, start, 0.6, 0.55, 0, kick());
      return;
    }
    if (energy > 0.45)
      for (const at of [0, 2.5]) addVoice(sound, start + at * beat, 0.6, 0.5 * energy + 0.1, 0, kick());
    if (energy > 0.6)
      for (const at of [1, 3])
        addVoice(sound, start + at * beat, 0.4, 0.3 * energy, 0.08, brush(seed + index * 10 + at));
    if (energy > 0.35)
      for (let eighth = 0; eighth < 8; eighth++)
        addVoice(
          sound,
          start + (eighth / 2 + (eighth % 2 ? 0.03 : 0)) * beat,
          0.16,
          (eighth % 2 ? 0.13 : 0.08) * (0.5 + energy / 2),
          0.35,
          shaker(seed + index * 64 + eighth + 1),
        );
    if (bar.kind === 'build' && index % 2 === 1)
      addVoice(sound, start, 4 * beat, 0.25, 0, lift(seed + index, 4 * beat));
  },
  pulse: (sound, bar, index, start, beat, seed) => {
    const { energy, part, voices, root, melody } = bar;
    const end = part === 'end';
    const long = (end ? 5 : 4.05) * beat;
    voices.forEach((note, i) =>
      addVoice(sound, start, long, 0.035 + 0.025 * energy, (i - 1) * 0.7, pad(noteFrequency(note), long)),
    );
    // Plucked sixteenths, or eighths where there is less.
    const step = energy > 0.55 ? 0.25 : 0.5;
    if (!end)
      for (let at = 0, n = 0; at < 4; at += step, n++)
        addVoice(
          sound,
          start + at * beat,
          0.5,
          (n % 4 === 0 ? 0.12 : 0.075) * (0.5 + 0.5 * energy),
          n % 2 ? 0.45 : -0.45,
          pluck(noteFrequency(voices[(n * 2) % 3] + 12), sound.sampleRate, seed + index * 16 + n, 0.35 + 0.4 * energy),
        );
    if (energy > 0.3 || end) {
      const at = end ? [0] : energy > 0.6 ? [0, 0.75, 1.5, 2, 2.75, 3.5] : [0, 1.5, 3];
      at.forEach((b, i) => {
        const length = (end ? 3 : Math.min(0.7, (at[i + 1] ?? 4) - b)) * beat;
        addVoice(sound, start + b * beat, length, 0.26, 0, sawBass(noteFrequency(root), length));
      });
    }
    for (const { at, length, note, loud } of melody)
      addVoice(
        sound,
        start + at * beat,
        Math.max(0.8, length * beat),
        0.16 * loud * (0.5 + 0.5 * energy),
        0.12,
        pluck(noteFrequency(note), sound.sampleRate, seed + note, 0.75),
      );
    if (end) {
      addVoice(sound, start, 0.7, 0.7, 0, kick());
      addVoice(sound, start, 0.8, 0.3, 0, clap(seed));
      return;
    }
    if (energy > 0.4)
      for (let b = 0; b < 4; b++) addVoice(sound, start + b * beat, 0.5, 0.45 + 0.2 * energy, 0, kick());
    if (energy > 0.55)
      for (const b of [1, 3]) addVoice(sound, start + b * beat, 0.4, 0.3, 0, clap(seed + index * 4 + b));
    if (energy > 0.35)
      for (let eighth = 0; eighth < 8; eighth++)
        addVoice(
          sound,
          start + (eighth / 2) * beat,
          0.2,
          (eighth % 2 ? 0.16 : 0.07) * (0.5 + energy / 2),
          0.25,
          hat(seed + index * 32 + eighth, eighth % 4 === 3 ? 14 : 45),
        );
    if (bar.kind === 'build') addVoice(sound, start, 4 * beat, 0.3, 0, lift(seed + index, 4 * beat));
  },
};
