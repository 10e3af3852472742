import { atan2, cos, hypot, sin } from '../maths/index.ts';
import type { Point } from '../document/index.ts';

/** Where a thing is as seen from the product: degrees round it, degrees above the floor, metres away. */
export interface Polar {
  /** 0 is in front (+Z), growing to the right (+X). */
  azimuth: number;
  elevation: number;
  distance: number;
}

/** @param position metres, the product in the middle of the floor. */
export function toPolar([x, y, z]: readonly number[]): Polar {
  const ground = hypot(x, z);
  return {
    azimuth: (atan2(x, z) * 180) / Math.PI,
    elevation: (atan2(y, ground) * 180) / Math.PI,
    distance: hypot(ground, y),
  };
}

/** The place in metres, the reverse of `toPolar`. */
export function fromPolar({ azimuth, elevation, distance }: Polar): Point {
  const a = (azimuth * Math.PI) / 180;
  const e = (elevation * Math.PI) / 180;
  const ground = cos(e) * distance;
  return [sin(a) * ground, sin(e) * distance, cos(a) * ground];
}

const NICE = [0.05, 0.1, 0.2, 0.25, 0.5, 1, 2, 5, 10, 20, 50, 100];

/** Round distances, at most four, for rings up to `reach` metres. */
export function ringsUpTo(reach: number): number[] {
  const step = NICE.find((n) => reach / n <= 4) ?? NICE[NICE.length - 1];
  return Array.from({ length: Math.floor(reach / step + 1e-9) }, (_, i) => Number(((i + 1) * step).toFixed(3)));
}

/** A length as it is read: centimetres below one metre. */
export function metresLabel(metres: number): string {
  return metres < 1 ? `${Math.round(metres * 100)} cm` : `${Number(metres.toFixed(2))} m`;
}

/** How an arrow key moves a thing round the product: degrees of azimuth and elevation, metres along the floor. */
export interface PolarStep {
  azimuth?: number;
  elevation?: number;
  ground?: number;
}

/** No nearer to the product than this when stepping in, metres. */
const NEAREST = 0.01;
const LOWEST = -10;
const HIGHEST = 89;

/** Elevation within what the plan lets be set, degrees. */
export function clampElevation(degrees: number): number {
  return Math.min(HIGHEST, Math.max(LOWEST, degrees));
}

/** A place after a step round, over or towards the product; its height stays when it steps along the floor. */
export function stepPolar(position: Point, { azimuth = 0, elevation = 0, ground = 0 }: PolarStep): Point {
  if (ground !== 0) {
    const before = hypot(position[0], position[2]);
    const after = Math.max(NEAREST, before + ground);
    if (before === 0) return [position[0], position[1], after];
    return [(position[0] * after) / before, position[1], (position[2] * after) / before];
  }
  const polar = toPolar(position);
  return fromPolar({
    distance: polar.distance,
    azimuth: polar.azimuth + azimuth,
    elevation: elevation ? clampElevation(polar.elevation + elevation) : polar.elevation,
  });
}
