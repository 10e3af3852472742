import { expect } from 'chai';
import {
  newEmitter,
  newSet,
  newShot,
  newSmoke,
  type SmokeEffect,
  type SmokeEmitter,
  replaceTracks,
  runCommand,
} from '@tender-orbit/core/document';
import type { Vec3 } from '@tender-orbit/core/geometry';
import { compile, type Slot } from '@tender-orbit/core/scene';
import { SmokeRun, windowFor, type CellBox, type SmokeWindow } from '@tender-orbit/core/simulate';
import { cube, kernel } from './smoke-box.ts';

const RATE = { num: 24, den: 1 };
const box = (low: number, high: number): CellBox => ({ low: [low, low, low], high: [high, high, high] });
const cellsIn = ({ size: [x, y, z] }: SmokeWindow): number => x * y * z;

describe('smoke: the window that is simulated', () => {
  const domain = cube(128);

  it('holds what is busy with air round it, in whole eighths within the domain', () => {
    const window = windowFor(domain, box(60, 70), 3, null);
    for (let a = 0; a < 3; a++) {
      expect(window.offset[a] % 8).equal(0);
      expect(window.size[a] % 8).equal(0);
      expect(window.offset[a]).at.most(60 - 11);
      expect(window.offset[a] + window.size[a]).at.least(71 + 11);
      expect(window.origin[a]).closeTo(domain.origin[a] + window.offset[a] * domain.cell, 1e-12);
    }
    expect(cellsIn(window)).below(128 ** 3 / 20);
    const corner = windowFor(domain, box(0, 3), 0, null);
    expect(corner.offset).deep.equal([0, 0, 0]);
    const far = windowFor(domain, box(127, 127), 0, null);
    expect(far.offset.map((v, a) => v + far.size[a])).deep.equal([128, 128, 128]);
  });

  it('stays while it fits, grows before anything reaches its side, and becomes smaller when far too large', () => {
    const first = windowFor(domain, box(60, 70), 2, null);
    expect(windowFor(domain, box(58, 72), 2, first)).equal(first);
    const near = first.offset[0] + 3;
    const grown = windowFor(domain, box(near, 70), 2, first);
    expect(grown).not.equal(first);
    expect(grown.offset[0]).below(near - 6);
    // Gas that goes fast reaches a side sooner.
    expect(windowFor(domain, box(58, 72), 16, first)).not.equal(first);
    const large = windowFor(domain, box(4, 120), 0, null);
    expect(cellsIn(windowFor(domain, box(60, 70), 0, large))).below(cellsIn(large) / 2);
  });

  it('without smoke is the whole domain, whose air may carry particles', () => {
    expect(windowFor(domain, null, 0, null).size).deep.equal(domain.size);
  });
});

describe('smoke: in a window', () => {
  const plume = newEmitter('plume', 'Plume', {
    ...{ position: [0, 0.05, 0], width: 0.08, height: 0.04, depth: 0.08, noise: 0 },
  });
  function runIn(
    metres: number,
    emitters: SmokeEmitter[],
    frames: number,
    values: Partial<SmokeEffect> = {},
    moves?: ReturnType<typeof replaceTracks>,
  ): SmokeRun {
    const set = newSet('Studio');
    const cells = { coarse: 0.02, normal: 0.02, fine: 0.02 };
    const size = { width: metres, height: metres, depth: metres };
    set.effects = [newSmoke('smoke', 'Smoke', { ...size, cells, emitters, turbulence: 1, ...values })];
    const shot = newShot('Shot', 'set', 'hero', 48);
    const program = compile(set, moves ? runCommand(shot, moves) : shot);
    const context = { products: new Map(), meshes: () => undefined, aspect: 16 / 9 };
    const run = new SmokeRun(program, program.effects[0] as Slot<SmokeEffect>, context, 'coarse', RATE);
    run.begin({ kernel, state: () => undefined });
    while (run.frame < frames) run.next();
    return run;
  }
  /** Density in all, its middle and how far it is spread, metres. */
  function smokeOf(run: SmokeRun, within = Infinity): { mass: number; middle: Vec3; spread: Vec3 } {
    const { size, cell, origin, density, most } = run.result();
    let mass = 0;
    const [sum, squares]: [Vec3, Vec3] = [
      [0, 0, 0],
      [0, 0, 0],
    ];
    density.forEach((d, n) => {
      const at = [n % size[0], Math.floor(n / size[0]) % size[1], Math.floor(n / (size[0] * size[1]))];
      const place = at.map((v, a) => origin[a] + (v + 0.5) * cell);
      if (Math.abs(place[0]) > within || Math.abs(place[2]) > within) return;
      const own = (d * most) / 65535;
      mass += own;
      for (let a = 0; a < 3; a++) {
        sum[a] += own * place[a];
        squares[a] += own * place[a] * place[a];
      }
    });
    const middle = sum.map((v) => v / mass) as Vec3;
    return { mass, middle, spread: squares.map((v, a) => Math.sqrt(v / mass - middle[a] * middle[a])) as Vec3 };
  }

  it('is the smoke of the whole domain: its mass, where it is and how far it spreads', () => {
    const free = runIn(0.96, [plume], 24);
    // A trace of smoke in two corners has all of the domain simulated.
    const corners = [-0.44, 0.44].map((at, n) =>
      newEmitter(`c${n}`, 'Corner', {
        ...{ position: [at, 0.48 + at, at], width: 0.04, height: 0.04, depth: 0.04, rate: 0.2, heat: 0, noise: 0 },
      }),
    );
    const whole = runIn(0.96, [plume, ...corners], 24);
    expect(free.state().length).below(whole.state().length / 2);
    const [a, b] = [smokeOf(free, 0.3), smokeOf(whole, 0.3)];
    expect(a.mass / b.mass).closeTo(1, 0.002);
    for (let axis = 0; axis < 3; axis++) {
      expect(a.middle[axis]).closeTo(b.middle[axis], 0.003);
      expect(a.spread[axis]).closeTo(b.spread[axis], 0.003);
    }
  });

  it('nothing is lost as the window grows and moves', () => {
    const closed = { walls: { left: true, right: true, floor: true, top: true, back: true, front: true } };
    const lasting = { ...closed, dissipation: 0, wind: [1.2, 0, 0] as Vec3, windGrip: 0.9 };
    const puff = { ...plume, position: [-0.5, 0.1, 0] as Vec3 };
    const set = runIn(1.6, [puff], 6, lasting);
    const given = smokeOf(set).mass / 6;
    const later = smokeOf(runIn(1.6, [puff], 18, lasting));
    expect(later.mass / 18 / given).closeTo(1, 0.01);
    expect(later.middle[0]).above(-0.4);
  });

  it('nothing is lost when a strong pull sets in', () => {
    const closed = { walls: { left: true, right: true, floor: true, top: true, back: true, front: true } };
    const still = { ...closed, dissipation: 0, lift: 0, turbulence: 0 };
    const slab = { ...plume, position: [0, 0.5, 0] as Vec3, width: 0.3, depth: 0.3, rate: 200, heat: 0 };
    const fine = { coarse: 0.01, normal: 0.01, fine: 0.01 };
    // Nothing moves while it stands; then it is drawn upwards, to the window's side within a frame.
    const rises = replaceTracks('Rise', [
      {
        ...{ thing: 'smoke', path: 'weight' },
        keys: [
          { frame: 0, value: 0, ease: 'hold' },
          { frame: 5, value: -50, ease: 'hold' },
        ],
      },
    ]);
    const [before, after] = [4, 5].map((frames) =>
      smokeOf(runIn(0.96, [slab], frames, { ...still, cells: fine }, rises)),
    );
    expect(after.middle[1] - before.middle[1]).above(0.05);
    expect(after.mass / 5 / (before.mass / 4)).closeTo(1, 0.001);
  });

  it('looking at the air of the beginning changes nothing', () => {
    const looked = runIn(0.96, [plume], 0);
    looked.gas();
    looked.result();
    looked.next();
    const other = runIn(0.96, [plume], 1);
    expect(Buffer.compare(looked.state(), other.state())).equal(0);
  });

  it('patterns of the gas go on over windows: smoke in a larger domain is the same', () => {
    const [small, large] = [0.96, 1.92].map((metres) => smokeOf(runIn(metres, [plume], 16)));
    expect(small.mass / large.mass).closeTo(1, 0.002);
    expect(small.middle[1]).closeTo(large.middle[1], 0.002);
  });

  it('goes on from a kept state as if it had not stopped, whatever window that had', () => {
    const run = runIn(1.28, [plume], 5);
    const state = run.state();
    const key = run.key(5);
    for (let n = 0; n < 12; n++) run.next();
    const again = runIn(1.28, [plume], 0);
    again.begin({ kernel, state: (k) => (k === key ? state : undefined) }, 5);
    for (let n = 0; n < 12; n++) again.next();
    expect(Buffer.compare(run.state(), again.state())).equal(0);
  });
});
