import { coveringScale } from '../composite/index.ts';
import {
  clipTracks,
  CLIP_PROPERTIES,
  newClipPicture,
  type Clip,
  type ClipPicture,
  type Keyed,
} from '../document/index.ts';
import { keyedValues } from './keyed-values.ts';

/** A picture as it is. */
export const AT_REST: Readonly<ClipPicture> = newClipPicture();

/** What of a clip says how its picture lies. */
export type Pictured = Pick<Clip, 'id' | 'picture' | 'length' | 'fill'>;

/** Values of a clip's picture at frames of its own. Before its first key and after its last a value stays. */
export function clipValues({ id, picture }: Pick<Clip, 'id' | 'picture'>, keyed: Keyed): (at: number) => ClipPicture {
  return picture ? keyedValues(picture, clipTracks(keyed, id), CLIP_PROPERTIES, keyed) : () => AT_REST;
}

/**
 * How large a clip's picture is at scale 1, in heights of the frame: all of it in the frame, or, cropped, all of the frame in it.
 * @param aspect of the frame. @param own of the picture.
 */
export function pictureSize({ fill }: Pick<Clip, 'fill'>, aspect: number, own: number): { wide: number; high: number } {
  const high = fill === 'cropped' ? Math.max(1, aspect / own) : Math.min(1, aspect / own);
  return { wide: high * own, high };
}

/**
 * How a clip's picture lies at a frame of its own; covered over the whole clip by one gain, so that the move keeps its shape.
 * @param keyed the promo. @param aspect of the frame. @param own of the picture; left out: the frame's.
 */
export function pictureAt(clip: Pictured, keyed: Keyed, at: number, aspect: number, own = aspect): ClipPicture {
  const values = clipValues(clip, keyed);
  const now = values(at);
  // Between bars, or over its own blurred picture, the frame is never empty of it: the bars are what is covered.
  if (!clip.picture?.cover || clip.fill === 'blurred') return now;
  const size = clip.fill === 'cropped' ? pictureSize(clip, aspect, own) : { wide: aspect, high: 1 };
  let gain = 1;
  for (let frame = 0; frame < clip.length; frame++) {
    const there = values(frame);
    gain = Math.max(gain, coveringScale(there, aspect, size) / there.scale);
  }
  return { ...now, scale: now.scale * gain };
}

/** Whether all of a picture is seen where it lies. */
export const isWhole = ({ opacity, blur, radius, cropLeft, cropRight, cropTop, cropBottom }: ClipPicture): boolean =>
  opacity >= 1 && blur <= 0 && radius <= 0 && cropLeft <= 0 && cropRight <= 0 && cropTop <= 0 && cropBottom <= 0;
