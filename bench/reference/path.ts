import { castCameraRay, type CameraRay } from './camera-ray.ts';
import { MATERIAL, type PackedScene } from './layout.ts';
import { Intersector } from './intersect.ts';
import { LightSampler } from './light-sampler.ts';
import { MediaStack } from './media.ts';
import { fresnelDielectric, sampleGgxNormal } from './microfacet.ts';
import { OpaqueBsdf } from './opaque-bsdf.ts';
import { makeSampler, type Sampler } from './sampler.ts';
import { Surface } from './surface.ts';

export interface TraceLimits {
  /** Surfaces a path may meet, glass included. */
  maxDepth: number;
  /** Opaque surfaces a path may bounce off. */
  maxBounces: number;
  /** Largest luminance one indirect path may add, in units of display white; 0 for no limit. */
  clamp: number;
  /** Scene luminance times this is display-linear; used by `clamp` only. */
  exposureScale: number;
}

/** Rays start this far off, metres: a tenth of the thinnest gap a product is modelled with. */
const NEAR = 1e-5;
/** Glass smoother than this reflects and refracts as a mirror. */
const SMOOTH = 0.03;

/**
 * Unidirectional path tracer with light sampling and multiple importance sampling (Veach 1997, balance heuristic).
 *
 * Light that reaches an opaque surface through glass is found by shadow rays that go straight through see-through
 * surfaces, weakened by Fresnel reflection, tint and absorption; the bent paths for the same light are then left out,
 * so it is counted once. This is an approximation: it lights honey in a jar without noise but makes no caustics.
 */
export class PathTracer {
  /** Result of the last sample: radiance in cd/m2 and the features of the first surface. */
  r = 0;
  g = 0;
  b = 0;
  alpha = 0;
  albedo = new Float64Array(3);
  normal = new Float64Array(3);
  depth = 0;
  /** Rays cast so far, for measuring. */
  rays = 0;

  private readonly scene: PackedScene;
  private readonly limits: TraceLimits;
  private readonly hit: Intersector;
  private readonly lights: LightSampler;
  private readonly surface: Surface;
  private readonly shade: Surface;
  private readonly bsdf = new OpaqueBsdf();
  private readonly media: MediaStack;
  private readonly sampler: Sampler;
  private readonly h = new Float64Array(3);
  private readonly through = new Float64Array(3);
  private readonly ray: CameraRay = { ox: 0, oy: 0, oz: 0, dx: 0, dy: 0, dz: 0 };
  private tr = 1;
  private tg = 1;
  private tb = 1;
  private ox = 0;
  private oy = 0;
  private oz = 0;
  private dx = 0;
  private dy = 0;
  private dz = 0;

  /** @param seed of the frame: noise differs from frame to frame and is the same on every machine. */
  constructor(scene: PackedScene, limits: TraceLimits, seed: number) {
    this.scene = scene;
    this.limits = limits;
    this.hit = new Intersector(scene);
    this.lights = new LightSampler(scene);
    this.surface = new Surface(scene);
    this.shade = new Surface(scene);
    this.media = new MediaStack(scene.materials);
    this.sampler = makeSampler(seed);
  }

  /** Traces sample `index` of the pixel at (x, y) in a picture of the given size. */
  trace(x: number, y: number, width: number, height: number, index: number): void {
    this.sampler.start(y * width + x, index);
    this.cameraRay(x, y, width, height);
    this.r = this.g = this.b = 0;
    this.alpha = 0;
    this.depth = 0;
    this.albedo.fill(0);
    this.normal.fill(0);
    this.media.clear();
    this.tr = this.tg = this.tb = 1;
    this.follow();
  }

  private cameraRay(x: number, y: number, width: number, height: number): void {
    const { sampler, ray } = this;
    sampler.next();
    const px = ((x + 0.5 + tent(sampler.u)) / width) * 2 - 1;
    const py = 1 - ((y + 0.5 + tent(sampler.v)) / height) * 2;
    sampler.next();
    castCameraRay(this.scene.camera, px, py, sampler.u, sampler.v, ray);
    ({ ox: this.ox, oy: this.oy, oz: this.oz, dx: this.dx, dy: this.dy, dz: this.dz } = ray);
  }

  private follow(): void {
    const { limits, hit, lights, surface: s, scene, sampler } = this;
    let bounces = 0;
    let first = true;
    /** Density of the last sampled direction; 0 after the camera and smooth glass, where only this path finds the light. */
    let pdf = 0;
    let environmentSampled = false;
    /** True once the path went through glass after its last opaque surface: shadow rays have brought that light. */
    let passed = false;
    let px = 0;
    let py = 0;
    let pz = 0;
    for (let depth = 0; depth < limits.maxDepth; depth++) {
      this.rays++;
      const found = hit.nearest(this.ox, this.oy, this.oz, this.dx, this.dy, this.dz, NEAR, Infinity);
      const far = found ? hit.t : Infinity;
      if (lights.panelHit(this.ox, this.oy, this.oz, this.dx, this.dy, this.dz, NEAR, far, bounces === 0 && first)) {
        let weight = 1;
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
        let weight = 1;
        if (pdf > 0 && environmentSampled) weight = passed ? 0 : pdf / (pdf + lights.pdf);
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
      if (bounces >= limits.maxBounces) return;
      const flip = front ? 1 : -1;
      let nx = s.nx * flip;
      let ny = s.ny * flip;
      let nz = s.nz * flip;
      // An interpolated normal may lean away from the viewer at the silhouette; the geometric one never does.
      if (nx * this.dx + ny * this.dy + nz * this.dz > -1e-3) {
        nx = s.gx * flip;
        ny = s.gy * flip;
        nz = s.gz * flip;
      }
      const bsdf = this.bsdf;
      bsdf.prepare(s, scene.materials, nx, ny, nz, -this.dx, -this.dy, -this.dz);
      environmentSampled = lights.hasEnvironment && bounces === 0;
      this.sampleLights(s, flip, environmentSampled, bounces);
      sampler.next();
      const u = sampler.u;
      const v = sampler.v;
      const rescaled = isGlass || glass === 0 ? lobe : (lobe - glass) / (1 - glass);
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
        const keep = Math.min(0.95, Math.max(this.tr, this.tg, this.tb));
        sampler.next();
        if (!(sampler.u < keep)) return;
        this.tr /= keep;
        this.tg /= keep;
        this.tb /= keep;
      }
    }
  }

  private moveTo(s: Surface): void {
    this.ox = s.x;
    this.oy = s.y;
    this.oz = s.z;
  }

  /** Alpha mask and blend: true when this sample passes the surface by. */
  private seeThrough(s: Surface, choice: number): boolean {
    const m = s.material * MATERIAL.stride;
    const mode = this.scene.materials[m + MATERIAL.alphaMode];
    if (mode === 0) return false;
    return mode === 1 ? s.alpha < this.scene.materials[m + MATERIAL.alphaCutoff] : choice >= s.alpha;
  }

  /** An interface inside a medium of higher priority is not there; keeps the books and says so. */
  private hiddenInterface(material: number, front: boolean): boolean {
    const { media, scene } = this;
    if (scene.materials[material * MATERIAL.stride + MATERIAL.volume] === 0) return false;
    const around = front ? media.current() : media.current(material);
    if (around < 0 || media.priority(around) <= media.priority(material)) return false;
    if (front) media.enter(material);
    else media.leave(material);
    return true;
  }

  /** Beer-Lambert in the medium the path is in. */
  private absorb(length: number): void {
    const medium = this.media.current();
    if (medium < 0) return;
    const at = medium * MATERIAL.stride + MATERIAL.absorption;
    const { materials } = this.scene;
    if (materials[at] === 0 && materials[at + 1] === 0 && materials[at + 2] === 0) return;
    this.tr *= Math.exp(-materials[at] * length);
    this.tg *= Math.exp(-materials[at + 1] * length);
    this.tb *= Math.exp(-materials[at + 2] * length);
  }

  private add(r: number, g: number, b: number, bounces: number): void {
    r *= this.tr;
    g *= this.tg;
    b *= this.tb;
    const { clamp, exposureScale } = this.limits;
    if (bounces > 0 && clamp > 0) {
      const luminance = (0.2126 * r + 0.7152 * g + 0.0722 * b) * exposureScale;
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

  private recordFeatures(s: Surface, isGlass: boolean, front: boolean): void {
    const flip = front ? 1 : -1;
    this.alpha = 1;
    this.depth = this.hit.t;
    this.albedo[0] = isGlass ? 1 : s.r;
    this.albedo[1] = isGlass ? 1 : s.g;
    this.albedo[2] = isGlass ? 1 : s.b;
    this.normal[0] = s.nx * flip;
    this.normal[1] = s.ny * flip;
    this.normal[2] = s.nz * flip;
  }

  /** Reflects or refracts at a dielectric and moves the path on. True when the light went through. */
  private scatterGlass(s: Surface, front: boolean): boolean {
    const { media, sampler, scene } = this;
    const volume = scene.materials[s.material * MATERIAL.stride + MATERIAL.volume] > 0;
    const flip = front ? 1 : -1;
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
      const tilted = this.microNormal(nx, ny, nz, s.roughness * s.roughness, sampler.u, sampler.v);
      nx = tilted[0];
      ny = tilted[1];
      nz = tilted[2];
      sampler.next();
    }
    const cos = Math.min(1, -(nx * this.dx + ny * this.dy + nz * this.dz));
    const from = volume ? (front ? media.current() : s.material) : -1;
    const to = volume ? (front ? s.material : media.current(s.material)) : s.material;
    const eta = media.ior(to) / media.ior(from);
    let reflectance = fresnelDielectric(cos, eta);
    // A thin wall has two faces: light bounces between them (geometric series).
    if (!volume) reflectance = (2 * reflectance) / (1 + reflectance);
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
    const ratio = 1 / eta;
    const k = 1 - ratio * ratio * (1 - cos * cos);
    const bend = ratio * cos - Math.sqrt(Math.max(0, k));
    const x = this.dx * ratio + nx * bend;
    const y = this.dy * ratio + ny * bend;
    const z = this.dz * ratio + nz * bend;
    const l = 1 / Math.sqrt(x * x + y * y + z * z);
    this.dx = x * l;
    this.dy = y * l;
    this.dz = z * l;
    if (front) media.enter(s.material);
    else media.leave(s.material);
    return true;
  }

  private microNormal(nx: number, ny: number, nz: number, alpha: number, u: number, v: number): Float64Array {
    const sign = nz >= 0 ? 1 : -1;
    const a = -1 / (sign + nz);
    const b = nx * ny * a;
    const tx = 1 + sign * nx * nx * a;
    const ty = sign * b;
    const tz = -sign * nx;
    const by = sign + ny * ny * a;
    const h = this.h;
    sampleGgxNormal(
      -(this.dx * tx + this.dy * ty + this.dz * tz),
      -(this.dx * b + this.dy * by - this.dz * ny),
      -(this.dx * nx + this.dy * ny + this.dz * nz),
      alpha,
      u,
      v,
      h,
    );
    const x = tx * h[0] + b * h[1] + nx * h[2];
    const y = ty * h[0] + by * h[1] + ny * h[2];
    const z = tz * h[0] - ny * h[1] + nz * h[2];
    h[0] = x;
    h[1] = y;
    h[2] = z;
    return h;
  }

  /** Light sampled at an opaque surface: one panel, and the environment at the first bounce. */
  private sampleLights(s: Surface, flip: number, environment: boolean, bounces: number): void {
    const { lights, sampler } = this;
    if (lights.panels > 0) {
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

  private connect(s: Surface, flip: number, far: number, bounces: number): void {
    const { lights, bsdf } = this;
    if ((lights.dx * s.gx + lights.dy * s.gy + lights.dz * s.gz) * flip <= 0) return;
    bsdf.evaluate(lights.dx, lights.dy, lights.dz);
    if (bsdf.pdf <= 0) return;
    this.rays++;
    const blocked = this.hit.blocked(s.x, s.y, s.z, lights.dx, lights.dy, lights.dz, NEAR, far);
    if (blocked === 1) return;
    const through = this.through;
    through.fill(1);
    if (blocked === 2 && !this.passThrough(s, far)) return;
    // The bent path through glass is left out by follow(), so the straight one carries all of the light.
    const weight = (blocked === 2 ? 1 : lights.pdf / (lights.pdf + bsdf.pdf)) / lights.pdf;
    this.add(
      lights.r * bsdf.r * through[0] * weight,
      lights.g * bsdf.g * through[1] * weight,
      lights.b * bsdf.b * through[2] * weight,
      bounces,
    );
  }

  /** What see-through surfaces between a point and the light leave of it, into `through`. */
  private passThrough(from: Surface, far: number): boolean {
    const { lights, hit, shade, scene, through } = this;
    const { materials } = scene;
    let near = NEAR;
    let enteredAt = 0;
    for (let step = 0; step < 24; step++) {
      this.rays++;
      if (!hit.nearest(from.x, from.y, from.z, lights.dx, lights.dy, lights.dz, near, far)) return true;
      const t = hit.t;
      shade.at(hit.triangle, hit.u, hit.v);
      const m = shade.material * MATERIAL.stride;
      const mode = materials[m + MATERIAL.alphaMode];
      const open =
        mode === 1 ? (shade.alpha < materials[m + MATERIAL.alphaCutoff] ? 1 : 0) : mode === 2 ? 1 - shade.alpha : 0;
      const cos = shade.gx * lights.dx + shade.gy * lights.dy + shade.gz * lights.dz;
      const glass =
        shade.transmission * (1 - shade.metallic) * (1 - fresnelDielectric(cos, materials[m + MATERIAL.ior]));
      const sigma = m + MATERIAL.absorption;
      if (cos < 0) enteredAt = t;
      const length = cos >= 0 ? t - enteredAt : 0;
      for (let c = 0; c < 3; c++) {
        const colour = c === 0 ? shade.r : c === 1 ? shade.g : shade.b;
        through[c] *= (open + (1 - open) * glass * colour) * Math.exp(-materials[sigma + c] * length);
      }
      if (through[0] + through[1] + through[2] < 1e-4) return false;
      near = t + NEAR;
    }
    return false;
  }
}

/** Uniform 0..1 to a tent of radius 1: the pixel filter by importance sampling. */
function tent(u: number): number {
  return u < 0.5 ? Math.sqrt(2 * u) - 1 : 1 - Math.sqrt(2 - 2 * u);
}

function distance(ax: number, ay: number, az: number, bx: number, by: number, bz: number): number {
  return Math.sqrt((ax - bx) ** 2 + (ay - by) ** 2 + (az - bz) ** 2);
}
