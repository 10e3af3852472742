import { newShot, type CampaignDocument, type ShotDocument } from '@tender-orbit/core/document';

/** 96 beats a minute at 24 frames a second: a beat is 15 frames, a bar 60. */
export const BEAT = 15;
const FRAME_RATE = { num: 24, den: 1 };
export const TAKE_SIZE = { width: 960, height: 540, samples: 20 };

export function demoCampaign(): CampaignDocument {
  return {
    version: 4,
    kits: [],
    boards: [],
    name: 'Heather launch',
    client: 'Vellowmere',
    message: 'One jar, one moor, one slow summer. The new heather honey should look warm, heavy and worth a present.',
    notes:
      'Purple and brass, never pink. The embossed lid must be seen. Twelve seconds, cut on the beat, name at the end.',
    frameRate: FRAME_RATE,
    width: 960,
    height: 540,
  };
}

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
