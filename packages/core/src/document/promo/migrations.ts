import type { Migration } from '../migration.ts';

export const promoMigrations: readonly Migration[] = [];
