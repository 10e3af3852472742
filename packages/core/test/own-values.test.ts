import { expect } from 'chai';
import {
  newRecipe,
  newShot,
  newSet,
  plainItem,
  type CartonBuilder,
  type ProductDocument,
  type SetDocument,
  type ShotDocument,
  type Track,
  type TurnedBuilder,
} from '@tender-orbit/core/document';
import { boundsOf, transformPoint, type Mesh, type Vec3 } from '@tender-orbit/core/geometry';
import { compileMoves, lastPose } from '@tender-orbit/core/motion';
import {
  builtDocument,
  builtMeshes,
  modelKey,
  newBuilder,
  ownBody,
  ownItems,
  ownPaths,
  ownSubject,
  restingOwn,
} from '@tender-orbit/core/product';
import { allows, PATH } from '@tender-orbit/core/properties';
import {
  compile,
  evaluate,
  evaluateMotion,
  partsKey,
  type Tableau,
  type TableauInstance,
} from '@tender-orbit/core/scene';
import { suggestRecipe } from '@tender-orbit/core/staging';
import { keysOf } from './moves-scene.ts';

const jar = builtDocument('Jar', { ...(newBuilder('turned') as TurnedBuilder), wall: 0.003, fill: 0.6 });
const box = builtDocument('Box', { ...(newBuilder('carton') as CartonBuilder), open: 0 });
const products = new Map<string, ProductDocument>([
  ['jar', jar],
  ['box', box],
]);
const meshes = new Map([jar, box].map((p) => [modelKey(p), builtMeshes(modelKey(p))!]));
const meshesOf = (product: ProductDocument): readonly Mesh[] =>
  meshes.get(modelKey(product)) ?? builtMeshes(modelKey(product))!;
const context = { products, meshes: (model: string) => meshes.get(model), aspect: 16 / 9 };

function setOf(): SetDocument {
  const set = newSet('Studio');
  set.products = [
    { ...plainItem(), id: 'jar', name: 'Jar', product: 'jar', position: [0, 0, 0] },
    { ...plainItem(), id: 'box', name: 'Box', product: 'box', position: [0.3, 0, 0] },
  ];
  return set;
}
const set = setOf();
const shotOf = (values: Partial<ShotDocument>): ShotDocument => ({
  ...newShot('Shot', 'set', set.cameras[0].id, 48),
  ...values,
});
const track = (thing: string, path: string, ...keys: Array<[number, number]>): Track => ({
  thing,
  path,
  keys: keysOf(...keys),
});
const at = (shot: ShotDocument, frame: number): Tableau => evaluate(compile(set, shot), frame, context);
const partAt = (shot: ShotDocument, frame: number, thing: string, name: string) => {
  const index = products.get(thing)!.parts.find((p) => p.name === name)!.index;
  return at(shot, frame)
    .instances.find((i) => i.id === thing)!
    .parts.find((p) => p.index === index);
};
const top = (mesh: Mesh): number => boundsOf([mesh]).max[1];

describe('own values: what of its product a placed product has otherwise', () => {
  it('a vessel is filled by keys, and its liquid is not there while it is empty', () => {
    const shot = shotOf({ tracks: [track('jar', 'own.body.turned.fill', [0, 0], [40, 1])] });
    expect(partAt(shot, 0, 'jar', 'Liquid')).equal(undefined);
    const heights = [10, 20, 30].map((f) => top(partAt(shot, f, 'jar', 'Liquid')!.shape!.mesh));
    expect(heights[0]).below(heights[1]);
    expect(heights[1]).below(heights[2]);
    const same = { ...jar.builder!, fill: 0.5 } as TurnedBuilder;
    const fresh = builtDocument('Jar', same);
    const liquid = fresh.parts.findIndex((p) => p.name === 'Liquid');
    expect(heights[1]).closeTo(top(meshesOf(fresh)[liquid]), 1e-6);
  });

  it('a carton opens: at every frame its parts are those of a carton built that far open', () => {
    const shot = shotOf({ tracks: [track('box', 'own.body.carton.open', [0, 0], [20, 100])] });
    const half = meshesOf(builtDocument('Box', { ...(box.builder as CartonBuilder), open: 50 }));
    const shown = at(shot, 10).instances.find((i) => i.id === 'box')!.parts;
    const shaped = shown.map(({ index, shape, shell }) => shell ?? shape?.mesh ?? meshesOf(box)[index]);
    shown.forEach(({ index, shell }, i) => {
      if (!shell) expect(shaped[i].positions, box.parts[index].name).deep.equal(half[index].positions);
    });
    expect(boundsOf(shaped).max[1]).above(boundsOf(meshesOf(box)).max[1] + 0.01);
  });

  it('a part is shifted by metres and turns about its hinge', () => {
    const lid = jar.parts.find((p) => p.name === 'Cap')!.index;
    const shot = shotOf({
      tracks: [
        track('jar', `own.parts.${lid}.shift.1`, [0, 0], [10, 0.05]),
        track('jar', `own.parts.${lid}.turn`, [0, 0], [10, 90]),
      ],
    });
    const { matrix } = partAt(shot, 10, 'jar', 'Cap')!.place!;
    const moved = transformPoint(matrix, [0.01, 0.02, 0]);
    expect(moved[0]).closeTo(0, 1e-9);
    expect(moved[1]).closeTo(0.07, 1e-9);
    expect(moved[2]).closeTo(-0.01, 1e-9);
    expect(partAt(shot, 10, 'jar', 'Body')!.place).equal(undefined);
  });

  it('a point on the hinge stays where it is', () => {
    const mesh = meshesOf(box)[0];
    const { min, max } = boundsOf([mesh]);
    const hinges: Array<[string, Vec3]> = [
      ['back', [0.01, min[1], min[2]]],
      ['front', [0.01, min[1], max[2]]],
    ];
    for (const [hinge, point] of hinges) {
      const { places } = ownBody(box, meshesOf(box), '', { 'parts.0.hinge': hinge, 'parts.0.tilt': 75 });
      expect(
        transformPoint(places.get(0)!, point).map((v) => Number(v.toFixed(9))),
        hinge,
      ).deep.equal(point.map((v) => Number(v.toFixed(9))));
    }
  });

  it('labels wander and finishes change, others stay the same objects', () => {
    const slot = jar.slots[0];
    const [first, ...others] = jar.finishes;
    const own = { [`labels.${slot.id}.offset.0`]: 0.25, [`finishes.${first.id}.baseColor`]: '#FF0000' };
    const body = ownBody(jar, meshesOf(jar), '', own);
    expect(body.product.slots[0].offset).deep.equal([0.25, slot.offset[1]]);
    expect(body.product.finishes[0].baseColor).deep.equal([1, 0, 0]);
    expect(body.product.finishes.slice(1)).deep.equal(others);
    expect(body.product.finishes[1]).equal(jar.finishes[1]);
    expect(body.meshes).equal(meshesOf(jar));
    expect(jar.slots[0].offset).deep.equal(slot.offset);
    expect(ownBody(jar, meshesOf(jar), '', { ...own })).equal(body);
  });

  it('of two jars of one product the one at rest stays the same object while the other fills, in every pass over the shot', () => {
    const two = setOf();
    two.products.push({ ...two.products[0], id: 'other', position: [0, 0, 0.3] });
    const shot = shotOf({ tracks: [track('jar', 'own.body.turned.fill', [0, 0.1], [40, 1])] });
    const pass = (): TableauInstance[][] =>
      [0, 10, 20].map((frame) => evaluate(compile(two, shot), frame, context).instances);
    const [first, second] = [pass(), pass()];
    first.forEach((instances, i) => {
      const of = (list: TableauInstance[], id: string) => list.find((one) => one.id === id)!;
      expect(of(second[i], 'other')).equal(of(first[0], 'other'));
      expect(partsKey(of(instances, 'other').parts)).equal(undefined);
      const key = partsKey(of(instances, 'jar').parts);
      expect(key).a('string');
      expect(partsKey(of(second[i], 'jar').parts)).equal(key);
    });
    expect(new Set(first.map((list) => partsKey(list.find((one) => one.id === 'jar')!.parts))).size).equal(3);
  });

  it('values of what is gone are passed over', () => {
    const own = { 'parts.99.turn': 30, 'labels.gone.turn': 3, 'finishes.gone.roughness': 1, 'body.pouch.width': 1 };
    const body = ownBody(jar, meshesOf(jar), '', own);
    expect([...body.places]).deep.equal([]);
    expect(body.meshes).deep.equal(meshesOf(jar));
    expect(body.product.finishes).deep.equal(jar.finishes);
  });

  it('motion blur and motion vectors know where parts and vertices are at the other times', () => {
    const lid = jar.parts.find((p) => p.name === 'Cap')!.index;
    const shot = shotOf({
      tracks: [
        track('jar', `own.parts.${lid}.shift.1`, [0, 0], [10, 0.1]),
        track('jar', 'own.body.turned.fill', [0, 0.2], [10, 0.8]),
      ],
    });
    const instance = evaluateMotion(compile(set, shot), 5, context).instances[0];
    const cap = instance.parts.find((p) => p.index === lid)!.place!;
    expect(cap.matrix[13]).closeTo(0.05, 1e-9);
    expect(cap.before![13]).closeTo(0.04, 1e-9);
    expect(cap.close![13]).closeTo(0.05 + (0.01 * set.cameras[0].shutter) / 360, 1e-9);
    const liquid = jar.parts.find((p) => p.name === 'Liquid')!.index;
    const { mesh, close, before } = instance.parts.find((p) => p.index === liquid)!.shape!;
    const highest = (positions: Float32Array): number => top({ ...mesh, positions });
    if (close) expect(highest(close.positions)).above(top(mesh));
    if (before) expect(highest(before)).below(top(mesh));
    expect(close === undefined && before === undefined).equal(false);
  });

  it('what rests is read from the product, in the units of the properties', () => {
    const finish = jar.finishes[0];
    expect(restingOwn(jar, '', 'own.body.turned.fill')).equal(0.6);
    expect(restingOwn(jar, '', 'own.body.carton.open')).equal(undefined);
    expect(restingOwn(jar, '', `own.finishes.${finish.id}.roughness`)).equal(finish.roughness);
    expect(restingOwn(jar, '', `own.finishes.${finish.id}.baseColor`)).match(/^#[0-9A-F]{6}$/);
    expect(restingOwn(jar, '', 'own.parts.0.turn')).equal(0);
    expect(restingOwn(jar, '', 'own.parts.0.nonsense')).equal(undefined);
    expect(ownSubject(jar, 'own.parts.0-1.turn')).equal(`${jar.parts[0].name} and ${jar.parts[1].name}`);
    for (const item of ownItems(jar))
      for (const { path, property } of ownPaths(jar, '', item)) {
        expect(allows(property, restingOwn(jar, '', path)), path).equal(true);
        expect(path).match(PATH);
        expect(property.label).match(/^[A-Z]/);
      }
  });

  it('a shot that begins where another ends begins with its own values', () => {
    const shot = shotOf({ tracks: [track('jar', 'own.body.turned.fill', [0, 0.1], [47, 0.5])] });
    expect(lastPose(set, shot)).deep.include({
      thing: 'jar',
      path: 'own.body.turned.fill',
      keys: [{ frame: 0, value: 0.5, ease: 'eased' }],
    });
  });
});

describe('own values: recipes on parts', () => {
  const ask = (chosen: string[]) => ({
    ...{ id: 'r', set, shot: shotOf({}), products, chosen },
    ...{ start: 0, rate: 24 },
  });
  const made = (kind: 'lid-off' | 'box-open' | 'fill-up', thing: string): ShotDocument => {
    const recipe = suggestRecipe(kind, ask([thing]));
    if ('refused' in recipe) throw new Error(recipe.refused);
    return shotOf({ recipes: [recipe] });
  };

  it('the lid is found by its name, comes off its thread first and is lifted in the end', () => {
    const shot = made('lid-off', 'jar');
    const [{ options, length }] = shot.recipes;
    const lid = jar.parts.find((p) => p.name === 'Cap')!.index;
    expect(options.part).equal(String(lid));
    const own = (frame: number) =>
      compileMoves(set, shot).posers.get('jar')!.at(frame) as unknown as { own?: Record<string, number> };
    const [loose, end] = [own(length * 0.45).own!, own(length).own!];
    expect(loose[`parts.${lid}.turn`]).closeTo((options.turns as number) * 360, 1e-6);
    expect(loose[`parts.${lid}.shift.1`]).below((options.height as number) * 0.2);
    expect(end[`parts.${lid}.shift.1`]).closeTo(options.height as number, 1e-9);
  });

  it('put on instead is the same backwards', () => {
    const shot = made('lid-off', 'jar');
    const [recipe] = shot.recipes;
    const back = shotOf({ recipes: [{ ...recipe, ease: 'linear', options: { ...recipe.options, backwards: true } }] });
    const forth = shotOf({ recipes: [{ ...recipe, ease: 'linear' }] });
    const own = (of: ShotDocument, frame: number) =>
      (compileMoves(set, of).posers.get('jar')!.at(frame) as unknown as { own: Record<string, number> }).own;
    for (const share of [0, 0.2, 0.45, 0.7, 1]) {
      const [a, b] = [own(forth, recipe.length * share), own(back, recipe.length * (1 - share))];
      for (const name of Object.keys(a)) expect(b[name], `${name} at ${share}`).closeTo(a[name], 1e-9);
    }
  });

  it('a carton opens by its own lid, a jar has nothing to open by but its cap', () => {
    expect(made('box-open', 'box').recipes[0].options).include({ part: '', closed: 0, angle: 110 });
    expect(made('box-open', 'jar').recipes[0].options.part).not.equal('');
  });

  it('only what holds liquid is filled', () => {
    expect(made('fill-up', 'jar').recipes[0].options.full).equal(0.6);
    const refused = suggestRecipe('fill-up', ask(['box']));
    expect(refused)
      .property('refused')
      .match(/"Box" holds no liquid/);
  });

  it('a lid that opens swings up, not into the box', () => {
    const recipe = newRecipe('r', 'box-open', { ...made('box-open', 'box').recipes[0] });
    const lid = box.parts.find((p) => p.name === 'Top')?.index ?? 5;
    for (const hinge of ['back', 'front', 'left', 'right']) {
      const shot = shotOf({ recipes: [{ ...recipe, options: { ...recipe.options, part: String(lid), hinge } }] });
      const { matrix } = at(shot, recipe.length + 5)
        .instances.find((i) => i.id === 'box')!
        .parts.find((p) => p.index === lid)!.place!;
      const { min, max } = boundsOf([meshesOf(box)[lid]]);
      const middle: Vec3 = [(min[0] + max[0]) / 2, min[1], (min[2] + max[2]) / 2];
      expect(transformPoint(matrix, middle)[1], hinge).above(middle[1] + 0.005);
    }
  });
});
