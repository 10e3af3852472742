import { decayWithin, luminance } from './maths';
import { fresnelDielectric } from './microfacet';
import { Lights } from './lights';
import { NEAR, Path } from './path-state';
import { BY_DIFFUSE, BY_GLOSS, BY_TRANSMISSION } from './pixel';
import { sampleRoom } from './room';
import {
  I_KIND,
  instance,
  KIND_LIGHT,
  M_ABSORPTION,
  M_ALPHA_CUTOFF,
  M_ALPHA_MODE,
  M_IOR,
  M_MIRROR_REACH,
  material,
  RAY_LIGHTING,
  RAY_REFLECTION,
  RAY_SHADOW,
  word,
} from './scene';
import { Surface } from './surface';
import { walk } from './traverse';
import { IN_PACKET } from './triangles';

/** Light sampled along a path: at opaque surfaces, rough glass and in smoke, and the shadow rays to it. */

/** Display luminance below which light is faint. */
const FAINT: f64 = 0.06;
/** So many lights are looked at all at once. */
const FEW: i32 = 8;
/** A light sample as Lights has it, from dx to light, and what a surface makes of it as Path has it, from mattR to density. */
const SAMPLE_BYTES: usize = offsetof<Lights>('hasRoom') - offsetof<Lights>('dx');
const VALUE_BYTES: usize = offsetof<Path>('kept') - offsetof<Path>('mattR');
export const KEPT_BYTES: usize = SAMPLE_BYTES + VALUE_BYTES;

/** Light pass of the light sample at hand. */
// @ts-ignore: decorator
@inline
export function passOf(path: Path): i32 {
  const light = path.lights.light;
  return light < 0 ? path.scene.lightPasses - 2 : path.lights.passOf(light);
}

/** One over the density of the light sample at hand, times its share against a lobe of density `pdf`. */
// @ts-ignore: decorator
@inline
export function weigh(path: Path, pdf: f64): f64 {
  const lights = path.lights;
  if (lights.only || path.straight) return 1.0 / lights.pdf;
  return 1.0 / (lights.pdf + pdf);
}

/**
 * Light sampled at an opaque surface. Of many lights one is taken by what it may bring; of few a point on each, and the room, and
 * one shadow ray goes to one of these by what it brings if nothing stands between (resampling of Talbot et al. 2005 with
 * one candidate a light): which light is taken makes no noise then but for shadows.
 */
export function sampleLights(path: Path, s: Surface, flip: f64, caught: bool): void {
  const lights = path.lights;
  const sampler = path.sampler;
  sampler.next();
  const choice = sampler.u;
  path.pick = sampler.v;
  lights.each = path.bounces == 0 && path.scene.lightCount <= FEW;
  sampler.next();
  if (lights.each) {
    sampleEach(path, s, flip, caught, choice, sampler.u, sampler.v);
    return;
  }
  if (lights.sample(path.from, choice, sampler.u, sampler.v) && receive(path, s, flip)) connect(path, 1, caught);
  if (path.roomSampled) {
    sampler.next();
    if (sampleRoom(lights, sampler.u, sampler.v) && receive(path, s, flip)) connect(path, 1, caught);
  }
}

function sampleEach(path: Path, s: Surface, flip: f64, caught: bool, choice: f64, u: f64, v: f64): void {
  const lights = path.lights;
  const count = path.scene.lightCount;
  let rest = choice;
  let total: f64 = 0;
  let taken: f64 = 0;
  for (let i = 0; i <= count; i++) {
    if (i == count) {
      if (!path.roomSampled) break;
      path.sampler.next();
      if (!sampleRoom(lights, path.sampler.u, path.sampler.v)) break;
    } else if (!lights.sampleLight(i, path.from, u, v)) continue;
    if (!receive(path, s, flip)) continue;
    const brings = unshadowed(path);
    if (!(brings > 0)) continue;
    total += brings;
    const odds = brings / total;
    if (rest >= odds) {
      rest = (rest - odds) / (1.0 - odds);
      continue;
    }
    rest /= odds;
    taken = brings;
    copy(path.kept, changetype<usize>(lights) + offsetof<Lights>('dx'), SAMPLE_BYTES);
    copy(path.kept + SAMPLE_BYTES, changetype<usize>(path) + offsetof<Path>('mattR'), VALUE_BYTES);
  }
  if (!(taken > 0)) return;
  copy(changetype<usize>(lights) + offsetof<Lights>('dx'), path.kept, SAMPLE_BYTES);
  copy(changetype<usize>(path) + offsetof<Path>('mattR'), path.kept + SAMPLE_BYTES, VALUE_BYTES);
  connect(path, total / taken, caught);
}

/** A few words: a call to copy them would cost more than it does. */
// @ts-ignore: decorator
@inline
function copy(to: usize, from: usize, bytes: usize): void {
  for (let i: usize = 0; i < bytes; i += 8) store<u64>(to + i, load<u64>(from + i));
}

/** What the surface at hand makes of the light sample at hand, matt and gloss; false for nothing. */
function receive(path: Path, s: Surface, flip: f64): bool {
  const lights = path.lights;
  const bsdf = path.bsdf;
  if ((lights.dx * s.gx + lights.dy * s.gy + lights.dz * s.gz) * flip <= 0) return false;
  bsdf.evaluate(lights.dx, lights.dy, lights.dz);
  if (bsdf.pdf <= 0) return false;
  let gloss = bsdf.mirror;
  if (gloss > 0) {
    const reach = material(path.scene, s.material, M_MIRROR_REACH);
    if (reach > 0) gloss *= decayWithin(lights.distance, reach);
  }
  const mask = lights.mask();
  const matt = mask & RAY_LIGHTING ? 1.0 : 0.0;
  const shiny = mask & RAY_REFLECTION ? 1.0 : 0.0;
  path.mattR = bsdf.dr * matt;
  path.mattG = bsdf.dg * matt;
  path.mattB = bsdf.db * matt;
  path.glossR = (bsdf.gr + gloss) * shiny;
  path.glossG = (bsdf.gg + gloss) * shiny;
  path.glossB = (bsdf.gb + gloss) * shiny;
  path.density = bsdf.pdf;
  return true;
}

/** Luminance that the light sample at hand brings to the camera if nothing stands between, weighted against other ways. */
function unshadowed(path: Path): f64 {
  const lights = path.lights;
  const bright = luminance(
    lights.r * (path.mattR + path.glossR) * path.tr,
    lights.g * (path.mattG + path.glossG) * path.tg,
    lights.b * (path.mattB + path.glossB) * path.tb,
  );
  return bright / (lights.only ? lights.pdf : lights.pdf + path.density);
}

/** Casts the shadow ray for the light sample that receive() took; it stands for `share` times as much. */
function connect(path: Path, share: f64, caught: bool): void {
  const lights = path.lights;
  const pixel = path.pixel;
  const first = path.scatters == 0;
  // Light too faint to be noticed gets a shadow ray only now and then, and counts for more when it does.
  let boost = share;
  const seen = unshadowed(path) * share * <f64>path.scene.exposureScale;
  if (seen < FAINT) {
    const odds = Math.max(0.1, seen / FAINT);
    path.sampler.next();
    if (path.sampler.u >= odds) return;
    boost /= odds;
  }
  let open: f64 = 0;
  if (first) {
    open = luminance(
      lights.r * (path.mattR + path.glossR),
      lights.g * (path.mattG + path.glossG),
      lights.b * (path.mattB + path.glossB),
    );
    open *= boost / lights.pdf;
    pixel.open += open;
  }
  if (!reaches(path)) return;
  if (first) pixel.shaded += open * luminance(path.through0, path.through1, path.through2);
  if (caught) return;
  const weight = weigh(path, path.density) * boost;
  const r = lights.r * path.through0 * weight;
  const g = lights.g * path.through1 * weight;
  const b = lights.b * path.through2 * weight;
  const pass = passOf(path);
  if (!first) {
    const lobe = path.lobe;
    addFrom(
      path,
      r * (path.mattR + path.glossR),
      g * (path.mattG + path.glossG),
      b * (path.mattB + path.glossB),
      pass,
      lobe,
    );
    return;
  }
  addFrom(path, r * path.mattR, g * path.mattG, b * path.mattB, pass, BY_DIFFUSE);
  addFrom(path, r * path.glossR, g * path.glossG, b * path.glossB, pass, BY_GLOSS);
}

/** Adds light sampled at the surface at hand, which is one scattering more than the path has made. */
// @ts-ignore: decorator
@inline
export function addFrom(path: Path, r: f64, g: f64, b: f64, light: i32, lobe: i32): void {
  path.scatters++;
  path.add(r, g, b, light, lobe);
  path.scatters--;
}

export function sampleLightsAtGlass(path: Path, s: Surface): void {
  const lights = path.lights;
  const sampler = path.sampler;
  sampler.next();
  const choice = sampler.u;
  sampler.next();
  if (path.scene.lightCount > 0 && lights.sample(path.from, choice, sampler.u, sampler.v)) connectGlass(path, s);
  if (path.roomSampled) {
    sampler.next();
    if (sampleRoom(lights, sampler.u, sampler.v)) connectGlass(path, s);
  }
}

export function connectGlass(path: Path, s: Surface): void {
  const lights = path.lights;
  const glass = path.glass;
  glass.evaluate(lights.dx, lights.dy, lights.dz);
  if (glass.pdf <= 0) return;
  const value = glass.value;
  const through = glass.through;
  const pdf = glass.pdf;
  if (!reaches(path)) return;
  const weight = weigh(path, pdf) * value;
  const pass = passOf(path);
  const lobe = path.scatters > 0 ? path.lobe : through ? BY_TRANSMISSION : BY_GLOSS;
  addFrom(
    path,
    lights.r * path.through0 * weight * (through ? s.r : 1.0),
    lights.g * path.through1 * weight * (through ? s.g : 1.0),
    lights.b * path.through2 * weight * (through ? s.b : 1.0),
    pass,
    lobe,
  );
}

export function connectSmoke(path: Path): void {
  const lights = path.lights;
  const value = path.volumes.phaseValue(lights.dx * path.dx + lights.dy * path.dy + lights.dz * path.dz);
  if (!reaches(path)) return;
  const weight = weigh(path, value) * value;
  addFrom(
    path,
    lights.r * path.through0 * weight,
    lights.g * path.through1 * weight,
    lights.b * path.through2 * weight,
    passOf(path),
    path.lobe,
  );
}

/** Casts the shadow ray for the light sample at hand; what comes through goes into `through`. */
export function reaches(path: Path): bool {
  const lights = path.lights;
  const p = path.from;
  const far = lights.distance * (1 - 1e-4);
  const blocked = walk(
    path.scene,
    path.hit,
    p.x,
    p.y,
    p.z,
    lights.dx,
    lights.dy,
    lights.dz,
    NEAR,
    far,
    RAY_SHADOW,
    true,
  );
  if (blocked == 1) return false;
  path.through0 = 1;
  path.through1 = 1;
  path.through2 = 1;
  path.straight = false;
  if (blocked == 2 && !passThrough(path, far)) return false;
  if (path.bent && path.straight) return false;
  if (path.scene.volumeCount > 0) {
    const share = path.volumes.transmittance(p.x, p.y, p.z, lights.dx, lights.dy, lights.dz, far);
    if (share <= 0) return false;
    path.through0 *= share;
    path.through1 *= share;
    path.through2 *= share;
  }
  return true;
}

/** What see-through surfaces between the last receiver and the light leave of it, into `through`. */
export function passThrough(path: Path, far: f64): bool {
  const lights = path.lights;
  const scene = path.scene;
  const hit = path.hit;
  const shade = path.shade;
  const p = path.from;
  let near = NEAR;
  let enteredAt: f64 = 0;
  let glassy = false;
  for (let step = 0; step < 24; step++) {
    if (walk(scene, hit, p.x, p.y, p.z, lights.dx, lights.dy, lights.dz, near, far, RAY_SHADOW, false) == 0) {
      path.straight = glassy;
      return true;
    }
    const t = hit.t;
    near = t + NEAR;
    // Light shapes cast no shadow.
    if (word(instance(scene, hit.instance), I_KIND) == KIND_LIGHT) continue;
    shade.at(hit.instance, hit.triangle, hit.corner, IN_PACKET, hit.u, hit.v, path.time, 0);
    const m = shade.material;
    const mode = material(scene, m, M_ALPHA_MODE);
    const open =
      mode == 1 ? (shade.alpha < material(scene, m, M_ALPHA_CUTOFF) ? 1.0 : 0.0) : mode == 2 ? 1.0 - shade.alpha : 0.0;
    const cos = shade.gx * lights.dx + shade.gy * lights.dy + shade.gz * lights.dz;
    const clear = shade.transmission * (1.0 - shade.metallic);
    if (clear > 0) glassy = true;
    const glass = clear * (1.0 - fresnelDielectric(cos, material(scene, m, M_IOR)));
    if (cos < 0) enteredAt = t;
    const length = cos >= 0 ? t - enteredAt : 0.0;
    const solid = (1.0 - open) * glass;
    path.through0 *= (open + solid * shade.r) * Math.exp(-material(scene, m, M_ABSORPTION) * length);
    path.through1 *= (open + solid * shade.g) * Math.exp(-material(scene, m, M_ABSORPTION + 1) * length);
    path.through2 *= (open + solid * shade.b) * Math.exp(-material(scene, m, M_ABSORPTION + 2) * length);
    if (path.through0 + path.through1 + path.through2 < 1e-4) return false;
  }
  return false;
}
