import type { Item, Point } from '../common.ts';
import { place, propertyAt, type Property } from '../../properties/index.ts';
import { flag, id, item, list, order, orNull, point, shape, type Field } from '../fields.ts';

/** A point of a path; its handles are relative to it, null: as smooth as its neighbours allow. */
export interface PathPoint {
  id: string;
  order?: string;
  at: Point;
  handles: { in: Point; out: Point } | null;
}

/** A way through the set, as cubic Beziers. Metres. */
export interface MovePath extends Item {
  closed: boolean;
  points: PathPoint[];
}

const PROPERTIES = { 'points.*.at': place('Point', ['Across', 'Height', 'Forward']) };

/** What can be keyed of a path, by a track whose thing it is: where its points are. */
export const pathProperty = (path: string): Property | undefined => propertyAt(PROPERTIES, path);

const pathPoint: Field<PathPoint> = shape<PathPoint>({
  id: id('Id'),
  order: order(),
  at: point('Point of a path'),
  handles: orNull(shape<{ in: Point; out: Point }>({ in: point('Handle'), out: point('Handle') })),
});

export const pathSchema: Field<MovePath> = shape<MovePath>({
  ...item('Path'),
  closed: flag('Closed'),
  points: list('Points', pathPoint, 500, 2, 'A path needs two points at least: draw another one.'),
});
