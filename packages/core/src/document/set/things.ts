import { propertyAt, type Properties, type Property } from '../../properties/index.ts';
import type { FieldGroup, ThingKindOf, ThingList, ThingRole } from './kind.ts';
import {
  block,
  camera,
  card,
  EFFECT_KINDS,
  environment,
  light,
  setNull,
  setProduct,
  sweep,
  type SetEffect,
} from './kinds/index.ts';
import type { SetDocument, SetSurface, SetThing } from './types.ts';

/** The lists of a set that hold things, by what the things are. */
export const LIST_OF: Record<Exclude<ThingRole, 'environment'>, ThingList> = {
  product: 'products',
  surface: 'surfaces',
  light: 'lights',
  camera: 'cameras',
  effect: 'effects',
  null: 'nulls',
};

const SURFACE_KINDS: { [K in SetSurface['kind']]: ThingKindOf<Extract<SetSurface, { kind: K }>> } = {
  sweep,
  card,
  block,
};

/** A thing of a set with what it is. */
export interface FoundThing {
  id: string;
  name: string;
  role: ThingRole;
  thing: SetThing;
}

/** Every thing in a set that has an id, and so can be selected and keyed. */
export function thingsOf(set: SetDocument): FoundThing[] {
  const found =
    (role: ThingRole) =>
    (thing: SetThing & { name: string }): FoundThing => ({
      id: thing.id,
      name: thing.name,
      role,
      thing,
    });
  return [
    ...set.products.map(found('product')),
    ...set.surfaces.map(found('surface')),
    ...set.lights.map(found('light')),
    { id: set.environment.id, name: 'Room', role: 'environment', thing: set.environment },
    ...set.cameras.map(found('camera')),
    ...set.effects.map(found('effect')),
    ...set.nulls.map(found('null')),
  ];
}

const indices = new WeakMap<SetDocument, ReadonlyMap<string, FoundThing>>();

/** The things of a set by id, found out once. Only for a set that no longer changes, as documents in hand are. */
export function thingIndex(set: SetDocument): ReadonlyMap<string, FoundThing> {
  let index = indices.get(set);
  if (!index) indices.set(set, (index = new Map(thingsOf(set).map((found) => [found.id, found]))));
  return index;
}

/** The thing of that id, or undefined when it is not in the set. */
export function findThing(set: SetDocument, id: string): FoundThing | undefined {
  if (id === set.environment.id) return { id, name: 'Room', role: 'environment', thing: set.environment };
  for (const [role, list] of Object.entries(LIST_OF) as Array<[ThingRole, ThingList]>) {
    const thing = (set[list] as Array<SetThing & { name: string }>).find((t) => t.id === id);
    if (thing) return { id, name: thing.name, role, thing };
  }
  return undefined;
}

/** What its kind knows of a thing. */
function kindOf({ role, thing }: Pick<FoundThing, 'role' | 'thing'>): ThingKindOf<SetThing> {
  if (role === 'effect') return EFFECT_KINDS[(thing as SetEffect).kind] as ThingKindOf<SetThing>;
  const kinds: Record<Exclude<ThingRole, 'surface' | 'effect'>, unknown> = {
    product: setProduct,
    light,
    environment,
    camera,
    null: setNull,
  };
  const kind = role === 'surface' ? SURFACE_KINDS[(thing as SetSurface).kind] : kinds[role];
  return kind as ThingKindOf<SetThing>;
}

/** All properties of a thing, by path. */
export function propertiesOfThing(found: Pick<FoundThing, 'role' | 'thing'>): Properties {
  return kindOf(found).properties(found.thing);
}

/** The property at a path of a thing, or undefined when its kind has none there. */
export function propertyOf(found: Pick<FoundThing, 'role' | 'thing'>, path: string): Property | undefined {
  return propertyAt(propertiesOfThing(found), path);
}

/** The fields that the details of a thing show, in order; groups that are empty are left out. */
export function fieldGroups(found: Pick<FoundThing, 'role' | 'thing'>): FieldGroup[] {
  return kindOf(found)
    .groups(found.thing)
    .map(({ title, paths }) => ({
      title,
      paths: paths.flatMap((path) =>
        propertyOf(found, path)?.type === 'place' ? [0, 1, 2].map((axis) => `${path}.${axis}`) : [path],
      ),
    }))
    .filter(({ paths }) => paths.length > 0);
}
