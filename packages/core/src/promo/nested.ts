import {
  changeClips,
  FASTEST_PACE,
  nestInto,
  newOwnSound,
  runCommand,
  type Clip,
  type ClipChange,
  type Command,
  type PromoDocument,
} from '../document/index.ts';
import { handlesOf, placedClips, promoLength, shownTakes } from './cut.ts';
import type { TakeLength } from './overlays.ts';
import { heardIds } from './clip-sounds.ts';
import { trimStart } from './trim.ts';

/** Cuts of a campaign by their ids. */
export type CutOf = (id: string) => PromoDocument | undefined;

/** The cuts that clips and overlays of a promo show, and those that these show in turn. */
export function cutsWithin(promo: PromoDocument, cutOf: CutOf): Record<string, PromoDocument> {
  const found: Record<string, PromoDocument> = {};
  const wanted = shownTakes(promo);
  // Grows while it is gone through; each is in it once, so a ring ends.
  for (const id of wanted) {
    const cut = cutOf(id);
    if (!cut) continue;
    found[id] = cut;
    for (const other of shownTakes(cut)) if (!wanted.includes(other)) wanted.push(other);
  }
  return found;
}

/** Whether a cut is another one, or shows it by whatever way: then it cannot lie in that one. */
export const showsCut = (id: string, other: string, cutOf: CutOf): boolean => {
  const cut = cutOf(id);
  return id === other || (cut !== undefined && other in cutsWithin(cut, cutOf));
};

/** Frames of what clips and overlays show: of a cut all that it plays. */
export const sourceLength =
  (cuts: Readonly<Record<string, PromoDocument>>, takeLength: TakeLength): TakeLength =>
  (id) =>
    cuts[id] ? promoLength(cuts[id]) : takeLength(id);

/** What becomes of things of a promo that are made a cut of their own. */
export interface Nesting {
  cut: PromoDocument;
  /** Puts the new cut, once it has its id, in the place of what it is made of. */
  place: (cut: string, clip: string) => Command<PromoDocument>;
}

/** A first clip that begins as much earlier as the transition into it shows it, as far as its take goes back. */
function leadOf(promo: PromoDocument, clip: Clip): { change: ClipChange; frames: number } {
  const change = trimStart(clip, -handlesOf(promo, clip.id).before);
  return { change, frames: -(change.shift ?? 0) };
}

/** A last clip that goes on for as long as the transition after it shows it, its speed as it was. */
function trailOf(promo: PromoDocument, { id, length, pace }: Clip): ClipChange {
  const { after } = handlesOf(promo, id);
  const slope = pace && !pace.points ? (pace.to - pace.from) / length : 0;
  const to = pace && Math.min(FASTEST_PACE, Math.max(0, pace.to + slope * after));
  return { id, values: { length: length + after, ...(pace && { pace: { ...pace, to: to! } }) } };
}

/**
 * Makes a cut of clips, those that lie between them, and the titles and overlays among `ids` that begin and end with them. Keys go along,
 * and strokes that letters go along; sounds, music and other layers stay. The transition into the first clip is then one into the new
 * cut, which has frames besides for those at its ends. @returns null without a clip.
 */
export function nestItems(promo: PromoDocument, ids: readonly string[], name: string): Nesting | null {
  const placed = placedClips(promo);
  const chosen = placed.flatMap(({ clip }, n) => (ids.includes(clip.id) ? [n] : []));
  if (chosen.length === 0) return null;
  const inner = placed.slice(chosen[0], chosen[chosen.length - 1] + 1);
  const from = inner[0].from;
  const to = inner[inner.length - 1].from + inner[inner.length - 1].clip.length;
  const lead = leadOf(promo, inner[0].clip);
  const within = ({ id, start, length }: { id: string; start: number; length: number }): boolean =>
    ids.includes(id) && start >= from && start + length <= to;
  const moved = <T extends { id: string; start: number; length: number }>(list: readonly T[]): T[] =>
    list.filter(within).map((item) => ({ ...item, start: item.start - from + lead.frames }));
  const { mixer: _mixer, groups: _groups, ...whole } = JSON.parse(JSON.stringify(promo)) as PromoDocument;
  const clips = inner.map(({ clip }, n): Clip => {
    const { into, order: _order, ...rest } = clip;
    return n > 0 && into ? { ...rest, into } : rest;
  });
  const [titles, overlays] = [moved(whole.titles), moved(whole.overlays)];
  const gone = new Set([...clips, ...titles, ...overlays].map(({ id }) => id));
  const shown = new Set([...clips.map(({ take }) => take), ...overlays.map(({ footage }) => footage)]);
  for (const { window } of titles) if (window) shown.add(window.footage);
  for (const { into } of clips) if (into?.logo) shown.add(into.logo);
  // Letters that go along a stroke take it with them, unseen; its keys count frames of the promo.
  const along = new Set(titles.map((title) => title.along));
  const layers = whole.layers
    .filter(({ id }) => along.has(id))
    .map((layer) => ({ ...layer, visible: false, group: '', parent: '', start: 0, length: 0 }));
  const earlier = from - lead.frames;
  const ways = whole.tracks
    .filter(({ thing }) => layers.some(({ id }) => id === thing))
    .map((track) => ({ ...track, keys: track.keys.map((key) => ({ ...key, frame: key.frame - earlier })) }));
  const cut: PromoDocument = {
    ...whole,
    ...{ name, clips, titles, overlays, layers, music: null, sounds: [], markers: [] },
    footage: whole.footage.filter(({ id }) => shown.has(id)),
    tracks: [...whole.tracks.filter(({ thing }) => gone.has(thing)), ...ways],
  };
  const heard = heardIds(cut).length > 0;
  const place = (id: string, clipId: string): Command<PromoDocument> =>
    nestInto(
      { id: clipId, take: id, start: lead.frames, length: to - from, ...(heard && { sound: newOwnSound() }) },
      gone,
    );
  const longer = changeClips('Handles', [lead.change, trailOf(promo, inner[inner.length - 1].clip)]);
  return { cut: runCommand(cut, longer), place };
}
