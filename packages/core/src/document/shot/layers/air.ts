import { colour, count, number, share, type Properties } from '../../../properties/index.ts';

/** Layers that are made of what the take knows of depth. */
export type AirLayer =
  /** Fog that thickens from so many metres away on; `density` is its extinction per metre, `most` what it hides at most. */
  | { kind: 'fog'; colour: string; begins: number; density: number; most: number }
  /**
   * What a bright point does in a lens: a glow, a streak across, and ghosts along the line through the picture's middle. Where it stands in
   * the set it goes out as what is nearer comes before it.
   */
  | {
      kind: 'flare';
      colour: string;
      brightness: number;
      glow: number;
      streak: number;
      ghosts: number;
      spread: number;
      fringe: number;
      seed: number;
    }
  /** Lines of light that run across the layer's width; `speed` in lengths of it a second, `bend` what their way rises to the sides. */
  | {
      kind: 'streaks';
      colour: string;
      otherColour: string;
      count: number;
      reach: number;
      line: number;
      spread: number;
      bend: number;
      speed: number;
      brightness: number;
      seed: number;
    }
  /** A band of light across; with a speed it goes by again after every so much way. */
  | {
      kind: 'strip';
      colour: string;
      otherColour: string;
      width: number;
      softness: number;
      height: number;
      ends: number;
      slant: number;
      speed: number;
      every: number;
      brightness: number;
    };

const lengthOf = (label: string, usual: number, most = 20): ReturnType<typeof number> =>
  number(label, '', 0, most, { step: 0.01, usual });
const perSecond = (usual: number): ReturnType<typeof number> => number('Speed', '/s', -20, 20, { step: 0.05, usual });

/** What is known of these kinds: see LAYERS. */
export const AIR = {
  fog: {
    title: 'Fog',
    properties: {
      colour: colour('Colour'),
      begins: number('Begins at', 'm', 0, 1000, { step: 0.05, usual: 0.5 }),
      density: number('Density', '/m', 0, 100, { step: 0.05, usual: 0.8 }),
      most: share('Hides at most', { usual: 0.9 }),
    },
    usual: { colour: '#C8BCD6', begins: 0.5, density: 0.8, most: 0.9 },
  },
  flare: {
    title: 'Flare',
    properties: {
      colour: colour('Colour'),
      brightness: share('Brightness', { max: 20, usual: 1 }),
      glow: number('Glow', '', 0, 3, { step: 0.01, usual: 0.25 }),
      streak: number('Streak', '', 0, 3, { step: 0.02, usual: 0.6 }),
      ghosts: count('Ghosts', 0, 24),
      spread: number('Ghosts spread', '', -3, 3, { step: 0.02, usual: 1 }),
      fringe: share('Ghost colours', { usual: 0.5 }),
      seed: count('Seed', 0, 0xffffffff),
    },
    usual: {
      ...{ colour: '#FFDFA8', brightness: 1, glow: 0.25, streak: 0.6, ghosts: 6, spread: 1, fringe: 0.5, seed: 1 },
    },
  },
  streaks: {
    title: 'Light streaks',
    properties: {
      colour: colour('Colour'),
      otherColour: colour('Other colour'),
      count: count('Count', 0, 200),
      reach: lengthOf('Streak length', 0.9, 10),
      line: number('Line width', '', 0.0005, 0.5, { step: 0.002, usual: 0.006 }),
      spread: lengthOf('Spread', 0.9, 10),
      bend: number('Bend', '', -5, 5, { step: 0.02, usual: 0 }),
      speed: perSecond(0.9),
      brightness: share('Brightness', { max: 20, usual: 1 }),
      seed: count('Seed', 0, 0xffffffff),
    },
    usual: {
      ...{ colour: '#FFC97A', otherColour: '#9A6FC0', count: 9, reach: 0.9, line: 0.006, spread: 0.9 },
      ...{ bend: 0.08, speed: 0.9, brightness: 1, seed: 1 },
    },
  },
  strip: {
    title: 'Light strip',
    properties: {
      colour: colour('Colour'),
      otherColour: colour('Edge colour'),
      width: lengthOf('Width', 0.06, 10),
      softness: lengthOf('Softness', 0.12, 5),
      height: lengthOf('Height', 3),
      ends: lengthOf('Soft ends', 0.2, 5),
      slant: number('Slant', '', -5, 5, { step: 0.02, usual: 0.3 }),
      speed: perSecond(0),
      every: number('Goes by every', '', 0.05, 100, { step: 0.1, usual: 3 }),
      brightness: share('Brightness', { max: 20, usual: 0.6 }),
    },
    usual: {
      ...{ colour: '#FFF3DC', otherColour: '#F0B45A', width: 0.06, softness: 0.12, height: 3, ends: 0.2 },
      ...{ slant: 0.3, speed: 0, every: 3, brightness: 0.6 },
    },
  },
} satisfies Record<AirLayer['kind'], { title: string; properties: Properties; usual: object }>;
