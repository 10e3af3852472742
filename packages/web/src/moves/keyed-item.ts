import {
  findThing,
  pathProperty,
  propertyOf,
  RULES,
  type SetDocument,
  type ShotDocument,
} from '@tender-orbit/core/document';
import type { Property } from '@tender-orbit/core/properties';

/** What a track keys: of a thing of the set, of a rule or of a path. */
export interface KeyedItem {
  /** Of the thing, rule or path; empty for one that is gone. */
  name: string;
  /** Which point of a path. */
  part: string;
  property: Property | undefined;
}

export function keyedItem(set: SetDocument, shot: ShotDocument, thing: string, path: string): KeyedItem {
  const rule = shot.rules.find((r) => r.id === thing);
  if (rule) return { name: rule.name, part: '', property: RULES[rule.kind].properties[path] };
  const way = shot.paths.find((p) => p.id === thing);
  if (way) {
    const index = way.points.findIndex(({ id }) => id === path.split('.')[1]);
    const part = index < 0 ? 'deleted point' : `point ${index + 1}`;
    return { name: way.name, part, property: index < 0 ? undefined : pathProperty(path) };
  }
  const found = findThing(set, thing);
  return { name: found?.name ?? '', part: '', property: found && propertyOf(found, path) };
}
