import { expect } from 'chai';
import {
  applyRecipe,
  changeRecipe,
  newRecipe,
  validateDocument,
  RECIPE_KINDS,
  recipeFacts,
  runCommand,
  type AppliedRecipe,
  type RecipeKind,
  type SetLight,
  type SetSurface,
  type ShotDocument,
} from '@tender-orbit/core/document';
import { compileMoves, dissolveRecipe, expandMoves, lastPose, poseSet } from '@tender-orbit/core/motion';
import { cameraAt, distance, keysOf, movesSet, movesShot, thingAt } from './moves-scene.ts';

const set = movesSet();

/** A recipe on what it usually moves in this set. */
function recipeOf(kind: RecipeKind, values: Partial<AppliedRecipe> = {}): AppliedRecipe {
  const { role, others, many, usualLength, swaps, parts, options } = recipeFacts(kind);
  const things = { camera: others ? ['a', 'b', 'c'] : [], product: many ? ['c', 'a', 'b'] : ['b'] };
  return newRecipe(`r-${kind}`, kind, {
    start: 6,
    length: usualLength || 42,
    things: role === 'light' ? ['strip'] : role === 'card' ? ['flag'] : things[role],
    camera: role === 'camera' ? 'hero' : '',
    variants: swaps ? ['dark', 'light'] : [],
    ...(parts && { options: { ...options, part: '1-2' } }),
    ...values,
  });
}
const shotWith = (...recipes: AppliedRecipe[]): ShotDocument => movesShot({ recipes });

describe('recipes: all of them', () => {
  const deep = movesSet();
  deep.products[0].position[2] = -0.1;

  for (const kind of RECIPE_KINDS)
    it(`${recipeFacts(kind).title} makes moves that a shot can hold, and moves something`, () => {
      // Copies move as their leader does.
      const leads = { thing: 'c', path: 'position.2', keys: keysOf([6, 0], [30, 0.2]) };
      const tracks = kind === 'copies' ? [leads] : [];
      const shot = runCommand(movesShot({ tracks }), applyRecipe(recipeOf(kind)));
      expect(validateDocument('shot', JSON.parse(JSON.stringify(shot)))).deep.equal(shot);
      const dissolved = runCommand(shot, dissolveRecipe(deep, `r-${kind}`));
      expect(validateDocument('shot', JSON.parse(JSON.stringify(dissolved)))).deep.equal(dissolved);
      expect(dissolved.recipes).deep.equal([]);
      const poses = [6, 9, 20, 40].map((f) => JSON.stringify(poseSet(compileMoves(deep, shot), f)));
      expect(new Set(poses).size).above(1);
      for (const f of [0, 6, 9, 20.5, 47])
        expect(poseSet(compileMoves(deep, dissolved), f), `frame ${f}`).deep.equal(
          poseSet(compileMoves(deep, shot), f),
        );
    });

  it('what they move may be gone', () => {
    for (const kind of RECIPE_KINDS) {
      const lost = recipeOf(kind, { things: ['ghost'], camera: recipeFacts(kind).role === 'camera' ? 'ghost' : '' });
      expect(poseSet(compileMoves(set, shotWith(lost)), 10), kind).deep.equal(set);
    }
  });

  it('an option out of its range or of no name is refused by name', () => {
    const wrong = (options: object): ShotDocument =>
      shotWith({ ...recipeOf('push-in'), options: options as AppliedRecipe['options'] });
    expect(() => validateDocument('shot', wrong({ closer: 3 }))).throw(/Closer by/);
    expect(() => validateDocument('shot', wrong({ closer: 0.3, extra: 1 }))).throw(/not known here/);
    expect(() => validateDocument('shot', wrong({}))).throw(/Closer by/);
  });
});

describe('recipes: products', () => {
  it('a turntable closes: the frame after its last is its first again', () => {
    const shot = shotWith(recipeOf('turntable', { start: 0, length: 48, things: ['b'] }));
    const turn = (f: number): number => thingAt(set, shot, 'b', f).turn;
    expect([turn(0), turn(48)]).deep.equal([0, 360]);
    for (const f of [0, 12, 46]) expect(turn(f + 1) - turn(f)).closeTo(7.5, 1e-9);
  });

  it('pop-in: hidden before, too large on the way, at its size in the end, in turn from left to right', () => {
    const shot = shotWith(recipeOf('pop-in', { options: { apart: 5, sequence: 'left to right', turned: 0 } }));
    const at = (id: string, f: number) => thingAt(set, shot, id, f);
    expect([at('a', 5.9).visible, at('a', 6).visible, at('b', 10.9).visible, at('c', 16).visible]).deep.equal([
      ...[false, true, false, true],
    ]);
    const sizes = Array.from({ length: 15 }, (_, i) => at('a', 6 + i).scale);
    expect(Math.max(...sizes)).within(1.05, 1.12);
    expect(sizes.at(-1)).equal(1);
  });

  it('orders: as listed, by distance from the camera, and at random but always the same', () => {
    const order = (sequence: string): string[] => {
      const near = movesSet();
      near.products[1].position[2] = 0.4;
      const shot = shotWith(recipeOf('drop', { options: { apart: 10, sequence, height: 0.3, turned: 0 } }));
      const begins = (id: string): number =>
        expandMoves(near, shot).tracks.find((t) => t.thing === id && t.path === 'position.1')!.keys[0].frame;
      return ['a', 'b', 'c'].sort((one, other) => begins(one) - begins(other));
    };
    expect(order('as listed')).deep.equal(['c', 'a', 'b']);
    expect(order('near to far')[0]).equal('b');
    expect(order('random')).deep.equal(order('random'));
  });

  it('beats, when they are given, say when each begins', () => {
    const shot = shotWith(recipeOf('rise', { at: [0, 12.2, 24.4] }));
    const first = (id: string): number =>
      expandMoves(set, shot)
        .tracks.find((t) => t.thing === id)!
        .keys.find((k) => k.frame > 0)!.frame;
    expect(['a', 'b', 'c'].map(first)).deep.equal([6, 18.2, 30.4]);
  });

  it('slide-in comes from the side that the camera sees, mirrored for the next', () => {
    const options = { apart: 0, sequence: 'left to right', side: 'left', distance: 0.5, turned: 30, mirrored: true };
    const shot = shotWith(recipeOf('slide-in', { options }));
    expect(thingAt(set, shot, 'a', 6).position[0]).closeTo(-0.7, 1e-9);
    expect(thingAt(set, shot, 'b', 6).position[0]).closeTo(0.5, 1e-9);
    expect([thingAt(set, shot, 'a', 6).turn, thingAt(set, shot, 'b', 6).turn]).deep.equal([-30, 30]);
    expect(thingAt(set, shot, 'b', 30).position).deep.equal([0, 0, 0]);
  });

  it('a drop bounces on its place and rests there', () => {
    const shot = shotWith(recipeOf('drop', { things: ['b'], length: 30 }));
    const y = Array.from({ length: 31 }, (_, i) => thingAt(set, shot, 'b', 6 + i).position[1]);
    expect([y[0], y[30]]).deep.equal([0.3, 0]);
    const touches = y.filter((v, i) => i > 0 && i < 30 && v < y[i - 1] && v <= y[i + 1]).length;
    expect(touches).at.least(2);
  });

  it('roll-in ends at its place with the side to the front that it has at rest, and turns as far as it goes', () => {
    const shot = shotWith(recipeOf('roll-in', { options: { side: 'left', distance: 0.6, radius: 0.03 } }));
    const [first, last] = [thingAt(set, shot, 'b', 6), thingAt(set, shot, 'b', 54)];
    expect(first.position[0]).closeTo(-0.6, 1e-9);
    expect(last.position[0]).closeTo(0, 1e-9);
    expect(last.tilt).closeTo(90, 1e-6);
  });

  it('a line-up stands evenly across the picture, in its order', () => {
    const shot = shotWith(recipeOf('line-up', { options: { apart: 0, sequence: 'as listed', between: 0.1 } }));
    const x = (id: string): number => thingAt(set, shot, id, 47).position[0];
    expect(['c', 'a', 'b'].map((id) => Number(x(id).toFixed(9)))).deep.equal([-0.1, 0, 0.1]);
  });

  it('variants follow each other every so many frames', () => {
    const shot = shotWith(recipeOf('stop-motion', { things: ['b'], options: { every: 4 } }));
    const shown = [0, 6, 9, 10, 14, 18].map((f) => thingAt(set, shot, 'b', f).variant);
    expect(shown).deep.equal(['dark', 'dark', 'dark', 'light', 'dark', 'light']);
  });

  it('a swap changes the variant while the thing shows its back', () => {
    const shot = shotWith(recipeOf('variant-swap', { things: ['b'] }));
    const frames = Array.from({ length: 30 }, (_, f) => thingAt(set, shot, 'b', f));
    const swapped = frames.findIndex((t) => t.variant === 'dark');
    expect(frames[swapped].turn % 360).within(150, 240);
    expect(frames[0].variant).equal('');
  });
});

describe('recipes: camera, light and flag', () => {
  it('a push-in travels its share of the way to the aim point, and rests at both ends', () => {
    const shot = shotWith(recipeOf('push-in', { start: 0, length: 47, options: { closer: 0.25 } }));
    const far = (f: number): number => distance(cameraAt(set, shot, f).position, cameraAt(set, shot, f).aim);
    expect(far(47) / far(0)).closeTo(0.75, 1e-9);
    expect(far(0) - far(0.01)).below(1e-6);
    expect(far(46.99) - far(47)).below(1e-6);
  });

  it('a dolly zoom keeps the size within a thousandth while the camera travels', () => {
    const shot = shotWith(recipeOf('dolly-zoom'));
    const size = (f: number): number => {
      const { focalLength, position, aim } = cameraAt(set, shot, f);
      return focalLength / distance(position, aim);
    };
    expect(distance(cameraAt(set, shot, 47).position, cameraAt(set, shot, 0).position)).above(0.4);
    for (let f = 0; f < 48; f += 3.7) expect(size(f) / size(0)).closeTo(1, 1e-9);
  });

  it('an orbit arc keeps its distance, and has its own place in the middle when asked', () => {
    const shot = shotWith(recipeOf('orbit-arc', { start: 0, length: 40 }));
    const { aim, position } = set.cameras[0];
    for (const f of [0, 11, 31])
      expect(distance(cameraAt(set, shot, f).position, aim)).closeTo(distance(position, aim), 1e-9);
    expect(distance(cameraAt(set, shot, 20).position, position)).below(1e-9);
    expect(cameraAt(set, shot, 0).position[0]).closeTo(-cameraAt(set, shot, 40).position[0], 1e-9);
  });

  it('a whip keeps the distance of what it looks at, and ends on its view', () => {
    const shot = shotWith(recipeOf('whip'));
    const { aim, position } = cameraAt(set, shot, 9);
    expect(Math.hypot(aim[0] - position[0], aim[2] - position[2])).closeTo(1, 1e-9);
    expect(distance(cameraAt(set, shot, 14).aim, set.cameras[0].aim)).below(1e-9);
    expect(Math.abs(cameraAt(set, shot, 6).aim[0])).above(0.5);
  });

  it('a fly-past comes as near to each product as asked', () => {
    const shot = shotWith(recipeOf('fly-past', { start: 0, length: 40, options: { near: 0.25, height: 0.12 } }));
    for (const id of ['a', 'b', 'c']) {
      const place = thingAt(set, shot, id, 0).position;
      const near = Math.min(
        ...Array.from({ length: 400 }, (_, i) => distance(cameraAt(set, shot, i / 10).position, place)),
      );
      expect(near).closeTo(Math.hypot(0.25, 0.12), 0.01);
    }
  });

  it('a focus pull rests on one depth and then on the next; a lens that keeps a thing in focus lets go of it', () => {
    const deep = movesSet();
    deep.products[0].position[2] = -0.5;
    deep.cameras[0].focusOn = 'b';
    const shot = shotWith(recipeOf('focus-pull', { start: 0, length: 40, things: ['b', 'a'], options: { hold: 0.5 } }));
    const focus = (f: number): number => cameraAt(deep, shot, f).focus;
    expect(focus(2)).closeTo(focus(0), 1e-9);
    expect(focus(38) - focus(2)).closeTo(0.5, 0.01);
    expect(cameraAt(deep, shot, 5).focusOn).equal('');
  });

  it('handheld moves both ends of the view a little and never rests', () => {
    const shot = shotWith(recipeOf('handheld'));
    const places = Array.from({ length: 40 }, (_, f) => cameraAt(set, shot, f));
    for (const { position, aim } of places) {
      expect(distance(position, set.cameras[0].position)).below(0.02);
      expect(distance(aim, set.cameras[0].aim)).below(0.03);
    }
    expect(distance(places[10].aim, places[20].aim)).above(1e-4);
  });

  it('lights come on one after the other, to what they are', () => {
    const lit = movesSet();
    lit.lights.push({ ...lit.lights[0], id: 'rim', name: 'Rim', lumens: 300 });
    const shot = shotWith(recipeOf('switch-on', { things: ['strip', 'rim'] }));
    const lumens = (id: string, f: number): number => thingAt<SetLight>(lit, shot, id, f).lumens;
    expect([lumens('strip', 5), lumens('rim', 13), lumens('strip', 12), lumens('rim', 20)]).deep.equal([
      0, 0, 800, 300,
    ]);
  });

  it('a flag slides out of the picture', () => {
    const shot = shotWith(recipeOf('reveal'));
    const x = (f: number): number => (thingAt<SetSurface>(set, shot, 'flag', f) as { position: number[] }).position[0];
    expect([x(6), x(30)]).deep.equal([0, -0.6]);
  });
});

describe('recipes: together', () => {
  it('each finds things where those before it have left them', () => {
    const shot = shotWith(
      recipeOf('push-in', { start: 24, length: 24, options: { closer: 0.5 }, id: 'second' }),
      recipeOf('crane', { start: 0, length: 24, options: { height: 0.3 } }),
    );
    expect(cameraAt(set, shot, 24).position[1]).closeTo(0.5, 1e-9);
    expect(cameraAt(set, shot, 48).position[1]).closeTo(0.3, 1e-9);
  });

  it('a key of the shot’s own wins where both are, and all others stay', () => {
    const recipe = recipeOf('push-in', { start: 0, length: 40 });
    const own = { thing: 'hero', path: 'position.2', keys: keysOf([20, 2], [40, 3]) };
    const shot = movesShot({ recipes: [recipe], tracks: [own] });
    const track = expandMoves(set, shot).tracks.find((t) => t.path === 'position.2')!;
    expect(track.keys.map((k) => [k.frame, k.value])).deep.equal([
      [0, 2],
      [20, 2],
      [40, 3],
    ]);
    const dissolved = structuredClone(shot);
    dissolveRecipe(set, recipe.id).run(dissolved);
    expect(poseSet(compileMoves(set, dissolved), 31)).deep.equal(poseSet(compileMoves(set, shot), 31));
  });

  it('dissolving one leaves the keys of another on the same thread to it', () => {
    const shot = shotWith(
      recipeOf('push-in', { start: 0, length: 10, id: 'first' }),
      recipeOf('pull-back', { start: 20, length: 10, id: 'second' }),
    );
    const dissolved = structuredClone(shot);
    dissolveRecipe(set, 'first').run(dissolved);
    expect(dissolved.tracks.find((t) => t.path === 'position.2')!.keys.map((k) => k.frame)).deep.equal([0, 10]);
    expect(dissolved.recipes.map((r) => r.id)).deep.equal(['second']);
  });

  it('follow the set: a product that is put elsewhere arrives there', () => {
    const shot = shotWith(recipeOf('slide-in', { things: ['b'] }));
    const moved = movesSet();
    moved.products[1].position = [0.05, 0, 0.3];
    expect(thingAt(moved, shot, 'b', 47).position).deep.equal([0.05, 0, 0.3]);
  });

  it('make the very same tracks again as long as they find the same', () => {
    const shot = runCommand(movesShot(), applyRecipe(recipeOf('turntable')));
    const other = runCommand(shot, applyRecipe(recipeOf('push-in')));
    const turn = (s: ShotDocument) => expandMoves(set, s).tracks.find((t) => t.path === 'turn');
    expect(turn(shot)).equal(turn(other));
    const changed = runCommand(other, changeRecipe('r-turntable', { options: { turns: 2 } }));
    expect(turn(changed)).not.equal(turn(other));
    expect(changed.recipes[0].options).deep.equal({ turns: 2, axis: 'upright', backwards: false });
  });

  it('another shot begins where this one ends', () => {
    const shot = shotWith(
      recipeOf('crane'),
      recipeOf('turntable', { length: 20 }),
      recipeOf('stop-motion', { things: ['b'] }),
    );
    const next = movesShot({ tracks: lastPose(set, shot) });
    expect(validateDocument('shot', JSON.parse(JSON.stringify(next)))).deep.equal(next);
    for (const frame of [0, 30])
      expect(poseSet(compileMoves(set, next), frame)).deep.equal(poseSet(compileMoves(set, shot), 47));
    expect(lastPose(set, movesShot())).deep.equal([]);
  });

  it('a muted one makes nothing', () => {
    expect(poseSet(compileMoves(set, shotWith(recipeOf('crane', { muted: true }))), 20)).equal(set);
  });
});
