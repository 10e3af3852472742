import {
  newRecipe,
  newShot,
  type CampaignDocument,
  type ShotDocument,
  type TakeSnapshot,
} from '@tender-orbit/core/document';

/** 96 beats a minute at 24 frames a second: a beat is 15 frames, a bar 60. */
export const BEAT = 15;
const FRAME_RATE = { num: 24, den: 1 };
/** How each take is rendered: smoke takes the light of a draft, since every pixel of it asks for samples. */
export const TAKE_SETTINGS: Record<DemoTake, Pick<TakeSnapshot, 'quality' | 'width' | 'height' | 'samples'>> = {
  hero: { quality: 'final', width: 960, height: 540, samples: 20 },
  lid: { quality: 'final', width: 960, height: 540, samples: 20 },
  reveal: { quality: 'draft', width: 960, height: 540, samples: 0 },
};

/** The demo's takes. */
export const DEMO_TAKES = ['hero', 'lid', 'reveal'] as const;
export type DemoTake = (typeof DEMO_TAKES)[number];

export function demoCampaign(): CampaignDocument {
  return {
    version: 5,
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

/** The jar turns its label in while the camera comes closer on a slight arc. */
export function heroShot(set: string): ShotDocument {
  const length = 48;
  const span = { start: 0, length: length - 1, ease: 'eased' as const };
  return {
    ...newShot('Jar turns', set, 'hero', length),
    seed: 11,
    // Where the turn begins; the recipe goes on from it.
    tracks: [{ thing: 'jar', path: 'turn', keys: [{ frame: 0, value: -58, ease: 'eased' }] }],
    recipes: [
      newRecipe('turn', 'turntable', { ...span, things: ['jar'], options: { turns: 58 / 360 } }),
      newRecipe('closer', 'push-in', { ...span, camera: 'hero', options: { closer: 0.16 } }),
      newRecipe('arc', 'orbit-arc', { ...span, camera: 'hero', options: { sweep: -8 } }),
    ],
  };
}

/** A look down on the emboss while the rim light passes over it. */
export function lidShot(set: string): ShotDocument {
  const length = 36;
  const span = { start: 0, length: length - 1 };
  return {
    ...newShot('Lid in light', set, 'lid', length),
    seed: 12,
    tracks: [{ thing: 'rim', path: 'lumens', keys: [{ frame: 0, value: 620, ease: 'linear' }] }],
    recipes: [
      newRecipe('sweep', 'light-sweep', {
        ...{ ...span, things: ['rim'], ease: 'eased' },
        options: { sweep: 58, centred: false },
      }),
      newRecipe('slide', 'slider', { ...span, camera: 'lid', ease: 'linear', options: { across: 0.05 } }),
    ],
  };
}
