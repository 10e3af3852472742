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
import type { Point } from '../../../common.ts';
import { field, oneOf, shape } from '../../../fields.ts';
import type { ThingKindOf } from '../../kind.ts';
import { loose } from '../../parts.ts';
import { EFFECT, effectFields, plainEffect, speed, speeds, type Effect } from './effect.ts';

export const PARTICLE_SOURCES = ['point', 'ball', 'box', 'thing'] as const;
export const PARTICLE_FORMS = ['speck', 'petal', 'leaf', 'seed', 'flake', 'ice', 'bead', 'product'] as const;
export type ParticleForm = (typeof PARTICLE_FORMS)[number];
export const PARTICLE_CONTACTS = ['bounce', 'stick', 'vanish'] as const;

/** Many small things that are given off, fly and come to rest. Lengths in metres, times in seconds. */
export interface ParticlesEffect extends Effect {
  kind: 'particles';
  /** What gives them off: a place, a ball or box round it, or the skin of a thing. */
  source: (typeof PARTICLE_SOURCES)[number];
  /** Id of the thing that the source clings to; empty: the set. */
  thing: string;
  /** Measured from the thing's place. */
  position: Point;
  width: number;
  height: number;
  depth: number;
  /** Particles a second. */
  rate: number;
  /** Particles at once, at this frame of the effect, and again after so many frames; 0: once. */
  burst: number;
  burstAt: number;
  burstEvery: number;
  life: number;
  /** How much lives differ, 0..1. */
  lifeSpread: number;
  /** Metres a second at birth. */
  velocity: Point;
  /** The same away from the middle of the source, or from the skin. */
  outward: number;
  /** How much velocities differ, 0..1. */
  spread: number;
  /** Metres a second squared, downwards. */
  gravity: number;
  /** Share of the velocity against the air that is lost in a second, as a rate (1/s). */
  drag: number;
  wind: Point;
  /** Metres a second, and the size of its eddies. */
  turbulence: number;
  eddies: number;
  /** Metres a second round the upright axis through the goal. */
  swirl: number;
  /** Metres a second squared towards the goal. */
  pull: number;
  goal: Point;
  /** Id of a smoke effect whose gas carries them, and how far it is taken for the air, 0..1. */
  follows: string;
  following: number;
  /** How far they are thin plates that flutter, 0..1, and turns a second at birth. */
  flutter: number;
  tumble: number;
  collides: boolean;
  contact: (typeof PARTICLE_CONTACTS)[number];
  /** Share of the velocity that a hit gives back, and friction. */
  bounce: number;
  friction: number;
  form: ParticleForm;
  /** Id of the product that is copied. */
  product: string;
  size: number;
  sizeSpread: number;
  /** Shares of a life in which it grows and shrinks. */
  growing: number;
  shrinking: number;
  colour: string;
  /** The colour at the other end of their range, and how they are spread over it, 0..1. */
  otherColour: string;
  colourSpread: number;
  roughness: number;
  /** Share of light that passes through. */
  transmission: number;
}

export const PARTICLE_PROPERTIES = propertiesOf<ParticlesEffect>()({
  ...EFFECT,
  source: choice('Source', PARTICLE_SOURCES),
  thing: reference('Clings to'),
  position: place('Place', ['Across', 'Height', 'Forward']),
  width: length('Width', 0.001, 100),
  height: length('Height', 0.001, 100),
  depth: length('Depth', 0.001, 100),
  rate: number('Rate', '/s', 0, 100000, { step: 5, usual: 100 }),
  burst: number('Burst', '', 0, 200000, { step: 10, rounding: 1, usual: 0 }),
  burstAt: number('Burst after', 'f', 0, 100000, { step: 1, rounding: 1 }),
  burstEvery: number('Burst again after', 'f', 0, 100000, { step: 1, rounding: 1 }),
  life: number('Life', 's', 0.02, 600, { step: 0.5, usual: 4 }),
  lifeSpread: share('Life varies', { usual: 0.3 }),
  'velocity.0': speed('Velocity across'),
  'velocity.1': speed('Velocity up'),
  'velocity.2': speed('Velocity forward'),
  outward: speed('Velocity outwards'),
  spread: share('Velocity varies', { usual: 0.3 }),
  gravity: number('Gravity', 'm/s2', -50, 50, { step: 0.2, usual: 9.81 }),
  drag: number('Drag', '1/s', 0, 200, { step: 0.5, usual: 4 }),
  'wind.0': speed('Wind across'),
  'wind.1': speed('Wind up'),
  'wind.2': speed('Wind forward'),
  turbulence: number('Turbulence', 'm/s', 0, 20, { step: 0.02, usual: 0.1 }),
  eddies: length('Size of eddies', 0.001, 10, { step: 0.5, usual: 0.1 }),
  swirl: speed('Swirl'),
  pull: number('Pull to the goal', 'm/s2', -100, 100, { step: 0.2 }),
  goal: place('Goal', ['Goal across', 'Goal height', 'Goal forward']),
  follows: reference('Carried by smoke'),
  following: share('Carried along', { usual: 1 }),
  flutter: share('Flutter'),
  tumble: number('Tumble', '1/s', 0, 20, { step: 0.2, usual: 1 }),
  collides: toggle('Meets things and floor'),
  contact: choice('On a hit', PARTICLE_CONTACTS),
  bounce: share('Bounce', { max: 0.98, usual: 0.3 }),
  friction: share('Friction', { usual: 0.4 }),
  form: choice('Form', PARTICLE_FORMS),
  product: reference('Product'),
  size: length('Size', 0.0001, 2, { step: 0.05, usual: 0.01 }),
  sizeSpread: share('Size varies', { usual: 0.3 }),
  growing: share('Grows in', { usual: 0.05 }),
  shrinking: share('Shrinks away', { usual: 0.1 }),
  colour: colour('Colour'),
  otherColour: colour('Other colour'),
  colourSpread: share('Colour varies', { usual: 1 }),
  roughness: share('Roughness', { usual: 0.5 }),
  transmission: share('Transmission'),
});

const P = PARTICLE_PROPERTIES;

const GROUPS = [
  { title: 'Birth', paths: ['rate', 'burst', 'burstAt', 'burstEvery', 'life', 'lifeSpread', 'outward', 'spread'] },
  { title: 'Launch', paths: ['velocity.0', 'velocity.1', 'velocity.2'] },
  { title: 'Motion', paths: ['gravity', 'drag', 'turbulence', 'eddies', 'flutter', 'tumble'] },
  { title: 'Wind and pull', paths: ['wind.0', 'wind.1', 'wind.2', 'swirl', 'pull', 'goal', 'following'] },
  { title: 'Contact', paths: ['bounce', 'friction'] },
  { title: 'Look', paths: ['size', 'sizeSpread', 'growing', 'shrinking', 'colourSpread', 'roughness', 'transmission'] },
];

export const particles: ThingKindOf<ParticlesEffect> = {
  role: 'effect',
  schema: shape<ParticlesEffect>({
    ...effectFields,
    kind: oneOf('Effect', ['particles']),
    source: field(P.source),
    thing: field(P.thing),
    position: field(P.position),
    width: field(P.width),
    height: field(P.height),
    depth: field(P.depth),
    rate: field(P.rate),
    burst: field(P.burst),
    burstAt: field(P.burstAt),
    burstEvery: field(P.burstEvery),
    life: field(P.life),
    lifeSpread: field(P.lifeSpread),
    velocity: speeds('Velocity of particles'),
    outward: field(P.outward),
    spread: field(P.spread),
    gravity: field(P.gravity),
    drag: field(P.drag),
    wind: speeds('Wind'),
    turbulence: field(P.turbulence),
    eddies: field(P.eddies),
    swirl: field(P.swirl),
    pull: field(P.pull),
    goal: field(P.goal),
    follows: field(P.follows),
    following: field(P.following),
    flutter: field(P.flutter),
    tumble: field(P.tumble),
    collides: field(P.collides),
    contact: field(P.contact),
    bounce: field(P.bounce),
    friction: field(P.friction),
    form: field(P.form),
    product: field(P.product),
    size: field(P.size),
    sizeSpread: field(P.sizeSpread),
    growing: field(P.growing),
    shrinking: field(P.shrinking),
    colour: field(P.colour),
    otherColour: field(P.otherColour),
    colourSpread: field(P.colourSpread),
    roughness: field(P.roughness),
    transmission: field(P.transmission),
  }),
  properties: () => P,
  groups: () => GROUPS,
};

/** Particles with the usual values: specks of dust in a box. */
export function newParticles(id: string, name: string, values: Partial<ParticlesEffect> = {}): ParticlesEffect {
  const { width = 0.4, height = 0.4, depth = 0.4 } = values;
  return {
    ...{ id, name, kind: 'particles' },
    ...loose(),
    ...plainEffect(Math.max(width, height, depth)),
    ...{ source: 'box', thing: '', position: [0, 0.2, 0], width, height, depth },
    ...{ rate: 100, burst: 0, burstAt: 0, burstEvery: 0, life: 4, lifeSpread: 0.3 },
    ...{ velocity: [0, 0, 0], outward: 0, spread: 0.3 },
    ...{ gravity: 0.02, drag: 4, wind: [0, 0, 0], turbulence: 0.03, eddies: 0.1 },
    ...{ swirl: 0, pull: 0, goal: [0, 0.1, 0], follows: '', following: 1, flutter: 0, tumble: 1 },
    ...{ collides: false, contact: 'stick', bounce: 0.3, friction: 0.4 },
    ...{ form: 'speck', product: '', size: 0.001, sizeSpread: 0.5, growing: 0.1, shrinking: 0.1 },
    ...{ colour: '#FFFFFF', otherColour: '#F1E2C8', colourSpread: 1, roughness: 0.6, transmission: 0 },
    ...values,
  };
}
