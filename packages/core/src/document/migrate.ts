import { Problem } from '../problem/index.ts';
import { KINDS, type DocumentKind, type DocumentKinds } from './kinds.ts';
import type { Stored } from './migration.ts';

/**
 * A stored document of any earlier version as one of the current version. Does not check it otherwise.
 * @throws Problem `document/too-new` for a version that is not known here.
 */
export function migrate<K extends DocumentKind>(kind: K, stored: object): DocumentKinds[K] {
  const { migrations } = KINDS[kind];
  const { version } = stored as Stored;
  const from = typeof version === 'number' ? version : 1;
  if (from > migrations.length + 1) {
    throw new Problem(
      'document/too-new',
      `This ${kind} was saved by a newer Tender Orbit (version ${from}): update first.`,
      kind,
    );
  }
  return migrations.slice(from - 1).reduce((doc, step) => step(doc), stored as Stored) as unknown as DocumentKinds[K];
}
