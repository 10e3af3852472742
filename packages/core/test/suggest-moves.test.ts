import { expect } from 'chai';
import {
  RECIPE_KINDS,
  RULE_KINDS,
  RULES,
  validateDocument,
  type AppliedRecipe,
  type RecipeKind,
} from '@tender-orbit/core/document';
import { builtDocument, builtMeshes, modelKey, TURNED_PRESETS } from '@tender-orbit/core/product';
import { compile, evaluate, lightPower, sketch, type Tableau } from '@tender-orbit/core/scene';
import { rulePartners, suggestRecipe, suggestRule, type RecipeAsk } from '@tender-orbit/core/staging';
import { movesSet, movesShot, ruleOf, thingAt } from './moves-scene.ts';

const jar = builtDocument('Jar', TURNED_PRESETS.jar);
const two = {
  ...jar,
  variants: [jar.variants[0], { ...jar.variants[0], id: 'dark', name: 'Dark' }],
  origin: { files: [], animations: [{ name: 'Open', seconds: 2 }], pose: null },
};
const products = new Map([['jar', two]]);
const ask = (values: Partial<RecipeAsk> = {}): RecipeAsk => ({
  ...{ id: 'r', set: movesSet(), shot: movesShot(), products, chosen: [], start: 0, rate: 24 },
  ...values,
});
const made = (kind: RecipeKind, values: Partial<RecipeAsk> = {}): AppliedRecipe => {
  const recipe = suggestRecipe(kind, ask(values));
  if ('refused' in recipe) throw new Error(recipe.refused);
  return recipe;
};

describe('recipes made up for what is in hand', () => {
  it('each is one that a shot takes', () => {
    for (const kind of RECIPE_KINDS) {
      const shot = movesShot({ recipes: [made(kind)] });
      expect(validateDocument('shot', JSON.parse(JSON.stringify(shot))), kind).deep.equal(shot);
    }
  });

  it('what is chosen is moved; without a choice one thing turns, and all arrive', () => {
    expect(made('turntable', { chosen: ['c'] }).things).deep.equal(['c']);
    expect(made('turntable').things).deep.equal(['a']);
    expect(made('pop-in').things).deep.equal(['a', 'b', 'c']);
    expect(made('pop-in', { chosen: ['b', 'hero'] }).things).deep.equal(['b']);
    expect(made('line-up', { chosen: ['b'] }).things).deep.equal(['a', 'b', 'c']);
    expect(made('push-in')).deep.include({ camera: 'hero', things: [] });
    expect(made('light-sweep').things).deep.equal(['strip']);
  });

  it("a model's animation is played at its own speed; without one it is refused", () => {
    expect(made('own-animation')).include({ length: 48 });
    expect(made('own-animation', { rate: 60 })).deep.include({ length: 120 });
    expect(suggestRecipe('own-animation', ask({ products: new Map([['jar', jar]]) }))).property('refused');
    const set = movesSet();
    set.products[2].product = 'tin';
    const both = new Map([
      ['jar', jar],
      ['tin', two],
    ]);
    expect(made('own-animation', { set, products: both }).things).deep.equal(['c']);
  });

  it('distances follow the size of what moves, and times the frame rate', () => {
    const big = { ...two, scale: 10 };
    const far = (kind: RecipeKind, name: string, of = products) => made(kind, { products: of }).options[name] as number;
    const large = new Map([['jar', big]]);
    expect(far('slide-in', 'distance', large) / far('slide-in', 'distance')).closeTo(10, 0.6);
    const tall = Math.max(...two.extent);
    expect(far('hover', 'height')).below(tall);
    expect(far('fly-past', 'height')).below(tall);
    expect(far('drop', 'height')).above(tall);
    expect(far('roll-in', 'radius')).closeTo(Math.min(two.extent[0], two.extent[2]) / 2, 1e-6);
    expect(made('pop-in', { rate: 48 })).deep.include({ length: 28 });
    expect(made('pop-in', { rate: 48 }).options.apart).equal(12);
  });

  it('whole-shot moves end on the last frame, loops one later, both from the playhead on', () => {
    expect(made('push-in').length).equal(47);
    expect(made('turntable').length).equal(48);
    expect(made('push-in', { start: 12 })).deep.include({ start: 12, length: 35 });
  });

  it('with beats it begins and ends on them, one thing a beat', () => {
    const beats = [0, 11.8, 23.7, 35.5, 47.4];
    const recipe = made('pop-in', { start: 10, beats });
    expect(recipe).deep.include({ start: 12, length: 12, at: [0, 12, 24] });
    expect(made('pop-in', { start: 30, beats }).at, 'too few beats left').deep.equal([]);
  });

  it('what cannot be is said in a sentence', () => {
    const empty = movesSet();
    empty.products = [];
    const words = (kind: RecipeKind, values: Partial<RecipeAsk>) =>
      (suggestRecipe(kind, ask(values)) as { refused: string }).refused;
    expect(words('drop', { set: empty })).contain('no product');
    expect(words('push-in', { shot: movesShot({ camera: 'gone' }) })).contain('choose another one');
    expect(words('variant-swap', { products: new Map([['jar', jar]]) })).contain('one variant only');
  });

  it('variants come in order, the shown one last', () => {
    const [first] = two.variants;
    expect(made('stop-motion').variants).deep.equal(['dark', first.id]);
    const set = movesSet();
    set.products[0].variant = 'dark';
    expect(made('stop-motion', { set }).variants).deep.equal([first.id, 'dark']);
  });
});

describe('rules made up for what they are laid on', () => {
  const suggest = (kind: (typeof RULE_KINDS)[number], thing: string, path = '', shot = movesShot()) =>
    suggestRule(kind, { ...{ id: 'rule', set: movesSet(), shot, products, thing, path }, frame: 7 });

  it('each is one that a shot takes', () => {
    const way = {
      id: 'way',
      name: 'Way',
      closed: false,
      points: [0, 1].map((i) => ({ id: `p${i}`, at: [i, 0, 0], handles: null })),
    };
    const shot = movesShot({ paths: [way as never] });
    for (const kind of RULE_KINDS) {
      const rule = suggest(
        kind,
        kind === 'keep-size' ? 'hero' : 'b',
        RULES[kind].ground === 'value' ? 'turn' : '',
        shot,
      )!;
      const full = { ...shot, rules: [rule] };
      expect(validateDocument('shot', JSON.parse(JSON.stringify(full))), kind).deep.equal(full);
    }
  });

  it('amounts suit the unit; nothing jumps where a camera begins to aim', () => {
    const amount = (thing: string, path: string) => (suggest('drift', thing, path) as { amount: number }).amount;
    expect([amount('b', 'turn'), amount('b', 'position'), amount('strip', 'lumens')]).deep.equal([5, 0.01, 160]);
    const set = movesSet();
    const rule = suggest('aim', 'hero')!;
    const shot = movesShot({ rules: [rule] });
    expect(thingAt<{ aim: number[] }>(set, shot, 'hero', 0).aim.map((v) => Number(v.toFixed(9)))).deep.equal(
      set.cameras[0].aim,
    );
    expect(suggest('parent', 'b')).deep.include({ start: 7 });
  });

  it('what would wait for itself in a ring is not offered; without a path there is no ride', () => {
    const shot = movesShot({ rules: [ruleOf('a', '', { kind: 'follow', target: 'b', frames: 0, lag: 0 })] });
    const rule = ruleOf('b', '', { kind: 'follow', target: '', frames: 0, lag: 0 });
    expect(rulePartners(rule, movesSet(), shot).map((p) => p.id)).not.include.members(['a', 'b']);
    expect(suggest('ride', 'b')).equal(null);
  });
});

describe('a sketch of a tableau', () => {
  const meshes = builtMeshes(modelKey(jar))!;
  const context = { products, meshes: () => meshes, aspect: 2 };
  const tableau = (values: Partial<ReturnType<typeof movesSet>> = {}): Tableau =>
    evaluate(compile({ ...movesSet(), ...values, surfaces: [] }, movesShot()), 0, context);
  const draw = (of: Tableau, power = lightPower(of)) =>
    sketch(of, { meshes: () => meshes, width: 64, height: 32, power });
  const grey = ({ pixels }: { pixels: Uint8ClampedArray }, x: number, y: number): number => pixels[(y * 64 + x) * 4];

  it('shows products where the camera sees them, floor below and wall above', () => {
    const drawn = draw(tableau());
    expect(drawn.pixels.length).equal(64 * 32 * 4);
    const middle = grey(drawn, 32, 18);
    expect(middle).above(grey(drawn, 32, 30) + 20);
    expect(grey(drawn, 4, 30)).above(grey(drawn, 4, 1));
    const empty = draw(tableau({ products: [] }));
    expect(grey(empty, 32, 18)).below(middle - 20);
    expect([...empty.pixels].filter((_, i) => i % 4 === 3).every((a) => a === 255)).equal(true);
  });

  it('a weaker light is seen to be weaker against what it is at full', () => {
    const full = lightPower(tableau());
    const dim = movesSet().lights.map((l) => ({ ...l, lumens: l.lumens * 0.1 }));
    expect(grey(draw(tableau({ lights: dim }), full), 32, 18)).below(grey(draw(tableau(), full), 32, 18));
  });

  it('the nearer of two hides the other', () => {
    const [a, b] = movesSet().products;
    const behind = tableau({ products: [{ ...b, id: 'far', position: [0, 0, -0.5] }, b] });
    expect(draw(behind).pixels).deep.equal(
      draw(tableau({ products: [b, { ...b, id: 'far', position: [0, 0, -0.5] }] })).pixels,
    );
    expect(a.id).equal('a');
  });
});
