import { cos, pow } from '../maths/index.ts';
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
  return pow(2, ev) / 1000;
}

/** Luminance (cd/m2) of a sphere that emits `lumens` evenly: L = flux / (4 pi^2 r^2). */
export function sphereLuminance(lumens: number, radius: number): number {
  return lumens / (4 * Math.PI * Math.PI * Math.max(1e-9, radius * radius));
}

/**
 * Luminance (cd/m2) on the axis of a spot's front of area pi r^2 whose `lumens` fill its beam: intensity is flux over the
 * solid angle of the cone half-way down the soft edge.
 * @param inner, outer half angles in radians between which the beam fades.
 */
export function spotLuminance(lumens: number, radius: number, inner: number, outer: number): number {
  const solid = 2 * Math.PI * (1 - cos((inner + outer) / 2));
  return lumens / Math.max(1e-9, solid) / (Math.PI * Math.max(1e-9, radius * radius));
}

/** Luminance (cd/m2) of a sun of apparent diameter `angle` (radians) that gives `lux` on what faces it. */
export function sunLuminance(lux: number, angle: number): number {
  return lux / (2 * Math.PI * (1 - cos(Math.max(1e-4, angle) / 2)));
}
