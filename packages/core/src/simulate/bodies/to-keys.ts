import type { Key, ShotDocument, Track } from '../../document/index.ts';
import { anglesOf } from '../../motion/index.ts';
import type { PropertyValue } from '../../properties/index.ts';
import { PART_JOINT } from '../../document/index.ts';
import type { BodyMotion } from './body.ts';
import { hingeTrack, type HingeSide } from './bodies-of.ts';
import { rotationOf } from './run-bodies.ts';

/** Keys closer to a straight line than this are left out: metres, degrees. */
const CLOSE = { place: 0.00004, angle: 0.02 };

/**
 * What bodies did as keys of the shot: places and turns frame by frame, without those that lie on a straight line between others. Things float
 * while they fall, since a body knows by itself where the floor is.
 * @param start frame at which they begin to fall; what would lie before the shot is cut off.
 */
export function bodyTracks(
  { frames, rests }: BodyMotion,
  start: number,
  { length }: Pick<ShotDocument, 'length'>,
): Track[] {
  return [...frames].flatMap(([thing, poses]) => {
    const last = Math.min(rests, poses.length - 1);
    const used = poses.slice(0, last + 1).map((pose, n) => ({ pose, frame: start + n }));
    const seen = used
      .filter(({ frame }, i) => frame >= 0 || used[i + 1]?.frame > 0)
      .filter(({ frame }) => frame < length + 1);
    if (seen.length === 0) return [];
    const from = seen[0].frame;
    const held = (value: PropertyValue, frame: number): Key => ({ frame, value, ease: 'hold' });
    return [
      ...[0, 1, 2].map((axis) => ({
        thing,
        path: `position.${axis}`,
        keys: placeKeys(
          seen.map(({ pose }) => pose.position[axis]),
          from,
        ),
      })),
      ...angleKeys(
        seen.map(({ pose }) => anglesOf(rotationOf(pose))),
        from,
      ).map(({ name, keys }) => ({ thing, path: name, keys })),
      { thing, path: 'seated', keys: [held(false, Math.min(0, start))] },
      ...(start > 0 ? [{ thing, path: 'visible', keys: [held(false, -1), held(true, start)] }] : []),
    ];
  });
}

const linear = (values: readonly number[], start: number): Key<number>[] =>
  values.map((value, n) => ({ frame: start + n, value, ease: 'linear' }));

/** Metres frame by frame from `start` on as keys, without those that lie on a straight line between others. */
export const placeKeys = (values: readonly number[], start: number, close = CLOSE.place): Key<number>[] =>
  thinned(linear(values, start), close);

/** Turns frame by frame as keys, each going on from the one before by the shorter way. */
export function angleKeys(
  angles: readonly Angles[],
  start: number,
  close = CLOSE.angle,
): Array<{ name: keyof Angles; keys: Key<number>[] }> {
  const whole = unwound(angles);
  return (['turn', 'tilt', 'roll'] as const).map((name) => ({
    name,
    keys: thinned(
      linear(
        whole.map((a) => a[name]),
        start,
      ),
      close,
    ),
  }));
}

/** A hinge that swung, as keys of the own values of its parts. */
export interface SwungHinge {
  thing: string;
  parts: readonly number[];
  side: HingeSide;
  /** Degrees frame by frame. */
  angles: readonly number[];
}

/** Hinges as keys of the shot; `start` is the frame of the first angle. */
export function hingeTracks(
  hinges: readonly SwungHinge[],
  rests: number,
  start: number,
  { length }: Pick<ShotDocument, 'length'>,
): Track[] {
  return hinges.flatMap(({ thing, parts, side, angles }) => {
    const { name, sign } = hingeTrack(side);
    const item = `own.parts.${parts.join(PART_JOINT)}`;
    const seen = angles
      .slice(0, rests + 1)
      .map((angle, n): Key<number> => ({ frame: start + n, value: angle * sign, ease: 'linear' }))
      .filter(({ frame }) => frame >= 0 && frame <= length);
    if (seen.length === 0) return [];
    return [
      { thing, path: `${item}.hinge`, keys: [{ frame: Math.min(0, start), value: side, ease: 'hold' }] },
      { thing, path: `${item}.${name}`, keys: thinned(seen, CLOSE.angle) },
    ] as Track[];
  });
}

type Angles = Record<'turn' | 'tilt' | 'roll', number>;

/** Angles that go on from one frame to the next by the shorter way: of the two ways to write a rotation the nearer one. */
function unwound(angles: readonly Angles[]): Angles[] {
  const near = (value: number, to: number): number => value - 360 * Math.round((value - to) / 360);
  const out: Angles[] = [];
  for (const { turn, tilt, roll } of angles) {
    const last = out.at(-1);
    if (!last) {
      out.push({ turn, tilt, roll });
      continue;
    }
    const ways = [
      { turn, tilt, roll },
      { turn: turn + 180, tilt: 180 - tilt, roll: roll + 180 },
    ].map((way) => ({
      turn: near(way.turn, last.turn),
      tilt: near(way.tilt, last.tilt),
      roll: near(way.roll, last.roll),
    }));
    const far = (way: Angles): number =>
      Math.abs(way.turn - last.turn) + Math.abs(way.tilt - last.tilt) + Math.abs(way.roll - last.roll);
    out.push(far(ways[0]) <= far(ways[1]) ? ways[0] : ways[1]);
  }
  return out;
}

/** Leaves out keys that lie on the line between those that stay. */
function thinned(keys: readonly Key<number>[], close: number): Key<number>[] {
  if (keys.every((k) => Math.abs(k.value - keys[0].value) <= close)) return [keys.at(-1)!];
  const kept = [keys[0]];
  let from = 0;
  for (let to = 2; to < keys.length; to++) {
    const [a, b] = [keys[from], keys[to]];
    const fits = keys
      .slice(from + 1, to)
      .every(
        (k) => Math.abs(a.value + ((b.value - a.value) * (k.frame - a.frame)) / (b.frame - a.frame) - k.value) <= close,
      );
    if (fits) continue;
    kept.push(keys[to - 1]);
    from = to - 1;
  }
  kept.push(keys.at(-1)!);
  return kept;
}
