import type { ArtLook, LabelSlot, ProductDocument, Variant } from './types.ts';

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
