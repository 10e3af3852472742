import { expect } from 'chai';
import { newLayer, type Layer } from '@tender-orbit/core/document';
import {
  NOTHING,
  readLight,
  smallLight,
  writeLight,
  type FrameDepths,
  type LightFrame,
} from '@tender-orbit/core/composite';
import type { FrameSpace } from '@tender-orbit/core/scene';
import { hidingMatte, type DetailPasses } from '@tender-orbit/core/trace';
import { at, composed, layer } from './composite-box.ts';

const [W, H] = [32, 16];
/** Honey: half of what is behind it comes through, of blue nearly nothing. */
const HONEY = [1.8, 1.0, 0.2];
const SPACE: FrameSpace = {
  camera: { eye: [0, 0, 2], right: [1, 0, 0], up: [0, 1, 0], forward: [0, 0, -1], focal: 1, shift: [0, 0] },
  ...{ shutter: 0, aperture: 0, focus: 2, things: {} },
};
/** A black frame, honey a metre away in its left half. */
function frameOf(width = W, height = H): LightFrame {
  const count = width * height;
  const left = (i: number): boolean => i % width < width / 2;
  const depths: FrameDepths = {
    ...{ space: SPACE, depth: new Float32Array(count).map((_, i) => (left(i) ? 1 : 9)), things: ['jar'] },
    ids: new Uint8Array(count * 2).map((_, k) => (k % 2 === 0 && left(k >> 1) ? 0 : NOTHING)),
    covers: new Uint8Array(count * 2).map((_, k) => (k % 2 === 0 && left(k >> 1) ? 255 : 0)),
    tint: new Float32Array(count * 3).map((_, k) => (left(Math.floor(k / 3)) ? HONEY[k % 3] : 1)),
  };
  const matte = new Float32Array(count).map((_, i) => (left(i) ? 0.5 : 0));
  return { width, height, light: new Float32Array(count * 3), matte, depths };
}
const linear = (code: number): number => ((code / 255 + 0.055) / 1.055) ** 2.4;
/** What is seen of white layers over the frame, linear RGB at the middle of each half. */
function overHoney(layers: Layer[], frame = frameOf(), size = { width: W, height: H }): [number[], number[]] {
  const picture = composed([layer('take'), ...layers], { ...size, view: 'plain', take: () => frame });
  const seen = (x: number): number[] =>
    at(picture, Math.floor(size.width * x), size.height >> 1)
      .slice(0, 3)
      .map(linear);
  return [seen(0.25), seen(0.75)];
}
const near = (is: readonly number[], wanted: readonly number[]): void =>
  wanted.forEach((v, c) => expect(is[c]).closeTo(v, 0.012));
const THROUGH = HONEY.map((v) => v / 2);

describe('composite: what is seen through coloured glass', () => {
  const behind = newLayer('solid', 's', 'S', { colour: '#FFFFFF', behind: true } as Partial<Layer>);

  it('is coloured by it behind products, and as it comes beside them', () => {
    const [through, beside] = overHoney([behind]);
    near(through, THROUGH);
    near(beside, [1, 1, 1]);
    const clear = frameOf();
    delete clear.depths!.tint;
    near(overHoney([behind], clear)[0], [0.5, 0.5, 0.5]);
  });

  it('so are cards in the set behind the glass, and those before it are not, at any size', () => {
    const card = (distance: number): Layer =>
      newLayer('shape', 'c', 'C', {
        ...{ form: 'rectangle', colour: '#FFFFFF', width: 20, height: 20, inSet: true, metres: 1, distance },
      } as Partial<Layer>);
    near(overHoney([card(0)])[0], THROUGH);
    near(overHoney([card(1.5)])[0], [1, 1, 1]);
    near(overHoney([card(0)], frameOf(), { width: 48, height: 24 })[0], THROUGH);
    near(overHoney([card(0)], frameOf(), { width: 48, height: 24 })[1], [1, 1, 1]);
  });

  it('and specks that drift there', () => {
    const specks = newLayer('specks', 'p', 'P', {
      ...{ colour: '#FFFFFF', count: 40, size: 0.04, spread: 0, softness: 0, twinkle: 0, inSet: true, metres: 1 },
    } as Partial<Layer>);
    const size = { width: 128, height: 64 };
    const picture = composed([layer('take'), specks], { ...size, view: 'plain', take: () => frameOf(128, 64) });
    const sums = [0, 0, 0];
    for (let y = 0; y < 64; y++)
      for (let x = 0; x < 60; x++) at(picture, x, y).forEach((v, c) => c < 3 && (sums[c] += linear(v) - linear(0)));
    expect(sums[0]).above(1);
    expect(sums[1] / sums[0]).closeTo(HONEY[1] / HONEY[0], 0.08);
    expect(sums[2] / sums[0]).closeTo(HONEY[2] / HONEY[0], 0.08);
  });

  it('is kept with a frame within half a step, and averaged where it is made smaller', () => {
    const frame = frameOf();
    const again = readLight(writeLight(frame));
    again.depths!.tint!.forEach((v, k) => expect(v).closeTo(frame.depths!.tint![k], 0.5 / 85 + 1e-6));
    const small = smallLight(frame, W / 2, H / 2).depths!.tint!;
    near([...small.subarray(0, 3)], HONEY);
    delete frame.depths!.tint;
    expect(readLight(writeLight(frame)).depths).not.property('tint');
    expect(writeLight(frameOf()).length - writeLight(frame).length).within(W * H * 3, W * H * 3 + 20);
  });
});

describe('passes: what products hide', () => {
  /** Three pixels: honey far before a wall, honey with its label right behind it, and a thing that is not asked for. */
  const passes = (transmittance: number[]) => ({
    depth: Float32Array.of(1, 1, 1),
    detail: {
      thing: Float32Array.of(3, -1, -1, -1, 3, -1, -1, -1, 4, -1, -1, -1),
      thingCover: Float32Array.of(1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0),
      transmittance: Float32Array.from([...transmittance, ...transmittance, ...transmittance]),
      opaqueDepth: Float32Array.of(3, 1.05, 3),
    } as unknown as DetailPasses,
  });

  it('is what their glass does not let through, and its colour apart from that', () => {
    const { matte, tint } = hidingMatte(passes([0.9, 0.5, 0.1]), new Set([3]), 0.15);
    [0.5, 1, 0].forEach((v, i) => expect(matte[i]).closeTo(v, 1e-6));
    [1.8, 1, 0.2, 1, 1, 1, 1, 1, 1].forEach((v, i) => expect(tint![i]).closeTo(v, 1e-6));
  });

  it('goes over from what is its own to what is behind it, so that no edge is between them', () => {
    const apart = [0, 0.075, 0.1, 0.15, 0.2, 0.225, 0.3];
    const mattes = apart.map((gap) => {
      const all = passes([0.9, 0.5, 0.1]);
      all.detail.opaqueDepth[0] = 1 + gap;
      return hidingMatte(all, new Set([3]), 0.15).matte[0];
    });
    [1, 1, 1 - 0.5 / 6, 0.75, 0.5 + 0.5 / 6, 0.5, 0.5].forEach((v, n) => expect(mattes[n]).closeTo(v, 1e-4));
  });

  it('clear glass colours nothing, and black glass has no colour', () => {
    expect(hidingMatte(passes([0.9, 0.9, 0.9]), new Set([3]), 0.15).tint).equal(null);
    const black = hidingMatte(passes([0, 0, 0]), new Set([3]), 0.15);
    expect(black.matte[0]).equal(1);
    expect(black.tint).equal(null);
  });
});
