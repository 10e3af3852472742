import { Path } from './path-state';
import { roomAt } from './room';
import { Surface } from './surface';

/** Where a path meets light by chance: a light's shape, a glowing finish, suns and the room. */

/** A light's own shape was met at distance `t`. */
export function meetLight(path: Path, light: i32, t: f64): void {
  const lights = path.lights;
  if (path.scatters > 0 && !lights.linked(light, path.lastThing)) return;
  let weight: f64 = 1;
  if (path.pdf > 0) {
    if (path.passed) return;
    weight = path.pdf / (path.pdf + lights.density(path.from, light, path.dx, path.dy, path.dz, since(path, t)));
  }
  lights.hit(light, path.ox, path.oy, path.oz, path.dx, path.dy, path.dz, t);
  if (path.scatters == 0) path.pixel.alpha = 1;
  path.add(lights.r * weight, lights.g * weight, lights.b * weight, lights.passOf(light), path.lobe);
}

/** The surface met glows. */
export function meetGlow(path: Path, s: Surface, triangle: i32, t: f64): void {
  let weight: f64 = 1;
  const light = path.lights.lightOf(s.number, triangle);
  if (path.pdf > 0 && light >= 0) {
    if (path.passed) return;
    weight = path.pdf / (path.pdf + path.lights.density(path.from, light, path.dx, path.dy, path.dz, since(path, t)));
  }
  path.add(s.er * weight, s.eg * weight, s.eb * weight, path.scene.lightPasses - 1, path.lobe);
}

/** Distance from where light was last sampled to the hit at `t`: see-through surfaces may lie between. */
export function since(path: Path, t: f64): f64 {
  const p = path.from;
  const x = p.x - path.ox;
  const y = p.y - path.oy;
  const z = p.z - path.oz;
  return Math.sqrt(x * x + y * y + z * z) + t;
}

/** Nothing was met: suns and the room. */
export function leaveSet(path: Path): void {
  const lights = path.lights;
  const scene = path.scene;
  for (let i = 0; i < scene.sunCount; i++) {
    if (path.scatters == 0 || !lights.linked(i, path.lastThing)) continue;
    if (!lights.sunAlong(i, path.dx, path.dy, path.dz)) continue;
    let weight: f64 = 1;
    if (path.pdf > 0) weight = path.passed ? 0.0 : path.pdf / (path.pdf + lights.pdf);
    path.add(lights.r * weight, lights.g * weight, lights.b * weight, lights.passOf(i), path.lobe);
  }
  if (path.scatters == 0 && scene.environmentSeen == 0) return;
  roomAt(lights, path.dx, path.dy, path.dz);
  let weight: f64 = 1;
  if (path.pdf > 0 && path.roomSampled) weight = path.passed ? 0.0 : path.pdf / (path.pdf + lights.pdf);
  if (weight > 0) path.add(lights.r * weight, lights.g * weight, lights.b * weight, scene.lightPasses - 2, path.lobe);
}
