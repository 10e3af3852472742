import { atan2, cos, sin } from '../maths/index.ts';
import type { Way } from './draw-lines.ts';

/**
 * Where a letter of a text goes that lies on an arc of a circle, its letters as wide as they were.
 * @param bend degrees of the arc that the text takes up: an arch above 0, a bowl below. @param wide the text, pixels.
 * @param from its centre to the letter, pixels, y down: lines above the middle one lie on a wider arc of an arch.
 * @returns how far it goes, and degrees by which it is turned to the right.
 */
export function bentAt(
  bend: number,
  wide: number,
  [across, down]: readonly [number, number],
): { by: [number, number]; turn: number } {
  if (bend === 0 || wide <= 0) return { by: [0, 0], turn: 0 };
  const radius = (wide * 180) / (bend * Math.PI);
  const angle = across / radius;
  const own = radius - down;
  return { by: [own * sin(angle) - across, radius - own * cos(angle) - down], turn: (angle * 180) / Math.PI };
}

/**
 * Where letters of a text go that lies along a way: upright on it, as far from each other as they were.
 * @param at share of the way at which the text's anchor lies. @param anchor share of the text's width that is before it.
 * @param wide the text, pixels. @param from the middle of its width on its first line, pixels, y down.
 * @returns as `bentAt` by the middle of a letter; null for one that is beyond an end.
 */
export function bentAlong(
  way: Pick<Way, 'length' | 'closed' | 'at'>,
  at: number,
  anchor: number,
  wide: number,
  [middle, line]: readonly [number, number],
): (letter: readonly [number, number]) => { by: [number, number]; turn: number } | null {
  const { length } = way;
  return ([x, y]) => {
    const gone = at * length + (0.5 - anchor) * wide + x - middle;
    const there = way.closed && length > 0 ? gone - Math.floor(gone / length) * length : gone;
    if (there < 0 || there > length) return null;
    const [px, py, tx, ty] = way.at(there);
    // Above the line is to the left of the way it goes.
    const above = line - y;
    return { by: [px + ty * above - x, py - tx * above - y], turn: (atan2(ty, tx) * 180) / Math.PI };
  };
}
