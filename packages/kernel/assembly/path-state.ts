import { Bsdf } from './bsdf';
import { Camera } from './camera';
import { Glass } from './glass';
import { Hit } from './hit';
import { Lights, Receiver } from './lights';
import { luminance } from './maths';
import { Media } from './media';
import { BY_DIFFUSE, BY_GLOSS, Pixel } from './pixel';
import { Sampler } from './sampler';
import {
  at,
  I_BEFORE,
  I_OPEN,
  instance,
  M_ABSORPTION,
  M_ALPHA_CUTOFF,
  M_ALPHA_MODE,
  M_FINISH,
  M_MIRROR_REACH,
  material,
  RAY_LIGHTING,
  RAY_REFLECTION,
  Scene,
  I_MESH,
  Mesh,
  word,
} from './scene';
import { Odds } from './odds';
import { Surface } from './surface';
import { IN_LIST } from './triangles';
import { Volumes } from './volume';

/** Rays start this far off, metres. */
export const NEAR: f64 = 1e-5;
/** Width of the ray after a matt bounce grows this much a metre: textures are looked up coarsely from there. */
export const MATT_SPREAD: f64 = 0.15;

/** Where a path is, what it carries, and what it is traced with; path.ts follows it. */
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
  odds: Odds;
  /** Room for adapt.ts. */
  fit: usize;
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
  /** What a surface makes of the light sample at hand: see path-lights.ts. */
  mattR: f64;
  mattG: f64;
  mattB: f64;
  glossR: f64;
  glossG: f64;
  glossB: f64;
  density: f64;
  /** Room for one of them, with that sample. */
  kept: usize;
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
  /** Nothing but glass has been passed so far, and the way through it. */
  clear: bool;
  travelled: f64;
  /** Width of the ray and how much it grows a metre. */
  coneWidth: f64;
  coneSpread: f64;

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

  /** Alpha mask and blend: true when this sample passes the surface by. */
  seeThrough(s: Surface, choice: f64): bool {
    const mode = material(this.scene, s.material, M_ALPHA_MODE);
    if (mode == 0) return false;
    return mode == 1 ? s.alpha < material(this.scene, s.material, M_ALPHA_CUTOFF) : choice >= s.alpha;
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

  /** Light that this path brings to the camera. Only indirect light is clamped, and only when asked for. */
  add(r0: f64, g0: f64, b0: f64, light: i32, lobe: i32): void {
    let r = r0 * this.tr;
    let g = g0 * this.tg;
    let b = b0 * this.tb;
    const clamp = <f64>this.scene.clamp;
    if (this.bounces > 0 && this.scatters > 1 && clamp > 0) {
      const l = luminance(r, g, b) * <f64>this.scene.exposureScale;
      if (l > clamp) {
        r *= clamp / l;
        g *= clamp / l;
        b *= clamp / l;
      }
    }
    this.pixel.add(r, g, b, light, lobe, this.scatters <= 1);
  }

  /** The path comes to something opaque, after `length` more, or leaves the set (0): glass has let this much through. */
  recordClear(length: f64): void {
    this.clear = false;
    const pixel = this.pixel;
    if (!pixel.detail) return;
    pixel.opaqueDepth = length > 0 ? this.travelled + length : 0.0;
    pixel.clearR = this.tr;
    pixel.clearG = this.tg;
    pixel.clearB = this.tb;
  }

  /** What the first surface is: albedo, normal, depth, cover, and whose it is. */
  describeFirst(s: Surface, isGlass: bool, front: bool, t: f64, caught: bool): void {
    const pixel = this.pixel;
    if (caught) pixel.caught = 1;
    else pixel.alpha = 1;
    this.describeLook(s, isGlass, front, t);
    if (!pixel.detail) return;
    pixel.thing = s.thing;
    pixel.finish = <i32>material(this.scene, s.material, M_FINISH);
  }

  /** What guides denoising of it. */
  describeLook(s: Surface, isGlass: bool, front: bool, t: f64): void {
    const pixel = this.pixel;
    const flip: f64 = front ? 1.0 : -1.0;
    pixel.depth = t;
    pixel.ar = isGlass ? 1.0 : s.r;
    pixel.ag = isGlass ? 1.0 : s.g;
    pixel.ab = isGlass ? 1.0 : s.b;
    pixel.nx = s.nx * flip;
    pixel.ny = s.ny * flip;
    pixel.nz = s.nz * flip;
  }

  /** The same of a path's first surface, and where it was a frame before. */
  recordFirst(s: Surface, number: i32, isGlass: bool, front: bool, t: f64, caught: bool): void {
    this.describeFirst(s, isGlass, front, t, caught);
    const pixel = this.pixel;
    if (!pixel.detail) return;
    const it = instance(this.scene, number);
    const mesh = changetype<Mesh>(<usize>word(it, I_MESH));
    const deforms = mesh.closeTriangles != 0 || mesh.before != 0;
    // Where the point is when the shutter opens, and one frame before; of a thing that keeps its shape both are one.
    const now = deforms ? mesh.triangles + <usize>s.triangle * 36 : s.corner;
    const step = deforms ? IN_LIST : s.step;
    const before = mesh.before != 0 ? mesh.before + <usize>s.triangle * 36 : now;
    if (!this.project(it, I_OPEN, now, step, s.u, s.v)) return;
    const nowX = this.camera.px;
    const nowY = this.camera.py;
    if (!this.project(it, I_BEFORE, before, mesh.before != 0 ? IN_LIST : step, s.u, s.v)) return;
    pixel.motionX = nowX - this.camera.px;
    pixel.motionY = nowY - this.camera.py;
  }

  /** A point of a triangle in the picture, now (I_OPEN) or in the frame before (I_BEFORE); see Surface.edge(). */
  project(it: usize, m: i32, corner: usize, step: usize, u: f64, v: f64): bool {
    const x = <f64>load<f32>(corner) + edge(corner, 3, step) * u + edge(corner, 6, step) * v;
    const y = edge(corner, 1, step) + edge(corner, 4, step) * u + edge(corner, 7, step) * v;
    const z = edge(corner, 2, step) + edge(corner, 5, step) * u + edge(corner, 8, step) * v;
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
}

// @ts-ignore: decorator
@inline
function edge(corner: usize, k: usize, step: usize): f64 {
  return <f64>load<f32>(corner + (k << step));
}
