import { choice, colour, number, share, toggle, type Properties } from '../../../properties/index.ts';
import type { Spot } from './mask-path.ts';

export const STROKE_FORMS = ['wave', 'line', 'arc', 'spiral', 'drawn'] as const;
export const STROKE_CAPS = ['round', 'flat'] as const;

export const MASK_COMBINES = ['add', 'subtract', 'intersect', 'difference'] as const;

/** A corner of a drawn stroke; its handles are relative to it. */
export interface StrokePoint {
  at: Spot;
  in: Spot;
  out: Spot;
}

/** Layers that hold or carry others, or are the lights of a take. */
export type HoldingLayer =
  /** Its own layers, which name it as their group, laid over each other first. */
  | { kind: 'group' }
  /** Nothing: a place that others go along with. */
  | { kind: 'null' }
  /** One light of the take that it belongs to: so many times as bright, in a colour. Hidden, the light is off. */
  | { kind: 'fader'; light: string; level: number; colour: string }
  /** One more mask of the layer that it belongs to: how it meets those before it. Its own mask is what it shows. */
  | { kind: 'mask'; combine: (typeof MASK_COMBINES)[number] };

/** Layers that are drawn as lines. */
export type LineLayer =
  /**
   * A line of which the part from `from` to `to` is seen, moved along it by `shift` (shares of its length). Its width grows out of
   * nothing over the taper at either end; dashes and gaps are lengths.
   */
  | {
      kind: 'stroke';
      form: (typeof STROKE_FORMS)[number];
      points: StrokePoint[];
      closed: boolean;
      /** Whether what it goes round is filled with its colour; missing: it is not. */
      filled?: boolean;
      colour: string;
      width: number;
      height: number;
      line: number;
      cap: (typeof STROKE_CAPS)[number];
      from: number;
      to: number;
      shift: number;
      taperIn: number;
      taperOut: number;
      dash: number;
      gap: number;
    }
  /** A vector picture (SVG): its outlines are drawn, one after the other as `overlap` says, then what fills them fades in. */
  | {
      kind: 'logo';
      asset: string;
      title: string;
      height: number;
      drawn: number;
      filled: number;
      overlap: number;
      line: number;
      lineColour: string;
      recoloured: boolean;
      colour: string;
    };

const size = (label: string, usual: number, most = 20): ReturnType<typeof number> =>
  number(label, '', 0, most, { step: 0.01, usual });

/** What is known of these kinds: see LAYERS. */
export const HOLDING = {
  group: { title: 'Group', properties: {}, usual: {} },
  null: { title: 'Null', properties: {}, usual: {} },
  fader: {
    title: 'Light',
    properties: { level: number('Level', 'x', 0, 16, { step: 0.02, usual: 1 }), colour: colour('Colour') },
    usual: { light: '', level: 1, colour: '#FFFFFF' },
  },
  mask: {
    title: 'Mask',
    properties: { combine: choice('Combine', MASK_COMBINES) },
    usual: { combine: 'add' as const },
  },
} satisfies Record<HoldingLayer['kind'], { title: string; properties: Properties; usual: object }>;

export const LINES = {
  stroke: {
    title: 'Stroke',
    properties: {
      form: choice('Form', STROKE_FORMS),
      closed: toggle('Closed'),
      colour: colour('Colour'),
      width: size('Width', 1),
      height: size('Height', 0.3),
      line: number('Line width', '', 0.0005, 1, { step: 0.002, usual: 0.02 }),
      cap: choice('Ends', STROKE_CAPS),
      from: share('Trim start', { usual: 0 }),
      to: share('Trim end', { usual: 1 }),
      shift: number('Trim offset', '', -10, 10, { step: 0.02, usual: 0 }),
      taperIn: share('Taper start', { usual: 0 }),
      taperOut: share('Taper end', { usual: 0 }),
      dash: size('Dash', 0, 5),
      gap: size('Gap', 0, 5),
    },
    usual: {
      ...{
        form: 'wave' as const,
        points: [] as StrokePoint[],
        closed: false,
        colour: '#F0B45A',
        width: 1,
        height: 0.3,
      },
      ...{ line: 0.02, cap: 'round' as const, from: 0, to: 1, shift: 0, taperIn: 0, taperOut: 0, dash: 0, gap: 0 },
    },
  },
  logo: {
    title: 'Logo',
    properties: {
      height: size('Height', 0.3),
      drawn: share('Drawn on', { usual: 1 }),
      filled: share('Fill', { usual: 1 }),
      overlap: share('Overlap', { usual: 0.5 }),
      line: number('Line width', '', 0.0005, 0.2, { step: 0.001, usual: 0.004 }),
      lineColour: colour('Line colour'),
      recoloured: toggle('One colour'),
      colour: colour('Colour'),
    },
    usual: {
      ...{ asset: '', title: '', height: 0.3, drawn: 1, filled: 1, overlap: 0.5, line: 0.004 },
      ...{ lineColour: '#F4EEE4', recoloured: false, colour: '#F4EEE4' },
    },
  },
} satisfies Record<LineLayer['kind'], { title: string; properties: Properties; usual: object }>;
