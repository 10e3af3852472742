import { expect } from 'chai';
import { newLayer, newShot, type Clip, type TakeComposite } from '@tender-orbit/core/document';
import {
  betweenLight,
  composeTake,
  readLight,
  writeLight,
  type CompositeReader,
  type FrameDepths,
  type LightFrame,
  type LightParts,
} from '@tender-orbit/core/composite';
import { compensatedTakes, framesShown } from '@tender-orbit/core/promo';
import type { FrameSpace } from '@tender-orbit/core/scene';
import { at, plates } from './composite-box.ts';

const [W, H] = [48, 24];
const RATE = { num: 24, den: 1 };
const space = (x: number): FrameSpace => ({
  camera: { eye: [x, 0, 2], right: [1, 0, 0], up: [0, 1, 0], forward: [0, 0, -1], focal: 1, shift: [0, 0] },
  ...{ shutter: 0.5, aperture: 0, focus: 2, things: { box: { at: [x, 0, 0], close: [x + 0.5, 0, 0] } } },
});
/** Fine stripes that stand still, and a chequered square of 8 that goes to the right, its left edge at a column. */
const SIDE = 8;
const TOP = 8;
const ground = (x: number, y: number): number => 0.1 + 0.1 * ((x + 2 * y) % 3);
const paint = (x: number, y: number): number => 0.6 + 0.4 * (((x >> 1) + (y >> 1)) % 2);
function sceneAt(left: number, since: number): LightFrame {
  const light = new Float32Array(W * H * 3);
  const matte = new Float32Array(W * H);
  const motion = new Float32Array(W * H * 2);
  const depth = new Float32Array(W * H).fill(5);
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const i = y * W + x;
      const inside = x >= left && x < left + SIDE && y >= TOP && y < TOP + SIDE;
      light.fill(inside ? paint(x - left, y) : ground(x, y), i * 3, i * 3 + 3);
      matte[i] = inside ? 1 : 0;
      if (inside) [motion[i * 2], depth[i]] = [since / H, 1];
    }
  const depths: FrameDepths = {
    ...{ space: space(left / 10), depth, things: ['box'], motion },
    ids: new Uint8Array(W * H * 2),
    covers: new Uint8Array(W * H * 2),
  };
  return { width: W, height: H, light, matte, depths };
}
const reds = ({ light }: LightFrame): number[] => Array.from({ length: W * H }, (_, i) => light[i * 3]);

describe('frames of a take between those that are rendered', () => {
  const [from, next] = [sceneAt(10, 6), sceneAt(16, 6)];

  it('show what moves where it is then, sharp, and nothing twice', () => {
    const made = betweenLight(plates, from, next, 0.5);
    const wanted = reds(sceneAt(13, 6));
    reds(made).forEach((v, i) => expect(v, `pixel ${i % W}, ${Math.floor(i / W)}`).closeTo(wanted[i], 1e-4));
    made.matte.forEach((v, i) => expect(v).closeTo(sceneAt(13, 6).matte[i], 1e-4));
    // At a third of the way it lies on whole pixels too.
    const third = reds(sceneAt(12, 6));
    const made3 = reds(betweenLight(plates, from, next, 1 / 3));
    made3.forEach((v, i) => {
      const [x, y] = [i % W, Math.floor(i / W)];
      const inside = x >= 12 && x < 20 && y >= TOP && y < TOP + SIDE;
      // A pixel about it goes along with it, as its soft edge would.
      const about = x >= 11 && x <= 20 && y >= TOP - 1 && y <= TOP + SIDE;
      if (inside || !about) expect(v, `pixel ${x}, ${y}`).closeTo(third[i], 1e-3);
    });
  });

  it('without motion two frames are mixed, and of two sizes the nearer one is shown', () => {
    const still = structuredClone(from);
    delete still.depths!.motion;
    const [a, b] = [reds(from), reds(next)];
    reds(betweenLight(plates, still, next, 0.25)).forEach((v, i) => expect(v).closeTo(0.75 * a[i] + 0.25 * b[i], 1e-6));
    const other = { ...next, width: W / 2, height: H * 2 };
    expect(betweenLight(plates, from, other, 0.4)).equal(from);
    expect(betweenLight(plates, from, other, 0.6)).equal(other);
    // A take at half rate has the same frame twice.
    const again = structuredClone(next);
    expect(betweenLight(plates, next, again, 0.4)).equal(next);
  });

  it('know where camera and things are, and take depth from the nearer frame', () => {
    const { depths } = betweenLight(plates, from, next, 0.25);
    expect(depths!.space.camera.eye[0]).closeTo(1 + 0.25 * 0.6, 1e-9);
    expect(depths!.space.things.box.at[0]).closeTo(1.15, 1e-9);
    expect(depths!.space.things.box.close![0]).closeTo(1.65, 1e-9);
    const corner = TOP * W + 10;
    expect(depths!.depth[corner]).equal(1);
    expect(betweenLight(plates, from, next, 0.75).depths!.depth[corner]).equal(5);
  });

  it('motion is kept with a frame, to a fifteenth of a pixel of full HD, either way', () => {
    const frame = sceneAt(10, 6);
    frame.depths!.motion!.forEach((_, i, all) => (all[i] = (i % 97) / 500 - 0.1));
    const again = readLight(writeLight(frame)).depths!.motion!;
    again.forEach((v, i) => expect(v).closeTo(frame.depths!.motion![i], 0.5 / 16384 + 1e-7));
  });

  /** Frames of a square that goes six pixels a frame; each light by light too. */
  const reader: CompositeReader = {
    plates,
    light: (_take, frame) => Promise.resolve(Number.isInteger(frame) ? sceneAt(4 + 6 * frame, 6) : null),
    parts: (_take, frame): Promise<LightParts | null> => {
      if (!Number.isInteger(frame)) return Promise.resolve(null);
      const { light } = sceneAt(4 + 6 * frame, 6);
      const half = light.map((v) => v / 2);
      return Promise.resolve({ width: W, height: H, parts: ['key', 'rim'].map((id) => ({ light: id, data: half })) });
    },
    still: () => Promise.resolve(null),
    cube: () => Promise.resolve(null),
    vector: () => Promise.resolve(null),
    film: () => Promise.resolve(null),
    text: () => null,
  };
  const codeOf = (v: number): number => Math.round(255 * (1.055 * v ** (1 / 2.4) - 0.055));

  it('composites at such a time have their layers, their lights and their keys then', async () => {
    const shot = newShot('S', 'set', 'hero', 24);
    const composite: TakeComposite = { shot, view: 'plain' };
    const picture = (await composeTake('t', composite, 1.5, RATE, reader))!;
    // The square's left edge is at 13 there.
    expect(at(picture, 13, 10)[0]).closeTo(codeOf(paint(0, 10)), 1);
    expect(at(picture, 12, 10)[0]).closeTo(codeOf(ground(12, 10)), 1);
    const layers = [
      newLayer('take', 'take', 'Take'),
      newLayer('fader', 'f', 'Rim', { group: 'take', light: 'rim', level: 0 } as never),
    ];
    const dimmed = (await composeTake('t', { shot: { ...shot, layers }, view: 'plain' }, 1.5, RATE, reader))!;
    expect(at(dimmed, 13, 10)[0]).closeTo(codeOf(paint(0, 10) / 2), 2);
    const glow = newLayer('solid', 'g', 'Glow', { colour: '#FFFFFF', space: 'glass' } as never);
    const tracks = [
      {
        ...{ thing: 'g', path: 'opacity' },
        keys: [0, 2].map((frame) => ({ frame, value: frame / 2, ease: 'linear' as const })),
      },
    ];
    const keyed = { ...shot, layers: [layers[0], glow], tracks };
    const over = (await composeTake('t', { shot: keyed, view: 'plain' }, 1.5, RATE, reader))!;
    const below = at(picture, 2, 2)[0];
    expect(at(over, 2, 2)[0]).closeTo(0.25 * below + 0.75 * 255, 1);
  });

  it('are what a slowed clip asks for that is motion-compensated, at just its times', () => {
    const clip: Clip = {
      ...{ id: 'c', take: 't', start: 4, length: 10 },
      pace: { from: 0.4, to: 0.4, reverse: false, between: 'compensated' },
    };
    expect([0, 1, 2, 5].map((n) => framesShown(clip, n, 24))).deep.equal(
      [4, 4.4, 4.8, 6].map((frame) => [{ take: 't', frame, weight: 1 }]),
    );
    // Past the take's end its last frame stays.
    expect(framesShown({ ...clip, start: 22 }, 9, 24)).deep.equal([{ take: 't', frame: 23, weight: 1 }]);
    expect([...compensatedTakes([{ clips: [clip, { ...clip, take: 'u', pace: undefined }] }])]).deep.equal(['t']);
  });
});
