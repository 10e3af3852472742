import {
  addClip,
  FASTEST_PACE,
  newPace,
  splitClip,
  type Clip,
  type Command,
  type PromoDocument,
} from '../document/index.ts';
import { placedClips } from './cut.ts';
import { halvesOf } from './pace.ts';

/** Frames of a take or the time line, `to` not among them. */
export interface Part {
  from: number;
  to: number;
}

/** What of a part of a take is shown where a range of the time line is given: from its beginning on, up to its end, or all of it. */
export const PART_FITS = ['begin', 'end', 'fit'] as const;
export type PartFit = (typeof PART_FITS)[number];

/**
 * What of a clip shows a part of its take. Without a range it is as long as the part; with one, which says where and for how long, the
 * part gives the first frame or the last (three points), or is played so fast that it fits (four).
 */
export function clipOfPart(part: Part, range: Part | null, fit: PartFit): Pick<Clip, 'start' | 'length' | 'pace'> {
  const own = Math.max(1, part.to - part.from);
  const length = range ? Math.max(1, range.to - range.from) : own;
  if (length === own || fit === 'begin') return { start: part.from, length };
  if (fit === 'end') return { start: Math.max(0, part.to - length), length };
  const speed = Math.min(FASTEST_PACE, own / length);
  return { start: part.from, length, pace: { ...newPace(), from: speed, to: speed } };
}

/**
 * Puts a clip at a frame of the cut; what comes after it goes along. A clip that the frame lies within is split there.
 * @param newId of the second half of one that is split. @returns what is to be run, in this order.
 */
export function insertClip(
  promo: PromoDocument,
  at: number,
  clip: Clip,
  name: string,
  newId: string,
): Array<Command<PromoDocument>> {
  const placed = placedClips(promo);
  const n = placed.findIndex((p) => at < p.from + p.clip.length);
  if (n < 0) return [addClip(clip, name)];
  const { clip: under, from } = placed[n];
  const within = at - from;
  if (within <= 0) return [addClip(clip, name, n)];
  const [first, second] = halvesOf(under, within);
  return [splitClip(under.id, within, newId, second, first), addClip(clip, name, n + 1)];
}
