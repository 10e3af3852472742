import { number, share, type Properties } from '../../../properties/index.ts';

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
