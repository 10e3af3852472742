import { number, propertiesOf, share, type NumberProperty } from '../../properties/index.ts';
import { finite, flag, shape } from '../fields.ts';

/**
 * How a clip's picture lies in the frame and what is seen of it. Lengths are shares of the promo's height from the middle, x to the
 * right, y up; degrees to the left; the corners' radius is in heights of the picture.
 */
export interface ClipPicture {
  x: number;
  y: number;
  scale: number;
  rotation: number;
  opacity: number;
  blur: number;
  radius: number;
  /** Shares of the picture that are cut off. */
  cropLeft: number;
  cropRight: number;
  cropTop: number;
  cropBottom: number;
  /** Left and right change places. */
  mirror: boolean;
  /** Made so much larger that no corner is ever empty. */
  cover: boolean;
}

/** Values of a clip's picture that keys can hold, by the paths of its tracks. */
export type ClipPath = keyof { [K in keyof ClipPicture as ClipPicture[K] extends number ? K : never]: unknown };

const cut = (label: string): NumberProperty => share(label, { usual: 0 });

/** What fields and keys of a clip's picture allow. */
export const CLIP_PROPERTIES: Record<ClipPath, NumberProperty> = propertiesOf<ClipPicture>()({
  scale: share('Scale', { min: 0.01, max: 100, usual: 1 }),
  x: share('Across', { min: -10, max: 10, usual: 0 }),
  y: share('Up', { min: -10, max: 10, usual: 0 }),
  rotation: number('Rotation', 'deg', -3600, 3600, { usual: 0 }),
  opacity: share('Opacity', { usual: 1 }),
  blur: share('Blur', { max: 0.5, step: 0.1, usual: 0 }),
  radius: share('Corner radius', { max: 0.5, usual: 0 }),
  cropLeft: cut('Crop left'),
  cropRight: cut('Crop right'),
  cropTop: cut('Crop top'),
  cropBottom: cut('Crop bottom'),
});

export const CLIP_PATHS = Object.keys(CLIP_PROPERTIES) as readonly ClipPath[];

/** A picture as it is, which no move uncovers. */
export function newClipPicture(values: Partial<ClipPicture> = {}): ClipPicture {
  return {
    ...{ x: 0, y: 0, scale: 1, rotation: 0, opacity: 1, blur: 0, radius: 0 },
    ...{ cropLeft: 0, cropRight: 0, cropTop: 0, cropBottom: 0, mirror: false, cover: true },
    ...values,
  };
}

const of = (path: ClipPath) =>
  finite(CLIP_PROPERTIES[path].label, CLIP_PROPERTIES[path].min, CLIP_PROPERTIES[path].max);

export const clipPictureSchema = shape<ClipPicture>({
  x: of('x'),
  y: of('y'),
  scale: of('scale'),
  rotation: of('rotation'),
  opacity: of('opacity'),
  blur: of('blur'),
  radius: of('radius'),
  cropLeft: of('cropLeft'),
  cropRight: of('cropRight'),
  cropTop: of('cropTop'),
  cropBottom: of('cropBottom'),
  mirror: flag('Mirrored'),
  cover: flag('Cover'),
});
