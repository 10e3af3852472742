import { expect } from 'chai';
import {
  newParticles,
  newSmoke,
  plainItem,
  validateDocument,
  type ParticlesEffect,
  type SetDocument,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { boundsOf } from '@tender-orbit/core/geometry';
import { exp } from '@tender-orbit/core/maths';
import { PARTICLE } from '@tender-orbit/core/scene';
import { particlesBetween, particlesOf, readFrame, writeFrame } from '@tender-orbit/core/simulate';
import { kernel } from './smoke-box.ts';
import { SECONDS, meshes, setWith, shotOf, runIn, played, placeOf, speedOf } from './particle-box.ts';

describe('particles: flight', () => {
  it('without drag a thrown one falls as a stone does', () => {
    const frame = played({ velocity: [1, 2, 0], gravity: 9.81 }, 20);
    const t = 20 * SECONDS;
    expect(placeOf(frame)[0]).closeTo(0.5 + t, 1e-5);
    expect(placeOf(frame)[1]).closeTo(1 + 2 * t - (9.81 * t * t) / 2, 1e-5);
    expect(speedOf(frame)[1]).closeTo(2 - 9.81 * t, 1e-5);
  });

  it('drag against still air follows its exponential, whatever the frame rate, and ends at its last speed', () => {
    const t = 20 * SECONDS;
    const frame = played({ velocity: [3, 0, 0], drag: 4, gravity: 2 }, 20);
    expect(placeOf(frame)[0]).closeTo(0.5 + (3 / 4) * (1 - exp(-4 * t)), 1e-5);
    expect(speedOf(frame)[1]).closeTo(-0.5 * (1 - exp(-4 * t)), 1e-5);
    expect(speedOf(played({ drag: 4, gravity: 2 }, 55))[1]).closeTo(-0.5, 1e-3);
  });

  it('wind carries it along, a whirl takes it round its axis, a pull brings it in', () => {
    expect(speedOf(played({ drag: 8, wind: [0.3, 0, -0.2] }, 50))[0]).closeTo(0.3, 1e-4);
    const round = played({ drag: 60, swirl: 0.5, goal: [0, 0, 0] }, 10);
    expect(placeOf(round)[2]).below(-0.1);
    const [x, , z] = placeOf(round);
    expect(Math.hypot(x, z)).within(0.45, 0.56);
    const near = placeOf(played({ drag: 3, pull: 4, goal: [0, 1, 0] }, 50));
    expect(Math.abs(near[0])).below(0.25);
  });

  it('turbulence moves all, evenly to every side, and is another for another seed', () => {
    const many: Partial<ParticlesEffect> = { source: 'box', width: 2, height: 2, depth: 2, burst: 800, drag: 20 };
    const frame = played({ ...many, turbulence: 0.2, eddies: 0.1 }, 4);
    const mean = [0, 0, 0];
    let square = 0;
    for (let i = 0; i < frame.count; i++)
      speedOf(frame, i).forEach((v, a) => {
        mean[a] += v / frame.count;
        square += (v * v) / frame.count;
      });
    expect(Math.sqrt(square)).within(0.05, 0.25);
    for (const v of mean) expect(Math.abs(v)).below(0.03);
    const other = played({ ...many, turbulence: 0.2, eddies: 0.1, seed: 2 }, 4);
    expect(speedOf(other)).not.deep.equal(speedOf(frame));
  });

  it('a thin plate falls slower than a grain, glides aside and turns over', () => {
    const fall = { gravity: 3, drag: 5, size: 0.03, life: 100, tumble: 1 };
    const grain = played({ ...fall, tumble: 0 }, 40);
    const plates = played({ ...fall, flutter: 1, burst: 200 }, 40);
    let [sunk, aside, turned] = [0, 0, 0];
    for (let i = 0; i < plates.count; i++) {
      sunk += (1 - placeOf(plates, i)[1]) / plates.count;
      aside += Math.hypot(placeOf(plates, i)[0] - 0.5, placeOf(plates, i)[2]) / plates.count;
      turned += Math.hypot(...plates.data.subarray(i * 16 + 10, i * 16 + 13)) / plates.count;
    }
    // Edgewise it is faster, broadside it is as slow as drag says.
    expect(sunk).within(1 - placeOf(grain)[1], 3 * (1 - placeOf(grain)[1]));
    expect(aside).above(0.05);
    expect(turned).above(1);
    expect(plates.data.every(Number.isFinite)).equal(true);
  });

  it('smoke that carries them moves them as its gas moves', () => {
    const set = setWith({ source: 'ball', position: [0, 0.1, 0], width: 0.05, height: 0.05, depth: 0.05, drag: 60 });
    set.products = [];
    set.effects.push(
      newSmoke('smoke', 'Smoke', { cells: { coarse: 0.02, normal: 0.02, fine: 0.02 }, lift: 20, turbulence: 0 }),
    );
    const rise = (follows: string): number => {
      (set.effects[0] as ParticlesEffect).follows = follows;
      const run = runIn(set);
      while (run.frame < 12) run.next();
      return placeOf(run.result())[1];
    };
    expect(rise('smoke')).above(rise('') + 0.02);
  });
});

describe('particles: birth and death', () => {
  it('as many are born as the rate says, evenly, and die when their life is over', () => {
    const run = runIn(setWith({ burst: 0, rate: 40, life: 1 }));
    const counts: number[] = [];
    while (run.frame < 50) {
      run.next();
      counts.push(run.result().count);
    }
    expect(counts.slice(0, 5)).deep.equal([1, 3, 4, 6, 8]);
    expect(counts[49]).within(39, 41);
    expect(run.result().born).equal(80);
  });

  it('bursts come at their frame and again', () => {
    const run = runIn(setWith({ burst: 5, burstAt: 3, burstEvery: 10 }));
    const counts: number[] = [];
    while (run.frame < 25) {
      run.next();
      counts.push(run.result().count);
    }
    expect(counts[2]).equal(0);
    expect(counts[3]).equal(5);
    expect(counts[13]).equal(10);
    expect(counts[24]).equal(15);
  });

  it('they come from a ball, a box, or evenly from a skin', () => {
    const ball = played({ source: 'ball', burst: 400, width: 0.2, height: 0.4, depth: 0.2 }, 1);
    for (let i = 0; i < ball.count; i++) {
      const [x, y, z] = placeOf(ball, i);
      expect(Math.hypot((x - 0.5) / 0.1, (y - 1) / 0.2, z / 0.1)).below(1.0001);
    }
    const skin = played({ source: 'thing', thing: 'jar', burst: 2000, collides: false }, 1);
    const { min, max } = boundsOf(meshes);
    const high = (min[1] + max[1]) / 2;
    let above = 0;
    for (let i = 0; i < skin.count; i++) {
      const p = placeOf(skin, i);
      p.forEach((v, a) => expect(v).within(min[a] - 1e-4, max[a] + 1e-4));
      if (p[1] > high) above++;
    }
    expect(above / skin.count).within(0.25, 0.75);
    expect(played({ source: 'thing', thing: 'gone', burst: 10 }, 1).count).equal(0);
  });

  it('each goes its own way: another number of them, or a later change, leaves it where it was', () => {
    const values: Partial<ParticlesEffect> = { rate: 30, burst: 0, turbulence: 0.3, drag: 5, spread: 0.5 };
    const few = played({ ...values, velocity: [0, 1, 0] }, 30);
    const more = played({ ...values, velocity: [0, 1, 0], burst: 7, burstAt: 29 }, 30);
    const i = [...few.numbers].indexOf(12);
    expect(placeOf(more, [...more.numbers].indexOf(12))).deep.equal(placeOf(few, i));
  });
});

describe('particles: contact', () => {
  const drop: Partial<ParticlesEffect> = { gravity: 9.81, collides: true, size: 0.02, position: [0.5, 0.3, 0] };

  it('what bounces loses the share that it is told, and comes to rest on the floor by its radius', () => {
    const run = runIn(setWith({ ...drop, contact: 'bounce', bounce: 0.5 }), shotOf({ length: 200 }));
    let [top, falling] = [0, true];
    while (run.frame < 150) {
      run.next();
      const [, y] = placeOf(run.result());
      const [, v] = speedOf(run.result());
      expect(y).above(0.0099);
      if (v > 0) falling = false;
      if (!falling && run.frame < 13) top = Math.max(top, y);
    }
    // A quarter of the height by half of the speed, told at frames only.
    expect(top).within(0.06, 0.0826);
    expect(placeOf(run.result())[1]).closeTo(0.01, 1e-4);
    expect(placeOf(run.result())[0]).equal(0.5);
  });

  it('none gets into the jar, what sticks stays on it, what vanishes is gone', () => {
    const { max } = boundsOf(meshes);
    const over: Partial<ParticlesEffect> = {
      ...{ ...drop, source: 'box', position: [0, max[1] + 0.1, 0], width: 0.06, height: 0.01, depth: 0.06 },
      ...{ burst: 60, contact: 'stick' },
    };
    const stuck = played(over, 30);
    expect(stuck.count).equal(60);
    for (let i = 0; i < stuck.count; i++) {
      expect(stuck.data[i * 16 + PARTICLE.rest]).not.equal(0);
      expect(placeOf(stuck, i)[1]).above(-1e-4);
    }
    expect(placeOf(stuck)[1]).above(max[1] * 0.8);
    expect(played({ ...over, contact: 'vanish' }, 30).count).equal(0);
  });

  it('what clings to a thing goes with it, and a thing that moves pushes', () => {
    const { max } = boundsOf(meshes);
    const set = setWith({ ...drop, position: [0, max[1] + 0.05, 0], contact: 'stick' });
    const across = { id: 't', thing: 'jar', path: 'position.0', keys: [] as unknown[] };
    across.keys = [
      { frame: 10, value: 0, ease: 'linear' },
      { frame: 40, value: 0.3, ease: 'linear' },
    ].map((key, i) => ({ id: `k${i}`, ...key }));
    const shot = shotOf();
    shot.tracks = [across as never];
    const run = runIn(validateDocument('set', JSON.parse(JSON.stringify(set))), shot);
    while (run.frame < 45) run.next();
    expect(placeOf(run.result())[0]).closeTo(0.3, 0.01);
  });

  it('what clings to a thing stays with it when another thing before it is hidden', () => {
    const { max } = boundsOf(meshes);
    const set = setWith({ ...drop, position: [0, max[1] + 0.05, 0], contact: 'stick' });
    set.products.unshift({ ...plainItem(), id: 'first', name: 'First', product: 'jar', position: [1, 0, 0] });
    const shot = shotOf();
    const shown = { id: 'v', thing: 'first', path: 'visible' };
    const keys = [true, false].map((value, i) => ({ id: `k${i}`, frame: i * 30, value, ease: 'hold' }));
    const across = [0, 0.2].map((value, i) => ({ id: `a${i}`, frame: 35 + i * 10, value, ease: 'linear' }));
    shot.tracks = [
      { ...shown, keys },
      { id: 't', thing: 'jar', path: 'position.0', keys: across },
    ] as never;
    const run = runIn(set, shot);
    while (run.frame < 50) run.next();
    expect(placeOf(run.result())[0]).closeTo(0.2, 0.01);
  });

  it('plates come to lie flat', () => {
    const flat = played({ ...drop, gravity: 3, drag: 5, flutter: 1, burst: 50, tumble: 1, contact: 'stick' }, 58);
    let level = 0;
    for (let i = 0; i < flat.count; i++) {
      const [x, , z] = flat.data.subarray(i * 16 + 6, i * 16 + 10);
      if (Math.abs(1 - 2 * (x * x + z * z)) > 0.97) level++;
    }
    expect(level / flat.count).above(0.9);
  });
});

describe('particles: frames', () => {
  it('go to bytes and back; others are told apart', () => {
    const frame = played({ burst: 20, rate: 33, spread: 1, velocity: [0, 1, 0] }, 7);
    expect(readFrame(writeFrame(frame))).deep.equal(frame);
    const bytes = writeFrame(frame);
    expect(() => readFrame(bytes.subarray(0, bytes.length - 4))).throw(/not whole/);
    expect(() => readFrame(bytes.with(4, 99))).throw(/another version/);
  });

  it('going on from a state gives what going through gives', () => {
    const set = setWith({ rate: 50, turbulence: 0.4, drag: 3, gravity: 1, collides: true, position: [0, 0.4, 0] });
    const whole = runIn(set);
    const states = new Map<string, Uint8Array>();
    while (whole.frame < 24) {
      whole.next();
      if (whole.frame === 16) states.set(whole.key(16), whole.state());
    }
    const later = runIn(set);
    later.begin({ kernel, state: (key) => states.get(key) }, 20);
    expect(later.frame).equal(16);
    while (later.frame < 24) later.next();
    expect(later.result()).deep.equal(whole.result());
  });

  it('a change at a frame leaves the keys of earlier ones; a change of look leaves all', () => {
    const keys = (set: SetDocument, shot: ShotDocument): string[] => {
      const run = runIn(set, shot);
      return Array.from({ length: run.frames }, (_, f) => run.key(f));
    };
    const before = keys(setWith(), shotOf());
    const shot = shotOf();
    const key = (frame: number, value: number): unknown => ({ id: `k${frame}`, frame, value, ease: 'linear' });
    shot.tracks = [{ id: 't', thing: 'p', path: 'gravity', keys: [key(20, 0), key(21, 5)] } as never];
    const after = keys(setWith(), shot);
    expect(after.slice(0, 21)).deep.equal(before.slice(0, 21));
    expect(after[21]).not.equal(before[21]);
    expect(keys(setWith({ colour: '#102030', form: 'leaf' }), shotOf())).deep.equal(before);
    expect(keys(setWith({ seed: 9 }), shotOf())[5]).not.equal(before[5]);
  });

  it('between two frames they are between their places; who is born or dies in between comes and goes', () => {
    const run = runIn(setWith({ burst: 0, rate: 40, life: 0.5, velocity: [0, 1, 0] }));
    while (run.frame < 20) run.next();
    const a = run.result();
    run.next();
    const b = run.result();
    const half = particlesBetween(a, b, 0.5);
    const common = [...half.numbers].find((n) => a.numbers.includes(n) && b.numbers.includes(n))!;
    const y = (frame: { numbers: Uint32Array; data: Float32Array }): number =>
      frame.data[[...frame.numbers].indexOf(common) * 16 + 1];
    expect(y(half)).closeTo((y(a) + y(b)) / 2, 1e-6);
    expect(half.count).within(19, 21);
    for (let i = 0; i < half.count; i++) expect(half.data[i * 16 + PARTICLE.age]).within(0, 0.5);
    expect(particlesBetween(a, b, 0)).equal(a);
  });

  it('ten million are refused with their number, and a rate that grows by keys as well', () => {
    expect(() => runIn(setWith({ rate: 100000, life: 100 }))).throw(/10.0 million particles.*Lower its rate/);
    expect(particlesOf({ ...newParticles('p', 'P'), rate: 10, life: 3, burst: 4 }, SECONDS).count).equal(34);
    const shot = shotOf();
    const key = (frame: number, value: number): unknown => ({ id: `k${frame}`, frame, value, ease: 'linear' });
    shot.tracks = [{ id: 't', thing: 'p', path: 'rate', keys: [key(0, 0), key(1, 1e5)] } as never];
    const run = runIn(setWith({ rate: 0, burst: 199_000 }), shot);
    expect(() => {
      while (run.frame < 9) run.next();
    }).throw(/thousand particles/);
  });

  it('any settings within their ranges keep all numbers finite', () => {
    for (let seed = 1; seed <= 6; seed++) {
      const h = (k: number): number => ((seed * 2654435761 + k * 40503) >>> 0) / 0x100000000;
      const wild: Partial<ParticlesEffect> = {
        ...{ gravity: 100 * h(1) - 50, drag: 200 * h(2), turbulence: 20 * h(3), eddies: 0.001 + h(4) * 0.1 },
        ...{ swirl: 40 * h(5) - 20, pull: 200 * h(6) - 100, flutter: h(7), tumble: 20 * h(8), spread: 1 },
        ...{ velocity: [40 * h(9) - 20, 20, -20], outward: 10, collides: seed % 2 === 0, bounce: 0.98 },
        ...{ contact: 'bounce', burst: 60, source: 'box', size: seed % 3 === 0 ? 0.0001 : 0.05, position: [0, 0.1, 0] },
      };
      const run = runIn(setWith({ ...wild, seed, life: 600 }), shotOf({ length: 140 }));
      while (run.frame < 120) run.next();
      expect(run.result().data.every(Number.isFinite), String(seed)).equal(true);
    }
  });
});
