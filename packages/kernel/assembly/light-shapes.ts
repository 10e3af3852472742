import {
  at,
  L_CENTRE,
  L_CLOSE,
  L_KIND,
  L_MOVING,
  L_NORMAL,
  L_RADIUS,
  L_U,
  L_V,
  LIGHT_DISC,
  LIGHT_RECT,
  LIGHT_SPHERE,
  LIGHT_STRIDE,
  Scene,
} from './scene';
import { Hit } from './hit';

// @ts-ignore: decorator
@inline
export function lightAt(scene: Scene, light: i32): usize {
  return scene.lights + ((<usize>(light * LIGHT_STRIDE)) << 2);
}

/** Number `field` (L_CENTRE to L_NORMAL + 2) of a light at a time of the shutter. */
// @ts-ignore: decorator
@inline
export function placed(l: usize, field: i32, time: f64): f64 {
  const a = at(l, field);
  if (at(l, L_MOVING) == 0) return a;
  return a + (at(l, L_CLOSE + field - L_CENTRE) - a) * time;
}

/** Meets the ray at hand with a light's own shape, front side only; takes the hit into `hit.t` when it is nearer. */
export function hitLight(scene: Scene, hit: Hit, light: i32): bool {
  const dx = hit.dx;
  const dy = hit.dy;
  const dz = hit.dz;
  const near = hit.near;
  const l = lightAt(scene, light);
  const kind = <i32>at(l, L_KIND);
  const time = hit.time;
  const cx = placed(l, L_CENTRE, time) - hit.ox;
  const cy = placed(l, L_CENTRE + 1, time) - hit.oy;
  const cz = placed(l, L_CENTRE + 2, time) - hit.oz;
  if (kind == LIGHT_SPHERE) {
    const radius = at(l, L_RADIUS);
    const along = cx * dx + cy * dy + cz * dz;
    const off = cx * cx + cy * cy + cz * cz - along * along;
    if (off > radius * radius) return false;
    const t = along - Math.sqrt(radius * radius - off);
    if (t <= near || t >= hit.t) return false;
    hit.t = t;
    return true;
  }
  if (kind != LIGHT_RECT && kind != LIGHT_DISC) return false;
  const nx = placed(l, L_NORMAL, time);
  const ny = placed(l, L_NORMAL + 1, time);
  const nz = placed(l, L_NORMAL + 2, time);
  const cos = dx * nx + dy * ny + dz * nz;
  if (cos >= 0) return false;
  const t = (cx * nx + cy * ny + cz * nz) / cos;
  if (t <= near || t >= hit.t) return false;
  const px = dx * t - cx;
  const py = dy * t - cy;
  const pz = dz * t - cz;
  const ux = placed(l, L_U, time);
  const uy = placed(l, L_U + 1, time);
  const uz = placed(l, L_U + 2, time);
  const vx = placed(l, L_V, time);
  const vy = placed(l, L_V + 1, time);
  const vz = placed(l, L_V + 2, time);
  const u = (px * ux + py * uy + pz * uz) / (ux * ux + uy * uy + uz * uz);
  const v = (px * vx + py * vy + pz * vz) / (vx * vx + vy * vy + vz * vz);
  if (kind == LIGHT_RECT ? Math.abs(u) > 1 || Math.abs(v) > 1 : u * u + v * v > 1) return false;
  hit.t = t;
  return true;
}
