import { choice, count, number, share, toggle, turn, type Properties } from '../../../properties/index.ts';
import type { Item } from '../../common.ts';

export const BLEND_MODES = [
  ...(['over', 'add', 'screen', 'multiply', 'overlay', 'soft light', 'hard light', 'lighten', 'darken'] as const),
  ...(['colour dodge', 'colour burn', 'difference', 'luminosity', 'colour'] as const),
] as const;
/** How a layer meets what lies below it: see composite/blend.ts. */
export type BlendMode = (typeof BLEND_MODES)[number];

/** Whether a layer is light in the picture, before the view transform, or colour on its glass, after it. */
export const LAYER_SPACES = ['scene', 'glass'] as const;
export type LayerSpace = (typeof LAYER_SPACES)[number];

/** How far away the eye is that sees layers turned in space, in picture heights: a lens of 26 degrees. */
export const VIEWED_FROM = 2.2;

export const MASK_FORMS = ['none', 'ellipse', 'rectangle'] as const;

/** What every layer of a composite has. Lengths are shares of the picture's height, x to the right, y up, 0 in the middle. */
export interface LayerBase extends Item {
  visible: boolean;
  locked: boolean;
  /** First frame of the shot in which it is seen, and for how many; 0: to the end. */
  start: number;
  length: number;
  space: LayerSpace;
  blend: BlendMode;
  opacity: number;
  x: number;
  y: number;
  scale: number;
  /** Width over height, besides the scale. */
  stretch: number;
  rotation: number;
  /** Degrees in space: its top leant back, and about the upright; seen from VIEWED_FROM picture heights away. */
  tilt: number;
  turn: number;
  /** Whether the products of the take stand before it. */
  behind: boolean;
  blur: number;
  mask: (typeof MASK_FORMS)[number];
  maskX: number;
  maskY: number;
  maskWidth: number;
  maskHeight: number;
  maskRotation: number;
  feather: number;
  maskInverted: boolean;
}

const away = (label: string): ReturnType<typeof number> => number(label, '', -10, 10, { step: 0.01, usual: 0 });
const size = (label: string, usual: number): ReturnType<typeof number> =>
  number(label, '', 0, 20, { step: 0.01, usual });

export const LAYER_PROPERTIES = {
  visible: toggle('Visible'),
  start: count('Begins', 0, 100000),
  length: count('Seen for', 0, 100000),
  space: choice('Stands', LAYER_SPACES),
  blend: choice('Blend', BLEND_MODES),
  opacity: share('Opacity', { usual: 1 }),
  x: away('Across'),
  y: away('Up'),
  scale: share('Scale', { min: 0.001, max: 100, usual: 1 }),
  stretch: share('Stretch', { min: 0.01, max: 100, usual: 1 }),
  rotation: turn('Rotation'),
  tilt: number('Tilt', 'deg', -89, 89, { step: 1, usual: 0 }),
  turn: number('Turn', 'deg', -89, 89, { step: 1, usual: 0 }),
  behind: toggle('Behind the products'),
  blur: number('Blur', '', 0, 1, { step: 0.002, usual: 0 }),
  mask: choice('Mask', MASK_FORMS),
  maskX: away('Mask across'),
  maskY: away('Mask up'),
  maskWidth: size('Mask width', 1),
  maskHeight: size('Mask height', 1),
  maskRotation: turn('Mask rotation'),
  feather: number('Feather', '', 0, 5, { step: 0.01, usual: 0.1 }),
  maskInverted: toggle('Mask inverted'),
} satisfies Properties;

/** Settings of every layer that say how it is made up: they take no keys. */
export const LAYER_SETTINGS: ReadonlySet<string> = new Set([
  'start',
  'length',
  'space',
  'behind',
  'mask',
  'ends',
  'coded',
]);

/** The usual values of what every layer has. */
export function plainLayer(): Omit<LayerBase, 'id' | 'name'> {
  return {
    ...{ visible: true, locked: false, start: 0, length: 0, space: 'scene', blend: 'over', opacity: 1 },
    ...{ x: 0, y: 0, scale: 1, stretch: 1, rotation: 0, tilt: 0, turn: 0, behind: false, blur: 0 },
    ...{ mask: 'none', maskX: 0, maskY: 0, maskWidth: 1, maskHeight: 1, maskRotation: 0 },
    ...{ feather: 0.1, maskInverted: false },
  };
}
