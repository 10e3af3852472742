import type { Arrival, Title } from '../document/index.ts';
import { pow, seeded } from '../maths/index.ts';
import { partTimes, titleParts, type TitlePart } from './title-parts.ts';

/** Where a title is in its arrival or leaving: 0 gone, 1 fully there; offsets in em. */
export interface TitlePose {
  opacity: number;
  across: number;
  down: number;
  scale: number;
  /** Sigma in em. */
  blur: number;
  /** Degrees to the left, and letter spacing besides its own in em. */
  turn: number;
  tracking: number;
  /** Share of a way out of a line that hides it, 0 hidden. */
  unmasked: number;
  /** Share of the way up to its numbers. */
  counted: number;
  /** The colour that its letters come from or go to, and how much of it they have; null: only their own. */
  tint: { colour: string; share: number } | null;
}

const THERE: TitlePose = {
  ...{ opacity: 1, across: 0, down: 0, scale: 1, blur: 0, turn: 0, tracking: 0, unmasked: 1, counted: 1, tint: null },
};

/** The pose of a title at a promo frame; null when it is not on. */
export function titlePose(title: Title, frame: number): TitlePose | null {
  // Parts come by themselves.
  return arrivalPose(title, frame, title.parts !== undefined);
}

/** The pose at a promo frame of what arrives, stays and leaves; null when it is not on. @param there whether it need not arrive. */
export function arrivalPose(
  thing: Pick<Title, 'start' | 'length' | 'arrive' | 'leave'>,
  frame: number,
  there = false,
): TitlePose | null {
  const at = frame - thing.start;
  if (at < 0 || at >= thing.length) return null;
  const arriving = there ? 1 : progress(thing.arrive.frames, at + 1);
  const pose = { ...THERE };
  apply(pose, thing.arrive, arriving, 1, at);
  apply(pose, thing.leave, progress(thing.leave.frames, thing.length - at), -1, at);
  return pose;
}

/** How much of the line of a callout is there, as its title comes and goes. */
export function lineGrown(title: Title, frame: number): number {
  const way = ({ frames }: Arrival): Arrival => ({ kind: 'fade', frames });
  const pose = arrivalPose({ ...title, arrive: way(title.arrive), leave: way(title.leave) }, frame);
  return pose ? 1 - pow(1 - pose.opacity, 3) : 0;
}

/** The pose of each part of a title at a promo frame, besides that of the whole. */
export function partPoses(title: Title, frame: number, count: number): TitlePose[] {
  return partTimes(title, count).map(({ begin, frames }, part) => {
    const pose = { ...THERE };
    const at = frame - title.start - begin + 1;
    apply(pose, title.arrive, at <= 0 ? 0 : progress(frames, at), 1, Math.ceil(at), part + 1);
    return pose;
  });
}

/**
 * What of a title is drawn by itself, with its pose: its parts, or where it is bent or on a way all its letters, each with that of its part.
 */
export function posedParts(title: Title, frame: number, onWay = false): Array<TitlePart & { pose: TitlePose }> {
  const parts = title.parts ? titleParts(title.text, title.parts.part) : [];
  const poses = partPoses(title, frame, parts.length);
  if (!onWay && !title.bend) return parts.map((part, i) => ({ ...part, pose: poses[i] }));
  return titleParts(title.text, 'letter').map((letter) => {
    const part = parts.findIndex(({ from, to }) => letter.from >= from && letter.from < to);
    return { ...letter, pose: poses[part] ?? THERE };
  });
}

/** @param side 1 as it arrives, -1 as it leaves. @param at frames since it began, @param part that it is of: what flickers is random. */
function apply(pose: TitlePose, { kind, colour }: Arrival, t: number, side: number, at: number, part = 0): void {
  if (t >= 1 || kind === 'none') return;
  const eased = 1 - pow(1 - t, 3);
  const away = 1 - eased;
  if (colour && (!pose.tint || pose.tint.share < away)) pose.tint = { colour, share: away };
  switch (kind) {
    case 'type':
      pose.opacity *= t > 0 ? 1 : 0;
      return;
    case 'unmask':
      // What is not there yet is hidden by its line; the line itself does not fade.
      pose.opacity *= t > 0 ? 1 : 0;
      pose.unmasked = Math.min(pose.unmasked, eased);
      return;
    case 'flicker':
      pose.opacity *= t <= 0 ? 0 : seeded(1 + part * 7919 + at * 104729)() < t ? 1 : 0.15;
      return;
    case 'count':
      pose.opacity *= Math.min(1, t * 6);
      pose.counted = Math.min(pose.counted, eased);
      return;
  }
  pose.opacity *= kind === 'fade' ? t : eased;
  if (kind === 'rise') pose.down += away * 0.6 * side;
  if (kind === 'slide') pose.across -= away * 1.6 * side;
  if (kind === 'scale') pose.scale *= 1 + away * 0.5 * side;
  if (kind === 'blur') pose.blur += away * 0.35;
  if (kind === 'turn') pose.turn -= away * 40 * side;
  if (kind === 'tracking') pose.tracking += away * 0.6;
}

/** `at` counts from 1, so that the first frame of an n-frame fade already shows 1 / (n + 1). */
function progress(frames: number, at: number): number {
  return frames > 0 ? Math.min(1, at / (frames + 1)) : 1;
}
