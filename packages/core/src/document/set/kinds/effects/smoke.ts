import {
  choice,
  colour,
  length,
  number,
  place,
  propertiesOf,
  reference,
  share,
  toggle,
} from '../../../../properties/index.ts';
import type { Item, Point } from '../../../common.ts';
import { field, item, list, oneOf, orNull, shape, text, whole, type Field } from '../../../fields.ts';
import type { ThingKindOf } from '../../kind.ts';
import { loose } from '../../parts.ts';
import { EFFECT, effectFields, plainEffect, speed, speeds, type Effect } from './effect.ts';

export const EMITTER_SHAPES = ['ball', 'box', 'thing'] as const;
/** What the colour of smoke goes by, besides that of its emitters. */
export const SMOKE_TINTS = ['even', 'by density', 'by heat'] as const;

export const MASK_SIDES = ['front', 'side', 'above'] as const;
/** Pixels of a mask along a side at most. */
export const MOST_MASK = 96;

/** A picture thrown over what gives off: where it is dark or clear nothing is given off. */
export interface EmitterMask {
  /** From where it is thrown; its top is up, from above it is behind. */
  from: (typeof MASK_SIDES)[number];
  width: number;
  height: number;
  /** What each pixel lets through as a hexadecimal digit, row by row from the top. */
  values: string;
}

/** Where smoke comes from: a ball or box in the set, or the skin of a thing. Lengths in metres. */
export interface SmokeEmitter extends Item {
  on: boolean;
  shape: (typeof EMITTER_SHAPES)[number];
  /** Id of the thing that it clings to, whose place the shape's is measured from; empty: the set's. */
  thing: string;
  position: Point;
  width: number;
  height: number;
  depth: number;
  /** Parts of the thing that give off, by number with - between; empty: all of it. */
  parts: string;
  /** Between which heights of the thing it gives off, shares of its height. */
  lowest: number;
  highest: number;
  /** Density a second. */
  rate: number;
  /** Degrees above the room's. */
  heat: number;
  /** Metres a second. */
  velocity: Point;
  /** How uneven it gives off, 0..1. */
  noise: number;
  /** Of what it gives off; the smoke's own colour tints all. */
  colour: string;
  mask: EmitterMask | null;
}

export const SMOKE_SIDES = ['left', 'right', 'floor', 'top', 'back', 'front'] as const;
export type SmokeSide = (typeof SMOKE_SIDES)[number];

/** Smoke in a box that stands upright on the middle of its base. */
export interface SmokeEffect extends Effect {
  kind: 'smoke';
  position: Point;
  width: number;
  height: number;
  depth: number;
  emitters: SmokeEmitter[];
  /** Metres a second squared by which smoke of density 1 sinks. */
  weight: number;
  /** The same by which gas rises for each 100 degrees above the room's. */
  lift: number;
  /** Vorticity confinement. */
  swirl: number;
  /** Metres a second squared, and the size of its eddies in metres. */
  turbulence: number;
  eddies: number;
  /** Metres a second, and the share of it that gas takes on in a second. */
  wind: Point;
  windGrip: number;
  /** Shares that are lost in a second. */
  dissipation: number;
  cooling: number;
  /** Sides that are walls; the others are open. */
  walls: Record<SmokeSide, boolean>;
  /** Whether smoke flows round the things of the set. */
  collides: boolean;
  /** Extinction per metre at density 1, the colour that it scatters, and which way (Henyey-Greenstein). */
  thickness: number;
  colour: string;
  albedo: number;
  anisotropy: number;
  /** Density to this power is what is seen: above 1 thin smoke gets thinner. */
  contrast: number;
  /** What another colour goes by, and the density or the degrees at which it is reached. */
  tint: (typeof SMOKE_TINTS)[number];
  otherColour: string;
  tintDensity: number;
  tintHeat: number;
  /** How far renders break density up by noise that moves with the flow, 0..1, and the size of its grain in metres. */
  detail: number;
  detailSize: number;
}

const pull = (label: string, usual: number): ReturnType<typeof number> =>
  number(label, 'm/s2', -50, 50, { step: 0.1, usual });

export const SMOKE_PROPERTIES = propertiesOf<SmokeEffect>()({
  ...EFFECT,
  position: place('Place', ['Across', 'Height', 'Forward']),
  width: length('Width', 0.01, 100),
  height: length('Height', 0.01, 100),
  depth: length('Depth', 0.01, 100),
  weight: pull('Sinks', 0),
  lift: pull('Rises by heat', 2),
  swirl: number('Swirl', '', 0, 30, { step: 0.5, usual: 4 }),
  turbulence: number('Turbulence', 'm/s2', 0, 50, { step: 0.1, usual: 0.5 }),
  eddies: length('Size of eddies', 0.001, 10, { step: 0.5, usual: 0.06 }),
  'wind.0': speed('Wind across'),
  'wind.1': speed('Wind up'),
  'wind.2': speed('Wind forward'),
  windGrip: share('Wind takes hold'),
  dissipation: share('Dissipation', { usual: 0.1 }),
  cooling: share('Cooling', { usual: 0.3 }),
  'walls.left': toggle('Wall on the left'),
  'walls.right': toggle('Wall on the right'),
  'walls.floor': toggle('Floor'),
  'walls.top': toggle('Ceiling'),
  'walls.back': toggle('Wall behind'),
  'walls.front': toggle('Wall in front'),
  collides: toggle('Flows round things'),
  thickness: number('Density', '1/m', 0, 5000, { step: 5, usual: 80 }),
  colour: colour('Colour'),
  albedo: share('Albedo', { max: 0.99, usual: 0.95 }),
  anisotropy: number('Anisotropy', '', -0.95, 0.95, { step: 0.05, usual: 0.3 }),
  contrast: number('Density curve', '', 0.25, 4, { step: 0.05, usual: 1 }),
  tint: choice('Tint', SMOKE_TINTS),
  otherColour: colour('Other colour'),
  tintDensity: number('Reached at density', '', 0.01, 100, { step: 0.1, usual: 1 }),
  tintHeat: number('Reached at heat', 'K', 1, 2000, { step: 5, usual: 40 }),
  detail: share('Detail'),
  detailSize: length('Grain of detail', 0.0005, 1, { step: 0.1, usual: 0.01 }),
  'emitters.*.on': toggle('Gives off'),
  'emitters.*.shape': choice('Shape', EMITTER_SHAPES),
  'emitters.*.thing': reference('Clings to'),
  'emitters.*.position': place('Emitter', ['Emitter across', 'Emitter height', 'Emitter forward']),
  'emitters.*.width': length('Emitter width', 0.001, 100),
  'emitters.*.height': length('Emitter height', 0.001, 100),
  'emitters.*.depth': length('Emitter depth', 0.001, 100),
  'emitters.*.parts': reference('Parts'),
  'emitters.*.lowest': share('From height'),
  'emitters.*.highest': share('Up to height', { usual: 1 }),
  'emitters.*.colour': colour('Emitter colour'),
  'emitters.*.rate': number('Rate', '/s', 0, 1000, { step: 1, usual: 10 }),
  'emitters.*.heat': number('Heat', 'K', 0, 2000, { step: 10, usual: 60 }),
  'emitters.*.velocity.0': speed('Blows across'),
  'emitters.*.velocity.1': speed('Blows up'),
  'emitters.*.velocity.2': speed('Blows forward'),
  'emitters.*.noise': share('Uneven', { usual: 0.4 }),
});

const P = SMOKE_PROPERTIES;

const mask = shape<EmitterMask>({
  from: oneOf('Side of a mask', MASK_SIDES),
  width: whole('Width of a mask', 1, MOST_MASK),
  height: whole('Height of a mask', 1, MOST_MASK),
  values: text('Values of a mask', MOST_MASK * MOST_MASK).matches(/^[0-9a-f]+$/, 'A mask holds hexadecimal digits.'),
}).test(
  'pixels',
  'A mask must have a value for each of its pixels: choose its picture again.',
  (m) => !m || m.values.length === m.width * m.height,
) as Field<EmitterMask>;

const emitter = shape<SmokeEmitter>({
  ...item('Emitter name'),
  on: field(P['emitters.*.on']),
  shape: field(P['emitters.*.shape']),
  thing: field(P['emitters.*.thing']),
  position: field(P['emitters.*.position']),
  width: field(P['emitters.*.width']),
  height: field(P['emitters.*.height']),
  depth: field(P['emitters.*.depth']),
  rate: field(P['emitters.*.rate']),
  heat: field(P['emitters.*.heat']),
  parts: field(P['emitters.*.parts']),
  lowest: field(P['emitters.*.lowest']),
  highest: field(P['emitters.*.highest']),
  velocity: speeds('Speed of an emitter'),
  noise: field(P['emitters.*.noise']),
  colour: field(P['emitters.*.colour']),
  mask: orNull(mask),
});

const GROUPS = [
  { title: 'Domain', paths: ['width', 'height', 'depth', 'position'] },
  { title: 'Motion', paths: ['weight', 'lift', 'swirl', 'turbulence', 'eddies', 'dissipation', 'cooling'] },
  { title: 'Wind', paths: ['wind.0', 'wind.1', 'wind.2', 'windGrip'] },
  { title: 'Look', paths: ['thickness', 'contrast', 'albedo', 'anisotropy', 'detail', 'detailSize'] },
];

export const smoke: ThingKindOf<SmokeEffect> = {
  role: 'effect',
  schema: shape<SmokeEffect>({
    ...effectFields,
    kind: oneOf('Effect', ['smoke']),
    position: field(P.position),
    width: field(P.width),
    height: field(P.height),
    depth: field(P.depth),
    emitters: list('Emitters', emitter, 32),
    weight: field(P.weight),
    lift: field(P.lift),
    swirl: field(P.swirl),
    turbulence: field(P.turbulence),
    eddies: field(P.eddies),
    wind: speeds('Wind'),
    windGrip: field(P.windGrip),
    dissipation: field(P.dissipation),
    cooling: field(P.cooling),
    walls: shape<SmokeEffect['walls']>({
      left: field(P['walls.left']),
      right: field(P['walls.right']),
      floor: field(P['walls.floor']),
      top: field(P['walls.top']),
      back: field(P['walls.back']),
      front: field(P['walls.front']),
    }),
    collides: field(P.collides),
    thickness: field(P.thickness),
    colour: field(P.colour),
    albedo: field(P.albedo),
    anisotropy: field(P.anisotropy),
    contrast: field(P.contrast),
    tint: field(P.tint),
    otherColour: field(P.otherColour),
    tintDensity: field(P.tintDensity),
    tintHeat: field(P.tintHeat),
    detail: field(P.detail),
    detailSize: field(P.detailSize),
  }),
  properties: () => P,
  groups: () => GROUPS,
};

/** An emitter with the usual values. */
export function newEmitter(id: string, name: string, values: Partial<SmokeEmitter> = {}): SmokeEmitter {
  return {
    ...{ id, name, on: true, shape: 'ball', thing: '', position: [0, 0.03, 0], width: 0.06, height: 0.06, depth: 0.06 },
    ...{ parts: '', lowest: 0, highest: 1 },
    ...{ rate: 12, heat: 60, velocity: [0, 0, 0], noise: 0.4, colour: '#FFFFFF', mask: null },
    ...values,
  };
}

/** Smoke in a box of the usual size round what stands in the middle of a set. */
export function newSmoke(id: string, name: string, values: Partial<SmokeEffect> = {}): SmokeEffect {
  const { width = 0.4, height = 0.4, depth = 0.4 } = values;
  return {
    ...{ id, name, kind: 'smoke' },
    ...loose(),
    ...plainEffect(Math.max(width, height, depth)),
    ...{ position: [0, 0, 0], width, height, depth },
    emitters: [newEmitter(`${id}-source`, 'Source')],
    ...{ weight: 0, lift: 2, swirl: 4, turbulence: 0.5, eddies: 0.06, wind: [0, 0, 0], windGrip: 0 },
    ...{ dissipation: 0.1, cooling: 0.3 },
    walls: { left: false, right: false, floor: true, top: false, back: false, front: false },
    ...{ collides: true, thickness: 80, colour: '#FFFFFF', albedo: 0.95, anisotropy: 0.3, contrast: 1 },
    ...{ tint: 'even', otherColour: '#8C7AA8', tintDensity: 1, tintHeat: 40, detail: 0, detailSize: 0.01 },
    ...values,
  };
}
