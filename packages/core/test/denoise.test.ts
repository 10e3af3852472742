import { expect } from 'chai';
import { buildTurned } from '@tender-orbit/core/geometry';
import { steady, type Passes } from '@tender-orbit/core/trace';
import { floor, FREE, LAMBERT, mean, moved, pack, panel, trace, tracer } from './studio.ts';

const stripes = {
  width: 8,
  height: 1,
  data: Uint8Array.from(Array.from({ length: 8 }, (_, i) => (i % 2 ? [230, 230, 230, 255] : [30, 20, 60, 255])).flat()),
};
const art = {
  ...{ image: 0, offset: [0, 0] as [number, number], rotation: 0, scale: [4, 1] as [number, number], strength: 1 },
  wrap: ['repeat', 'repeat'] as ['repeat', 'repeat'],
};
const cup = buildTurned({
  profile: [
    [0, 0],
    [0.3, 0],
    [0.3, 0.5],
    [0, 0.5],
  ],
  segments: 48,
});
/** A striped floor with a cup whose place is given, and where it was a frame before. */
const sceneAt = (x: number, before = x) =>
  pack({
    images: [stripes],
    things: [
      { mesh: floor(2), finish: { ...LAMBERT, baseColor: [0.7, 0.7, 0.7], textures: { baseColor: art } } },
      { mesh: cup, matrix: moved(x, 0.001, 0), before: moved(before, 0.001, 0), finish: { roughness: 0.4 } },
    ],
    lights: [
      { ...panel([1, 1.5, 1], [0, 0.2, 0], 0.8, 0.8, 8), id: 'key' },
      { ...panel([-1, 1, 0.3], [0, 0.2, 0], 0.3, 0.3, 20), id: 'rim' },
    ],
    room: 0.3,
    eye: [0, 1.2, 2.2],
    aim: [0, 0.2, 0],
    fov: 40,
  });
const size = 48;
const traced = (samples: number, frame: number, x = 0, before = x): Passes =>
  structuredClone(trace(sceneAt(x, before), samples, size, FREE, { frame, detail: true }));

describe('tracer: taking out the noise', () => {
  const truth = traced(2048, 0);
  const error = (picture: Float32Array, against = truth.beauty): number =>
    picture.reduce((n, v, i) => n + (v - against[i]) ** 2 / (against[i] ** 2 + 0.01), 0) / picture.length;
  const noisy = traced(8, 7);
  const clean = tracer.denoise(noisy, noisy.detail!.lights);

  it('brings the error of a noisy picture down to less than half', () => {
    expect(error(noisy.beauty) / error(clean.beauty)).above(2);
  });

  it('cleans the light passes with the same weights: they still add up, and each gets better', () => {
    const sum = clean.beauty.map((_, i) => clean.lights.reduce((n, l) => n + l[i], 0));
    // Lone sparks are taken from the beauty only.
    const off = sum.filter((v, i) => Math.abs(v - clean.beauty[i]) > 0.02 * clean.beauty[i] + 1e-3);
    expect(off.length / sum.length).below(0.1);
    const key = truth.detail!.lights[0];
    expect(error(noisy.detail!.lights[0], key) / error(clean.lights[0], key)).above(2);
  });

  it('leaves a clean picture nearly alone, art and edges included', () => {
    const good = traced(512, 9);
    expect(error(tracer.denoise(good).beauty)).below(error(good.beauty) + 0.004);
  });

  it('leaves no pattern of dots, though the noise of every fourth pixel is alike', () => {
    const kind = (p: number): number => ((p % size) + 2 * Math.floor(p / size)) % 4;
    const flat = (value: (p: number) => number, channels = 3): Float32Array =>
      Float32Array.from({ length: size * size * channels }, (_, i) => value(Math.floor(i / channels)));
    const albedo = flat(() => 0.5);
    const normal = Float32Array.from({ length: size * size * 3 }, (_, i) => (i % 3 === 1 ? 1 : 0));
    const depth = flat(() => 2, 1);
    const light = [0.9, 1.05, 0.95, 1.1];
    let state = 1;
    const chance = Array.from({ length: size * size }, () => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      return (state / 2 ** 32 - 0.5) * 0.8;
    });
    const passes: Passes = {
      ...{ ...noisy, albedo, normal, depth, pairedAlbedo: albedo, pairedNormal: normal, pairedDepth: depth },
      ...{ beauty: flat((p) => light[kind(p)] + chance[p]), variance: flat(() => 0.06, 1) },
    };
    const out = tracer.denoise(passes).beauty;
    const means = light.map((_, k) => mean([...out].filter((_v, i) => kind(Math.floor(i / 3)) === k)));
    expect(mean(means)).closeTo(1, 0.02);
    expect(Math.max(...means) - Math.min(...means)).below(0.04);
  });

  it('where surfaces have one colour, cleans as it does where they have all but one', () => {
    const grey = (noise: number): Passes => {
      const albedo = noisy.albedo.map((_, i) => 0.5 + (i % 5) * noise);
      return { ...noisy, albedo, pairedAlbedo: albedo };
    };
    const [one, nearly] = [grey(0), grey(0.0002)].map((passes) => tracer.denoise(passes).beauty);
    expect(mean(one)).above(0.05);
    const apart = Math.max(...one.map((v, i) => Math.abs(v - nearly[i]) / (nearly[i] + 0.05)));
    expect(apart).below(0.02);
  });

  it('keeps the contrast of fine art on the floor', () => {
    const step = (picture: Float32Array): number => {
      const row = picture.subarray(40 * size * 3, 41 * size * 3).filter((_, i) => i % 3 === 1);
      return Math.max(...row) - Math.min(...row);
    };
    expect(step(clean.beauty) / step(truth.beauty)).within(0.85, 1.2);
  });

  it('invents nothing: no number is lost and no light is negative', () => {
    const { beauty } = tracer.denoise(traced(2, 3));
    expect(beauty.every((v) => Number.isFinite(v) && v >= 0)).equal(true);
  });
});

describe('tracer: steadying frames with their neighbours', () => {
  const frames = [0, 1, 2, 3, 4].map((frame) => traced(16, frame));
  const steadied = (of: Passes[], middle: number): Promise<Passes> =>
    steady(of[middle], (offset) => of[middle + offset]);

  it('takes flicker out of what stands still, to about the root of the frames that agree', async () => {
    const two = await Promise.all([1, 2, 3].map((middle) => steadied(frames, middle)));
    const flicker = (a: Passes, b: Passes): number => Math.sqrt(mean(a.beauty.map((v, i) => (v - b.beauty[i]) ** 2)));
    // Frames 1 and 3 share most of their neighbours.
    expect(flicker(frames[1], frames[3]) / flicker(two[0], two[2])).above(3);
  });

  it('lowers the variance it reports with the noise', async () => {
    const { variance } = await steadied(frames, 2);
    expect(mean(variance) / mean(frames[2].variance)).within(0.36, 0.8);
  });

  it('follows a thing that moves, and does not smear it', async () => {
    const step = 0.12;
    const moving = [0, 1, 2, 3, 4].map((i) => traced(32, i, (i - 2) * step, (i - 3) * step));
    const truth = traced(1024, 9, 0, -step);
    const distance = (a: Float32Array): number => mean(a.map((v, i) => (v - truth.beauty[i]) ** 2));
    expect(distance((await steadied(moving, 2)).beauty)).below(distance(moving[2].beauty) * 0.75);
  });

  it('shares what is mirrored or seen through only while the surface rests', async () => {
    const count = 16 * 8;
    const flat = (channels: number, value: number): Float32Array => new Float32Array(count * channels).fill(value);
    const frameOf = (light: number, gloss: number, move: number): Passes => ({
      ...structuredClone(frames[0]),
      ...{ width: 16, height: 8, beauty: flat(3, light), variance: flat(1, 1) },
      ...{ albedo: flat(3, 0.5), normal: flat(3, 0.5), depth: flat(1, 2) },
      detail: {
        ...structuredClone(frames[0].detail!),
        ...{ glossy: flat(3, light * gloss), transmission: flat(3, 0) },
        motion: flat(2, 0).map((_, i) => (i % 2 ? 0 : move)),
      },
    });
    const three = [1, 1.3, 1.4];
    /** What a pixel is given whose place in both neighbours lies inside the picture. */
    const given = async (gloss: number, move: number): Promise<number> => {
      const all = three.map((light) => frameOf(light, gloss, move));
      return (await steady(all[1], (offset) => all[1 + offset])).beauty[(4 * 16 + 8) * 3];
    };
    expect(await given(0.1, 1)).closeTo(mean(three), 1e-6);
    expect(await given(0.9, 1)).closeTo(1.3, 1e-6);
    expect(await given(0.9, 0.01)).closeTo(mean(three), 1e-6);
  });

  it('leaves a frame without neighbours as it is', async () => {
    expect([...(await steady(frames[0], () => undefined)).beauty]).deep.equal([...frames[0].beauty]);
  });
});
