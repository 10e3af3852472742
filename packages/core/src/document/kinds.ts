import type { CampaignDocument } from './campaign/index.ts';
import { campaignMigrations } from './campaign/migrations.ts';
import { campaignSchema } from './campaign/schema.ts';
import type { Field } from './fields.ts';
import type { Migration } from './migration.ts';
import type { ProductDocument } from './product/index.ts';
import { productMigrations } from './product/migrations.ts';
import { productSchema } from './product/schema.ts';
import type { PromoDocument } from './promo/index.ts';
import { promoMigrations } from './promo/migrations.ts';
import { promoSchema } from './promo/schema.ts';
import type { SetDocument } from './set/index.ts';
import { setMigrations } from './set/migrations.ts';
import { setSchema } from './set/schema.ts';
import type { ShotDocument } from './shot/index.ts';
import { shotMigrations } from './shot/migrations.ts';
import { shotSchema } from './shot/schema.ts';

export interface DocumentKinds {
  campaign: CampaignDocument;
  product: ProductDocument;
  set: SetDocument;
  shot: ShotDocument;
  promo: PromoDocument;
}

export type DocumentKind = keyof DocumentKinds;

/** What every kind of document is made of: the schema of its current version, and the steps that lead to it. */
export const KINDS: {
  [K in DocumentKind]: { schema: Field<DocumentKinds[K]>; migrations: readonly Migration[] };
} = {
  campaign: { schema: campaignSchema, migrations: campaignMigrations },
  product: { schema: productSchema, migrations: productMigrations },
  set: { schema: setSchema, migrations: setMigrations },
  shot: { schema: shotSchema, migrations: shotMigrations },
  promo: { schema: promoSchema, migrations: promoMigrations },
};

export const DOCUMENT_KINDS = Object.keys(KINDS) as readonly DocumentKind[];
