import { expect } from 'chai';
import {
  analyseMusic,
  ENERGIES,
  leadVoices,
  makeTrack,
  MOODS,
  MUSIC_STYLES,
  triad,
  writeScore,
  type MadeTrack,
  type Sound,
  type TrackPlan,
} from '@tender-orbit/core/audio';

const RATE = 16000;
const plan = (values: Partial<TrackPlan> = {}): TrackPlan => ({
  ...{ style: 'heath', mood: 'warm', energy: 'arch', tempo: 96, seconds: 20, seed: 5 },
  ...values,
});
const level = ({ left }: Sound, from: number, to: number): number => {
  let sum = 0;
  for (let i = Math.round(from * RATE); i < Math.round(to * RATE); i++) sum += left[i] * left[i];
  return Math.sqrt(sum / ((to - from) * RATE));
};

describe('music maker: scores', () => {
  const all = MOODS.flatMap((mood) =>
    ENERGIES.flatMap((energy) => [1, 2, 9].map((seed) => plan({ mood, energy, seed }))),
  );

  it('are in their key: chords, basses and melodies', () => {
    for (const one of all) {
      const { bars, tonic, scale } = writeScore(one);
      const classes = new Set(scale.map((step) => (tonic + step) % 12));
      for (const bar of bars)
        for (const note of [...bar.voices, bar.root, ...bar.melody.map((n) => n.note)])
          expect(classes.has(note % 12), `${one.mood} ${note}`).equal(true);
    }
  });

  it('lead their voices: each goes no farther than it must, and a chord is whole', () => {
    for (const one of all) {
      const { bars, tonic, scale } = writeScore(one);
      bars.forEach((bar, i) => {
        const wanted = triad(tonic, scale, bar.degree).map((note) => note % 12);
        expect(bar.voices.map((note) => note % 12).sort((a, b) => a - b)).deep.equal(wanted.sort((a, b) => a - b));
        const before = bars[i - 1]?.voices;
        if (before) bar.voices.forEach((note, k) => expect(Math.abs(note - before[k])).most(7));
      });
    }
    // From C to G the note that both have stays.
    expect(leadVoices([67, 71, 74], [60, 64, 67])).include(67);
  });

  it('fill their length with whole bars, begin softly, come back to their theme and end on the tonic', () => {
    const { bars, tempo, tonic } = writeScore(plan({ seconds: 12.5 }));
    expect(bars).length(5);
    expect(tempo).closeTo(96, 1e-9);
    expect(writeScore(plan({ seconds: 13 })).tempo).closeTo((5 * 240) / 13, 1e-9);
    expect(bars.at(-1)).include({ part: 'end', degree: 0, root: tonic - 12 });
    const long = writeScore(plan({ seconds: 60 }));
    expect(new Set(long.bars.map((b) => b.part))).deep.equal(new Set(['intro', 'theme', 'other', 'end']));
    // A theme is said again: the same rhythm two bars later.
    const sung = long.bars.filter((b) => b.part === 'theme' && b.melody.length > 0);
    expect(sung[2].melody.map((n) => n.at)).deep.equal(sung[0].melody.map((n) => n.at));
  });

  it('are the same for a seed and others for another', () => {
    expect(writeScore(plan())).deep.equal(writeScore(plan()));
    const kinds = new Set([1, 2, 3, 4, 5].map((seed) => JSON.stringify(writeScore(plan({ seed })).bars)));
    expect(kinds.size).equal(5);
  });
});

describe('music maker: tracks', () => {
  let tracks: Record<string, MadeTrack>;
  before(() => {
    tracks = Object.fromEntries(
      MUSIC_STYLES.map((style) => [
        style,
        makeTrack(plan({ style, energy: 'build and drop', seconds: 24, tempo: 100 }), RATE),
      ]),
    );
  });
  for (const style of MUSIC_STYLES) {
    it(`${style}: grows to its drop, is loudest there, and rings out after its last bar`, () => {
      const { sound, sections, beats } = tracks[style];
      expect(sections.map((s) => s.kind)).include.members(['quiet', 'build', 'drop']);
      const drop = sections.find((s) => s.kind === 'drop')!;
      expect(level(sound, drop.from, drop.to)).above(1.4 * level(sound, 0, sections[0].to));
      expect(beats).length(40);
      const peak = sound.left.reduce((a, v) => Math.max(a, Math.abs(v)), 0);
      expect(peak).within(0.3, 0.85);
      expect(level(sound, 25.7, 26)).below(0.15 * level(sound, 21.6, 22.6));
      expect(sound.left.every(Number.isFinite)).equal(true);
    });

    it(`${style}: its beats are where they are said to be, as one hears who does not know`, () => {
      const { sound, beats, sections } = tracks[style];
      const heard = analyseMusic(sound);
      const tempo = [0.5, 1, 2].map((times) => Math.abs(heard.tempo * times - 100)).sort((a, b) => a - b)[0];
      expect(tempo).below(2);
      // Where there are drums; half a beat beside it is one of a grid twice as fine.
      const { from, to } = sections.find((s) => s.kind === 'drop')!;
      const counted = heard.beats.filter((at) => at >= from && at < to);
      const off = counted.map((at) => Math.min(...beats.map((b) => Math.abs(b - at))));
      const near = off.filter((away) => away < 0.06 || Math.abs(away - 0.3) < 0.06).length;
      expect(near / counted.length).above(0.9);
    });
  }
});
