import { expect } from 'chai';
import { cutFrames, cutOnBeats, framesPlayed, type CutOnBeats } from '@tender-orbit/core/promo';

describe('promo: cut on beats', () => {
  const options = (values: Partial<CutOnBeats> = {}): CutOnBeats => {
    let n = 0;
    return {
      takes: ['a', 'b', 'c'].map((id) => ({ id, length: 60 })),
      grid: { tempo: 120, firstBeat: 0, beatsPerBar: 4 },
      parts: [
        { from: 0, to: 4, kind: 'quiet' },
        { from: 4, to: 8, kind: 'drop' },
      ],
      ...{ rate: { num: 24, den: 1 }, pattern: 'bar', length: 240, seed: 1, newId: () => `clip${n++}` },
      ...values,
    };
  };

  it('cuts where its pattern says, to the frame', () => {
    expect(cutFrames(options())).deep.equal([0, 48, 96, 144, 192, 240]);
    expect(cutFrames(options({ pattern: 'beat', length: 50 }))).deep.equal([0, 12, 24, 36, 50]);
    expect(cutFrames(options({ pattern: 'two beats', length: 48 }))).deep.equal([0, 24, 48]);
    expect(cutFrames(options({ pattern: 'two bars' }))).deep.equal([0, 96, 192, 240]);
    expect(cutFrames(options({ pattern: 'parts' }))).deep.equal([0, 96, 240]);
    expect(cutFrames(options({ grid: { tempo: 120, firstBeat: 0.5, beatsPerBar: 4 } }))[1]).equal(12);
  });

  it('fills the promo, repeats no neighbour, uses all takes alike, and goes on in each', () => {
    for (const seed of [1, 2, 3, 4, 5]) {
      const clips = cutOnBeats(options({ pattern: 'beat', seed }));
      expect(clips.reduce((sum, c) => sum + c.length, 0)).equal(240);
      for (let i = 1; i < clips.length; i++) expect(clips[i].take).not.equal(clips[i - 1].take);
      const uses = ['a', 'b', 'c'].map((take) => clips.filter((c) => c.take === take));
      expect(Math.max(...uses.map((u) => u.length)) - Math.min(...uses.map((u) => u.length))).at.most(1);
      expect(uses[0].slice(0, 3).map((c) => c.start)).deep.equal([0, 12, 24]);
      for (const c of clips) expect(c.start + c.length).at.most(60);
    }
    const order = (seed: number): string =>
      cutOnBeats(options({ pattern: 'beat', seed }))
        .map((c) => c.take)
        .join('');
    expect(order(1)).equal(order(1));
    expect(new Set([1, 2, 3, 4].map(order)).size).above(1);
  });

  it('a take that is too short is slowed down; without any it says so', () => {
    const [first] = cutOnBeats(options({ takes: [{ id: 'a', length: 36 }] }));
    expect(first.pace).include({ from: 0.75, to: 0.75 });
    expect(framesPlayed(first)).closeTo(36, 1e-9);
    expect(() => cutOnBeats(options({ takes: [] }))).throw(/no finished take/);
  });
});
