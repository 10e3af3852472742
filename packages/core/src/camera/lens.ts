import { atan, cos, hypot, sin } from '../maths/index.ts';
import { boundsCentre, boundsSize, type Bounds, type Vec3 } from '../geometry/index.ts';

/** Vertical field of view in radians of a lens whose sensor WIDTH covers the picture's width. */
export function verticalFov(focalLengthMm: number, sensorWidthMm: number, aspect: number): number {
  return 2 * atan(sensorWidthMm / aspect / 2 / focalLengthMm);
}

export function horizontalFov(focalLengthMm: number, sensorWidthMm: number): number {
  return 2 * atan(sensorWidthMm / 2 / focalLengthMm);
}

/** Radius in metres of the entrance pupil: focal length over twice the f-number; 0 (pinhole) when f is 0. */
export function apertureRadius(focalLengthMm: number, fNumber: number): number {
  return fNumber > 0 ? focalLengthMm / 1000 / (2 * fNumber) : 0;
}

/** The usual prime lenses, mm. */
export const PRIMES = [24, 35, 50, 85, 100, 135] as const;

/** Sensor presets: name and width in mm. */
export const SENSORS = [
  { name: 'Full frame', width: 36 },
  { name: 'Super 35', width: 24.9 },
  { name: 'Four thirds', width: 17.3 },
  { name: 'Large format', width: 54.1 },
] as const;

/**
 * Where a camera must stand to hold `box` in the frame with `margin` (0.2 = a fifth of the frame left free), looking
 * from `azimuth` and `elevation` degrees. Uses the box's bounding sphere, so it holds for every turn of the product.
 */
export function frameBounds(
  box: Bounds,
  lens: { focalLength: number; sensorWidth: number; aspect: number },
  azimuth: number,
  elevation: number,
  margin = 0.25,
): { position: Vec3; aim: Vec3 } {
  const aim = boundsCentre(box);
  const radius = hypot(...boundsSize(box)) / 2;
  const fov = Math.min(
    verticalFov(lens.focalLength, lens.sensorWidth, lens.aspect),
    horizontalFov(lens.focalLength, lens.sensorWidth),
  );
  const distance = radius / sin((fov / 2) * (1 - margin));
  const a = (azimuth * Math.PI) / 180;
  const e = (elevation * Math.PI) / 180;
  return {
    aim,
    position: [aim[0] + sin(a) * cos(e) * distance, aim[1] + sin(e) * distance, aim[2] + cos(a) * cos(e) * distance],
  };
}
