import type { Migration } from '../migration.ts';

/** Version 2: builders, art and variants. */
const withArt: Migration = (old) => ({
  builder: null,
  prepare: { unwraps: [], toBase: false, normals: false },
  sheets: [],
  slots: [],
  variants: [{ id: 'first', name: 'Standard', fills: [], finishes: [], hidden: [] }],
  ...old,
  version: 2,
});

/** Version 3: finishes have ids, by which parts and variants refer to them; an index that led nowhere stays so. */
const finishesById: Migration = (old) => {
  type Wears = { finish: number };
  const idOf = (index: number): string => `finish-${index + 1}`;
  const byId = <T extends Wears>(list: T[]): object[] => list.map((item) => ({ ...item, finish: idOf(item.finish) }));
  return {
    ...old,
    finishes: (old.finishes as object[]).map((finish, i) => ({ ...finish, id: idOf(i) })),
    parts: byId(old.parts as Wears[]),
    variants: (old.variants as Array<{ finishes: Wears[] }>).map((v) => ({ ...v, finishes: byId(v.finishes) })),
    version: 3,
  };
};

export const productMigrations: readonly Migration[] = [withArt, finishesById];
