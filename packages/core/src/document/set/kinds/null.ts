import { place, propertiesOf, share, turn } from '../../../properties/index.ts';
import type { Item, Point } from '../../common.ts';
import { field, item, shape } from '../../fields.ts';
import type { ThingKindOf } from '../kind.ts';

/** A place that nothing stands at: a pivot that carries things, a point to look at, a handle for moves. Never rendered. */
export interface SetNull extends Item {
  position: Point;
  /** Degrees about the vertical, then about the turned X, then the tilted Z. */
  turn: number;
  tilt: number;
  roll: number;
  /** Times: what it carries grows with it. */
  scale: number;
}

const PROPERTIES = propertiesOf<SetNull>()({
  turn: turn('Turn'),
  tilt: turn('Tilt'),
  roll: turn('Roll'),
  scale: share('Times', { min: 0.001, max: 1000, usual: 1 }),
  position: place('Place', ['Across', 'Height', 'Forward']),
});

const GROUPS = [
  { title: 'Turn', paths: ['turn', 'tilt', 'roll'] },
  { title: 'Size', paths: ['scale'] },
  { title: 'Place', paths: ['position'] },
];

export const setNull: ThingKindOf<SetNull> = {
  role: 'null',
  schema: shape<SetNull>({
    ...item('Name of a null'),
    position: field(PROPERTIES.position),
    turn: field(PROPERTIES.turn),
    tilt: field(PROPERTIES.tilt),
    roll: field(PROPERTIES.roll),
    scale: field(PROPERTIES.scale),
  }),
  properties: () => PROPERTIES,
  groups: () => GROUPS,
};

export function newNull(id: string, name: string, position: Point): SetNull {
  return { id, name, position: [...position], turn: 0, tilt: 0, roll: 0, scale: 1 };
}
