/** Beats as a person corrects them. Instants in seconds, in order. */
export interface CountedBeats {
  beats: number[];
  beatsPerBar: number;
  downbeat: number;
}

/** Twice as many: one in the middle of every two. */
export function doubled({ beats, beatsPerBar, downbeat }: CountedBeats): CountedBeats {
  const more = beats.flatMap((t, i) => (i + 1 < beats.length ? [t, (t + beats[i + 1]) / 2] : [t]));
  return { beats: more, beatsPerBar, downbeat: downbeat * 2 };
}

/** Every other one, those that bars begin on among them. */
export function halved({ beats, beatsPerBar, downbeat }: CountedBeats): CountedBeats {
  const first = downbeat % 2;
  return { beats: beats.filter((_, i) => i % 2 === first), beatsPerBar, downbeat: (downbeat - first) / 2 };
}

/** Two for every three: what was counted in triplets. */
export function twoThirds({ beats, beatsPerBar, downbeat }: CountedBeats): CountedBeats {
  const made: number[] = [];
  for (let x = downbeat % 3; x <= beats.length - 1; x += 1.5) {
    const i = Math.floor(x);
    made.push(x === i ? beats[i] : (beats[i] + beats[i + 1]) / 2);
  }
  return { beats: made, beatsPerBar, downbeat: 0 };
}

/** The first of the bar is another beat. */
export function shifted(counted: CountedBeats, by: number): CountedBeats {
  const { beatsPerBar, downbeat } = counted;
  return { ...counted, downbeat: (((downbeat + by) % beatsPerBar) + beatsPerBar) % beatsPerBar };
}

/** All of them half a beat later: they were counted on the off-beat. */
export function offBeat({ beats, beatsPerBar, downbeat }: CountedBeats): CountedBeats {
  return { beats: beats.slice(1).map((t, i) => (t + beats[i]) / 2), beatsPerBar, downbeat };
}

/**
 * Even beats through two instants that a person set, so many beats apart, over the whole of the music.
 * @param count beats from the first instant to the second; @param length of the music, seconds.
 */
export function throughTwo(first: number, second: number, count: number, length: number): CountedBeats {
  const period = Math.abs(second - first) / Math.max(1, count);
  const from = Math.min(first, second);
  const before = Math.floor(from / period + 1e-9);
  const total = Math.floor((length - (from - before * period)) / period + 1e-9);
  const beats = Array.from({ length: total + 1 }, (_, i) => Number((from + (i - before) * period).toFixed(6)));
  return { beats, beatsPerBar: 4, downbeat: before % 4 };
}
