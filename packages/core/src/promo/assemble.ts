import {
  blend,
  blurPlate,
  drawTransition,
  placeOf,
  Pyramid,
  stillPlate,
  warp,
  type Plate,
  type Plates,
} from '../composite/index.ts';
import type { ClipPicture, LayerOf, PromoDocument, Title } from '../document/index.ts';
import { drawOver, fitPicture, makePicture, type Overlay, type Picture } from '../picture/index.ts';
import { calloutAt, type CalloutPoint } from './callout.ts';
import { logoFrame, shownAt, type Shown, type ShownClip } from './cut.ts';
import { drawOverlays, footageLength, type TakeLength } from './overlays.ts';
import { AT_REST, isWhole, pictureAt, pictureSize } from './framing.ts';
import type { TakeFrame } from './pace.ts';
import { trimPicture } from './trim-picture.ts';
import { strokeUnder, titleAt, windowFrame } from './title-now.ts';

/** What of a promo a title is drawn with. */
export interface TitleGround {
  /** The stroke that its letters go along. */
  along: LayerOf<'stroke'> | null;
  /** The picture that is seen through them, straight alpha. */
  window: Picture | null;
  /** The point that a line goes to from it. */
  callout?: CalloutPoint;
}

/** Draws one title; TitlePainter is the one there is. */
export interface TitleDrawer {
  draw(title: Title, frame: number, width: number, height: number, ground?: TitleGround): Overlay | null;
}

/** The picture of a frame of a take; null when it cannot be had: black. */
export type PictureOf = (frame: TakeFrame) => Picture | null;

/**
 * The promo's picture at `frame`. Preview and file both come from here, at the promo's own size, so they are the same pixels. A clip
 * that is simply seen is its take's picture; moved, blended and in transitions pictures are light.
 * @param shown what shownAt() gave for the frame. @param layers what layersOver() gave for it.
 * @param takeLength frames of takes, which overlays may show.
 */
export function assemble(
  plates: Plates,
  promo: PromoDocument,
  frame: number,
  shown: Shown | null,
  pictureOf: PictureOf,
  titles: TitleDrawer,
  layers: ((below: Picture) => Picture) | null = null,
  takeLength: TakeLength = () => 0,
): Picture {
  const { width, height } = promo;
  const below = shown ? shownPicture(plates, promo, shown, pictureOf) : makePicture(width, height);
  const overlaid = drawOverlays(plates, promo, frame, below, pictureOf, takeLength);
  const out = layers ? layers(overlaid) : overlaid;
  for (const title of promo.titles) {
    const seen = windowFrame(title, promo, frame);
    const pointing = title.callout ? pointedAt(title, promo, frame, shown, pictureOf, takeLength) : null;
    // Nothing is pointed at that is not there.
    if (title.callout && !pointing) continue;
    const ground = {
      ...{ along: strokeUnder(title, promo, frame), window: seen && pictureOf(seen) },
      ...(pointing && { callout: pointing.point }),
    };
    const now = titleAt(title, promo, frame);
    const placed = pointing ? { ...now, x: now.x + pointing.by[0], y: now.y + pointing.by[1] } : now;
    const overlay = titles.draw(placed, frame, width, height, ground);
    if (overlay) drawOver(out, overlay);
  }
  return out;
}

/** Where a title points, and how far it goes along with that: shares of the promo's width and height. */
function pointedAt(
  title: Title,
  promo: PromoDocument,
  frame: number,
  shown: Shown | null,
  pictureOf: PictureOf,
  takeLength: TakeLength,
): { point: CalloutPoint; by: readonly [number, number] } | null {
  if (frame < title.start || frame >= title.start + title.length) return null;
  const aspectOf = ({ frames }: ShownClip): number | null => {
    const picture = frames.length > 0 ? pictureOf(frames[0]) : null;
    return picture && picture.width / picture.height;
  };
  const point = calloutAt(title, promo, shown, aspectOf);
  if (!point || point.seen <= 0) return null;
  const first = title.callout!.rides
    ? calloutAt(title, promo, shownAt(promo, title.start, takeLength), aspectOf)
    : null;
  return { point, by: first ? [point.x - first.x, point.y - first.y] : [0, 0] };
}

/** Fitted pictures: one that is played again is not resampled again. */
const fits = new WeakMap<Picture, Picture>();
function fittedOf(picture: Picture, width: number, height: number): Picture {
  const known = fits.get(picture);
  if (known?.width === width && known.height === height) return known;
  const fitted = fitPicture(picture, width, height);
  if (fitted !== picture) fits.set(picture, fitted);
  return fitted;
}

function shownPicture(plates: Plates, promo: PromoDocument, shown: Shown, pictureOf: PictureOf): Picture {
  const { width, height } = promo;
  const { clip, next, transition, t } = shown;
  // Footage may be seen through in places: there it is black.
  const plain = !clip.clip.picture && !clip.clip.fill && clip.frames.length <= 1;
  if (!next && plain && footageLength(promo, clip.clip.take) === 0) {
    const source = clip.frames.length > 0 ? pictureOf(clip.frames[0]) : null;
    if (!source) return makePicture(width, height);
    const fitted = fittedOf(source, width, height);
    return { ...fitted, data: fitted.data.slice() };
  }
  return plates.within(() => {
    const plate = clipPlate(plates, promo, clip, pictureOf);
    if (next && transition) {
      const seen = logoFrame(promo, transition);
      const coming = clipPlate(plates, promo, next, pictureOf);
      drawTransition(plates, plate, coming, transition, t, seen && pictureOf(seen));
    }
    const count = width * height;
    plates.kernel.recode(plate.at, count, 0);
    const bytes = plates.floats(count);
    plates.kernel.toBytes(plate.at, count, bytes.at);
    return { width, height, data: plates.bytes(bytes.at, count * 4).slice() };
  });
}

/** How soft and how dark a picture is that lies behind itself: sigma in heights of the frame, share of its light. */
const BEHIND = { sigma: 0.045, light: 0.45 };

/** A clip's picture as opaque light: its frames mixed, filling the frame as the clip says, and moved. */
function clipPlate(plates: Plates, promo: PromoDocument, shown: ShownClip, pictureOf: PictureOf): Plate {
  const { width, height } = promo;
  const { clip } = shown;
  const aspect = width / height;
  const out = plates.make(width, height);
  plates.within(() => {
    const mixed = mixedFrames(plates, shown, pictureOf);
    if (!mixed) return;
    const own = mixed.width / mixed.height;
    const draw = (into: Plate, place: ClipPicture, { high }: { high: number }): void =>
      plates.within(() => {
        const pyramid = new Pyramid(plates, mixed);
        warp(plates, into, pyramid, placeOf({ ...place, stretch: place.mirror ? -1 : 1 }, width, height), high);
      });
    const place = pictureAt(clip, promo, shown.at, aspect, own);
    const size = pictureSize(clip, aspect, own);
    const blurred = clip.fill === 'blurred';
    if (!blurred && isWhole(place)) return draw(out, place, size);
    if (blurred) {
      draw(out, AT_REST, pictureSize({ fill: 'cropped' }, aspect, own));
      blurPlate(plates, out, BEHIND.sigma * height);
      const dark = plates.make(width, height);
      opaque(dark);
      blend(plates, out, dark, 'over', 1 - BEHIND.light);
    }
    trimPicture(mixed, place);
    const front = plates.make(width, height);
    draw(front, place, size);
    if (place.blur > 0) blurPlate(plates, front, place.blur * height);
    blend(plates, out, front, 'over', place.opacity);
  });
  opaque(out);
  return out;
}

/** The frames that a clip shows, mixed as light, in the size of the first of them; null when none is there. */
function mixedFrames(plates: Plates, { frames }: ShownClip, pictureOf: PictureOf): Plate | null {
  const there = frames.flatMap((part) => {
    const picture = pictureOf(part);
    return picture ? [{ picture, weight: part.weight }] : [];
  });
  if (there.length === 0) return null;
  const { width, height } = there[0].picture;
  if (frames.length === 1) return stillPlate(plates, there[0].picture, true);
  const mixed = plates.make(width, height);
  for (const { picture, weight } of there)
    plates.within(() =>
      blend(plates, mixed, stillPlate(plates, fitPicture(picture, width, height), true), 'add', weight),
    );
  return mixed;
}

/** What is not there is black. */
function opaque({ data }: Plate): void {
  for (let i = 3; i < data.length; i += 4) data[i] = 1;
}
