import { Problem } from '../problem/index.ts';
import { newCamera, newSweep, plainLight, plainRoom, seenByAll } from './defaults.ts';
import { plainProduct } from './product-defaults.ts';
import type { DocumentKind } from './types.ts';

type Stored = Record<string, unknown>;

/** Version 2 of a set: light shapes and controls, what sees what, lens and shutter; all as they were before by default. */
function richerSet(old: Stored): Stored {
  const each = (key: string, values: () => Stored): Stored[] =>
    ((old[key] as Stored[] | undefined) ?? []).map((thing) => ({ ...values(), ...thing }));
  const { focusOn, blades, shiftX, shiftY } = newCamera('', '');
  return {
    ...old,
    version: 2,
    products: each('products', () => ({ seenBy: seenByAll() })),
    surfaces: each('surfaces', () => ({ seenBy: seenByAll(), mirror: newSweep().mirror, catcher: false })),
    lights: each('lights', () => ({ ...plainLight() })),
    environment: { ...(old.environment as Stored), seen: true },
    // Takes made before had no motion blur: they stay as they were.
    cameras: each('cameras', () => ({ focusOn, blades, shiftX, shiftY, shutter: 0 })),
    view: 'neutral',
  };
}

/** Version 2 of a product: builders, art and variants. */
function artProduct(old: Stored): Stored {
  return { ...plainProduct(), ...old, version: 2 };
}

/** Version 3 of a set: variants, whole finishes on surfaces, what stands on what, groups, rooms. */
function stagedSet(old: Stored): Stored {
  const each = (key: string, values: Stored): Stored[] =>
    ((old[key] as Stored[] | undefined) ?? []).map((thing) => ({ ...values, ...thing }));
  const held = { group: '', locked: false };
  return {
    ...old,
    version: 3,
    products: each('products', { ...held, variant: '', standsOn: '', scale: 1 }),
    surfaces: each('surfaces', { ...held, finish: null }),
    lights: each('lights', { ...held, mark: plainLight().mark }),
    environment: { room: plainRoom(), ...(old.environment as Stored) },
  };
}

/** For each kind, the step from version n to n + 1 at index n - 1. */
const STEPS: Record<DocumentKind, Array<(old: Stored) => Stored>> = {
  campaign: [(old) => ({ kits: [], ...old, version: 2 })],
  product: [artProduct],
  set: [richerSet, stagedSet],
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
