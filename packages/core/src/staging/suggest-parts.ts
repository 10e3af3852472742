import { PART_JOINT, type ProductDocument, type RecipeKind, type SetDocument } from '../document/index.ts';
import type { PropertyValue } from '../properties/index.ts';

/** What people call the part of a vessel that comes off, and that of a box that opens. */
const LIDS = /\b(lid|cap|cork|stopper|closure|top)\b/i;

/** The parts that are a product's lid, as an own path names them; empty when no name says so. */
export function lidOf({ parts }: Pick<ProductDocument, 'parts'>): string {
  return parts
    .filter(({ name }) => LIDS.test(name))
    .map(({ index }) => index)
    .join(PART_JOINT);
}

/** Why a recipe cannot be made here, in a sentence. */
export interface RecipeRefusal {
  refused: string;
}

type Measures = Record<string, PropertyValue>;

/** What recipes on parts of a product begin with, or why they cannot be made of it. */
export function partMeasures(
  kind: RecipeKind,
  size: number,
  things: readonly string[],
  { products: placed }: SetDocument,
  products: ReadonlyMap<string, ProductDocument>,
): { measures: Measures } | RecipeRefusal {
  const item = placed.find(({ id }) => id === things[0]);
  const product = products.get(item?.product ?? '');
  if (!product) return { measures: {} };
  const { builder, name } = product;
  const lid = lidOf(product);
  const last = String(product.parts.at(-1)?.index ?? '');
  if (kind === 'lid-off') {
    if (!lid && product.parts.length < 2)
      return { refused: `"${name}" is one part: a lid has to be a part of its own to come off.` };
    return { measures: { part: lid || last, height: Number((size * 0.7).toPrecision(2)) } };
  }
  if (kind === 'box-open') {
    if (builder?.kind === 'carton')
      return { measures: { part: '', closed: builder.open, angle: builder.open < 110 ? 110 : 0 } };
    if (!lid && product.parts.length < 2)
      return { refused: `"${name}" is one part: what opens has to be a part of its own.` };
    return { measures: { part: lid || last } };
  }
  if (kind === 'own-animation') {
    const [first] = product.origin?.animations ?? [];
    if (!first) return { refused: `The file of "${name}" holds no animation: bring a model that has one.` };
    return { measures: { animation: '0', from: 0, to: first.seconds } };
  }
  if (kind === 'fill-up') {
    if (builder?.kind !== 'turned' || builder.wall === 0 || builder.fill === 0)
      return { refused: `"${name}" holds no liquid: fill-up needs a built vessel with a fill level above zero.` };
    return { measures: { full: builder.fill } };
  }
  return { measures: {} };
}
