/** A mood: a scale by its steps above the tonic, and turns of chords in it by their degrees, each of four bars. */
interface Mood {
  scale: readonly number[];
  turns: ReadonlyArray<readonly number[]>;
  /** Of the part that contrasts. */
  other: ReadonlyArray<readonly number[]>;
}

export const MOODS = ['warm', 'hopeful', 'wistful', 'dark'] as const;
export type MoodName = (typeof MOODS)[number];

const MAJOR = [0, 2, 4, 5, 7, 9, 11];
const MINOR = [0, 2, 3, 5, 7, 8, 10];
const DORIAN = [0, 2, 3, 5, 7, 9, 10];

/** Degrees count from 0. */
const MOOD: Readonly<Record<MoodName, Mood>> = {
  warm: {
    ...{ scale: MAJOR, turns: [...[[0, 5, 3, 4]], ...[[0, 3, 5, 4]], ...[[0, 2, 3, 4]]] },
    other: [...[[3, 0, 1, 4]], ...[[5, 3, 0, 4]]],
  },
  hopeful: {
    ...{ scale: MAJOR, turns: [...[[0, 4, 5, 3]], ...[[3, 4, 0, 5]], ...[[0, 3, 0, 4]]] },
    other: [...[[5, 4, 3, 4]], ...[[1, 3, 5, 4]]],
  },
  wistful: {
    ...{ scale: DORIAN, turns: [...[[0, 3, 0, 6]], ...[[0, 6, 3, 0]], ...[[0, 2, 3, 6]]] },
    other: [...[[2, 6, 3, 0]], ...[[3, 0, 6, 4]]],
  },
  dark: {
    ...{ scale: MINOR, turns: [...[[0, 5, 2, 6]], ...[[0, 5, 3, 4]], ...[[0, 3, 5, 6]]] },
    other: [...[[5, 6, 0, 0]], ...[[3, 5, 6, 0]]],
  },
};

export const moodOf = (name: MoodName): Mood => MOOD[name];

/** The note (MIDI) of a scale, so many steps from its tonic. */
export function scaleNote(tonic: number, scale: readonly number[], step: number): number {
  const octave = Math.floor(step / scale.length);
  return tonic + 12 * octave + scale[step - octave * scale.length];
}

/** Notes of the triad on a degree, within an octave above the tonic's. */
export function triad(tonic: number, scale: readonly number[], degree: number): number[] {
  return [0, 2, 4].map((third) => scaleNote(tonic, scale, degree + third));
}

/** Where upper voices lie. */
const [LOWEST, HIGHEST] = [55, 77];

/**
 * The voicing of a chord that is nearest to the one before it: each voice goes as little as it can (voice leading), none leaves its
 * range, and all notes of the chord are there.
 */
export function leadVoices(chord: readonly number[], before: readonly number[] | null): number[] {
  const classes = chord.map((note) => ((note % 12) + 12) % 12);
  let best: number[] = [];
  let least = Infinity;
  // Every order of the chord's notes from every low note on, upwards within a tenth.
  for (let low = LOWEST; low <= HIGHEST - 7; low++) {
    const first = classes.indexOf(low % 12);
    if (first < 0) continue;
    const others = classes.filter((_, i) => i !== first);
    for (const order of [others, [...others].reverse()]) {
      const voices = [low];
      for (const of of order) {
        let note = voices[voices.length - 1] + 1;
        while (note % 12 !== of) note++;
        voices.push(note);
      }
      const top = voices[voices.length - 1];
      if (top > HIGHEST || top - low > 16) continue;
      const centre = Math.abs((low + top) / 2 - (LOWEST + HIGHEST) / 2);
      const moved = before ? voices.reduce((sum, note, i) => sum + Math.abs(note - before[i]), 0) : 0;
      const cost = moved + centre * 0.05;
      if (cost < least) [least, best] = [cost, voices];
    }
  }
  return best;
}
