import {
  choice,
  count,
  length,
  number,
  reference,
  share,
  toggle,
  turn,
  type Properties,
  type PropertyValue,
} from '../../properties/index.ts';
import { HINGES } from '../set/own.ts';
import { USUAL_EASES, type Ease } from './eases.ts';

/** What the things are that a recipe moves. */
export type RecipeRole = 'camera' | 'product' | 'light' | 'card';

/** A recipe by what can be set of it; motion's recipes say what it makes of that. */
export interface RecipeFacts {
  title: string;
  /** One sentence of what it does. */
  says: string;
  role: RecipeRole;
  /** Whether it takes several things, one after the other. */
  many: boolean;
  /** Whether it swaps variants. */
  swaps?: boolean;
  /** Whether it moves parts of a product: its option `part` names them. */
  parts?: boolean;
  /** Of a camera's move: whether it also needs products, to pass or to focus on. */
  others?: 'product';
  properties: Properties;
  options: Readonly<Record<string, PropertyValue>>;
  ease: Ease;
  /** Frames at 24 a second that it usually takes; 0: the whole shot. */
  usualLength: number;
  /** Of a move that ends one frame after its last, so that the shot loops. */
  loops?: boolean;
}

const SOFT: Ease = USUAL_EASES.soft;
const LANDING: Ease = { kind: 'soft', start: 0, landing: 1 };
export const RECIPE_ORDERS = ['as listed', 'left to right', 'near to far', 'random'] as const;
export type RecipeOrder = (typeof RECIPE_ORDERS)[number];
export const SIDES = ['left', 'right', 'front', 'back', 'above', 'below'] as const;
export type Side = (typeof SIDES)[number];

/** Things that come one after the other. */
const IN_TURN = {
  apart: number('Apart', 'f', 0, 10000, { usual: 6 }),
  sequence: choice('Order', RECIPE_ORDERS),
} as const;
const inTurn = { apart: 6, sequence: 'left to right' } as const;
const degrees = (label: string, usual: number): Properties[string] => turn(label, usual);

const recipes = <const T extends Record<string, RecipeFacts>>(kinds: T): T => kinds;

export const RECIPES = recipes({
  turntable: {
    title: 'Turntable',
    says: 'A steady turn that loops: the frame after the last is the first again.',
    role: 'product',
    many: true,
    properties: {
      turns: number('Turns', '', 0, 1000, { step: 0.25, usual: 1 }),
      axis: choice('Axis', ['upright', 'tilt', 'roll']),
      backwards: toggle('Backwards'),
    },
    options: { turns: 1, axis: 'upright', backwards: false },
    ease: 'linear',
    usualLength: 0,
    loops: true,
  },
  'pop-in': {
    title: 'Pop-in',
    says: 'Grows from nothing, a little too far, and settles.',
    role: 'product',
    many: true,
    properties: { ...IN_TURN, turned: degrees('Turned by', 0) },
    options: { ...inTurn, turned: 0 },
    ease: USUAL_EASES.overshoot,
    usualLength: 14,
  },
  'slide-in': {
    title: 'Slide-in',
    says: 'Comes in from a side, a little turned, and lands softly; the next one mirrored.',
    role: 'product',
    many: true,
    properties: {
      ...IN_TURN,
      side: choice('From', SIDES),
      distance: length('Distance', 0, 100, { usual: 0.6 }),
      turned: degrees('Turned by', 40),
      mirrored: toggle('Mirror the next'),
    },
    options: { ...inTurn, side: 'left', distance: 0.6, turned: 40, mirrored: false },
    ease: LANDING,
    usualLength: 24,
  },
  drop: {
    title: 'Drop and settle',
    says: 'Falls to its place and bounces out.',
    role: 'product',
    many: true,
    properties: { ...IN_TURN, height: length('Height', 0, 100, { usual: 0.3 }), turned: degrees('Turned by', 0) },
    options: { ...inTurn, height: 0.3, turned: 0 },
    ease: { kind: 'bounce', bounces: 3, kept: 0.18 },
    usualLength: 20,
  },
  rise: {
    title: 'Rise',
    says: 'Comes up to its place.',
    role: 'product',
    many: true,
    properties: { ...IN_TURN, height: length('From below', 0, 100, { usual: 0.25 }), turned: degrees('Turned by', 90) },
    options: { ...inTurn, height: 0.25, turned: 90 },
    ease: SOFT,
    usualLength: 30,
  },
  hover: {
    title: 'Hover',
    says: 'Floats up and down over its place, each thing at its own time.',
    role: 'product',
    many: true,
    properties: {
      height: length('Over its place', 0, 10, { usual: 0.04 }),
      swing: length('Up and down', 0, 10, { step: 0.1, usual: 0.008 }),
      period: number('Period', 'f', 2, 10000, { usual: 60 }),
      sway: number('Sway', 'deg', 0, 90, { usual: 2 }),
    },
    options: { height: 0.04, swing: 0.008, period: 60, sway: 2 },
    ease: SOFT,
    usualLength: 0,
  },
  'fan-out': {
    title: 'Fan-out',
    says: 'From the middle, things spread to their places in a fan.',
    role: 'product',
    many: true,
    properties: { ...IN_TURN, swing: degrees('Swing round', 60) },
    options: { ...inTurn, apart: 3, swing: 60 },
    ease: LANDING,
    usualLength: 30,
  },
  'line-up': {
    title: 'Line-up',
    says: 'Things come together in a row across the picture, evenly apart.',
    role: 'product',
    many: true,
    properties: { ...IN_TURN, between: length('Between them', 0, 100, { usual: 0.12 }) },
    options: { ...inTurn, apart: 3, between: 0.12 },
    ease: SOFT,
    usualLength: 36,
  },
  'roll-in': {
    title: 'Roll-in',
    says: 'Lies down and rolls in along the floor without slipping.',
    role: 'product',
    many: false,
    properties: {
      side: choice('From', ['left', 'right', 'front', 'back']),
      distance: length('Distance', 0, 100, { usual: 0.6 }),
      radius: length('Radius', 0.0001, 100, { step: 0.1, usual: 0.03 }),
    },
    options: { side: 'left', distance: 0.6, radius: 0.03 },
    ease: LANDING,
    usualLength: 48,
  },
  'stop-motion': {
    title: 'Stop-motion swap',
    says: 'Shows one variant after the other, each for so many frames.',
    role: 'product',
    many: true,
    properties: { every: number('Every', 'f', 1, 10000, { usual: 3 }) },
    options: { every: 3 },
    ease: 'hold',
    usualLength: 0,
    swaps: true,
  },
  'variant-swap': {
    title: 'Variant swap',
    says: 'Spins once and has become its next variant when it faces front.',
    role: 'product',
    many: true,
    properties: { ...IN_TURN, turns: number('Turns', '', 0, 100, { step: 0.5, usual: 1 }) },
    options: { ...inTurn, turns: 1 },
    ease: SOFT,
    usualLength: 18,
    swaps: true,
  },
  'lid-off': {
    title: 'Lid off',
    says: 'The lid is unscrewed, lifted and set aside in the air.',
    role: 'product',
    many: false,
    parts: true,
    properties: {
      part: reference('Lid'),
      turns: number('Turns loose', '', 0, 100, { step: 0.25, usual: 1.5 }),
      height: length('Lifted by', 0, 100, { usual: 0.06 }),
      aside: length('Aside by', -100, 100, { usual: 0 }),
      tipped: number('Tipped by', 'deg', -180, 180, { usual: 0 }),
      backwards: toggle('Put on instead'),
    },
    options: { part: '', turns: 1.5, height: 0.06, aside: 0, tipped: 0, backwards: false },
    ease: SOFT,
    usualLength: 40,
  },
  'box-open': {
    title: 'Open the box',
    says: 'The lid of a carton, or another part of a model, swings open on its hinge.',
    role: 'product',
    many: false,
    parts: true,
    properties: {
      part: reference('Lid'),
      hinge: choice('Hinge', HINGES),
      closed: number('From', 'deg', 0, 250, { usual: 0 }),
      angle: number('To', 'deg', 0, 250, { usual: 110 }),
    },
    options: { part: '', hinge: 'back', closed: 0, angle: 110 },
    ease: { kind: 'soft', start: 0.3, landing: 1 },
    usualLength: 30,
  },
  'fill-up': {
    title: 'Fill up',
    says: 'The liquid in a built vessel rises to its level.',
    role: 'product',
    many: true,
    properties: {
      ...IN_TURN,
      empty: share('From', { usual: 0.02 }),
      full: share('To', { usual: 0.85 }),
    },
    options: { ...inTurn, empty: 0.02, full: 0.85 },
    ease: SOFT,
    usualLength: 48,
  },
  'push-in': {
    title: 'Push-in',
    says: 'The camera travels towards what it looks at.',
    role: 'camera',
    many: false,
    properties: { closer: share('Closer by', { min: -100, max: 0.99, usual: 0.3 }) },
    options: { closer: 0.3 },
    ease: SOFT,
    usualLength: 0,
  },
  'pull-back': {
    title: 'Pull-back',
    says: 'The camera starts close and travels back to its place.',
    role: 'camera',
    many: false,
    properties: { closer: share('From closer by', { min: -100, max: 0.99, usual: 0.5 }) },
    options: { closer: 0.5 },
    ease: SOFT,
    usualLength: 0,
  },
  'orbit-arc': {
    title: 'Orbit arc',
    says: 'The camera swings round what it looks at.',
    role: 'camera',
    many: false,
    properties: {
      sweep: degrees('Sweep', 40),
      climb: number('Climb', 'deg', -80, 80, { usual: 0 }),
      centred: toggle('Own place in the middle'),
    },
    options: { sweep: 40, climb: 0, centred: true },
    ease: SOFT,
    usualLength: 0,
  },
  crane: {
    title: 'Crane',
    says: 'The camera rises or sinks and keeps looking at the same point.',
    role: 'camera',
    many: false,
    properties: { height: length('Up by', -100, 100, { usual: 0.3 }) },
    options: { height: 0.3 },
    ease: SOFT,
    usualLength: 0,
  },
  slider: {
    title: 'Slider',
    says: 'The camera slides sideways and looks straight on.',
    role: 'camera',
    many: false,
    properties: { across: length('Across by', -100, 100, { usual: 0.2 }), centred: toggle('Own place in the middle') },
    options: { across: 0.2, centred: true },
    ease: SOFT,
    usualLength: 0,
  },
  whip: {
    title: 'Whip',
    says: 'The camera whips round to its view from far off to the side.',
    role: 'camera',
    many: false,
    properties: { sweep: degrees('From', 70) },
    options: { sweep: 70 },
    ease: { kind: 'soft', start: 0.6, landing: 1 },
    usualLength: 8,
  },
  'dolly-zoom': {
    title: 'Dolly zoom',
    says: 'The camera travels while its lens zooms against it: what it looks at keeps its size.',
    role: 'camera',
    many: false,
    properties: { closer: share('Closer by', { min: -100, max: 0.95, usual: 0.5 }) },
    options: { closer: 0.5 },
    ease: SOFT,
    usualLength: 0,
  },
  handheld: {
    title: 'Handheld',
    says: 'The camera is held by hand: it drifts and looks a little aside.',
    role: 'camera',
    many: false,
    properties: {
      strength: share('Strength', { max: 10, usual: 1 }),
      period: number('Period', 'f', 1, 10000, { usual: 40 }),
      seed: count('Seed', 0, 0xffffffff),
    },
    options: { strength: 1, period: 40, seed: 1 },
    ease: 'linear',
    usualLength: 0,
  },
  'fly-past': {
    title: 'Fly-past',
    says: 'The camera passes one product after another, close by, on one smooth way.',
    role: 'camera',
    many: false,
    others: 'product',
    properties: {
      near: length('Passes at', 0.01, 100, { usual: 0.3 }),
      height: length('Height', 0, 100, { usual: 0.1 }),
    },
    options: { near: 0.3, height: 0.1 },
    ease: SOFT,
    usualLength: 0,
  },
  'focus-pull': {
    title: 'Focus pull',
    says: 'Focus goes from one product to the next.',
    role: 'camera',
    many: false,
    others: 'product',
    properties: { hold: share('Held on each', { max: 0.95, usual: 0.4 }) },
    options: { hold: 0.4 },
    ease: SOFT,
    usualLength: 48,
  },
  'light-sweep': {
    title: 'Light sweep',
    says: 'A light travels round the product, and its highlight across it.',
    role: 'light',
    many: false,
    properties: { sweep: degrees('Sweep', 120), centred: toggle('Own place in the middle') },
    options: { sweep: 120, centred: true },
    ease: SOFT,
    usualLength: 48,
  },
  'switch-on': {
    title: 'Switch-on',
    says: 'Lights come on, one after the other.',
    role: 'light',
    many: true,
    properties: { ...IN_TURN, flicker: toggle('Flickers') },
    options: { ...inTurn, sequence: 'as listed', apart: 8, flicker: false },
    ease: LANDING,
    usualLength: 6,
  },
  reveal: {
    title: 'Reveal',
    says: 'A flag in front of the camera slides away and shows the product.',
    role: 'card',
    many: false,
    properties: {
      side: choice('To', ['left', 'right', 'above', 'below']),
      distance: length('Distance', 0, 100, { usual: 0.6 }),
    },
    options: { side: 'left', distance: 0.6 },
    ease: SOFT,
    usualLength: 24,
  },
});
