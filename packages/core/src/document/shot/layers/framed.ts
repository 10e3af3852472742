import { choice, count, number, share, type Properties } from '../../../properties/index.ts';

export const FILM_ENDS = ['hold', 'loop', 'nothing'] as const;

/** A film as pictures at a constant rate. */
export interface Film {
  /** File that lists the pictures, one hash a line. */
  list: string;
  name: string;
  frames: number;
  /** Frames a second. */
  rate: number;
}

/** A frame that a picture is seen in. */
export interface Framed {
  /** Of the frame, in picture heights. */
  height: number;
  /** Radius of its corners, a share of its height. */
  corner: number;
  /** Share of the picture's height that is seen at once, and where: 0 its top, 1 its bottom. */
  view: number;
  scroll: number;
}

/** Values of pictures in frames. */
export const FRAMED = {
  height: number('Height', '', 0.001, 20, { step: 0.01, usual: 0.4 }),
  corner: share('Corners', { max: 0.5, usual: 0 }),
  view: share('Seen of it', { min: 0.02, usual: 1 }),
  scroll: share('Scroll', { usual: 0 }),
} satisfies Properties;
/** A frame that shows all of a picture, with square corners. */
export const UNFRAMED = { corner: 0, view: 1, scroll: 0 };

/** Layers that show a picture in a frame. */
export type FramedLayer =
  /** A picture file in a frame of that height. */
  | ({ kind: 'still'; asset: string } & Framed)
  /**
   * A film in a frame. It begins with the layer's span, `skip` seconds into itself, and goes `pace` times as fast; `ends` says what is
   * seen before its first and after its last frame.
   */
  | ({ kind: 'footage'; film: Film | null; skip: number; pace: number; ends: (typeof FILM_ENDS)[number] } & Framed)
  /** The composite of a take of another shot, in a frame. The frame `skip` of it begins with the layer's span. */
  | ({ kind: 'composite'; take: string; skip: number; pace: number } & Framed);

/** What is known of these kinds: see LAYERS. */
export const PICTURES = {
  still: {
    title: 'Still',
    properties: FRAMED,
    usual: { asset: '', height: 0.4, ...UNFRAMED },
  },
  footage: {
    title: 'Footage',
    properties: {
      skip: number('Begins at', 's', 0, 3600, { step: 0.1, usual: 0 }),
      pace: number('Pace', 'x', -8, 8, { step: 0.05, usual: 1 }),
      ends: choice('At its ends', FILM_ENDS),
      ...FRAMED,
    },
    usual: { film: null, skip: 0, pace: 1, ends: 'hold' as const, height: 0.6, ...UNFRAMED },
  },
  composite: {
    title: 'Composite',
    properties: {
      skip: count('Begins at frame', 0, 100000),
      pace: number('Pace', 'x', -8, 8, { step: 0.05, usual: 1 }),
      ...FRAMED,
    },
    usual: { take: '', skip: 0, pace: 1, height: 0.6, ...UNFRAMED },
  },
} satisfies Record<FramedLayer['kind'], { title: string; properties: Properties; usual: object }>;
