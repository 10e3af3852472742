import { hypot } from '../../../maths/index.ts';
import type { SetProduct } from '../kinds/index.ts';
import { copyOf, type SetCommand } from './things.ts';
import type { SetDocument } from '../types.ts';

const edit = (id: string, label: string, run: (item: SetProduct, set: SetDocument) => void): SetCommand => ({
  label,
  run: (set) => {
    const item = set.products.find((p) => p.id === id);
    if (item) run(item, set);
  },
});

/** Seats a product on what is under it, or lets go of that. */
export function seatProduct(id: string, seated: boolean): SetCommand {
  return edit(id, seated ? 'Seat on the floor' : 'Let go of the floor', (item) => {
    item.seated = seated;
    if (seated) item.position[1] = 0;
  });
}

/** Stands a product on another thing; empty is the floor. It comes over a body, unless it is over it already. */
export function standOn(id: string, ground: string): SetCommand {
  return edit(id, 'Stand on another thing', (item, set) => {
    item.standsOn = ground;
    const body = set.surfaces.find((s) => s.id === ground);
    if (!body || !('position' in body)) return;
    const [x, y, z] = item.position;
    if (hypot(body.position[0] - x, body.position[2] - z) > body.width / 2)
      item.position = [body.position[0], y, body.position[2]];
  });
}

export function chooseVariant(id: string, variant: string): SetCommand {
  return edit(id, 'Choose variant', (item) => void (item.variant = variant));
}

/** Another product for one that stands on a set. */
export interface Replacement {
  /** Id of the product that comes. */
  product: string;
  name: string;
  /** The variants that it has: an item keeps its variant where the other has one of the same name. */
  variant: (name: string) => string;
  /** How much larger an item is drawn than before, so that it has the old one's size; 1 keeps real sizes. */
  grow: number;
}

/**
 * Puts another product in the place of some: place, turn, name in the list and what is linked to it stay, and so do
 * moves, lights and cuts, which go by the item's id.
 * @param items ids, or the product that is replaced wherever it stands. @param variantName name of an item's variant now.
 */
export function replaceItems(
  items: readonly string[] | { of: string },
  replacement: Replacement,
  variantName: (item: SetProduct) => string,
): SetCommand {
  const { product, variant, grow } = replacement;
  const meant = (item: SetProduct): boolean => ('of' in items ? item.product === items.of : items.includes(item.id));
  return {
    label: `Replace by ${replacement.name}`,
    run: (set) => {
      for (const item of set.products.filter(meant)) {
        item.variant = variant(variantName(item));
        item.product = product;
        item.scale *= grow;
      }
    },
  };
}

/** Where copies of a product stand: one entry for each copy. */
export interface CopyPlace extends Pick<SetProduct, 'position' | 'turn' | 'scale'> {
  id: string;
}

/** Adds copies of a product at other places. */
export function repeatProduct(id: string, copies: readonly CopyPlace[], name: string): SetCommand {
  return edit(id, `Repeat ${name}`, (item, set) => {
    for (const { id: copy, position, turn, scale } of copies)
      set.products.push({ ...copyOf(item, copy, set.products), position, turn, scale });
  });
}
