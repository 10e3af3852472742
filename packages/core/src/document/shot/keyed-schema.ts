import * as yup from 'yup';
import { PATH, type PropertyValue } from '../../properties/index.ts';
import { finite, flag, id, list, shape, text, type Field } from '../fields.ts';
import { easeSchema, linkedEaseSchema } from './eases.ts';
import { layerSchema } from './layers/index.ts';
import type { Key, Track } from './types.ts';

const number = finite('Value of a key', -1e9, 1e9);

/** A number, a switch, a colour or choice by its text, or a place. */
const value = yup.lazy((given: unknown) => {
  if (typeof given === 'boolean') return flag('Value of a key');
  if (typeof given === 'string') return text('Value of a key', 64);
  return Array.isArray(given) ? list('Value of a key', number, 16, 1, 'A key holds a value at least.') : number;
}) as unknown as Field<PropertyValue>;

const key = shape<Key>({
  frame: finite('Frame of a key', -100000, 200000),
  value,
  ease: easeSchema,
});

const track = shape<Track>({
  thing: id('Thing'),
  path: text('Property', 120).matches(PATH, 'Property is not the path of a property.'),
  keys: list('Keys', key, 10000).test(
    'one type',
    'The keys of a property must all hold the same kind of value.',
    (keys) => new Set((keys as Array<Key>).map((k) => typeof k.value)).size < 2,
  ) as Field<Array<Key>>,
});

/** Layers and keys, of shots and promos. */
export const keyedShape = {
  tracks: list('Tracks', track, 1000),
  eases: list('Linked eases', linkedEaseSchema, 200),
  layers: list('Layers', layerSchema, 500),
};
