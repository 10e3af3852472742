import { Problem } from '../problem/index.ts';
import type { DocumentKind } from './types.ts';

type Stored = Record<string, unknown>;

/** For each kind, the step from version n to n + 1 at index n - 1. */
const STEPS: Record<DocumentKind, Array<(old: Stored) => Stored>> = {
  campaign: [],
  product: [],
  set: [],
  shot: [],
  promo: [],
};

/** A stored document of any earlier version as one of the current version. Does not check it otherwise. */
export function migrate(kind: DocumentKind, stored: Stored): Stored {
  const steps = STEPS[kind];
  const from = typeof stored.version === 'number' ? stored.version : 1;
  if (from > steps.length + 1) {
    throw new Problem(
      'document/too-new',
      `This ${kind} was saved by a newer Tender Orbit (version ${from}): update first.`,
      kind,
    );
  }
  return steps.slice(from - 1).reduce((doc, step) => step(doc), stored);
}
