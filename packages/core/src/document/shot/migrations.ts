import { mapOf, type Migration } from '../migration.ts';

/** Version 2: keys hold values of every type, and paths are those of sets of version 4. */
const tradeNames: Migration = (old) => {
  const names: Record<string, string> = { spread: 'gridAngle', cone: 'beamAngle' };
  return {
    ...old,
    version: 2,
    tracks: mapOf(old.tracks, (track) => ({ ...track, path: names[track.path as string] ?? track.path })),
  };
};

/** Version 3: eases have shapes, and keys may share one. */
const shapedEases: Migration = (old) => ({ ...old, version: 3, eases: [] });

/** Version 4: rules, paths and recipes act on top of keys, and a shot has a place in the music. */
const rulesAndRecipes: Migration = (old) => ({
  ...old,
  version: 4,
  paths: [],
  rules: [],
  recipes: [],
  musicFrom: null,
});

/** Version 5: a shot has a composite. */
const layers: Migration = (old) => ({ ...old, version: 5, layers: [] });

/** Version 6: a second version of the moves, and what an aim looks at may be a part. */
const secondVersion: Migration = (old) => ({
  ...old,
  version: 6,
  other: null,
  rules: mapOf(old.rules, (rule) => (rule.kind === 'aim' ? { ...rule, part: '', roll: 0 } : rule)),
});

/** Version 7: layers turn in space, and stills have a frame. */
const cards: Migration = (old) => ({
  ...old,
  version: 7,
  layers: mapOf(old.layers, (layer) => ({
    ...layer,
    ...{ tilt: 0, turn: 0 },
    ...(layer.kind === 'still' && { corner: 0, view: 1, scroll: 0 }),
  })),
});

/** Version 8: layers have groups, parents, places in the set, shadows, reflections, drawn masks and mattes. */
const racked: Migration = (old) => ({
  ...old,
  version: 8,
  layers: mapOf(old.layers, (layer) => ({
    ...layer,
    ...{ anchorX: 0, anchorY: 0, skew: 0, group: '', clip: false, parent: '' },
    ...{ inSet: false, thing: '', azimuth: 0, distance: 0, lift: 0, metres: 0.2, facing: true },
    ...{ shadow: 0, shadowX: 0.02, shadowY: -0.03, shadowBlur: 0.03, shadowColour: '#120C18', contact: 0 },
    ...{ mirror: 0, mirrorGap: 0, mirrorFall: 0.3, mirrorBlur: 0.006 },
    ...{ maskGrow: 0, maskThing: '', maskPath: [], matte: 'none', matteLayer: '' },
    ...{ pinAX: 0, pinAY: 0, pinBX: 0, pinBY: 0, pinCX: 0, pinCY: 0, pinDX: 0, pinDY: 0 },
    ...{ cropLeft: 0, cropRight: 0, cropTop: 0, cropBottom: 0 },
    ...{ hold: 1, trail: 0, trailStep: 2, trailFade: 0.7 },
    ...(layer.kind === 'filter' && { focus: 1 }),
  })),
});

/** Version 9: copies of repeaters turn, and differ. */
const turning: Migration = (old) => ({
  ...old,
  version: 9,
  layers: mapOf(old.layers, (layer) => ({
    ...layer,
    ...(layer.kind === 'repeater' && { turning: 0, noise: 0, evolve: 0.3, seed: 1 }),
  })),
});

export const shotMigrations: readonly Migration[] = [
  ...[tradeNames, shapedEases, rulesAndRecipes, layers, secondVersion, cards, racked, turning],
];
