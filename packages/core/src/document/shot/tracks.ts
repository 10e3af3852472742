import type { PropertyValue } from '../../properties/index.ts';
import type { Ease } from './eases.ts';
import type { Key, Keyed, ShotDocument, Track } from './types.ts';

type Tracks = Pick<Keyed, 'tracks'>;

/** Two keys closer than this many frames are the same key. */
const SAME_FRAME = 1e-6;

export function findTrack(shot: Tracks, thing: string, path: string): Track | undefined {
  return shot.tracks.find((t) => t.thing === thing && t.path === path);
}

export function keyAt(track: Track | undefined, frame: number): Key | undefined {
  return track?.keys.find((k) => Math.abs(k.frame - frame) < SAME_FRAME);
}

/** Whether a track's keys hold numbers. */
export function isNumeric(track: Track | undefined): track is Track<number> {
  return track !== undefined && track.keys.every((k) => typeof k.value === 'number');
}

/** Sets the value at `frame`, making track and key as needed; keys stay in order. Changes `shot` (an edit's draft). */
export function setKey(
  shot: Tracks,
  thing: string,
  path: string,
  frame: number,
  value: PropertyValue,
  ease: Ease = 'eased',
): void {
  let track = findTrack(shot, thing, path);
  if (!track) {
    shot.tracks.push({ thing, path, keys: [] });
    track = shot.tracks[shot.tracks.length - 1];
  }
  const existing = keyAt(track, frame);
  if (existing) {
    existing.value = value;
    return;
  }
  track.keys.push({ frame, value, ease });
  track.keys.sort((a, b) => a.frame - b.frame);
}

/** Removes the key at `frame`, and the track with its last key. Changes `shot`. */
export function removeKey(shot: Tracks, thing: string, path: string, frame: number): void {
  const track = findTrack(shot, thing, path);
  if (!track) return;
  track.keys = track.keys.filter((k) => Math.abs(k.frame - frame) >= SAME_FRAME);
  if (track.keys.length === 0) shot.tracks = shot.tracks.filter((t) => t !== track);
}

/** Moves the key at `from` to `to`; a key already there gives way. Changes `shot`. */
export function moveKey(shot: Tracks, thing: string, path: string, from: number, to: number): void {
  const track = findTrack(shot, thing, path);
  const key = keyAt(track, from);
  if (!track || !key || from === to) return;
  track.keys = track.keys.filter((k) => k === key || Math.abs(k.frame - to) >= SAME_FRAME);
  const moved = keyAt(track, from);
  if (moved) moved.frame = to;
  track.keys.sort((a, b) => a.frame - b.frame);
}

/** Ids of the things of the set that a shot moves, by keys, rules or recipes. */
export function movedThings({ tracks, rules, recipes, paths, layers }: ShotDocument): string[] {
  // Their keys move no thing by themselves.
  const others = new Set([...rules, ...paths, ...layers].map(({ id }) => id));
  const acting = recipes.filter((r) => !r.muted);
  return [
    ...new Set([
      ...tracks.map((t) => t.thing).filter((id) => !others.has(id)),
      ...rules.filter((r) => !r.muted).map((r) => r.thing),
      ...acting.flatMap((r) => (r.camera ? [r.camera] : r.things)),
    ]),
  ];
}
