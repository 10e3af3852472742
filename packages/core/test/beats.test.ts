import { expect } from 'chai';
import {
  addVoice,
  analyseMusic,
  doubled,
  halved,
  kick,
  LONGEST_MUSIC,
  offBeat,
  shifted,
  silence,
  throughTwo,
  twoThirds,
} from '@tender-orbit/core/audio';
import { beatsBetween, gridFrom } from '@tender-orbit/core/time';
import { beatSuite } from './beat-suite.ts';

/** Seconds within which a beat counts as found. */
const NEAR = 0.07;
/** A version of the suite that nothing was tuned on. */
const UNSEEN = 101;

/** How well beats fit those that are known: precision and recall together, and how late they are, seconds. */
function judge(found: readonly number[], known: readonly number[]): { f: number; late: number } {
  const used = new Set<number>();
  let late = 0;
  for (const beat of found) {
    const near = known
      .map((t, i) => ({ i, off: beat - t }))
      .filter(({ i, off }) => Math.abs(off) <= NEAR && !used.has(i))
      .sort((a, b) => Math.abs(a.off) - Math.abs(b.off))[0];
    if (!near) continue;
    used.add(near.i);
    late += near.off;
  }
  const hits = used.size;
  return { f: (2 * hits) / (found.length + known.length), late: late / Math.max(1, hits) };
}

describe('beats: a suite of made-up music', () => {
  const figures: Array<{ name: string; f: number; late: number; bars: boolean }> = [];
  before(function () {
    this.timeout(300_000);
    for (const make of beatSuite(UNSEEN)) {
      const { name, sound, beats, downbeats } = make();
      const heard = analyseMusic(sound);
      const first = heard.beats[heard.downbeat];
      const bars = downbeats.some((t) => Math.abs(t - first) < NEAR);
      figures.push({ name, ...judge(heard.beats, beats), bars });
    }
  });

  it('holds 24 tracks at least', () => expect(figures.length).at.least(24));

  it('is followed: mean F-measure within 70 ms at least 0.97, no track under 0.85', () => {
    for (const { name, f } of figures) expect(f, name).at.least(0.85);
    expect(figures.reduce((sum, { f }) => sum + f, 0) / figures.length).at.least(0.97);
  });

  it('is followed neither early nor late: 5 ms at most in the mean', () => {
    expect(Math.abs(figures.reduce((sum, { late }) => sum + late, 0) / figures.length)).at.most(0.005);
  });

  it('most bars begin where they do', () => {
    expect(figures.filter(({ bars }) => bars).length / figures.length).at.least(0.7);
  });
});

describe('beats: what is listened to', () => {
  /** Kicks at even times, each bar's first one louder, louder still from a second on. */
  function kicks(seconds: number, tempo: number, loudFrom = Infinity): ReturnType<typeof silence> {
    const sound = silence(seconds * 44100, 44100);
    for (let i = 0, t = 0.2; t < seconds - 0.5; i++, t = 0.2 + (i * 60) / tempo)
      addVoice(sound, t, 0.4, (t >= loudFrom ? 0.6 : 0.1) * (i % 4 === 0 ? 1.5 : 1), 0, kick());
    return sound;
  }

  it('silence has no beats, and neither has a moment', () => {
    expect(analyseMusic(silence(44100 * 8, 44100))).deep.include({ beats: [], tempo: 0, sections: [] });
    expect(analyseMusic(silence(100, 44100)).beats).deep.equal([]);
  });

  it('too long a piece is refused with what to do', () => {
    expect(() => analyseMusic(silence((LONGEST_MUSIC + 1) * 100, 100))).throw(/cut a part out of it/);
  });

  it('has a tempo, levels from 0 to 1, and parts by its energy', () => {
    const heard = analyseMusic(kicks(40, 120, 20));
    expect(heard.tempo).closeTo(120, 0.6);
    expect(heard.sections.map((s) => s.kind)).deep.equal(['quiet', 'drop']);
    expect(heard.sections[1].from).closeTo(20, 2.1);
    for (const register of ['low', 'middle', 'high', 'all'] as const) {
      const values = heard.levels[register];
      expect(Math.max(...values)).equal(1);
      expect(Math.min(...values)).at.least(0);
    }
    const at = (seconds: number) => heard.levels.low[Math.round(seconds * heard.levels.rate)];
    expect(at(20.22)).above(1.5 * at(20.42));
  });
});

describe('beats: put right', () => {
  const counted = { beats: [0, 1, 2, 3, 4, 5, 6, 7], beatsPerBar: 4, downbeat: 1 };

  it('twice as many, half as many, two for three, and off the beat', () => {
    expect(doubled(counted)).deep.equal({
      beats: Array.from({ length: 15 }, (_, i) => i / 2),
      ...{ beatsPerBar: 4, downbeat: 2 },
    });
    expect(halved(counted)).deep.equal({ beats: [1, 3, 5, 7], beatsPerBar: 4, downbeat: 0 });
    expect(halved(doubled(counted))).deep.equal(counted);
    expect(twoThirds(counted).beats).deep.equal([1, 2.5, 4, 5.5, 7]);
    expect(offBeat(counted).beats).deep.equal([0.5, 1.5, 2.5, 3.5, 4.5, 5.5, 6.5]);
  });

  it('bars begin on another beat, round and round', () => {
    expect([1, 3, -2, 8].map((by) => shifted(counted, by).downbeat)).deep.equal([2, 0, 3, 1]);
  });

  it('two beats by hand give all others', () => {
    expect(throughTwo(2, 4, 4, 5).beats).deep.equal([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4, 4.5, 5]);
    expect(throughTwo(4, 2, 4, 5)).deep.equal(throughTwo(2, 4, 4, 5));
    expect(throughTwo(2, 4, 4, 5).downbeat).equal(0);
  });

  it('known one by one they lie on frames with their bars, and a later time line has them earlier', () => {
    const film = { num: 24, den: 1 };
    const grid = { tempo: 100, firstBeat: 1, beatsPerBar: 4, times: [0.5, 1, 1.6, 2.1], downbeat: 1 };
    expect(beatsBetween(grid, film, 0, 60)).deep.equal([
      { frame: 12, bar: 0, beat: 4 },
      { frame: 24, bar: 1, beat: 1 },
      { frame: 38.400000000000006, bar: 1, beat: 2 },
      { frame: 50.400000000000006, bar: 1, beat: 3 },
    ]);
    expect(beatsBetween(gridFrom(grid, 1), film, 0, 20).map((b) => b.frame)[0]).equal(0);
    expect(beatsBetween(gridFrom({ ...grid, times: [] }, 1), film, 0, 10)[0]).deep.equal({ frame: 0, bar: 1, beat: 1 });
  });
});
