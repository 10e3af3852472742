import { choice, length, number, share, toggle } from '../../../../properties/index.ts';
import type { Item, Point } from '../../../common.ts';
import { field, item, numbers, shape, type Field } from '../../../fields.ts';
import { arrangedFields, type Arranged } from '../../parts.ts';

export const EFFECT_LEVELS = ['coarse', 'normal', 'fine'] as const;
/** How fine an effect is simulated. */
export type EffectLevel = (typeof EFFECT_LEVELS)[number];

/** How what was simulated is played in a shot. */
export interface EffectPlayback {
  backwards: boolean;
  /** Simulated frames a frame. */
  speed: number;
  /** Frames by which it begins later. */
  offset: number;
  /** Whether it begins anew when it is over. */
  loop: boolean;
}

/** What all simulated things of a set have. */
export interface Effect extends Item, Arranged {
  visible: boolean;
  /** Frame of the shot at which the simulation begins. */
  start: number;
  seed: number;
  /** Which level takes use. */
  level: EffectLevel;
  /** Metres a cell, by level. */
  cells: Record<EffectLevel, number>;
  playback: EffectPlayback;
}

/** Metres a second at most, along each axis. */
const FASTEST = 20;
/** A velocity as a field, and one of its axes as a property. */
export const speeds = (label: string): Field<Point> => numbers<Point>(label, 3, -FASTEST, FASTEST);
export const speed = (label: string): ReturnType<typeof number> =>
  number(label, 'm/s', -FASTEST, FASTEST, { step: 0.05 });

const cell = (label: string): ReturnType<typeof length> => length(label, 0.0005, 1, { step: 0.05, usual: 0.01 });

export const EFFECT = {
  visible: toggle('Visible'),
  start: number('Begins', 'f', -2000, 100000),
  seed: number('Seed', '', 0, 0xffffffff, { rounding: 1 }),
  level: choice('Level of takes', EFFECT_LEVELS),
  'cells.coarse': cell('Coarse cell'),
  'cells.normal': cell('Normal cell'),
  'cells.fine': cell('Fine cell'),
  'playback.backwards': toggle('Backwards'),
  'playback.speed': share('Speed', { min: 0.01, max: 20, usual: 1 }),
  'playback.offset': number('Later by', 'f', -100000, 100000),
  'playback.loop': toggle('Loop'),
} as const;

/** What says how any effect is made up rather than what it does: its cells, and how it is played. */
export const EFFECT_SETTINGS: readonly string[] = Object.keys(EFFECT).filter((path) => path !== 'visible');

export const effectFields = {
  ...item('Effect name'),
  ...arrangedFields,
  visible: field(EFFECT.visible),
  start: field(EFFECT.start),
  seed: field(EFFECT.seed),
  level: field(EFFECT.level),
  cells: shape<Effect['cells']>({
    coarse: field(EFFECT['cells.coarse']),
    normal: field(EFFECT['cells.normal']),
    fine: field(EFFECT['cells.fine']),
  }),
  playback: shape<EffectPlayback>({
    backwards: field(EFFECT['playback.backwards']),
    speed: field(EFFECT['playback.speed']),
    offset: field(EFFECT['playback.offset']),
    loop: field(EFFECT['playback.loop']),
  }),
} satisfies { [K in keyof Effect]-?: Field<Effect[K]> };

/** The usual way in which an effect is played and simulated; cells for a domain so wide. */
export function plainEffect(widest: number): Omit<Effect, 'id' | 'name' | 'group' | 'locked'> {
  const per = (count: number): number => Number(Math.max(0.0005, widest / count).toPrecision(2));
  return {
    visible: true,
    ...{ start: 0, seed: 1, level: 'normal' },
    cells: { coarse: per(48), normal: per(80), fine: per(128) },
    playback: { backwards: false, speed: 1, offset: 0, loop: false },
  };
}
