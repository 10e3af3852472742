import { length, propertiesOf, share, toggle } from '../../../properties/index.ts';
import { field, oneOf, shape } from '../../fields.ts';
import type { ThingKindOf } from '../kind.ts';
import { loose, visibleToAll } from '../parts.ts';
import { LOOK_GROUP, SURFACE_LOOK, surfaceFields, type SurfaceLook } from './surface.ts';

/** A floor that curves up into a wall behind. */
export interface SweepSurface extends SurfaceLook {
  kind: 'sweep';
  width: number;
  depth: number;
  height: number;
  radius: number;
  /** Mirror image on the floor besides what its finish reflects: strength 0..1, blur 0..1, and metres up to which it reaches (0: endless). */
  mirror: { strength: number; blur: number; reach: number };
  /** Only the shadows and mirror images that fall on it are in the picture: for laying over other footage. */
  catcher: boolean;
}

const PROPERTIES = propertiesOf<SweepSurface>()({
  ...SURFACE_LOOK,
  'mirror.strength': share('Strength'),
  'mirror.blur': share('Blur'),
  'mirror.reach': length('Gone after', 0, 100, { usual: 0.15 }),
  radius: length('Curve', 0, 100, { usual: 0.6 }),
  width: length('Width', 0.05, 100, { usual: 3.2 }),
  depth: length('Depth', 0.05, 100, { usual: 2.4 }),
  height: length('Height', 0, 100, { usual: 1.8 }),
  catcher: toggle('Shadow catcher'),
});

const GROUPS = [
  LOOK_GROUP,
  { title: 'Mirror image', paths: ['mirror.strength', 'mirror.blur', 'mirror.reach'] },
  { title: 'Shape', paths: ['radius', 'width', 'depth', 'height'] },
];

export const sweep: ThingKindOf<SweepSurface> = {
  role: 'surface',
  schema: shape<SweepSurface>({
    ...surfaceFields,
    kind: oneOf('Kind', ['sweep']),
    width: field(PROPERTIES.width),
    depth: field(PROPERTIES.depth),
    height: field(PROPERTIES.height),
    radius: field(PROPERTIES.radius),
    mirror: shape<SweepSurface['mirror']>({
      strength: field({ ...PROPERTIES['mirror.strength'], label: 'Mirror strength' }),
      blur: field({ ...PROPERTIES['mirror.blur'], label: 'Mirror blur' }),
      reach: field({ ...PROPERTIES['mirror.reach'], label: 'Mirror reach' }),
    }),
    catcher: field(PROPERTIES.catcher),
  }),
  properties: () => PROPERTIES,
  groups: () => GROUPS,
};

export function newSweep(id = 'sweep', values: Partial<SweepSurface> = {}): SweepSurface {
  return {
    id,
    name: 'Sweep',
    kind: 'sweep',
    width: 3.2,
    depth: 2.4,
    height: 1.8,
    radius: 0.6,
    colour: '#8C8378',
    roughness: 0.6,
    finish: null,
    ...loose(),
    visible: true,
    rayVisibility: visibleToAll(),
    mirror: { strength: 0, blur: 0.1, reach: 0.15 },
    catcher: false,
    ...values,
  };
}
