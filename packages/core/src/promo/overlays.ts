import { blend, placeOf, Pyramid, stillPlate, warp, type Plates } from '../composite/index.ts';
import type { PromoDocument, PromoOverlay } from '../document/index.ts';
import type { Picture } from '../picture/index.ts';
import { arrivalPose } from './title-pose.ts';
import type { TakeFrame } from './pace.ts';

/** Frames of a piece of footage of a promo; none for what is none. */
export const footageLength = ({ footage }: Pick<PromoDocument, 'footage'>, id: string): number =>
  footage.find((f) => f.id === id)?.frames ?? 0;

/** The frame of its footage that an overlay shows at a promo frame: the nearest, past its end the last. */
function frameOf(promo: PromoDocument, overlay: PromoOverlay, frame: number): TakeFrame | null {
  const frames = footageLength(promo, overlay.footage);
  if (frames === 0 || frame < overlay.start || frame >= overlay.start + overlay.length) return null;
  const at = Math.round(overlay.first + (frame - overlay.start) * overlay.speed);
  return { take: overlay.footage, frame: Math.min(frames - 1, at), weight: 1 };
}

/** Frames of footage that overlays show at a promo frame. */
export const overlayFrames = (promo: PromoDocument, frame: number): TakeFrame[] =>
  promo.overlays.flatMap((overlay) => frameOf(promo, overlay, frame) ?? []);

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
): Picture {
  const { width, height } = promo;
  const seen = promo.overlays.flatMap((overlay) => {
    const part = frameOf(promo, overlay, frame);
    const pose = part && overlay.opacity > 0 ? arrivalPose(overlay, frame) : null;
    const picture = part && pose && pose.opacity > 0 ? pictureOf(part) : null;
    return picture && pose ? [{ overlay, pose, picture }] : [];
  });
  if (seen.length === 0) return below;
  return plates.within(() => {
    const out = stillPlate(plates, below, true);
    for (const { overlay, pose, picture } of seen)
      plates.within(() => {
        const em = EM * overlay.size;
        const place = {
          x: ((overlay.x - 0.5) * width) / height + pose.across * em,
          y: 0.5 - overlay.y - pose.down * em,
          scale: pose.scale,
          rotation: overlay.rotation,
          stretch: 1,
        };
        const layer = plates.make(width, height);
        const pyramid = new Pyramid(plates, stillPlate(plates, picture, true));
        warp(plates, layer, pyramid, placeOf(place, width, height), overlay.size);
        blend(plates, out, layer, 'over', overlay.opacity * pose.opacity);
      });
    const count = width * height;
    plates.kernel.recode(out.at, count, 0);
    const bytes = plates.floats(count);
    plates.kernel.toBytes(out.at, count, bytes.at);
    return { width, height, data: plates.bytes(bytes.at, count * 4).slice() };
  });
}
