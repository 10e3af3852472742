import { byKind, type Field } from '../../../fields.ts';
import type { ThingKindOf } from '../../kind.ts';
import { smoke, type SmokeEffect } from './smoke.ts';

export {
  EFFECT_LEVELS,
  isEffectSetting,
  plainEffect,
  type Effect,
  type EffectLevel,
  type EffectPlayback,
} from './effect.ts';
export {
  EMITTER_SHAPES,
  newEmitter,
  newSmoke,
  SMOKE_PROPERTIES,
  SMOKE_SIDES,
  type SmokeEffect,
  type SmokeEmitter,
  type SmokeSide,
} from './smoke.ts';

/** A simulated thing of a set. */
export type SetEffect = SmokeEffect;

/** Every kind of effect. */
export const EFFECT_KINDS: { [K in SetEffect['kind']]: ThingKindOf<Extract<SetEffect, { kind: K }>> } = { smoke };

export const effectSchema: Field<SetEffect> = byKind<SetEffect>('Effect', { smoke: smoke.schema });
