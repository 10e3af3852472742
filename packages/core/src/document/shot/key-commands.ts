import type { PropertyValue } from '../../properties/index.ts';
import type { Command } from '../edit.ts';
import { dropUnlinked, type KeyAddress } from './commands.ts';
import type { Ease } from './eases.ts';
import { findTrack, keyAt, removeKey } from './tracks.ts';
import type { Key, ShotDocument, Track } from './types.ts';

type ShotCommand = Command<ShotDocument>;

/** Keys taken from a shot, on the threads that they were on; frames count from the first of them. */
export interface KeyClip {
  tracks: Track[];
  /** Frames from the first key to the last. */
  length: number;
}

const copied = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const many = (count: number): string => (count === 1 ? 'key' : `${count} keys`);
const nameOf = ({ thing, path }: Pick<Track, 'thing' | 'path'>): string => `${thing} ${path}`;

/** What of a shot the addresses tell, to be put elsewhere. */
export function takeKeys(shot: ShotDocument, keys: readonly KeyAddress[]): KeyClip {
  const first = Math.min(...keys.map((k) => k.frame));
  const tracks = new Map<string, Track>();
  for (const address of keys) {
    const key = keyAt(findTrack(shot, address.thing, address.path), address.frame);
    if (!key) continue;
    const track = tracks.get(nameOf(address)) ?? { thing: address.thing, path: address.path, keys: [] };
    tracks.set(nameOf(address), track);
    track.keys.push({ ...copied(key), frame: key.frame - first });
  }
  for (const track of tracks.values()) track.keys.sort((a, b) => a.frame - b.frame);
  const length = keys.length > 0 ? Math.max(...keys.map((k) => k.frame)) - first : 0;
  return { tracks: [...tracks.values()], length };
}

/** Puts keys on their threads from a frame on; keys that are there give way. Changes `shot`. */
function putKeys(shot: ShotDocument, tracks: readonly Track[], at: number): void {
  for (const { thing, path, keys } of tracks) {
    let track = findTrack(shot, thing, path);
    if (!track) {
      shot.tracks.push({ thing, path, keys: [] });
      track = shot.tracks[shot.tracks.length - 1];
    }
    const fresh = keys.map((key): Key => ({ ...copied(key), frame: key.frame + at }));
    const taken = new Set(fresh.map((k) => k.frame));
    // Values of another type cannot stand on one thread with those that are there.
    const alike = track.keys.every((k) => typeof k.value === typeof fresh[0]?.value);
    if (alike)
      track.keys = [...track.keys.filter((k) => !taken.has(k.frame)), ...fresh].sort((a, b) => a.frame - b.frame);
  }
}

/** @returns where the keys of a clip lie once they are pasted. */
export function pastedAt(clip: KeyClip, at: number): KeyAddress[] {
  return clip.tracks.flatMap(({ thing, path, keys }) => keys.map(({ frame }) => ({ thing, path, frame: frame + at })));
}

export function pasteKeys(clip: KeyClip, at: number): ShotCommand {
  const count = clip.tracks.reduce((sum, t) => sum + t.keys.length, 0);
  return { label: `Paste ${many(count)}`, run: (shot) => putKeys(shot, clip.tracks, at) };
}

/** Gives keys other frames, all at once. @param to the frame that a key at `frame` goes to. */
function reframe(label: string, keys: readonly KeyAddress[], to: (frame: number) => number): ShotCommand {
  return {
    label,
    run: (shot) => {
      const first = Math.min(...keys.map((k) => k.frame));
      const { tracks } = takeKeys(shot, keys);
      keys.forEach((k) => removeKey(shot, k.thing, k.path, k.frame));
      const moved = tracks.map((t) => ({ ...t, keys: t.keys.map((k) => ({ ...k, frame: to(k.frame + first) })) }));
      putKeys(shot, moved, 0);
      dropUnlinked(shot);
    },
  };
}

/** Where stretched keys come to lie: whole frames, no two of a thread on one. */
export function stretched(frame: number, about: number, factor: number): number {
  return Math.round(about + (frame - about) * factor);
}

/** Brings keys closer together or farther apart about a frame. */
export function stretchKeys(keys: readonly KeyAddress[], about: number, factor: number): ShotCommand {
  return reframe(`Stretch ${many(keys.length)}`, keys, (frame) => stretched(frame, about, factor));
}

/** Gives keys the frames that a map has for theirs; those that it does not name stay. */
export function retimeKeys(
  keys: readonly KeyAddress[],
  frames: ReadonlyMap<number, number>,
  label: string,
): ShotCommand {
  return reframe(label, keys, (frame) => frames.get(frame) ?? frame);
}

/** An ease as it is the other way round, where it has one. */
function backwards(ease: Ease): Ease {
  if (typeof ease === 'string') return ease;
  if (ease.kind === 'soft') return { ...ease, start: ease.landing, landing: ease.start };
  if (ease.kind === 'bezier')
    return { ...ease, out: [1 - ease.in[0], 1 - ease.in[1]], in: [1 - ease.out[0], 1 - ease.out[1]] };
  return ease;
}

/** The last key becomes the first: the move runs backwards in the same time, its eases turned round. */
export function reverseKeys(keys: readonly KeyAddress[]): ShotCommand {
  const frames = keys.map((k) => k.frame);
  const sum = Math.min(...frames) + Math.max(...frames);
  return {
    label: `Reverse ${many(keys.length)}`,
    run: (shot) => {
      const { tracks } = takeKeys(shot, keys);
      const first = Math.min(...frames);
      keys.forEach((k) => removeKey(shot, k.thing, k.path, k.frame));
      const turned = tracks.map(({ keys: old, ...track }) => ({
        ...track,
        keys: old
          .map((key, i) => ({ ...key, frame: sum - key.frame - first, ease: backwards(old[i - 1]?.ease ?? key.ease) }))
          .reverse(),
      }));
      putKeys(shot, turned, 0);
      dropUnlinked(shot);
    },
  };
}

/** Numbers go as far to the other side of the first chosen key of their thread. */
export function mirrorKeys(keys: readonly KeyAddress[]): ShotCommand {
  const mirrored = (value: PropertyValue, about: PropertyValue): PropertyValue => {
    if (typeof value === 'number') return 2 * (about as number) - value;
    return Array.isArray(value) ? value.map((v, i) => 2 * (about as number[])[i] - v) : value;
  };
  return {
    label: `Mirror ${many(keys.length)}`,
    run: (shot) => {
      const first = Math.min(...keys.map((k) => k.frame));
      for (const track of takeKeys(shot, keys).tracks)
        for (const { frame, value } of track.keys) {
          const key = keyAt(findTrack(shot, track.thing, track.path), frame + first);
          if (key) key.value = mirrored(value, track.keys[0].value);
        }
    },
  };
}

/** Copies a thing's keys of some properties to other things; keys of theirs on these properties go. */
export function copyMotion(from: string, to: readonly string[], paths: readonly string[]): ShotCommand {
  return {
    label: 'Copy motion',
    run: (shot) => {
      const own = shot.tracks.filter((t) => t.thing === from && paths.includes(t.path));
      for (const thing of to) {
        if (thing === from) continue;
        shot.tracks = shot.tracks.filter((t) => t.thing !== thing || !paths.includes(t.path));
        shot.tracks.push(...own.map((track) => ({ ...copied(track), thing })));
      }
      dropUnlinked(shot);
    },
  };
}

/** Takes the keys of some properties from things. */
export function removeMotion(things: readonly string[], paths: readonly string[]): ShotCommand {
  return {
    label: 'Remove motion',
    run: (shot) => {
      shot.tracks = shot.tracks.filter((t) => !things.includes(t.thing) || !paths.includes(t.path));
      dropUnlinked(shot);
    },
  };
}

/** The nearest frame with a key before or after a frame, of some things or of all; null where there is none. */
export function nextKey(shot: ShotDocument, frame: number, way: 1 | -1, things: readonly string[] = []): number | null {
  const frames = shot.tracks
    .filter((t) => things.length === 0 || things.includes(t.thing))
    .flatMap((t) => t.keys.map((k) => k.frame))
    .filter((f) => (f - frame) * way > 1e-6);
  if (frames.length === 0) return null;
  return way > 0 ? Math.min(...frames) : Math.max(...frames);
}
