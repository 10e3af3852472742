import { shortened } from '../../../text/index.ts';
import type { MaskStroke } from '../../../finish/index.ts';
import { newSlot, plainLook } from '../defaults.ts';
import type { LabelSlot, Sheet, SlotFill } from '../types.ts';
import { command, type ProductCommand } from './edit-product.ts';

/** Takes a picture in as art. */
export function addSheet(sheet: Sheet): ProductCommand {
  return command(`Add art "${sheet.name}"`, ({ sheets }) => void sheets.push(sheet));
}

/** Adds a label slot to a part, under a name of its own. */
export function addSlot(id: string, part: { index: number; name: string }, values: Partial<LabelSlot>): ProductCommand {
  return command('Add label slot', ({ slots }) => {
    const base = `${part.name || 'Part'} label`;
    const taken = slots.map((s) => s.name);
    let name = shortened(base, 100);
    for (let n = 2; taken.includes(name); n++) name = shortened(`${base} ${n}`, 110);
    slots.push(newSlot(id, name, part.index, values));
  });
}

export function changeSlot(id: string, label: string, values: Partial<Omit<LabelSlot, 'id'>>): ProductCommand {
  return command(label, ({ slots }) => void Object.assign(slots.find((s) => s.id === id) ?? {}, values));
}

/** Takes a slot away with what fills it in every variant. */
export function deleteSlot(id: string): ProductCommand {
  return command('Delete label slot', (product) => {
    product.slots = product.slots.filter((s) => s.id !== id);
    for (const variant of product.variants) variant.fills = variant.fills.filter((f) => f.slot !== id);
  });
}

/** Paints one stroke of the mask of a slot's art. */
export function paintMask(id: string, stroke: MaskStroke): ProductCommand {
  return command(stroke.hide ? 'Rub out art' : 'Bring art back', ({ slots }) => {
    const slot = slots.find((s) => s.id === id);
    if (slot) slot.mask = [...(slot.mask ?? []), stroke];
  });
}

/** Puts a sheet into a slot of a variant, or changes how it looks there; an empty sheet takes it out. */
export function fillSlot(
  variant: string,
  slot: string,
  values: Partial<Omit<SlotFill, 'slot'>>,
  label = 'Change label art',
): ProductCommand {
  return command(label, ({ variants }) => {
    const target = variants.find((v) => v.id === variant);
    if (!target) return;
    const known = target.fills.find((f) => f.slot === slot);
    if (known) Object.assign(known, values);
    else target.fills.push({ slot, sheet: '', look: plainLook(), ...values });
    target.fills = target.fills.filter((f) => f.sheet !== '');
  });
}
