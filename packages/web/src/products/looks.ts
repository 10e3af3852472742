import type { ProductDocument } from '@tender-orbit/core/document';
import { modelKey, variantOf } from '@tender-orbit/core/product';
import type { Finish } from '@tender-orbit/core/finish';
import { modelOf } from '../viewer/models.ts';
import { ballTableau, productTableau } from './product-tableau.ts';
import { stillOf } from './stills.ts';

const BALL = { width: 72, height: 72, samples: 24 };

/** A finish on a lit ball. */
export function ballOf(finish: Finish): string | null {
  const look = { ...finish, name: '', id: '' };
  return stillOf(`ball ${JSON.stringify(look)}`, BALL, () => ballTableau(finish));
}

/** A product in one of its variants, small. */
export function variantPicture(product: ProductDocument, variant: string, side: number): string | null {
  const { builder, model, prepare, scale, parts, finishes, sheets, slots } = product;
  const key = JSON.stringify([
    builder,
    model,
    prepare,
    scale,
    parts,
    finishes,
    sheets,
    slots,
    variantOf(product, variant),
  ]);
  return stillOf(`product ${key}`, { width: side, height: side, samples: 20 }, () => {
    const loaded = modelOf(modelKey(product));
    return loaded ? productTableau(product, loaded.meshes, 1, { variant, margin: -0.05 }) : null;
  });
}
