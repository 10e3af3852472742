/** Linear Rec.709 with any luminance. */
export type LightColour = [number, number, number];

/** Relative luminance of linear Rec.709 (ITU-R BT.709). */
export function srgbD65Luminance(rgb: readonly number[]): number {
  return 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2];
}

/**
 * Luminance (cd/m2) of a one-sided Lambertian panel that emits `lumens`: L = flux / (pi A).
 */
export function panelLuminance(lumens: number, width: number, height: number): number {
  return lumens / (Math.PI * Math.max(1e-9, width * height));
}

/**
 * What a scene luminance is multiplied with before the view transform. At EV 0 a luminance of 1000 cd/m2, that of a
 * white card in a usual small softbox set-up, lands on 1; each EV doubles.
 */
export function exposureScale(ev: number): number {
  return Math.pow(2, ev) / 1000;
}
