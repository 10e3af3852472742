import {
  OWN,
  propertiesOfThing,
  thingIndex,
  type PosedProduct,
  type SetDocument,
  type ShotDocument,
  type Track,
} from '../document/index.ts';
import { readProperty, type Property, type PropertyValue } from '../properties/index.ts';
import { compileMoves } from './compile.ts';

/**
 * Keys that hold everything as it stands at the end of a shot: with these another shot of the same set begins where this one
 * ends. One key at frame 0 for each value that is not as it rests in the set.
 */
export function lastPose(set: SetDocument, shot: ShotDocument): Track[] {
  const things = thingIndex(set);
  const tracks: Track[] = [];
  for (const [id, mover] of compileMoves(set, shot).posers) {
    const found = things.get(id);
    if (!found) continue;
    const [now, rest] = [mover.at(shot.length - 1), mover.thing];
    for (const path of pathsOf(propertiesOfThing(found), rest)) {
      const value = readProperty(now, path) as PropertyValue | undefined;
      if (value === undefined || value === readProperty(rest, path)) continue;
      tracks.push({ thing: id, path, keys: [{ frame: 0, value, ease: 'eased' }] });
    }
    for (const [name, value] of Object.entries((now as PosedProduct).own ?? {}))
      tracks.push({ thing: id, path: OWN + name, keys: [{ frame: 0, value, ease: 'eased' }] });
  }
  return tracks;
}

/** The paths of single values of a thing: places by their three numbers, items of lists by their ids. */
function pathsOf(properties: Readonly<Record<string, Property>>, thing: object): string[] {
  return Object.entries(properties).flatMap(([path, property]) =>
    everyOf(path, thing).flatMap((real) =>
      property.type === 'place' ? [0, 1, 2].map((axis) => `${real}.${axis}`) : [real],
    ),
  );
}

/** A path with its star, if it has one, put to each item of the list. */
function everyOf(path: string, thing: object): string[] {
  const at = path.indexOf('*');
  if (at < 0) return [path];
  const list = readProperty(thing, path.slice(0, at - 1));
  if (!Array.isArray(list)) return [];
  return (list as Array<{ id?: string }>).flatMap((item) =>
    item.id ? everyOf(`${path.slice(0, at)}${item.id}${path.slice(at + 1)}`, thing) : [],
  );
}
