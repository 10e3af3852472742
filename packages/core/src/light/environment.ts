import { cos, pow, sin } from '../maths/index.ts';
/** An equirectangular panorama: linear Rec.709 triples, row 0 at the zenith, the middle column towards -Z. */
export interface Panorama {
  width: number;
  height: number;
  data: Float32Array;
}

/**
 * The neutral studio room that surrounds a set: a soft bright ceiling that falls off to grey walls and a dark floor,
 * mean luminance about 1, so that the intensity of an environment reads as its mean luminance in cd/m2 / 1000.
 */
export function studioPanorama(width = 128): Panorama {
  const height = width / 2;
  const data = new Float32Array(width * height * 3);
  for (let row = 0; row < height; row++) {
    const elevation = 90 - ((row + 0.5) / height) * 180;
    const up = sin((elevation * Math.PI) / 180);
    for (let column = 0; column < width; column++) {
      const azimuth = ((column + 0.5) / width) * 2 * Math.PI;
      const ceiling = smooth(0.1, 0.95, up) * 2.6;
      // Two long soft windows, so that glass and metal have something with shape to reflect.
      const windows =
        pow(Math.max(0, cos(azimuth * 2 + 0.6)), 6) * smooth(-0.15, 0.3, up) * (1 - smooth(0.55, 0.8, up));
      const wall = 0.42 + 0.2 * up;
      const floor = smooth(0, -0.5, up) * 0.25;
      const v = Math.max(0.06, wall - floor) + ceiling + windows * 1.6;
      data.set([v * 1.0, v * 0.99, v * 0.985], (row * width + column) * 3);
    }
  }
  return { width, height, data };
}

function smooth(a: number, b: number, x: number): number {
  const t = Math.min(1, Math.max(0, (x - a) / (b - a)));
  return t * t * (3 - 2 * t);
}
