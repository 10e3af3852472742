import {
  blend,
  drawTransition,
  placeOf,
  Pyramid,
  stillPlate,
  warp,
  type Plate,
  type Plates,
} from '../composite/index.ts';
import type { PromoDocument, Title } from '../document/index.ts';
import { drawOver, fitPicture, makePicture, type Overlay, type Picture } from '../picture/index.ts';
import type { Shown, ShownClip } from './cut.ts';
import { placementAt } from './framing.ts';
import type { TakeFrame } from './pace.ts';

/** Draws one title; TitlePainter is the one there is. */
export interface TitleDrawer {
  draw(title: Title, frame: number, width: number, height: number): Overlay | null;
}

/** The picture of a frame of a take; null when it cannot be had: black. */
export type PictureOf = (frame: TakeFrame) => Picture | null;

/**
 * The promo's picture at `frame`. Preview and file both come from here, at the promo's own size, so they are the same pixels. A clip
 * that is simply seen is its take's picture; moved, blended and in transitions pictures are light.
 * @param shown what shownAt() gave for the frame.
 */
export function assemble(
  plates: Plates,
  promo: PromoDocument,
  frame: number,
  shown: Shown | null,
  pictureOf: PictureOf,
  titles: TitleDrawer,
): Picture {
  const { width, height } = promo;
  const out = shown ? shownPicture(plates, promo, shown, pictureOf) : makePicture(width, height);
  for (const title of promo.titles) {
    const overlay = titles.draw(title, frame, width, height);
    if (overlay) drawOver(out, overlay);
  }
  return out;
}

function shownPicture(plates: Plates, promo: PromoDocument, shown: Shown, pictureOf: PictureOf): Picture {
  const { width, height } = promo;
  const { clip, next, transition, t } = shown;
  if (!next && !clip.clip.move && clip.frames.length <= 1) {
    const source = clip.frames.length > 0 ? pictureOf(clip.frames[0]) : null;
    if (!source) return makePicture(width, height);
    const fitted = fitPicture(source, width, height);
    return fitted === source ? { ...fitted, data: fitted.data.slice() } : fitted;
  }
  return plates.within(() => {
    const plate = clipPlate(plates, promo, clip, pictureOf);
    if (next && transition) drawTransition(plates, plate, clipPlate(plates, promo, next, pictureOf), transition, t);
    const count = width * height;
    plates.kernel.recode(plate.at, count, 0);
    const bytes = plates.floats(count);
    plates.kernel.toBytes(plate.at, count, bytes.at);
    return { width, height, data: plates.bytes(bytes.at, count * 4).slice() };
  });
}

/** A clip's picture as opaque light: its frames mixed, and moved. */
function clipPlate(plates: Plates, { width, height }: PromoDocument, shown: ShownClip, pictureOf: PictureOf): Plate {
  const mixed = plates.make(width, height);
  for (const part of shown.frames) {
    const picture = pictureOf(part);
    if (picture)
      plates.within(() => {
        const plate = stillPlate(plates, fitPicture(picture, width, height), true);
        blend(plates, mixed, plate, 'add', part.weight);
      });
  }
  const place = placementAt(shown.clip, shown.at, width / height);
  const moved = shown.clip.move ? plates.make(width, height) : mixed;
  if (moved !== mixed)
    plates.within(() => {
      const where = placeOf({ ...place, stretch: 1 }, width, height);
      warp(plates, moved, new Pyramid(plates, mixed), where, 1);
    });
  opaque(moved);
  return moved;
}

/** What is not there is black. */
function opaque({ data }: Plate): void {
  for (let i = 3; i < data.length; i += 4) data[i] = 1;
}
