import { expect } from 'chai';
import engine from '@dimforge/rapier3d-simd-compat';
import { newSet, newShot, nextProduct, runCommand, replaceTracks, type SetDocument } from '@tender-orbit/core/document';
import { boundsOf, multiply, type Mesh, type Vec3 } from '@tender-orbit/core/geometry';
import { builtDocument, builtMeshes, modelKey, TURNED_PRESETS } from '@tender-orbit/core/product';
import { compile, evaluate } from '@tender-orbit/core/scene';
import { bodiesOf, runBodies, bodyTracks, type Body, type BodySettings } from '@tender-orbit/core/simulate';
import { ball, block, moved } from './studio.ts';

const SETTINGS: BodySettings = {
  ...{ way: 'drop', height: 0.2, stagger: 0.12, spread: 0, tumble: 0, bounce: 0.2, friction: 0.6, seed: 1 },
  ...{ away: 0.5, direction: 0, flight: 0.5, frequency: 1.5, damping: 0.3, home: 0 },
  rate: { num: 24, den: 1 },
};
const body = (id: string, mesh: Mesh, at: Vec3, density = 900): Body => ({
  ...{ id, matrix: moved(...at) },
  parts: [{ mesh, density }],
});

describe('bodies', () => {
  before(() => engine.init());

  it('a block falls, settles where it stands, and says from when on it rests', () => {
    const { frames, rests } = runBodies(engine, [body('a', block([0.1, 0.1, 0.1]), [0, 0, 0])], [], SETTINGS);
    const poses = frames.get('a')!;
    expect(poses[0].position[1]).closeTo(0.2, 1e-6);
    // Free fall from 20 cm takes a fifth of a second.
    expect(poses[3].position[1]).closeTo(0.2 - (9.81 / 2) * (3 / 24) ** 2, 0.006);
    expect(poses.at(-1)!.position[1]).closeTo(0, 0.001);
    expect(rests).within(5, 60);
    expect(poses[rests].position[1]).closeTo(0, 0.001);
  });

  it('blocks stack, and lean on what stands there', () => {
    const plinth = body('plinth', block([0.4, 0.2, 0.4]), [0, 0, 0]);
    const tower = [0, 1, 2].map((n) => body(`b${n}`, block([0.1, 0.1, 0.1]), [0, 0.2 + n * 0.1, 0]));
    const { frames } = runBodies(engine, tower, [plinth], { ...SETTINGS, bounce: 0, height: 0.02, stagger: 0.02 });
    [0.2, 0.3, 0.4].forEach((height, n) =>
      expect(frames.get(`b${n}`)!.at(-1)!.position[1], `b${n}`).closeTo(height, 0.004),
    );
  });

  it('the same seed gives the same poses, another seed others', () => {
    const run = (seed: number): string => {
      const settings = { ...SETTINGS, seed, tumble: 90, spread: 0.03 };
      const two = [body('a', block([0.1, 0.06, 0.04]), [0, 0.03, 0]), body('b', ball(0.04), [0.02, 0.04, 0])];
      return JSON.stringify([...runBodies(engine, two, [], settings).frames]);
    };
    expect(run(3)).equal(run(3));
    expect(run(4)).not.equal(run(3));
  });

  it('nothing sinks into the floor or into another while it tumbles', () => {
    const settings = { ...SETTINGS, tumble: 120, spread: 0.02 };
    const many = [0, 1, 2, 3].map((n) => body(`b${n}`, ball(0.04), [0, 0.04, n * 0.01]));
    const { frames } = runBodies(engine, many, [], settings);
    const all = [...frames.values()];
    all[0].forEach((_, frame) => {
      const places = all.map((poses) => poses[frame].position);
      for (const [n, [x, y, z]] of places.entries()) {
        // A ball of flat faces is a little smaller than a round one, and what meets at speed gives a little.
        expect(y, `frame ${frame}`).above(0.037);
        for (const [ox, oy, oz] of places.slice(n + 1)) expect(Math.hypot(x - ox, y - oy, z - oz)).above(0.07);
      }
    });
  });
});

describe('bodies: on a set', () => {
  before(() => engine.init());

  const jar = builtDocument('Jar', TURNED_PRESETS.jar);
  const meshes = builtMeshes(modelKey(jar))!;
  const products = new Map([['jar', jar]]);
  const context = { products, meshes: (): readonly Mesh[] => meshes, aspect: 16 / 9 };
  function table(): SetDocument {
    const set = newSet('Studio');
    set.products = [0, 1].map((n) => nextProduct(set, `jar${n}`, { id: 'jar', name: `Jar ${n}` }, [n * 0.3, 0]));
    return set;
  }
  /** Lowest vertex of a jar at a frame. */
  const low = (set: SetDocument, shot: ReturnType<typeof newShot>, frame: number, id: string): number => {
    const { matrix, parts } = evaluate(compile(set, shot), frame, context).instances.find((i) => i.id === id)!;
    return Math.min(
      ...parts
        .filter((p) => !p.shell)
        .map((p) => boundsOf([meshes[p.index]], p.place ? multiply(matrix, p.place.matrix) : matrix).min[1]),
    );
  };

  it('as keys a jar stands on the floor in the end and never below it, and rests at the frame that was asked for', () => {
    const set = table();
    const shot = newShot('Shot', 'set', set.cameras[0].id, 60);
    const { falling, still } = bodiesOf(compile(set, shot), 0, context, ['jar0']);
    expect(falling.map(({ id }) => id)).deep.equal(['jar0']);
    expect(still.map(({ id }) => id)).contain('jar1');
    const dropped = runBodies(engine, falling, still, { ...SETTINGS, tumble: 15 });
    const tracks = bodyTracks(dropped, 48 - dropped.rests, shot);
    const moving = runCommand(shot, replaceTracks('Drop', tracks));
    for (let frame = 48 - dropped.rests; frame < 60; frame += 3)
      expect(low(set, moving, frame, 'jar0'), `frame ${frame}`).above(-0.004);
    expect(low(set, moving, 48, 'jar0')).within(-0.002, 0.003);
    expect(low(set, moving, 59, 'jar0')).within(-0.002, 0.003);
    const keys = tracks.reduce((sum, track) => sum + track.keys.length, 0);
    expect(keys).below(6 * 60);
  });

  it('before they begin to fall things are not there; what falls before the shot begins is cut off', () => {
    const set = table();
    const shot = newShot('Shot', 'set', set.cameras[0].id, 60);
    const { falling, still } = bodiesOf(compile(set, shot), 0, context, ['jar0']);
    const dropped = runBodies(engine, falling, still, SETTINGS);
    const late = runCommand(shot, replaceTracks('Drop', bodyTracks(dropped, 20, shot)));
    const there = (of: typeof shot, frame: number): boolean =>
      evaluate(compile(set, of), frame, context).instances.some((i) => i.id === 'jar0');
    expect([there(late, 10), there(late, 19), there(late, 20)]).deep.equal([false, false, true]);
    const early = bodyTracks(dropped, -10, shot);
    for (const { keys } of early) expect(Math.min(...keys.map((k) => k.frame))).at.least(-10);
    const cut = runCommand(shot, replaceTracks('Drop', early));
    expect(there(cut, 0)).equal(true);
    expect(low(set, cut, 59, 'jar0')).within(-0.002, 0.003);
  });
});
