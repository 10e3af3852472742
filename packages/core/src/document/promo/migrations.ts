import type { Migration } from '../migration.ts';

/** Version 2: music knows its beats one by one, its bars and its parts. */
const beatsOneByOne: Migration = (old) => ({
  ...old,
  version: 2,
  music: old.music ? { ...old.music, beats: [], beatsPerBar: 4, downbeat: 0, sections: [] } : null,
});

/** Version 3: sounds besides the music, footage, and overlays over the picture. */
const soundsAndFootage: Migration = (old) => ({ ...old, version: 3, sounds: [], footage: [], overlays: [] });

export const promoMigrations: readonly Migration[] = [beatsOneByOne, soundsAndFootage];
