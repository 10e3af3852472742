import { length, place, propertiesOf, turn } from '../../../properties/index.ts';
import type { Point } from '../../common.ts';
import { field, oneOf, shape } from '../../fields.ts';
import type { ThingKindOf } from '../kind.ts';
import { loose, visibleToAll } from '../parts.ts';
import { LOOK_GROUP, SURFACE_LOOK, surfaceFields, type SurfaceLook } from './surface.ts';

/** A flat panel: black it is a flag that takes light away, white it bounces some back. */
export interface CardSurface extends SurfaceLook {
  kind: 'card';
  width: number;
  height: number;
  position: Point;
  aim: Point;
  /** Degrees about the way that it faces. */
  roll: number;
}

const PROPERTIES = propertiesOf<CardSurface>()({
  ...SURFACE_LOOK,
  width: length('Width', 0.001, 100),
  height: length('Height', 0.001, 100),
  position: place('Position', ['Across', 'Height', 'Forward']),
  aim: place('Aim', ['Aim across', 'Aim height', 'Aim forward']),
  roll: turn('Roll'),
});

const GROUPS = [
  LOOK_GROUP,
  { title: 'Size', paths: ['width', 'height'] },
  { title: 'Place', paths: ['position'] },
  { title: 'Aim', paths: ['aim', 'roll'] },
];

export const card: ThingKindOf<CardSurface> = {
  role: 'surface',
  schema: shape<CardSurface>({
    ...surfaceFields,
    kind: oneOf('Kind', ['card']),
    width: field(PROPERTIES.width),
    height: field(PROPERTIES.height),
    position: field(PROPERTIES.position),
    aim: field(PROPERTIES.aim),
    roll: field(PROPERTIES.roll),
  }),
  properties: () => PROPERTIES,
  groups: () => GROUPS,
};

/** A flag (black) or bounce card (white) out of the camera's sight. */
export function newCard(id: string, name: string, colour: string, values: Partial<CardSurface> = {}): CardSurface {
  return {
    id,
    name,
    kind: 'card',
    width: 0.4,
    height: 0.6,
    position: [-0.4, 0.3, 0.3],
    aim: [0, 0.06, 0],
    roll: 0,
    colour,
    roughness: 0.9,
    finish: null,
    ...loose(),
    visible: true,
    rayVisibility: { ...visibleToAll(), camera: false },
    ...values,
  };
}
