import { C_TANGENT } from './layout';
import { decayWithin, luminance } from './maths';
import { meetUnlit } from './display';
import { leaveSet, meetGlow, meetLight } from './path-ends';
import { hiddenInterface, scatterGlass } from './path-glass';
import { learnOdds } from './odds';
import { sampleLights } from './path-lights';
import { describeBehind, lookThroughSmoke, scatterInSmoke } from './path-smoke';
import { NEAR, Path } from './path-state';
import { BY_EMISSION } from './pixel';
import {
  at,
  I_KIND,
  instance,
  KIND_LIGHT,
  M_CATCHER,
  M_UNLIT,
  material,
  RAY_CAMERA,
  RAY_REFLECTION,
  Scene,
  word,
} from './scene';
import { walk } from './traverse';
import { IN_PACKET } from './triangles';

/** Width that textures are filtered over for one sample, pixels: the pixel filter does the rest. */
const SAMPLE_WIDTH: f64 = 0.5;

/**
 * One path after the other from the camera, with light sampled at every matt or glossy surface and both ways of finding
 * a light weighed against each other (Veach 1997, balance heuristic).
 *
 * Light through glass: shadow rays go straight through it, tinted and weakened by its faces; the bent path from there to
 * a light is left out. So the inside of a jar is lit at once, at the price of caustics.
 *
 * Traces row `index` of the table of sample points for the pixel at (x, y).
 */
export function tracePath(path: Path, x: i32, y: i32, index: i32): void {
  start(path, x, y, index);
  follow(path);
  const pixel = path.pixel;
  learnOdds(path.odds, luminance(pixel.r, pixel.g, pixel.b) * <f64>path.scene.exposureScale);
  pixel.end();
}

/** A sample that ends at the first surface, of which it tells the same as a path would. */
export function traceFirst(path: Path, x: i32, y: i32, index: i32): void {
  start(path, x, y, index);
  meetFirst(path);
  path.pixel.endFirst();
}

function start(path: Path, x: i32, y: i32, index: i32): void {
  const sampler = path.sampler;
  const scene = path.scene;
  sampler.start(x, y, index);
  sampler.next();
  const px = ((<f64>x + 0.5 + spread(scene, sampler.u)) / <f64>path.width) * 2.0 - 1.0;
  const py = 1.0 - ((<f64>y + 0.5 + spread(scene, sampler.v)) / <f64>path.height) * 2.0;
  sampler.next();
  const u = sampler.u;
  const v = sampler.v;
  path.time = 0;
  if (scene.moving != 0) {
    sampler.next();
    path.time = sampler.u;
  }
  path.hit.time = path.time;
  path.lights.time = path.time;
  const camera = path.camera;
  camera.cast(scene, px, py, u, v, path.time);
  path.ox = camera.ox;
  path.oy = camera.oy;
  path.oz = camera.oz;
  path.dx = camera.dx;
  path.dy = camera.dy;
  path.dz = camera.dz;
  if (scene.volumeCount > 0) path.volumes.start(sampler.seed, x, y, sampler.first + index, path.time);
  path.pixel.begin();
  path.media.count = 0;
  path.tr = 1;
  path.tg = 1;
  path.tb = 1;
  path.scatters = 0;
  path.bounces = 0;
  path.lobe = BY_EMISSION;
  path.mask = RAY_CAMERA;
  path.pdf = 0;
  path.roomSampled = false;
  path.passed = false;
  path.bent = false;
  path.clear = true;
  path.travelled = 0;
  path.reach = -1;
  path.lastThing = -1;
  path.coneWidth = 0;
  path.coneSpread = (2.0 * SAMPLE_WIDTH * at(scene.camera, C_TANGENT)) / <f64>path.height;
}

function meetFirst(path: Path): void {
  const hit = path.hit;
  const s = path.surface;
  const scene = path.scene;
  for (let depth: i32 = 0; depth < scene.maxDepth; depth++) {
    if (walk(scene, hit, path.ox, path.oy, path.oz, path.dx, path.dy, path.dz, NEAR, Infinity, path.mask, false) == 0)
      return;
    const number = hit.instance;
    if (word(instance(scene, number), I_KIND) == KIND_LIGHT) {
      path.pixel.alpha = 1;
      return;
    }
    const t = hit.t;
    path.coneWidth += path.coneSpread * t;
    s.at(number, hit.triangle, hit.corner, IN_PACKET, hit.u, hit.v, path.time, path.coneWidth);
    path.sampler.next();
    const lobe = path.sampler.v;
    const front = s.gx * path.dx + s.gy * path.dy + s.gz * path.dz < 0;
    const glass = s.transmission * (1 - s.metallic);
    const isGlass = glass > 0 && (glass >= 1 || lobe < glass);
    if (path.seeThrough(s, path.sampler.u) || (isGlass && hiddenInterface(path, s.material, front))) {
      path.moveTo(s);
      continue;
    }
    path.describeFirst(s, isGlass, front, t, material(scene, s.material, M_CATCHER) != 0);
    return;
  }
}

function follow(path: Path): void {
  const hit = path.hit;
  const s = path.surface;
  const scene = path.scene;
  const sampler = path.sampler;
  for (let depth: i32 = 0; depth < scene.maxDepth; depth++) {
    const found =
      walk(scene, hit, path.ox, path.oy, path.oz, path.dx, path.dy, path.dz, NEAR, Infinity, path.mask, false) != 0;
    const t = found ? hit.t : Infinity;
    if (scene.volumeCount > 0 && depth == 0) lookThroughSmoke(path, t);
    if (scene.volumeCount > 0 && path.volumes.collide(path.ox, path.oy, path.oz, path.dx, path.dy, path.dz, t)) {
      if (depth == 0 && found) describeBehind(path, t);
      if (!scatterInSmoke(path, path.volumes.t)) return;
      if (!path.roulette(depth)) return;
      continue;
    }
    if (path.reach >= 0) {
      const share = decayWithin(t, path.reach);
      path.reach = -1;
      if (share <= 0) return;
      path.tr *= share;
      path.tg *= share;
      path.tb *= share;
    }
    if (!found) {
      if (path.clear) path.recordClear(0);
      leaveSet(path);
      return;
    }
    path.absorb(t);
    const number = hit.instance;
    const it = instance(scene, number);
    if (word(it, I_KIND) == KIND_LIGHT) {
      if (path.clear) path.recordClear(t);
      meetLight(path, hit.triangle, t);
      return;
    }
    path.coneWidth += path.coneSpread * t;
    s.at(number, hit.triangle, hit.corner, IN_PACKET, hit.u, hit.v, path.time, path.coneWidth);
    sampler.next();
    const choice = sampler.u;
    const lobe = sampler.v;
    if (path.seeThrough(s, choice)) {
      path.travelled += t;
      path.moveTo(s);
      continue;
    }
    const front = s.gx * path.dx + s.gy * path.dy + s.gz * path.dz < 0;
    const glass = s.transmission * (1 - s.metallic);
    const isGlass = glass > 0 && (glass >= 1 || lobe < glass);
    if (isGlass && hiddenInterface(path, s.material, front)) {
      path.travelled += t;
      path.moveTo(s);
      continue;
    }
    const first = path.scatters == 0;
    const caught = first && material(scene, s.material, M_CATCHER) != 0;
    if (first) path.recordFirst(s, number, isGlass, front, t, caught);
    const flip: f64 = front ? 1.0 : -1.0;
    let nx = s.nx * flip;
    let ny = s.ny * flip;
    let nz = s.nz * flip;
    // An interpolated normal may lean away from the viewer at the silhouette; the geometric one never does.
    if (nx * path.dx + ny * path.dy + nz * path.dz > -1e-3) {
      nx = s.gx * flip;
      ny = s.gy * flip;
      nz = s.gz * flip;
    }
    if (isGlass) {
      if (!scatterGlass(path, s, front, nx, ny, nz)) return;
      path.travelled += t;
      path.lastThing = s.thing;
      path.mask = RAY_REFLECTION;
      continue;
    }
    if (path.clear) path.recordClear(t);
    if (material(scene, s.material, M_UNLIT) > 0) {
      meetUnlit(path, s);
      return;
    }
    if (s.er + s.eg + s.eb > 0) meetGlow(path, s, hit.triangle, t);
    if (path.bounces >= scene.maxBounces) return;
    path.bsdf.prepare(s, scene, nx, ny, nz, -path.dx, -path.dy, -path.dz);
    path.receive(s.x, s.y, s.z, nx, ny, nz, true, s.thing);
    path.bent = false;
    path.roomSampled = path.lights.hasRoom && path.bounces == 0;
    sampleLights(path, s, flip, caught);
    sampler.next();
    const u = sampler.u;
    const v = sampler.v;
    const rescaled = glass == 0 ? lobe : (lobe - glass) / (1.0 - glass);
    if (!path.scatterOff(s, flip, rescaled, u, v, caught)) return;
    if (!path.roulette(depth)) return;
  }
}

/** Steps of the table of the pixel filter (FILTER_STEPS in core's pixel-filter.ts). */
const FILTER_STEPS: f64 = 256;

/** Uniform 0..1 to pixels from a pixel's middle: the pixel filter by importance sampling. */
function spread(scene: Scene, u: f64): f64 {
  const place = u * FILTER_STEPS;
  const step = <i32>place;
  const p = scene.pixelFilter + ((<usize>step) << 2);
  const from = <f64>load<f32>(p);
  return from + (<f64>load<f32>(p, 4) - from) * (place - <f64>step);
}
