import { cos, pow, sin } from '../maths/index.ts';
import { Problem } from '../problem/index.ts';
import type { Command, CopyPlace, Point, ShotDocument } from '../document/index.ts';

export const ARRAYS = ['line', 'ring', 'fan', 'grid'] as const;

/** How copies of a thing stand. Metres, degrees. */
export interface Repeat {
  array: (typeof ARRAYS)[number];
  /** All of them, the first included; of a grid, in one row. */
  count: number;
  /** Rows of a grid, one behind the other. */
  rows: number;
  /** Between middles: along a line or grid; the radius of a ring or fan. */
  spacing: number;
  /** Angle that a fan opens over, and the direction of a line (0 to the right). */
  angle: number;
  /** Each copy is turned this much more than the one before. */
  turnEach: number;
  /** Each copy is so many times the size of the one before. */
  scaleEach: number;
  /** Each copy moves so many frames after the one before. */
  delayEach: number;
}

export interface Pose {
  position: Point;
  /** Degrees about the vertical. */
  turn: number;
  /** Times its real size. */
  scale: number;
}

const MOST = 200;

/**
 * Poses of all copies, the original first and where it is. A ring's copies look outwards as the original looks away from
 * the middle, which lies behind it; so do a fan's, which opens evenly to both sides.
 *
 * @throws Problem `staging/too-many` for more than 200.
 */
export function repeat(original: Pose, { array, count, rows, spacing, angle, turnEach, scaleEach }: Repeat): Pose[] {
  const total = array === 'grid' ? count * rows : count;
  if (!(total >= 1 && total <= MOST))
    throw new Problem('staging/too-many', `A set takes up to ${MOST} copies at a time: ask for fewer than ${total}.`);
  const [x, y, z] = original.position;
  const pose = (dx: number, dz: number, turn: number, i: number): Pose => ({
    position: [x + dx, y, z + dz],
    turn: original.turn + turn + i * turnEach,
    scale: Math.min(1000, Math.max(0.001, original.scale * pow(scaleEach, i))),
  });
  const all = Array.from({ length: total }, (_, i) => i);
  switch (array) {
    case 'line': {
      const way = (angle * Math.PI) / 180;
      return all.map((i) => pose(cos(way) * spacing * i, -sin(way) * spacing * i, 0, i));
    }
    case 'grid':
      return all.map((i) => pose((i % count) * spacing, -Math.floor(i / count) * spacing, 0, i));
    case 'ring':
      return all.map((i) => onCircle(i, (360 / total) * i));
    case 'fan': {
      const step = total > 1 ? angle / (total - 1) : 0;
      // From the middle outwards, left and right in turn: the original keeps the middle of an odd number.
      return all.map((i) => onCircle(i, Math.ceil(i / 2) * step * (i % 2 ? 1 : -1)));
    }
  }

  /** The middle lies behind the original, against the way it looks. */
  function onCircle(i: number, degrees: number): Pose {
    const look = (original.turn * Math.PI) / 180;
    const at = look + (degrees * Math.PI) / 180;
    return pose(spacing * (sin(at) - sin(look)), spacing * (cos(at) - cos(look)), degrees, i);
  }
}

/** Places for the copies of a thing, without the original's; `id` gives each its id. */
export function copyPlaces(original: Pose, plan: Repeat, id: () => string): CopyPlace[] {
  return repeat(original, plan)
    .slice(1)
    .map((pose) => ({ id: id(), ...pose }));
}

/** Lets copies move as their original does, each a number of frames later than the one before. */
export function delayCopies(original: string, copies: readonly string[], delay: number): Command<ShotDocument> {
  return {
    label: 'Copies move, too',
    run: (shot) => {
      const own = shot.tracks.filter((t) => t.thing === original);
      for (const [i, thing] of copies.entries())
        for (const { path, keys } of own)
          shot.tracks.push({
            ...{ thing, path },
            keys: keys.map((k) => ({ ...k, frame: k.frame + delay * (i + 1) })),
          });
    },
  };
}
