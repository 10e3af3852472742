import type { PromoDocument, Title, TitleCallout } from '../document/index.ts';
import { clamp, cos, sin } from '../maths/index.ts';
import type { Shown, ShownClip } from './cut.ts';
import { pictureAt, pictureSize } from './framing.ts';
import { takeTime } from './pace.ts';

/** Where a title points: shares of the promo's width and height, from the top left, and how much of it is seen. */
export interface CalloutPoint {
  x: number;
  y: number;
  seen: number;
}

const RADIANS = Math.PI / 180;

/** Frames of a take over which a point goes out of sight. */
const SOFT = 2;

/** The point at a frame of its take, or between two: of before it was followed as at the first of them. */
export function trackAt({ from, track }: TitleCallout, time: number): [x: number, y: number, seen: number] | null {
  const last = track.length / 3 - 1;
  if (last < 0) return null;
  const at = clamp(time - from, 0, last);
  const [early, late] = [Math.floor(at), Math.min(last, Math.floor(at) + 1)];
  const value = (i: number): number => {
    const [a, b] = [track[early * 3 + i], track[late * 3 + i]];
    return a + (b - a) * (at - early);
  };
  let [sum, count] = [0, 0];
  for (let n = Math.max(0, early - SOFT); n <= Math.min(last, early + SOFT); n++)
    [sum, count] = [sum + track[n * 3 + 2], count + 1];
  return [value(0), value(1), sum / count];
}

/**
 * Where a title's callout points at a frame of the promo: through the picture of the clip that shows its take; null while none does.
 * @param aspectOf the proportion of a clip's pictures; null: not known.
 */
export function calloutAt(
  { callout }: Pick<Title, 'callout'>,
  promo: PromoDocument,
  shown: Shown | null,
  aspectOf: (clip: ShownClip) => number | null,
): CalloutPoint | null {
  const of = [shown?.clip, shown?.next].find(
    (part) => part && callout && part.clip.take === callout.take && !part.clip.off,
  );
  if (!callout || !of) return null;
  const point = trackAt(callout, takeTime(of.clip, of.at));
  if (!point) return null;
  const { aspect, place, size, c, s } = lies(promo, of, aspectOf(of));
  // In a transition it comes and goes with its clip.
  const there = !shown?.next ? 1 : of === shown.next ? shown.t : 1 - shown.t;
  const [x, y] = [point[0] * size * (place.mirror ? -1 : 1), point[1] * size];
  return {
    x: 0.5 + (c * x - s * y + place.x) / aspect,
    y: 0.5 - (s * x + c * y + place.y),
    seen: point[2] * place.opacity * there,
  };
}

/** The point of a clip's picture, heights from its middle with y up, that is seen at a place of the promo. */
export function pointOfClip(
  promo: PromoDocument,
  of: ShownClip,
  own: number | null,
  [across, down]: readonly [number, number],
): [x: number, y: number] {
  const { aspect, place, size, c, s } = lies(promo, of, own);
  const [x, y] = [(across - 0.5) * aspect - place.x, 0.5 - down - place.y];
  return [((c * x + s * y) / size) * (place.mirror ? -1 : 1), (c * y - s * x) / size];
}

/** How a clip's picture lies in the promo: its height, and the cosine and sine of its turn. */
function lies(promo: PromoDocument, { clip, at }: ShownClip, own: number | null) {
  const aspect = promo.width / promo.height;
  const place = pictureAt(clip, promo, at, aspect, own ?? aspect);
  const size = pictureSize(clip, aspect, own ?? aspect).high * place.scale;
  return { aspect, place, size, c: cos(place.rotation * RADIANS), s: sin(place.rotation * RADIANS) };
}
