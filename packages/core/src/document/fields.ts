import * as yup from 'yup';
import type {
  ChoiceProperty,
  ColourProperty,
  NumberProperty,
  PlaceProperty,
  ReferenceProperty,
  SwitchProperty,
} from '../properties/index.ts';
import type { Point } from './common.ts';

/**
 * Building blocks of the document schemas: each names its field in the message a person sees. A schema carries the type it
 * lets through, so that one that does not fit its document does not compile.
 */
export type Field<T> = yup.Schema<T>;

const between = (label: string, min: number, max: number): string =>
  `${label} must be a number between ${min} and ${max}.`;

export const finite = (label: string, min: number, max: number): yup.NumberSchema<number> =>
  yup
    .number()
    .strict()
    .required(between(label, min, max))
    .typeError(between(label, min, max))
    .test('finite', between(label, min, max), (v) => Number.isFinite(v) && v! >= min && v! <= max)
    .label(label);

/** 0..1. */
export const share = (label: string): Field<number> => finite(label, 0, 1);

export const whole = (label: string, min: number, max: number): yup.NumberSchema<number> =>
  finite(label, min, max).integer(`${label} must be a whole number between ${min} and ${max}.`);

export const text = (label: string, max: number): yup.StringSchema<string> =>
  yup
    .string()
    .strict()
    .defined(`${label} is missing.`)
    .typeError(`${label} must be text.`)
    .max(max, `${label} is longer than ${max} characters: shorten it.`);

export const name = (label: string): Field<string> =>
  text(label, 120).test('not-blank', `${label} is empty: give it a name.`, (v) => (v ?? '').trim().length > 0);

export const id = (label: string): Field<string> =>
  text(label, 64).matches(/^[A-Za-z0-9_-]+$/, `${label} is not a valid id.`);

export const hash = (label: string): Field<string> =>
  text(label, 64).matches(/^[0-9a-f]{64}$/, `${label} is not the name of a stored file.`);

/** A stored file, or none. */
export const fileOrNone = (label: string): Field<string> =>
  text(label, 64).matches(/^([0-9a-f]{64})?$/, `${label} is not the name of a stored file.`);

export const hex = (label: string): Field<string> =>
  text(label, 7).matches(/^#[0-9a-fA-F]{6}$/, `${label} must be a hex colour like #C98F6B.`);

export const flag = (label: string): Field<boolean> =>
  yup.boolean().strict().defined(`${label} must be on or off.`).nonNullable();

export const oneOf = <const T extends string>(label: string, values: readonly T[]): Field<T> =>
  yup
    .string()
    .strict()
    .required(`${label} is missing.`)
    .oneOf([...values], `${label} must be one of: ${values.join(', ')}.`) as unknown as Field<T>;

/** The document version a schema is for. */
export const versionOf = <const V extends number>(version: V): Field<V> =>
  whole('Version', version, version) as unknown as Field<V>;

export const list = <T>(label: string, item: Field<T>, max: number, min = 0, tooFew = ''): Field<T[]> =>
  yup
    .array()
    .of(item)
    .strict()
    .defined(`${label} is missing.`)
    .max(max, `${label} holds more than ${max} entries.`)
    .test('some', tooFew, (v) => !v || v.length >= min) as unknown as Field<T[]>;

/** A fixed number of numbers. */
export const numbers = <T extends readonly number[]>(
  label: string,
  count: T['length'],
  min: number,
  max: number,
): Field<T> =>
  yup
    .array()
    .of(finite(label, min, max))
    .strict()
    .defined(`${label} is missing.`)
    .test('length', `${label} must hold ${count} numbers.`, (v) => v?.length === count) as unknown as Field<T>;

export const point = (label: string): Field<Point> => numbers<Point>(label, 3, -1000, 1000);

/** A field for each of T's. */
export type Fields<T extends object> = { [K in keyof T]-?: Field<T[K]> };

/** An object with exactly the fields of T. */
export const shape = <T extends object>(fields: Fields<T>): Field<T> =>
  yup
    .object(fields as Record<string, yup.AnySchema>)
    .strict()
    .noUnknown('This document has a field that is not known here: ${unknown}.')
    .defined() as unknown as Field<T>;

/** May be left out. */
export const optional = <T>(item: Field<T>): Field<T | undefined> =>
  yup.lazy((value: unknown) => (value === undefined ? yup.mixed().optional() : item)) as unknown as Field<
    T | undefined
  >;

/** May be null. */
export const orNull = <T>(item: Field<T>): Field<T | null> =>
  yup.lazy((value: unknown) => (value === null ? yup.mixed().nullable() : item)) as unknown as Field<T | null>;

/** One of several shapes, told apart by `kind`. */
export const byKind = <T extends { kind: string }>(
  label: string,
  kinds: { [K in T['kind']]: Field<Extract<T, { kind: K }>> },
): Field<T> =>
  yup.lazy((value: { kind?: string } | null | undefined) => {
    const known = Object.hasOwn(kinds, value?.kind ?? '') ? kinds[value!.kind as T['kind']] : undefined;
    return (known ?? yup.object({ kind: oneOf(label, Object.keys(kinds)) })) as yup.AnySchema;
  }) as unknown as Field<T>;

/** What every item of a list has that is addressed by its id: see edit.ts for `order`. */
export const item = (label: string): { id: Field<string>; name: Field<string>; order: Field<string | undefined> } => ({
  id: id('Id'),
  name: name(label),
  order: order(),
});

export const order = (): Field<string | undefined> =>
  optional(text('Order', 64).matches(/^[A-Za-z0-9]+$/, 'Order is not a place in a list.'));

/** A field as its property describes it. */
export function field(property: NumberProperty): Field<number>;
export function field(property: ColourProperty): Field<string>;
export function field(property: SwitchProperty): Field<boolean>;
export function field<T extends string>(property: ChoiceProperty<T>): Field<T>;
export function field(property: ReferenceProperty): Field<string>;
export function field(property: PlaceProperty): Field<Point>;
export function field(
  property: NumberProperty | ColourProperty | SwitchProperty | ChoiceProperty | ReferenceProperty | PlaceProperty,
): Field<unknown> {
  switch (property.type) {
    case 'number':
    case 'turn':
      return numberField(property);
    case 'colour':
      return hex(property.label);
    case 'switch':
      return flag(property.label);
    case 'choice':
      return oneOf(property.label, property.choices);
    case 'reference':
      return text(property.label, 64);
    case 'place':
      return point(property.label);
  }
}

function numberField({ label, min, max, rounding, gap }: NumberProperty): Field<number> {
  const plain = rounding === 1 ? whole(label, min, max) : finite(label, min, max);
  if (!gap) return plain;
  return plain.test('gap', `${label} must be ${gap[0]}, or ${gap[1]} and more.`, (v) => !(v! > gap[0] && v! < gap[1]));
}
