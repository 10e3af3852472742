import { expect } from 'chai';
import {
  newBlock,
  newCard,
  newSet,
  nextProduct,
  plainItem,
  type ProductDocument,
  type SetDocument,
} from '@tender-orbit/core/document';
import { builtDocument, TURNED_PRESETS } from '@tender-orbit/core/product';
import {
  clampElevation,
  fromPolar,
  groundOf,
  metresLabel,
  planOf,
  planReach,
  ringsUpTo,
  stepPolar,
  subjectOf,
  tableAt,
  takenBoxes,
  toPolar,
} from '@tender-orbit/core/staging';

const jar = builtDocument('Jar', TURNED_PRESETS.jar);
const products: ReadonlyMap<string, ProductDocument> = new Map([['jar', jar]]);

/** A set with one of everything, the jar on a tabletop. */
function fullSet(): SetDocument {
  const set = newSet('Studio');
  set.surfaces.push(
    newBlock('table', 'tabletop', { position: [0.2, 0, 0], width: 0.4, depth: 0.3, height: 0.05 }),
    newBlock('drum', 'drum', { position: [-0.4, 0, 0], width: 0.2, height: 0.1 }),
    newBlock('floor', 'floor'),
    newCard('flag', 'Flag', '#000000'),
  );
  set.products = [
    nextProduct(set, 'one', { id: 'jar', name: 'Jar' }, [0.2, 0], 'table'),
    { ...plainItem(), id: 'two', name: 'Gone', product: 'lost', position: [0, 0, 0.3] },
  ];
  return set;
}

describe('staging: places round the product', () => {
  it('goes to polar places and back', () => {
    for (const p of [
      [0, 0, 1],
      [0.5, 0.7, -0.3],
      [-1, 0.01, 0],
      [0, 2, 1e-6],
    ] as Array<[number, number, number]>) {
      fromPolar(toPolar(p)).forEach((v, a) => expect(v).closeTo(p[a], 1e-9));
    }
    expect(toPolar([1, 0, 0]).azimuth).closeTo(90, 1e-9);
    expect(toPolar([0, 1, 1]).elevation).closeTo(45, 1e-9);
  });

  it('has rings at round distances, never more than four', () => {
    expect(ringsUpTo(1.1)).deep.equal([0.5, 1]);
    expect(ringsUpTo(0.3)).deep.equal([0.1, 0.2, 0.3]);
    for (let reach = 0.1; reach < 40; reach *= 1.3) expect(ringsUpTo(reach).length).within(1, 4);
    expect([metresLabel(0.25), metresLabel(2)]).deep.equal(['25 cm', '2 m']);
  });

  it('steps round, over and towards the product as arrows ask', () => {
    const [x, y, z] = stepPolar([0, 0.5, 1], { azimuth: 90 });
    expect([x, y, z].map((v) => Number(v.toFixed(9)))).deep.equal([1, 0.5, 0]);
    const raised = stepPolar([0, 0, 1], { elevation: 30 });
    expect(toPolar(raised)).deep.include({ azimuth: 0 });
    expect(toPolar(raised).elevation).closeTo(30, 1e-9);
    expect(Math.hypot(...raised)).closeTo(1, 1e-12);
    expect(stepPolar([0.3, 0.7, 0.4], { ground: 0.5 })).deep.equal([0.6, 0.7, 0.8]);
    // It never steps through the middle, and gets away from it.
    expect(Math.hypot(...stepPolar([0.3, 0, 0.4], { ground: -4 }))).closeTo(0.01, 1e-12);
    expect(stepPolar([0, 1, 0], { ground: 0.1 })).deep.equal([0, 1, 0.1]);
    expect(clampElevation(120)).equal(89);
    expect(toPolar(stepPolar([0, 9, 1], { elevation: 20 })).elevation).closeTo(89, 1e-9);
  });
});

describe('staging: the orbit plan', () => {
  it('shows each kind of thing as what it is from above', () => {
    const set = fullSet();
    const marks = planOf(set, products, new Set(['hero']));
    const kinds = Object.fromEntries(marks.map(({ id, outline }) => [id, outline.kind]));
    expect(kinds).deep.equal({
      ...{ sweep: 'wall', one: 'product', two: 'product', key: 'lamp', fill: 'lamp', rim: 'lamp' },
      ...{ flag: 'bar', table: 'body', drum: 'body', hero: 'camera' },
    });
    const of = (id: string) => marks.find((m) => m.id === id)!;
    expect(of('one').outline).deep.equal({
      kind: 'product',
      radius: (Math.max(jar.extent[0], jar.extent[2]) * jar.scale) / 2,
    });
    expect(of('two').outline).deep.equal({ kind: 'product', radius: 0.03 });
    expect(of('drum').outline).deep.include({ width: 0.2, depth: 0.2, round: true });
    expect(marks.filter((m) => m.raised).map((m) => m.id)).deep.equal(['key', 'fill', 'rim', 'flag', 'hero']);
  });

  it('leaves out what is hidden and cameras that are not asked for', () => {
    const set = fullSet();
    set.products[0].visible = false;
    const ids = planOf(set, products, new Set()).map((m) => m.id);
    expect(ids).not.include.members(['one']);
    expect(ids).not.include.members(['hero']);
  });

  it('opens a light by its beam, else its grid', () => {
    const set = fullSet();
    const [key, ...rest] = set.lights;
    const half = (values: Partial<typeof key>): number => {
      const lit = { ...set, lights: [{ ...key, ...values }, ...rest] };
      return planOf(lit, products, new Set()).find((m) => m.id === 'key')!.half;
    };
    const spot = half({ shape: 'spot', beamAngle: 50, gridAngle: 10 });
    expect(spot).closeTo((25 * Math.PI) / 180, 1e-12);
    const narrow = half({ shape: 'softbox', gridAngle: 10 });
    expect(narrow).closeTo((10 * Math.PI) / 180, 1e-12);
    expect(half({ shape: 'softbox', gridAngle: 0 })).above(narrow);
  });

  it('keeps the marks of things that stay the same', () => {
    const set = fullSet();
    const before = planOf(set, products, new Set());
    const moved = { ...set, lights: set.lights.map((l) => (l.id === 'key' ? { ...l, on: false } : l)) };
    const after = planOf(moved, products, new Set());
    const changed = after.filter((mark, i) => mark !== before[i]).map(({ id }) => id);
    expect(changed).deep.equal(['key']);
    const scaled = new Map([['jar', { ...jar, scale: jar.scale * 2 }]]);
    expect(planOf(set, scaled, new Set()).find((m) => m.id === 'one')).not.equal(before.find((m) => m.id === 'one'));
  });

  it('reaches past what stands furthest off, and bodies do not stretch it', () => {
    const set = fullSet();
    set.lights[0].position = [3, 1, 4];
    const near = planReach(planOf(set, products, new Set()));
    expect(near).within(5.6, 5.7);
    set.surfaces.push(newBlock('far', 'wall', { position: [0, 0, -40] }));
    expect(planReach(planOf(set, products, new Set()))).equal(near);
    expect(planReach([])).equal(0.4);
  });
});

describe('staging: where there is room', () => {
  it('a product on a tabletop stands on its top, one on a product on that, and a ring of things ends', () => {
    const set = fullSet();
    const [one, two] = set.products;
    expect(groundOf(set, products, one)).closeTo(0.05, 1e-12);
    two.standsOn = 'one';
    expect(groundOf(set, products, two)).closeTo(0.05 + jar.extent[1] * jar.scale, 1e-9);
    one.standsOn = 'one';
    expect(Number.isFinite(groundOf(set, products, one))).equal(true);
    one.standsOn = 'flag';
    expect(groundOf(set, products, one)).equal(0);
  });

  it('products and bodies take it up; tabletops, cards and sweeps do not', () => {
    const set = fullSet();
    const boxes = takenBoxes(set, products);
    expect(boxes).length(3);
    const [product, drum] = boxes;
    expect(product.min[1]).closeTo(0.05, 1e-9);
    expect(product.max[1]).closeTo(0.05 + jar.extent[1] * jar.scale, 1e-9);
    expect(drum.min[0]).closeTo(-0.5, 1e-3);
    expect(drum.max[1]).closeTo(0.1, 1e-6);
  });

  it('a tabletop is found under a place on it, turned as it is', () => {
    const set = fullSet();
    expect(tableAt(set, [0.2, 0])).equal('table');
    expect(tableAt(set, [0.2, 0.18])).equal('');
    const table = set.surfaces.find((s) => s.id === 'table')!;
    Object.assign(table, { turn: 90 });
    expect(tableAt(set, [0.2, 0.18])).equal('table');
    expect(tableAt(set, [0.38, 0])).equal('');
    expect(tableAt(set, [-0.4, 0])).equal('');
  });

  it('lights are set up round the product at its height, from where the camera stands', () => {
    const set = fullSet();
    const camera = { ...set.cameras[0], position: [1.2, 0.3, 0] as [number, number, number] };
    const subject = subjectOf(set, products, camera);
    expect(subject.centre[1]).closeTo(0.05 + (jar.extent[1] * jar.scale) / 2, 1e-9);
    expect(subject.cameraTurn).closeTo(90, 1e-9);
    expect(subjectOf(newSet('Empty'), products, null).radius).above(0.05);
  });
});
