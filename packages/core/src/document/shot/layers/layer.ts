import { choice, colour, count, number, share, toggle, turn, type Properties } from '../../../properties/index.ts';
import type { Item } from '../../common.ts';
import type { MaskShape } from './mask-path.ts';

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

/** `thing`: what the take saw of a thing of the set, with its coverage. */
export const MASK_FORMS = ['none', 'ellipse', 'rectangle', 'path', 'thing', 'finish'] as const;
export const MATTE_FORMS = ['none', 'alpha', 'alpha inverted', 'luma', 'luma inverted'] as const;

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
  /** The point of its own that lies at x, y, and about which it turns and grows. */
  anchorX: number;
  anchorY: number;
  /** Degrees by which its upright edges lean. */
  skew: number;
  /** The group, or of a light's fader the take and of a further mask the layer, that it belongs to; empty: none. */
  group: string;
  /** Seen only where the layer right below it is. */
  clip: boolean;
  /** The layer whose place it goes along with; empty: none. */
  parent: string;
  /** Whether the products of the take stand before it. */
  behind: boolean;
  /**
   * A card that stands in the shot's set, seen by its camera and hidden by what is nearer: round a thing (or the middle of the floor) so
   * many metres away at an azimuth, so high above it. `metres` is one of its lengths.
   */
  inSet: boolean;
  thing: string;
  azimuth: number;
  distance: number;
  lift: number;
  metres: number;
  /** Turned to the camera, whatever it looks from; otherwise its face looks along +Z, then it is turned. */
  facing: boolean;
  blur: number;
  /** A soft shadow that lies behind it, moved by so much. */
  shadow: number;
  shadowX: number;
  shadowY: number;
  shadowBlur: number;
  shadowColour: string;
  /** A dark ellipse under its lowest edge. */
  contact: number;
  /** Its picture upside down below its lowest edge, fading out over `mirrorFall`. */
  mirror: number;
  mirrorGap: number;
  mirrorFall: number;
  mirrorBlur: number;
  mask: (typeof MASK_FORMS)[number];
  maskX: number;
  maskY: number;
  maskWidth: number;
  maskHeight: number;
  maskRotation: number;
  feather: number;
  maskInverted: boolean;
  /** How far its edge is outside of where it is drawn. */
  maskGrow: number;
  /** The thing of the set that a mask goes along with in the picture, or shows; empty: none. */
  maskThing: string;
  /** The finish that a mask shows, by its name as takes keep it; missing: none. */
  maskFinish?: string;
  /** Shapes of a drawn mask by their frames; between them it changes evenly. */
  maskPath: MaskShape[];
  /** Frames that it is held for before it goes on; 1: not held. */
  hold: number;
  /** Copies of it as it was, so many frames apart, each so much of the one after it. */
  trail: number;
  trailStep: number;
  trailFade: number;
  /** How far the corners of a picture are from where they would lie, in its own lengths: from the top left, clockwise. */
  pinAX: number;
  pinAY: number;
  pinBX: number;
  pinBY: number;
  pinCX: number;
  pinCY: number;
  pinDX: number;
  pinDY: number;
  /** Shares of a picture that are cut off. */
  cropLeft: number;
  cropRight: number;
  cropTop: number;
  cropBottom: number;
  /** What another layer, which need not be visible, lets be seen of it. */
  matte: (typeof MATTE_FORMS)[number];
  matteLayer: string;
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
  anchorX: away('Anchor across'),
  anchorY: away('Anchor up'),
  skew: number('Skew', 'deg', -80, 80, { step: 1, usual: 0 }),
  clip: toggle('Clip to the layer below'),
  behind: toggle('Behind the products'),
  inSet: toggle('Stands in the set'),
  azimuth: turn('Azimuth'),
  distance: number('Distance', 'm', 0, 100, { step: 0.01, usual: 0 }),
  lift: number('Elevation', 'm', -100, 100, { step: 0.01, usual: 0 }),
  metres: number('Card unit', 'm', 0.001, 100, { step: 0.01, usual: 0.2 }),
  facing: toggle('Faces the camera'),
  shadow: share('Shadow', { usual: 0 }),
  shadowX: away('Shadow across'),
  shadowY: away('Shadow up'),
  shadowBlur: number('Shadow blur', '', 0, 1, { step: 0.002, usual: 0.03 }),
  shadowColour: colour('Shadow colour'),
  contact: share('Contact shadow', { usual: 0 }),
  mirror: share('Reflection', { usual: 0 }),
  mirrorGap: number('Reflection gap', '', -1, 1, { step: 0.005, usual: 0 }),
  mirrorFall: number('Fades over', '', 0.01, 5, { step: 0.01, usual: 0.3 }),
  mirrorBlur: number('Reflection blur', '', 0, 1, { step: 0.002, usual: 0.006 }),
  blur: number('Blur', '', 0, 1, { step: 0.002, usual: 0 }),
  mask: choice('Mask', MASK_FORMS),
  maskX: away('Mask across'),
  maskY: away('Mask up'),
  maskWidth: size('Mask width', 1),
  maskHeight: size('Mask height', 1),
  maskRotation: turn('Mask rotation'),
  feather: number('Feather', '', 0, 5, { step: 0.01, usual: 0.1 }),
  maskInverted: toggle('Mask inverted'),
  maskGrow: away('Expansion'),
  matte: choice('Matte', MATTE_FORMS),
  pinAX: away('Top left across'),
  pinAY: away('Top left up'),
  pinBX: away('Top right across'),
  pinBY: away('Top right up'),
  pinCX: away('Low right across'),
  pinCY: away('Low right up'),
  pinDX: away('Low left across'),
  pinDY: away('Low left up'),
  cropLeft: share('Crop left', { usual: 0 }),
  cropRight: share('Crop right', { usual: 0 }),
  cropTop: share('Crop top', { usual: 0 }),
  cropBottom: share('Crop bottom', { usual: 0 }),
  hold: count('Hold frames', 1, 1000),
  trail: count('Trail', 0, 24),
  trailStep: number('Trail step', 'frames', 0.1, 100, { step: 0.5, usual: 2 }),
  trailFade: share('Trail fades', { usual: 0.7 }),
} satisfies Properties;

/** Settings of every layer that say how it is made up: they take no keys. */
export const LAYER_SETTINGS: ReadonlySet<string> = new Set([
  'start',
  'length',
  'space',
  'behind',
  'clip',
  'inSet',
  'facing',
  'mask',
  'matte',
  'hold',
  'trail',
  'ends',
  'coded',
  'combine',
]);

/** The usual values of what every layer has. */
export function plainLayer(): Omit<LayerBase, 'id' | 'name'> {
  return {
    ...{ visible: true, locked: false, start: 0, length: 0, space: 'scene', blend: 'over', opacity: 1 },
    ...{ x: 0, y: 0, scale: 1, stretch: 1, rotation: 0, tilt: 0, turn: 0, anchorX: 0, anchorY: 0, skew: 0 },
    ...{ group: '', clip: false, parent: '', behind: false, blur: 0 },
    ...{ inSet: false, thing: '', azimuth: 0, distance: 0, lift: 0, metres: 0.2, facing: true },
    ...{ shadow: 0, shadowX: 0.02, shadowY: -0.03, shadowBlur: 0.03, shadowColour: '#120C18', contact: 0 },
    ...{ mirror: 0, mirrorGap: 0, mirrorFall: 0.3, mirrorBlur: 0.006 },
    ...{ mask: 'none', maskX: 0, maskY: 0, maskWidth: 1, maskHeight: 1, maskRotation: 0 },
    ...{ feather: 0.1, maskInverted: false, maskGrow: 0, maskThing: '', maskPath: [], matte: 'none', matteLayer: '' },
    ...{ pinAX: 0, pinAY: 0, pinBX: 0, pinBY: 0, pinCX: 0, pinCY: 0, pinDX: 0, pinDY: 0 },
    ...{ cropLeft: 0, cropRight: 0, cropTop: 0, cropBottom: 0 },
    ...{ hold: 1, trail: 0, trailStep: 2, trailFade: 0.7 },
  };
}
