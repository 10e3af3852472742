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

/** What panelIlluminance() needs of a softbox. Metres, lumens. */
export interface PanelShape {
  position: readonly number[];
  aim: readonly number[];
  width: number;
  height: number;
  lumens: number;
}

/**
 * Illuminance in lux on a surface at `point` that faces the panel: Lambertian emission over the inverse square,
 * E = L A cos(theta) / d^2, softened near the panel by its own area (E = L A cos(theta) / (d^2 + A / pi), exact on the
 * axis of a disc of the same area). Light reflected by the set and blockers in between are not taken into account.
 */
export function panelIlluminance(panel: PanelShape, point: readonly number[]): number {
  const to = point.map((v, a) => v - panel.position[a]);
  const axis = panel.aim.map((v, a) => v - panel.position[a]);
  const distance = Math.hypot(...to);
  const cosine = (to[0] * axis[0] + to[1] * axis[1] + to[2] * axis[2]) / (distance * Math.hypot(...axis) || 1);
  if (cosine <= 0) return 0;
  const area = panel.width * panel.height;
  return (
    (panelLuminance(panel.lumens, panel.width, panel.height) * area * cosine) / (distance * distance + area / Math.PI)
  );
}
