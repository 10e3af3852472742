import type { PromoDocument } from '@tender-orbit/core/document';
import type { FrameRate } from '@tender-orbit/core/time';

export type DeliveryFormat = 'mp4' | 'webm';

/** What a delivery is made from, as it was when it was started. */
export interface DeliverySnapshot {
  promo: PromoDocument;
  frameRate: FrameRate;
  /** Frames of each take the promo uses. */
  takeLengths: Record<string, number>;
}
