import { byKind, type Field } from '../../../fields.ts';
import type { ThingKindOf } from '../../kind.ts';
import { EFFECT_SETTINGS } from './effect.ts';
import { particles, type ParticlesEffect } from './particles.ts';
import { smoke, type SmokeEffect } from './smoke.ts';

export { EFFECT_LEVELS, plainEffect, type Effect, type EffectLevel, type EffectPlayback } from './effect.ts';
export {
  EMITTER_SHAPES,
  MASK_SIDES,
  MOST_MASK,
  newEmitter,
  newSmoke,
  SMOKE_PROPERTIES,
  SMOKE_SIDES,
  SMOKE_TINTS,
  type EmitterMask,
  type SmokeEffect,
  type SmokeEmitter,
  type SmokeSide,
} from './smoke.ts';
export {
  newParticles,
  PARTICLE_CONTACTS,
  PARTICLE_FORMS,
  PARTICLE_PROPERTIES,
  PARTICLE_SOURCES,
  type ParticleForm,
  type ParticlesEffect,
} from './particles.ts';

/** A simulated thing of a set. */
export type SetEffect = SmokeEffect | ParticlesEffect;

/** What else is a setting: the box that smoke is simulated in; what particles are and when they burst out. */
const SETTINGS: Record<SetEffect['kind'], ReadonlySet<string>> = {
  smoke: new Set([...EFFECT_SETTINGS, 'position', 'width', 'height', 'depth']),
  particles: new Set([
    ...[...EFFECT_SETTINGS, 'source', 'thing', 'follows', 'form', 'product'],
    ...['burst', 'burstAt', 'burstEvery', 'collides', 'contact'],
  ]),
};

/** Whether a path of an effect is a setting: it stands in the set for all frames and takes no keys. */
export const isEffectSetting = ({ kind }: Pick<SetEffect, 'kind'>, path: string): boolean =>
  SETTINGS[kind].has(path.replace(/\.\d$/, ''));

/** Every kind of effect. */
export const EFFECT_KINDS: { [K in SetEffect['kind']]: ThingKindOf<Extract<SetEffect, { kind: K }>> } = {
  smoke,
  particles,
};

export const effectSchema: Field<SetEffect> = byKind<SetEffect>('Effect', {
  smoke: smoke.schema,
  particles: particles.schema,
});

/** Settings of each kind that change how it looks, but not what is simulated. */
const LOOKS: Record<SetEffect['kind'], readonly string[]> = {
  smoke: [
    ...['thickness', 'colour', 'albedo', 'anisotropy', 'contrast'],
    ...['tint', 'otherColour', 'tintDensity', 'tintHeat', 'detail', 'detailSize'],
  ],
  particles: [
    ...['form', 'product', 'growing', 'shrinking'],
    ...['colour', 'otherColour', 'colourSpread', 'roughness', 'transmission'],
  ],
};
/** What no frame of an effect follows from: how it is called, arranged and played. */
const BESIDES = ['name', 'order', 'group', 'locked', 'visible', 'level', 'cells', 'playback'];

/** How an effect looks, apart from what is simulated. */
export const lookOf = (effect: SetEffect): unknown[] =>
  LOOKS[effect.kind].map((name) => (effect as unknown as Record<string, unknown>)[name]);

/** What is left of an emitter or the like: neither its name nor its place in the list nor what it has none of is a cause. */
function causeOf(value: unknown): unknown {
  if (!Array.isArray(value)) return value;
  return value.map((item: unknown) => {
    if (typeof item !== 'object' || item === null || Array.isArray(item)) return item;
    return Object.fromEntries(
      Object.entries(item).filter(([name, own]) => name !== 'name' && name !== 'order' && own !== null),
    );
  });
}

/** The settings that an effect's simulation follows from, with their names. */
export const causesOf = (effect: SetEffect): Array<[string, unknown]> =>
  Object.entries(effect)
    .filter(([name]) => !BESIDES.includes(name) && !LOOKS[effect.kind].includes(name))
    .map(([name, value]) => [name, causeOf(value)]);
