import { CAMERA } from './layout.ts';

/** Origin and unit direction of a ray, reused from sample to sample. */
export interface CameraRay {
  ox: number;
  oy: number;
  oz: number;
  dx: number;
  dy: number;
  dz: number;
}

/**
 * The ray through a point of the picture (-1..1 each way, +y up) from a point of the lens (u, v in 0..1, uniform over
 * its disc). Thin lens: all rays of a picture point meet on the plane of focus; aperture 0 is a pinhole.
 */
export function castCameraRay(c: Float32Array, px: number, py: number, u: number, v: number, out: CameraRay): void {
  const sx = px * c[CAMERA.tangent] * c[CAMERA.aspect];
  const sy = py * c[CAMERA.tangent];
  let lx = 0;
  let ly = 0;
  if (c[CAMERA.aperture] > 0) {
    const radius = Math.sqrt(u) * c[CAMERA.aperture];
    lx = radius * Math.cos(2 * Math.PI * v);
    ly = radius * Math.sin(2 * Math.PI * v);
  }
  const f = c[CAMERA.focus];
  const vx = sx - lx / f;
  const vy = sy - ly / f;
  const dx = c[0] * vx + c[3] * vy - c[6];
  const dy = c[1] * vx + c[4] * vy - c[7];
  const dz = c[2] * vx + c[5] * vy - c[8];
  const l = 1 / Math.sqrt(dx * dx + dy * dy + dz * dz);
  out.dx = dx * l;
  out.dy = dy * l;
  out.dz = dz * l;
  out.ox = c[9] + c[0] * lx + c[3] * ly;
  out.oy = c[10] + c[1] * lx + c[4] * ly;
  out.oz = c[11] + c[2] * lx + c[5] * ly;
}
