import { mapOf, renamed, type Migration } from '../migration.ts';

/** Version 2: light kits. */
const withKits: Migration = (old) => ({ kits: [], ...old, version: 2 });

/** Version 3: lights and cards in kits under the names that sets of version 4 use. */
const tradeNames: Migration = (old) => ({
  ...old,
  version: 3,
  kits: mapOf(old.kits, (kit) => ({
    ...kit,
    lights: mapOf(kit.lights, (light) =>
      renamed(light, { spread: 'gridAngle', cone: 'beamAngle', touches: 'lightLinking' }),
    ),
    cards: mapOf(kit.cards, (card) => renamed(card, { seenBy: 'rayVisibility' })),
  })),
});

/** Version 4: the storyboard has an order of its own. */
const withBoards: Migration = (old) => ({ ...old, boards: [], version: 4 });

/** Version 5: cards in kits roll, as those of sets of version 9. */
const rollingCards: Migration = (old) => ({
  ...old,
  version: 5,
  kits: mapOf(old.kits, (kit) => ({ ...kit, cards: mapOf(kit.cards, (card) => ({ ...card, roll: 0 })) })),
});

export const campaignMigrations: readonly Migration[] = [withKits, tradeNames, withBoards, rollingCards];
