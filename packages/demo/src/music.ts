import {
  addRoom,
  addVoice,
  bass,
  brush,
  kick,
  mallet,
  normalise,
  noteFrequency,
  pad,
  SAMPLE_RATE,
  shaker,
  silence,
  type Sound,
} from '@tender-orbit/core/audio';

export const MUSIC = { name: 'Slow heath', tempo: 96, bars: 8, seconds: 20 };

/** Chord roots and tones (MIDI), a bar each: D, Bm, G, A twice, the second time with colour. */
const CHORDS = [
  [38, 62, 66, 69],
  [35, 62, 66, 71],
  [43, 62, 67, 71],
  [45, 61, 64, 69],
  [38, 62, 66, 73],
  [35, 62, 69, 71],
  [43, 59, 66, 71],
  [38, 62, 66, 69],
];

/** Melody: [beat from the start, MIDI note, loudness]. A small phrase, its answer, and a resting end. */
const MELODY: Array<[number, number, number]> = [
  [0, 78, 1],
  [1, 76, 0.7],
  [1.5, 74, 0.8],
  [2.5, 76, 0.8],
  [3.5, 81, 0.9],
  [4, 78, 0.9],
  [5.5, 74, 0.7],
  [6, 71, 0.8],
  [7, 74, 0.7],
  [8, 76, 0.95],
  [9, 74, 0.7],
  [9.5, 71, 0.8],
  [10.5, 74, 0.8],
  [11.5, 79, 0.9],
  [12, 76, 1],
  [13.5, 73, 0.7],
  [14, 69, 0.8],
  [15, 73, 0.75],
  [15.5, 76, 0.8],
  [16, 78, 1],
  [17, 81, 0.8],
  [17.5, 83, 0.9],
  [18.5, 81, 0.8],
  [19.5, 78, 0.8],
  [20, 74, 0.95],
  [21, 76, 0.7],
  [21.5, 78, 0.8],
  [22.5, 83, 0.85],
  [23.5, 81, 0.8],
  [24, 79, 1],
  [25, 78, 0.7],
  [25.5, 76, 0.8],
  [26.5, 74, 0.8],
  [27, 71, 0.75],
  [27.5, 73, 0.8],
  [28, 74, 1],
  [30, 69, 0.55],
  [30.5, 74, 0.5],
  [31, 78, 0.45],
];

/** Twenty seconds at 96 bpm: eight bars of drums, bass, pad and mallet melody in D. Original; made note by note here. */
export function makeMusic(): Sound {
  const sound = silence(MUSIC.seconds * SAMPLE_RATE);
  const beat = 60 / MUSIC.tempo;
  CHORDS.forEach(([root, ...tones], bar) => {
    const start = bar * 4 * beat;
    tones.forEach((note, i) =>
      addVoice(sound, start, 4.15 * beat, 0.075, (i - 1) * 0.5, pad(noteFrequency(note), 4.15 * beat)),
    );
    const last = bar === MUSIC.bars - 1;
    for (const [at, length, interval] of last
      ? [[0, 3.5, 0]]
      : [
          [0, 1.4, 0],
          [1.5, 0.5, 0],
          [2, 1, 7],
          [3.5, 0.5, bar % 2 ? -2 : 12],
        ]) {
      addVoice(sound, start + at * beat, length * beat, 0.3, 0, bass(noteFrequency(root + interval), length * beat));
    }
    if (last) {
      addVoice(sound, start, 0.6, 0.62, 0, kick());
      return;
    }
    for (const at of bar % 4 === 3 ? [0, 1.75, 2.5] : [0, 2.5])
      addVoice(sound, start + at * beat, 0.6, 0.62, 0, kick());
    if (bar > 0) for (const at of [1, 3]) addVoice(sound, start + at * beat, 0.4, 0.3, 0.08, brush(bar * 10 + at));
    for (let eighth = 0; eighth < 8; eighth++) {
      const swing = eighth % 2 ? 0.03 : 0;
      addVoice(
        sound,
        start + (eighth / 2 + swing) * beat,
        0.16,
        eighth % 2 ? 0.13 : 0.08,
        0.35,
        shaker(bar * 64 + eighth + 1),
      );
    }
  });
  for (const [at, note, loud] of MELODY)
    addVoice(sound, at * beat, 1.6, 0.2 * loud, -0.18, mallet(noteFrequency(note)));
  addRoom(sound, 0.16);
  normalise(sound, 0.84);
  return sound;
}
