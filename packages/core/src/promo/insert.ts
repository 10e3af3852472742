import { addClip, splitClip, type Clip, type Command, type PromoDocument } from '../document/index.ts';
import { placedClips } from './cut.ts';
import { halvesOf } from './pace.ts';

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
