import type { Clip, PromoDocument, Transition } from '../document/index.ts';
import { footageLength, overlayFrames } from './overlays.ts';
import { framesPlayed, framesShown, type TakeFrame } from './pace.ts';
import { windowFrame } from './title-now.ts';

/** Frames of the whole promo: its clips end to end, or the end of the last title or overlay when that is later. */
export function promoLength(promo: PromoDocument): number {
  const clips = promo.clips.reduce((n, c) => n + c.length, 0);
  return [...promo.titles, ...promo.overlays].reduce((n, t) => Math.max(n, t.start + t.length), clips);
}

/** What each clip and each overlay of a promo shows: its take, or footage. */
export const showsOf = ({ clips, overlays }: PromoDocument): string[] => [
  ...clips.map(({ take }) => take),
  ...overlays.map(({ footage }) => footage),
];

/** Takes and footage that clips and overlays of a promo show, each once. */
export const shownTakes = (promo: PromoDocument): string[] => [
  ...new Set([...promo.clips.flatMap(takesOf), ...promo.overlays.map(({ footage }) => footage)]),
];

/** Takes or footage that a clip shows. */
export function takesOf({ take, pace }: Clip): string[] {
  const rendered = pace?.between === 'rendered' ? pace.rendered?.take : undefined;
  return [take, rendered].filter((id): id is string => id !== undefined && id !== '');
}

export interface PlacedClip {
  clip: Clip;
  /** First promo frame of the clip. */
  from: number;
}

export function placedClips(promo: PromoDocument): PlacedClip[] {
  let from = 0;
  return promo.clips.map((clip) => {
    const placed = { clip, from };
    from += clip.length;
    return placed;
  });
}

/** A clip at a frame: what it shows, and how far it has come. */
export interface ShownClip {
  clip: Clip;
  /** Frames of its take, none where it has none: black. */
  frames: TakeFrame[];
  /** Frames of the clip; below 0 and past its length while a transition shows it. */
  at: number;
}

/** What there is to be seen at a promo frame. */
export interface Shown {
  clip: ShownClip;
  /** The clip that comes, or the one that goes, in a transition: `clip` is the one that goes. */
  next: ShownClip | null;
  transition: Transition | null;
  /** Share of the transition, above 0 and below 1. */
  t: number;
}

/**
 * Promo frames of the transition at a cut, which lies in its middle. It takes no more than half of either clip, so that two of them
 * never meet within a short one.
 */
export function transitionSpan(before: Clip, clip: Clip, cut: number): { from: number; frames: number } | null {
  if (!clip.into) return null;
  const frames = Math.min(clip.into.frames, before.length, clip.length);
  return { from: cut - Math.floor(frames / 2), frames };
}

/** What is to be seen at a promo frame; null where there is no clip. */
export function shownAt(promo: PromoDocument, frame: number, takeLength: (take: string) => number): Shown | null {
  const placed = placedClips(promo);
  const n = placed.findIndex((p) => frame >= p.from && frame < p.from + p.clip.length);
  if (n < 0) return null;
  const show = ({ clip, from }: PlacedClip): ShownClip => {
    const at = frame - from;
    const length = clip.off ? 0 : footageLength(promo, clip.take) || takeLength(clip.take);
    const rendered = clip.pace?.rendered?.take ?? '';
    return { clip, at, frames: framesShown(clip, at, length, rendered !== '' && takeLength(rendered) > 0) };
  };
  for (const k of [n, n + 1]) {
    const [before, after] = [placed[k - 1], placed[k]];
    const span = before && after && transitionSpan(before.clip, after.clip, after.from);
    if (!span || frame < span.from || frame >= span.from + span.frames) continue;
    const t = (frame - span.from + 1) / (span.frames + 1);
    return { clip: show(before), next: show(after), transition: after.clip.into!, t };
  }
  return { clip: show(placed[n]), next: null, transition: null, t: 0 };
}

/** The picture of the logo that a transition goes through; null without one. */
export function logoFrame(promo: PromoDocument, { kind, logo }: Transition): TakeFrame | null {
  return kind === 'logo' && logo && footageLength(promo, logo) > 0 ? { take: logo, frame: 0, weight: 1 } : null;
}

/** Frames of takes and footage that a promo's frame is made of. */
export function takeFramesAt(promo: PromoDocument, frame: number, takeLength: (take: string) => number): TakeFrame[] {
  const shown = shownAt(promo, frame, takeLength);
  return [
    ...(shown ? [...shown.clip.frames, ...(shown.next?.frames ?? [])] : []),
    ...[shown?.transition && logoFrame(promo, shown.transition)].flatMap((part) => part ?? []),
    ...overlayFrames(promo, frame, takeLength),
    ...promo.titles.flatMap((title) => windowFrame(title, promo, frame) ?? []),
  ];
}

/** How many frames of a clip are seen before its first and after its last, in transitions. */
export function handlesOf(promo: PromoDocument, id: string): { before: number; after: number } {
  const placed = placedClips(promo);
  const n = placed.findIndex(({ clip }) => clip.id === id);
  if (n < 0) return { before: 0, after: 0 };
  const { clip, from } = placed[n];
  const into = n > 0 ? transitionSpan(placed[n - 1].clip, clip, from) : null;
  const next = placed[n + 1];
  const out = next ? transitionSpan(clip, next.clip, next.from) : null;
  return { before: into ? from - into.from : 0, after: out ? out.from + out.frames - next.from : 0 };
}

/** How many frames of its take a clip asks for that the take does not have, at its beginning and its end, transitions included. */
export function missingFrames(promo: PromoDocument, id: string, takeLength: number): { before: number; after: number } {
  const clip = promo.clips.find((c) => c.id === id);
  if (!clip || takeLength <= 0) return { before: 0, after: 0 };
  const handles = handlesOf(promo, id);
  const lead = -framesPlayed(clip, -handles.before);
  const rest = framesPlayed(clip, clip.length + handles.after) - framesPlayed(clip);
  const [early, late] = clip.pace?.reverse ? [rest, lead] : [lead, rest];
  return {
    before: Math.max(0, Math.ceil(early - clip.start - 1e-6)),
    after: Math.max(0, Math.ceil(clip.start + framesPlayed(clip) + late - takeLength - 1e-6)),
  };
}
