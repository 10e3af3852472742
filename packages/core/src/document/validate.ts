import * as yup from 'yup';
import { Problem } from '../problem/index.ts';
import { KINDS, type DocumentKind, type DocumentKinds } from './kinds.ts';
import { migrate } from './migrate.ts';

/**
 * Brings `input` to the current version and checks it.
 * @throws Problem `document/invalid` with the first thing wrong, by the name a person knows the field under.
 */
export function validateDocument<K extends DocumentKind>(kind: K, input: unknown): DocumentKinds[K] {
  if (typeof input !== 'object' || input === null || Array.isArray(input)) {
    throw new Problem('document/invalid', `The ${kind} is not a document.`, kind);
  }
  try {
    return KINDS[kind].schema.validateSync(migrate(kind, input), {
      strict: true,
      abortEarly: true,
    }) as DocumentKinds[K];
  } catch (error) {
    if (error instanceof yup.ValidationError)
      throw new Problem('document/invalid', error.errors[0], error.path || kind);
    throw error;
  }
}
