import { expect } from 'chai';
import { compose, StackCache, type ComposeInput, type LightFrame } from '@tender-orbit/core/composite';
import type { Layer } from '@tender-orbit/core/document';
import { layer, newPlates } from './composite-box.ts';

/** Light that differs from pixel to pixel, some of it brighter than white. */
function lightOf(width: number, height: number): LightFrame {
  const light = Float32Array.from({ length: width * height * 3 }, (_, i) => 0.02 + (((i * 7919) % 1013) / 1013) * 1.4);
  return { width, height, light, matte: new Float32Array(width * height) };
}

describe('composite: band by band', () => {
  const plates = newPlates();
  const made = (layers: Layer[], width: number, height: number, cache: StackCache | null = null): Uint8ClampedArray => {
    const light = lightOf(width, height);
    const input: ComposeInput = {
      ...{ width, height, frame: 3, seconds: 0.125, view: 'neutral', take: (take) => (take === '' ? light : null) },
    };
    return compose(plates, layers, input, cache).data;
  };
  const look = { tilt: 15, turn: -25, rotation: 20 };
  const STACK: Layer[] = [
    layer('take', { exposure: 0.3 }),
    layer('gradient', { blend: 'screen', opacity: 0.4, ...look }),
    layer('gradient', { form: 'conical', blend: 'soft light' } as never),
    layer('repeater', { form: 'rays', blend: 'multiply', opacity: 0.7, rotation: 10 } as never),
    layer('shape', { form: 'star', softness: 0.02, x: 0.2, y: -0.1, ...look } as never),
    layer('strip', { blend: 'add' } as never),
    layer('grade', { contrast: 1.2, saturation: 0.8, exposure: 0.2, opacity: 0.6 } as never),
    layer('solid', { colour: '#402010', blend: 'difference', opacity: 0.2 }),
  ];

  // Narrow, wide, of rows that are no whole fours, and of one band.
  for (const [width, height] of [
    [640, 360],
    [33, 517],
    [1021, 50],
    [64, 36],
  ])
    it(`${width} x ${height} pixels come out to the byte as all at once, which is how a cache has it`, () => {
      expect(made(STACK, width, height)).deep.equal(made(STACK, width, height, new StackCache()));
    });

  it('layers that look at other pixels, and those on the glass, lie between as they did', () => {
    const mixed: Layer[] = [
      ...STACK.slice(0, 3),
      layer('lens', { bloom: 0.2, vignette: 0.3 } as never),
      ...STACK.slice(5, 7),
      layer('shape', { blur: 0.03 } as never),
      layer('solid', { colour: '#203040', opacity: 0.4, mask: 'ellipse' } as never),
      layer('grade', { contrast: 1.1 } as never),
      layer('gradient', { space: 'glass', opacity: 0.5 } as never),
      layer('shape', { space: 'glass', form: 'polygon', x: -0.3 } as never),
    ];
    expect(made(mixed, 320, 180)).deep.equal(made(mixed, 320, 180, new StackCache()));
  });

  it('a take that is moved, cropped or not there is laid as it was', () => {
    for (const take of [{ x: 0.1 }, { cropLeft: 0.2 }, { take: 'gone' }, { opacity: 0.5 }, { scale: 0.5 }]) {
      const stack = [layer('solid', { colour: '#336699' }), layer('take', take as never), ...STACK.slice(1)];
      expect(made(stack, 200, 120), JSON.stringify(take)).deep.equal(made(stack, 200, 120, new StackCache()));
    }
  });
});
