import { Bsdf } from './bsdf';
import { C_TANGENT, Camera } from './camera';
import { Glass } from './glass';
import { Hit } from './hit';
import { Lights, Receiver } from './lights';
import { decayWithin } from './maths';
import { Media } from './media';
import { fresnelDielectric } from './microfacet';
import { BY_DIFFUSE, BY_EMISSION, BY_GLOSS, BY_TRANSMISSION, Pixel } from './pixel';
import { Sampler } from './sampler';
import {
  at,
  I_BEFORE,
  I_KIND,
  I_OPEN,
  instance,
  KIND_LIGHT,
  M_ABSORPTION,
  M_ALPHA_CUTOFF,
  M_ALPHA_MODE,
  M_CATCHER,
  M_FINISH,
  M_IOR,
  M_MIRROR_REACH,
  M_VOLUME,
  material,
  RAY_CAMERA,
  RAY_LIGHTING,
  RAY_REFLECTION,
  RAY_SHADOW,
  Scene,
  word,
} from './scene';
import { Surface } from './surface';
import { walk } from './traverse';
import { IN_PACKET } from './triangles';
import { Volumes } from './volume';

/** Rays start this far off, metres. */
const NEAR: f64 = 1e-5;
/** Glass smoother than this reflects and refracts as a mirror. */
const SMOOTH: f64 = 0.03;
/** Display luminance below which light is faint. */
const FAINT: f64 = 0.06;
/** Width of the ray after a matt bounce grows this much a metre: textures are looked up coarsely from there. */
const MATT_SPREAD: f64 = 0.15;

/**
 * One path after the other from the camera, with light sampled at every matt or glossy surface and both ways of finding
 * a light weighed against each other (Veach 1997, balance heuristic).
 *
 * Light through glass: shadow rays go straight through it, tinted and weakened by its faces; the bent path from there to
 * a light is left out. So the inside of a jar is lit at once, at the price of caustics.
 */
@unmanaged
export class Path {
  scene: Scene;
  hit: Hit;
  lights: Lights;
  surface: Surface;
  shade: Surface;
  bsdf: Bsdf;
  glass: Glass;
  media: Media;
  sampler: Sampler;
  camera: Camera;
  volumes: Volumes;
  pixel: Pixel;
  /** The last point at which light was sampled. */
  from: Receiver;
  width: i32;
  height: i32;
  time: f64;
  tr: f64;
  tg: f64;
  tb: f64;
  ox: f64;
  oy: f64;
  oz: f64;
  dx: f64;
  dy: f64;
  dz: f64;
  through0: f64;
  through1: f64;
  through2: f64;
  /** Scatterings so far, of matt or glossy ones among them, and the lobe that the first one took. */
  scatters: i32;
  bounces: i32;
  lobe: i32;
  mask: i32;
  /** Density of the last sampled direction; 0: only this path finds the light ahead. */
  pdf: f64;
  roomSampled: bool;
  /** The path went through glass after light was sampled: shadow rays have brought that light. */
  passed: bool;
  /** Reach of the artist's mirror on the way to the next hit; negative: none. */
  reach: f64;
  lastThing: i32;
  /** Chooses the lobe that a path follows on. */
  pick: f64;
  /** The last light sample came through glass: the bent path is left out, so it carries all of it. */
  straight: bool;
  /** Light was last sampled at rough glass, where the path itself follows light through more glass, bent. */
  bent: bool;
  /** Width of the ray and how much it grows a metre. */
  coneWidth: f64;
  coneSpread: f64;

  /** Traces row `index` of the table of sample points for the pixel at (x, y). */
  trace(x: i32, y: i32, index: i32): void {
    const sampler = this.sampler;
    const scene = this.scene;
    sampler.start(x, y, index);
    sampler.next();
    const px = ((<f64>x + 0.5 + tent(sampler.u)) / <f64>this.width) * 2.0 - 1.0;
    const py = 1.0 - ((<f64>y + 0.5 + tent(sampler.v)) / <f64>this.height) * 2.0;
    sampler.next();
    const u = sampler.u;
    const v = sampler.v;
    this.time = 0;
    if (scene.moving != 0) {
      sampler.next();
      this.time = sampler.u;
    }
    this.hit.time = this.time;
    this.lights.time = this.time;
    const camera = this.camera;
    camera.cast(scene, px, py, u, v, this.time);
    this.ox = camera.ox;
    this.oy = camera.oy;
    this.oz = camera.oz;
    this.dx = camera.dx;
    this.dy = camera.dy;
    this.dz = camera.dz;
    if (scene.volumeCount > 0) this.volumes.start(sampler.seed, x, y, sampler.first + index);
    this.pixel.begin();
    this.media.count = 0;
    this.tr = 1;
    this.tg = 1;
    this.tb = 1;
    this.scatters = 0;
    this.bounces = 0;
    this.lobe = BY_EMISSION;
    this.mask = RAY_CAMERA;
    this.pdf = 0;
    this.roomSampled = false;
    this.passed = false;
    this.bent = false;
    this.reach = -1;
    this.lastThing = -1;
    this.coneWidth = 0;
    this.coneSpread = (2.0 * at(scene.camera, C_TANGENT)) / <f64>this.height;
    this.follow();
    this.pixel.end();
  }

  follow(): void {
    const hit = this.hit;
    const s = this.surface;
    const scene = this.scene;
    const sampler = this.sampler;
    for (let depth: i32 = 0; depth < scene.maxDepth; depth++) {
      const found =
        walk(scene, hit, this.ox, this.oy, this.oz, this.dx, this.dy, this.dz, NEAR, Infinity, this.mask, false) != 0;
      const t = found ? hit.t : Infinity;
      if (
        scene.volumeCount > 0 &&
        this.volumes.collide(this.ox, this.oy, this.oz, this.dx, this.dy, this.dz, t)
      ) {
        if (!this.scatterInSmoke(this.volumes.t)) return;
        if (!this.roulette(depth)) return;
        continue;
      }
      if (this.reach >= 0) {
        const share = decayWithin(t, this.reach);
        this.reach = -1;
        if (share <= 0) return;
        this.tr *= share;
        this.tg *= share;
        this.tb *= share;
      }
      if (!found) {
        this.leaveSet();
        return;
      }
      this.absorb(t);
      const number = hit.instance;
      const it = instance(scene, number);
      if (word(it, I_KIND) == KIND_LIGHT) {
        this.meetLight(hit.triangle, t);
        return;
      }
      this.coneWidth += this.coneSpread * t;
      s.at(number, hit.triangle, hit.corner, IN_PACKET, hit.u, hit.v, this.time, this.coneWidth);
      sampler.next();
      const choice = sampler.u;
      const lobe = sampler.v;
      if (this.seeThrough(s, choice)) {
        this.moveTo(s);
        continue;
      }
      const front = s.gx * this.dx + s.gy * this.dy + s.gz * this.dz < 0;
      const glass = s.transmission * (1 - s.metallic);
      const isGlass = glass > 0 && (glass >= 1 || lobe < glass);
      if (isGlass && this.hiddenInterface(s.material, front)) {
        this.moveTo(s);
        continue;
      }
      const first = this.scatters == 0;
      const caught = first && material(scene, s.material, M_CATCHER) != 0;
      if (first) this.recordFirst(s, number, isGlass, front, t, caught);
      const flip: f64 = front ? 1.0 : -1.0;
      let nx = s.nx * flip;
      let ny = s.ny * flip;
      let nz = s.nz * flip;
      // An interpolated normal may lean away from the viewer at the silhouette; the geometric one never does.
      if (nx * this.dx + ny * this.dy + nz * this.dz > -1e-3) {
        nx = s.gx * flip;
        ny = s.gy * flip;
        nz = s.gz * flip;
      }
      if (isGlass) {
        if (!this.scatterGlass(s, front, nx, ny, nz)) return;
        this.lastThing = s.thing;
        this.mask = RAY_REFLECTION;
        continue;
      }
      if (s.er + s.eg + s.eb > 0) this.meetGlow(s, hit.triangle, t);
      if (this.bounces >= scene.maxBounces) return;
      this.bsdf.prepare(s, scene, nx, ny, nz, -this.dx, -this.dy, -this.dz);
      this.receive(s.x, s.y, s.z, nx, ny, nz, true, s.thing);
      this.bent = false;
      this.roomSampled = this.lights.hasRoom && this.bounces == 0;
      this.sampleLights(s, flip, caught);
      sampler.next();
      const u = sampler.u;
      const v = sampler.v;
      const rescaled = glass == 0 ? lobe : (lobe - glass) / (1.0 - glass);
      if (!this.scatterOff(s, flip, rescaled, u, v, caught)) return;
      if (!this.roulette(depth)) return;
    }
  }

  /** Follows one lobe of an opaque surface on. */
  scatterOff(s: Surface, flip: f64, lobe: f64, u: f64, v: f64, caught: bool): bool {
    const bsdf = this.bsdf;
    if (!bsdf.sample(lobe, u, v)) return false;
    if ((bsdf.lx * s.gx + bsdf.ly * s.gy + bsdf.lz * s.gz) * flip <= 0) return false;
    // The direction serves all lobes; the path goes on as one of them, chosen by share, so that it has one kind.
    const matt = luminance(bsdf.dr, bsdf.dg, bsdf.db);
    const gloss = luminance(bsdf.gr, bsdf.gg, bsdf.gb);
    const all = matt + gloss + bsdf.mirror;
    if (!(all > 0)) return false;
    const pick = this.pick * all;
    let kind = BY_GLOSS;
    if (pick < matt) {
      const k = all / (matt * bsdf.pdf);
      this.tr *= bsdf.dr * k;
      this.tg *= bsdf.dg * k;
      this.tb *= bsdf.db * k;
      kind = BY_DIFFUSE;
      this.mask = RAY_LIGHTING;
      this.coneSpread = Math.max(this.coneSpread, MATT_SPREAD);
    } else if (pick < matt + gloss) {
      const k = all / (gloss * bsdf.pdf);
      this.tr *= bsdf.gr * k;
      this.tg *= bsdf.gg * k;
      this.tb *= bsdf.gb * k;
      this.mask = RAY_REFLECTION;
      this.coneSpread = Math.max(this.coneSpread, MATT_SPREAD * s.roughness);
    } else {
      const k = all / bsdf.pdf;
      this.tr *= k;
      this.tg *= k;
      this.tb *= k;
      this.mask = RAY_REFLECTION;
      const reach = material(this.scene, s.material, M_MIRROR_REACH);
      this.reach = reach > 0 ? reach : -1.0;
    }
    if (this.scatters == 0) this.lobe = kind;
    if (caught && kind == BY_DIFFUSE) return false;
    this.pdf = caught ? 0.0 : bsdf.pdf;
    if (caught) this.roomSampled = false;
    this.passed = false;
    this.dx = bsdf.lx;
    this.dy = bsdf.ly;
    this.dz = bsdf.lz;
    this.moveTo(s);
    this.lastThing = s.thing;
    this.scatters++;
    this.bounces++;
    return true;
  }

  /** Russian roulette by what the path can still carry. */
  roulette(depth: i32): bool {
    if (this.bounces == 0 && depth <= 3) return true;
    const most = Math.max(this.tr, Math.max(this.tg, this.tb));
    // After the first bounce only what can bring little is left to chance.
    const keep = this.bounces <= 1 ? most * 2.0 : Math.min(0.95, most);
    if (keep >= 1) return true;
    this.sampler.next();
    if (!(this.sampler.u < keep)) return false;
    this.tr /= keep;
    this.tg /= keep;
    this.tb /= keep;
    return true;
  }

  // @ts-ignore: decorator
  @inline
  receive(x: f64, y: f64, z: f64, nx: f64, ny: f64, nz: f64, facing: bool, thing: i32): void {
    const to = this.from;
    to.x = x;
    to.y = y;
    to.z = z;
    to.nx = nx;
    to.ny = ny;
    to.nz = nz;
    to.facing = facing;
    to.thing = thing;
  }

  // @ts-ignore: decorator
  @inline
  moveTo(s: Surface): void {
    this.ox = s.x;
    this.oy = s.y;
    this.oz = s.z;
  }

  /** A light's own shape was met at distance `t`. */
  meetLight(light: i32, t: f64): void {
    const lights = this.lights;
    if (this.scatters > 0 && !lights.linked(light, this.lastThing)) return;
    let weight: f64 = 1;
    if (this.pdf > 0) {
      if (this.passed) return;
      weight = this.pdf / (this.pdf + lights.density(this.from, light, this.dx, this.dy, this.dz, this.since(t)));
    }
    lights.hit(light, this.ox, this.oy, this.oz, this.dx, this.dy, this.dz, t);
    if (this.scatters == 0) this.pixel.alpha = 1;
    this.add(lights.r * weight, lights.g * weight, lights.b * weight, lights.passOf(light), this.lobe);
  }

  /** The surface met glows. */
  meetGlow(s: Surface, triangle: i32, t: f64): void {
    let weight: f64 = 1;
    const light = this.lights.lightOf(s.number, triangle);
    if (this.pdf > 0 && light >= 0) {
      if (this.passed) return;
      weight = this.pdf / (this.pdf + this.lights.density(this.from, light, this.dx, this.dy, this.dz, this.since(t)));
    }
    this.add(s.er * weight, s.eg * weight, s.eb * weight, this.scene.lightPasses - 1, this.lobe);
  }

  /** Distance from where light was last sampled to the hit at `t`: see-through surfaces may lie between. */
  since(t: f64): f64 {
    const p = this.from;
    const x = p.x - this.ox;
    const y = p.y - this.oy;
    const z = p.z - this.oz;
    return Math.sqrt(x * x + y * y + z * z) + t;
  }

  /** Nothing was met: suns and the room. */
  leaveSet(): void {
    const lights = this.lights;
    const scene = this.scene;
    for (let i = 0; i < scene.sunCount; i++) {
      if (this.scatters == 0 || !lights.linked(i, this.lastThing)) continue;
      if (!lights.sunAlong(i, this.dx, this.dy, this.dz)) continue;
      let weight: f64 = 1;
      if (this.pdf > 0) weight = this.passed ? 0.0 : this.pdf / (this.pdf + lights.pdf);
      this.add(lights.r * weight, lights.g * weight, lights.b * weight, lights.passOf(i), this.lobe);
    }
    if (this.scatters == 0 && scene.environmentSeen == 0) return;
    lights.roomAt(this.dx, this.dy, this.dz);
    let weight: f64 = 1;
    if (this.pdf > 0 && this.roomSampled) weight = this.passed ? 0.0 : this.pdf / (this.pdf + lights.pdf);
    if (weight > 0) this.add(lights.r * weight, lights.g * weight, lights.b * weight, scene.lightPasses - 2, this.lobe);
  }

  /** Alpha mask and blend: true when this sample passes the surface by. */
  seeThrough(s: Surface, choice: f64): bool {
    const mode = material(this.scene, s.material, M_ALPHA_MODE);
    if (mode == 0) return false;
    return mode == 1 ? s.alpha < material(this.scene, s.material, M_ALPHA_CUTOFF) : choice >= s.alpha;
  }

  /** An interface inside a medium of higher priority is not there; keeps the books and says so. */
  hiddenInterface(m: i32, front: bool): bool {
    const media = this.media;
    if (material(this.scene, m, M_VOLUME) == 0) return false;
    const around = front ? media.current(-1) : media.current(m);
    if (around < 0 || media.priority(around) <= media.priority(m)) return false;
    if (front) media.enter(m);
    else media.leave(m);
    return true;
  }

  /** Beer-Lambert in the medium the path is in. */
  absorb(length: f64): void {
    if (this.media.count == 0) return;
    const medium = this.media.current(-1);
    const r = material(this.scene, medium, M_ABSORPTION);
    const g = material(this.scene, medium, M_ABSORPTION + 1);
    const b = material(this.scene, medium, M_ABSORPTION + 2);
    if (r == 0 && g == 0 && b == 0) return;
    this.tr *= Math.exp(-r * length);
    this.tg *= Math.exp(-g * length);
    this.tb *= Math.exp(-b * length);
  }

  /** Light that this path brings to the camera. Only light that came by a bounce is clamped, and only when asked for. */
  add(r0: f64, g0: f64, b0: f64, light: i32, lobe: i32): void {
    let r = r0 * this.tr;
    let g = g0 * this.tg;
    let b = b0 * this.tb;
    const clamp = <f64>this.scene.clamp;
    if (this.bounces > 0 && clamp > 0) {
      const l = luminance(r, g, b) * <f64>this.scene.exposureScale;
      if (l > clamp) {
        r *= clamp / l;
        g *= clamp / l;
        b *= clamp / l;
      }
    }
    this.pixel.add(r, g, b, light, lobe, this.scatters <= 1);
  }

  recordFirst(s: Surface, number: i32, isGlass: bool, front: bool, t: f64, caught: bool): void {
    const pixel = this.pixel;
    const flip: f64 = front ? 1.0 : -1.0;
    if (caught) pixel.caught = 1;
    else pixel.alpha = 1;
    pixel.depth = t;
    pixel.ar = isGlass ? 1.0 : s.r;
    pixel.ag = isGlass ? 1.0 : s.g;
    pixel.ab = isGlass ? 1.0 : s.b;
    pixel.nx = s.nx * flip;
    pixel.ny = s.ny * flip;
    pixel.nz = s.nz * flip;
    if (!pixel.detail) return;
    pixel.thing = s.thing;
    pixel.finish = <i32>material(this.scene, s.material, M_FINISH);
    const it = instance(this.scene, number);
    const x = s.edge(0) + s.edge(3) * s.u + s.edge(6) * s.v;
    const y = s.edge(1) + s.edge(4) * s.u + s.edge(7) * s.v;
    const z = s.edge(2) + s.edge(5) * s.u + s.edge(8) * s.v;
    if (!this.project(it, I_OPEN, x, y, z)) return;
    const nowX = this.camera.px;
    const nowY = this.camera.py;
    if (!this.project(it, I_BEFORE, x, y, z)) return;
    pixel.motionX = nowX - this.camera.px;
    pixel.motionY = nowY - this.camera.py;
  }

  /** A point of a thing in the picture, now (I_OPEN) or in the frame before (I_BEFORE). */
  project(it: usize, m: i32, x: f64, y: f64, z: f64): bool {
    return this.camera.project(
      this.scene,
      m == I_BEFORE,
      at(it, m) * x + at(it, m + 1) * y + at(it, m + 2) * z + at(it, m + 3),
      at(it, m + 4) * x + at(it, m + 5) * y + at(it, m + 6) * z + at(it, m + 7),
      at(it, m + 8) * x + at(it, m + 9) * y + at(it, m + 10) * z + at(it, m + 11),
      this.width,
      this.height,
    );
  }

  /** Reflects or refracts at a dielectric and moves the path on. */
  scatterGlass(s: Surface, front: bool, nx: f64, ny: f64, nz: f64): bool {
    const media = this.media;
    const sampler = this.sampler;
    const volume = material(this.scene, s.material, M_VOLUME) > 0;
    const from: i32 = volume ? (front ? media.current(-1) : s.material) : -1;
    const to: i32 = volume ? (front ? s.material : media.current(s.material)) : s.material;
    const eta = media.ior(to) / media.ior(from);
    let through = false;
    if (s.roughness > SMOOTH) {
      const glass = this.glass;
      glass.prepare(this.scene.tables, nx, ny, nz, -this.dx, -this.dy, -this.dz, s.roughness, eta, !volume);
      // Behind a matt surface light is left to straight shadow rays; seen from the camera rough glass gets its own.
      const sampled = this.bounces == 0;
      if (sampled) {
        this.receive(s.x, s.y, s.z, nx, ny, nz, false, s.thing);
        this.bent = true;
        this.roomSampled = this.lights.hasRoom;
        this.sampleLightsAtGlass(s);
      }
      sampler.next();
      const choice = sampler.u;
      sampler.next();
      if (!glass.sample(choice, sampler.u, sampler.v)) return false;
      through = glass.through;
      const k = glass.value / glass.pdf;
      this.tr *= k;
      this.tg *= k;
      this.tb *= k;
      this.dx = glass.lx;
      this.dy = glass.ly;
      this.dz = glass.lz;
      if (sampled) {
        this.pdf = glass.pdf;
        this.passed = false;
      } else if (through) this.passed = true;
      else if (!this.passed) this.pdf = 0;
      this.coneSpread = Math.max(this.coneSpread, MATT_SPREAD * s.roughness);
    } else {
      const cos = Math.min(1.0, -(nx * this.dx + ny * this.dy + nz * this.dz));
      let reflectance = fresnelDielectric(cos, eta);
      if (!volume) reflectance = (2.0 * reflectance) / (1.0 + reflectance);
      sampler.next();
      if (sampler.u < reflectance) {
        this.dx += 2 * cos * nx;
        this.dy += 2 * cos * ny;
        this.dz += 2 * cos * nz;
        // A mirror image is out of the shadow rays' reach: this path alone finds that light.
        if (!this.passed) this.pdf = 0;
      } else {
        through = true;
        if (this.bent) this.pdf = 0;
        else if (this.pdf > 0) this.passed = true;
        if (volume) this.refract(cos, eta, nx, ny, nz);
      }
    }
    this.moveTo(s);
    if (this.scatters == 0) this.lobe = through ? BY_TRANSMISSION : BY_GLOSS;
    this.scatters++;
    if (!through) return true;
    this.tr *= s.r;
    this.tg *= s.g;
    this.tb *= s.b;
    if (!volume) return true;
    if (front) media.enter(s.material);
    else media.leave(s.material);
    return true;
  }

  refract(cos: f64, eta: f64, nx: f64, ny: f64, nz: f64): void {
    const ratio = 1.0 / eta;
    const k = 1 - ratio * ratio * (1 - cos * cos);
    const bend = ratio * cos - Math.sqrt(Math.max(0.0, k));
    const x = this.dx * ratio + nx * bend;
    const y = this.dy * ratio + ny * bend;
    const z = this.dz * ratio + nz * bend;
    const l = 1.0 / Math.sqrt(x * x + y * y + z * z);
    this.dx = x * l;
    this.dy = y * l;
    this.dz = z * l;
  }

  /** A collision at distance `t`: light is sampled there and the path goes on by the phase function. */
  scatterInSmoke(t: f64): bool {
    const volumes = this.volumes;
    const sampler = this.sampler;
    this.absorb(t);
    this.ox += this.dx * t;
    this.oy += this.dy * t;
    this.oz += this.dz * t;
    this.tr *= volumes.r;
    this.tg *= volumes.g;
    this.tb *= volumes.b;
    if (this.reach >= 0) return false;
    if (this.scatters == 0) {
      this.pixel.alpha = 1;
      this.pixel.depth = t;
      this.pixel.ar = volumes.r;
      this.pixel.ag = volumes.g;
      this.pixel.ab = volumes.b;
      this.lobe = BY_DIFFUSE;
    }
    if (this.bounces >= this.scene.maxBounces) return false;
    this.receive(this.ox, this.oy, this.oz, 0, 0, 0, false, -1);
    this.bent = false;
    this.roomSampled = this.lights.hasRoom && this.bounces == 0;
    const lights = this.lights;
    sampler.next();
    const choice = sampler.u;
    sampler.next();
    if (this.scene.lightCount > 0 && lights.sample(this.from, choice, sampler.u, sampler.v)) this.connectSmoke();
    if (this.roomSampled) {
      sampler.next();
      if (lights.sampleRoom(sampler.u, sampler.v)) this.connectSmoke();
    }
    sampler.next();
    this.pdf = volumes.scatter(this.dx, this.dy, this.dz, sampler.u, sampler.v);
    this.dx = volumes.dx;
    this.dy = volumes.dy;
    this.dz = volumes.dz;
    this.passed = false;
    this.mask = RAY_LIGHTING;
    this.lastThing = -1;
    this.scatters++;
    this.bounces++;
    return true;
  }

  connectSmoke(): void {
    const lights = this.lights;
    const value = this.volumes.phaseValue(lights.dx * this.dx + lights.dy * this.dy + lights.dz * this.dz);
    if (!this.reaches()) return;
    const weight = this.weigh(value) * value;
    this.addFrom(
      lights.r * this.through0 * weight,
      lights.g * this.through1 * weight,
      lights.b * this.through2 * weight,
      this.passOf(),
      this.lobe,
    );
  }

  /** Light pass of the light sample at hand. */
  // @ts-ignore: decorator
  @inline
  passOf(): i32 {
    const light = this.lights.light;
    return light < 0 ? this.scene.lightPasses - 2 : this.lights.passOf(light);
  }

  /** One over the density of the light sample at hand, times its share against a lobe of density `pdf`. */
  // @ts-ignore: decorator
  @inline
  weigh(pdf: f64): f64 {
    const lights = this.lights;
    if (lights.only || this.straight) return 1.0 / lights.pdf;
    return 1.0 / (lights.pdf + pdf);
  }

  /** Light sampled at an opaque surface: one light, and the room at the first bounce. */
  sampleLights(s: Surface, flip: f64, caught: bool): void {
    const lights = this.lights;
    const sampler = this.sampler;
    sampler.next();
    const choice = sampler.u;
    this.pick = sampler.v;
    if (this.scene.lightCount > 0) {
      sampler.next();
      if (lights.sample(this.from, choice, sampler.u, sampler.v)) this.connect(s, flip, caught);
    }
    if (this.roomSampled) {
      sampler.next();
      if (lights.sampleRoom(sampler.u, sampler.v)) this.connect(s, flip, caught);
    }
  }

  connect(s: Surface, flip: f64, caught: bool): void {
    const lights = this.lights;
    const bsdf = this.bsdf;
    const pixel = this.pixel;
    if ((lights.dx * s.gx + lights.dy * s.gy + lights.dz * s.gz) * flip <= 0) return;
    bsdf.evaluate(lights.dx, lights.dy, lights.dz);
    if (bsdf.pdf <= 0) return;
    const pdf = bsdf.pdf;
    let gloss = bsdf.mirror;
    if (gloss > 0) {
      const reach = material(this.scene, s.material, M_MIRROR_REACH);
      if (reach > 0) gloss *= decayWithin(lights.distance, reach);
    }
    const mask = lights.mask();
    const matt = mask & RAY_LIGHTING ? 1.0 : 0.0;
    const shiny = mask & RAY_REFLECTION ? 1.0 : 0.0;
    const dr = bsdf.dr * matt;
    const dg = bsdf.dg * matt;
    const db = bsdf.db * matt;
    const gr = (bsdf.gr + gloss) * shiny;
    const gg = (bsdf.gg + gloss) * shiny;
    const gb = (bsdf.gb + gloss) * shiny;
    const first = this.scatters == 0;
    // Light too faint to be noticed gets a shadow ray only now and then, and counts for more when it does.
    let boost: f64 = 1;
    const seen =
      (luminance(lights.r * (dr + gr) * this.tr, lights.g * (dg + gg) * this.tg, lights.b * (db + gb) * this.tb) /
        (lights.pdf + pdf)) *
      <f64>this.scene.exposureScale;
    if (seen < FAINT) {
      const odds = Math.max(0.1, seen / FAINT);
      this.sampler.next();
      if (this.sampler.u >= odds) return;
      boost = 1.0 / odds;
    }
    let open: f64 = 0;
    if (first) {
      open = (luminance(lights.r * (dr + gr), lights.g * (dg + gg), lights.b * (db + gb)) / lights.pdf) * boost;
      pixel.open += open;
    }
    if (!this.reaches()) return;
    if (first) pixel.shaded += open * luminance(this.through0, this.through1, this.through2);
    if (caught) return;
    const weight = this.weigh(pdf) * boost;
    const r = lights.r * this.through0 * weight;
    const g = lights.g * this.through1 * weight;
    const b = lights.b * this.through2 * weight;
    const pass = this.passOf();
    if (!first) {
      this.addFrom(r * (dr + gr), g * (dg + gg), b * (db + gb), pass, this.lobe);
      return;
    }
    this.addFrom(r * dr, g * dg, b * db, pass, BY_DIFFUSE);
    this.addFrom(r * gr, g * gg, b * gb, pass, BY_GLOSS);
  }

  /** Adds light sampled at the surface at hand, which is one scattering more than the path has made. */
  // @ts-ignore: decorator
  @inline
  addFrom(r: f64, g: f64, b: f64, light: i32, lobe: i32): void {
    this.scatters++;
    this.add(r, g, b, light, lobe);
    this.scatters--;
  }

  sampleLightsAtGlass(s: Surface): void {
    const lights = this.lights;
    const sampler = this.sampler;
    sampler.next();
    const choice = sampler.u;
    sampler.next();
    if (this.scene.lightCount > 0 && lights.sample(this.from, choice, sampler.u, sampler.v)) this.connectGlass(s);
    if (this.roomSampled) {
      sampler.next();
      if (lights.sampleRoom(sampler.u, sampler.v)) this.connectGlass(s);
    }
  }

  connectGlass(s: Surface): void {
    const lights = this.lights;
    const glass = this.glass;
    glass.evaluate(lights.dx, lights.dy, lights.dz);
    if (glass.pdf <= 0) return;
    const value = glass.value;
    const through = glass.through;
    const pdf = glass.pdf;
    if (!this.reaches()) return;
    const weight = this.weigh(pdf) * value;
    const pass = this.passOf();
    const lobe = this.scatters > 0 ? this.lobe : through ? BY_TRANSMISSION : BY_GLOSS;
    this.addFrom(
      lights.r * this.through0 * weight * (through ? s.r : 1.0),
      lights.g * this.through1 * weight * (through ? s.g : 1.0),
      lights.b * this.through2 * weight * (through ? s.b : 1.0),
      pass,
      lobe,
    );
  }

  /** Casts the shadow ray for the light sample at hand; what comes through goes into `through`. */
  reaches(): bool {
    const lights = this.lights;
    const p = this.from;
    const far = lights.distance * (1 - 1e-4);
    const blocked = walk(this.scene, this.hit, p.x, p.y, p.z, lights.dx, lights.dy, lights.dz, NEAR, far, RAY_SHADOW, true);
    if (blocked == 1) return false;
    this.through0 = 1;
    this.through1 = 1;
    this.through2 = 1;
    this.straight = false;
    if (blocked == 2 && !this.passThrough(far)) return false;
    if (this.bent && this.straight) return false;
    if (this.scene.volumeCount > 0) {
      const share = this.volumes.transmittance(p.x, p.y, p.z, lights.dx, lights.dy, lights.dz, far);
      if (share <= 0) return false;
      this.through0 *= share;
      this.through1 *= share;
      this.through2 *= share;
    }
    return true;
  }

  /** What see-through surfaces between the last receiver and the light leave of it, into `through`. */
  passThrough(far: f64): bool {
    const lights = this.lights;
    const scene = this.scene;
    const hit = this.hit;
    const shade = this.shade;
    const p = this.from;
    let near = NEAR;
    let enteredAt: f64 = 0;
    let glassy = false;
    for (let step = 0; step < 24; step++) {
      if (walk(scene, hit, p.x, p.y, p.z, lights.dx, lights.dy, lights.dz, near, far, RAY_SHADOW, false) == 0) {
        this.straight = glassy;
        return true;
      }
      const t = hit.t;
      near = t + NEAR;
      // Light shapes cast no shadow.
      if (word(instance(scene, hit.instance), I_KIND) == KIND_LIGHT) continue;
      shade.at(hit.instance, hit.triangle, hit.corner, IN_PACKET, hit.u, hit.v, this.time, 0);
      const m = shade.material;
      const mode = material(scene, m, M_ALPHA_MODE);
      const open = mode == 1 ? (shade.alpha < material(scene, m, M_ALPHA_CUTOFF) ? 1.0 : 0.0) : mode == 2 ? 1.0 - shade.alpha : 0.0;
      const cos = shade.gx * lights.dx + shade.gy * lights.dy + shade.gz * lights.dz;
      const clear = shade.transmission * (1.0 - shade.metallic);
      if (clear > 0) glassy = true;
      const glass = clear * (1.0 - fresnelDielectric(cos, material(scene, m, M_IOR)));
      if (cos < 0) enteredAt = t;
      const length = cos >= 0 ? t - enteredAt : 0.0;
      const solid = (1.0 - open) * glass;
      this.through0 *= (open + solid * shade.r) * Math.exp(-material(scene, m, M_ABSORPTION) * length);
      this.through1 *= (open + solid * shade.g) * Math.exp(-material(scene, m, M_ABSORPTION + 1) * length);
      this.through2 *= (open + solid * shade.b) * Math.exp(-material(scene, m, M_ABSORPTION + 2) * length);
      if (this.through0 + this.through1 + this.through2 < 1e-4) return false;
    }
    return false;
  }
}

// @ts-ignore: decorator
@inline
function luminance(r: f64, g: f64, b: f64): f64 {
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** Uniform 0..1 to a tent of radius 1: the pixel filter by importance sampling. */
function tent(u: f64): f64 {
  return u < 0.5 ? Math.sqrt(2.0 * u) - 1.0 : 1.0 - Math.sqrt(2.0 - 2.0 * u);
}
