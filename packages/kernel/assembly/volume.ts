import { at, Scene, word } from './scene';
import { hash } from './sampler';
import { cosTurn, sinTurn } from './maths';

/**
 * Smoke and haze: boxes of density. Entry, 32 words: | 0..11 world to the unit cube, rows | 12 extinction per metre at
 * density 1 | 13..15 share scattered, linear Rec.709 | 16 anisotropy of the phase function (Henyey and Greenstein 1941) |
 * 17..19 cells of the grid (i32), 0: density 1 everywhere | 20 address of the grid | 21 address of the coarse grid of
 * maxima | 22..24 its cells (i32) |
 */
const STRIDE: i32 = 32;
const EXTINCTION: i32 = 12;
const COLOUR: i32 = 13;
const PHASE: i32 = 16;
/** Steps of a look through a volume's box. */
const LOOKS: i32 = 20;


@unmanaged
export class Volumes {
  scene: Scene;
  /** Where the last collision was: distance, volume. */
  t: f64;
  volume: i32;
  r: f64;
  g: f64;
  b: f64;
  phase: f64;
  /** Of the last sampled direction. */
  dx: f64;
  dy: f64;
  dz: f64;
  state: u32;
  /** The ray in the volume at hand. */
  ox: f64;
  oy: f64;
  oz: f64;
  sx: f64;
  sy: f64;
  sz: f64;
  enter: f64;
  leave: f64;

  start(seed: u32, x: i32, y: i32, sample: i32): void {
    this.state = hash(hash(seed ^ (<u32>(x * 7919))) ^ hash(<u32>(y * 104729 + sample * 15485863)));
  }

  /** Numbers for tracking come from a generator: how many it takes is not known beforehand. */
  random(): f64 {
    this.state = this.state * 747796405 + 2891336453;
    return <f64>hash(this.state) / 4294967296.0;
  }

  /** The part of a ray inside a volume's box; false when it passes by. */
  clip(p: usize, ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64, far: f64): bool {
    this.ox = at(p, 0) * ox + at(p, 1) * oy + at(p, 2) * oz + at(p, 3);
    this.oy = at(p, 4) * ox + at(p, 5) * oy + at(p, 6) * oz + at(p, 7);
    this.oz = at(p, 8) * ox + at(p, 9) * oy + at(p, 10) * oz + at(p, 11);
    this.sx = at(p, 0) * dx + at(p, 1) * dy + at(p, 2) * dz;
    this.sy = at(p, 4) * dx + at(p, 5) * dy + at(p, 6) * dz;
    this.sz = at(p, 8) * dx + at(p, 9) * dy + at(p, 10) * dz;
    this.enter = 0;
    this.leave = far;
    this.slab(this.ox, this.sx);
    this.slab(this.oy, this.sy);
    this.slab(this.oz, this.sz);
    return this.enter < this.leave;
  }

  slab(o: f64, s: f64): void {
    if (Math.abs(s) < 1e-12) {
      if (o < 0 || o > 1) this.leave = -1;
      return;
    }
    const a = -o / s;
    const b = (1.0 - o) / s;
    this.enter = Math.max(this.enter, Math.min(a, b));
    this.leave = Math.min(this.leave, Math.max(a, b));
  }

  /** First real collision nearer than `far`, by delta tracking through the cells of maxima (Woodcock 1965). */
  collide(ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64, far: f64): bool {
    const scene = this.scene;
    this.t = far;
    this.volume = -1;
    for (let i = 0; i < scene.volumeCount; i++) {
      const p = scene.volumes + ((<usize>(i * STRIDE)) << 2);
      if (!this.clip(p, ox, oy, oz, dx, dy, dz, this.t)) continue;
      const t = this.track(p, false);
      // Smoke in smoke: each is tracked by itself, and the nearest collision is that of both together.
      if (t < this.t) {
        this.t = t;
        this.volume = i;
      }
    }
    if (this.volume < 0) return false;
    const p = scene.volumes + ((<usize>(this.volume * STRIDE)) << 2);
    this.r = at(p, COLOUR);
    this.g = at(p, COLOUR + 1);
    this.b = at(p, COLOUR + 2);
    this.phase = at(p, PHASE);
    return true;
  }

  /** Share of light that comes through everything up to `far`, by ratio tracking (Novak et al. 2014). */
  transmittance(ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64, far: f64): f64 {
    const scene = this.scene;
    let share: f64 = 1;
    for (let i = 0; i < scene.volumeCount && share > 0; i++) {
      const p = scene.volumes + ((<usize>(i * STRIDE)) << 2);
      if (this.clip(p, ox, oy, oz, dx, dy, dz, far)) share *= this.track(p, true);
    }
    return share;
  }

  /** Share of light that smoke takes from a ray before `far`, and the mean distance at which it does: the same for every sample. */
  veil: f64;
  veilDepth: f64;

  /** Works out both by fixed steps, without chance, so that what denoising is guided by has no noise of its own. */
  look(ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64, far: f64): void {
    const scene = this.scene;
    let through: f64 = 1;
    let depth: f64 = 0;
    for (let i = 0; i < scene.volumeCount && through > 1e-3; i++) {
      const p = scene.volumes + ((<usize>(i * STRIDE)) << 2);
      if (!this.clip(p, ox, oy, oz, dx, dy, dz, far)) continue;
      const step = (this.leave - this.enter) / <f64>LOOKS;
      const sigma = at(p, EXTINCTION) * step;
      for (let n = 0; n < LOOKS; n++) {
        const t = this.enter + (<f64>n + 0.5) * step;
        const density =
          word(p, 17) == 0 ? 1.0 : this.density(p, this.ox + this.sx * t, this.oy + this.sy * t, this.oz + this.sz * t);
        if (density <= 0) continue;
        const left = through * Math.exp(-sigma * density);
        depth += (through - left) * t;
        through = left;
      }
    }
    this.veil = 1.0 - through;
    this.veilDepth = this.veil > 0 ? depth / this.veil : 0;
  }

  /** Walks the cells of maxima between enter and leave: distance of a collision (or Infinity), or what comes through. */
  track(p: usize, ratio: bool): f64 {
    const sigma = at(p, EXTINCTION);
    if (word(p, 17) == 0) {
      const length = this.leave - this.enter;
      if (ratio) return Math.exp(-sigma * length);
      const t = this.enter - Math.log(1.0 - this.random()) / Math.max(1e-30, sigma);
      return t < this.leave ? t : Infinity;
    }
    const nx = word(p, 22);
    const ny = word(p, 23);
    const nz = word(p, 24);
    const maxima = <usize>word(p, 21);
    let share: f64 = 1;
    let t = this.enter;
    let x = cellAt(this.ox + this.sx * t, nx);
    let y = cellAt(this.oy + this.sy * t, ny);
    let z = cellAt(this.oz + this.sz * t, nz);
    for (;;) {
      const ex = edge(x, nx, this.ox, this.sx);
      const ey = edge(y, ny, this.oy, this.sy);
      const ez = edge(z, nz, this.oz, this.sz);
      const end = Math.min(this.leave, Math.min(ex, Math.min(ey, ez)));
      const most = sigma * at(maxima, (z * ny + y) * nx + x);
      if (most > 0) {
        let at0 = t;
        for (;;) {
          at0 -= Math.log(1.0 - this.random()) / most;
          if (at0 >= end) break;
          const real =
            (sigma * this.density(p, this.ox + this.sx * at0, this.oy + this.sy * at0, this.oz + this.sz * at0)) / most;
          if (ratio) {
            share *= 1.0 - Math.min(1.0, real);
            if (share < 1e-4) return 0;
          } else if (this.random() < real) return at0;
        }
      }
      if (end >= this.leave) break;
      t = end;
      if (ex <= ey && ex <= ez) x += this.sx > 0 ? 1 : -1;
      else if (ey <= ez) y += this.sy > 0 ? 1 : -1;
      else z += this.sz > 0 ? 1 : -1;
      if (x < 0 || y < 0 || z < 0 || x >= nx || y >= ny || z >= nz) break;
    }
    return ratio ? share : Infinity;
  }

  /** Density at a point of the unit cube, filtered between cell centres. */
  density(p: usize, x: f64, y: f64, z: f64): f64 {
    const nx = word(p, 17);
    const ny = word(p, 18);
    const nz = word(p, 19);
    const grid = <usize>word(p, 20);
    const gx = Math.min(<f64>nx - 1.0, Math.max(0.0, x * <f64>nx - 0.5));
    const gy = Math.min(<f64>ny - 1.0, Math.max(0.0, y * <f64>ny - 0.5));
    const gz = Math.min(<f64>nz - 1.0, Math.max(0.0, z * <f64>nz - 0.5));
    const i = min(max(0, nx - 2), <i32>gx);
    const j = min(max(0, ny - 2), <i32>gy);
    const k = min(max(0, nz - 2), <i32>gz);
    const fx = gx - <f64>i;
    const fy = gy - <f64>j;
    const fz = gz - <f64>k;
    const dx = nx > 1 ? 1 : 0;
    const dy = ny > 1 ? nx : 0;
    const dz = nz > 1 ? nx * ny : 0;
    const o = (k * ny + j) * nx + i;
    const low =
      (at(grid, o) * (1 - fx) + at(grid, o + dx) * fx) * (1 - fy) +
      (at(grid, o + dy) * (1 - fx) + at(grid, o + dy + dx) * fx) * fy;
    const q = o + dz;
    const high =
      (at(grid, q) * (1 - fx) + at(grid, q + dx) * fx) * (1 - fy) +
      (at(grid, q + dy) * (1 - fx) + at(grid, q + dy + dx) * fx) * fy;
    return low * (1 - fz) + high * fz;
  }

  /** The phase function for light from a direction at cosine `cos` to the way on: it is its own density. */
  phaseValue(cos: f64): f64 {
    const g = this.phase;
    const d = 1.0 + g * g - 2.0 * g * cos;
    return (1.0 - g * g) / (4.0 * Math.PI * d * Math.sqrt(d));
  }

  /** Draws a direction round (dx, dy, dz), the way the path came. @returns its density. */
  scatter(dx: f64, dy: f64, dz: f64, u: f64, v: f64): f64 {
    const g = this.phase;
    let cos = 1.0 - 2.0 * u;
    if (Math.abs(g) > 1e-3) {
      const s = (1.0 - g * g) / (1.0 + g - 2.0 * g * u);
      cos = (1.0 + g * g - s * s) / (2.0 * g);
    }
    const sin = Math.sqrt(Math.max(0.0, 1.0 - cos * cos));
    const sign: f64 = dz >= 0 ? 1.0 : -1.0;
    const a = -1.0 / (sign + dz);
    const b = dx * dy * a;
    const x = sin * cosTurn(v);
    const y = sin * sinTurn(v);
    this.dx = (1.0 + sign * dx * dx * a) * x + b * y + dx * cos;
    this.dy = sign * b * x + (sign + dy * dy * a) * y + dy * cos;
    this.dz = -sign * dx * x - dy * y + dz * cos;
    return this.phaseValue(cos);
  }
}

function cellAt(x: f64, count: i32): i32 {
  return max(0, min(count - 1, <i32>Math.floor(x * <f64>count)));
}

/** Where a ray leaves cell `i` of `count` along one axis. */
function edge(i: i32, count: i32, o: f64, s: f64): f64 {
  if (Math.abs(s) < 1e-12) return Infinity;
  return (<f64>(s > 0 ? i + 1 : i) / <f64>count - o) / s;
}
