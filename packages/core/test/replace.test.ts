import { expect } from 'chai';
import {
  chooseSet,
  newBlock,
  newSet,
  newShot,
  nextProduct,
  openDocument,
  orderThings,
  replaceItems,
  runCommand,
  standOn,
  useLights,
  type SetDocument,
} from '@tender-orbit/core/document';
import { builtDocument, newBuilder, toneOf, TURNED_PRESETS } from '@tender-orbit/core/product';
import { displayedGrey, greyShownAs } from '@tender-orbit/core/picture';
import { LIGHT_KITS, placeKit, type Subject } from '@tender-orbit/core/staging';
import { surfaceMesh, surfaceTop, surfaceTraits } from '@tender-orbit/core/scene';

function studio(): SetDocument {
  const set = newSet('Studio');
  set.products = ['a', 'b', 'c'].map((id, i) => ({
    ...nextProduct(set, id, { id: i < 2 ? 'jar' : 'box', name: id }, [i / 10, 0], ''),
    variant: i === 0 ? 'pine' : '',
    turn: 10 * i,
    scale: 1.5,
  }));
  return openDocument(set);
}

describe('document: a product in the place of another', () => {
  const other = {
    product: 'tin',
    name: 'Tin',
    grow: 2,
    variant: (name: string): string => (name === 'Pine' ? 'pine-tin' : ''),
  };
  const nameOf = ({ variant }: { variant: string }): string => (variant === 'pine' ? 'Pine' : '');

  it('takes over place, turn, name and id; a variant of the same name stays', () => {
    const before = studio();
    const after = runCommand(before, replaceItems(['a'], other, nameOf));
    expect(after.products[0]).deep.equal({ ...before.products[0], product: 'tin', variant: 'pine-tin', scale: 3 });
    expect(after.products.slice(1)).deep.equal(before.products.slice(1));
  });

  it('is put wherever the old one stands, and nowhere else', () => {
    const after = runCommand(studio(), replaceItems({ of: 'jar' }, other, nameOf));
    expect(after.products.map((p) => [p.product, p.variant])).deep.equal([
      ['tin', 'pine-tin'],
      ['tin', ''],
      ['box', ''],
    ]);
  });

  it('that is not there changes nothing', () => {
    const before = studio();
    expect(runCommand(before, replaceItems(['nobody'], other, nameOf))).equal(before);
    expect(runCommand(before, replaceItems({ of: 'gone' }, other, nameOf))).equal(before);
  });

  it('a shot can have a set of its own', () => {
    const shot = openDocument(newShot('S', 'set', 'hero', 10));
    expect(runCommand(shot, chooseSet('other')).set).equal('other');
  });
});

describe('document: the order of things', () => {
  const ids = (set: SetDocument): string[] => set.products.map((p) => p.id);

  it('is as asked, and what was not named stays behind in its own', () => {
    expect(ids(runCommand(studio(), orderThings('products', ['c', 'a', 'b'])))).deep.equal(['c', 'a', 'b']);
    expect(ids(runCommand(studio(), orderThings('products', ['c'])))).deep.equal(['c', 'a', 'b']);
    expect(ids(runCommand(studio(), orderThings('products', ['x', 'b'])))).deep.equal(['b', 'a', 'c']);
  });

  it('the same order changes nothing', () => {
    const before = studio();
    expect(runCommand(before, orderThings('products', ['a', 'b', 'c']))).equal(before);
  });
});

describe('document: light kits with their backdrop', () => {
  const subject: Subject = { centre: [0, 0.05, 0], radius: 0.08, cameraTurn: 0 };

  it('a kit brings the ground and the room that it is made for', () => {
    for (const kit of LIGHT_KITS) {
      const { backdrop } = placeKit(kit, subject, 'kit');
      const set = openDocument({ ...newSet('S'), surfaces: [...newSet('S').surfaces, newBlock('wall', 'wall')] });
      const lit = runCommand(set, useLights(placeKit(kit, subject, 'kit'), kit));
      for (const surface of lit.surfaces.filter((s) => s.kind !== 'card'))
        expect([surface.colour, surface.roughness], kit).deep.equal([backdrop!.colour, backdrop!.roughness]);
      expect(lit.environment.room.kind).equal(backdrop!.room);
    }
  });

  it('without it the set keeps its own, and plinths are no backdrop', () => {
    const set = openDocument({ ...newSet('S'), surfaces: [...newSet('S').surfaces, newBlock('plinth', 'plinth')] });
    const placed = placeKit('dark rim', subject, 'kit');
    const plinth = runCommand(set, useLights(placed, 'rim')).surfaces.find((s) => s.id === 'plinth');
    expect(plinth).deep.equal(set.surfaces[1]);
    const bare = { ...placed, backdrop: undefined };
    expect(runCommand(set, useLights(bare, 'rim')).surfaces[0]).deep.equal(set.surfaces[0]);
  });

  it('a dark kit is darker behind the product than a bright one', () => {
    const ground = (kit: (typeof LIGHT_KITS)[number]): number =>
      parseInt(placeKit(kit, subject, 'kit').backdrop!.colour.slice(1, 3), 16);
    expect(ground('dark rim')).below(ground('side strip'));
    expect(ground('side strip')).below(ground('bright catalogue'));
  });
});

describe('product: its tone', () => {
  const box = builtDocument('Box', newBuilder('carton'));
  const painted = (value: number) => ({
    ...box,
    finishes: box.finishes.map((f) => ({ ...f, baseColor: [value, value, value] as [number, number, number] })),
  });

  it('is the mean reflectance of what is seen', () => {
    expect(toneOf(painted(0.02))).closeTo(0.02, 1e-9);
    expect(toneOf(painted(0.8))).closeTo(0.8, 1e-9);
    expect(toneOf({ ...painted(0.8), parts: [] })).equal(0.5);
  });

  it('of glass is that of what fills it', () => {
    const jar = builtDocument('Jar', TURNED_PRESETS.jar);
    const filled = (colour: [number, number, number]) => ({
      ...jar,
      finishes: jar.finishes.map((f) => (f.attenuationDistance > 0 ? { ...f, attenuationColor: colour } : f)),
    });
    expect(toneOf(filled([0.02, 0.01, 0.01]))).below(toneOf(filled([0.95, 0.9, 0.9])));
  });
});

describe('picture: grey through a view transform and back', () => {
  for (const view of ['neutral', 'filmic', 'plain'] as const)
    it(`${view}: what is asked for comes out`, () => {
      for (const wanted of [0.05, 0.18, 0.5, 0.85, 0.95])
        expect(displayedGrey(greyShownAs(wanted, view), view)).closeTo(wanted, 1e-6);
      expect(displayedGrey(1e6, view)).within(0.9, 1);
    });
});

describe('scene: what surfaces are to the things on a set', () => {
  const traits = (form: Parameters<typeof newBlock>[1]) => surfaceTraits(newBlock('b', form));

  it('bodies stand among products, floors and walls do not, tabletops are stood on', () => {
    expect(traits('plinth')).include({ body: true, obstacle: true, table: false });
    expect(traits('floor')).include({ body: false, ground: true });
    expect(traits('wall')).include({ body: false, ground: false, obstacle: true });
    expect(traits('tabletop')).include({ body: true, table: true, obstacle: false });
    expect(surfaceTraits(newSet('S').surfaces[0])).include({ backdrop: true, ground: true, body: false });
  });

  it('a flight of steps is as high as the step at a place; nothing stands on a sweep', () => {
    const steps = newBlock('s', 'steps', { position: [0, 0, 0], width: 0.3, height: 0.3, depth: 0.3, steps: 3 });
    expect([0.12, 0, -0.12].map((z) => Number(surfaceTop(steps, 0, z)!.toFixed(6)))).deep.equal([0.1, 0.2, 0.3]);
    expect(surfaceTop(newSet('S').surfaces[0], 0, 0)).equal(null);
    expect(surfaceMesh(steps).indices.length).above(0);
  });

  it('a product put on a body comes over it, unless it is there already', () => {
    const set = openDocument({ ...studio(), surfaces: [newBlock('p', 'plinth', { position: [1, 0, 1], width: 0.4 })] });
    const put = runCommand(set, standOn('a', 'p')).products[0];
    expect(put).deep.include({ standsOn: 'p', position: [1, 0, 1] });
    const near = { ...set, products: [{ ...set.products[0], position: [1.1, 0, 1] as [number, number, number] }] };
    expect(runCommand(openDocument(near), standOn('a', 'p')).products[0].position).deep.equal([1.1, 0, 1]);
  });
});
