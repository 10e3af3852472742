import { coveringScale } from '../composite/index.ts';
import type { Clip, ClipMove, Placement } from '../document/index.ts';

/** A picture as it is. */
export const AT_REST: Placement = { x: 0, y: 0, scale: 1, rotation: 0 };

const EASES: Record<ClipMove['ease'], (t: number) => number> = {
  linear: (t) => t,
  smooth: (t) => t * t * (3 - 2 * t),
  land: (t) => 1 - (1 - t) * (1 - t) * (1 - t),
};

/** Where a clip's picture lies at a frame of its own: from the first frame to the last, and still beyond them. Scales grow evenly. */
function placedAt({ from, to, ease }: ClipMove, at: number, length: number): Placement {
  const t = EASES[ease](length > 1 ? Math.min(1, Math.max(0, at / (length - 1))) : 0);
  const mix = (a: number, b: number): number => a + (b - a) * t;
  return {
    x: mix(from.x, to.x),
    y: mix(from.y, to.y),
    scale: mix(from.scale, to.scale),
    rotation: mix(from.rotation, to.rotation),
  };
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
 * Where a clip's picture lies at a frame of its own; covered over the whole clip by one gain, so that the move keeps its shape.
 * @param aspect of the frame. @param own of the picture; left out: the frame's.
 */
export function placementAt(
  clip: Pick<Clip, 'move' | 'length' | 'fill'>,
  at: number,
  aspect: number,
  own = aspect,
): Placement {
  const { move, length } = clip;
  if (!move) return AT_REST;
  const place = placedAt(move, at, length);
  // Between bars, or over its own blurred picture, the frame is never empty of it: the bars are what is covered.
  if (!move.cover || clip.fill === 'blurred') return place;
  const size = clip.fill === 'cropped' ? pictureSize(clip, aspect, own) : { wide: aspect, high: 1 };
  let gain = 1;
  for (let frame = 0; frame < length; frame++) {
    const there = placedAt(move, frame, length);
    gain = Math.max(gain, coveringScale(there, aspect, size) / there.scale);
  }
  return { ...place, scale: place.scale * gain };
}
