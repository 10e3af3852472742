import { Bsdf } from './bsdf';
import { Lights } from './lights';
import { Media } from './media';
import { fresnelDielectric, sampleGgxNormal } from './microfacet';
import { Sampler } from './sampler';
import {
  at,
  M_ABSORPTION,
  M_ALPHA_CUTOFF,
  M_ALPHA_MODE,
  M_IOR,
  M_VOLUME,
  material,
  Scene,
} from './scene';
import { Surface } from './surface';
import { Hit, walk } from './traverse';

/** Rays start this far off, metres. */
const NEAR: f64 = 1e-5;
/** Glass smoother than this reflects and refracts as a mirror. */
const SMOOTH: f64 = 0.03;

/** One path after the other, as core's trace/path.ts follows them; that file explains why. */
@unmanaged
export class Path {
  scene: Scene;
  hit: Hit;
  lights: Lights;
  surface: Surface;
  shade: Surface;
  bsdf: Bsdf;
  media: Media;
  sampler: Sampler;
  /** Radiance of the last sample and the features of its first surface. */
  r: f64;
  g: f64;
  b: f64;
  alpha: f64;
  depth: f64;
  ar: f64;
  ag: f64;
  ab: f64;
  nx: f64;
  ny: f64;
  nz: f64;
  tr: f64;
  tg: f64;
  tb: f64;
  ox: f64;
  oy: f64;
  oz: f64;
  dx: f64;
  dy: f64;
  dz: f64;
  h0: f64;
  h1: f64;
  h2: f64;
  through0: f64;
  through1: f64;
  through2: f64;

  /** Traces sample `index` of the pixel at (x, y) in a picture of the given size. */
  trace(x: i32, y: i32, width: i32, height: i32, index: i32): void {
    this.sampler.start(<u32>(y * width + x), <u32>index);
    this.cameraRay(x, y, width, height);
    this.r = 0;
    this.g = 0;
    this.b = 0;
    this.alpha = 0;
    this.depth = 0;
    this.ar = 0;
    this.ag = 0;
    this.ab = 0;
    this.nx = 0;
    this.ny = 0;
    this.nz = 0;
    this.media.count = 0;
    this.tr = 1;
    this.tg = 1;
    this.tb = 1;
    this.follow();
  }

  /** Thin lens: all rays of a pixel meet on the plane of focus. */
  cameraRay(x: i32, y: i32, width: i32, height: i32): void {
    const c = this.scene.camera;
    const sampler = this.sampler;
    sampler.next();
    const px = ((<f64>x + 0.5 + tent(sampler.u)) / <f64>width) * 2.0 - 1.0;
    const py = 1.0 - ((<f64>y + 0.5 + tent(sampler.v)) / <f64>height) * 2.0;
    sampler.next();
    let lx: f64 = 0;
    let ly: f64 = 0;
    if (at(c, 14) > 0) {
      const radius = Math.sqrt(sampler.u) * at(c, 14);
      lx = radius * Math.cos(2.0 * Math.PI * sampler.v);
      ly = radius * Math.sin(2.0 * Math.PI * sampler.v);
    }
    const f = at(c, 15);
    const vx = px * at(c, 12) * at(c, 13) - lx / f;
    const vy = py * at(c, 12) - ly / f;
    const dx = at(c, 0) * vx + at(c, 3) * vy - at(c, 6);
    const dy = at(c, 1) * vx + at(c, 4) * vy - at(c, 7);
    const dz = at(c, 2) * vx + at(c, 5) * vy - at(c, 8);
    const l = 1.0 / Math.sqrt(dx * dx + dy * dy + dz * dz);
    this.dx = dx * l;
    this.dy = dy * l;
    this.dz = dz * l;
    this.ox = at(c, 9) + at(c, 0) * lx + at(c, 3) * ly;
    this.oy = at(c, 10) + at(c, 1) * lx + at(c, 4) * ly;
    this.oz = at(c, 11) + at(c, 2) * lx + at(c, 5) * ly;
  }

  follow(): void {
    const hit = this.hit;
    const lights = this.lights;
    const s = this.surface;
    const scene = this.scene;
    const sampler = this.sampler;
    const bsdf = this.bsdf;
    const media = this.media;
    let bounces: i32 = 0;
    let first = true;
    /** Density of the last sampled direction; 0 after the camera and smooth glass, where only this path finds the light. */
    let pdf: f64 = 0;
    let environmentSampled = false;
    /** True once the path went through glass after its last opaque surface: shadow rays have brought that light. */
    let passed = false;
    let px: f64 = 0;
    let py: f64 = 0;
    let pz: f64 = 0;
    for (let depth: i32 = 0; depth < scene.maxDepth; depth++) {
      const found = walk(scene, hit, this.ox, this.oy, this.oz, this.dx, this.dy, this.dz, NEAR, Infinity, false) != 0;
      const far = found ? hit.t : Infinity;
      if (lights.panelHit(this.ox, this.oy, this.oz, this.dx, this.dy, this.dz, NEAR, far, bounces == 0 && first)) {
        let weight: f64 = 1;
        if (pdf > 0) {
          const other = passed
            ? Infinity
            : lights.panelPdf(
                px,
                py,
                pz,
                lights.panel,
                this.dx,
                this.dy,
                this.dz,
                distance(px, py, pz, this.ox, this.oy, this.oz) + lights.t,
              );
          weight = pdf / (pdf + other);
        }
        this.absorb(lights.t);
        if (weight > 0) this.add(lights.r * weight, lights.g * weight, lights.b * weight, bounces);
        if (first) this.alpha = 1;
        return;
      }
      if (!found) {
        lights.environmentAt(this.dx, this.dy, this.dz);
        let weight: f64 = 1;
        if (pdf > 0 && environmentSampled) weight = passed ? 0.0 : pdf / (pdf + lights.pdf);
        if (weight > 0) this.add(lights.r * weight, lights.g * weight, lights.b * weight, bounces);
        return;
      }
      this.absorb(hit.t);
      s.at(hit.triangle, hit.u, hit.v);
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
      if (first) this.recordFeatures(s, isGlass, front);
      first = false;
      if (isGlass) {
        const transmitted = this.scatterGlass(s, front);
        if (transmitted) passed = true;
        // A mirror reflection off glass is out of the shadow rays' reach: this path alone finds that light.
        if (!passed) pdf = 0;
        continue;
      }
      this.add(s.er, s.eg, s.eb, bounces);
      if (bounces >= scene.maxBounces) return;
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
      bsdf.prepare(s, scene, nx, ny, nz, -this.dx, -this.dy, -this.dz);
      environmentSampled = lights.hasEnvironment && bounces == 0;
      this.sampleLights(s, flip, environmentSampled, bounces);
      sampler.next();
      const u = sampler.u;
      const v = sampler.v;
      const rescaled = isGlass || glass == 0 ? lobe : (lobe - glass) / (1.0 - glass);
      if (!bsdf.sample(rescaled, u, v)) return;
      if ((bsdf.lx * s.gx + bsdf.ly * s.gy + bsdf.lz * s.gz) * flip <= 0) return;
      this.tr *= bsdf.r / bsdf.pdf;
      this.tg *= bsdf.g / bsdf.pdf;
      this.tb *= bsdf.b / bsdf.pdf;
      pdf = bsdf.pdf;
      passed = false;
      this.dx = bsdf.lx;
      this.dy = bsdf.ly;
      this.dz = bsdf.lz;
      this.moveTo(s);
      px = s.x;
      py = s.y;
      pz = s.z;
      bounces++;
      if (bounces > 1 || depth > 3) {
        // Russian roulette by what the path can still carry.
        const keep = Math.min(0.95, Math.max(this.tr, Math.max(this.tg, this.tb)));
        sampler.next();
        if (!(sampler.u < keep)) return;
        this.tr /= keep;
        this.tg /= keep;
        this.tb /= keep;
      }
    }
  }

  moveTo(s: Surface): void {
    this.ox = s.x;
    this.oy = s.y;
    this.oz = s.z;
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
    const medium = this.media.current(-1);
    if (medium < 0) return;
    const r = material(this.scene, medium, M_ABSORPTION);
    const g = material(this.scene, medium, M_ABSORPTION + 1);
    const b = material(this.scene, medium, M_ABSORPTION + 2);
    if (r == 0 && g == 0 && b == 0) return;
    this.tr *= Math.exp(-r * length);
    this.tg *= Math.exp(-g * length);
    this.tb *= Math.exp(-b * length);
  }

  add(r0: f64, g0: f64, b0: f64, bounces: i32): void {
    let r = r0 * this.tr;
    let g = g0 * this.tg;
    let b = b0 * this.tb;
    const clamp = this.scene.clamp;
    if (bounces > 0 && clamp > 0) {
      const luminance = (0.2126 * r + 0.7152 * g + 0.0722 * b) * this.scene.exposureScale;
      if (luminance > clamp) {
        r *= clamp / luminance;
        g *= clamp / luminance;
        b *= clamp / luminance;
      }
    }
    this.r += r;
    this.g += g;
    this.b += b;
  }

  recordFeatures(s: Surface, isGlass: bool, front: bool): void {
    const flip: f64 = front ? 1.0 : -1.0;
    this.alpha = 1;
    this.depth = this.hit.t;
    this.ar = isGlass ? 1.0 : s.r;
    this.ag = isGlass ? 1.0 : s.g;
    this.ab = isGlass ? 1.0 : s.b;
    this.nx = s.nx * flip;
    this.ny = s.ny * flip;
    this.nz = s.nz * flip;
  }

  /** Reflects or refracts at a dielectric and moves the path on. True when the light went through. */
  scatterGlass(s: Surface, front: bool): bool {
    const media = this.media;
    const sampler = this.sampler;
    const volume = material(this.scene, s.material, M_VOLUME) > 0;
    const flip: f64 = front ? 1.0 : -1.0;
    let nx = s.nx * flip;
    let ny = s.ny * flip;
    let nz = s.nz * flip;
    if (nx * this.dx + ny * this.dy + nz * this.dz > -1e-3) {
      nx = s.gx * flip;
      ny = s.gy * flip;
      nz = s.gz * flip;
    }
    sampler.next();
    if (s.roughness > SMOOTH) {
      this.microNormal(nx, ny, nz, s.roughness * s.roughness, sampler.u, sampler.v);
      nx = this.h0;
      ny = this.h1;
      nz = this.h2;
      sampler.next();
    }
    const cos = Math.min(1.0, -(nx * this.dx + ny * this.dy + nz * this.dz));
    const from: i32 = volume ? (front ? media.current(-1) : s.material) : -1;
    const to: i32 = volume ? (front ? s.material : media.current(s.material)) : s.material;
    const eta = media.ior(to) / media.ior(from);
    let reflectance = fresnelDielectric(cos, eta);
    // A thin wall has two faces: light bounces between them (geometric series).
    if (!volume) reflectance = (2.0 * reflectance) / (1.0 + reflectance);
    this.moveTo(s);
    if (sampler.u < reflectance) {
      this.dx += 2 * cos * nx;
      this.dy += 2 * cos * ny;
      this.dz += 2 * cos * nz;
      return false;
    }
    this.tr *= s.r;
    this.tg *= s.g;
    this.tb *= s.b;
    if (!volume) return true;
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
    if (front) media.enter(s.material);
    else media.leave(s.material);
    return true;
  }

  microNormal(nx: f64, ny: f64, nz: f64, alpha: f64, u: f64, v: f64): void {
    const sign: f64 = nz >= 0 ? 1.0 : -1.0;
    const a = -1.0 / (sign + nz);
    const b = nx * ny * a;
    const tx = 1 + sign * nx * nx * a;
    const ty = sign * b;
    const tz = -sign * nx;
    const by = sign + ny * ny * a;
    sampleGgxNormal(
      -(this.dx * tx + this.dy * ty + this.dz * tz),
      -(this.dx * b + this.dy * by - this.dz * ny),
      -(this.dx * nx + this.dy * ny + this.dz * nz),
      alpha,
      u,
      v,
      changetype<usize>(this) + offsetof<Path>('h0'),
    );
    const x = tx * this.h0 + b * this.h1 + nx * this.h2;
    const y = ty * this.h0 + by * this.h1 + ny * this.h2;
    const z = tz * this.h0 - ny * this.h1 + nz * this.h2;
    this.h0 = x;
    this.h1 = y;
    this.h2 = z;
  }

  /** Light sampled at an opaque surface: one panel, and the environment at the first bounce. */
  sampleLights(s: Surface, flip: f64, environment: bool, bounces: i32): void {
    const lights = this.lights;
    const sampler = this.sampler;
    if (this.scene.lightCount > 0) {
      sampler.next();
      const choice = sampler.u;
      sampler.next();
      if (lights.samplePanel(s.x, s.y, s.z, choice, sampler.u, sampler.v))
        this.connect(s, flip, lights.distance * (1 - 1e-4), bounces);
    }
    if (environment) {
      sampler.next();
      if (lights.sampleEnvironment(sampler.u, sampler.v)) this.connect(s, flip, Infinity, bounces);
    }
  }

  connect(s: Surface, flip: f64, far: f64, bounces: i32): void {
    const lights = this.lights;
    const bsdf = this.bsdf;
    if ((lights.dx * s.gx + lights.dy * s.gy + lights.dz * s.gz) * flip <= 0) return;
    bsdf.evaluate(lights.dx, lights.dy, lights.dz);
    if (bsdf.pdf <= 0) return;
    const blocked = walk(this.scene, this.hit, s.x, s.y, s.z, lights.dx, lights.dy, lights.dz, NEAR, far, true);
    if (blocked == 1) return;
    this.through0 = 1;
    this.through1 = 1;
    this.through2 = 1;
    if (blocked == 2 && !this.passThrough(s, far)) return;
    // The bent path through glass is left out by follow(), so the straight one carries all of the light.
    const weight = (blocked == 2 ? 1.0 : lights.pdf / (lights.pdf + bsdf.pdf)) / lights.pdf;
    this.add(
      lights.r * bsdf.r * this.through0 * weight,
      lights.g * bsdf.g * this.through1 * weight,
      lights.b * bsdf.b * this.through2 * weight,
      bounces,
    );
  }

  /** What see-through surfaces between a point and the light leave of it, into `through`. */
  passThrough(from: Surface, far: f64): bool {
    const lights = this.lights;
    const scene = this.scene;
    const hit = this.hit;
    const shade = this.shade;
    let near = NEAR;
    let enteredAt: f64 = 0;
    for (let step = 0; step < 24; step++) {
      if (walk(scene, hit, from.x, from.y, from.z, lights.dx, lights.dy, lights.dz, near, far, false) == 0) return true;
      const t = hit.t;
      shade.at(hit.triangle, hit.u, hit.v);
      const m = shade.material;
      const mode = material(scene, m, M_ALPHA_MODE);
      const open = mode == 1 ? (shade.alpha < material(scene, m, M_ALPHA_CUTOFF) ? 1.0 : 0.0) : mode == 2 ? 1.0 - shade.alpha : 0.0;
      const cos = shade.gx * lights.dx + shade.gy * lights.dy + shade.gz * lights.dz;
      const glass = shade.transmission * (1.0 - shade.metallic) * (1.0 - fresnelDielectric(cos, material(scene, m, M_IOR)));
      if (cos < 0) enteredAt = t;
      const length = cos >= 0 ? t - enteredAt : 0.0;
      const solid = (1.0 - open) * glass;
      this.through0 *= (open + solid * shade.r) * Math.exp(-material(scene, m, M_ABSORPTION) * length);
      this.through1 *= (open + solid * shade.g) * Math.exp(-material(scene, m, M_ABSORPTION + 1) * length);
      this.through2 *= (open + solid * shade.b) * Math.exp(-material(scene, m, M_ABSORPTION + 2) * length);
      if (this.through0 + this.through1 + this.through2 < 1e-4) return false;
      near = t + NEAR;
    }
    return false;
  }
}

/** Uniform 0..1 to a tent of radius 1: the pixel filter by importance sampling. */
function tent(u: f64): f64 {
  return u < 0.5 ? Math.sqrt(2.0 * u) - 1.0 : 1.0 - Math.sqrt(2.0 - 2.0 * u);
}

function distance(ax: f64, ay: f64, az: f64, bx: f64, by: f64, bz: f64): f64 {
  const x = ax - bx;
  const y = ay - by;
  const z = az - bz;
  return Math.sqrt(x * x + y * y + z * z);
}
