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

export const shotMigrations: readonly Migration[] = [tradeNames, shapedEases];
