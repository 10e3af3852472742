import { shortened } from '../../../text/index.ts';
import { writeProperty, type PropertyValue } from '../../../properties/index.ts';
import type { Command } from '../../edit.ts';
import type { ThingList, ThingRole } from '../kind.ts';
import { freshName, namesOf } from '../names.ts';
import type { Arranged } from '../parts.ts';
import { findThing, LIST_OF } from '../things.ts';
import type { SetDocument, SetThing } from '../types.ts';

export type SetCommand = Command<SetDocument>;
type Named = SetThing & { name: string; order?: string };

const listOf = (set: SetDocument, list: ThingList): Named[] => set[list] as Named[];

/** Gives properties of a thing other values. Paths that the thing does not have are passed over. */
export function setProperties(id: string, values: Readonly<Record<string, PropertyValue>>, label: string): SetCommand {
  return {
    label,
    run: (set) => {
      const found = findThing(set, id);
      if (found) for (const [path, value] of Object.entries(values)) writeProperty(found.thing, path, value);
    },
  };
}

/** Puts a thing into a list of the set; nothing when its id is taken, so that things stay addressable by their ids. */
export function addThing<L extends ThingList>(list: L, thing: SetDocument[L][number], label: string): SetCommand {
  return addThings(list, [thing], label);
}

/** Puts things into the set as one step; those that are there already stay as they are. */
export function addThings<L extends ThingList>(
  list: L,
  things: ReadonlyArray<SetDocument[L][number]>,
  label: string,
): SetCommand {
  return {
    label,
    run: (set) => {
      for (const thing of things) if (!findThing(set, thing.id)) listOf(set, list).push(thing as Named);
    },
  };
}

/** Takes a thing out of the set. The room stays, and so does the last camera. */
export function deleteThing(id: string): SetCommand {
  return {
    label: 'Delete from the set',
    run: (set) => {
      const found = findThing(set, id);
      if (!found || found.role === 'environment') return;
      const list = listOf(set, LIST_OF[found.role]);
      if (found.role === 'camera' && list.length < 2) return;
      list.splice(
        list.findIndex((t) => t.id === id),
        1,
      );
    },
  };
}

/** A copy of a thing, without its place in the list. */
export function copyOf<T extends Named>(thing: T, id: string, taken: readonly Named[]): T {
  const { order: _order, ...copy } = JSON.parse(JSON.stringify(thing)) as T;
  return { ...copy, id, name: freshName(namesOf(taken), thing.name) } as unknown as T;
}

/** Puts a copy of a thing beside it, under the id `copy`; nothing when that id is taken. */
export function duplicateThing(id: string, copy: string): SetCommand {
  return {
    label: 'Duplicate',
    run: (set) => {
      const found = findThing(set, id);
      if (!found || found.role === 'environment' || findThing(set, copy)) return;
      const list = listOf(set, LIST_OF[found.role]);
      const made = copyOf(found.thing as Named, copy, list) as Named & { position?: number[] };
      if (made.position) made.position[0] += 0.1;
      list.push(made);
    },
  };
}

export function renameThing(id: string, name: string): SetCommand {
  return {
    label: 'Rename',
    run: (set) => {
      const found = findThing(set, id);
      if (found && found.role !== 'environment' && name.trim() !== '')
        (found.thing as Named).name = shortened(name.trim(), 120);
    },
  };
}

/** Puts the things of a list into the order of `ids`; those that it does not name keep theirs behind. */
export function orderThings(list: ThingList, ids: readonly string[]): SetCommand {
  return {
    label: 'Change the order',
    run: (set) => {
      const rank = new Map(ids.map((id, i) => [id, i]));
      listOf(set, list).sort((a, b) => (rank.get(a.id) ?? ids.length) - (rank.get(b.id) ?? ids.length));
    },
  };
}

/** Groups or locks things; cameras, nulls and the room are neither. */
export function arrange(ids: readonly string[], label: string, values: Partial<Arranged>): SetCommand {
  return {
    label,
    run: (set) => {
      for (const thing of [...set.products, ...set.surfaces, ...set.lights, ...set.effects])
        if (ids.includes(thing.id)) Object.assign(thing, values);
    },
  };
}

/** What of a thing shows it or hides it. */
export const SHOWN_BY: Record<ThingRole, string> = {
  product: 'visible',
  surface: 'visible',
  light: 'on',
  environment: 'seen',
  camera: '',
  effect: 'visible',
  null: '',
};

/** Shows or hides a thing; a light goes on or off. */
export function showThing(id: string, shown: boolean): SetCommand {
  return {
    label: shown ? 'Show' : 'Hide',
    run: (set) => {
      const found = findThing(set, id);
      if (found) writeProperty(found.thing, SHOWN_BY[found.role], shown);
    },
  };
}
