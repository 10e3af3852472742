import { pathProperty, type LinkedEase, type MovePath, type PathPoint, type Track } from '../document/index.ts';
import type { Vec3 } from '../geometry/index.ts';
import { compileCurve, type Curve } from './curve.ts';

/** A path at any frame: points of it may be keyed. */
export interface PathMover {
  /** As it was drawn. */
  readonly thing: MovePath;
  /** The same frame twice gives the same object. */
  at(frame: number): MovePath;
}

/** A point's number that is keyed; of a whole point, all three. */
interface Keyed {
  axis: number | null;
  curve: Curve;
}

/** What moves a path by tracks of its points. Tracks of points that are gone are passed over. */
export function pathMover(path: MovePath, tracks: readonly Track[], linked: readonly LinkedEase[]): PathMover {
  const keyed = new Map<string, Keyed[]>();
  for (const track of tracks) {
    const [, point, , axis] = track.path.split('.');
    const property = pathProperty(track.path);
    const curve = property && path.points.some(({ id }) => id === point) && compileCurve(track, property, linked);
    if (curve) keyed.set(point, [...(keyed.get(point) ?? []), { axis: axis ? Number(axis) : null, curve }]);
  }
  if (keyed.size === 0) return { thing: path, at: () => path };
  let [last, posed] = [NaN, path];
  return {
    thing: path,
    at: (frame) => {
      if (frame === last) return posed;
      [last, posed] = [frame, { ...path, points: path.points.map((p) => movedPoint(p, keyed.get(p.id), frame)) }];
      return posed;
    },
  };
}

function movedPoint(point: PathPoint, keyed: readonly Keyed[] | undefined, frame: number): PathPoint {
  if (!keyed) return point;
  let at = [...point.at] as Vec3;
  for (const { axis, curve } of keyed) {
    if (axis === null) at = [...(curve.at(frame) as Vec3)];
    else at[axis] = curve.at(frame) as number;
  }
  return { ...point, at };
}
