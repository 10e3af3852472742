import { cos, hypot, pow, tan } from '../maths/index.ts';
import { srgbD65Luminance } from '../light/index.ts';
import { EMITTERS } from './emitters.ts';
import type { TableauLight } from './tableau.ts';

/**
 * Illuminance in lux at `point` (metres) on a surface that faces the light, as a hand-held meter would read it: the
 * inverse square softened near a face by its own area (E = L A cos / (d2 + A / pi), exact on the axis of a disc; a sphere
 * is exact everywhere), with the light's honeycomb or cone. Things in the way and light thrown back by the set are not
 * taken into account, nor are gobos and gradients.
 */
export function meterLight(light: TableauLight, point: readonly number[]): number {
  const { matrix: m, radiance } = light;
  const luminance = srgbD65Luminance(radiance);
  const to = [0, 1, 2].map((a) => point[a] - m[12 + a]);
  const square = Math.max(1e-9, pow(to[0], 2) + pow(to[1], 2) + pow(to[2], 2));
  const emitter = EMITTERS[light.kind];
  const even = emitter.illuminance(light, square);
  if (even !== null) return luminance * even;
  const cosine = -(to[0] * m[8] + to[1] * m[9] + to[2] * m[10]) / Math.sqrt(square) / hypot(m[8], m[9], m[10]);
  if (cosine <= 0) return 0;
  const area = emitter.area(light);
  return (luminance * area * cosine * beam(light, Math.min(1, cosine))) / (square + area / Math.PI);
}

/** Share of a face's light that leaves it at an angle to its axis. */
function beam({ cone, gridAngle }: TableauLight, cosine: number): number {
  if (cone) {
    const [inner, outer] = [cos(cone.inner), cos(cone.outer)];
    const t = Math.min(1, Math.max(0, (cosine - outer) / Math.max(1e-9, inner - outer)));
    return t * t * (3 - 2 * t);
  }
  return gridAngle ? Math.max(0, 1 - Math.sqrt(1 - cosine * cosine) / cosine / tan(gridAngle)) : 1;
}
