import { expect } from 'chai';
import { newLayer, newShot, type Layer, type Track } from '@tender-orbit/core/document';
import { compileLayers, composeShot, type FrameDepths, type LightFrame } from '@tender-orbit/core/composite';
import type { FrameSpace } from '@tender-orbit/core/scene';
import type { Picture } from '@tender-orbit/core/picture';
import { at, composed, plates } from './composite-box.ts';

const SIZE = { width: 96, height: 64 };
const count = SIZE.width * SIZE.height;
const RATE = { num: 24, den: 1 };
/** Fine stripes, as high as a frame: whatever reads them twice makes them soft. */
const STRIPES: Picture = { ...SIZE, data: new Uint8ClampedArray(count * 4).fill(255) };
for (let i = 0; i < count; i++) if (((i % SIZE.width) >> 1) % 2 === 0) STRIPES.data.fill(0, i * 4, i * 4 + 3);
/** The same, lying. */
const BANDS: Picture = { ...SIZE, data: new Uint8ClampedArray(count * 4).fill(255) };
for (let i = 0; i < count; i++) if ((Math.floor(i / SIZE.width) >> 1) % 2 === 0) BANDS.data.fill(0, i * 4, i * 4 + 3);

const still = (values: Partial<Layer>): Layer =>
  newLayer('still', 's', 'Still', { asset: 'stripes', height: 1, space: 'glass', ...values } as Partial<Layer>);
const group = (values: Partial<Layer>, id = 'g'): Layer =>
  newLayer('group', id, 'Group', { space: 'glass', ...values });
const drawn = (...layers: Layer[]): Picture =>
  composed(compileLayers({ ...newShot('S', 'set', 'hero', 24), layers }).at(0), {
    ...SIZE,
    still: () => STRIPES,
  });

describe('composite: what moved groups hold', () => {
  it('is read once: turned by a group and back by itself a picture keeps every pixel', () => {
    const upright = drawn(still({}));
    expect(drawn(still({ group: 'g', rotation: -10 }), group({ rotation: 10 })).data).deep.equal(upright.data);
    // Through groups in groups, one of them only moved and scaled.
    const nested = [
      still({ group: 'inner', rotation: -30, scale: 0.5 }),
      group({ group: 'outer', rotation: 30 }, 'inner'),
      group({ scale: 2 }, 'outer'),
    ];
    expect(drawn(...nested).data).deep.equal(upright.data);
  });

  it('beyond the picture’s edge is there when the group brings it in', () => {
    const box = newLayer('shape', 'b', 'Box', {
      ...{ form: 'rectangle', width: 0.4, height: 0.4, colour: '#FF0000', space: 'glass', x: 1.5, group: 'g' },
    } as Partial<Layer>);
    expect(at(drawn(box, group({})), 48, 32)[0]).equal(0);
    expect(at(drawn(box, group({ x: -1.5 })), 48, 32)[0]).equal(255);
    expect(at(drawn({ ...box, trail: 2 } as Layer, group({ x: -1.5, rotation: 0 })), 48, 32)[0]).equal(255);
  });

  it('is moved as one picture where the group is cropped, or holds what changes all below it', () => {
    const cropped = drawn(still({ group: 'g' }), group({ cropLeft: 0.5, x: 0.25 }));
    const reds = (from: number, to: number): number[] =>
      Array.from({ length: to - from }, (_, i) => at(cropped, from + i, 32)[0]);
    expect(Math.max(...reds(0, 60))).equal(0);
    expect(Math.max(...reds(70, 90))).equal(255);
    const blurred = newLayer('filter', 'f', 'Blur', {
      ...{ form: 'blur', size: 0.2, group: 'g', space: 'glass' },
    } as Partial<Layer>);
    const all = drawn(still({ group: 'g' }), blurred, group({ scale: 0.5 }));
    const middle = Array.from({ length: 20 }, (_, i) => at(all, 38 + i, 32)[0]);
    expect(Math.max(...middle) - Math.min(...middle)).below(12);
  });
});

/** A camera two metres before the middle; nothing stands before anything, and the shutter is open for a frame. */
const SPACE: FrameSpace = {
  camera: { eye: [0, 0, 2], right: [1, 0, 0], up: [0, 1, 0], forward: [0, 0, -1], focal: 1, shift: [0, 0] },
  ...{ shutter: 1, aperture: 0, focus: 2, things: {} },
};
const depths: FrameDepths = {
  ...{ space: SPACE, depth: new Float32Array(count).fill(9), things: [] },
  ids: new Uint8Array(count * 2).fill(255),
  covers: new Uint8Array(count * 2),
};
const TAKE: LightFrame = { ...SIZE, light: new Float32Array(count * 3), matte: new Float32Array(count), depths };
const STANDS = { inSet: true, metres: 1, lift: 0, space: 'scene' } as const;

/** Values of layers as the shutter opens and closes, by the layer and the value. */
type Ways = Record<string, Record<string, [number, number]>>;

/** A frame of cards that go ways of their own. */
function shot(layers: readonly Layer[], keys: Ways): Picture {
  const tracks = Object.entries(keys).flatMap(([thing, paths]) =>
    Object.entries(paths).map(([path, [from, to]]): Track => ({
      ...{ thing, path },
      keys: [
        { frame: 0, value: from, ease: 'linear' },
        { frame: 1, value: to, ease: 'linear' },
      ],
    })),
  );
  const document = {
    ...newShot('S', 'set', 'hero', 24),
    tracks,
    layers: [newLayer('take', 't', 'Take', {}), ...layers],
  };
  return composeShot(plates, { shot: document, view: 'plain' }, 0, RATE, SIZE, {
    ...{
      takes: new Map([['', TAKE]]),
      stills: new Map([
        ['stripes', STRIPES],
        ['bands', BANDS],
      ]),
      films: new Map(),
      cubes: new Map(),
      text: () => null,
    },
  });
}
/** How bright the middle row of a frame is. */
function row(layers: readonly Layer[], keys: Ways): number[] {
  const picture = shot(layers, keys);
  return Array.from({ length: SIZE.width }, (_, x) => at(picture, x, 32)[0]);
}
/** How many columns lie between dark and full. */
const partly = (line: readonly number[]): number => line.filter((v) => v > 20 && v < 235).length;

describe('composite: motion blur of cards', () => {
  const box = (values: Partial<Layer> = {}): Layer =>
    newLayer('shape', 'b', 'Box', {
      ...{ form: 'rectangle', width: 0.3, height: 0.9, colour: '#FFFFFF', softness: 0.0001, space: 'scene' },
      ...values,
    } as Partial<Layer>);
  // At two metres half a length is 16 pixels.
  const way = { x: [0, 0.5] as [number, number] };

  it('is that of what carries them, and of their own way on it', () => {
    const alone = row([box(STANDS)], { b: way });
    expect(partly(alone)).within(18, 34);
    const holder = newLayer('null', 'n', 'Null', STANDS as Partial<Layer>);
    expect(row([holder, box({ parent: 'n' })], { n: way })).deep.equal(alone);
    expect(row([holder, box({ parent: 'n' })], { b: way })).deep.equal(alone);
    expect(partly(row([holder, box({ parent: 'n' })], {}))).below(4);
  });

  it('is that of groups that stand in the set', () => {
    const held = [box({ group: 'g' }), newLayer('group', 'g', 'Group', STANDS as Partial<Layer>)];
    expect(partly(row(held, { g: way }))).within(18, 34);
    expect(partly(row(held, {}))).below(4);
  });

  it('is that of a page that scrolls, of corners that are drawn out, and of what turns about its middle', () => {
    const page = still({ ...STANDS, view: 0.25, height: 0.9 } as Partial<Layer>);
    const stripes = (ways: Ways): number => {
      const picture = shot([{ ...page, asset: 'bands' } as Layer], ways);
      const column = Array.from({ length: 12 }, (_, i) => at(picture, 48, 26 + i)[0]);
      return Math.max(...column) - Math.min(...column);
    };
    expect(stripes({})).above(150);
    expect(stripes({ s: { scroll: [0, 0.5] } })).below(70);
    const pinned = still({ ...STANDS, height: 0.5 } as Partial<Layer>);
    expect(row([pinned], { s: { pinBX: [0, 0.4], pinCX: [0, 0.4] } })).not.deep.equal(row([pinned], {}));
    const tall = box({ ...STANDS, width: 0.1 });
    expect(partly(row([{ ...tall, y: 0.3 } as Layer], { b: { rotation: [0, 40] } }))).above(
      partly(row([{ ...tall, y: 0.3 } as Layer], {})),
    );
  });
});
