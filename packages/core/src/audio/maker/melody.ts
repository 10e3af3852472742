import { seeded } from '../../maths/index.ts';
import { scaleNote } from './harmony.ts';

export interface Note {
  /** Beats from the bar's beginning, and how long it is. */
  at: number;
  length: number;
  note: number;
  /** 0..1. */
  loud: number;
}

/** Rhythms of a bar in beats: busy ones at the end. */
const RHYTHMS: ReadonlyArray<readonly number[]> = [
  ...[[0, 2]],
  ...[[0, 1.5, 3]],
  ...[[0, 1, 2.5]],
  ...[[0, 1, 1.5, 2.5, 3.5]],
  ...[[0, 0.5, 1.5, 2, 3]],
  ...[[0.5, 1, 1.5, 2.5, 3, 3.5]],
];

/** A phrase of a bar: when, and how many steps of the scale from one note to the next. */
export interface Motif {
  times: readonly number[];
  steps: readonly number[];
}

export function motif(seed: number, busy: number): Motif {
  const random = seeded(seed);
  const low = Math.min(RHYTHMS.length - 3, Math.floor(busy * 3));
  const times = RHYTHMS[low + Math.floor(random() * 3)];
  // Mostly by step, now and then a leap that the next step takes back.
  let leap = 0;
  const steps = times.map((_, i) => {
    if (i === 0) return 0;
    if (leap !== 0) {
      const back = leap > 0 ? -1 : 1;
      leap = 0;
      return back;
    }
    const way = random() < 0.5 ? -1 : 1;
    if (random() < 0.25) return (leap = way * (2 + Math.floor(random() * 2)));
    return way;
  });
  return { times, steps };
}

/** Range of a melody in steps of the scale above the tonic that it is written on. */
const [LOW, HIGH] = [-2, 9];

/**
 * A motif over a chord: what falls on a beat that counts is a note of the chord, what lies between goes by steps of the scale.
 * @param from the step that the phrase before ended on. @returns its notes, and the step that it ends on.
 */
export function sing(
  { times, steps }: Motif,
  tonic: number,
  scale: readonly number[],
  degree: number,
  from: number,
): { notes: Note[]; end: number } {
  let at = from;
  const notes = times.map((time, i): Note => {
    at += steps[i];
    if (at > HIGH) at -= 2 * (at - HIGH);
    if (at < LOW) at += 2 * (LOW - at);
    if (time === Math.floor(time) && time % 2 === 0) at = nearest(at, degree, scale.length);
    const next = times[i + 1] ?? 4;
    return { at: time, length: next - time, note: scaleNote(tonic, scale, at), loud: time % 1 === 0 ? 1 : 0.75 };
  });
  return { notes, end: at };
}

/** The step nearest to one that belongs to the triad on a degree. */
function nearest(step: number, degree: number, size: number): number {
  for (let away = 0; away < size; away++)
    for (const to of [step - away, step + away]) {
      const above = (((to - degree) % size) + size) % size;
      if (above === 0 || above === 2 || above === 4) return to;
    }
  return step;
}
