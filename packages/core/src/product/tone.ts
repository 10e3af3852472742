import { findFinish, finishIdOf, type ProductDocument } from '../document/index.ts';
import type { Finish } from '../finish/index.ts';
import { srgbD65Luminance } from '../light/index.ts';
import { variantOf } from './shown-parts.ts';

/** How much light a finish throws back, 0..1: glass that is filled by what is in it, else the base colour. */
function reflectance(finish: Finish): number {
  const own = srgbD65Luminance(finish.baseColor);
  if (finish.transmission === 0) return own;
  const through = finish.attenuationDistance > 0 ? srgbD65Luminance(finish.attenuationColor) : own;
  return (1 - finish.transmission) * own + finish.transmission * through * 0.6;
}

/** Mean reflectance of what is seen of a product, 0..1, from its finishes alone: label art is not looked at. */
export function toneOf(product: ProductDocument, variant = ''): number {
  const shown = variantOf(product, variant);
  const parts = product.parts.filter((p) => p.visible && !shown.hidden.includes(p.index));
  const tones = parts.flatMap((part) => {
    const finish = findFinish(product, finishIdOf(part, shown));
    return finish ? [reflectance(finish)] : [];
  });
  return tones.length > 0 ? tones.reduce((sum, tone) => sum + tone, 0) / tones.length : 0.5;
}
