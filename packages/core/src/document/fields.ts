import * as yup from 'yup';

/** Building blocks of the document schemas: each names its field in the message a person sees. */

export const finite = (label: string, min: number, max: number): yup.NumberSchema<number> =>
  yup
    .number()
    .strict()
    .required(`${label} must be a number between ${min} and ${max}.`)
    .typeError(`${label} must be a number between ${min} and ${max}.`)
    .test(
      'finite',
      `${label} must be a number between ${min} and ${max}.`,
      (v) => Number.isFinite(v) && v! >= min && v! <= max,
    )
    .label(label);

/** 0..1. */
export const share = (label: string): yup.NumberSchema<number> => finite(label, 0, 1);

export const whole = (label: string, min: number, max: number): yup.NumberSchema<number> =>
  finite(label, min, max).integer(`${label} must be a whole number between ${min} and ${max}.`);

export const text = (label: string, max: number): yup.StringSchema<string> =>
  yup
    .string()
    .strict()
    .defined(`${label} is missing.`)
    .typeError(`${label} must be text.`)
    .max(max, `${label} is longer than ${max} characters: shorten it.`);

export const name = (label: string): yup.StringSchema<string> =>
  text(label, 120).test('not-blank', `${label} is empty: give it a name.`, (v) => (v ?? '').trim().length > 0);

export const id = (label: string): yup.StringSchema<string> =>
  text(label, 64).matches(/^[A-Za-z0-9_-]+$/, `${label} is not a valid id.`);

export const hash = (label: string): yup.StringSchema<string> =>
  text(label, 64).matches(/^[0-9a-f]{64}$/, `${label} is not the name of a stored file.`);

export const hex = (label: string): yup.StringSchema<string> =>
  text(label, 7).matches(/^#[0-9a-fA-F]{6}$/, `${label} must be a hex colour like #C98F6B.`);

export const flag = (label: string): yup.BooleanSchema<boolean> =>
  yup.boolean().strict().defined(`${label} must be on or off.`).nonNullable();

export const oneOf = <T extends string>(label: string, values: readonly T[]): yup.StringSchema =>
  yup
    .string()
    .strict()
    .required(`${label} is missing.`)
    .oneOf([...values], `${label} must be one of: ${values.join(', ')}.`);

export const list = (label: string, item: yup.AnySchema, max: number): yup.AnySchema =>
  yup.array().of(item).strict().defined(`${label} is missing.`).max(max, `${label} holds more than ${max} entries.`);

/** A fixed number of numbers. */
export const numbers = (label: string, count: number, min: number, max: number): yup.AnySchema =>
  yup
    .array()
    .of(finite(label, min, max))
    .strict()
    .defined(`${label} is missing.`)
    .test('length', `${label} must hold ${count} numbers.`, (v) => v?.length === count);

export const point = (label: string): yup.AnySchema => numbers(label, 3, -1000, 1000);

export const shape = (fields: Record<string, yup.AnySchema>): yup.AnySchema =>
  yup.object(fields).strict().noUnknown('This document has a field that is not known here: ${unknown}.').defined();
