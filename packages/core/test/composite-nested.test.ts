import { expect } from 'chai';
import {
  newLayer,
  newShot,
  othersShown,
  renderedFor,
  takesShown,
  type Layer,
  type LayerOf,
  type ShotDocument,
  type TakeComposite,
} from '@tender-orbit/core/document';
import { composeTake, compileLayers, type CompositeReader } from '@tender-orbit/core/composite';
import { at, composed, layer, lightOf, plates } from './composite-box.ts';

const RATE = { num: 24, den: 1 };
const reader: CompositeReader = {
  plates,
  light: async (take, frame) =>
    take === 'gone' ? null : lightOf(32, 18, take === 'b' ? [frame / 10, 0, 0] : [0, 0, 0.5]),
  parts: async () => null,
  still: async () => null,
  cube: async () => null,
  vector: async () => null,
  film: async () => null,
  text: () => null,
};
const shotOf = (layers: Layer[], length = 9): ShotDocument => ({ ...newShot('S', 'set', 'camera', length), layers });
const shows = (take: string, values: Partial<Layer> = {}): Layer =>
  newLayer('composite', `shows-${take}`, 'C', { take, height: 1, space: 'glass', ...values } as Partial<Layer>);

describe('composite: of another shot', () => {
  const green = layer('solid', { colour: '#00FF00', opacity: 0.5, space: 'glass' });
  const other: TakeComposite = { shot: shotOf([layer('take'), green]), view: 'plain' };
  const frameOf = async (values: Partial<Layer>, frame: number, others: Record<string, TakeComposite>) => {
    const shot = shotOf([layer('take'), shows('b', values)]);
    return at((await composeTake('a', { shot, view: 'plain', others }, frame, RATE, reader))!, 16, 9);
  };

  it('is its take with its layers, at its own frames from where it begins', async () => {
    // Frame 4 of it: 0.4 of red as light, half of it under green.
    const [r, g, b] = await frameOf({ skip: 4 } as Partial<Layer>, 0, { b: other });
    const lone = (await composeTake('b', other, 4, RATE, reader))!;
    expect([r, g, b]).deep.equal(at(lone, 16, 9).slice(0, 3));
    expect(g).closeTo(128, 1);
    const at6 = at((await composeTake('b', other, 6, RATE, reader))!, 16, 9);
    expect(await frameOf({ skip: 4, start: 1 } as Partial<Layer>, 3, { b: other })).deep.equal(at6);
    expect(await frameOf({ skip: 4, pace: 2 } as Partial<Layer>, 1, { b: other })).deep.equal(at6);
    // It stands still at its ends.
    const last = at((await composeTake('b', other, 8, RATE, reader))!, 16, 9);
    expect(await frameOf({ skip: 700 } as Partial<Layer>, 2, { b: other })).deep.equal(last);
  });

  it('of a take of other times its layers are as they are at these, over the frames of the take', async () => {
    const shot = shotOf([layer('take'), layer('solid', { id: 'fade', colour: '#00FF00', space: 'glass' })]);
    shot.tracks = [
      {
        ...{ thing: 'fade', path: 'opacity' },
        keys: [
          { frame: 0, value: 0, ease: 'linear' },
          { frame: 8, value: 1, ease: 'linear' },
        ],
      },
    ];
    const of = async (frame: number, times?: number[]) =>
      at((await composeTake('b', { shot, view: 'plain', ...(times && { times }) }, frame, RATE, reader))!, 16, 9);
    // Its third frame, of a quarter into the shot: a quarter of the way to green over 0.2 of red.
    const [r, g] = await of(2, [1, 1.5, 2, 2.5]);
    expect(g).equal((await of(2))[1]);
    expect(r).equal((await of(2))[0]);
    const [, between] = await of(3, [1, 1.5, 2, 2.5]);
    expect(between)
      .above(g)
      .below((await of(3))[1]);
    // As a layer of another shot it has as many frames as it has times.
    const slow: TakeComposite = { shot, view: 'plain', times: [1, 1.5] };
    expect((await frameOf({ skip: 700 } as Partial<Layer>, 0, { b: slow }))[1]).equal((await of(1, [1, 1.5]))[1]);
  });

  it('without layers it is its take alone; where nothing is known of it, it leaves a gap', async () => {
    const bare: TakeComposite = { shot: shotOf([]), view: 'plain' };
    expect((await frameOf({ skip: 4 } as Partial<Layer>, 0, { b: bare }))[0]).above(150);
    const [r, , b] = await frameOf({}, 4, {});
    expect([r, b > 150]).deep.equal([0, true]);
  });

  it('composites that show each other end where one would show itself', async () => {
    const one: TakeComposite = {
      shot: shotOf([layer('take'), shows('a', { height: 0.5 } as Partial<Layer>)]),
      view: 'plain',
    };
    const shot = shotOf([layer('take'), shows('b')]);
    const picture = (await composeTake(
      'a',
      { shot, view: 'plain', others: { a: { shot, view: 'plain' }, b: one } },
      5,
      RATE,
      reader,
    ))!;
    // What would be the picture within itself is left out: the take of b is seen there.
    expect(at(picture, 16, 9)[0]).above(150);
    const found = othersShown(shot, (take) => ({ a: { shot, view: 'plain' as const }, b: one })[take] ?? null);
    expect(Object.keys(found).sort()).deep.equal(['a', 'b']);
    expect(takesShown(shot)).deep.equal(['b']);
  });
});

describe('composite: light streaks and strips', () => {
  const seconds = (s: number) => ({ width: 96, height: 48, seconds: s });
  const drawn = (own: Layer, s = 0) => composed(compileLayers(shotOf([own])).at(0), seconds(s));
  const sum = (own: Layer, s = 0): number =>
    drawn(own, s).data.reduce((total, v, i) => (i % 4 < 3 ? total + v : total), 0);
  const streaks = (values: Partial<LayerOf<'streaks'>> = {}): Layer =>
    layer('streaks', { space: 'glass', colour: '#FFFFFF', otherColour: '#FFFFFF', ...values });

  it('streaks are brightest at their heads, and their heads run the way that their speed says', () => {
    const one = { count: 1, reach: 1, line: 0.06, bend: 0, spread: 0, brightness: 0.5, speed: 1 };
    /** Where the light of a picture lies, across. */
    const middle = (s: number, speed: number): number => {
      const { data } = drawn(streaks({ ...one, speed }), s);
      let [all, weighed] = [0, 0];
      for (let i = 0; i < data.length; i += 4) ((all += data[i]), (weighed += data[i] * ((i >> 2) % 96)));
      return all > 0 ? weighed / all : NaN;
    };
    // Times at which all of it is in the picture, whatever its seed makes of it.
    const moments = Array.from({ length: 40 }, (_, k) => k * 0.1);
    const steps = moments.map((s) => middle(s + 0.05, 1) - middle(s, 1)).filter((v) => !Number.isNaN(v));
    expect(steps.filter((v) => v > 0).length).above(steps.length * 0.6);
    const back = moments.map((s) => middle(s + 0.05, -1) - middle(s, -1)).filter((v) => !Number.isNaN(v));
    expect(back.filter((v) => v < 0).length).above(back.length * 0.6);
  });

  it('streaks add light and cover nothing, as much as their brightness; the seed places them', () => {
    const over = layer('solid', { colour: '#404040', space: 'glass' });
    const lit = composed(compileLayers(shotOf([over, streaks()])).at(0), seconds(0.7));
    const bare = composed(compileLayers(shotOf([over])).at(0), seconds(0.7));
    expect(lit.data.every((v, i) => v >= bare.data[i])).equal(true);
    const faint = { brightness: 0.15, line: 0.08, count: 3 };
    expect(sum(streaks({ ...faint, brightness: 0.3 }), 0.7) / sum(streaks(faint), 0.7)).closeTo(2, 0.25);
    expect(drawn(streaks({ seed: 2 })).data).not.deep.equal(drawn(streaks()).data);
    expect(drawn(streaks()).data).deep.equal(drawn(streaks()).data);
    expect(sum(streaks({ count: 0 }))).equal(96 * 48 * 0);
  });

  it('a strip stands where it is put, or goes by again after its way', () => {
    const strip = (values: Partial<LayerOf<'strip'>> = {}): Layer =>
      layer('strip', { ...{ space: 'glass', brightness: 1, slant: 0, softness: 0.01, width: 0.2 }, ...values });
    const bright = (own: Layer, s: number, x: number): number => at(drawn(own, s), x, 24)[0];
    expect(bright(strip(), 3, 48)).above(250);
    expect(bright(strip(), 3, 70)).equal(0);
    // Half a height to the right after half a second: 24 pixels.
    const moving = strip({ speed: 1, every: 2 });
    expect(bright(moving, 0.5, 72)).above(250);
    expect(bright(moving, 0.5, 48)).equal(0);
    expect(drawn(moving, 2.5).data).deep.equal(drawn(moving, 0.5).data);
    // Slanted, it lies to the right above.
    expect(at(drawn(strip({ slant: 1, width: 0.1 })), 66, 6)[0]).above(200);
  });
});

describe('composite: vapour that loops', () => {
  const drawn = (values: Partial<LayerOf<'vapour'>>, seconds: number): Uint8ClampedArray =>
    composed([layer('vapour', { space: 'glass', ...values })], { width: 64, height: 36, seconds }).data;
  const far = (a: Uint8ClampedArray, b: Uint8ClampedArray): number => Math.max(...a.map((v, i) => Math.abs(v - b[i])));

  it('is at the end of its loop what it was at first, and just before it nearly so; without one it never is', () => {
    const first = drawn({ loop: 4 }, 0);
    expect(drawn({ loop: 4 }, 4)).deep.equal(first);
    expect(drawn({ loop: 4 }, 12)).deep.equal(first);
    expect(far(drawn({ loop: 4 }, 3.99), first)).at.most(6);
    expect(far(drawn({ loop: 4 }, 2), first)).above(20);
    expect(far(drawn({}, 4), drawn({}, 0))).above(20);
  });

  it('keeps its contrast half-way', () => {
    const spread = (data: Uint8ClampedArray): number => {
      const values = [...data].filter((_, i) => i % 4 === 0);
      const mean = values.reduce((n, v) => n + v, 0) / values.length;
      return Math.sqrt(values.reduce((n, v) => n + (v - mean) ** 2, 0) / values.length);
    };
    const soft = { contrast: 0.8, brightness: 0 };
    expect(spread(drawn({ ...soft, loop: 40 }, 20)) / spread(drawn(soft, 20))).within(0.75, 1.3);
  });
});

describe('takes: which frame is rendered for another', () => {
  it('is itself, the one before it at a lower rate, and the nearest end of a range', () => {
    const frames = (first: number, last: number, step: number): number[] =>
      Array.from({ length: 8 }, (_, n) => renderedFor(n, { first, last, step }));
    expect(frames(0, 7, 1)).deep.equal([0, 1, 2, 3, 4, 5, 6, 7]);
    expect(frames(0, 7, 2)).deep.equal([0, 0, 2, 2, 4, 4, 6, 6]);
    expect(frames(2, 5, 1)).deep.equal([2, 2, 2, 3, 4, 5, 5, 5]);
    expect(frames(1, 6, 3)).deep.equal([1, 1, 1, 1, 4, 4, 4, 4]);
    expect(frames(3, 3, 1)).deep.equal(Array(8).fill(3));
  });
});
