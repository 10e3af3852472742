import { eachOf, mapOf, renamed, type Migration, type Stored } from '../migration.ts';

/**
 * Version 2: light shapes and controls, what sees what, lens and shutter; all as they were before by default.
 * Frozen, like every step: it is made of literals, so that what defaults are today never changes what old sets become.
 */
const richer: Migration = (old) => {
  const seenBy = (): Stored => ({ camera: true, reflections: true, shadows: true, lighting: true });
  return {
    ...old,
    version: 2,
    products: eachOf(old.products, () => ({ seenBy: seenBy() })),
    surfaces: eachOf(old.surfaces, () => ({
      seenBy: seenBy(),
      mirror: { strength: 0, blur: 0.1, reach: 0.15 },
      catcher: false,
    })),
    lights: eachOf(old.lights, () => ({
      on: true,
      seen: false,
      spread: 0,
      cone: 40,
      softness: 0.3,
      gradient: 'even',
      gobo: { pattern: 'none', distance: 0.3, width: 0.6, height: 0.6, repeat: 4, seed: 1 },
      touches: { mode: 'all', things: [] },
    })),
    environment: { ...(old.environment as Stored), seen: true },
    // Takes made before had no motion blur: they stay as they were.
    cameras: eachOf(old.cameras, () => ({ focusOn: '', blades: 0, shiftX: 0, shiftY: 0, shutter: 0 })),
    view: 'neutral',
  };
};

/** Version 3: variants, whole finishes on surfaces, what stands on what, groups, rooms. */
const staged: Migration = (old) => {
  const held = (): Stored => ({ group: '', locked: false });
  return {
    ...old,
    version: 3,
    products: eachOf(old.products, () => ({ ...held(), variant: '', standsOn: '', scale: 1 })),
    surfaces: eachOf(old.surfaces, () => ({ ...held(), finish: null })),
    lights: eachOf(old.lights, () => ({ ...held(), mark: '#E9B44C' })),
    environment: { room: { kind: 'studio', asset: '', boxes: [] }, ...(old.environment as Stored) },
  };
};

/** Version 4: the trade's names. A card with the mirror and catcher that version 2 gave every surface loses them. */
const tradeNames: Migration = (old) => ({
  ...old,
  version: 4,
  products: mapOf(old.products, (thing) => renamed(thing, { seenBy: 'rayVisibility' })),
  surfaces: mapOf(old.surfaces, (thing) => {
    const surface = renamed(thing, { seenBy: 'rayVisibility' });
    if (surface.kind === 'sweep') return surface;
    const { mirror: _mirror, catcher: _catcher, ...own } = surface;
    return own;
  }),
  lights: mapOf(old.lights, (thing) =>
    renamed(thing, { spread: 'gridAngle', cone: 'beamAngle', touches: 'lightLinking' }),
  ),
});

/** Version 5: effects. */
const effects: Migration = (old) => ({ ...old, version: 5, effects: [] });

/** Version 6: cameras roll, and there are nulls. */
const rollAndNulls: Migration = (old) => ({
  ...old,
  version: 6,
  cameras: eachOf(old.cameras, () => ({ roll: 0 })),
  nulls: [],
});

/** Version 7: smoke has colours, a density curve and detail; emitters can be parts of things. */
const smokeLooks: Migration = (old) => ({
  ...old,
  version: 7,
  effects: mapOf(old.effects, (effect) =>
    effect.kind === 'smoke'
      ? {
          ...effect,
          ...{ contrast: 1, tint: 'even', otherColour: '#8C7AA8', tintDensity: 1, tintHeat: 40 },
          ...{ detail: 0, detailSize: 0.01 },
          emitters: eachOf(effect.emitters, () => ({ parts: '', lowest: 0, highest: 1, colour: '#FFFFFF' })),
        }
      : effect,
  ),
});

/** Version 8: emitters have masks. */
const masks: Migration = (old) => ({
  ...old,
  version: 8,
  effects: mapOf(old.effects, (effect) =>
    effect.kind === 'smoke' ? { ...effect, emitters: eachOf(effect.emitters, () => ({ mask: null })) } : effect,
  ),
});

/** Version 9: cards roll. */
const rollingCards: Migration = (old) => ({
  ...old,
  version: 9,
  surfaces: mapOf(old.surfaces, (surface) => (surface.kind === 'card' ? { ...surface, roll: 0 } : surface)),
});

export const setMigrations: readonly Migration[] = [
  richer,
  staged,
  tradeNames,
  effects,
  rollAndNulls,
  smokeLooks,
  masks,
  rollingCards,
];
