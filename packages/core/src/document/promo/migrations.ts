import { mapOf, type Migration } from '../migration.ts';

/** Version 2: music knows its beats one by one, its bars and its parts. */
const beatsOneByOne: Migration = (old) => ({
  ...old,
  version: 2,
  music: old.music ? { ...old.music, beats: [], beatsPerBar: 4, downbeat: 0, sections: [] } : null,
});

/** Version 3: sounds besides the music, footage, and overlays over the picture. */
const soundsAndFootage: Migration = (old) => ({ ...old, version: 3, sounds: [], footage: [], overlays: [] });

type Place = Record<'x' | 'y' | 'scale' | 'rotation', number>;
interface OldClip extends Record<string, unknown> {
  id: string;
  length: number;
  move?: { from: Place; to: Place; ease: string; cover: boolean };
}

/** What the eases of moves were, as keys have it. */
const MOVE_EASES: Record<string, unknown> = {
  linear: 'linear',
  smooth: { kind: 'soft', start: 1, landing: 1 },
  land: { kind: 'bezier', out: [1 / 3, 1], in: [2 / 3, 1] },
};

/** Version 4: the pictures of clips are keyed, and layers as those of shots lie over them; markers. */
const keysAndLayers: Migration = (old) => {
  const clips = (old.clips ?? []) as OldClip[];
  const tracks = clips.flatMap(({ id, length, move }) =>
    (['x', 'y', 'scale', 'rotation'] as const)
      .filter((path) => move && length > 1 && move.from[path] !== move.to[path])
      .map((path) => ({
        ...{ thing: id, path },
        keys: [
          { frame: 0, value: move!.from[path], ease: MOVE_EASES[move!.ease] },
          { frame: length - 1, value: move!.to[path], ease: 'eased' },
        ],
      })),
  );
  const pictured = clips.map(({ move, ...clip }) => ({
    ...clip,
    ...(move && {
      picture: {
        ...move.from,
        ...{ opacity: 1, blur: 0, radius: 0, cropLeft: 0, cropRight: 0, cropTop: 0, cropBottom: 0 },
        ...{ mirror: false, cover: move.cover },
      },
    }),
  }));
  return { ...old, version: 4, clips: pictured, tracks, eases: [], layers: [], markers: [] };
};

/** Version 5: its layers are those of shots of version 9: copies of repeaters turn, and differ. */
const turningRepeaters: Migration = (old) => ({
  ...old,
  version: 5,
  layers: mapOf(old.layers, (layer) => ({
    ...layer,
    ...(layer.kind === 'repeater' && { turning: 0, noise: 0, evolve: 0.3, seed: 1 }),
  })),
});

export const promoMigrations: readonly Migration[] = [
  ...[beatsOneByOne, soundsAndFootage, keysAndLayers, turningRepeaters],
];
