import { pow } from '../maths/index.ts';
import { srgbD65Luminance, type LightColour } from './photometry.ts';

/**
 * Colour of a black body in linear Rec.709, scaled to luminance 1, so that lumens stay lumens whatever the colour.
 * CIE 1931 chromaticity by the cubic fit of Kim et al. (2002), 1667..25000 K; values outside are clamped. Channels
 * outside the Rec.709 gamut (below about 1900 K) are clipped at zero before scaling.
 *
 * Relative to D65, as scene-referred Rec.709 is: 6500 K is close to white, 3200 K warm.
 */
export function kelvinToRgb(kelvin: number): LightColour {
  const t = Math.min(25000, Math.max(1667, kelvin));
  const x =
    t < 4000
      ? -0.2661239e9 / pow(t, 3) - 0.2343589e6 / pow(t, 2) + 0.8776956e3 / t + 0.17991
      : -3.0258469e9 / pow(t, 3) + 2.1070379e6 / pow(t, 2) + 0.2226347e3 / t + 0.24039;
  let y: number;
  if (t < 2222) y = -1.1063814 * pow(x, 3) - 1.3481102 * pow(x, 2) + 2.18555832 * x - 0.20219683;
  else if (t < 4000) y = -0.9549476 * pow(x, 3) - 1.37418593 * pow(x, 2) + 2.09137015 * x - 0.16748867;
  else y = 3.081758 * pow(x, 3) - 5.8733867 * pow(x, 2) + 3.75112997 * x - 0.37001483;
  const X = x / y;
  const Z = (1 - x - y) / y;
  const rgb: LightColour = [
    Math.max(0, 3.2404542 * X - 1.5371385 - 0.4985314 * Z),
    Math.max(0, -0.969266 * X + 1.8760108 + 0.041556 * Z),
    Math.max(0, 0.0556434 * X - 0.2040259 + 1.0572252 * Z),
  ];
  const luminance = srgbD65Luminance(rgb);
  return [rgb[0] / luminance, rgb[1] / luminance, rgb[2] / luminance];
}
