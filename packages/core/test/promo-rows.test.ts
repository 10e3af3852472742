import { expect } from 'chai';
import {
  addTitle,
  changeOverlay,
  deleteOverlay,
  groupItems,
  groupOf,
  newClipPicture,
  newLayer,
  newOverlay,
  newPace,
  newPromo,
  newTitle,
  removeFootage,
  runCommand,
  shiftItems,
  toggleKey,
  ungroupItems,
  validateDocument,
  type Clip,
  type Command,
  type PromoDocument,
  type PromoOverlay,
} from '@tender-orbit/core/document';
import { fitPicture, makePicture } from '@tender-orbit/core/picture';
import {
  assemble,
  clipToOverlay,
  clipValues,
  frameKey,
  overlayToClip,
  overlayValues,
  overwriteClip,
  placedClips,
  promoLength,
  scaledPromo,
  shownAt,
  shownTakes,
  takeFramesAt,
} from '@tender-orbit/core/promo';
import { at, plates } from './composite-box.ts';
import { openPainter } from './title-box.ts';

const [WIDTH, HEIGHT] = [64, 36];
const clip = (id: string, length: number, values: Partial<Clip> = {}): Clip => ({
  ...{ id, take: 'a', start: 0, length },
  ...values,
});
const promo = (...clips: Clip[]): PromoDocument => ({ ...newPromo('Launch', WIDTH, HEIGHT), clips });
/** As large as a promo that is kept must be. */
const kept = (of: PromoDocument): PromoDocument => ({ ...of, width: 128, height: 72 });
const runAll = (of: PromoDocument, edits: ReadonlyArray<Command<PromoDocument>>): PromoDocument =>
  edits.reduce((now, edit) => runCommand(now, edit), of);
const lengthOf = (take: string): number => ({ a: 100, b: 50 })[take] ?? 0;
const overlay = (values: Partial<PromoOverlay> = {}): PromoOverlay =>
  newOverlay('o', { id: 'b', frames: 50, rate: 24 }, 24, {
    ...{ start: 10, length: 20, size: 0.5 },
    ...{ arrive: { kind: 'none', frames: 0 }, leave: { kind: 'none', frames: 0 } },
    ...values,
  });
/** What each frame of a cut shows, as text. */
const cut = (of: PromoDocument): string[] =>
  Array.from({ length: promoLength(of) }, (_, frame) => {
    const [part] = shownAt(of, frame, () => 1000)!.clip.frames;
    return `${part.take}${part.frame.toFixed(3)}`;
  });

describe('promo: a clip in the place of others', () => {
  const base = promo(clip('x', 20), clip('y', 20, { start: 40 }), clip('z', 20, { start: 10 }));

  it('shows its own frames there, and leaves all others as they were', () => {
    for (const [from, length] of [
      [0, 5],
      [5, 10],
      [20, 20],
      [10, 20],
      [15, 40],
      [0, 60],
      [30, 3],
    ]) {
      const made = runAll(base, overwriteClip(base, from, clip('n', length, { take: 'b' }), 'n', 'half'));
      const [before, after] = [cut(base), cut(made)];
      expect(after, `${from}+${length}`).length(60);
      after.forEach((shown, frame) => {
        const within = frame >= from && frame < from + length;
        expect(shown, `${from}+${length} at ${frame}`).equal(within ? `b${(frame - from).toFixed(3)}` : before[frame]);
      });
      expect(placedClips(made).find((p) => p.clip.id === 'n')!.from).equal(from);
    }
  });

  it('a clip of another pace keeps its own on both sides', () => {
    const paced = promo(clip('x', 40, { pace: { ...newPace(), from: 1, to: 2, between: 'blend' } }));
    const made = runAll(paced, overwriteClip(paced, 10, clip('n', 12, { take: 'b' }), 'n', 'half'));
    const [before, after] = [cut(paced), cut(made)];
    for (const frame of [0, 5, 9]) expect(after[frame]).equal(before[frame]);
    // A clip begins at a whole frame of its take.
    for (const frame of [22, 30, 39])
      expect(Math.abs(Number(after[frame].slice(1)) - Number(before[frame].slice(1)))).most(1);
    const head = runAll(paced, overwriteClip(paced, 10, clip('n', 60, { take: 'b' }), 'n', 'half'));
    expect(cut(head).slice(0, 10)).deep.equal(before.slice(0, 10));
  });

  it('goes beyond the end, or follows on where the cut has ended', () => {
    const beyond = runAll(base, overwriteClip(base, 50, clip('n', 30, { take: 'b' }), 'n', 'half'));
    expect(promoLength(beyond)).equal(80);
    const after = runAll(base, overwriteClip(base, 200, clip('n', 5), 'n', 'half'));
    expect(placedClips(after).at(-1)).deep.include({ from: 60 });
    expect(runAll(promo(), overwriteClip(promo(), 3, clip('n', 5), 'n', 'half')).clips).length(1);
  });
});

describe('promo: overlays of takes', () => {
  const with1 = (values: Partial<PromoOverlay> = {}): PromoDocument => ({
    ...promo(clip('x', 60)),
    overlays: [overlay(values)],
  });
  const [dark, light] = [makePicture(WIDTH, HEIGHT, [0, 0, 0]), makePicture(WIDTH, HEIGHT, [255, 255, 255])];
  const drawn = (of: PromoDocument, frame: number) =>
    assemble(
      ...([plates, of, frame, shownAt(of, frame, lengthOf)] as const),
      ({ take }) => (take === 'b' ? light : dark),
      { draw: () => null },
      null,
      lengthOf,
    );

  it('show its frames and hold its last, and are asked for with the clips', () => {
    const of = with1({ first: 40 });
    expect(takeFramesAt(of, 15, lengthOf)).deep.equal([
      { take: 'a', frame: 15, weight: 1 },
      { take: 'b', frame: 45, weight: 1 },
    ]);
    expect(takeFramesAt(of, 28, lengthOf)[1].frame).equal(49);
    expect(takeFramesAt(of, 30, lengthOf)).length(1);
    expect(shownTakes(of)).deep.equal(['a', 'b']);
    // A take that is gone is not seen.
    expect(takeFramesAt({ ...of, overlays: [overlay({ footage: 'gone' })] }, 15, lengthOf)).length(1);
  });

  it('lie over the picture, cropped to a half for a split screen', () => {
    const whole = drawn(with1({ size: 1 }), 15);
    expect(at(whole, 2, 18)[0]).equal(255);
    const half = drawn(with1({ size: 1, cropLeft: 0.5 }), 15);
    expect(at(half, 30, 18)[0]).equal(0);
    expect(at(half, 34, 18)[0]).equal(255);
    const round = drawn(with1({ size: 1, radius: 0.5 }), 15);
    expect(at(round, 1, 1)[0]).equal(0);
    expect(at(round, 32, 18)[0]).equal(255);
  });

  it('are keyed at frames of their own, which are trimmed and deleted with them', () => {
    let of = with1({ x: 0.25, size: 0.5 });
    of = runCommand(of, toggleKey({ thing: 'o', path: 'x', frame: 0 }, 0.25, 'across'));
    of = runCommand(of, toggleKey({ thing: 'o', path: 'x', frame: 19 }, 0.75, 'across'));
    const x = (frame: number, now = of): number => overlayValues(now.overlays[0], now)(frame - now.overlays[0].start).x;
    expect([x(10), x(29)]).deep.equal([0.25, 0.75]);
    expect(x(20)).above(0.3).below(0.7);
    expect(at(drawn(of, 10), 16, 18)[0]).equal(255);
    expect(at(drawn(of, 29), 16, 18)[0]).equal(0);
    expect(frameKey(of, 12, lengthOf)).not.equal(frameKey(of, 13, lengthOf));
    const trimmed = runCommand(of, changeOverlay('o', 'Trim', { start: 14, length: 16 }));
    expect(x(20, trimmed)).closeTo(x(20), 1e-9);
    expect(runCommand(of, deleteOverlay('o')).tracks).deep.equal([]);
    expect(runCommand(of, removeFootage('b')).tracks).deep.equal([]);
    expect(validateDocument('promo', JSON.parse(JSON.stringify(kept(of))))).deep.equal(kept(of));
  });

  it('come out of the cut as they lay there, and go back into it', () => {
    const of = promo(
      clip('x', 20),
      clip('y', 20, {
        ...{ take: 'b', start: 8, pace: { ...newPace(), from: 0.5, to: 0.5 } },
        picture: newClipPicture({ x: 0.2, y: 0.1, scale: 0.5, cover: false, cropLeft: 0.25 }),
      }),
      clip('z', 20),
    );
    const over = runAll(of, clipToOverlay(of, 'y', 'o'));
    expect(over.clips.map(({ id }) => id)).deep.equal(['x', 'z']);
    expect(over.overlays[0]).deep.include({ footage: 'b', first: 8, speed: 0.5, start: 20, length: 20, size: 0.5 });
    expect(over.overlays[0].cropLeft).equal(0.25);
    expect('cropRight' in over.overlays[0]).equal(false);
    // It covers what it covered.
    const seen = (doc: PromoDocument, x: number, y: number): number => at(drawn(doc, 25), x, y)[0];
    const covered = { ...over, clips: [clip('w', 60)] };
    for (const [x, y] of [
      [39, 15],
      [34, 15],
      [50, 15],
      [39, 25],
      [39, 4],
    ])
      expect(seen(covered, x, y), `${x},${y}`).equal(seen(of, x, y));
    let keyed = runCommand(of, toggleKey({ thing: 'y', path: 'x', frame: 0 }, 0.2, 'x'));
    keyed = runCommand(keyed, toggleKey({ thing: 'y', path: 'x', frame: 19 }, -0.4, 'x'));
    keyed = runCommand(keyed, toggleKey({ thing: 'y', path: 'scale', frame: 4 }, 0.7, 'scale'));
    const moved = runAll(keyed, clipToOverlay(keyed, 'y', 'o'));
    const last = overlayValues(moved.overlays[0], moved)(19);
    expect(last.x).closeTo(0.5 - (0.4 * HEIGHT) / WIDTH, 1e-9);
    expect(last.size).closeTo(0.7, 1e-9);
    expect(moved.tracks.map(({ thing }) => thing)).deep.equal(['o', 'o']);
    // With its keys it comes back as it was.
    const again = runAll(moved, overlayToClip(moved, 'o', 'n', 'half'));
    expect(again.overlays).deep.equal([]);
    expect(again.tracks.map(({ thing, path }) => `${thing} ${path}`)).members(['n x', 'n scale']);
    const [was, now] = [keyed, again].map(({ clips }) => clips.find(({ id }) => id === 'y' || id === 'n')!);
    for (const at of [0, 4, 11, 19]) {
      const [before, after] = [clipValues(was, keyed)(at), clipValues(now, again)(at)];
      for (const path of ['x', 'y', 'scale', 'cropLeft'] as const)
        expect(after[path], `${path} at ${at}`).closeTo(before[path], 1e-9);
    }
    const back = runAll(over, overlayToClip(over, 'o', 'n', 'half'));
    expect(back.overlays).deep.equal([]);
    expect(placedClips(back).find((p) => p.clip.id === 'n')).deep.include({ from: 20 });
    expect(back.clips.find((c) => c.id === 'n')!.pace).deep.include({ from: 0.5, to: 0.5 });
    expect(clipToOverlay(of, 'gone', 'o')).deep.equal([]);
    expect(overlayToClip(of, 'gone', 'n', 'half')).deep.equal([]);
  });
});

describe('promo: groups', () => {
  const layer = newLayer('grade', 'l', 'Grade', { start: 12, length: 10 });
  let of: PromoDocument = { ...promo(clip('x', 60)), overlays: [overlay()], layers: [layer] };
  of = runCommand(of, addTitle(newTitle('t', { start: 4 })));
  of = { ...of, markers: [{ id: 'm', name: 'M', at: 7, length: 0 }] };

  it('hold things of all rows, each in one of them, and are gone when no two are left', () => {
    let now = runCommand(of, groupItems('g', ['x', 't', 'o']));
    expect(groupOf(now, 't')!.members).deep.equal(['x', 't', 'o']);
    expect(groupOf(now, 'm')).equal(undefined);
    now = runCommand(now, groupItems('h', ['t', 'm']));
    expect(now.groups!.map(({ members }) => members)).deep.equal([
      ['x', 'o'],
      ['t', 'm'],
    ]);
    now = runCommand(now, groupItems('i', ['o', 'm']));
    expect(now.groups!.map(({ members }) => members)).deep.equal([['o', 'm']]);
    expect(validateDocument('promo', JSON.parse(JSON.stringify(kept(now))))).deep.equal(kept(now));
    expect('groups' in runCommand(now, ungroupItems(['m']))).equal(false);
  });

  it('are carried as one, and stop as one at the first frame', () => {
    const begins = (now: PromoDocument): number[] => [
      ...[now.titles[0].start, now.overlays[0].start, now.layers[0].start, now.markers[0].at],
    ];
    const all = ['t', 'o', 'l', 'm', 'x'];
    expect(begins(runCommand(of, shiftItems(all, 5)))).deep.equal([9, 15, 17, 12]);
    expect(begins(runCommand(of, shiftItems(all, -9)))).deep.equal([0, 6, 8, 3]);
    expect(begins(runCommand(of, shiftItems(['o'], -3)))).deep.equal([4, 7, 12, 7]);
    const keyed = runCommand(of, toggleKey({ thing: 'l', path: 'opacity', frame: 12 }, 1, 'opacity'));
    expect(runCommand(keyed, shiftItems(all, 5)).tracks[0].keys[0].frame).equal(17);
    expect(runCommand(of, shiftItems(['x'], 5))).deep.equal(of);
  });
});

describe('promo: a smaller picture of the same', () => {
  it('is what the whole one is when it is made smaller, titles and overlays too', async () => {
    const painter = await openPainter();
    const [wide, high] = [320, 180];
    const still = { kind: 'none', frames: 0 } as const;
    const of: PromoDocument = {
      ...newPromo('Launch', wide, high),
      clips: [clip('x', 30, { picture: newClipPicture({ scale: 1.3, x: 0.1, rotation: 5 }) })],
      overlays: [overlay({ start: 0, x: 0.2, y: 0.3, size: 0.3 })],
      titles: [newTitle('t', { text: 'Slow as the hill', size: 40, y: 0.6, length: 30, arrive: still, leave: still })],
    };
    const picture = makePicture(wide, high, [40, 20, 60]);
    for (let i = 0; i < wide * high; i++) picture.data[i * 4] = ((i % wide) * 255) / wide;
    const drawn = (doc: PromoDocument) =>
      assemble(
        ...([plates, doc, 5, shownAt(doc, 5, lengthOf)] as const),
        ({ take }) => (take === 'b' ? makePicture(16, 9, [0, 200, 90]) : picture),
        painter,
        null,
        lengthOf,
      );
    const small = drawn(scaledPromo(of, wide / 2));
    expect([small.width, small.height]).deep.equal([wide / 2, high / 2]);
    const wanted = fitPicture(drawn(of), wide / 2, high / 2);
    const apart = small.data.reduce((sum, v, i) => sum + Math.abs(v - wanted.data[i]), 0) / small.data.length;
    expect(apart).below(3);
    expect(scaledPromo(of, wide)).equal(of);
    painter.dispose();
  });
});
