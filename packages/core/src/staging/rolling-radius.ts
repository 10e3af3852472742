import type { ProductDocument, SetDocument } from '../document/index.ts';

/** Half the narrower of a product's two measures across, metres: what it rolls on when it lies. */
export function rollingRadius(set: SetDocument, products: ReadonlyMap<string, ProductDocument>, thing: string): number {
  const item = set.products.find((p) => p.id === thing);
  const product = item && products.get(item.product);
  if (!product) return 0.03;
  const [across, , deep] = product.extent;
  return Math.max(0.0001, (Math.min(across, deep) / 2) * product.scale * item.scale);
}
