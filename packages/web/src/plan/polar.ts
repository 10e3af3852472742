/** Where a thing is as seen from the product: degrees round it, degrees above the floor, metres away. */
export interface Polar {
  /** 0 is in front (+Z), growing to the right (+X). */
  azimuth: number;
  elevation: number;
  distance: number;
}

export type Point3 = [number, number, number];

export function toPolar([x, y, z]: readonly number[]): Polar {
  const ground = Math.hypot(x, z);
  return {
    azimuth: (Math.atan2(x, z) * 180) / Math.PI,
    elevation: (Math.atan2(y, ground) * 180) / Math.PI,
    distance: Math.hypot(ground, y),
  };
}

export function fromPolar({ azimuth, elevation, distance }: Polar): Point3 {
  const a = (azimuth * Math.PI) / 180;
  const e = (elevation * Math.PI) / 180;
  const ground = Math.cos(e) * distance;
  return [Math.sin(a) * ground, Math.sin(e) * distance, Math.cos(a) * ground];
}

const NICE = [0.05, 0.1, 0.2, 0.25, 0.5, 1, 2, 5, 10, 20, 50, 100];

/** Round distances, at most four, for rings up to `reach` metres. */
export function ringsUpTo(reach: number): number[] {
  const step = NICE.find((n) => reach / n <= 4) ?? NICE[NICE.length - 1];
  return Array.from({ length: Math.floor(reach / step + 1e-9) }, (_, i) => Number(((i + 1) * step).toFixed(3)));
}

export function metresLabel(metres: number): string {
  return metres < 1 ? `${Math.round(metres * 100)} cm` : `${Number(metres.toFixed(2))} m`;
}
