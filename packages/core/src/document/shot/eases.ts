import * as yup from 'yup';
import type { Item } from '../common.ts';
import { byKind, finite, id, item, numbers, oneOf, shape, share, whole, type Field } from '../fields.ts';

/** `eased` flows through keys without stopping, and rests at turning points and ends. */
export const PLAIN_EASES = ['eased', 'linear', 'hold'] as const;
export type PlainEase = (typeof PLAIN_EASES)[number];

/** How a span goes from its key to the next, by numbers; each shape in closed form, see motion's easeFunction(). */
export type EaseShape =
  /** Strengths: at 1 the speed at that end is exactly 0, with both at 0 the span is linear. */
  | { kind: 'soft'; start: number; landing: number }
  /** Shoots past the next key by this share of the way, and comes back. */
  | { kind: 'overshoot'; amount: number }
  /** Falls on the next key and springs back from it, each time to this share of the height. */
  | { kind: 'bounce'; bounces: number; kept: number }
  /** A mass on a damped spring; the span counts as a second. Units as SI. */
  | { kind: 'spring'; mass: number; stiffness: number; damping: number }
  | { kind: 'steps'; count: number }
  /** A cubic Bezier's handles as shares of the span and of the way (CSS Easing Functions 1, 2.2). */
  | { kind: 'bezier'; out: [number, number]; in: [number, number] };

/** An ease that several spans share: a change of it changes them all. */
export interface LinkedEase extends Item {
  ease: EaseShape;
}

/** `ease` rules the span from its key to the next. */
export type Ease = PlainEase | EaseShape | { kind: 'linked'; id: string };

/** Any of them at the strength that it usually has. */
export const USUAL_EASES: { readonly [K in EaseShape['kind']]: Extract<EaseShape, { kind: K }> } = {
  soft: { kind: 'soft', start: 1, landing: 1 },
  overshoot: { kind: 'overshoot', amount: 0.1 },
  bounce: { kind: 'bounce', bounces: 3, kept: 0.35 },
  spring: { kind: 'spring', mass: 1, stiffness: 200, damping: 14 },
  steps: { kind: 'steps', count: 6 },
  bezier: { kind: 'bezier', out: [0.4, 0], in: [0.6, 1] },
};

/** Least and most of the numbers of eases. */
export const EASE_LIMITS = {
  amount: [0, 1],
  bounces: [1, 8],
  kept: [0.05, 0.8],
  mass: [0.1, 10],
  stiffness: [10, 2000],
  damping: [0.5, 100],
  count: [1, 240],
  reach: [-4, 5],
} as const;

const inLimits = (label: string, limit: keyof typeof EASE_LIMITS): yup.NumberSchema<number> =>
  finite(label, EASE_LIMITS[limit][0], EASE_LIMITS[limit][1]);

/** Along the span a handle stays within it: a curve has one value at a frame. */
const handle = (label: string): Field<[number, number]> =>
  numbers<[number, number]>(label, 2, EASE_LIMITS.reach[0], EASE_LIMITS.reach[1]).test(
    'within',
    `${label} must lie between its two keys.`,
    (at) => !at || (at[0] >= 0 && at[0] <= 1),
  ) as Field<[number, number]>;

const SHAPES: { [K in EaseShape['kind']]: Field<Extract<EaseShape, { kind: K }>> } = {
  soft: shape({ kind: oneOf('Ease', ['soft']), start: share('Soft start'), landing: share('Soft landing') }),
  overshoot: shape({ kind: oneOf('Ease', ['overshoot']), amount: inLimits('Overshoot', 'amount') }),
  bounce: shape({
    kind: oneOf('Ease', ['bounce']),
    bounces: whole('Bounces', ...EASE_LIMITS.bounces),
    kept: inLimits('Height kept', 'kept'),
  }),
  spring: shape({
    kind: oneOf('Ease', ['spring']),
    mass: inLimits('Mass', 'mass'),
    stiffness: inLimits('Stiffness', 'stiffness'),
    damping: inLimits('Damping', 'damping'),
  }),
  steps: shape({ kind: oneOf('Ease', ['steps']), count: whole('Steps', ...EASE_LIMITS.count) }),
  bezier: shape({ kind: oneOf('Ease', ['bezier']), out: handle('Handle'), in: handle('Handle') }),
};

const shaped: Field<EaseShape> = byKind<EaseShape>('Ease', SHAPES);
const shapedOrLinked = byKind<EaseShape | { kind: 'linked'; id: string }>('Ease', {
  ...SHAPES,
  linked: shape({ kind: oneOf('Ease', ['linked']), id: id('Linked ease') }),
});

export const easeSchema = yup.lazy((given: unknown) =>
  typeof given === 'object' && given !== null ? shapedOrLinked : oneOf('Ease', PLAIN_EASES),
) as unknown as Field<Ease>;

export const linkedEaseSchema: Field<LinkedEase> = shape<LinkedEase>({ ...item('Linked ease'), ease: shaped });
