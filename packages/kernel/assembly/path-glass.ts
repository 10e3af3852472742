import { fresnelDielectric } from './microfacet';
import { MATT_SPREAD, Path } from './path-state';
import { chose, oddsOf } from './odds';
import { sampleLightsAtGlass } from './path-lights';
import { BY_GLOSS, BY_TRANSMISSION } from './pixel';
import { M_VOLUME, material } from './scene';
import { Surface } from './surface';

/** A path at glass. */

/** Glass smoother than this reflects and refracts as a mirror. */
const SMOOTH: f64 = 0.03;

/** Reflects or refracts at a dielectric and moves the path on. */
export function scatterGlass(path: Path, s: Surface, front: bool, nx: f64, ny: f64, nz: f64): bool {
  const media = path.media;
  const sampler = path.sampler;
  const volume = material(path.scene, s.material, M_VOLUME) > 0;
  const from: i32 = volume ? (front ? media.current(-1) : s.material) : -1;
  const to: i32 = volume ? (front ? s.material : media.current(s.material)) : s.material;
  const eta = media.ior(to) / media.ior(from);
  let through = false;
  if (s.roughness > SMOOTH) {
    const glass = path.glass;
    glass.prepare(path.scene.tables, nx, ny, nz, -path.dx, -path.dy, -path.dz, s.roughness, eta, !volume);
    // Behind a matt surface light is left to straight shadow rays; seen from the camera rough glass gets its own.
    const sampled = path.bounces == 0;
    if (sampled) {
      path.receive(s.x, s.y, s.z, nx, ny, nz, false, s.thing);
      path.bent = true;
      path.roomSampled = path.lights.hasRoom;
      sampleLightsAtGlass(path, s);
    }
    sampler.next();
    const choice = sampler.u;
    sampler.next();
    if (!glass.sample(choice, sampler.u, sampler.v)) return false;
    through = glass.through;
    const k = glass.value / glass.pdf;
    path.tr *= k;
    path.tg *= k;
    path.tb *= k;
    path.dx = glass.lx;
    path.dy = glass.ly;
    path.dz = glass.lz;
    if (sampled) {
      path.pdf = glass.pdf;
      path.passed = false;
    } else if (through) path.passed = true;
    else if (!path.passed) path.pdf = 0;
    path.coneSpread = Math.max(path.coneSpread, MATT_SPREAD * s.roughness);
  } else {
    const cos = Math.min(1.0, -(nx * path.dx + ny * path.dy + nz * path.dz));
    let reflectance = fresnelDielectric(cos, eta);
    if (!volume) reflectance = (2.0 * reflectance) / (1.0 + reflectance);
    sampler.next();
    const odds = path.bounces == 0 ? oddsOf(path.odds, reflectance) : reflectance;
    const mirrored = sampler.u < odds;
    if (path.bounces == 0) {
      const k = chose(path.odds, odds, mirrored, reflectance);
      path.tr *= k;
      path.tg *= k;
      path.tb *= k;
    }
    if (mirrored) {
      path.dx += 2 * cos * nx;
      path.dy += 2 * cos * ny;
      path.dz += 2 * cos * nz;
      // A mirror image is out of the shadow rays' reach: path path alone finds that light.
      if (!path.passed) path.pdf = 0;
    } else {
      through = true;
      if (path.bent) path.pdf = 0;
      else if (path.pdf > 0) path.passed = true;
      if (volume) refract(path, cos, eta, nx, ny, nz);
    }
  }
  path.moveTo(s);
  if (path.scatters == 0) path.lobe = through ? BY_TRANSMISSION : BY_GLOSS;
  path.scatters++;
  if (!through) {
    path.clear = false;
    return true;
  }
  path.tr *= s.r;
  path.tg *= s.g;
  path.tb *= s.b;
  if (!volume) return true;
  if (front) media.enter(s.material);
  else media.leave(s.material);
  return true;
}

export function refract(path: Path, cos: f64, eta: f64, nx: f64, ny: f64, nz: f64): void {
  const ratio = 1.0 / eta;
  const k = 1 - ratio * ratio * (1 - cos * cos);
  const bend = ratio * cos - Math.sqrt(Math.max(0.0, k));
  const x = path.dx * ratio + nx * bend;
  const y = path.dy * ratio + ny * bend;
  const z = path.dz * ratio + nz * bend;
  const l = 1.0 / Math.sqrt(x * x + y * y + z * z);
  path.dx = x * l;
  path.dy = y * l;
  path.dz = z * l;
}

/** An interface inside a medium of higher priority is not there; keeps the books and says so. */
export function hiddenInterface(path: Path, m: i32, front: bool): bool {
  const media = path.media;
  if (material(path.scene, m, M_VOLUME) == 0) return false;
  const around = front ? media.current(-1) : media.current(m);
  if (around < 0 || media.priority(around) <= media.priority(m)) return false;
  if (front) media.enter(m);
  else media.leave(m);
  return true;
}
