import {
  choice,
  colour,
  count,
  length,
  number,
  place,
  propertiesOf,
  share,
  toggle,
} from '../../../properties/index.ts';
import type { Item, Point } from '../../common.ts';
import { field, item, shape } from '../../fields.ts';
import type { ThingKindOf } from '../kind.ts';
import { arrangedFields, lightLinkingSchema, LINK_MODE, loose, type Arranged, type LightLinking } from '../parts.ts';
import { LIGHT_SHAPE_KINDS, LIGHT_SHAPES, type LightShape } from './lights/index.ts';

export const LIGHT_ROLES = ['key', 'fill', 'rim', 'top', 'background'] as const;
export type LightRole = (typeof LIGHT_ROLES)[number];
/** How the brightness of a softbox or disc runs over its face. */
export const GRADIENTS = ['even', 'round', 'across', 'down'] as const;
export type Gradient = (typeof GRADIENTS)[number];
export const GOBO_PATTERNS = ['none', 'blinds', 'window', 'leaves', 'dots', 'breakup'] as const;
export type GoboPattern = (typeof GOBO_PATTERNS)[number];

/** A cut-out slide in front of a light. Metres. */
export interface Gobo {
  pattern: GoboPattern;
  distance: number;
  width: number;
  height: number;
  /** How many times the pattern fits. */
  repeat: number;
  seed: number;
}

export interface SetLight extends Item, Arranged {
  role: LightRole;
  shape: LightShape;
  /** Of a softbox; for discs, spheres and spots the width is the diameter. */
  width: number;
  height: number;
  position: Point;
  aim: Point;
  kelvin: number;
  /** Lumens; for a sun lux on what faces it. */
  lumens: number;
  on: boolean;
  /** Whether the camera sees the light itself; reflections always do. */
  seen: boolean;
  /** Degrees off axis at which a honeycomb grid on the front cuts off; 0: none. */
  gridAngle: number;
  /** Full angle in degrees of a spot's beam; apparent size of a sun. */
  beamAngle: number;
  /** Share of a spot's beam that fades out, 0..1. */
  softness: number;
  gradient: Gradient;
  gobo: Gobo;
  lightLinking: LightLinking;
  /** sRGB hex that it is marked with in lists and on the plan. */
  mark: string;
}

/** What lights a car as a softbox lights a jar; no lamp is stronger, but a set may need many at one place. */
export const MOST_LUMENS = 1e8;

/** What every light can be keyed by; its shape narrows and names some of it. */
const PROPERTIES = propertiesOf<SetLight>()({
  role: choice('Role', LIGHT_ROLES),
  shape: choice('Shape', LIGHT_SHAPES),
  lumens: number('Power', 'lm', 0, MOST_LUMENS, { step: 50 }),
  kelvin: number('Colour', 'K', 1000, 25000, { step: 50, usual: 5500 }),
  width: length('Width', 0.0005, 100),
  height: length('Height', 0.0005, 100),
  gridAngle: number('Honeycomb', 'deg', 0, 89, { usual: 0 }),
  beamAngle: number('Beam', 'deg', 0, 175, { usual: 40 }),
  softness: share('Soft edge'),
  position: place('Position', ['Across', 'Height', 'Forward']),
  aim: place('Aim', ['Aim across', 'Aim height', 'Aim forward']),
  on: toggle('On'),
  seen: toggle('Seen by camera'),
  gradient: choice('Gradient', GRADIENTS),
  'gobo.pattern': choice('Gobo', GOBO_PATTERNS),
  'gobo.distance': length('Before light', 0.001, 100),
  'gobo.width': length('Slide width', 0.001, 100),
  'gobo.height': length('Slide height', 0.001, 100),
  'gobo.repeat': count('Repeats', 1, 60),
  'gobo.seed': count('Seed', 0, 0xffffffff),
  'lightLinking.mode': LINK_MODE,
  mark: colour('Mark'),
});

export const light: ThingKindOf<SetLight> = {
  role: 'light',
  schema: shape<SetLight>({
    ...item('Light name'),
    ...arrangedFields,
    role: field(PROPERTIES.role),
    shape: field(PROPERTIES.shape),
    width: field(PROPERTIES.width),
    height: field(PROPERTIES.height),
    position: field(PROPERTIES.position),
    aim: field(PROPERTIES.aim),
    kelvin: field(PROPERTIES.kelvin),
    lumens: field(PROPERTIES.lumens),
    on: field(PROPERTIES.on),
    seen: field(PROPERTIES.seen),
    gridAngle: field(PROPERTIES.gridAngle),
    beamAngle: field(PROPERTIES.beamAngle),
    softness: field({ ...PROPERTIES.softness, label: 'Softness' }),
    gradient: field(PROPERTIES.gradient),
    gobo: shape<Gobo>({
      pattern: field(PROPERTIES['gobo.pattern']),
      distance: field({ ...PROPERTIES['gobo.distance'], label: 'Gobo distance' }),
      width: field({ ...PROPERTIES['gobo.width'], label: 'Gobo width' }),
      height: field({ ...PROPERTIES['gobo.height'], label: 'Gobo height' }),
      repeat: field({ ...PROPERTIES['gobo.repeat'], label: 'Gobo repeat' }),
      seed: field({ ...PROPERTIES['gobo.seed'], label: 'Gobo seed' }),
    }),
    lightLinking: lightLinkingSchema,
    mark: field(PROPERTIES.mark),
  }),
  properties: ({ shape: own }) => BY_SHAPE[own],
  groups: ({ shape: own }) => [
    { title: 'Light', paths: ['lumens', 'kelvin'] },
    ...LIGHT_SHAPE_KINDS[own].groups,
    { title: 'Place', paths: ['position'] },
    { title: 'Aim', paths: ['aim'] },
  ],
};

const BY_SHAPE = Object.fromEntries(
  LIGHT_SHAPES.map((own) => [own, { ...PROPERTIES, ...LIGHT_SHAPE_KINDS[own].properties }]),
) as Record<LightShape, typeof PROPERTIES>;

export const GOBO_PATHS = ['gobo.distance', 'gobo.width', 'gobo.height', 'gobo.repeat', 'gobo.seed'] as const;

export function noGobo(): Gobo {
  return { pattern: 'none', distance: 0.3, width: 0.6, height: 0.6, repeat: 4, seed: 1 };
}

/** What a light has besides its place, power and size. */
export function plainLight(): Pick<
  SetLight,
  | 'on'
  | 'seen'
  | 'gridAngle'
  | 'beamAngle'
  | 'softness'
  | 'gradient'
  | 'gobo'
  | 'lightLinking'
  | 'group'
  | 'locked'
  | 'mark'
> {
  return {
    on: true,
    seen: false,
    gridAngle: 0,
    beamAngle: 40,
    softness: 0.3,
    gradient: 'even',
    gobo: noGobo(),
    lightLinking: { mode: 'all', things: [] },
    ...loose(),
    mark: '#E9B44C',
  };
}

/** Key, fill and rim as a small-product table set-up wants them: big and close key, weak fill, narrow rim behind. */
export function threeSoftboxes(): SetLight[] {
  const base = (): Omit<SetLight, 'id' | 'name' | 'role' | 'width' | 'height' | 'position' | 'kelvin' | 'lumens'> => ({
    ...plainLight(),
    shape: 'softbox',
    aim: [0, 0.06, 0],
  });
  return [
    {
      ...base(),
      ...{ id: 'key', name: 'Key', role: 'key', width: 0.6, height: 0.8 },
      position: [-0.75, 0.7, 0.55],
      ...{ kelvin: 5200, lumens: 2600 },
    },
    {
      ...base(),
      ...{ id: 'fill', name: 'Fill', role: 'fill', width: 0.8, height: 0.8 },
      position: [0.95, 0.45, 0.7],
      ...{ kelvin: 6000, lumens: 700 },
    },
    {
      ...base(),
      ...{ id: 'rim', name: 'Rim', role: 'rim', width: 0.25, height: 0.9 },
      position: [0.55, 0.55, -0.6],
      ...{ kelvin: 4600, lumens: 1800 },
    },
  ];
}
