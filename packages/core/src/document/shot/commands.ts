import { shortened } from '../../text/index.ts';
import type { PropertyValue } from '../../properties/index.ts';
import type { Command } from '../edit.ts';
import { findTrack, keyAt, moveKey, removeKey, setKey } from './tracks.ts';
import type { Ease, EaseShape, LinkedEase } from './eases.ts';
import type { Keyed, ShotDocument, Track } from './types.ts';

type ShotCommand = Command<ShotDocument>;
type KeyCommand = Command<Keyed>;

/** A key by where it is. */
export interface KeyAddress {
  thing: string;
  path: string;
  frame: number;
}

export function renameShot(name: string): ShotCommand {
  return { label: 'Rename shot', run: (shot) => void (shot.name = shortened(name, 120)) };
}

/** Gives the shot another set; its moves go on with the things of the same ids. */
export function chooseSet(set: string): ShotCommand {
  return { label: 'Set of its own', run: (shot) => void (shot.set = set) };
}

export function chooseCamera(camera: string): ShotCommand {
  return { label: 'Choose camera', run: (shot) => void (shot.camera = camera) };
}

/** @param frames rounded to whole ones, one at least. */
export function changeLength(frames: number): ShotCommand {
  return { label: 'Change length', run: (shot) => void (shot.length = Math.max(1, Math.round(frames))) };
}

/** Sets the value of a property at a frame, making track and key as needed. */
export function keyValue({ thing, path, frame }: KeyAddress, value: PropertyValue, label: string): KeyCommand {
  return { label, run: (shot) => setKey(shot, thing, path, frame, value) };
}

/** Keys a property at a frame, or takes the key away that is there. */
export function toggleKey({ thing, path, frame }: KeyAddress, value: PropertyValue, property: string): KeyCommand {
  return {
    label: `Key ${property}`,
    run: (shot) => {
      if (keyAt(findTrack(shot, thing, path), frame)) removeKey(shot, thing, path, frame);
      else setKey(shot, thing, path, frame, value);
      dropUnlinked(shot);
    },
  };
}

/**
 * Moves keys by whole frames, each in its track; a key that is run over gives way. Keys that move together never run over
 * each other.
 */
export function moveKeys(keys: readonly KeyAddress[], by: number): KeyCommand {
  const ahead = [...keys].sort((a, b) => (by > 0 ? b.frame - a.frame : a.frame - b.frame));
  return {
    label: keys.length > 1 ? `Move ${keys.length} keys` : 'Move key',
    run: (shot) => {
      ahead.forEach((k) => moveKey(shot, k.thing, k.path, k.frame, k.frame + by));
      dropUnlinked(shot);
    },
  };
}

export function deleteKeys(keys: readonly KeyAddress[]): KeyCommand {
  return {
    label: keys.length > 1 ? `Delete ${keys.length} keys` : 'Delete key',
    run: (shot) => {
      keys.forEach((k) => removeKey(shot, k.thing, k.path, k.frame));
      dropUnlinked(shot);
    },
  };
}

/** Gives keys an ease, and so the spans after them. */
export function easeKeys(keys: readonly KeyAddress[], ease: Ease): KeyCommand {
  const name = typeof ease === 'string' ? ease : ease.kind;
  return {
    label: keys.length > 1 ? `Ease ${keys.length} keys, ${name}` : `Ease key, ${name}`,
    run: (shot) => {
      giveEase(shot, keys, ease);
      dropUnlinked(shot);
    },
  };
}

/** Makes an ease that keys share from now on. */
export function linkEase(keys: readonly KeyAddress[], linked: LinkedEase): ShotCommand {
  return {
    label: `Link ${keys.length} eases`,
    run: (shot) => {
      shot.eases.push(linked);
      giveEase(shot, keys, { kind: 'linked', id: linked.id });
      dropUnlinked(shot);
    },
  };
}

/** Changes a linked ease for all keys that have it. */
export function changeLinkedEase(id: string, values: Partial<{ name: string; ease: EaseShape }>): KeyCommand {
  return {
    label: 'Change linked ease',
    run: (shot) => {
      const linked = shot.eases.find((e) => e.id === id);
      if (linked) Object.assign(linked, values);
    },
  };
}

function giveEase(shot: Keyed, keys: readonly KeyAddress[], ease: Ease): void {
  for (const { thing, path, frame } of keys) {
    const key = keyAt(findTrack(shot, thing, path), frame);
    if (key) key.ease = ease;
  }
}

/** A linked ease goes with the last key or recipe that has it. Changes `shot` (an edit's draft). */
export function dropUnlinked(shot: Keyed & Partial<Pick<ShotDocument, 'recipes' | 'other'>>): void {
  const { other, recipes = [] } = shot;
  const tracks = [...shot.tracks, ...(other?.tracks ?? [])];
  const eases = [...tracks.flatMap(({ keys }) => keys), ...recipes, ...(other?.recipes ?? [])].map(({ ease }) => ease);
  const used = new Set(eases.flatMap((ease) => (typeof ease === 'object' && ease.kind === 'linked' ? [ease.id] : [])));
  if (shot.eases.some((e) => !used.has(e.id))) shot.eases = shot.eases.filter((e) => used.has(e.id));
}

/** Gives one key another value; does nothing where there is no key. */
export function changeKey({ thing, path, frame }: KeyAddress, value: PropertyValue): KeyCommand {
  return {
    label: 'Change key value',
    run: (shot) => {
      const key = keyAt(findTrack(shot, thing, path), frame);
      if (key) key.value = value;
    },
  };
}

/** Keys of the set's things, of rules and recipes: all but those of the composite's layers. */
export function movesIn({ tracks, layers }: Pick<ShotDocument, 'tracks' | 'layers'>): Track[] {
  return tracks.filter(({ thing }) => !layers.some(({ id }) => id === thing));
}

/** Takes all moves away; the composite keeps its keys. */
export function clearMoves(): ShotCommand {
  return {
    label: 'Clear all moves',
    run: (shot) => {
      const moves = movesIn(shot);
      shot.tracks = shot.tracks.filter((track) => !moves.includes(track));
      Object.assign(shot, { rules: [], recipes: [], paths: [] });
      dropUnlinked(shot);
    },
  };
}

/** Replaces the tracks of the same properties, keeps all others. */
export function replaceTracks(label: string, tracks: readonly Track[]): KeyCommand {
  const nameOf = ({ thing, path }: Track): string => `${thing} ${path}`;
  const made = new Set(tracks.map(nameOf));
  return {
    label,
    run: (shot) => {
      shot.tracks = [...shot.tracks.filter((t) => !made.has(nameOf(t))), ...tracks];
      dropUnlinked(shot);
    },
  };
}
