import type { PromoDocument } from '../document/index.ts';
import { drawOver, fitPicture, makePicture, type Overlay, type Picture } from '../picture/index.ts';
import type { Title } from '../document/index.ts';

/** Draws one title; TitlePainter is the one there is. */
export interface TitleDrawer {
  draw(title: Title, frame: number, width: number, height: number): Overlay | null;
}

/**
 * The promo's picture at `frame`. Preview and file both come from here, at the promo's own size, so they are the same
 * pixels. `picture` is the take's frame that takeFrameAt() named, or null for black.
 */
export function assemble(promo: PromoDocument, frame: number, picture: Picture | null, titles: TitleDrawer): Picture {
  const { width, height } = promo;
  const fitted = picture ? fitPicture(picture, width, height) : makePicture(width, height);
  const out = fitted === picture ? { ...fitted, data: fitted.data.slice() } : fitted;
  for (const title of promo.titles) {
    const overlay = titles.draw(title, frame, width, height);
    if (overlay) drawOver(out, overlay);
  }
  return out;
}
