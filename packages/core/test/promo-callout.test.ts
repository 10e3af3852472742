import { expect } from 'chai';
import {
  newClipPicture,
  newPace,
  newPromo,
  newTitle,
  newTransition,
  setPart,
  swapTake,
  runCommand,
  validateDocument,
  type Clip,
  type ClipPicture,
  type PromoDocument,
  type Title,
  type TitleCallout,
} from '@tender-orbit/core/document';
import {
  NOTHING,
  pointSeen,
  pointUnder,
  readDepths,
  readLight,
  writeLight,
  type LightFrame,
} from '@tender-orbit/core/composite';
import { makePicture } from '@tender-orbit/core/picture';
import {
  assemble,
  calloutAt,
  frameKey,
  pointOfClip,
  shownAt,
  trackAt,
  type TitleGround,
  type TitlePainter,
} from '@tender-orbit/core/promo';
import type { FrameSpace } from '@tender-orbit/core/scene';
import { plates } from './composite-box.ts';
import { openPainter } from './title-box.ts';

/** A camera two metres before the middle that looks along -Z, with a picture as high as it is far. */
const SPACE: FrameSpace = {
  camera: { eye: [0, 0.5, 2], right: [1, 0, 0], up: [0, 1, 0], forward: [0, 0, -1], focal: 1, shift: [0.1, 0] },
  ...{ shutter: 0, aperture: 0, focus: 2, things: {} },
};
const [W, H] = [40, 20];
/** A wall at Z = 0 that is a jar in its right half; nothing in its uppermost rows. */
function wall(): LightFrame {
  const count = W * H;
  const [depth, ids, covers] = [new Float32Array(count), new Uint8Array(count * 2), new Uint8Array(count * 2)];
  for (let i = 0; i < count; i++) {
    const [u, v] = [((i % W) + 0.5 - W / 2) / H + 0.1, (H / 2 - Math.floor(i / W) - 0.5) / H];
    if (i >= 4 * W) depth[i] = 2 * Math.sqrt(1 + u * u + v * v);
    const jar = i % W >= W / 2;
    ids.set([jar ? 0 : NOTHING, NOTHING], i * 2);
    covers[i * 2] = jar ? 255 : 0;
  }
  const matte = Float32Array.from({ length: count }, (_, i) => (i % W >= W / 2 ? 1 : 0));
  return {
    ...{ width: W, height: H, light: new Float32Array(count * 3), matte },
    depths: { space: SPACE, things: ['jar'], depth, ids, covers },
  };
}

describe('a callout whose clip shows another take', () => {
  const callout: TitleCallout = { take: 'draft', from: 0, track: [0, 0, 1], line: 0.004, mark: 'ring', rides: false };
  const pace = { ...newPace(), rendered: { take: 'between', times: [0.5] } };
  const promo: PromoDocument = {
    ...newPromo('P', 320, 180),
    clips: [
      { id: 'a', take: 'draft', start: 0, length: 24, pace },
      { id: 'b', take: 'draft', start: 24, length: 24 },
    ],
    titles: [
      newTitle('on', { start: 10, length: 10, callout }),
      newTitle('later', { start: 30, length: 10, callout }),
      newTitle('plain', { start: 10, length: 10 }),
    ],
  };
  const shown = (alike: boolean): Array<string | undefined> => {
    const after = runCommand(promo, swapTake('a', 'final', alike));
    expect(after.clips.map(({ take }) => take)).deep.equal(['final', 'draft']);
    expect(after.clips[0].pace).deep.equal(newPace());
    expect(validateDocument('promo', after)).deep.equal(after);
    return after.titles.map((title) => title.callout?.take);
  };

  it('stays on its point when that is of the same shot, where the clip is seen', () => {
    expect(shown(true)).deep.equal(['final', 'draft', undefined]);
  });

  it('does not follow into another shot, where its point is not', () => {
    expect(shown(false)).deep.equal(['draft', 'draft', undefined]);
  });
});

describe('points in takes', () => {
  it('are found in the set by how far away what is seen there is, and on which thing', () => {
    const point = pointUnder(wall(), [0.225, -0.125])!;
    expect(point.thing).equal('jar');
    expect(point.at[0]).closeTo(2 * 0.325, 1e-6);
    expect(point.at[1]).closeTo(0.5 - 2 * 0.125, 1e-6);
    expect(point.at[2]).closeTo(0, 1e-6);
    expect(pointUnder(wall(), [-0.225, -0.125])!.thing).equal('');
    expect(pointUnder(wall(), [0.2, 0.45])).equal(null);
    expect(pointUnder(wall(), [4, 0])).equal(null);
    expect(pointUnder({ ...wall(), depths: undefined }, [0, 0])).equal(null);
  });

  it('are in the picture where the camera has them, hidden by what is clearly nearer', () => {
    const { at } = pointUnder(wall(), [0.225, -0.125])!;
    const [x, y, seen] = pointSeen(at, SPACE, wall())!;
    expect([x, y].map((v) => Number(v.toFixed(9)))).deep.equal([0.225, -0.125]);
    expect(seen).equal(1);
    expect(pointSeen([at[0] * 1.5, at[1] * 1.5 - 0.25, -1], SPACE, wall())![2]).equal(0);
    expect(pointSeen([0, 0.5, 3], SPACE, wall())).equal(null);
    expect(pointSeen([0.3, 0.5, -5], SPACE, null)![2]).equal(1);
  });

  it('a frame is read without its light like with it', () => {
    const bytes = writeLight(wall());
    const { light, ...rest } = readLight(bytes);
    expect(readDepths(bytes)).deep.equal(rest);
    expect(light).length(W * H * 3);
    expect(() => readDepths(bytes.slice(1))).throw(/render the take again/);
  });
});

const [WIDE, HIGH] = [320, 180];
const callout = (values: Partial<TitleCallout> = {}): TitleCallout => ({
  ...{ take: 'a', from: 10, line: 0.1, mark: 'ring', rides: false },
  track: Array.from({ length: 21 }, (_, n) => [n / 100, 0 - n / 200, 1]).flat(),
  ...values,
});
const still = { kind: 'none', frames: 0 } as const;
const title = (values: Partial<Title> = {}): Title =>
  newTitle('t', {
    ...{ text: 'Lid', size: 20, x: 0.2, y: 0.2, start: 0, length: 60, arrive: still, leave: still },
    ...{ callout: callout(), colour: '#FF0000' },
    ...values,
  });
const promo = (clip: Partial<Clip> = {}, of: Partial<Title> = {}): PromoDocument => ({
  ...newPromo('P', WIDE, HIGH),
  clips: [
    { id: 'x', take: 'a', start: 10, length: 21, ...clip },
    { id: 'y', take: 'b', start: 0, length: 20 },
  ],
  titles: [title(of)],
});
const at = (of: PromoDocument, frame: number, aspect: number | null = 16 / 9) =>
  calloutAt(
    of.titles[0],
    of,
    shownAt(of, frame, () => 100),
    () => aspect,
  );

describe('promo: callouts', () => {
  it('are where their point was followed to, between two frames in between, beyond them at the ends', () => {
    expect(trackAt(callout(), 10)!.map((v) => Number(v.toFixed(9)))).deep.equal([0, 0, 1]);
    expect(trackAt(callout(), 12.5)![0]).closeTo(0.025, 1e-9);
    expect(trackAt(callout(), 99)![0]).closeTo(0.2, 1e-9);
    expect(trackAt(callout(), 0)![0]).equal(0);
    expect(trackAt(callout({ track: [] }), 10)).equal(null);
    // Out of sight it goes over some frames.
    const gone = callout({ track: Array.from({ length: 9 }, (_, n) => [0, 0, n < 5 ? 1 : 0]).flat() });
    const seen = [2, 3, 4, 5, 6, 7].map((n) => trackAt(gone, 10 + n)![2]);
    expect(seen).deep.equal([1, 0.8, 0.6, 0.4, 0.2, 0]);
  });

  it('follow the take at the pace of its clip, and point at nothing in others', () => {
    const of = promo();
    expect(at(of, 0)).deep.equal({ x: 0.5, y: 0.5, seen: 1 });
    expect(at(of, 10)!.x).closeTo(0.5 + (0.1 * 9) / 16, 1e-9);
    expect(at(of, 10)!.y).closeTo(0.5 + 0.05, 1e-9);
    expect(at(of, 30)).equal(null);
    const slow = promo({ pace: { ...newPace(), from: 0.5, to: 0.5 } });
    expect(at(slow, 10)!.x).closeTo(0.5 + (0.05 * 9) / 16, 1e-9);
    const back = promo({ pace: { ...newPace(), from: 1, to: 1, reverse: true } });
    expect(at(back, 0)!.x).closeTo(at(of, 20)!.x, 1e-9);
    expect(at(promo({ off: true }), 5)).equal(null);
    expect(at(promo({}, { callout: undefined }), 5)).equal(null);
  });

  it('go through the picture of the clip, and a press finds its way back', () => {
    const pictures: Array<[Partial<ClipPicture>, Partial<Clip>, number]> = [
      [{ scale: 2, x: 0.1, y: -0.2 }, {}, 16 / 9],
      [{ rotation: 90 }, {}, 16 / 9],
      [{ rotation: -33, scale: 1.4, mirror: true, x: 0.3 }, {}, 16 / 9],
      [{ scale: 1.2 }, { fill: 'cropped' }, 9 / 16],
      [{ scale: 0.8 }, { fill: 'blurred' }, 1],
    ];
    for (const [picture, clip, own] of pictures) {
      const of = promo({ ...clip, picture: newClipPicture({ cover: false, ...picture }) });
      const there = at(of, 14, own)!;
      const shown = shownAt(of, 14, () => 100)!.clip;
      const [x, y] = pointOfClip(of, shown, own, [there.x, there.y]);
      expect([x, y].map((v) => Number(v.toFixed(9)))).deep.equal([0.14, -0.07]);
    }
    const grown = promo({ picture: newClipPicture({ cover: false, scale: 2, x: 0.1 }) });
    expect(at(grown, 10)!.x).closeTo(0.5 + ((0.2 + 0.1) * 9) / 16, 1e-9);
    const turned = promo({ picture: newClipPicture({ cover: false, rotation: 90 }) });
    expect(at(turned, 10)!.y).closeTo(0.5 - 0.1, 1e-9);
  });

  it('come and go with their clip in a transition', () => {
    const of = promo();
    of.clips[1].into = newTransition('dissolve', 8);
    const seen = [17, 19, 20, 22, 24].map((frame) => at(of, frame)!.seen);
    expect(seen).deep.equal([...seen].sort((a, b) => b - a));
    expect(seen[0]).below(1);
    expect(seen[4]).above(0);
  });

  describe('drawn', () => {
    let painter: TitlePainter;
    before(async () => void (painter = await openPainter()));
    after(() => painter.dispose());
    const ground = (x: number, y: number, seen = 1): TitleGround => ({
      ...{ along: null, window: null },
      callout: { x, y, seen },
    });
    /** Red at a place, 0..255 premultiplied. */
    const red = (of: Title, on: TitleGround | undefined, x: number, y: number, frame = 5): number => {
      const drawn = painter.draw(of, frame, WIDE, HIGH, on)!;
      return drawn.data[((y - drawn.top) * drawn.width + x - drawn.left) * 4];
    };

    it('a line goes from the text to the point, grows as it comes, and fades with what is hidden', () => {
      const on = ground(0.7, 0.2);
      expect(red(title(), on, 150, 36)).above(200);
      expect(red(title({ callout: callout({ line: 0 }) }), on, 150, 36)).equal(0);
      // A ring is empty in its middle, a dot is not.
      expect(red(title(), on, 224, 36)).equal(0);
      expect(red(title({ callout: callout({ mark: 'dot' }) }), on, 224, 36)).above(200);
      const coming = title({ arrive: { kind: 'fade', frames: 30 } });
      const reach = (frame: number): number =>
        [100, 140, 180, 215].filter((x) => red(coming, on, x, 36, frame) > 0).length;
      expect(reach(0)).below(reach(6));
      expect(reach(40)).equal(4);
      expect(red(title(), ground(0.7, 0.2, 0.5), 150, 36)).within(90, 140);
      expect(painter.draw(title(), 5, WIDE, HIGH, ground(0.7, 0.2, 0))).equal(null);
    });

    it('a promo draws them where their clip has the point, goes along with it when told so, and else not at all', () => {
      const picture = makePicture(WIDE, HIGH, [0, 0, 0]);
      const drawn = (of: PromoDocument, frame: number) =>
        assemble(
          ...([plates, of, frame, shownAt(of, frame, () => 100)] as const),
          () => picture,
          painter,
          null,
          () => 100,
        );
      const inkOf = (of: PromoDocument, frame: number): [left: number, count: number] => {
        const { data } = drawn(of, frame);
        let [left, count] = [Infinity, 0];
        for (let i = 0; i < WIDE * HIGH; i++)
          if (data[i * 4] > 128) [left, count] = [Math.min(left, i % WIDE), count + 1];
        return [left, count];
      };
      const plain = promo();
      expect(inkOf(plain, 30)[1]).equal(0);
      expect(inkOf(plain, 5)[1]).above(50);
      expect(inkOf(plain, 20)[0]).equal(inkOf(plain, 0)[0]);
      const riding = promo({}, { callout: callout({ rides: true }) });
      expect(inkOf(riding, 20)[0] - inkOf(riding, 0)[0]).closeTo(0.2 * HIGH, 1.5);
      expect(frameKey(plain, 5, () => 100)).not.equal(frameKey(plain, 6, () => 100));
    });
  });

  it('are kept with the document', () => {
    const of = runCommand(promo(), setPart('t', 'Point', 'callout', callout({ mark: 'dot' })));
    expect(of.titles[0].callout!.mark).equal('dot');
    expect(validateDocument('promo', JSON.parse(JSON.stringify(of)))).deep.equal(of);
    expect('callout' in runCommand(of, setPart('t', 'Point', 'callout', null)).titles[0]).equal(false);
  });
});
