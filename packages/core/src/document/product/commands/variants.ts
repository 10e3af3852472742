import { shortened } from '../../../text/index.ts';
import type { ProductDocument, Variant } from '../types.ts';
import { command, type ProductCommand } from './edit-product.ts';

/** A copy of a variant under another id and the next number as its name. */
export function copyVariant(product: ProductDocument, from: string, id: string): Variant {
  const original = product.variants.find((v) => v.id === from) ?? product.variants[0];
  const { order: _order, ...copy } = JSON.parse(JSON.stringify(original)) as Variant;
  return { ...copy, id, name: `Variant ${product.variants.length + 1}` };
}

export function addVariant(variant: Variant): ProductCommand {
  return command('Add variant', ({ variants }) => void variants.push(variant));
}

export function renameVariant(id: string, name: string): ProductCommand {
  return command('Rename variant', ({ variants }) => {
    const variant = variants.find((v) => v.id === id);
    if (variant && name.trim()) variant.name = shortened(name.trim(), 120);
  });
}

/** A product keeps at least one variant: its last one stays. */
export function deleteVariant(id: string): ProductCommand {
  return command('Delete variant', (product) => {
    if (product.variants.length > 1) product.variants = product.variants.filter((v) => v.id !== id);
  });
}
