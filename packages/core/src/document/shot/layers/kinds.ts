import { choice, colour, count, number, share, toggle, turn, type Properties } from '../../../properties/index.ts';
import { noCurves, type Curves } from './curves.ts';
import { AIR, type AirLayer } from './air.ts';
import { HOLDING, LINES, type HoldingLayer, type LineLayer } from './drawn.ts';
import { PICTURES, type FramedLayer } from './framed.ts';
import type { LayerBase } from './layer.ts';

export { type Film, type Framed } from './framed.ts';

export const GRADIENT_FORMS = ['linear', 'radial', 'conical'] as const;
export const REPEAT_FORMS = ['rays', 'discs', 'rings', 'bars', 'grid'] as const;
export const SHAPE_FORMS = ['rectangle', 'ellipse', 'polygon', 'star'] as const;
export const FILTER_FORMS = [
  ...(['blur', 'box blur', 'directional blur', 'zoom blur', 'spin blur', 'sharpen', 'glow', 'edge'] as const),
  ...(['mosaic', 'displace', 'displace by layer', 'defocus'] as const),
] as const;
export const LUT_CODES = ['display', 'linear'] as const;
export const TEXT_ALIGNMENTS = ['left', 'centre', 'right'] as const;

/** A colour at a share of a gradient's way. */
export interface GradientStop {
  at: number;
  colour: string;
  opacity: number;
}

/** What a layer shows or does. Colours are sRGB; lengths are shares of the picture's height unless a name says otherwise. */
export type LayerDoes =
  | HoldingLayer
  | LineLayer
  | AirLayer
  | FramedLayer
  /** Frames of a take; the shot's latest when `take` is empty. `exposure` in stops. */
  | { kind: 'take'; take: string; exposure: number }
  | { kind: 'solid'; colour: string }
  | {
      kind: 'gradient';
      form: (typeof GRADIENT_FORMS)[number];
      colour: string;
      otherColour: string;
      otherOpacity: number;
      size: number;
      middle: number;
      /** Colours on the way, instead of the two; missing: those. */
      stops?: GradientStop[];
    }
  /** Copies of a form round the middle or over the picture; they come by `growth` 0..1, turn by degrees a second, and differ by `noise`. */
  | {
      kind: 'repeater';
      form: (typeof REPEAT_FORMS)[number];
      colour: string;
      otherColour: string;
      count: number;
      size: number;
      inner: number;
      thickness: number;
      growth: number;
      stagger: number;
      softness: number;
      shadow: number;
      turning: number;
      noise: number;
      evolve: number;
      seed: number;
    }
  | {
      kind: 'shape';
      form: (typeof SHAPE_FORMS)[number];
      colour: string;
      width: number;
      height: number;
      corner: number;
      sides: number;
      softness: number;
      outline: number;
    }
  /**
   * Fractal noise that drifts and rises. `drift`, `rise` a second; `evolve` how fast it changes, a second; after `loop` seconds it is as
   * it was at first (missing: never).
   */
  | {
      kind: 'vapour';
      colour: string;
      size: number;
      detail: number;
      contrast: number;
      brightness: number;
      angle: number;
      evolve: number;
      drift: number;
      rise: number;
      seed: number;
      loop?: number;
    }
  /** Soft dots that drift, near ones larger and faster. */
  | {
      kind: 'specks';
      colour: string;
      count: number;
      size: number;
      spread: number;
      softness: number;
      drift: number;
      rise: number;
      twinkle: number;
      seed: number;
    }
  | {
      kind: 'text';
      text: string;
      font: string;
      size: number;
      tracking: number;
      colour: string;
      align: (typeof TEXT_ALIGNMENTS)[number];
    }
  /** Colour work on all below: see composite/grade.ts for the order. */
  | {
      kind: 'grade';
      exposure: number;
      temperature: number;
      tint: number;
      slopeRed: number;
      slopeGreen: number;
      slopeBlue: number;
      offsetRed: number;
      offsetGreen: number;
      offsetBlue: number;
      powerRed: number;
      powerGreen: number;
      powerBlue: number;
      contrast: number;
      pivot: number;
      saturation: number;
      vibrance: number;
    }
  /**
   * Tones of display colours: five zones of a curve, -1 to 1, then a colour drawn into what is dark and one into what is light (split tone).
   */
  | {
      kind: 'tones';
      blacks: number;
      shadows: number;
      middles: number;
      highlights: number;
      whites: number;
      shadowColour: string;
      highlightColour: string;
      toned: number;
      balance: number;
    }
  /** Display colours about a hue (degrees in Oklab; a qualifier), changed for themselves. Shares; `shift` in degrees. */
  | {
      kind: 'qualifier';
      hue: number;
      width: number;
      softness: number;
      leastChroma: number;
      darkest: number;
      brightest: number;
      shift: number;
      saturation: number;
      lightness: number;
      shown: boolean;
    }
  /** Curves by points over display colours. */
  | { kind: 'curves'; curves: Curves }
  /** A table of colours (cube format) on all below: of display colours coded as sRGB, or of linear light. */
  | { kind: 'lut'; asset: string; title: string; coded: (typeof LUT_CODES)[number] }
  /**
   * A filter on all below. `size` is a share of the picture's height: a blur's sigma, a box's side, the length of a directional blur, a cell
   * of a mosaic, how far noise of the scale `grain`, or another layer's brightness (its `matteLayer`), displaces, the radius that what is far away is defocused to by a lens that is sharp at
   * `focus` metres (see composite/defocus.ts); of zoom and spin blurs round the layer's place a share of the distance to it.
   */
  | {
      kind: 'filter';
      form: (typeof FILTER_FORMS)[number];
      size: number;
      amount: number;
      angle: number;
      focus: number;
      grain: number;
      evolve: number;
      seed: number;
    }
  /** What a lens and film do to all below: see composite/lens.ts for the order. */
  | {
      kind: 'lens';
      bloom: number;
      bloomSize: number;
      halation: number;
      distortion: number;
      fringing: number;
      vignette: number;
      grain: number;
      grainSize: number;
      seed: number;
    };

export type LayerKind = LayerDoes['kind'];
/** A layer of a shot's composite. */
export type Layer = LayerBase & LayerDoes;
export type LayerOf<K extends LayerKind> = LayerBase & Extract<LayerDoes, { kind: K }>;
type Own<K extends LayerKind> = Omit<Extract<LayerDoes, { kind: K }>, 'kind'>;

/** What of kinds no single field sets. */
type NoProperty =
  'stops' | 'filled' | 'loop' | 'text' | 'font' | 'asset' | 'take' | 'film' | 'title' | 'light' | 'points' | 'curves';

/** What is known of a kind of layer. */
export interface LayerFacts<K extends LayerKind> {
  title: string;
  properties: {
    [N in Exclude<keyof Own<K>, NoProperty>]: Properties[string];
  };
  usual: Own<K>;
}

const size = (label: string, usual: number, most = 20): ReturnType<typeof number> =>
  number(label, '', 0, most, { step: 0.01, usual });
const perSecond = (label: string): ReturnType<typeof number> => number(label, '/s', -10, 10, { step: 0.01, usual: 0 });
const stops = (label: string): ReturnType<typeof number> => number(label, 'stops', -10, 10, { step: 0.1, usual: 0 });
const zone = (label: string): ReturnType<typeof share> => share(label, { min: -1, usual: 0 });
const seed = count('Seed', 0, 0xffffffff);

export const LAYERS: { [K in LayerKind]: LayerFacts<K> } = {
  take: { title: 'Take', properties: { exposure: stops('Exposure') }, usual: { take: '', exposure: 0 } },
  solid: { title: 'Solid', properties: { colour: colour('Colour') }, usual: { colour: '#3A2A44' } },
  gradient: {
    title: 'Gradient',
    properties: {
      form: choice('Form', GRADIENT_FORMS),
      colour: colour('Colour'),
      otherColour: colour('Other colour'),
      otherOpacity: share('Other opacity', { usual: 1 }),
      size: size('Size', 1),
      middle: share('Middle', { min: 0.01, max: 0.99, usual: 0.5 }),
    },
    usual: { form: 'radial', colour: '#F0B45A', otherColour: '#3A2A44', otherOpacity: 1, size: 1.4, middle: 0.5 },
  },
  repeater: {
    title: 'Repeater',
    properties: {
      form: choice('Form', REPEAT_FORMS),
      colour: colour('Colour'),
      otherColour: colour('Other colour'),
      count: count('Count', 1, 400),
      size: size('Size', 1.2),
      inner: size('Inner size', 0),
      thickness: share('Thickness', { usual: 0.5 }),
      growth: share('Growth', { usual: 1 }),
      stagger: share('Stagger', { usual: 0.6 }),
      softness: size('Softness', 0.002, 2),
      shadow: share('Shadow', { usual: 0 }),
      turning: number('Turns', 'deg/s', -720, 720, { step: 1, usual: 0 }),
      noise: share('Noise', { usual: 0 }),
      evolve: perSecond('Evolves'),
      seed,
    },
    usual: {
      ...{ form: 'discs', colour: '#7C4C86', otherColour: '#E0A84A', count: 5, size: 1.6, inner: 0, thickness: 0.5 },
      ...{ growth: 1, stagger: 0.6, softness: 0.002, shadow: 0.35, turning: 0, noise: 0, evolve: 0.3, seed: 1 },
    },
  },
  shape: {
    title: 'Shape',
    properties: {
      form: choice('Form', SHAPE_FORMS),
      colour: colour('Colour'),
      width: size('Width', 0.5),
      height: size('Height', 0.5),
      corner: size('Corner radius', 0, 5),
      sides: count('Corners', 3, 60),
      softness: size('Softness', 0.001, 2),
      outline: size('Outline', 0, 1),
    },
    usual: {
      ...{ form: 'ellipse', colour: '#F0B45A', width: 0.5, height: 0.5, corner: 0, sides: 6 },
      ...{ softness: 0.001, outline: 0 },
    },
  },
  vapour: {
    title: 'Vapour',
    properties: {
      colour: colour('Colour'),
      size: number('Size', '', 0.01, 20, { step: 0.02, usual: 0.5 }),
      detail: count('Detail', 1, 8),
      contrast: share('Contrast', { max: 5, usual: 1.4 }),
      brightness: number('Brightness', '', -1, 1, { step: 0.02, usual: 0 }),
      angle: turn('Angle'),
      evolve: perSecond('Evolves'),
      drift: perSecond('Drifts'),
      rise: perSecond('Rises'),
      seed,
    },
    usual: {
      ...{ colour: '#E9E2F0', size: 0.5, detail: 5, contrast: 1.6, brightness: -0.1, angle: 0 },
      ...{ evolve: 0.25, drift: 0.03, rise: 0.08, seed: 1 },
    },
  },
  specks: {
    title: 'Specks',
    properties: {
      colour: colour('Colour'),
      count: count('Count', 0, 5000),
      size: size('Size', 0.012, 1),
      spread: share('Size varies', { usual: 0.7 }),
      softness: share('Softness', { usual: 0.6 }),
      drift: perSecond('Drifts'),
      rise: perSecond('Rises'),
      twinkle: share('Twinkle', { usual: 0.4 }),
      seed,
    },
    usual: {
      ...{ colour: '#FFE2B0', count: 90, size: 0.012, spread: 0.8, softness: 0.6, drift: 0.02, rise: 0.03 },
      ...{ twinkle: 0.5, seed: 1 },
    },
  },
  text: {
    title: 'Text',
    properties: {
      size: size('Size', 0.1, 2),
      tracking: number('Tracking', 'em', -0.2, 2, { step: 0.01, usual: 0 }),
      colour: colour('Colour'),
      align: choice('Align', TEXT_ALIGNMENTS),
    },
    usual: { text: 'Text', font: 'fraunces-600', size: 0.1, tracking: 0, colour: '#F4EEE4', align: 'centre' },
  },
  grade: {
    title: 'Grade',
    properties: {
      exposure: stops('Exposure'),
      temperature: number('Temperature', 'K', 2000, 20000, { step: 50, usual: 6504 }),
      tint: number('Tint', '', -100, 100, { step: 1, usual: 0 }),
      slopeRed: share('Slope red', { max: 4, usual: 1 }),
      slopeGreen: share('Slope green', { max: 4, usual: 1 }),
      slopeBlue: share('Slope blue', { max: 4, usual: 1 }),
      offsetRed: number('Offset red', '', -1, 1, { step: 0.005, usual: 0 }),
      offsetGreen: number('Offset green', '', -1, 1, { step: 0.005, usual: 0 }),
      offsetBlue: number('Offset blue', '', -1, 1, { step: 0.005, usual: 0 }),
      powerRed: number('Power red', '', 0.1, 8, { step: 0.01, usual: 1 }),
      powerGreen: number('Power green', '', 0.1, 8, { step: 0.01, usual: 1 }),
      powerBlue: number('Power blue', '', 0.1, 8, { step: 0.01, usual: 1 }),
      contrast: number('Contrast', '', 0, 4, { step: 0.02, usual: 1 }),
      pivot: number('Pivot', '', 0.01, 4, { step: 0.01, usual: 0.18 }),
      saturation: share('Saturation', { max: 4, usual: 1 }),
      vibrance: share('Vibrance', { min: -1, usual: 0 }),
    },
    usual: {
      ...{ exposure: 0, temperature: 6504, tint: 0, slopeRed: 1, slopeGreen: 1, slopeBlue: 1 },
      ...{ offsetRed: 0, offsetGreen: 0, offsetBlue: 0, powerRed: 1, powerGreen: 1, powerBlue: 1 },
      ...{ contrast: 1, pivot: 0.18, saturation: 1, vibrance: 0 },
    },
  },
  tones: {
    title: 'Tones',
    properties: {
      blacks: zone('Blacks'),
      shadows: zone('Shadows'),
      middles: zone('Middles'),
      highlights: zone('Highlights'),
      whites: zone('Whites'),
      shadowColour: colour('In shadows'),
      highlightColour: colour('In highlights'),
      toned: share('Split tone', { usual: 0 }),
      balance: zone('Balance'),
    },
    usual: {
      ...{ blacks: 0, shadows: 0, middles: 0, highlights: 0, whites: 0, toned: 0, balance: 0 },
      ...{ shadowColour: '#4A3C7A', highlightColour: '#F0B45A' },
    },
  },
  qualifier: {
    title: 'Qualifier',
    properties: {
      hue: turn('Hue'),
      width: number('Hue width', 'deg', 1, 360, { step: 1, usual: 50 }),
      softness: share('Softness', { usual: 0.5 }),
      leastChroma: share('Least chroma', { usual: 0.1 }),
      darkest: share('Darkest', { usual: 0 }),
      brightest: share('Brightest', { usual: 1 }),
      shift: number('Hue shift', 'deg', -180, 180, { step: 1, usual: 0 }),
      saturation: share('Saturation', { max: 4, usual: 1 }),
      lightness: zone('Lightness'),
      shown: toggle('Show what is meant'),
    },
    usual: {
      ...{ hue: 70, width: 50, softness: 0.5, leastChroma: 0.1, darkest: 0, brightest: 1 },
      ...{ shift: 0, saturation: 1, lightness: 0, shown: false },
    },
  },
  curves: { title: 'Curves', properties: {}, usual: { curves: noCurves() } },
  lut: {
    title: 'LUT',
    properties: { coded: choice('Works on', LUT_CODES) },
    usual: { asset: '', title: '', coded: 'display' },
  },
  filter: {
    title: 'Filter',
    properties: {
      form: choice('Form', FILTER_FORMS),
      size: number('Size', '', 0, 2, { step: 0.002, usual: 0.02 }),
      amount: share('Amount', { max: 4, usual: 1 }),
      angle: turn('Angle'),
      focus: number('Sharp at', 'm', 0.01, 1000, { step: 0.01, usual: 1 }),
      grain: number('Noise size', '', 0.005, 5, { step: 0.01, usual: 0.15 }),
      evolve: perSecond('Evolves'),
      seed,
    },
    usual: { form: 'blur', size: 0.02, amount: 1, angle: 0, focus: 1, grain: 0.15, evolve: 0.4, seed: 1 },
  },
  ...PICTURES,
  ...HOLDING,
  ...LINES,
  ...AIR,
  lens: {
    title: 'Lens',
    properties: {
      bloom: share('Bloom', { usual: 0.08 }),
      bloomSize: size('Bloom size', 0.06, 1),
      halation: share('Halation', { usual: 0 }),
      distortion: number('Distortion', '', -0.5, 0.5, { step: 0.01, usual: 0 }),
      fringing: share('Fringing', { usual: 0 }),
      vignette: share('Vignette', { usual: 0.15 }),
      grain: share('Grain', { usual: 0.15 }),
      grainSize: number('Grain size', '', 0.0005, 0.05, { step: 0.0005, usual: 0.002 }),
      seed,
    },
    usual: {
      ...{ bloom: 0.08, bloomSize: 0.06, halation: 0, distortion: 0, fringing: 0, vignette: 0.15 },
      ...{ grain: 0.15, grainSize: 0.002, seed: 1 },
    },
  },
};

export const LAYER_KINDS = Object.keys(LAYERS) as LayerKind[];
