import { atan2, cos, hypot, sin } from '../maths/index.ts';
import type { LabelSlot } from '../document/index.ts';
import { DEGREES } from '../geometry/index.ts';

type Frame = Pick<LabelSlot, 'projection' | 'centre' | 'turn' | 'roll' | 'width' | 'height'>;

/** How far round the axis a wrapped label's paper lies, metres of the model. */
function radiusOf({ centre }: Pick<LabelSlot, 'centre'>): number {
  return Math.max(1e-6, hypot(centre[0], centre[2]));
}

/**
 * Where a place of a projected label's paper lies in the model.
 * @param a and @param b metres from the label's middle along its own width and up its own height.
 */
export function labelPoint(slot: Frame, a: number, b: number): [number, number, number] {
  const [c, s] = [cos(slot.roll * DEGREES), sin(slot.roll * DEGREES)];
  const [x, y] = [a * c - b * s, a * s + b * c];
  const turn = slot.turn * DEGREES;
  if (slot.projection === 'round') {
    const radius = radiusOf(slot);
    const angle = turn + x / radius;
    return [sin(angle) * radius, slot.centre[1] + y, cos(angle) * radius];
  }
  return [slot.centre[0] + x * cos(turn), slot.centre[1] + y, slot.centre[2] - x * sin(turn)];
}

/** The other way: metres from the label's middle, across and up before its roll, of what lies under a point of the model. */
export function labelOffset(slot: Frame, [x, y, z]: readonly number[]): [number, number] {
  const turn = slot.turn * DEGREES;
  const up = y - slot.centre[1];
  if (slot.projection === 'round') {
    const angle = atan2(x, z) - turn;
    return [(angle - Math.round(angle / (2 * Math.PI)) * 2 * Math.PI) * radiusOf(slot), up];
  }
  return [(x - slot.centre[0]) * cos(turn) - (z - slot.centre[2]) * sin(turn), up];
}

/** A label's grips: its corners, the middles of its sides (-1..1 across and up), and one to turn it by. */
export const LABEL_GRIPS = {
  ...{ nw: [-1, 1], n: [0, 1], ne: [1, 1], e: [1, 0], se: [1, -1], s: [0, -1], sw: [-1, -1], w: [-1, 0] },
  turn: [0, 1],
} as const;
export type LabelGrip = keyof typeof LABEL_GRIPS;

/** Smallest side that a grip leaves, metres. */
const LEAST = 1e-3;

/**
 * The slot's values when a grip is pulled to a point of the model. Corners keep the label's proportion unless `free`,
 * sides change one length; the middle stays where it is. Turning goes by whole degrees, by fifteen when `free`.
 */
export function pullLabel(
  slot: Frame,
  grip: LabelGrip,
  point: readonly number[],
  free = false,
): Partial<Pick<LabelSlot, 'width' | 'height' | 'roll'>> {
  const [x, y] = labelOffset(slot, point);
  if (grip === 'turn') {
    const step = free ? 15 : 1;
    return { roll: Math.round(atan2(-x, y) / DEGREES / step) * step };
  }
  const [c, s] = [cos(slot.roll * DEGREES), sin(slot.roll * DEGREES)];
  const width = Math.max(LEAST, 2 * Math.abs(x * c + y * s));
  const height = Math.max(LEAST, 2 * Math.abs(y * c - x * s));
  const [across, up] = LABEL_GRIPS[grip];
  if (across === 0) return { height };
  if (up === 0) return { width };
  if (free) return { width, height };
  const scale = Math.max(width / slot.width, height / slot.height);
  return { width: slot.width * scale, height: slot.height * scale };
}
