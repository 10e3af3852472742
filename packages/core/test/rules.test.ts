import { expect } from 'chai';
import type { MovePath, Rule, SetLight, ShotDocument } from '@tender-orbit/core/document';
import { placementMatrix, transformPoint, type Vec3 } from '@tender-orbit/core/geometry';
import { bakeRule, curveOfPath, quaternionOf, wouldRing } from '@tender-orbit/core/motion';
import { cameraAt, distance, keysOf, movesSet, movesShot, ruleOf, thingAt } from './moves-scene.ts';

const ALL: [number, number, number] = [1, 1, 1];
const track = (thing: string, path: string, ...at: Array<[number, number]>) => ({ thing, path, keys: keysOf(...at) });
const withRules = (rules: Rule[], values: Partial<ShotDocument> = {}): ShotDocument => movesShot({ rules, ...values });

describe('rules: on values', () => {
  const set = movesSet();

  it('drift stays within its amount, is smooth, and differs by axis and by seed', () => {
    const drift = (seed: number) =>
      withRules([
        ruleOf('b', 'position', { kind: 'drift', period: 12, amount: 0.02, axes: ALL, seed, seamless: false }),
      ]);
    const at = (frame: number, seed = 4): Vec3 => thingAt(set, drift(seed), 'b', frame).position;
    let [most, steepest] = [0, 0];
    for (let f = 0; f < 400; f += 0.5) {
      const [p, q] = [at(f), at(f + 0.01)];
      most = Math.max(most, ...p.map(Math.abs));
      steepest = Math.max(steepest, ...p.map((v, i) => Math.abs(q[i] - v) / 0.01));
    }
    expect(most).within(0.005, 0.02);
    expect(steepest).below((0.02 * 2) / 12);
    expect(at(7)[0]).not.closeTo(at(7)[1], 1e-6);
    expect(at(7)).not.deep.equal(at(7, 5));
  });

  it('a drift without a seam comes round with the shot: place and speed', () => {
    const shot = withRules([
      ruleOf('b', 'turn', { kind: 'drift', period: 11, amount: 9, axes: ALL, seed: 2, seamless: true }),
    ]);
    const turn = (frame: number): number => thingAt(set, shot, 'b', frame).turn;
    for (const f of [0, 0.37, 5, 20.5]) expect(turn(f)).closeTo(turn(f + 48), 1e-9);
    expect(turn(3)).not.closeTo(turn(9), 1e-3);
  });

  it('a wave is a sine with its phase', () => {
    const shot = withRules([
      ruleOf('b', 'position.1', { kind: 'wave', period: 24, amount: 0.1, axes: ALL, phase: 30 }),
    ]);
    for (const f of [0, 5, 13.5, 40])
      expect(thingAt(set, shot, 'b', f).position[1]).closeTo(
        0.1 * Math.sin((2 * Math.PI * f) / 24 + Math.PI / 6),
        1e-12,
      );
  });

  it('hops fall as thrown things do: each a share as high, the root of it as long', () => {
    const shot = withRules([
      ruleOf('b', 'position', { kind: 'hop', start: 4, period: 10, amount: 0.2, axes: [0, 1, 0], kept: 0.25 }),
    ]);
    const y = (frame: number): number => thingAt(set, shot, 'b', frame).position[1];
    expect([y(0), y(4), y(14), y(19)].map((v) => Number(v.toFixed(12)))).deep.equal([0, 0, 0, 0]);
    expect(y(9)).closeTo(0.2, 1e-12);
    expect(y(16.5)).closeTo(0.05, 1e-12);
    expect(thingAt(set, shot, 'b', 9).position[0]).equal(0);
  });

  it('beyond the keys values repeat, go back and forth, or go on at their last speed', () => {
    const at = (mode: 'loop' | 'ping-pong' | 'continue', frame: number): number =>
      thingAt(
        set,
        withRules([ruleOf('b', 'turn', { kind: 'repeat', mode })], { tracks: [track('b', 'turn', [0, 0], [10, 40])] }),
        'b',
        frame,
      ).turn;
    const rounded = (mode: 'loop' | 'ping-pong') => [13, 25, -2].map((f) => Number(at(mode, f).toFixed(9)));
    expect(rounded('loop')).deep.equal([12, 20, 32]);
    expect(rounded('ping-pong')).deep.equal([28, 20, 8]);
    expect(at('continue', 15)).closeTo(60, 1e-6);
    expect(at('continue', -5)).closeTo(-20, 1e-6);
  });

  it('a delay on a whole thing shifts all its threads; a muted one does nothing', () => {
    const tracks = [track('b', 'turn', [0, 0], [10, 40]), track('b', 'position.0', [0, 0], [10, 1])];
    const delay = ruleOf('b', '', { kind: 'delay', frames: 4 });
    const late = thingAt(set, withRules([delay], { tracks }), 'b', 9);
    expect([late.turn, late.position[0]]).deep.equal([20, 0.5]);
    expect(thingAt(set, withRules([{ ...delay, muted: true }], { tracks }), 'b', 9).turn).equal(36);
  });

  it('music moves a value by its levels, quick up and slow down, within what the property allows', () => {
    const levels = Array.from({ length: 49 }, (_, i) => (i >= 10 && i < 12 ? 1 : 0));
    const shot = withRules([
      ruleOf('strip', 'lumens', {
        ...{ kind: 'music', band: 'low', amount: 400, axes: ALL, attack: 0, release: 5, levels },
      }),
    ]);
    const lumens = (frame: number): number => thingAt<SetLight>(set, shot, 'strip', frame).lumens;
    expect([lumens(9), lumens(10), lumens(11)]).deep.equal([800, 1200, 1200]);
    expect(lumens(12)).closeTo(800 + 400 * Math.exp(-1 / 5), 1e-6);
    expect(lumens(16)).closeTo(800 + 400 * Math.exp(-1), 1e-6);
  });

  it('rules act in their order, and their own numbers can be keyed', () => {
    const wave = ruleOf('b', 'turn', { kind: 'wave', period: 1e5, amount: 10, axes: ALL, phase: 90 });
    const repeat = ruleOf('b', 'turn', { kind: 'repeat', mode: 'loop' });
    const keyed = [track('b', 'turn', [0, 0], [10, 40]), track(wave.id, 'amount', [0, 0], [40, 40])];
    const turn = (rules: Rule[]): number => thingAt(set, withRules(rules, { tracks: keyed }), 'b', 20).turn;
    expect(turn([repeat, wave])).closeTo(20, 1e-2);
    expect(turn([wave, repeat])).closeTo(0, 1e-2);
  });
});

const PATH: MovePath = {
  ...{ id: 'way', name: 'Way', closed: false },
  points: (
    [
      [-0.5, 0, 0.2],
      [0, 0, -0.3],
      [0.4, 0, 0.1],
      [0.7, 0, 0.1],
    ] as Vec3[]
  ).map((at, i) => ({
    ...{ id: `p${i}`, at, handles: null },
  })),
};

describe('rules: paths', () => {
  it('a share of the length gives the place at that length, within a thousandth', () => {
    const curve = curveOfPath(PATH);
    const [steps, found] = [20000, [0]];
    let before = curve.at(0).point;
    for (let i = 1; i <= steps; i++) {
      const p = curve.at(i / steps).point;
      found.push(found[i - 1] + distance(p, before));
      before = p;
    }
    expect(found[steps]).closeTo(curve.length, curve.length * 1e-6);
    for (const share of [0.1, 0.25, 0.5, 0.77]) expect(found[share * steps] / curve.length).closeTo(share, 1e-5);
  });

  it('goes through its points, and round when it is closed', () => {
    const straight: MovePath = {
      ...PATH,
      points: PATH.points.slice(0, 2).map((p, i) => ({ ...p, at: [i * 2, 0, 0] })),
    };
    const line = curveOfPath(straight);
    expect(line.length).closeTo(2, 1e-12);
    expect(line.at(0.3).point[0]).closeTo(0.6, 1e-12);
    expect(line.at(7).point).deep.equal([2, 0, 0]);
    const round = curveOfPath({ ...PATH, closed: true });
    expect(distance(round.at(1.25).point, round.at(0.25).point)).below(1e-12);
    expect(distance(round.at(1).point, PATH.points[0].at)).below(1e-12);
  });

  it('a true circle of handles has its length', () => {
    const k = 0.5522847498;
    const points = [0, 1, 2, 3].map((i) => {
      const [c, s] = [Math.cos((i * Math.PI) / 2), Math.sin((i * Math.PI) / 2)];
      const along: Vec3 = [-s * k, 0, c * k];
      return { id: `p${i}`, at: [c, 0, s] as Vec3, handles: { in: along.map((v) => -v) as Vec3, out: along } };
    });
    const circle = curveOfPath({ ...PATH, closed: true, points });
    expect(circle.length).closeTo(2 * Math.PI, 2 * Math.PI * 3e-4);
    expect(Math.abs(circle.at(0.1).curvature)).closeTo(1, 0.01);
  });

  it('what rides goes evenly, turns with the path, and leans into its bends', () => {
    const ride = ruleOf('b', '', { kind: 'ride', target: 'way', progress: 0, orient: true, bank: 20 });
    const shot = withRules([ride], { paths: [PATH], tracks: [track(ride.id, 'progress', [0, 0], [48, 1])] });
    const set = movesSet();
    const steps = Array.from({ length: 47 }, (_, f) =>
      distance(thingAt(set, shot, 'b', f).position, thingAt(set, shot, 'b', f + 1).position),
    );
    expect(Math.max(...steps) / Math.min(...steps)).below(1.02);
    const at = thingAt(set, shot, 'b', 40);
    const way = curveOfPath(PATH).at(40 / 48);
    expect(Math.sin((at.turn * Math.PI) / 180)).closeTo(way.tangent[0], 1e-9);
    const leans = Array.from({ length: 48 }, (_, f) => Math.abs(thingAt(set, shot, 'b', f).roll));
    expect(Math.max(...leans)).within(15, 20);
    expect(Math.min(...leans)).below(1);
  });
});

describe('rules: rolling', () => {
  const set = movesSet();
  const RADIUS = 0.03;
  /** How far the lowest point of a roller slips over the ground between two instants, metres. */
  function slip(shot: ShotDocument, frame: number, h: number, axle: Vec3): number {
    const at = (f: number) => thingAt(set, shot, 'b', f);
    const [one, two] = [at(frame), at(frame + h)];
    const turnOf = (t: typeof one) => placementMatrix([0, 0, 0], t.turn, t.tilt, t.roll, 1);
    // The point that touches the ground now, in the thing's own space: under the middle.
    const m = turnOf(one);
    const local: Vec3 = [-m[1] * RADIUS, -m[5] * RADIUS, -m[9] * RADIUS];
    const [now, then] = [transformPoint(turnOf(one), local), transformPoint(turnOf(two), local)];
    const contact = axle.map((_, i) => one.position[i] + now[i] - (two.position[i] + then[i]));
    return Math.hypot(contact[0], contact[2]);
  }

  it('on a straight floor the turn is the distance over the radius, to a billionth of a metre', () => {
    const shot = withRules([ruleOf('b', '', { kind: 'roll', radius: RADIUS })], {
      tracks: [
        { thing: 'b', path: 'position.0', keys: [{ ...keysOf([0, -0.6])[0], ease: 'eased' }, ...keysOf([48, 0])] },
        track('b', 'tilt', [0, 90]),
      ],
    });
    for (const f of [0, 3, 11.5, 30, 47.9]) {
      const { turn, tilt, roll, position } = thingAt(set, shot, 'b', f);
      const m = placementMatrix([0, 0, 0], turn, tilt, roll, 1);
      const angle = (position[0] + 0.6) / RADIUS;
      // Its own Z, down at first, goes round the axle against the way.
      const start = placementMatrix([0, 0, 0], 0, 90, 0, 1);
      const was: Vec3 = [start[8], start[9], start[10]];
      const then = [
        was[0] * Math.cos(angle) + was[1] * Math.sin(angle),
        -was[0] * Math.sin(angle) + was[1] * Math.cos(angle),
      ];
      expect(Math.hypot(m[8] - then[0], m[9] - then[1]) * RADIUS).below(1e-9);
    }
  });

  it('rolls back where it goes back', () => {
    const shot = withRules([ruleOf('b', '', { kind: 'roll', radius: RADIUS })], {
      tracks: [track('b', 'position.2', [0, 0], [20, 0.3], [40, 0])],
    });
    const [first, last] = [thingAt(set, shot, 'b', 0), thingAt(set, shot, 'b', 40)];
    for (const angle of ['turn', 'tilt', 'roll'] as const) expect(last[angle]).closeTo(first[angle], 1e-6);
    expect(Math.abs(thingAt(set, shot, 'b', 20).tilt)).above(1);
  });

  it('along a path it slips less than a two-thousandth of its way', () => {
    const ride = ruleOf('b', '', { kind: 'ride', target: 'way', progress: 0, orient: false, bank: 0 });
    const shot = withRules([ride, ruleOf('b', '', { kind: 'roll', radius: RADIUS })], {
      paths: [PATH],
      tracks: [track(ride.id, 'progress', [0, 0], [48, 1])],
    });
    const h = 0.002;
    for (const f of [2, 9.3, 17, 25.1, 41]) {
      const way = distance(thingAt(set, shot, 'b', f).position, thingAt(set, shot, 'b', f + h).position);
      expect(slip(shot, f, h, [0, 0, 0]) / way, `frame ${f}`).below(5e-4);
    }
  });
});

describe('rules: things that look at things', () => {
  const set = movesSet();
  const moving = [track('a', 'position.0', [0, -0.2], [48, 0.6]), track('a', 'turn', [0, 0], [48, 90])];

  it('a camera aims at a thing that moves; a product turns its front to it', () => {
    const shot = withRules(
      [
        ruleOf('hero', '', { kind: 'aim', target: 'a', offset: [0, 0.05, 0], part: '', roll: 0 }),
        ruleOf('b', '', { kind: 'aim', target: 'a', offset: [0, 0, 0.2], part: '', roll: 0 }),
      ],
      { tracks: moving },
    );
    expect(cameraAt(set, shot, 24).aim).deep.equal([0.2, 0.05, 0]);
    expect(thingAt(set, shot, 'b', 24).turn).closeTo(45, 1e-9);
  });

  it('what follows is where its leader was, at its own distance; with a lag it comes after it smoothly', () => {
    const follow = (lag: number) =>
      withRules([ruleOf('b', '', { kind: 'follow', target: 'a', frames: 6, lag })], { tracks: moving });
    expect(thingAt(set, follow(0), 'b', 30).position[0]).closeTo(0 + 0.4, 1e-9);
    // A leader that goes evenly is followed, in the end, by its speed times the lag.
    const late = thingAt(set, follow(3), 'b', 46).position[0];
    expect(late).closeTo((0.8 * (40 - 3)) / 48, 2e-6);
    // Any frame can be asked for first.
    expect(thingAt(set, { ...follow(3) }, 'b', 46).position).deep.equal(thingAt(set, follow(3), 'b', 46).position);
  });

  it('a parent carries place and turn, without a jump at either switch', () => {
    const shot = withRules([ruleOf('b', '', { kind: 'parent', target: 'a', start: 12, end: 36 })], { tracks: moving });
    const at = (frame: number) => thingAt(set, shot, 'b', frame);
    expect(at(11).position).deep.equal([0, 0, 0]);
    for (const frame of [12, 36]) {
      const [before, after] = [at(frame - 1e-9), at(frame + 1e-9)];
      expect(distance(before.position, after.position)).below(1e-9);
      expect(Math.abs(before.turn - after.turn)).below(1e-7);
    }
    expect(at(20).turn).closeTo(90 / 6, 1e-9);
    // As far from its parent as when it was taken.
    const far = (f: number): number => distance(at(f).position, thingAt(set, shot, 'a', f).position);
    expect(far(30)).closeTo(far(12), 1e-12);
    expect(distance(at(36).position, at(47).position)).below(1e-12);
  });

  it('a dolly zoom keeps the size of what it looks at', () => {
    const shot = withRules([ruleOf('hero', '', { kind: 'keep-size', target: 'b', start: 0 })], {
      tracks: [track('hero', 'position.2', [0, 1], [48, 0.4])],
    });
    const size = (f: number): number => {
      const { focalLength, position } = cameraAt(set, shot, f);
      return focalLength / distance(position, [0, 0, 0]);
    };
    for (const f of [0, 10, 33, 48]) expect(size(f) / size(0)).closeTo(1, 1e-9);
  });

  it('round a thing the distance stays while the azimuth goes', () => {
    const orbit = ruleOf('hero', '', { kind: 'orbit', target: 'b', azimuth: 90, elevation: 0, distance: 1 });
    const { position } = cameraAt(set, withRules([orbit]), 0);
    expect(distance(position, [1, 0.2, 0])).below(1e-12);
  });

  it('the shortest turn has no flip: even speed of the rotation, and the same poses at the keys', () => {
    const tracks = [
      track('b', 'turn', [0, 170], [20, -170], [40, 30]),
      track('b', 'tilt', [0, 80], [20, 100], [40, 10]),
      track('b', 'roll', [0, 0], [20, 0], [40, 200]),
    ];
    const shot = withRules([ruleOf('b', '', { kind: 'shortest' })], { tracks });
    const q = (f: number, s = shot) => quaternionOf(thingAt(set, s, 'b', f));
    const angle = (a: number[], b: number[]): number =>
      2 * Math.acos(Math.min(1, Math.abs(a.reduce((sum, v, i) => sum + v * b[i], 0))));
    for (const f of [0, 20, 40]) expect(angle(q(f), q(f, movesShot({ tracks })))).below(1e-6);
    for (const [from, to] of [
      [0, 20],
      [20, 40],
    ]) {
      const steps = Array.from({ length: 19 }, (_, i) => angle(q(from + i + 0.5), q(from + i + 1.5)));
      expect(Math.max(...steps) - Math.min(...steps)).below(1e-5);
      expect(angle(q(from + 0.5), q(to - 0.5))).closeTo(
        steps.reduce((a, b) => a + b),
        1e-4,
      );
    }
  });

  it('a ring of things that wait for each other is seen, and broken where it closes', () => {
    const [ab, bc, ca] = [
      ['a', 'b'],
      ['b', 'c'],
      ['c', 'a'],
    ].map(([thing, target]) => ruleOf(thing, '', { kind: 'follow', target, frames: 0, lag: 0 }));
    expect(wouldRing(ca, [ab, bc])).equal(true);
    expect(wouldRing(bc, [ab])).equal(false);
    expect(wouldRing(ruleOf('a', '', { kind: 'aim', target: 'a', offset: [0, 0, 0], part: '', roll: 0 }), [])).equal(
      true,
    );
    const shot = withRules([ab, bc, ca], { tracks: [track('c', 'position.2', [0, 0], [10, 1])] });
    expect(thingAt(set, shot, 'a', 10).position[2]).equal(1);
  });

  it('what is gone is passed over', () => {
    const shot = withRules([
      ruleOf('b', '', { kind: 'aim', target: 'ghost', offset: [0, 0, 0], part: '', roll: 0 }),
      ruleOf('b', '', { kind: 'ride', target: 'ghost', progress: 0, orient: false, bank: 0 }),
      ruleOf('ghost', '', { kind: 'roll', radius: 1 }),
    ]);
    expect(thingAt(set, shot, 'b', 5).position).deep.equal([0, 0, 0]);
  });
});

describe('rules: baking', () => {
  it('gives keys that do what the rule did, and takes it away', () => {
    const set = movesSet();
    const shot = withRules([ruleOf('b', '', { kind: 'parent', target: 'a', start: 10, end: 40 })], {
      tracks: [track('a', 'position.0', [0, -0.2], [48, 0.6]), track('a', 'turn', [0, 0], [48, 400])],
    });
    const baked = structuredClone(shot);
    bakeRule(set, shot.rules[0].id).run(baked);
    expect(baked.rules).deep.equal([]);
    for (let f = 0; f <= 48; f += 3) {
      const [was, now] = [thingAt(set, shot, 'b', f), thingAt(set, baked, 'b', f)];
      expect(distance(was.position, now.position)).below(1e-12);
      expect(Math.cos(((was.turn - now.turn) * Math.PI) / 180)).closeTo(1, 1e-12);
    }
    const turns = baked.tracks.find((t) => t.path === 'turn' && t.thing === 'b')!.keys.map((k) => k.value as number);
    expect(Math.max(...turns.slice(1).map((v, i) => Math.abs(v - turns[i])))).below(20);
  });
});
