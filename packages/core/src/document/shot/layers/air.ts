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
    };

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
} satisfies Record<AirLayer['kind'], { title: string; properties: Properties; usual: object }>;
