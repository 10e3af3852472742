import { expect } from 'chai';
import { smallLight, type LightFrame } from '../src/composite/index.ts';
import type { FrameSpace } from '../src/scene/index.ts';

const frameOf = (width: number, height: number, at: (x: number, y: number) => number): LightFrame => {
  const count = width * height;
  const value = Float32Array.from({ length: count }, (_, i) => at(i % width, Math.floor(i / width)));
  return {
    ...{ width, height },
    light: Float32Array.from({ length: count * 3 }, (_, i) => value[Math.floor(i / 3)] * (1 + (i % 3))),
    matte: value.slice(),
    depths: {
      ...{ space: {} as FrameSpace, things: ['jar'], depth: value.map((v) => v + 1) },
      ids: Uint8Array.from({ length: count * 2 }, (_, i) => i % 2),
      covers: Uint8Array.from({ length: count * 2 }, (_, i) => Math.floor(i / 2) % 251),
    },
  };
};

const mean = (numbers: Float32Array, channel = 0, channels = 1): number => {
  let sum = 0;
  for (let i = channel; i < numbers.length; i += channels) sum += numbers[i];
  return (sum * channels) / numbers.length;
};

describe('composite: light in fewer pixels', () => {
  it('halved, each pixel is the mean of four', () => {
    const frame = frameOf(6, 4, (x, y) => x + 10 * y);
    const { light, matte, width, height } = smallLight(frame, 3, 2);
    expect([width, height]).deep.equal([3, 2]);
    expect([...matte]).deep.equal([5.5, 7.5, 9.5, 25.5, 27.5, 29.5]);
    expect([...light.subarray(3, 6)]).deep.equal([7.5, 15, 22.5]);
  });

  it('keeps all of its light at any size, and what is even stays even', () => {
    const frame = frameOf(96, 54, (x, y) => ((x * 7919 + y * 104729) % 31) / 31);
    const even = frameOf(96, 54, () => 0.75);
    for (const [wide, high] of [
      [64, 36],
      [95, 53],
      [37, 21],
      [1, 1],
    ]) {
      const small = smallLight(frame, wide, high);
      for (const c of [0, 1, 2])
        expect(mean(small.light, c, 3), `${wide} x ${high}`).closeTo(mean(frame.light, c, 3), 1e-5);
      expect(mean(small.matte)).closeTo(mean(frame.matte), 1e-5);
      for (const v of smallLight(even, wide, high).matte) expect(v).closeTo(0.75, 1e-6);
    }
  });

  it('takes depths and things from the pixel in the middle, and never mixes them', () => {
    const frame = frameOf(9, 9, (x, y) => (x < 5 ? 2 : 7) + y * 0);
    const { depths } = smallLight(frame, 3, 3);
    expect([...depths!.depth]).deep.equal([3, 3, 8, 3, 3, 8, 3, 3, 8]);
    expect([...depths!.ids.subarray(0, 4)]).deep.equal([0, 1, 0, 1]);
    expect(depths!.covers[2]).equal(frame.depths!.covers[(1 * 9 + 4) * 2]);
  });

  it('what is small enough is itself, and the same size is made once', () => {
    const frame = frameOf(8, 8, (x) => x);
    expect(smallLight(frame, 8, 8)).equal(frame);
    expect(smallLight(frame, 4, 4)).equal(smallLight(frame, 4, 4));
    expect(smallLight(frame, 2, 2).width).equal(2);
  });
});
