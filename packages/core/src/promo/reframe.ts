import {
  clipTracks,
  newClipPicture,
  type Clip,
  type ClipPicture,
  type Ease,
  type PromoDocument,
  type PromoOverlay,
  type Title,
  type Track,
} from '../document/index.ts';
import { clamp } from '../maths/index.ts';
import { shortened } from '../text/index.ts';
import { clipValues, pictureSize } from './framing.ts';
import { footageLength } from './overlays.ts';
import { framesShown } from './pace.ts';
import { reframedLayers } from './reframe-layers.ts';

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
  /** Width of a take or a cut by its height. */
  aspectOf: (id: string) => number;
  /** Frames of it. */
  takeLength: (take: string) => number;
}

/** Share of the frame's width that what is followed fills at most. */
const WIDEST = 0.9;
/** What is kept free at the sides, and above and below where controls lie over upright films, shares of the frame. */
export const SIDES = 0.06;
export const ENDS = 0.09;

/** Values that follow what is to be seen. */
const FOLLOWED = ['x', 'y', 'scale'];

/**
 * The same cut in another proportion: each clip fills the frame, and its crop follows what is to be seen from its first frame to its
 * last; titles, overlays and layers keep their size to the eye, titles and overlays come inside the safe area. Music, sounds and times stay.
 */
export function reframed(promo: PromoDocument, to: Reframing): PromoDocument {
  const { width, height } = to;
  const copy = JSON.parse(JSON.stringify(promo)) as PromoDocument;
  const old = promo.width / promo.height;
  // Letters of the same area: neither the width nor the height alone says how large they look.
  const scale = Math.sqrt((width * height) / (promo.width * promo.height));
  const framed = copy.clips.map((clip) => framingOf(promo, clip, old, to));
  const ids = new Set(copy.clips.map(({ id }) => id));
  const layers = reframedLayers(copy, [old, width / height], (scale * promo.height) / height);
  return {
    ...copy,
    ...{ name: shortened(to.name, 120), width, height },
    clips: framed.map(({ clip }) => clip),
    tracks: [...layers.tracks.filter((t) => !ids.has(t.thing)), ...framed.flatMap(({ tracks }) => tracks)],
    layers: layers.layers,
    titles: copy.titles.map((title) => safeTitle(title, scale)),
    overlays: copy.overlays.map((overlay) => safeOverlay(promo, overlay, scale, to)),
  };
}

/** A clip's picture in the new frame, and the keys by which it follows. */
function framingOf(promo: PromoDocument, clip: Clip, old: number, to: Reframing): { clip: Clip; tracks: Track[] } {
  const footage = promo.footage.find((f) => f.id === clip.take);
  const own = footage ? footage.width / footage.height : to.aspectOf(clip.take);
  const picture = clip.picture ?? newClipPicture();
  const values = clipValues({ id: clip.id, picture }, promo);
  const length = footageLength(promo, clip.take) || to.takeLength(clip.take);
  const before = pictureSize(clip, old, own).high;
  const focusAt = (at: number, place: ClipPicture, id?: string): Focus => {
    const [shown] = framesShown(clip, at, length);
    const near = { x: -place.x / (place.scale * before), y: -place.y / (place.scale * before) };
    return (shown && to.focusOf(shown.take, shown.frame, near, id)) ?? { id: '', ...near, wide: 0, high: 0 };
  };
  // One thing is followed through all of a clip: the one that its middle shows.
  const middle = (clip.length - 1) / 2;
  const { id } = focusAt(middle, values(middle));
  const now = pictureSize({ fill: 'cropped' }, to.width / to.height, own).high;
  const placed = (at: number): Pick<ClipPicture, 'x' | 'y' | 'scale'> =>
    followed(values(at), focusAt(at, values(at), id || undefined), { own, before, now }, to.width / to.height);
  const others = clipTracks(promo, clip.id).filter((t) => !FOLLOWED.includes(t.path));
  const kept = clipTracks(promo, clip.id).filter((t) => FOLLOWED.includes(t.path));
  const within = (frame: number): boolean => frame > 0 && frame < clip.length - 1;
  const frames = [
    ...new Set([0, clip.length - 1, ...kept.flatMap((t) => t.keys.map((k) => k.frame).filter(within))]),
  ].sort((a, b) => a - b);
  const easeAt = (frame: number): Ease =>
    kept.flatMap((t) => t.keys.filter((k) => k.frame === frame))[0]?.ease ?? (kept[0]?.keys[0]?.ease || 'linear');
  const places = frames.map(placed);
  const tracks = FOLLOWED.map((path): Track => {
    const at = path as 'x' | 'y' | 'scale';
    return {
      thing: clip.id,
      path,
      keys: frames.map((frame, i) => ({ frame, value: places[i][at], ease: easeAt(frame) })),
    };
  }).filter(({ keys }) => keys.some((key) => key.value !== keys[0].value));
  return {
    clip: { ...clip, fill: 'cropped', picture: { ...picture, ...places[0], cover: true } },
    tracks: [...others, ...tracks],
  };
}

/**
 * A placement in the old frame as one in the new: what is followed stays as high as it was, and comes to the middle across.
 * @param sizes the picture's proportion, and its height at scale 1 in the old frame and in the new.
 */
function followed(
  place: ClipPicture,
  focus: Focus,
  { own, before, now }: { own: number; before: number; now: number },
  aspect: number,
): Pick<ClipPicture, 'x' | 'y' | 'scale'> {
  // No larger than that all of it is seen, no smaller than that the frame is full.
  const whole = focus.wide > 0 ? (WIDEST * aspect) / (focus.wide * now) : Infinity;
  const scale = Math.max(1, Math.min(place.scale, whole));
  const [across, up] = [(own * now * scale - aspect) / 2, (now * scale - 1) / 2].map((room) => Math.max(0, room));
  const seen = place.y + focus.y * place.scale * before;
  return {
    x: clamp(-focus.x * scale * now, -across, across),
    y: clamp(seen - focus.y * scale * now, -up, up),
    scale,
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
  { width, height, aspectOf }: Reframing,
): PromoOverlay {
  const footage = promo.footage.find((f) => f.id === overlay.footage);
  const own = footage ? footage.width / footage.height : aspectOf(overlay.footage);
  // One that fills the frame fills it again.
  const full = overlay.size >= 1;
  const most = ((1 - 2 * SIDES) * width) / height / own;
  const size = full ? overlay.size : clamp((overlay.size * promo.height * scale) / height, 0.01, Math.min(10, most));
  const [halfWide, halfHigh] = [(size * own * height) / width / 2, size / 2];
  const kept = (v: number, half: number, edge: number): number =>
    full || half > 0.5 - edge ? v : clamp(v, edge + half, 1 - edge - half);
  return { ...overlay, size, x: kept(overlay.x, halfWide, SIDES), y: kept(overlay.y, halfHigh, ENDS) };
}
