import { cos, sin } from '../maths/index.ts';

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
