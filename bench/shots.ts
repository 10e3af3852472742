import { newShot, type ShotDocument } from '@tender-orbit/core/document';

/*
 * The shots that benches measure. They stay as they are when the demo's own shots change, so that figures of different builds
 * can be compared and references stay true.
 */

/** The jar turns its label in while the camera comes closer. */
export function heroShot(set: string): ShotDocument {
  const length = 48;
  const end = length - 1;
  const eased = 'eased' as const;
  return {
    ...newShot('Jar turns', set, 'hero', length),
    seed: 11,
    tracks: [
      {
        thing: 'jar',
        path: 'turn',
        keys: [
          { frame: 0, value: -58, ease: eased },
          { frame: end, value: 0, ease: eased },
        ],
      },
      {
        thing: 'hero',
        path: 'position.0',
        keys: [
          { frame: 0, value: 0.12, ease: eased },
          { frame: end, value: 0.02, ease: eased },
        ],
      },
      {
        thing: 'hero',
        path: 'position.2',
        keys: [
          { frame: 0, value: 0.72, ease: eased },
          { frame: end, value: 0.6, ease: eased },
        ],
      },
    ],
  };
}

/** A look down on the emboss while the rim light passes over it. */
export function lidShot(set: string): ShotDocument {
  const length = 36;
  const end = length - 1;
  return {
    ...newShot('Lid in light', set, 'lid', length),
    seed: 12,
    tracks: [
      { thing: 'rim', path: 'lumens', keys: [{ frame: 0, value: 620, ease: 'linear' }] },
      {
        thing: 'rim',
        path: 'position.0',
        keys: [
          { frame: 0, value: 0.5, ease: 'eased' },
          { frame: end, value: -0.12, ease: 'eased' },
        ],
      },
      {
        thing: 'lid',
        path: 'position.0',
        keys: [
          { frame: 0, value: -0.18, ease: 'linear' },
          { frame: end, value: -0.1, ease: 'linear' },
        ],
      },
    ],
  };
}
