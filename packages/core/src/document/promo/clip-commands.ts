import type { Command } from '../edit.ts';
import { dropUnlinked, type Track } from '../shot/index.ts';
import { CLIP_PATHS, newClipPicture, type ClipPath, type ClipPicture } from './clip-picture.ts';
import type { Clip, PromoDocument, Title } from './types.ts';

type PromoCommand = Command<PromoDocument>;

const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

export function addClip(clip: Clip, name: string, at = Infinity): PromoCommand {
  return {
    label: `Add ${name}`,
    run: ({ clips }) => void clips.splice(Math.min(at, clips.length), 0, clip),
  };
}

/** Changes a clip; keys on its last frame stay on its last frame. */
export function changeClip(id: string, label: string, values: Partial<Omit<Clip, 'id'>>): PromoCommand {
  return changeClips(label, [{ id, values }]);
}

/**
 * Shows another take in a clip, for as long and as fast. In-betweens that were rendered of the one before are not of this one.
 * @param alike whether it is of the same shot: then callouts stay on their points.
 */
export function swapTake(id: string, take: string, alike: boolean): PromoCommand {
  return {
    label: 'Swap take',
    run: ({ clips, titles }) => {
      const n = clips.findIndex((c) => c.id === id);
      if (n < 0) return;
      const [clip, before] = [clips[n], clips[n].take];
      clip.take = take;
      if (clip.pace) delete clip.pace.rendered;
      const from = clips.slice(0, n).reduce((sum, { length }) => sum + length, 0);
      const together = ({ start, length }: Title): boolean => start < from + clip.length && start + length > from;
      for (const title of titles)
        if (alike && title.callout?.take === before && together(title)) title.callout.take = take;
    },
  };
}

/** What of a clip changes; its keys come so many frames earlier, where it loses frames at its beginning. */
export interface ClipChange {
  id: string;
  values: Partial<Omit<Clip, 'id'>>;
  shift?: number;
}

/** Changes clips at once, as trims do that concern two. */
export function changeClips(label: string, changes: readonly ClipChange[]): PromoCommand {
  return {
    label,
    run: (promo) => {
      for (const { id, values, shift = 0 } of changes) {
        const clip = promo.clips.find((c) => c.id === id);
        if (!clip) continue;
        const last = clip.length - 1;
        Object.assign(clip, values);
        const end = clip.length - 1;
        // A key on the only frame of a clip is on its first one.
        const carried = last > 0 && end + shift !== last;
        if (shift === 0 && !carried) continue;
        for (const track of promo.tracks.filter((t) => t.thing === id)) {
          const fresh = track.keys.map((key) => ({
            ...key,
            frame: key.frame === last && carried ? end : key.frame - shift,
          }));
          // Where two come to lie on one frame, the one that was carried stays.
          const kept = new Map(fresh.map((key) => [key.frame, key]));
          track.keys = [...kept.values()].sort((a, b) => a.frame - b.frame);
        }
      }
    },
  };
}

/** Gives a clip or a title a part that it may have or lack; null takes it away. */
export function setPart<K extends 'into' | 'pace' | 'fill' | 'sound' | 'parts' | 'dress' | 'callout'>(
  id: string,
  label: string,
  part: K,
  value: (K extends 'parts' | 'dress' | 'callout' ? Title[K] : K extends keyof Clip ? Clip[K] : never) | null,
): PromoCommand {
  return {
    label,
    run: ({ clips, titles }) => {
      const ofTitle = part === 'parts' || part === 'dress' || part === 'callout';
      const owner: Clip | Title | undefined = (ofTitle ? titles : clips).find((item) => item.id === id);
      if (!owner) return;
      const values = owner as unknown as Record<string, unknown>;
      if (value === null) delete values[part];
      else values[part] = value;
    },
  };
}

/** Sets values of a clip's picture for all of the clip. */
export function setClipPicture(id: string, label: string, values: Partial<ClipPicture>): PromoCommand {
  return {
    label,
    run: ({ clips }) => {
      const clip = clips.find((c) => c.id === id);
      if (clip) clip.picture = { ...(clip.picture ?? newClipPicture()), ...values };
    },
  };
}

/** Keys values of a clip's picture anew: keys of these go, others stay. Frames count from the clip's first. */
export function keyClip(
  id: string,
  label: string,
  keys: Partial<Record<ClipPath, Track<number>['keys']>>,
  values: Partial<ClipPicture> = {},
): PromoCommand {
  const set = setClipPicture(id, label, values);
  return {
    label,
    run: (promo) => {
      set.run(promo);
      promo.tracks = promo.tracks.filter((t) => t.thing !== id || !(t.path in keys));
      for (const [path, list] of Object.entries(keys))
        if (list.length > 0) promo.tracks.push({ thing: id, path, keys: list });
      dropUnlinked(promo);
    },
  };
}

/** The whole picture at rest, its keys gone. */
export function clearClipPicture(ids: readonly string[]): PromoCommand {
  return {
    label: 'Picture at rest',
    run: (promo) => {
      for (const clip of promo.clips) if (ids.includes(clip.id)) delete clip.picture;
      dropTracks(promo, (thing) => ids.includes(thing));
    },
  };
}

/** What of a clip can be given to others. */
export const CLIP_ATTRIBUTES = ['picture', 'pace', 'into', 'fill', 'sound'] as const;
export type ClipAttribute = (typeof CLIP_ATTRIBUTES)[number];

/** Gives other clips attributes of one, its keys with its picture. */
export function copyClipAttributes(
  from: string,
  to: readonly string[],
  attributes: readonly ClipAttribute[],
): PromoCommand {
  return {
    label: to.length === 1 ? 'Paste attributes' : `Paste attributes to ${to.length} clips`,
    run: (promo) => {
      const source = promo.clips.find((c) => c.id === from);
      if (!source) return;
      for (const clip of promo.clips) {
        if (clip.id === from || !to.includes(clip.id)) continue;
        const values = clip as unknown as Record<string, unknown>;
        for (const attribute of attributes) {
          if (source[attribute] === undefined) delete values[attribute];
          else values[attribute] = copyOf(source[attribute]);
        }
        if (!attributes.includes('picture')) continue;
        promo.tracks = promo.tracks.filter((t) => t.thing !== clip.id);
        const own = promo.tracks.filter((t) => t.thing === from);
        for (const track of copyOf(own)) promo.tracks.push({ ...track, thing: clip.id });
      }
      dropUnlinked(promo);
    },
  };
}

/**
 * Splits a clip in two at one of its frames; a transition stays with the first, keys and a change of pace go on in the second, whose keys
 * may lie before its first frame.
 */
export function splitClip(
  id: string,
  at: number,
  newId: string,
  second: Partial<Clip>,
  first: Partial<Clip>,
): PromoCommand {
  return {
    label: 'Split clip',
    run: (promo) => {
      const { clips } = promo;
      const n = clips.findIndex((c) => c.id === id);
      if (n < 0 || at <= 0 || at >= clips[n].length) return;
      const { into: _transition, order: _order, ...rest } = copyOf(clips[n]);
      clips.splice(n + 1, 0, { ...rest, ...second, id: newId, length: clips[n].length - at });
      Object.assign(clips[n], first, { length: at });
      for (const track of copyOf(promo.tracks.filter((t) => t.thing === id)))
        promo.tracks.push({
          ...track,
          thing: newId,
          keys: track.keys.map((key) => ({ ...key, frame: key.frame - at })),
        });
    },
  };
}

/** Puts another cut in the place of all clips. */
export function recut(clips: readonly Clip[]): PromoCommand {
  return {
    label: 'Cut on beats',
    run: (promo) => {
      const gone = new Set(promo.clips.map(({ id }) => id));
      for (const { id } of clips) gone.delete(id);
      promo.clips = [...clips];
      dropTracks(promo, (thing) => gone.has(thing));
    },
  };
}

/** Puts one clip in the place of others, titles and overlays that it shows from now on; it comes in as the first of them did. */
export function nestInto(clip: Clip, gone: ReadonlySet<string>): PromoCommand {
  return {
    label: 'Nest',
    run: (promo) => {
      const at = promo.clips.findIndex(({ id }) => gone.has(id));
      if (at < 0) return;
      const { into } = promo.clips[at];
      const left = <T extends { id: string }>(list: T[]): T[] => list.filter(({ id }) => !gone.has(id));
      promo.clips = left(promo.clips);
      promo.clips.splice(at, 0, { ...clip, ...(into && { into }) });
      promo.titles = left(promo.titles);
      promo.overlays = left(promo.overlays);
      dropTracks(promo, (thing) => gone.has(thing));
    },
  };
}

/** Carries clips, one behind the other as they are, to the place in the cut that another has now. */
export function carryClips(ids: readonly string[], to: number): PromoCommand {
  return {
    label: ids.length === 1 ? 'Reorder clips' : `Reorder ${ids.length} clips`,
    run: (promo) => {
      const target = promo.clips[to];
      const moved = promo.clips.filter(({ id }) => ids.includes(id));
      if (!target || moved.length === 0 || ids.includes(target.id)) return;
      const down = promo.clips.indexOf(moved[0]) < to;
      const rest = promo.clips.filter(({ id }) => !ids.includes(id));
      rest.splice(rest.indexOf(target) + (down ? 1 : 0), 0, ...moved);
      promo.clips = rest;
    },
  };
}

export function deleteClip(id: string): PromoCommand {
  return {
    label: 'Delete clip',
    run: (promo) => {
      promo.clips = promo.clips.filter((c) => c.id !== id);
      dropTracks(promo, (thing) => thing === id);
    },
  };
}

/** A copy of a clip right after it, with its keys. */
export function duplicateClip(id: string, newId: string): PromoCommand {
  return {
    label: 'Duplicate clip',
    run: (promo) => {
      const n = promo.clips.findIndex((c) => c.id === id);
      if (n < 0) return;
      const { order: _order, ...rest } = copyOf(promo.clips[n]);
      promo.clips.splice(n + 1, 0, { ...rest, id: newId });
      for (const track of copyOf(promo.tracks.filter((t) => t.thing === id)))
        promo.tracks.push({ ...track, thing: newId });
    },
  };
}

/** Keys of a clip's picture. */
export function clipTracks({ tracks }: Pick<PromoDocument, 'tracks'>, id: string): Track[] {
  return tracks.filter((t) => t.thing === id && (CLIP_PATHS as readonly string[]).includes(t.path));
}

/** Takes away all keys of things that are gone. */
export function dropTracks(promo: PromoDocument, gone: (thing: string) => boolean): void {
  if (!promo.tracks.some((t) => gone(t.thing))) return;
  promo.tracks = promo.tracks.filter((t) => !gone(t.thing));
  dropUnlinked(promo);
}
