import { blend, placeOf, Pyramid, stillPlate, warp, type Plates } from '../composite/index.ts';
import {
  OVERLAY_PROPERTIES,
  overlayTracks,
  ownOverlayValues,
  type OverlayValues,
  type PromoDocument,
  type PromoOverlay,
} from '../document/index.ts';
import type { Picture } from '../picture/index.ts';
import { keyedValues } from './keyed-values.ts';
import { arrivalPose } from './title-pose.ts';
import type { TakeFrame } from './pace.ts';
import { trimPicture } from './trim-picture.ts';

/** Frames of a piece of footage of a promo; none for what is none. */
export const footageLength = ({ footage }: Pick<PromoDocument, 'footage'>, id: string): number =>
  footage.find((f) => f.id === id)?.frames ?? 0;

/** The frame of its footage or take that an overlay shows at a promo frame: the nearest, past its end the last. */
function frameOf(promo: PromoDocument, overlay: PromoOverlay, frame: number, takeLength: TakeLength): TakeFrame | null {
  if (frame < overlay.start || frame >= overlay.start + overlay.length) return null;
  const frames = footageLength(promo, overlay.footage) || takeLength(overlay.footage);
  if (frames === 0) return null;
  const at = Math.round(overlay.first + (frame - overlay.start) * overlay.speed);
  return { take: overlay.footage, frame: Math.min(frames - 1, at), weight: 1 };
}

/** Frames of a take; 0 for what is none. */
export type TakeLength = (take: string) => number;

/** Frames of footage and takes that overlays show at a promo frame. */
export const overlayFrames = (promo: PromoDocument, frame: number, takeLength: TakeLength): TakeFrame[] =>
  promo.overlays.flatMap((overlay) => frameOf(promo, overlay, frame, takeLength) ?? []);

/** Values of an overlay at frames of its own. */
export function overlayValues(
  overlay: PromoOverlay,
  promo: Pick<PromoDocument, 'tracks' | 'eases'>,
): (at: number) => OverlayValues {
  return keyedValues(ownOverlayValues(overlay), overlayTracks(promo, overlay.id), OVERLAY_PROPERTIES, promo);
}

/** How far what rises or slides comes from, as titles have it in em: shares of an overlay's height. */
const EM = 0.3;

/**
 * Lays what overlays show over a picture, as light. @returns the picture itself where there is none.
 * @param pictureOf gives pictures with straight alpha; null for what is not there.
 */
export function drawOverlays(
  plates: Plates,
  promo: PromoDocument,
  frame: number,
  below: Picture,
  pictureOf: (frame: TakeFrame) => Picture | null,
  takeLength: TakeLength,
): Picture {
  const { width, height } = promo;
  const seen = promo.overlays.flatMap((overlay) => {
    const part = frameOf(promo, overlay, frame, takeLength);
    const pose = part && arrivalPose(overlay, frame);
    const values = pose && overlayValues(overlay, promo)(frame - overlay.start);
    const picture = part && values && values.opacity * pose.opacity > 0 ? pictureOf(part) : null;
    return picture && values && pose ? [{ values, pose, picture }] : [];
  });
  if (seen.length === 0) return below;
  return plates.within(() => {
    const out = stillPlate(plates, below, true);
    for (const { values, pose, picture } of seen)
      plates.within(() => {
        const { x, y, size, rotation } = values;
        const em = EM * size;
        const place = {
          x: ((x - 0.5) * width) / height + pose.across * em,
          y: 0.5 - y - pose.down * em,
          ...{ scale: pose.scale, rotation, stretch: 1 },
        };
        const source = stillPlate(plates, picture, true);
        trimPicture(source, values);
        const layer = plates.make(width, height);
        warp(plates, layer, new Pyramid(plates, source), placeOf(place, width, height), size);
        blend(plates, out, layer, 'over', values.opacity * pose.opacity);
      });
    const count = width * height;
    plates.kernel.recode(out.at, count, 0);
    const bytes = plates.floats(count);
    plates.kernel.toBytes(out.at, count, bytes.at);
    return { width, height, data: plates.bytes(bytes.at, count * 4).slice() };
  });
}
