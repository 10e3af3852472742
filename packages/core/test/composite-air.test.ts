import { expect } from 'chai';
import {
  newLayer,
  newShot,
  noCurves,
  type Curves,
  type Layer,
  type LayerOf,
  type Spot,
} from '@tender-orbit/core/document';
import {
  compileLayers,
  curveRound,
  curvesOf,
  curveThrough,
  fromPuck,
  fromWheels,
  grader,
  NOTHING,
  toOklab,
  toPuck,
  toWheels,
  type LightFrame,
  type Wheels,
} from '@tender-orbit/core/composite';
import { srgbToLinear } from '@tender-orbit/core/finish';
import type { FrameSpace } from '@tender-orbit/core/scene';
import { at, composed, layer } from './composite-box.ts';

const [W, H] = [96, 48];
const SPACE: FrameSpace = {
  camera: { eye: [0, 0, 0], right: [1, 0, 0], up: [0, 1, 0], forward: [0, 0, -1], focal: 1, shift: [0, 0] },
  ...{ shutter: 0, aperture: 0, focus: 2, things: { lamp: { at: [0, 0, -4] } } },
};
/** A frame whose columns are as far away as asked; a product where `product` says so. */
function frameOf(away: (x: number) => number, product: (x: number) => number = () => 0): LightFrame {
  const count = W * H;
  const depth = Float32Array.from({ length: count }, (_, i) => away(i % W));
  const matte = Float32Array.from({ length: count }, (_, i) => product(i % W));
  const light = new Float32Array(count * 3).fill(0.2);
  const [ids, covers] = [new Uint8Array(count * 2).fill(NOTHING), new Uint8Array(count * 2)];
  return { width: W, height: H, light, matte, depths: { space: SPACE, depth, things: [], ids, covers } };
}
const seen = (layers: Layer[], frame = 0) => compileLayers({ ...newShot('S', 'set', 'hero', 48), layers }).at(frame);
const over = (frame: LightFrame, layers: Layer[], at = 0): ReturnType<typeof composed> =>
  composed(seen(layers, at), { width: W, height: H, frame: at, take: () => frame, view: 'plain' });
const light = (picture: ReturnType<typeof composed>, x: number, y: number, c = 0): number =>
  srgbToLinear(at(picture, x, y)[c] / 255);
const make = <K extends Layer['kind']>(kind: K, values: object = {}): Layer =>
  newLayer(kind, kind, kind, values as Partial<Layer>);

describe('composite: fog and flares', () => {
  it('fog hides by Beer and Lambert from where it begins, at most so much, and all that is nothing', () => {
    const frame = frameOf((x) => (x < 32 ? 0.5 : x < 64 ? 3 : 0));
    const picture = over(frame, [make('take'), make('fog', { colour: '#FFFFFF', begins: 1, density: 0.7, most: 0.9 })]);
    const fogged = (much: number): number => 0.2 * (1 - much) + much;
    expect(light(picture, 8, 20)).closeTo(0.2, 0.004);
    expect(light(picture, 48, 20)).closeTo(fogged(1 - Math.exp(-1.4)), 0.006);
    expect(light(picture, 88, 20)).closeTo(fogged(0.9), 0.006);
  });

  it('where a product’s edge runs through a pixel fog is that of both sides', () => {
    const cover = (x: number): number => (x < 48 ? 1 : x === 48 ? 0.25 : 0);
    // The depth of the edge is a mean of both that neither has.
    const frame = frameOf((x) => (x < 48 ? 1 : x === 48 ? 3.3 : 5), cover);
    const picture = over(frame, [make('take'), make('fog', { colour: '#FFFFFF', begins: 1, density: 1, most: 1 })]);
    const far = 1 - Math.exp(-4);
    expect(light(picture, 48, 20)).closeTo(0.2 + 0.75 * far * 0.8, 0.008);
    expect(light(picture, 46, 20)).closeTo(0.2, 0.004);
  });

  it('a flare glows about its place, has its ghosts across the middle, and is brighter the brighter it is', () => {
    const dark = frameOf(() => 0);
    dark.light.fill(0);
    const flare = (values: object): Layer =>
      make('flare', { blend: 'add', x: 0.5, y: 0.2, colour: '#FFFFFF', ...values });
    const glow = over(dark, [make('take'), flare({ ghosts: 0, streak: 0 })]);
    const [x, y] = [W / 2 + 0.5 * H, Math.floor(H / 2 - 0.2 * H)];
    expect(light(glow, x, y)).above(light(glow, x + 6, y));
    expect(light(glow, x + 6, y)).above(light(glow, x + 16, y));
    const streaked = over(dark, [make('take'), flare({ ghosts: 0, streak: 1 })]);
    expect(light(streaked, x - 30, y)).above(light(glow, x - 30, y) + 0.01);
    const ghosts = over(dark, [make('take'), flare({ ghosts: 12, streak: 0, glow: 0, brightness: 4 })]);
    // Left of the middle, where the light is right of it.
    let [left, right] = [0, 0];
    for (let j = 0; j < H; j++)
      for (let i = 0; i < W; i++) i < W / 2 ? (left += light(ghosts, i, j)) : (right += light(ghosts, i, j));
    expect(left).above(right);
    expect(left).above(1);
  });

  it('a flare in the set goes out as a product comes before its light, little by little', () => {
    const flare = make('flare', {
      ...{ blend: 'add', inSet: true, thing: 'lamp', ghosts: 0, streak: 0, colour: '#FFFFFF', brightness: 0.5 },
    });
    const bright = (edge: number): number => {
      const frame = frameOf(
        (x) => (x < edge ? 2 : 9),
        (x) => (x < edge ? 1 : 0),
      );
      frame.light.fill(0);
      return light(over(frame, [make('take'), flare]), W / 2, H / 2);
    };
    const [free, half, gone] = [bright(30), bright(W / 2), bright(W / 2 + 8)];
    expect(free).above(0.3);
    expect(half / free).within(0.2, 0.8);
    expect(gone).equal(0);
  });
});

describe('composite: specks in the set', () => {
  const black = (away: (x: number) => number, product: (x: number) => number): LightFrame => {
    const frame = frameOf(away, product);
    frame.light.fill(0);
    return frame;
  };
  const specks = (values: object): Layer =>
    make('specks', {
      ...{ inSet: true, thing: 'lamp', metres: 1, count: 400, size: 0.06, spread: 0, twinkle: 0, softness: 0.1 },
      ...{ drift: 0, rise: 0, colour: '#FFFFFF', ...values },
    });
  const lit = (picture: ReturnType<typeof composed>, from: number, to: number): number => {
    let sum = 0;
    for (let y = 0; y < H; y++) for (let x = from; x < to; x++) sum += light(picture, x, y);
    return sum;
  };
  it('are hidden by what is nearer: about half of them by a product in the middle of them', () => {
    // They stand four metres away, one metre deep to both sides.
    const all = lit(
      over(
        black(
          () => 0,
          () => 0,
        ),
        [make('take'), specks({})],
      ),
      30,
      66,
    );
    const before = lit(
      over(
        black(
          () => 9,
          () => 1,
        ),
        [make('take'), specks({})],
      ),
      30,
      66,
    );
    const amid = lit(
      over(
        black(
          () => 4,
          () => 1,
        ),
        [make('take'), specks({})],
      ),
      30,
      66,
    );
    const behind = lit(
      over(
        black(
          () => 2,
          () => 1,
        ),
        [make('take'), specks({})],
      ),
      30,
      66,
    );
    expect(before).closeTo(all, all * 1e-6);
    // Near ones are larger: 1/12 of 1/12 + 1/20.
    expect(amid / all).closeTo(0.625, 0.08);
    expect(behind).equal(0);
  });

  it('out of focus their light is spread over larger discs, and none is gained', () => {
    const space = { ...SPACE, aperture: 0.4, focus: 40 };
    const frame = black(
      () => 0,
      () => 0,
    );
    const open: LightFrame = { ...frame, depths: { ...frame.depths!, space } };
    const few = specks({ count: 6, size: 0.3 });
    const brightest = (picture: ReturnType<typeof composed>): number =>
      Math.max(...Array.from({ length: W * H }, (_, i) => picture.data[i * 4]));
    const [sharp, soft] = [over(frame, [make('take'), few]), over(open, [make('take'), few])];
    expect(brightest(soft)).below(brightest(sharp));
    expect(lit(soft, 0, W)).at.most(lit(sharp, 0, W) * 1.15);
  });
});

describe('composite: defocus by depth', () => {
  const stripes = (away: (x: number) => number): LightFrame => {
    const frame = frameOf(away);
    for (let i = 0; i < W * H; i++) frame.light.fill(Math.floor((i % W) / 2) % 2, i * 3, i * 3 + 3);
    return frame;
  };
  const spread = (picture: ReturnType<typeof composed>, from: number, to: number): number => {
    const row = Array.from({ length: to - from }, (_, i) => light(picture, from + i, 24));
    return Math.max(...row) - Math.min(...row);
  };
  it('leaves what is as far away as it is sharp, and blurs what is not, by how far off it is', () => {
    const frame = stripes((x) => (x < 48 ? 2 : 8));
    const lens = make('filter', { form: 'defocus', size: 0.1, focus: 2, amount: 1 });
    const picture = over(frame, [make('take'), lens]);
    expect(spread(picture, 8, 40)).above(0.97);
    expect(spread(picture, 60, 90)).below(0.2);
    const other = over(frame, [make('take'), { ...lens, focus: 8 } as Layer]);
    expect(spread(other, 60, 90)).above(0.97);
    expect(spread(other, 8, 40)).below(0.2);
  });
});

describe('composite: held and trailed', () => {
  const track = (path: string, to: number) => ({
    ...{ thing: 'shape', path },
    keys: [
      { frame: 0, value: 0, ease: 'linear' as const },
      { frame: 48, value: to, ease: 'linear' as const },
    ],
  });
  const moving = (values: object): ReturnType<typeof compileLayers> =>
    compileLayers({
      ...newShot('S', 'set', 'hero', 48),
      layers: [make('shape', values)],
      tracks: [track('x', 0.96)],
    });

  it('a layer that is held goes on every so many frames of its span', () => {
    const x = (frame: number): number => moving({ hold: 4, start: 2 }).at(frame)[0].x;
    expect([2, 3, 5, 6, 9, 10].map((f) => Math.round(x(f) * 1000))).deep.equal([40, 40, 40, 120, 120, 200]);
    expect(moving({ hold: 4 }).at(7)[0].held).equal(3);
  });

  it('a trail is the layer as it was, each copy weaker than the one after it, none from before its span', () => {
    const values = {
      trail: 2,
      trailStep: 6,
      trailFade: 0.5,
      form: 'rectangle',
      width: 0.05,
      height: 0.5,
      colour: '#FFFFFF',
    };
    const picture = composed(moving({ ...values, space: 'glass' }).at(24), { width: 480, height: 100, frame: 24 });
    const column = (x: number): number => at(picture, 240 + x * 100, 50)[0];
    expect([0.48, 0.36, 0.24, 0.12].map(column)).deep.equal([255, 128, 64, 0]);
    expect(moving({ ...values, start: 20 }).at(24)[0].earlier).length(0);
  });
});

describe('composite: curves and wheels', () => {
  const through = (curves: Partial<Curves>, ...rgb: number[]): number[] => {
    const colour = Float64Array.from(rgb);
    curvesOf({ ...noCurves(), ...curves })(colour);
    return [...colour];
  };
  it('a curve goes through its points wherever they lie, rises where they do, and is level beyond them', () => {
    const points: Spot[] = [
      [0.1, 0.05],
      [0.15, 0.4],
      [0.6, 0.42],
      [0.9, 0.95],
    ];
    const curve = curveThrough(points);
    for (const [x, y] of points) expect(curve(x)).closeTo(y, 1e-12);
    for (let x = 0; x < 1; x += 0.005) expect(curve(x + 0.005)).least(curve(x) - 1e-12);
    expect([curve(0), curve(1)]).deep.equal([0.05, 0.95]);
    expect(
      curveThrough([
        [0, 0],
        [0.3, 0.3],
        [1, 1],
      ])(0.71),
    ).closeTo(0.71, 1e-12);
  });

  it('a hue curve closes round the circle', () => {
    const curve = curveRound([
      [0.1, 0.5],
      [0.9, 0.5],
      [0.5, -0.5],
    ]);
    expect(curve(0)).closeTo(curve(1), 1e-12);
    expect(curve(0.999)).closeTo(curve(0.001), 1e-3);
    expect(curve(1.5)).closeTo(-0.5, 1e-12);
    expect(curveRound([])(0.3)).equal(0);
    expect(curveRound([[0.3, 0.2]])(0.9)).closeTo(0.2, 1e-12);
  });

  it('without points changes nothing; channels, luma and what is done by hue each do their own', () => {
    expect(through({}, 0.2, 0.5, 0.9)).deep.equal([0.2, 0.5, 0.9]);
    const lift: Spot[] = [
      [0, 0],
      [0.5, 0.7],
      [1, 1],
    ];
    expect(through({ red: lift }, 0.5, 0.5, 0.5)).deep.equal([0.7, 0.5, 0.5]);
    expect(through({ rgb: lift }, 0.5, 0.5, 0.5)).deep.equal([0.7, 0.7, 0.7]);
    const [r, g, b] = through({ luma: lift }, 0.6, 0.5, 0.4);
    expect([r - g, g - b].map((v) => Math.round(v * 1e6))).deep.equal([100000, 100000]);
    expect(g).above(0.6);
    const lab = (rgb: number[]): [number, number, number] =>
      toOklab(...(rgb.map(srgbToLinear) as [number, number, number]));
    const orange = [0.8, 0.5, 0.2];
    const grey = through({ hueSaturation: [[0, -1]] }, ...orange);
    const [, ga, gb] = lab(grey);
    expect(Math.hypot(ga, gb)).below(1e-3);
    const turned = lab(through({ hueHue: [[0, 0.5]] }, ...orange));
    const [, oa, ob] = lab(orange);
    expect(((Math.atan2(turned[2], turned[1]) - Math.atan2(ob, oa)) * 180) / Math.PI).closeTo(30, 0.5);
    expect(through({ hueLuma: [[0, 1]] }, 0.5, 0.5, 0.5)[0]).closeTo(0.5, 1e-3);
    expect(lab(through({ hueLuma: [[0, 0.2]] }, ...orange))[0]).closeTo(lab(orange)[0] + 0.05, 1e-3);
  });

  it('curves act on the picture below, by their table', () => {
    const curves = {
      ...noCurves(),
      rgb: [
        [0, 1],
        [1, 0],
      ] as Spot[],
    };
    const layers = [make('solid', { colour: '#404040', space: 'glass' }), make('curves', { curves, space: 'glass' })];
    expect(at(composed(seen(layers)), 5, 5)[0]).closeTo(255 - 64, 1);
  });

  it('wheels say in other words what slope, offset and power say', () => {
    const wheels: Wheels = { lift: [0.1, 0, -0.05], gamma: [1.2, 1, 0.9], gain: [1.1, 1, 0.8] };
    const values = fromWheels(wheels);
    const back = toWheels(values);
    for (const name of ['lift', 'gamma', 'gain'] as const)
      wheels[name].forEach((v, c) => expect(back[name][c]).closeTo(v, 1e-9));
    const graded = Float64Array.of(0.3, 0.3, 0.3);
    grader({ ...layer('grade'), ...values } as LayerOf<'grade'>)(graded, 0);
    graded.forEach((v, c) => {
      const { lift, gamma, gain } = wheels;
      expect(v).closeTo(((0.3 + lift[c] * 0.7) * gain[c]) ** (1 / gamma[c]), 1e-9);
    });
    expect(toWheels(fromWheels({ lift: [0, 0, 0], gamma: [1, 1, 1], gain: [0, 1, 1] })).lift[0]).equal(0);
  });

  it('a puck and a level are three numbers, and back', () => {
    const { level, x, y } = toPuck([0.9, 0.4, 0.5]);
    expect(level).closeTo(0.6, 1e-12);
    fromPuck({ level, x, y }).forEach((v, c) => expect(v).closeTo([0.9, 0.4, 0.5][c], 1e-12));
    // Red lies straight up.
    expect(toPuck([2, 0.5, 0.5]).x).closeTo(0, 1e-12);
    expect(toPuck([2, 0.5, 0.5]).y).above(0);
  });
});
