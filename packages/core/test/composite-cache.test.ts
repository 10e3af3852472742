import { expect } from 'chai';
import { newLayer, newShot, type Layer } from '@tender-orbit/core/document';
import { compileLayers, compose, PictureCache, StackCache, type ComposeInput } from '@tender-orbit/core/composite';
import type { Picture } from '@tender-orbit/core/picture';
import { layer, lightOf, newPlates } from './composite-box.ts';

const SIZE = { width: 64, height: 36 };
const TAKE = lightOf(64, 36, [0.2, 0.3, 0.4]);

/** A stack with a grade, a group, a clip, a further mask, a matte and layers on the glass. */
function stack(): Layer[] {
  const shape = (id: string, values: object): Layer => newLayer('shape', id, id, values);
  return [
    layer('take'),
    newLayer('grade', 'g', 'G', { exposure: 1 } as Partial<Layer>),
    shape('a', { width: 0.6, height: 0.6, colour: '#C04040' }),
    shape('b', { width: 0.3, height: 0.9, colour: '#40C040', clip: true }),
    newLayer('mask', 'm', 'M', {
      group: 'a',
      combine: 'subtract',
      mask: 'ellipse',
      maskWidth: 0.2,
      maskHeight: 0.2,
    } as Partial<Layer>),
    newLayer('group', 'o', 'O', { x: 0.3 }),
    shape('c', { width: 0.3, height: 0.3, colour: '#4040C0', group: 'o' }),
    newLayer('lens', 'l', 'L', { grain: 0.3, bloom: 0.2 } as Partial<Layer>),
    shape('d', { width: 0.2, height: 0.2, space: 'glass', behind: true, x: -0.4 }),
    newLayer('solid', 's', 'S', { space: 'glass', opacity: 0.3, matte: 'alpha', matteLayer: 'd' } as Partial<Layer>),
  ];
}

describe('composite: what is kept from picture to picture', () => {
  const plates = newPlates();
  const draw = (layers: Layer[], cache: StackCache | null, values: Partial<ComposeInput> = {}): Picture =>
    compose(
      plates,
      compileLayers({ ...newShot('S', 'set', 'hero', 24), layers }).at(values.frame ?? 0),
      { ...SIZE, frame: 0, seconds: 0, view: 'neutral', take: () => TAKE, ...values },
      cache,
    );
  const changed = (layers: Layer[], id: string, values: object): Layer[] =>
    layers.map((l) => (l.id === id ? ({ ...l, ...values } as Layer) : l));

  it('whatever is changed, the picture is to the byte the one that is made without', () => {
    const cache = new StackCache();
    let layers = stack();
    const changes: Array<[string, object]> = [
      ['s', { opacity: 0.5 }],
      ['s', { opacity: 0.7 }],
      ['d', { x: -0.3 }],
      ['s', { opacity: 0.2 }],
      ['l', { bloom: 0.1 }],
      ['l', { bloom: 0.15 }],
      ['c', { width: 0.5 }],
      ['m', { maskWidth: 0.4 }],
      ['m', { maskWidth: 0.5 }],
      ['b', { colour: '#FFFFFF' }],
      ['take', { exposure: 0.5 }],
      ['s', { visible: false }],
      ['a', { visible: false }],
      ['o', { rotation: 20 }],
    ];
    expect(draw(layers, cache).data).deep.equal(draw(layers, null).data);
    for (const [id, values] of changes) {
      layers = changed(layers, id, values);
      expect(draw(layers, cache).data, `${id} ${JSON.stringify(values)}`).deep.equal(draw(layers, null).data);
      // Small pictures in between, as they are made while a value is dragged.
      const small = { width: 32, height: 18 };
      expect(draw(layers, cache, small).data).deep.equal(draw(layers, null, small).data);
    }
    for (const values of [
      { frame: 3 },
      { seconds: 2 },
      { view: 'filmic' as const },
      { take: () => lightOf(64, 36, [0.6, 0.1, 0.1]) },
    ])
      expect(draw(layers, cache, values).data, Object.keys(values)[0]).deep.equal(draw(layers, null, values).data);
  });

  it('what lies below the layer that is changed again and again is not made again', () => {
    const cache = new StackCache();
    let takes = 0;
    const input = { take: () => (takes++, TAKE) };
    const times = (layers: Layer[]): number => {
      takes = 0;
      draw(layers, cache, input);
      return takes;
    };
    const first = times(stack());
    const second = times(changed(stack(), 's', { opacity: 0.31 }));
    const third = times(changed(stack(), 's', { opacity: 0.32 }));
    // The second time it learns where changes come, the third time what is below is there.
    expect(second).equal(first);
    expect(third).below(second);
  });

  it('pictures are kept as far as there is room, those asked for longest ago go first', async () => {
    const cache = new PictureCache(3 * 400);
    let made = 0;
    const get = (key: string): Promise<Picture | null> =>
      cache.get(key, async () => (made++, { width: 10, height: 10, data: new Uint8ClampedArray(400) }));
    for (const key of ['a', 'b', 'c', 'a', 'd', 'a', 'c', 'b']) await get(key);
    // a, b, c, then d in the place of b; b anew.
    expect(made).equal(5);
    cache.forget('a');
    await get('a');
    expect(made).equal(6);
    expect(await cache.get('gone', async () => null)).equal(null);
    expect(
      (await cache.get('gone', async () => ({ width: 1, height: 1, data: new Uint8ClampedArray(4) })))?.width,
    ).equal(1);
  });
});
