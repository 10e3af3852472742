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
    const block = set.surfaces.find((s) => s.id === ground);
    if (block?.kind !== 'block') return;
    const [x, y, z] = item.position;
    if (hypot(block.position[0] - x, block.position[2] - z) > block.width / 2)
      item.position = [block.position[0], y, block.position[2]];
  });
}

export function chooseVariant(id: string, variant: string): SetCommand {
  return edit(id, 'Choose variant', (item) => void (item.variant = variant));
}

/** Puts another product in the place of one. */
export function swapProduct(id: string, product: string): SetCommand {
  return edit(id, 'Swap product', (item) => void Object.assign(item, { product, variant: '' }));
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
