import { expect } from 'chai';
import fc from 'fast-check';
import {
  BLOCK_FORMS,
  BUILDER_KINDS,
  BUILDER_PROPERTIES,
  fieldGroups,
  findThing,
  LIGHT_SHAPES,
  newBlock,
  newCard,
  newEmitter,
  newSet,
  newSmoke,
  OWN,
  nextProduct,
  propertiesOfThing,
  propertyOf,
  thingsOf,
  validateDocument,
  type FoundThing,
  type SetDocument,
} from '@tender-orbit/core/document';
import {
  allows,
  count,
  fitNumber,
  number,
  PATH,
  propertyAt,
  readProperty,
  writeProperty,
  type NumberProperty,
  type Property,
} from '@tender-orbit/core/properties';
import { newBuilder } from '@tender-orbit/core/product';

/** A set with a thing of every kind, form and shape. */
function everything(): SetDocument {
  const set = newSet('All');
  set.products.push(nextProduct(set, 'jar', { id: 'p', name: 'Jar' }));
  set.surfaces.push(newCard('flag', 'Flag', '#000000'), ...BLOCK_FORMS.map((form) => newBlock(form, form)));
  set.lights.push(...LIGHT_SHAPES.map((shape) => ({ ...set.lights[0], id: `light-${shape}`, shape })));
  set.environment.room.boxes.push({
    ...{ id: 'box', azimuth: 0, elevation: 10, width: 40, height: 20, brightness: 4, kelvin: 5000, softness: 0.2 },
  });
  set.effects.push(newSmoke('smoke', 'Smoke', { emitters: [newEmitter('box', 'Source')] }));
  return set;
}

/** What is kept in a set: a product's own values are kept in its shots. */
const kept = (found: FoundThing): Array<[string, Property]> =>
  Object.entries(propertiesOfThing(found)).filter(([path]) => !path.startsWith(OWN));

const isNumber = (property: { type: string } | undefined): property is NumberProperty =>
  property?.type === 'number' || property?.type === 'turn';

describe('properties: the catalogue', () => {
  const set = everything();
  const things = thingsOf(set);

  it('every property of every kind is there in its thing, with a value it allows', () => {
    for (const found of things) {
      for (const [path, property] of kept(found)) {
        const own = path.replace('*', 'box');
        expect(allows(property, readProperty(found.thing, own)), `${found.name} ${own}`).equal(true);
        expect(own).match(PATH);
        expect(property.label).match(/^[A-Z]/);
      }
    }
  });

  it('every builder’s properties are there in its numbers', () => {
    for (const kind of BUILDER_KINDS)
      for (const [path, property] of Object.entries(BUILDER_PROPERTIES[kind]))
        expect(allows(property, readProperty(newBuilder(kind), path)), `${kind} ${path}`).equal(true);
  });

  it('fields shown for a thing are numbers of its catalogue, each once', () => {
    for (const found of things) {
      const paths = fieldGroups(found).flatMap((group) => group.paths);
      expect(new Set(paths).size).equal(paths.length);
      expect(paths.length).above(0);
      for (const path of paths) expect(isNumber(propertyOf(found, path)), `${found.name} ${path}`).equal(true);
    }
  });

  it('validation and the catalogue agree: the ends of a range pass, what lies beyond does not', () => {
    for (const found of things) {
      for (const [path, property] of kept(found)) {
        if (!isNumber(property)) continue;
        const check = (value: number): boolean => {
          const copy = JSON.parse(JSON.stringify(set)) as SetDocument;
          writeProperty(findThing(copy, found.id)!.thing, path.replace('*', 'box'), value);
          try {
            validateDocument('set', copy);
            return true;
          } catch {
            return false;
          }
        };
        // A shape of light may narrow what all lights allow, never widen it.
        expect(check(property.min) && check(property.max), `${found.name} ${path}`).equal(true);
        if (found.role !== 'light') {
          expect(check(property.min - 1), `${found.name} ${path} below`).equal(false);
          expect(check(property.max + 1), `${found.name} ${path} above`).equal(false);
        }
      }
    }
  });

  it('a sun is in lux, a disc has a diameter, only a flight has steps', () => {
    const property = (id: string, path: string) => propertyOf(findThing(set, id) as FoundThing, path) as NumberProperty;
    expect(property('light-sun', 'lumens').display.unit).equal('lx');
    expect(property('light-disc', 'width').label).equal('Diameter');
    const shown = (id: string) => fieldGroups(findThing(set, id)!).flatMap((g) => g.paths);
    expect(shown('steps')).include('steps');
    expect(shown('plinth')).not.include('steps');
    expect(shown('key')).include.members(['position.0', 'position.1', 'position.2']);
  });
});

describe('properties: addresses', () => {
  const set = everything();
  const room = findThing(set, 'environment')!;

  it('reach through points by axis and through lists by id', () => {
    const key = findThing(set, 'key')!;
    expect(propertyOf(key, 'position.1')!.label).equal('Height');
    expect(propertyOf(key, 'position.3')).equal(undefined);
    expect(propertyOf(room, 'room.boxes.box.kelvin')!.label).equal('Softbox colour');
    expect(readProperty(room.thing, 'room.boxes.box.kelvin')).equal(5000);
    writeProperty(room.thing, 'room.boxes.box.kelvin', 3000);
    expect(set.environment.room.boxes[0].kelvin).equal(3000);
    expect(readProperty(room.thing, 'room.boxes.gone.kelvin')).equal(undefined);
  });

  it('reach nothing that is not declared, whatever objects inherit', () => {
    const key = findThing(set, 'key')!;
    for (const path of ['__proto__', 'constructor', 'toString', 'gobo.constructor.name', 'name', 'id', '', '.', 'a..b'])
      expect(propertyOf(key, path), path).equal(undefined);
    expect(propertyAt({ x: count('X', 0, 1) }, 'hasOwnProperty')).equal(undefined);
    const plain = { a: { b: 1 } };
    writeProperty(plain, 'a.c', 2);
    writeProperty(plain, '__proto__.d', 3);
    writeProperty(plain, 'a.b.c', 4);
    expect(plain).deep.equal({ a: { b: 1 } });
    expect(({} as Record<string, unknown>).d).equal(undefined);
  });
});

describe('properties: fitting values', () => {
  const blades = count('Blades', 0, 16, { gap: [0, 3] });

  it('brings any number into range, rounded and out of the gap, and leaves it there', () => {
    const properties = [blades, number('Power', 'lm', 0, 1e6), count('Steps', 1, 40), number('Shift', '', -1, 1)];
    fc.assert(
      fc.property(fc.constantFrom(...properties), fc.double(), (property, value) => {
        const fitted = fitNumber(property, value);
        expect(fitted).within(property.min, property.max);
        expect(fitNumber(property, fitted)).equal(fitted);
        expect(allows(property, fitted)).equal(true);
        if (property.rounding === 1) expect(Number.isInteger(fitted)).equal(true);
      }),
    );
  });

  it('no 3.4 blades, no 1 or 2, no negative lumens', () => {
    expect([3.4, 1, 1.4, 2, -5, 99, NaN].map((v) => fitNumber(blades, v))).deep.equal([3, 0, 0, 3, 0, 16, 0]);
    expect(fitNumber(number('Power', 'lm', 0, 1e6), -3)).equal(0);
  });
});
