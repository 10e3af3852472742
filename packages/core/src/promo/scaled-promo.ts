import type { PromoDocument } from '../document/index.ts';

/**
 * A promo whose picture is smaller and the same: for a first look, before it is made as large as it is. Only letters are set in pixels; all
 * else is in shares of the picture. @param width pixels; what is not narrower than the promo is the promo itself.
 */
export function scaledPromo(promo: PromoDocument, width: number): PromoDocument {
  if (width >= promo.width) return promo;
  const scale = width / promo.width;
  return {
    ...promo,
    ...{ width, height: Math.max(1, Math.round(promo.height * scale)) },
    titles: promo.titles.map((title) => ({ ...title, size: title.size * scale })),
  };
}
