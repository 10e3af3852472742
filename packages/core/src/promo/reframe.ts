import type { Clip, Placement, PromoDocument, PromoOverlay, Title } from '../document/index.ts';
import { shortened } from '../text/index.ts';
import { AT_REST, pictureSize } from './framing.ts';
import { footageLength } from './overlays.ts';
import { framesShown } from './pace.ts';

/** What is to stay in the frame: its middle and size in heights of the picture, from its middle, y up. */
export interface Focus {
  /** Which of the things it is. */
  id: string;
  x: number;
  y: number;
  wide: number;
  high: number;
}

/**
 * What is to be followed in a frame of a take.
 * @param near the point of the picture that the cut has in the middle now: of several things the one that is meant.
 * @param id of the one that was meant in another frame: that is asked for again.
 * @returns null when nothing is known: the middle is kept.
 */
export type FocusOf = (take: string, frame: number, near: { x: number; y: number }, id?: string) => Focus | null;

export interface Reframing {
  name: string;
  width: number;
  height: number;
  focusOf: FocusOf;
  /** Width of takes by their height. */
  takeAspect: number;
  /** Frames of a take. */
  takeLength: (take: string) => number;
}

/** Share of the frame's width that what is followed fills at most. */
const WIDEST = 0.9;
/** What is kept free at the sides, and above and below where controls lie over upright films, shares of the frame. */
const SIDES = 0.06;
const ENDS = 0.09;

const clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));

/**
 * The same cut in another proportion: each clip fills the frame, and its crop follows what is to be seen from its first frame to its
 * last; titles and overlays keep their size to the eye and come inside the safe area. Music, sounds and times stay.
 */
export function reframed(promo: PromoDocument, to: Reframing): PromoDocument {
  const { width, height } = to;
  const copy = JSON.parse(JSON.stringify(promo)) as PromoDocument;
  const old = promo.width / promo.height;
  // Letters of the same area: neither the width nor the height alone says how large they look.
  const scale = Math.sqrt((width * height) / (promo.width * promo.height));
  return {
    ...copy,
    ...{ name: shortened(to.name, 120), width, height },
    clips: copy.clips.map((clip) => ({ ...clip, ...framingOf(promo, clip, old, to) })),
    titles: copy.titles.map((title) => safeTitle(title, scale)),
    overlays: copy.overlays.map((overlay) => safeOverlay(promo, overlay, scale, to)),
  };
}

function framingOf(promo: PromoDocument, clip: Clip, old: number, to: Reframing): Partial<Clip> {
  const footage = promo.footage.find((f) => f.id === clip.take);
  const own = footage ? footage.width / footage.height : to.takeAspect;
  const move = clip.move ?? { from: AT_REST, to: AT_REST, ease: 'linear' as const, cover: true };
  const length = footageLength(promo, clip.take) || to.takeLength(clip.take);
  const before = pictureSize(clip, old, own).high;
  const focusAt = (at: number, place: Placement, id?: string): Focus => {
    const [shown] = framesShown(clip, at, length);
    const near = { x: -place.x / (place.scale * before), y: -place.y / (place.scale * before) };
    return (shown && to.focusOf(shown.take, shown.frame, near, id)) ?? { id: '', ...near, wide: 0, high: 0 };
  };
  // One thing is followed through all of a clip: the one that its middle shows.
  const { id } = focusAt((clip.length - 1) / 2, between(move.from, move.to));
  const [from, end] = [
    { place: move.from, at: 0 },
    { place: move.to, at: clip.length - 1 },
  ].map(({ place, at }) => {
    const sizes = { own, before, now: pictureSize({ fill: 'cropped' }, to.width / to.height, own).high };
    return followed(place, focusAt(at, place, id || undefined), sizes, to.width / to.height);
  });
  return { fill: 'cropped', move: { ...move, from, to: end, cover: true } };
}

const between = (a: Placement, b: Placement): Placement => ({
  x: (a.x + b.x) / 2,
  y: (a.y + b.y) / 2,
  scale: (a.scale + b.scale) / 2,
  rotation: (a.rotation + b.rotation) / 2,
});

/**
 * A placement in the old frame as one in the new: what is followed stays as high as it was, and comes to the middle across.
 * @param sizes the picture's proportion, and its height at scale 1 in the old frame and in the new.
 */
function followed(
  place: Placement,
  focus: Focus,
  { own, before, now }: { own: number; before: number; now: number },
  aspect: number,
): Placement {
  // No larger than that all of it is seen, no smaller than that the frame is full.
  const whole = focus.wide > 0 ? (WIDEST * aspect) / (focus.wide * now) : Infinity;
  const scale = Math.max(1, Math.min(place.scale, whole));
  const [across, up] = [(own * now * scale - aspect) / 2, (now * scale - 1) / 2].map((room) => Math.max(0, room));
  const seen = place.y + focus.y * place.scale * before;
  return {
    x: clamp(-focus.x * scale * now, -across, across),
    y: clamp(seen - focus.y * scale * now, -up, up),
    scale,
    rotation: place.rotation,
  };
}

function safeTitle(title: Title, scale: number): Title {
  return {
    ...title,
    size: clamp(title.size * scale, 4, 2000),
    x: clamp(title.x, SIDES, 1 - SIDES),
    y: clamp(title.y, ENDS, 1 - ENDS),
  };
}

function safeOverlay(
  promo: PromoDocument,
  overlay: PromoOverlay,
  scale: number,
  { width, height }: Reframing,
): PromoOverlay {
  const footage = promo.footage.find((f) => f.id === overlay.footage);
  const own = footage ? footage.width / footage.height : 1;
  // One that fills the frame fills it again.
  const full = overlay.size >= 1;
  const most = ((1 - 2 * SIDES) * width) / height / own;
  const size = full ? overlay.size : clamp((overlay.size * promo.height * scale) / height, 0.01, Math.min(10, most));
  const [halfWide, halfHigh] = [(size * own * height) / width / 2, size / 2];
  const kept = (v: number, half: number, edge: number): number =>
    full || half > 0.5 - edge ? v : clamp(v, edge + half, 1 - edge - half);
  return { ...overlay, size, x: kept(overlay.x, halfWide, SIDES), y: kept(overlay.y, halfHigh, ENDS) };
}
