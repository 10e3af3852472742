import { expect } from 'chai';
import {
  canSoften,
  newRecipe,
  runCommand,
  softenEases,
  stretchSpan,
  validateDocument,
  type SetDocument,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { buildBox, mergeMeshes, type Mesh } from '@tender-orbit/core/geometry';
import { builtDocument } from '@tender-orbit/core/product';
import { compile, screenBoxes, screenSpeeds, strobes, type ScreenSpeed } from '@tender-orbit/core/scene';
import { keysOf, movesSet, movesShot, ruleOf } from './moves-scene.ts';

/** A slab 4 cm wide and 6 cm high, two metres before the lens. */
const { panels, edges } = buildBox({ size: [0.04, 0.06, 0.02] });
const slab: Mesh[] = [mergeMeshes([...panels, edges])];
const carton = builtDocument('Slab', {
  ...{ kind: 'carton', width: 0.04, height: 0.06, depth: 0.02, bevel: 0.001, open: 0, board: 0.0005 },
});
const product = { ...carton, builder: null, model: 'slab', parts: carton.parts.slice(0, 1) };

function scene(): SetDocument {
  const set = movesSet();
  set.products = [{ ...set.products[1], product: 'slab', position: [0, 0, 0], seated: false }];
  Object.assign(set.cameras[0], { position: [0, 0.03, 2], aim: [0, 0.03, 0], shutter: 180 });
  return set;
}
const context = { products: new Map([['slab', product]]), meshes: () => slab, aspect: 16 / 9 };
const speedsOf = (shot: ShotDocument, set = scene()): ScreenSpeed[] => screenSpeeds(compile(set, shot), 'b', context);
/** Height of the picture where the slab's front stands, metres. */
function pictureHigh({ cameras: [{ focalLength, sensorWidth }] }: SetDocument, away: number): number {
  return (away * sensorWidth) / (16 / 9) / focalLength;
}

describe('speed over the picture', () => {
  const across = movesShot({ tracks: [{ thing: 'b', path: 'position.0', keys: keysOf([0, -0.1], [10, 0.1]) }] });

  it('is what is gone in a frame, in heights of the picture; the shutter says how much of it is unseen', () => {
    const set = scene();
    const [first] = speedsOf(across, set);
    const front = 0.02 / pictureHigh(set, 1.99);
    expect(first.speed).closeTo(front, front * 0.001);
    expect(first.gap).closeTo(front / 2, front * 0.001);
    expect(first.feature).closeTo(0.04 / pictureHigh(set, 1.99), 1e-3);
    expect(strobes(first)).equal(false);
    set.cameras[0].shutter = 360;
    expect(speedsOf(across, set)[0].gap).equal(0);
  });

  it('counts the camera: one that goes along with a thing sees it stand', () => {
    const along = ['position.0', 'aim.0'].map((path) => ({ thing: 'hero', path, keys: keysOf([0, -0.1], [10, 0.1]) }));
    const both = movesShot({ tracks: [...across.tracks, ...along] });
    expect(Math.max(...speedsOf(both).map(({ speed }) => speed))).below(1e-9);
    expect(speedsOf(movesShot({ tracks: along }))[3].speed).closeTo(speedsOf(across)[3].speed, 1e-3);
  });

  it('warns where the jump is larger than the thing', () => {
    const whip = movesShot({ tracks: [{ thing: 'b', path: 'position.0', keys: keysOf([4, -0.2], [6, 0.2]) }] });
    const speeds = speedsOf(whip);
    expect(speeds.map(strobes).indexOf(true)).equal(4);
    expect(speeds.map(strobes).lastIndexOf(true)).equal(5);
    const open = scene();
    open.cameras[0].shutter = 320;
    expect(speedsOf(whip, open).some(strobes)).equal(false);
  });

  it('says nothing of what is not there', () => {
    expect(screenSpeeds(compile(scene(), across), 'gone', context)).deep.equal([]);
    expect(speedsOf(across, { ...scene(), products: [{ ...scene().products[0], visible: false }] })).deep.equal([]);
  });
});

describe('cures of strobing', () => {
  const whip = movesShot({
    tracks: [
      { thing: 'b', path: 'position.0', keys: keysOf([4, -0.2], [6, 0.2], [20, 0.2]) },
      { thing: 'hero', path: 'focalLength', keys: keysOf([0, 50], [40, 80]) },
    ],
    recipes: [newRecipe('r', 'pop-in', { start: 12, length: 10, things: ['b'], at: [0, 6] })],
  });

  it('a slower part: in it all takes longer, after it all comes later, before it nothing changes', () => {
    const slow = runCommand(whip, stretchSpan(4, 6, 3));
    expect(slow.length).equal(52);
    expect(slow.tracks[0].keys.map((k) => k.frame)).deep.equal([4, 10, 24]);
    expect(slow.tracks[1].keys.map((k) => k.frame)).deep.equal([0, 44]);
    expect(slow.recipes[0]).include({ start: 16, length: 10 });
    expect(slow.recipes[0].at).deep.equal([0, 6]);
    const [fast, slowed] = [whip, slow]
      .map((shot) => ({ ...shot, tracks: shot.tracks.slice(0, 1), recipes: [] }))
      .map((shot) => Math.max(...speedsOf(shot).map(({ speed }) => speed)));
    expect(fast / slowed).closeTo(3, 1e-6);
    expect(runCommand(whip, stretchSpan(10, 30, 2)).recipes[0]).include({ start: 14, length: 20 });
  });

  it('what is carried for ever is still carried for ever, and the shot can be saved', () => {
    const carried = { kind: 'parent', target: 'c', start: 5, end: 200000 } as const;
    const slow = runCommand({ ...whip, rules: [ruleOf('a', '', carried)] }, stretchSpan(4, 6, 3));
    expect(slow.rules[0]).include({ start: 7, end: 200000 });
    validateDocument('shot', slow);
  });

  it('a softer ease: a lower greatest speed over the same way in the same time', () => {
    const eased = movesShot({
      tracks: [
        {
          ...{ thing: 'b', path: 'position.0' },
          keys: [
            { frame: 0, value: -0.1, ease: { kind: 'soft', start: 1, landing: 1 } },
            { frame: 20, value: 0.1, ease: 'linear' },
          ],
        },
      ],
    });
    const soft = runCommand(eased, softenEases(['b'], 10));
    const peak = (shot: ShotDocument): number => Math.max(...speedsOf(shot).map(({ speed }) => speed));
    expect(peak(soft)).below(peak(eased) * 0.8);
    expect(runCommand(eased, softenEases(['hero'], 10))).deep.equal(eased);
    const pops = movesShot({ recipes: [newRecipe('r', 'turntable', { start: 0, length: 40, things: ['b'] })] });
    expect(runCommand(pops, softenEases(['b'], 10)).recipes[0].ease).equal('linear');
    // It is offered only where it does something.
    expect(canSoften(eased, ['b'], 10)).equal(true);
    expect(canSoften(eased, ['hero'], 10)).equal(false);
    expect(canSoften(pops, ['b'], 10)).equal(false);
  });
});

describe('boxes in the picture', () => {
  it('say what a thing covers, heights of the picture from its middle, and leave out what is behind the eye', () => {
    const set = scene();
    const shot = movesShot({ tracks: [{ thing: 'b', path: 'position.0', keys: keysOf([0, 0], [10, 0.1]) }] });
    const [box] = screenBoxes(compile(set, shot), 0, context);
    const high = pictureHigh(set, 1.99);
    expect(box.id).equal('b');
    // The slab stands 6 cm high round the height of the eye.
    expect(box.min[0]).closeTo(-0.02 / high, 1e-3);
    expect(box.max[0]).closeTo(0.02 / high, 1e-3);
    expect(box.max[1] - box.min[1]).closeTo(0.06 / high, 1e-3);
    const [later] = screenBoxes(compile(set, shot), 10, context);
    expect(later.min[0]).closeTo(0.08 / pictureHigh(set, 2.01), 2e-3);
    Object.assign(set.cameras[0], { position: [0, 0.03, -2], aim: [0, 0.03, -4] });
    expect(screenBoxes(compile(set, shot), 0, context)).deep.equal([]);
  });
});
