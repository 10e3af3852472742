import { expect } from 'chai';
import {
  changeClips,
  newPromo,
  runCommand,
  type Clip,
  type ClipChange,
  type PromoDocument,
} from '@tender-orbit/core/document';
import {
  clipOfPart,
  framesPlayed,
  insertClip,
  placedClips,
  rollCut,
  slideClip,
  slipClip,
  takeTime,
  trimStart,
} from '@tender-orbit/core/promo';

const clip = (id: string, start: number, length: number, values: Partial<Clip> = {}): Clip => ({
  ...{ id, take: id, start, length },
  ...values,
});
const promo = (...clips: Clip[]): PromoDocument => ({ ...newPromo('Launch', 64, 64), clips });
/** What of its take is seen at each frame of the promo. */
const seen = (document: PromoDocument): string[] =>
  placedClips(document).flatMap(({ clip: c }) =>
    Array.from({ length: c.length }, (_, f) => `${c.id} ${Math.round(takeTime(c, f))}`),
  );
const after = (document: PromoDocument, ...changes: ClipChange[]): PromoDocument =>
  runCommand(document, changeClips('Trim', changes));

describe('promo: trims', () => {
  const cut = promo(clip('a', 4, 10), clip('b', 6, 8), clip('c', 3, 6));

  it('a beginning that is trimmed takes frames away or brings them back; the rest is as it was', () => {
    const later = after(cut, trimStart(cut.clips[1], 3));
    expect(seen(later)).deep.equal(seen(cut).filter((s) => !['b 6', 'b 7', 'b 8'].includes(s)));
    const earlier = after(cut, trimStart(cut.clips[1], -4));
    expect(seen(earlier).slice(10, 22)).deep.equal(Array.from({ length: 12 }, (_, f) => `b ${2 + f}`));
    // No farther than the take has frames, and a frame is left.
    expect(trimStart(cut.clips[1], -50).shift).equal(-6);
    expect(trimStart(cut.clips[1], 50).shift).equal(7);
  });

  it('a change of speed goes on as it was before a beginning that is brought back, either way', () => {
    for (const reverse of [false, true]) {
      const pace = { from: 1, to: 2, reverse, between: 'nearest' as const };
      const ramp = clip('a', 20, 24, { pace });
      const change = trimStart(ramp, -6);
      const made = { ...ramp, ...change.values } as Clip;
      expect(made.pace!.from).closeTo(0.75, 1e-9);
      for (const frame of [0, 11, 23]) expect(takeTime(made, frame + 6)).closeTo(takeTime(ramp, frame), 0.51);
    }
    // Where it would come to stand, it ends.
    const rising = clip('a', 50, 10, { pace: { from: 0.5, to: 1.5, reverse: false, between: 'nearest' } });
    expect(trimStart(rising, -40).shift).equal(-5);
  });

  it('a roll moves one cut, and all else stays', () => {
    const rolled = after(cut, ...rollCut(cut, 'b', 3));
    expect(seen(rolled).length).equal(seen(cut).length);
    expect(seen(rolled).slice(13)).deep.equal(seen(cut).slice(13));
    expect(seen(rolled).slice(10, 13)).deep.equal(['a 14', 'a 15', 'a 16']);
    const back = after(cut, ...rollCut(cut, 'b', -5));
    expect(seen(back).slice(5, 10)).deep.equal(['b 1', 'b 2', 'b 3', 'b 4', 'b 5']);
    expect(rollCut(cut, 'a', 2)).deep.equal([]);
    // Neither clip goes altogether.
    expect(placedClips(after(cut, ...rollCut(cut, 'b', -40)))[0].clip.length).equal(4);
    expect(placedClips(after(cut, ...rollCut(cut, 'b', 40)))[1].clip.length).equal(1);
  });

  it('a slip shows other frames in the same place, within the take', () => {
    expect(slipClip(cut.clips[1], 5, 30).values.start).equal(11);
    expect(slipClip(cut.clips[1], -50, 30).values.start).equal(0);
    expect(slipClip(cut.clips[1], 50, 30).values.start).equal(22);
  });

  it('a slide carries a clip along between its neighbours', () => {
    const slid = after(cut, ...slideClip(cut, 'b', 2));
    expect(seen(slid).length).equal(seen(cut).length);
    expect(seen(slid).slice(12, 20)).deep.equal(seen(cut).slice(10, 18));
    expect(seen(slid).slice(20)).deep.equal(seen(cut).slice(20));
    const back = after(cut, ...slideClip(cut, 'b', -3));
    expect(seen(back).slice(7, 15)).deep.equal(seen(cut).slice(10, 18));
    expect(seen(back).slice(15, 18)).deep.equal(['c 0', 'c 1', 'c 2']);
    // The last one has nothing after it that could give way.
    expect(slideClip(cut, 'c', 2)).deep.equal([]);
  });

  it('a clip is put between two, at the end, or into one that is split for it', () => {
    const put = (at: number): string[] =>
      seen(insertClip(cut, at, clip('x', 0, 2), 'X', 'b2').reduce((document, step) => runCommand(document, step), cut));
    const all = seen(cut);
    const half = (s: string): string => s.replace('b2', 'b');
    expect(put(10)).deep.equal([...all.slice(0, 10), 'x 0', 'x 1', ...all.slice(10)]);
    expect(put(99)).deep.equal([...all, 'x 0', 'x 1']);
    expect(put(0).slice(0, 2)).deep.equal(['x 0', 'x 1']);
    expect(put(13).map(half)).deep.equal([...all.slice(0, 13), 'x 0', 'x 1', ...all.slice(13)]);
  });

  it('keys of a clip stay on what they were on', () => {
    const keys = [0, 4, 7].map((frame) => ({ frame, value: frame, ease: 'linear' as const }));
    const keyed = { ...cut, tracks: [{ thing: 'b', path: 'x', keys }] };
    expect(after(keyed, trimStart(cut.clips[1], 2)).tracks[0].keys.map((k) => [k.frame, k.value])).deep.equal([
      [-2, 0],
      [2, 4],
      [5, 7],
    ]);
    expect(after(keyed, trimStart(cut.clips[1], -2)).tracks[0].keys.map((k) => k.frame)).deep.equal([2, 6, 9]);
  });

  it('a part of a take is as long as it is, or gives the range its first frame, its last, or all of it', () => {
    const part = { from: 12, to: 36 };
    expect(clipOfPart(part, null, 'fit')).deep.equal({ start: 12, length: 24 });
    expect(clipOfPart(part, { from: 100, to: 110 }, 'begin')).deep.equal({ start: 12, length: 10 });
    expect(clipOfPart(part, { from: 100, to: 110 }, 'end'), 'up to frame 35').deep.equal({ start: 26, length: 10 });
    expect(clipOfPart(part, { from: 0, to: 60 }, 'end'), 'no earlier than its take').deep.equal({
      start: 0,
      length: 60,
    });
    const fitted = clipOfPart(part, { from: 100, to: 148 }, 'fit');
    expect(fitted).include({ start: 12, length: 48 });
    const paced = { id: 'x', take: 'a', ...fitted };
    expect(framesPlayed(paced)).closeTo(24, 1e-9);
    expect([0, 24, 48].map((at) => takeTime(paced, at))).deep.equal([12, 24, 36]);
    expect(clipOfPart(part, { from: 3, to: 27 }, 'fit'), 'one that fits').deep.equal({ start: 12, length: 24 });
  });
});
