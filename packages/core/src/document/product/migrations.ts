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

export const productMigrations: readonly Migration[] = [withArt];
