import type { Finish } from '../../finish/index.ts';
import type { ArtLook, LabelSlot, ProductDocument, ProductFinish, ProductPart, Variant } from './types.ts';

export function plainLook(): ArtLook {
  return { black: 0, white: 1, invert: false, tint: '#FFFFFF' };
}

export function newVariant(id: string, name: string): Variant {
  return { id, name, fills: [], finishes: [], hidden: [] };
}

/** A slot that covers a part by its own uv. */
export function newSlot(id: string, name: string, part: number, values: Partial<LabelSlot> = {}): LabelSlot {
  return {
    ...{ id, name, part, projection: 'uv', centre: [0, 0.05, 0], turn: 0, roll: 0, width: 0.06, height: 0.04 },
    ...{ corner: 0, offset: [0, 0], repeat: [1, 1], rotation: 0, colour: true, roughness: -1, emboss: 0 },
    ...values,
  };
}

/** What a product has besides its model: no art yet and one variant. */
export function plainProduct(): Pick<ProductDocument, 'builder' | 'prepare' | 'sheets' | 'slots' | 'variants'> {
  const prepare = { unwraps: [], toBase: false, normals: false };
  return { builder: null, prepare, sheets: [], slots: [], variants: [newVariant('first', 'Standard')] };
}

/** The finishes of a product that has just been read or made, with ids in their order. */
export function productFinishes(finishes: readonly Finish[]): ProductFinish[] {
  return finishes.map((finish, i) => ({ ...finish, id: `finish-${i + 1}` }));
}

/** Id of the finish that a part has in a variant: its own when the variant says nothing of it. */
export function finishIdOf(part: ProductPart, variant: Variant | undefined): string {
  return variant?.finishes.find((f) => f.part === part.index)?.finish ?? part.finish;
}

/** The finish of the product with this id, if it has one. */
export function findFinish({ finishes }: Pick<ProductDocument, 'finishes'>, id: string): ProductFinish | undefined {
  return finishes.find((f) => f.id === id);
}

/** The product's finish that looks the same and has the same name, if it has one. */
export function sameFinish(
  { finishes }: Pick<ProductDocument, 'finishes'>,
  finish: Finish & Partial<ProductFinish>,
): ProductFinish | undefined {
  const look = lookOf(finish);
  return finishes.find((f) => lookOf(f) === look);
}

const lookOf = (finish: Finish & Partial<ProductFinish>): string =>
  JSON.stringify({ ...finish, id: undefined, order: undefined });
