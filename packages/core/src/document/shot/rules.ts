import {
  choice,
  count,
  length,
  number,
  place,
  reference,
  share,
  toggle,
  turn,
  type Properties,
  type Property,
} from '../../properties/index.ts';
import type { Item, Point } from '../common.ts';
import { byKind, field, finite, flag, id, item, list, oneOf, shape, text, type Field } from '../fields.ts';

/** What every rule has. */
export interface RuleBase extends Item {
  /** Id of the thing that it moves. */
  thing: string;
  /** The property that it acts on; empty for the place of the whole thing. */
  path: string;
  muted: boolean;
}

/** What a rule does. Lengths in metres, angles in degrees, times in frames unless a name says otherwise. */
export type RuleDoes =
  /** Smooth random motion that changes its mind about once a period; `amount` in the unit of its property. */
  | { kind: 'drift'; period: number; amount: number; axes: Point; seed: number; seamless: boolean }
  | { kind: 'wave'; period: number; amount: number; axes: Point; phase: number }
  /** Hops of falling height, as of something thrown up; a height of `amount` at first. */
  | { kind: 'hop'; start: number; period: number; amount: number; axes: Point; kept: number }
  /** What comes after the last key, and before the first. */
  | { kind: 'repeat'; mode: RepeatMode }
  | { kind: 'delay'; frames: number }
  /** The level of a band of the music, 0..1 at each frame of the shot, measured when the rule was made. */
  | { kind: 'music'; band: MusicBand; amount: number; axes: Point; attack: number; release: number; levels: number[] }
  /**
   * Looks at a thing; `part` are those of a product's parts that it looks at (as own paths name them, empty: the thing itself),
   * whose middle `offset` then is in the thing's own space, and `roll` is about the line of sight.
   */
  | { kind: 'aim'; target: string; offset: Point; part: string; roll: number }
  /** Goes along a path: `progress` is its share of the path's length. */
  | { kind: 'ride'; target: string; progress: number; orient: boolean; bank: number }
  /** Swings round a thing, or round what it aims at: angles and distance are added to its own. */
  | { kind: 'orbit'; target: string; azimuth: number; elevation: number; distance: number }
  /** Goes where a thing was, so many frames ago, with a lag, and keeps its distance. */
  | { kind: 'follow'; target: string; frames: number; lag: number }
  /**
   * Moves as a thing does, as a copy in an array: so many frames later, turned and scaled by so much; up to a share of each is
   * random, by the seed.
   */
  | { kind: 'mimic'; target: string; frames: number; turn: number; times: number; random: number; seed: number }
  /** Is carried by a thing from a frame on, until another. */
  | { kind: 'parent'; target: string; start: number; end: number }
  /** Rolls as far as it goes, without slipping. */
  | { kind: 'roll'; radius: number }
  /** The focal length that keeps a thing at the size that it has at a frame. */
  | { kind: 'keep-size'; target: string; start: number }
  /** Turns from pose to pose by the shortest way (quaternions), rather than by each angle. */
  | { kind: 'shortest' }
  /** Its three angles one after the other in another order, each about the axis that those before it have turned. */
  | { kind: 'turn-order'; sequence: TurnOrder };

export type Rule = RuleBase & RuleDoes;
export type RuleKind = RuleDoes['kind'];
type Does<K extends RuleKind> = Extract<RuleDoes, { kind: K }>;

export const REPEAT_MODES = ['loop', 'ping-pong', 'continue'] as const;
export type RepeatMode = (typeof REPEAT_MODES)[number];
export const TURN_ORDERS = [
  'turn, tilt, roll',
  'turn, roll, tilt',
  'tilt, turn, roll',
  'tilt, roll, turn',
  'roll, turn, tilt',
  'roll, tilt, turn',
] as const;
export type TurnOrder = (typeof TURN_ORDERS)[number];
export const MUSIC_BANDS = ['low', 'middle', 'high', 'all'] as const;
export type MusicBand = (typeof MUSIC_BANDS)[number];

/** What a rule can be laid on: a number or place, keys of any kind, or a whole thing. */
export type RuleGround = 'value' | 'thread' | 'thing';

interface RuleFacts<K extends RuleKind> {
  title: string;
  ground: RuleGround;
  /** What can be set and keyed; `amount` is shown in the unit of what the rule acts on. */
  properties: Properties;
  /** Whether it follows another thing or a path, and which. */
  target?: 'thing' | 'path' | 'thing or own aim';
  usual: Does<K>;
}

const AXES = { axes: place('Axes', ['Across', 'Up', 'Forward']) } as const;
const AMOUNT = number('Amount', '', -1e6, 1e6, { step: 0.1 });
const frame = (label: string): Property => number(label, 'f', -100000, 200000);
const ALL_AXES: Point = [1, 1, 1];

/** Every kind of rule: its name, what it acts on, its numbers, and how it is when it is new. */
export const RULES: { readonly [K in RuleKind]: RuleFacts<K> } = {
  drift: {
    title: 'Drift',
    ground: 'value',
    properties: {
      period: number('Period', 'f', 0.5, 100000, { usual: 24 }),
      amount: AMOUNT,
      ...AXES,
      seed: count('Seed', 0, 0xffffffff),
      seamless: toggle('Loops without a seam'),
    },
    usual: { kind: 'drift', period: 24, amount: 0.01, axes: ALL_AXES, seed: 1, seamless: false },
  },
  wave: {
    title: 'Wave',
    ground: 'value',
    properties: {
      period: number('Period', 'f', 1, 100000, { usual: 48 }),
      amount: AMOUNT,
      ...AXES,
      phase: turn('Phase'),
    },
    usual: { kind: 'wave', period: 48, amount: 0.01, axes: [0, 1, 0], phase: 0 },
  },
  hop: {
    title: 'Hop',
    ground: 'value',
    properties: {
      start: frame('From frame'),
      period: number('First hop', 'f', 1, 100000, { usual: 12 }),
      amount: AMOUNT,
      ...AXES,
      kept: share('Height kept', { max: 0.95, usual: 0.4 }),
    },
    usual: { kind: 'hop', start: 0, period: 12, amount: 0.03, axes: [0, 1, 0], kept: 0.4 },
  },
  repeat: {
    title: 'Repeat',
    ground: 'thread',
    properties: { mode: choice('Beyond the keys', REPEAT_MODES) },
    usual: { kind: 'repeat', mode: 'loop' },
  },
  delay: {
    title: 'Delay',
    ground: 'thread',
    properties: { frames: number('Later by', 'f', -100000, 100000) },
    usual: { kind: 'delay', frames: 6 },
  },
  music: {
    title: 'Music level',
    ground: 'value',
    properties: {
      band: choice('Band', MUSIC_BANDS),
      amount: AMOUNT,
      ...AXES,
      attack: number('Attack', 'f', 0, 500, { step: 0.5, usual: 0.5 }),
      release: number('Release', 'f', 0, 500, { usual: 5 }),
    },
    usual: { kind: 'music', band: 'low', amount: 0.05, axes: [0, 1, 0], attack: 0.5, release: 5, levels: [] },
  },
  aim: {
    title: 'Aim',
    ground: 'thing',
    target: 'thing',
    properties: {
      part: reference('Part'),
      offset: place('Offset', ['Across', 'Up', 'Forward']),
      roll: number('Roll', 'deg', -360, 360, { usual: 0 }),
    },
    usual: { kind: 'aim', target: '', offset: [0, 0, 0], part: '', roll: 0 },
  },
  ride: {
    title: 'Ride',
    ground: 'thing',
    target: 'path',
    properties: {
      progress: share('Progress', { min: -1000, max: 1000, usual: 0 }),
      orient: toggle('Turns with the path'),
      bank: number('Bank', 'deg', -90, 90, { usual: 0 }),
    },
    usual: { kind: 'ride', target: '', progress: 0, orient: false, bank: 0 },
  },
  orbit: {
    title: 'Orbit',
    ground: 'thing',
    target: 'thing or own aim',
    properties: {
      azimuth: turn('Azimuth'),
      elevation: number('Elevation', 'deg', -90, 90, { usual: 0 }),
      distance: share('Distance', { min: 0.01, max: 100, usual: 1 }),
    },
    usual: { kind: 'orbit', target: '', azimuth: 0, elevation: 0, distance: 1 },
  },
  follow: {
    title: 'Follow',
    ground: 'thing',
    target: 'thing',
    properties: {
      frames: number('Later by', 'f', 0, 1000, { usual: 6 }),
      lag: number('Lag', 'f', 0, 1000, { usual: 0 }),
    },
    usual: { kind: 'follow', target: '', frames: 6, lag: 0 },
  },
  mimic: {
    title: 'Mimic',
    ground: 'thing',
    target: 'thing',
    properties: {
      frames: number('Later by', 'f', -1000, 1000, { usual: 4 }),
      turn: turn('Turned by'),
      times: share('Times', { min: 0.001, max: 1000, usual: 1 }),
      random: share('Random', { usual: 0 }),
      seed: count('Seed', 0, 0xffffffff),
    },
    usual: { kind: 'mimic', target: '', frames: 4, turn: 0, times: 1, random: 0, seed: 1 },
  },
  parent: {
    title: 'Parent',
    ground: 'thing',
    target: 'thing',
    properties: { start: frame('From frame'), end: frame('Until frame') },
    usual: { kind: 'parent', target: '', start: 0, end: 200000 },
  },
  roll: {
    title: 'Roll along',
    ground: 'thing',
    properties: { radius: length('Radius', 0.0001, 100, { step: 0.1 }) },
    usual: { kind: 'roll', radius: 0.03 },
  },
  'keep-size': {
    title: 'Keep size',
    ground: 'thing',
    target: 'thing or own aim',
    properties: { start: frame('Size at frame') },
    usual: { kind: 'keep-size', target: '', start: 0 },
  },
  shortest: { title: 'Shortest turn', ground: 'thing', properties: {}, usual: { kind: 'shortest' } },
  'turn-order': {
    title: 'Turn order',
    ground: 'thing',
    properties: { sequence: choice('Order', TURN_ORDERS) },
    usual: { kind: 'turn-order', sequence: 'tilt, turn, roll' },
  },
};

export const RULE_KINDS = Object.keys(RULES) as RuleKind[];

/** The fields of each number, place, choice and switch of a kind, as its properties tell. */
const own = (kind: RuleKind): Record<string, Field<unknown>> =>
  Object.fromEntries(
    Object.entries(RULES[kind].properties).map(([path, property]) => [
      path,
      field(property as never) as Field<unknown>,
    ]),
  );

const schemaOf = <K extends RuleKind>(kind: K): Field<Extract<Rule, { kind: K }>> =>
  shape<Extract<Rule, { kind: K }>>({
    ...item('Rule'),
    thing: id('Thing'),
    path: text('Property', 120),
    muted: flag('Muted'),
    kind: oneOf('Rule', [kind]),
    ...own(kind),
    ...(RULES[kind].target ? { target: text('Target', 64) } : {}),
    ...(kind === 'music' ? { levels: list('Levels', finite('Level', 0, 1), 100001) } : {}),
  } as never);

export const ruleSchema: Field<Rule> = byKind<Rule>(
  'Rule',
  Object.fromEntries(RULE_KINDS.map((kind) => [kind, schemaOf(kind)])) as never,
);
