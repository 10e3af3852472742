import {
  findTrack,
  propertyOf,
  readPosed,
  removeRule,
  replaceTracks,
  thingIndex,
  type Command,
  type Key,
  type Rule,
  type SetDocument,
  type ShotDocument,
  type Track,
} from '../document/index.ts';
import { allows, type PropertyValue } from '../properties/index.ts';
import { compileMoves } from './compile.ts';
import { expandMoves } from './expand.ts';

/** Makes a recipe into the keys, rules and paths that it stands for, to be changed one by one. */
export function dissolveRecipe(set: SetDocument, id: string): Command<ShotDocument> {
  return {
    label: 'Dissolve recipe into keys',
    run: (shot) => {
      const plain = JSON.parse(JSON.stringify(shot)) as ShotDocument;
      const { made, tracks } = expandMoves(set, plain);
      const moves = made.get(id);
      if (!moves) return;
      const others = expandMoves(set, { ...plain, recipes: plain.recipes.filter((r) => r.id !== id) });
      // Keys of other recipes on the same threads stay theirs.
      const fresh = moves.tracks.map((track): Track => {
        const own = findTrack(plain, track.thing, track.path);
        const now = tracks.find((t) => t.thing === track.thing && t.path === track.path)!;
        const theirs = others.tracks.find((t) => t.thing === track.thing && t.path === track.path);
        const mine = (k: Key): boolean =>
          track.keys.some((m) => m.frame === k.frame) || !theirs?.keys.some((o) => o.frame === k.frame);
        const ownFrames = new Set(own?.keys.map((k) => k.frame));
        return { ...now, keys: now.keys.filter((k) => ownFrames.has(k.frame) || mine(k)) };
      });
      shot.recipes = shot.recipes.filter((r) => r.id !== id);
      shot.rules.push(...moves.rules);
      shot.paths.push(...moves.paths);
      replaceTracks('', copied(fresh)).run(shot);
    },
  };
}

const copied = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** What a rule may change on a whole thing. */
const PLACE_PATHS = [
  ...['position.0', 'position.1', 'position.2', 'aim.0', 'aim.1', 'aim.2'],
  ...['turn', 'tilt', 'roll', 'scale', 'focalLength'],
] as const;

/**
 * Makes what a rule does into keys, one a frame of the shot, and takes the rule away. Rules of the same thing that act before
 * it are made into keys with it, since they cannot act on what comes of it.
 */
export function bakeRule(set: SetDocument, id: string): Command<ShotDocument> {
  return {
    label: 'Bake rule to keys',
    run: (shot) => {
      const plain = copied(shot) as ShotDocument;
      const rule = plain.rules.find((r) => r.id === id);
      if (!rule) return;
      const own = plain.rules.filter((r) => r.thing === rule.thing);
      const baked = own.slice(0, own.indexOf(rule) + 1).filter((r) => r.path === rule.path || r === rule);
      const later = new Set(own.filter((r) => !baked.includes(r)).map((r) => r.id));
      // Only what is baked acts while it is looked at; the recipes of the shot make the ground for it.
      const acting = { ...plain, rules: plain.rules.filter((r) => !later.has(r.id)) };
      replaceTracks('', bakedTracks(set, acting, rule)).run(shot);
      baked.forEach((r) => removeRule(r.id).run(shot));
    },
  };
}

function bakedTracks(set: SetDocument, shot: ShotDocument, { thing, path }: Rule): Track[] {
  const found = thingIndex(set).get(thing);
  const mover = compileMoves(set, shot).posers.get(thing);
  if (!found || !mover) return [];
  const wanted =
    path === 'position' || path === 'aim' ? [0, 1, 2].map((axis) => `${path}.${axis}`) : path ? [path] : PLACE_PATHS;
  return wanted.flatMap((name) => {
    const property = propertyOf(found, name);
    if (!property || readPosed(mover.at(0), name) === undefined) return [];
    const keys = Array.from({ length: shot.length + 1 }, (_, frame): Key => {
      const value = readPosed(mover.at(frame), name) as PropertyValue;
      return { frame, value, ease: 'linear' };
    });
    const moves = keys.some((k) => k.value !== keys[0].value);
    return keys.every((k) => allows(property, k.value)) && (moves || findTrack(shot, thing, name))
      ? [{ thing, path: name, keys: unwound(name, keys) }]
      : [];
  });
}

/** Angles from one frame to the next by the shorter way, as they came out of a rotation. */
function unwound(path: string, keys: Key[]): Key[] {
  if (path !== 'turn' && path !== 'tilt' && path !== 'roll') return keys;
  let by = 0;
  return keys.map((key, i) => {
    const value = key.value as number;
    if (i > 0) by -= Math.round((value - (keys[i - 1].value as number)) / 360) * 360;
    return { ...key, value: value + by };
  });
}
