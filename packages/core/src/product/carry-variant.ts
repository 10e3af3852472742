import { shortened } from '../text/index.ts';
import {
  findFinish,
  finishIdOf,
  sameFinish,
  type LabelSlot,
  type ProductDocument,
  type Sheet,
  type Variant,
} from '../document/index.ts';
import type { Finish } from '../finish/index.ts';
import { variantOf } from './shown-parts.ts';

/** What carrying a variant over could not find a place for. */
export interface Carried {
  product: ProductDocument;
  /** Names of parts and slots that the other product does not have. */
  left: string[];
}

/**
 * Another product with a copy of a variant: its finishes on the parts of the same name, its art in the slots of the same
 * name (a slot is brought along when the part it lies on is there), parts hidden that are hidden in it.
 * @param fresh makes ids that `to` does not have yet.
 */
export function carryVariant(
  from: ProductDocument,
  variantId: string,
  to: ProductDocument,
  fresh: (kind: string) => string,
): Carried {
  const variant = variantOf(from, variantId);
  const product = JSON.parse(JSON.stringify(to)) as ProductDocument;
  const left: string[] = [];
  const nameOf = (part: number): string => from.parts.find((p) => p.index === part)?.name ?? '';
  const partOf = (part: number): number | undefined => product.parts.find((p) => p.name === nameOf(part))?.index;
  const made: Variant = {
    id: fresh('variant'),
    name: freeName(variant.name, product),
    fills: [],
    finishes: [],
    hidden: [],
  };

  for (const part of from.parts) {
    const at = partOf(part.index);
    if (at === undefined) {
      left.push(part.name);
      continue;
    }
    const finishBefore = findFinish(from, finishIdOf(part, variant));
    const finish = finishBefore && (from.model === to.model ? finishBefore : withoutOwnImages(finishBefore));
    if (finish) made.finishes.push({ part: at, finish: finishIn(product, finish, fresh) });
    if (!part.visible || variant.hidden.includes(part.index)) made.hidden.push(at);
  }
  for (const fill of variant.fills) {
    const slot = from.slots.find((s) => s.id === fill.slot);
    const sheet = from.sheets.find((s) => s.id === fill.sheet);
    if (!slot || !sheet) continue;
    const at = partOf(slot.part);
    const known =
      product.slots.find((s) => s.name === slot.name) ?? (at !== undefined && bring(product, slot, at, fresh));
    if (!known) {
      left.push(slot.name);
      continue;
    }
    made.fills.push({ ...JSON.parse(JSON.stringify(fill)), slot: known.id, sheet: sheetIn(product, sheet, fresh) });
  }
  product.variants.push(made);
  return { product, left };
}

function freeName(name: string, { variants }: ProductDocument): string {
  let free = name;
  for (let n = 2; variants.some((v) => v.name === free); n++) free = shortened(`${name} ${n}`, 120);
  return free;
}

/** A finish without the pictures of its own model file, which another model does not have. */
function withoutOwnImages(finish: Finish): Finish {
  const kept = Object.entries(finish.textures).filter(([, use]) => use?.picture);
  return { ...finish, textures: Object.fromEntries(kept) };
}

/** Id of the product's finish that looks like this one; it gets one when it has none. */
function finishIn(product: ProductDocument, finish: Finish, fresh: (kind: string) => string): string {
  const known = sameFinish(product, finish);
  if (known) return known.id;
  const made = { ...(JSON.parse(JSON.stringify(finish)) as Finish), id: fresh('finish') };
  product.finishes.push(made);
  return made.id;
}

function bring(product: ProductDocument, slot: LabelSlot, part: number, fresh: (kind: string) => string): LabelSlot {
  const made = { ...(JSON.parse(JSON.stringify(slot)) as LabelSlot), id: fresh('slot'), part };
  product.slots.push(made);
  return made;
}

function sheetIn(product: ProductDocument, sheet: Sheet, fresh: (kind: string) => string): string {
  const text = JSON.stringify([sheet.picture, sheet.film]);
  const known = product.sheets.find((s) => JSON.stringify([s.picture, s.film]) === text);
  if (known) return known.id;
  const made = { ...(JSON.parse(JSON.stringify(sheet)) as Sheet), id: fresh('sheet') };
  product.sheets.push(made);
  return made.id;
}
