import type { SetCamera, SetProduct, ShotDocument, Track } from '../document/index.ts';

/** Replaces the tracks of the same property, keeps all others. Changes `shot` (an edit's draft). */
function replaceTracks(shot: ShotDocument, tracks: Track[]): void {
  const made = new Set(tracks.map((t) => `${t.thing} ${t.path}`));
  shot.tracks = [...shot.tracks.filter((t) => !made.has(`${t.thing} ${t.path}`)), ...tracks];
}

export interface TurntableOptions {
  /** Degrees over the whole shot; negative turns the other way. */
  degrees?: number;
}

/**
 * A steady turn of a product over the whole shot. The closing key lies one frame past the end, so that a full turn
 * loops without a doubled frame.
 */
export function applyTurntable(
  shot: ShotDocument,
  product: SetProduct,
  { degrees = 360 }: TurntableOptions = {},
): void {
  replaceTracks(shot, [
    {
      thing: product.id,
      path: 'turn',
      keys: [
        { frame: 0, value: product.turn, ease: 'linear' },
        { frame: shot.length, value: product.turn + degrees, ease: 'linear' },
      ],
    },
  ]);
}

export interface PushInOptions {
  /** Share of the distance to the aim point that the camera travels. */
  share?: number;
}

/** The camera travels towards its aim point, easing out of and into rest. */
export function applyPushIn(shot: ShotDocument, camera: SetCamera, { share = 0.3 }: PushInOptions = {}): void {
  const end = Math.max(1, shot.length - 1);
  replaceTracks(
    shot,
    [0, 1, 2].map((axis) => ({
      thing: camera.id,
      path: `position.${axis}`,
      keys: [
        { frame: 0, value: camera.position[axis], ease: 'eased' as const },
        {
          frame: end,
          value: camera.position[axis] + (camera.aim[axis] - camera.position[axis]) * share,
          ease: 'eased' as const,
        },
      ],
    })),
  );
}
