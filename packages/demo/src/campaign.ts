import {
  noBeats,
  newPromo,
  newShot,
  newTitle,
  type CampaignDocument,
  type PromoDocument,
  type ShotDocument,
} from '@tender-orbit/core/document';

/** 96 beats a minute at 24 frames a second: a beat is 15 frames, a bar 60. */
const BEAT = 15;
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
      'Purple and brass, never pink. The embossed lid must be seen. Five seconds, cut on the beat, name at the end.',
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

export function demoPromo(
  takes: { hero: string; lid: string },
  music: { asset: string; name: string; tempo: number },
): PromoDocument {
  return {
    ...newPromo('Heather launch 16x9', 960, 540),
    clips: [
      { id: 'clip-turn', take: takes.hero, start: 0, length: 3 * BEAT },
      { id: 'clip-lid', take: takes.lid, start: 0, length: 2 * BEAT },
      { id: 'clip-end', take: takes.hero, start: 40, length: 3 * BEAT },
    ],
    titles: [
      newTitle('title-slow', {
        text: 'Slow as the hill',
        size: 54,
        x: 0.06,
        y: 0.82,
        align: 'left',
        start: BEAT,
        length: 2 * BEAT,
        arrive: { kind: 'rise', frames: 10 },
        leave: { kind: 'fade', frames: 6 },
      }),
      newTitle('title-name', {
        text: 'Vellowmere',
        size: 50,
        x: 0.945,
        y: 0.2,
        align: 'right',
        colour: '#F3E3C3',
        start: 5 * BEAT,
        length: 3 * BEAT,
        arrive: { kind: 'rise', frames: 12 },
        leave: { kind: 'fade', frames: 8 },
      }),
      newTitle('title-line', {
        text: 'HEATHER HONEY, AUTUMN',
        font: 'hanken-grotesk-500',
        size: 17,
        tracking: 0.18,
        x: 0.945,
        y: 0.285,
        align: 'right',
        start: 5 * BEAT + 6,
        length: 3 * BEAT - 6,
        arrive: { kind: 'fade', frames: 12 },
        leave: { kind: 'fade', frames: 8 },
      }),
    ],
    music: { ...music, trim: 0, gain: 0, fadeIn: 0, fadeOut: 0.8, firstBeat: 0, ...noBeats() },
  };
}
