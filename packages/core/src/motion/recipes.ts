import { replaceTracks, type Command, type SetCamera, type SetProduct, type ShotDocument } from '../document/index.ts';

export interface TurntableOptions {
  /** Degrees over the whole shot; negative turns the other way. */
  degrees?: number;
}

/**
 * A steady turn of a product over the whole shot. The closing key lies one frame past the end, so that a full turn
 * loops without a doubled frame. Other moves of the shot stay.
 */
export function turntable(product: SetProduct, { degrees = 360 }: TurntableOptions = {}): Command<ShotDocument> {
  const label = `Turntable of ${product.name}`;
  return {
    label,
    run: (shot) =>
      replaceTracks(label, [
        {
          thing: product.id,
          path: 'turn',
          keys: [
            { frame: 0, value: product.turn, ease: 'linear' },
            { frame: shot.length, value: product.turn + degrees, ease: 'linear' },
          ],
        },
      ]).run(shot),
  };
}

export interface PushInOptions {
  /** Share of the distance to the aim point that the camera travels. */
  share?: number;
}

/** The camera travels towards its aim point, easing out of and into rest. Other moves of the shot stay. */
export function pushIn(camera: SetCamera, { share = 0.3 }: PushInOptions = {}): Command<ShotDocument> {
  const label = `Push-in of ${camera.name}`;
  const { id, position, aim } = camera;
  return {
    label,
    run: (shot) =>
      replaceTracks(
        label,
        position.map((from, axis) => ({
          thing: id,
          path: `position.${axis}`,
          keys: [
            { frame: 0, value: from, ease: 'eased' as const },
            {
              frame: Math.max(1, shot.length - 1),
              value: from + (aim[axis] - from) * share,
              ease: 'eased' as const,
            },
          ],
        })),
      ).run(shot),
  };
}
