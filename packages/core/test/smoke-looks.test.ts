import { expect } from 'chai';
import {
  causesOf,
  MASK_SIDES,
  newEmitter,
  newSet,
  newShot,
  newSmoke,
  plainItem,
  validateDocument,
  type EmitterMask,
  type ProductDocument,
  type SmokeEffect,
  type SmokeEmitter,
} from '@tender-orbit/core/document';
import type { PixelPicture } from '@tender-orbit/core/finish';
import type { Mat4, Mesh, Vec3 } from '@tender-orbit/core/geometry';
import { builtDocument, builtMeshes, modelKey, TURNED_PRESETS } from '@tender-orbit/core/product';
import {
  compile,
  evaluate,
  evaluateMotion,
  type SimulatedSmoke,
  type Slot,
  type TableauVolume,
  type VolumeGrid,
} from '@tender-orbit/core/scene';
import {
  costOf,
  emitterMask,
  simulatedBetween,
  SmokeRun,
  writeSmoke,
  type SmokeFrame,
} from '@tender-orbit/core/simulate';
import { packScene, withDetail } from '@tender-orbit/core/trace';
import { kernel } from './smoke-box.ts';
import { FREE, mean, pack, trace, type Studio } from './studio.ts';

const RATE = { num: 24, den: 1 };
const jar = builtDocument('Jar', TURNED_PRESETS.jar);
const products = new Map<string, ProductDocument>([['jar', jar]]);
const meshes = builtMeshes(modelKey(jar))!;
const context = { products, meshes: () => meshes as readonly Mesh[], aspect: 16 / 9 };
const HOST = { kernel, state: () => undefined };

/** Smoke round the jar, simulated for some frames. */
function simulated(values: Partial<SmokeEffect>, frames: number): { run: SmokeRun; frame: SmokeFrame } {
  const set = newSet('Studio');
  set.products = [{ ...plainItem(), id: 'jar', name: 'Jar', product: 'jar', position: [0, 0, 0] }];
  const cells = { coarse: 0.015, normal: 0.02, fine: 0.01 };
  set.effects = [newSmoke('smoke', 'Smoke', { width: 0.48, height: 0.48, depth: 0.48, cells, ...values })];
  const program = compile(set, newShot('Shot', 'set', 'hero', 48));
  const run = new SmokeRun(program, program.effects[0] as Slot<SmokeEffect>, context, 'coarse', RATE);
  run.begin(HOST);
  while (run.frame < frames) run.next();
  return { run, frame: run.result() };
}
const cellsOf = ({ size: [nx, ny], density }: SmokeFrame): Array<{ n: number; at: Vec3; density: number }> =>
  [...density].flatMap((d, n) =>
    d > 0 ? [{ n, at: [n % nx, Math.floor(n / nx) % ny, Math.floor(n / (nx * ny))] as Vec3, density: d }] : [],
  );

describe('smoke: masks of emitters', () => {
  const calm = { turbulence: 0, swirl: 0, lift: 0, collides: false };
  /** A picture of so many pixels whose colours a function gives. */
  const picture = (width: number, height: number, rgba: (x: number, y: number) => number[]): PixelPicture => ({
    ...{ width, height },
    data: Uint8Array.from(
      Array.from({ length: width * height }, (_, n) => rgba(n % width, Math.floor(n / width))).flat(),
    ),
  });
  const WHITE = [255, 255, 255, 255];
  const BLACK = [0, 0, 0, 255];
  const box = (mask: EmitterMask | null): SmokeEmitter =>
    newEmitter('e', 'Source', {
      ...{ shape: 'box', position: [0, 0.12, 0], width: 0.2, height: 0.2, depth: 0.2, noise: 0, heat: 0, mask },
    });

  it('what is bright lets through; of a picture with clear parts what is opaque', () => {
    const grey = emitterMask(
      picture(2, 1, (x) => (x === 0 ? WHITE : [188, 188, 188, 255])),
      'front',
    );
    // 188 is half the light.
    expect(grey).deep.equal({ from: 'front', width: 2, height: 1, values: 'f8' });
    const logo = emitterMask(
      picture(2, 1, (x) => (x === 0 ? BLACK : [0, 0, 0, 0])),
      'front',
    );
    expect(logo.values).equal('f0');
    const large = emitterMask(
      picture(400, 100, (x) => (x < 200 ? WHITE : BLACK)),
      'above',
    );
    expect([large.width, large.height]).deep.equal([96, 24]);
    expect(large.values.slice(0, 96)).equal('f'.repeat(48) + '0'.repeat(48));
  });

  it('its top left is up on the left from the front, behind on the left from above, before on top from the side', () => {
    const corner = picture(8, 8, (x, y) => (x < 4 && y < 4 ? WHITE : BLACK));
    const middleOf = (from: EmitterMask['from']): Vec3 => {
      const { run, frame } = simulated({ emitters: [box(emitterMask(corner, from))], ...calm }, 1);
      const cells = cellsOf(frame);
      const sum = cells.reduce((total, c) => total + c.density, 0);
      const { origin, cell } = run.domain;
      return [0, 1, 2].map(
        (a) => cells.reduce((total, c) => total + c.density * (origin[a] + (c.at[a] + 0.5) * cell), 0) / sum,
      ) as Vec3;
    };
    // A quarter of the box, whose middle is 5 cm away from the box's own along two of its sides.
    const expected: Record<EmitterMask['from'], Vec3> = {
      front: [-0.05, 0.17, 0],
      above: [-0.05, 0.12, -0.05],
      side: [0, 0.17, 0.05],
    };
    for (const from of MASK_SIDES)
      middleOf(from).forEach((v, a) => expect(v, `${from} ${a}`).closeTo(expected[from][a], 0.012));
  });

  it('is thrown over the box round a thing, and none leaves all as it was', () => {
    const half = emitterMask(
      picture(8, 1, (x) => (x < 4 ? WHITE : BLACK)),
      'front',
    );
    const skin = { shape: 'thing', thing: 'jar' } as const;
    const left = cellsOf(simulated({ emitters: [{ ...box(half), ...skin }], ...calm }, 1).frame);
    const whole = cellsOf(simulated({ emitters: [{ ...box(null), ...skin }], ...calm }, 1).frame);
    expect(left.length).within(0.35 * whole.length, 0.65 * whole.length);
    expect(Math.max(...left.map(({ at }) => at[0]))).below(18);
    const emitter = { ...box(null) } as Partial<SmokeEmitter>;
    delete emitter.mask;
    const causes = (e: Partial<SmokeEmitter>): string =>
      JSON.stringify(causesOf(newSmoke('s', 'S', { emitters: [e as SmokeEmitter] })));
    expect(causes(box(null))).equal(causes(emitter));
    expect(causes(box(half))).not.equal(causes(emitter));
  });

  it('a mask that does not fit its size is refused', () => {
    const set = newSet('Studio');
    set.effects = [
      newSmoke('smoke', 'Smoke', { emitters: [box({ from: 'front', width: 2, height: 2, values: 'f0f' })] }),
    ];
    expect(() => validateDocument('set', set)).to.throw(/choose its picture again/);
  });
});

describe('smoke: colours', () => {
  const [left, right] = ([-0.15, 0.15] as const).map((x, i) =>
    newEmitter(`e${i}`, 'Source', { position: [x, 0.05, 0.12], noise: 0, colour: i === 0 ? '#FF0000' : '#0000FF' }),
  );
  const calm = { turbulence: 0, swirl: 0, lift: 1, collides: false };

  it('go with the smoke of their emitters, and none come in between', () => {
    const { frame } = simulated({ emitters: [left, right], ...calm }, 8);
    const colours = frame.colours!;
    for (const { n, at, density } of cellsOf(frame)) {
      // What is thin beyond counting has lost its colour to rounding.
      if (density < 20) continue;
      const [r, g, b] = colours.subarray(n * 3, n * 3 + 3);
      expect(g).equal(0);
      if (at[0] < 14) expect([r > 250, b < 20], `${at}`).deep.equal([true, true]);
      if (at[0] > 18) expect([r < 20, b > 250], `${at}`).deep.equal([true, true]);
    }
  });

  it('where two meet each counts by its density', () => {
    const half = { ...right, position: left.position, colour: '#0000FF', rate: left.rate * 3 };
    const { frame } = simulated({ emitters: [left, half], ...calm }, 6);
    for (const { n, density } of cellsOf(frame)) {
      if (density < 2000) continue;
      const [r, , b] = [...frame.colours!.subarray(n * 3, n * 3 + 3)].map((v) => (v / 255) ** 2);
      expect(r).closeTo(0.25, 0.03);
      expect(b).closeTo(0.75, 0.03);
    }
  });

  it('white smoke keeps none, and smoke whose colour is keyed does', () => {
    const white = { ...left, colour: '#FFFFFF' };
    expect(simulated({ emitters: [white] }, 2).frame.colours).equal(undefined);
    const set = newSet('Studio');
    set.effects = [newSmoke('smoke', 'Smoke', { emitters: [white] })];
    const track = {
      thing: 'smoke',
      path: 'emitters.e0.colour',
      keys: [
        { frame: 0, value: '#FFFFFF', ease: 'linear' as const },
        { frame: 9, value: '#FF0000', ease: 'linear' as const },
      ],
    };
    const program = compile(set, { ...newShot('Shot', 'set', 'hero', 12), tracks: [track] });
    const run = new SmokeRun(program, program.effects[0] as Slot<SmokeEffect>, context, 'coarse', RATE);
    run.begin(HOST);
    while (run.frame < 2) run.next();
    expect(run.result().colours).not.equal(undefined);
  });
});

describe('smoke: what it costs', () => {
  it('a stored frame takes as much as was said beforehand, with colours and without', () => {
    for (const colour of ['#FFFFFF', '#AA3300']) {
      const { run, frame } = simulated({ emitters: [newEmitter('e', 'Source', { colour })] }, 1);
      const said = costOf(run.domain, colour !== '#FFFFFF');
      expect(writeSmoke(frame).length / said.frameBytes).closeTo(1, 0.05);
    }
  });
});

describe('smoke: emitters on things', () => {
  const on = (values: Parameters<typeof newEmitter>[2]): Partial<SmokeEffect> => ({
    emitters: [newEmitter('skin', 'Skin', { shape: 'thing', thing: 'jar', heat: 0, noise: 0, ...values })],
    ...{ turbulence: 0, swirl: 0, lift: 0, weight: 0 },
  });
  const rows = (values: Parameters<typeof newEmitter>[2]): [number, number] => {
    const found = cellsOf(simulated(on(values), 1).frame).map(({ at }) => at[1]);
    return [Math.min(...found), Math.max(...found)];
  };

  it('give off between two heights only', () => {
    const [low, high] = rows({});
    const [from, to] = rows({ lowest: 0.5, highest: 0.75 });
    expect(from).above(low + 1);
    expect(to).below(high - 1);
    expect(from).closeTo(low + (high - low) / 2, 2);
  });

  it('give off from the named parts only', () => {
    const lowest = ({ positions }: Mesh): number =>
      positions.reduce((m, v, i) => (i % 3 === 1 ? Math.min(m, v) : m), 9);
    const lid = meshes.reduce((best, mesh, i) => (lowest(mesh) > lowest(meshes[best]) ? i : best), 0);
    expect(rows({ parts: `${lid}` })[0]).above(rows({})[0] + 2);
    expect(cellsOf(simulated(on({ parts: '99' }), 1).frame)).deep.equal([]);
  });
});

describe('smoke: what is carried', () => {
  it('still air carries nothing; even wind carries by its way until the pattern begins anew', () => {
    const box = { emitters: [], lift: 0, turbulence: 0, swirl: 0, collides: false };
    const still = simulated(box, 5).frame;
    expect(still.flow!.most).equal(0);
    expect(still.motion!.most).equal(0);
    const { frame } = simulated({ ...box, wind: [0.24, 0, 0], windGrip: 1 }, 6);
    // The wind is taken on within a fraction of a second, so the way of the last frame is known best.
    const middle = frame.motion!.values.length / 2;
    const way = (frame.motion!.values[middle - (middle % 3)] * frame.motion!.most) / 127;
    expect(way).closeTo(0.24 / 24, 0.0008);
    // In the middle of the first pattern, which began six frames ago.
    const cell = Math.floor(frame.flow!.values.length / 2 / 2 / 3);
    const far = (frame.flow!.values[cell * 3] * frame.flow!.most) / 32767;
    expect(far).within(0.03, 0.0601);
  });

  it('between two frames carried ways are between theirs', () => {
    const { run, frame: a } = simulated({}, 6);
    run.next();
    const b = run.result();
    const [first, half, last] = [0, 0.5, 1].map((s) => simulatedBetween(a, b, s) as SimulatedSmoke);
    const most = first.flow!.carried[0].reduce((m, v) => Math.max(m, Math.abs(v)), 0);
    half.flow!.carried[0].forEach((v, i) =>
      expect(v).closeTo((first.flow!.carried[0][i] + last.flow!.carried[0][i]) / 2, most * 1e-5),
    );
    expect(half.flow!.share).closeTo((a.flow!.share + b.flow!.share) / 2, 1e-9);
  });
});

/** Smoke of a grid in a box from -half to half. */
function box(half: Vec3, extinction: number, grid: VolumeGrid, colour: Vec3 = [0, 0, 0]): TableauVolume {
  const [x, y, z] = half;
  const matrix: Mat4 = [2 * x, 0, 0, 0, 0, 2 * y, 0, 0, 0, 0, 2 * z, 0, -x, -y, -z, 1];
  return { matrix, extinction, colour, phase: 0, grid };
}
const see = (studio: Studio, samples: number): number =>
  mean(trace(pack({ fov: 0.05, ...studio }), samples, 4, FREE).beauty);

describe('smoke: renders', () => {
  it('what moves across while the shutter is open covers for a part of it', () => {
    // A wall of smoke fills the left half and moves to the right by a quarter of the box: the picture point at an eighth is covered for half the time.
    const size: Vec3 = [64, 2, 2];
    const density = Float32Array.from({ length: 256 }, (_, i) => (i % 64 < 32 ? 1 : 0));
    const ways = Float32Array.from({ length: 24 }, (_, i) => (i % 3 === 0 ? 0.5 : 0));
    const shutter = { size: [2, 2, 2] as Vec3, ways };
    const eye = { eye: [0.25, 0, 4] as Vec3, aim: [0.25, 0, 0] as Vec3 };
    const through = (grid: VolumeGrid): number => see({ volumes: [box([1, 1, 0.5], 3, grid)], room: 1, ...eye }, 4096);
    expect(through({ size, density })).closeTo(1, 0.01);
    expect(through({ size, density, shutter })).closeTo((1 + Math.exp(-3)) / 2, 0.02);
  });

  it('cells of one colour are as smoke of that colour', () => {
    const size: Vec3 = [2, 2, 2];
    const density = new Float32Array(8).fill(1);
    // Half, as square root in a byte.
    const colours = new Uint32Array(8).fill(180 | (180 << 8) | (180 << 16));
    const own = see({ volumes: [box([0.5, 0.5, 0.5], 2, { size, density, colours }, [1, 1, 1])], room: 1 }, 4096);
    const share = (180 / 255) ** 2;
    const plain = see({ volumes: [box([0.5, 0.5, 0.5], 2, { size, density }, [share, share, share])], room: 1 }, 4096);
    expect(own / plain).closeTo(1, 0.01);
  });

  it('by heat and by density smoke goes from one colour to the other', () => {
    const { frame } = simulated({ emitters: [newEmitter('hot', 'Hot', { position: [0.15, 0.06, 0], heat: 200 })] }, 8);
    const seen = (values: Partial<SmokeEffect>): TableauVolume => {
      const set = newSet('Studio');
      set.effects = [newSmoke('smoke', 'Smoke', { colour: '#000000', otherColour: '#FFFFFF', ...values })];
      const shown = { ...context, simulated: () => simulatedBetween(frame, frame, 0) };
      return evaluate(compile(set, newShot('Shot', 'set', 'hero', 48)), 8, shown).volumes[0];
    };
    const even = seen({});
    expect(even.grid!.colours).equal(undefined);
    const heat = (frame.heat!.most * frame.heat!.values[hottest(frame)]) / 255;
    const hot = seen({ tint: 'by heat', tintHeat: heat * 2 }).grid!.colours!;
    expect(((hot[hottest(frame)] & 255) / 255) ** 2).closeTo(0.5, 0.02);
    const dense = frame.density.indexOf(65535);
    const tinted = seen({ tint: 'by density', tintDensity: frame.most }).grid!.colours!;
    expect(tinted[dense] & 255).equal(255);
    const curved = seen({ contrast: 2 }).grid!.density;
    expect(curved[dense] / even.grid!.density[dense] ** 2).closeTo(1, 1e-5);
  });

  it('a shutter gives smoke ways as it is played: backwards the other way, and none when it is shut', () => {
    const { frame } = simulated({ emitters: [newEmitter('near', 'Near', { position: [0.15, 0.06, 0] })] }, 8);
    const waysFor = (values: Partial<SmokeEffect>, shutter = 180): number[] => {
      const set = newSet('Studio');
      set.effects = [newSmoke('smoke', 'Smoke', values)];
      set.cameras[0].shutter = shutter;
      const shown = { ...context, simulated: () => simulatedBetween(frame, frame, 0) };
      const tableau = evaluateMotion(compile(set, newShot('Shot', 'set', set.cameras[0].id, 48)), 8, shown);
      return [...packScene(tableau, new Map()).volumes[0].ways];
    };
    const ways = waysFor({});
    expect(ways.some((v) => Math.abs(v) > 1e-5)).equal(true);
    const playback = { backwards: true, speed: 2, offset: 0, loop: false };
    waysFor({ playback }).forEach((v, i) => expect(v).closeTo(-2 * ways[i], 1e-6));
    expect(waysFor({}, 0)).deep.equal([]);
  });
});

describe('smoke: detail', () => {
  const size: Vec3 = [16, 16, 16];
  const flow = (shift: number, share: number): NonNullable<VolumeGrid['detail']>['flow'] => ({
    size: [4, 4, 4],
    carried: [0, 1].map(() => Float32Array.from({ length: 192 }, (_, i) => (i % 3 === 0 ? shift : 0))) as [
      Float32Array,
      Float32Array,
    ],
    share,
  });
  const matrix: Mat4 = [0.16, 0, 0, 0, 0, 0.16, 0, 0, 0, 0, 0.16, 0, 0, 0, 0, 1];
  const made = (shift = 0, share = 1, amount = 0.8): VolumeGrid =>
    withDetail(
      { size, density: new Float32Array(4096).fill(1), detail: { amount, size: 0.01, flow: flow(shift, share) } },
      matrix,
    );

  it('breaks density up and keeps its mean', () => {
    const { density, size: finer } = made();
    expect(finer).deep.equal([32, 32, 32]);
    const average = density.reduce((sum, v) => sum + v, 0) / density.length;
    const variance = density.reduce((sum, v) => sum + (v - average) ** 2, 0) / density.length;
    expect(average).closeTo(1, 0.05);
    expect(Math.sqrt(variance)).within(0.25, 0.8);
    // As strong while both patterns count.
    const both = made(0, 0.5).density;
    const spread = Math.sqrt(both.reduce((sum, v) => sum + (v - average) ** 2, 0) / both.length);
    expect(spread / Math.sqrt(variance)).within(0.8, 1.25);
  });

  it('goes with the flow: carried by two cells it is the same two cells on', () => {
    const [still, moved] = [made().density, made(0.01).density];
    for (let n = 0; n < 4000; n += 37) {
      const [i, j, k] = [n % 28, Math.floor(n / 28) % 32, Math.floor(n / 896)];
      expect(moved[(k * 32 + j) * 32 + i + 2]).closeTo(still[(k * 32 + j) * 32 + i], 1e-4);
    }
  });

  it('empty air stays empty, and without it the grid is what it was', () => {
    const density = new Float32Array(4096);
    const detail = { amount: 1, size: 0.01, flow: flow(0, 1) };
    expect(withDetail({ size, density, detail }, matrix).density.every((v) => v === 0)).equal(true);
    const plain = { size, density };
    expect(withDetail(plain, matrix)).equal(plain);
  });
});

function hottest({ heat, density }: SmokeFrame): number {
  let best = 0;
  heat!.values.forEach((v, n) => {
    if (density[n] > 0 && v > (heat!.values[best] ?? 0)) best = n;
  });
  return best;
}
