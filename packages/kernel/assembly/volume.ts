import { at, Scene, word } from './scene';
import { hash } from './sampler';
import { cosTurn, sinTurn } from './maths';

/**
 * Smoke and haze: boxes of density. Entry, 32 words: | 0..11 world to the unit cube, rows | 12 extinction per metre at
 * density 1 | 13..15 share scattered, linear Rec.709 | 16 anisotropy of the phase function (Henyey and Greenstein 1941) |
 * 17..19 cells of the grid (i32), 0: density 1 everywhere | 20 address of the grid | 21 address of the coarse grid of the most
 * and the least | 22..24 its cells (i32) | 25 address of the cells' own colours, 0: none. Four bytes each, square roots of
 * linear red, green and blue | 26 address of the grid of ways that density goes while the shutter is open, 0: none; three
 * floats a cell and an unused one, in unit cubes | 27..29 its cells (i32) |
 */
const STRIDE: i32 = 32;
const EXTINCTION: i32 = 12;
const COLOUR: i32 = 13;
const PHASE: i32 = 16;
const COLOURS: i32 = 25;
const WAYS: i32 = 26;
/** Steps of a look through a volume's box; every other sample looks between those of the one before. */
const LOOKS: i32 = 16;
/** Optical depth that lets nothing through, and the share of light below which paths are let go of by chance. */
const OPAQUE: f64 = 10;
const FAINT: f64 = 0.1;


@unmanaged
export class Volumes {
  scene: Scene;
  /** When in the shutter it is asked for, 0..1. */
  time: f64;
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
  /** Where in its steps a look looks. */
  within: f64;
  /** The ray in the volume at hand. */
  ox: f64;
  oy: f64;
  oz: f64;
  sx: f64;
  sy: f64;
  sz: f64;
  enter: f64;
  leave: f64;

  start(seed: u32, x: i32, y: i32, sample: i32, time: f64): void {
    this.time = time;
    this.within = (sample & 1) != 0 ? 0.75 : 0.25;
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
    this.phase = at(p, PHASE);
    if (word(p, COLOURS) != 0) this.clip(p, ox, oy, oz, dx, dy, dz, far);
    this.colourAt(p, this.ox + this.sx * this.t, this.oy + this.sy * this.t, this.oz + this.sz * this.t);
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
  /** The same share in the smoke's colours. */
  veilR: f64;
  veilG: f64;
  veilB: f64;

  /** Works out both by even steps, without chance, so that what denoising is guided by has no noise of its own. */
  look(ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64, far: f64): void {
    const scene = this.scene;
    const time = this.time;
    this.time = 0.5;
    let through: f64 = 1;
    let depth: f64 = 0;
    let red: f64 = 0;
    let green: f64 = 0;
    let blue: f64 = 0;
    for (let i = 0; i < scene.volumeCount && through > 1e-3; i++) {
      const p = scene.volumes + ((<usize>(i * STRIDE)) << 2);
      if (!this.clip(p, ox, oy, oz, dx, dy, dz, far)) continue;
      const step = (this.leave - this.enter) / <f64>LOOKS;
      const sigma = at(p, EXTINCTION) * step;
      for (let n = 0; n < LOOKS; n++) {
        const t = this.enter + (<f64>n + this.within) * step;
        const density = word(p, 17) == 0 ? 1.0 : this.lookedAt(p, t);
        if (density <= 0) continue;
        const left = through * Math.exp(-sigma * density);
        depth += (through - left) * t;
        this.colourHere(p, this.ox + this.sx * t, this.oy + this.sy * t, this.oz + this.sz * t);
        red += (through - left) * this.r;
        green += (through - left) * this.g;
        blue += (through - left) * this.b;
        through = left;
      }
    }
    this.time = time;
    this.veil = 1.0 - through;
    this.veilR = red;
    this.veilG = green;
    this.veilB = blue;
    this.veilDepth = this.veil > 0 ? depth / this.veil : 0;
  }

  /** Density in the middle of the shutter's time at a distance; where there is none nothing is looked up. */
  lookedAt(p: usize, t: f64): f64 {
    const x = this.ox + this.sx * t;
    const y = this.oy + this.sy * t;
    const z = this.oz + this.sz * t;
    const nx = word(p, 22);
    const ny = word(p, 23);
    const cell = (cellAt(z, word(p, 24)) * ny + cellAt(y, ny)) * nx + cellAt(x, nx);
    if (at(<usize>word(p, 21), cell << 1) <= 0) return 0;
    this.trace(p, x, y, z);
    return this.density(p, x - this.wayX, y - this.wayY, z - this.wayZ);
  }

  /**
   * Walks the coarse cells between enter and leave: distance of a collision (or Infinity), or what comes through. What is there at least
   * is dealt with by itself (decomposition tracking, Kutz et al. 2017; residual ratio tracking, Novak et al. 2014): only what
   * there may be besides is looked up.
   */
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
    const bounds = <usize>word(p, 21);
    let share: f64 = 1;
    let depth: f64 = 0;
    let t = this.enter;
    let x = cellAt(this.ox + this.sx * t, nx);
    let y = cellAt(this.oy + this.sy * t, ny);
    let z = cellAt(this.oz + this.sz * t, nz);
    // Where the ray leaves the cell along each axis, and how much further it goes to leave the next.
    let ex = edge(x, nx, this.ox, this.sx);
    let ey = edge(y, ny, this.oy, this.sy);
    let ez = edge(z, nz, this.oz, this.sz);
    const wx = across(nx, this.sx);
    const wy = across(ny, this.sy);
    const wz = across(nz, this.sz);
    for (;;) {
      const end = Math.min(this.leave, Math.min(ex, Math.min(ey, ez)));
      const cell = ((z * ny + y) * nx + x) << 1;
      const most = sigma * at(bounds, cell);
      if (most > 0) {
        const least = sigma * at(bounds, cell + 1);
        const extra = most - least;
        let last = end;
        if (ratio) {
          depth += least * (end - t);
          if (depth > OPAQUE) return 0;
        } else if (least > 0) last = Math.min(end, t - Math.log(1.0 - this.random()) / least);
        if (extra > 0) {
          let ox: f64 = 0;
          let oy: f64 = 0;
          let oz: f64 = 0;
          let asked = false;
          let at0 = t;
          for (;;) {
            at0 -= Math.log(1.0 - this.random()) / extra;
            if (at0 >= last) break;
            if (!asked) {
              // Where gas goes differs little within a cell.
              this.trace(p, this.ox + this.sx * at0, this.oy + this.sy * at0, this.oz + this.sz * at0);
              ox = this.ox - this.wayX;
              oy = this.oy - this.wayY;
              oz = this.oz - this.wayZ;
              asked = true;
            }
            const here = this.density(p, ox + this.sx * at0, oy + this.sy * at0, oz + this.sz * at0);
            const real = (sigma * here - least) / extra;
            if (ratio) {
              share *= 1.0 - Math.min(1.0, Math.max(0.0, real));
              // What is faint goes on as often as it is worth.
              if (share < FAINT) {
                if (this.random() * FAINT >= share) return 0;
                share = FAINT;
              }
            } else if (this.random() < real) return at0;
          }
        }
        if (last < end) return last;
      }
      if (end >= this.leave) break;
      t = end;
      if (ex <= ey && ex <= ez) {
        x += this.sx > 0 ? 1 : -1;
        ex += wx;
        if (<u32>x >= <u32>nx) break;
      } else if (ey <= ez) {
        y += this.sy > 0 ? 1 : -1;
        ey += wy;
        if (<u32>y >= <u32>ny) break;
      } else {
        z += this.sz > 0 ? 1 : -1;
        ez += wz;
        if (<u32>z >= <u32>nz) break;
      }
    }
    return ratio ? share * Math.exp(-depth) : Infinity;
  }

  /** By how much what is at a point of the unit cube now has gone since the shutter opened. */
  wayX: f64;
  wayY: f64;
  wayZ: f64;
  trace(p: usize, x: f64, y: f64, z: f64): void {
    this.wayX = 0;
    this.wayY = 0;
    this.wayZ = 0;
    if (word(p, WAYS) == 0 || this.time == 0) return;
    const nx = word(p, 27);
    const ny = word(p, 28);
    const nz = word(p, 29);
    const fx: f32 = <f32>Math.min(<f64>nx - 1.0, Math.max(0.0, x * <f64>nx - 0.5));
    const fy: f32 = <f32>Math.min(<f64>ny - 1.0, Math.max(0.0, y * <f64>ny - 0.5));
    const fz: f32 = <f32>Math.min(<f64>nz - 1.0, Math.max(0.0, z * <f64>nz - 0.5));
    const i = min(max(0, nx - 2), <i32>fx);
    const j = min(max(0, ny - 2), <i32>fy);
    const k = min(max(0, nz - 2), <i32>fz);
    const dx: usize = nx > 1 ? 16 : 0;
    const dy: usize = ny > 1 ? (<usize>nx) << 4 : 0;
    const dz: usize = nz > 1 ? (<usize>(nx * ny)) << 4 : 0;
    const o = <usize>word(p, WAYS) + ((<usize>((k * ny + j) * nx + i)) << 4);
    const u = f32x4.splat(fx - <f32>i);
    const v = f32x4.splat(fy - <f32>j);
    const near = between(edgeOf(o, dx, u), edgeOf(o + dy, dx, u), v);
    const far = between(edgeOf(o + dz, dx, u), edgeOf(o + dz + dy, dx, u), v);
    const way = between(near, far, f32x4.splat(fz - <f32>k));
    this.wayX = this.time * <f64>f32x4.extract_lane(way, 0);
    this.wayY = this.time * <f64>f32x4.extract_lane(way, 1);
    this.wayZ = this.time * <f64>f32x4.extract_lane(way, 2);
  }

  /** The colour that a volume scatters at a point of the unit cube: that of the cell there, where cells have their own. */
  colourAt(p: usize, x: f64, y: f64, z: f64): void {
    if (word(p, COLOURS) != 0) this.trace(p, x, y, z);
    this.colourHere(p, x, y, z);
  }

  /** The same where the way of what is there was looked up already. */
  colourHere(p: usize, x: f64, y: f64, z: f64): void {
    this.r = at(p, COLOUR);
    this.g = at(p, COLOUR + 1);
    this.b = at(p, COLOUR + 2);
    if (word(p, COLOURS) == 0) return;
    const nx = word(p, 17);
    const ny = word(p, 18);
    const cell = (cellAt(z - this.wayZ, word(p, 19)) * ny + cellAt(y - this.wayY, ny)) * nx + cellAt(x - this.wayX, nx);
    const bytes = <u32>word(<usize>word(p, COLOURS), cell);
    const r = <f64>(bytes & 255) / 255.0;
    const g = <f64>((bytes >> 8) & 255) / 255.0;
    const b = <f64>((bytes >> 16) & 255) / 255.0;
    this.r *= r * r;
    this.g *= g * g;
    this.b *= b * b;
  }

  /** Density at a point of the unit cube, filtered between cell centres. */
  density(p: usize, x: f64, y: f64, z: f64): f64 {
    const nx = word(p, 17);
    const ny = word(p, 18);
    const nz = word(p, 19);
    const grid = <usize>word(p, 20);
    const fx: f32 = <f32>Math.min(<f64>nx - 1.0, Math.max(0.0, x * <f64>nx - 0.5));
    const fy: f32 = <f32>Math.min(<f64>ny - 1.0, Math.max(0.0, y * <f64>ny - 0.5));
    const fz: f32 = <f32>Math.min(<f64>nz - 1.0, Math.max(0.0, z * <f64>nz - 0.5));
    const i = min(max(0, nx - 2), <i32>fx);
    const j = min(max(0, ny - 2), <i32>fy);
    const k = min(max(0, nz - 2), <i32>fz);
    const dy: usize = ny > 1 ? (<usize>nx) << 2 : 0;
    const dz: usize = nz > 1 ? (<usize>(nx * ny)) << 2 : 0;
    const o = grid + ((<usize>((k * ny + j) * nx + i)) << 2);
    const near = pairs(o, dy);
    const four = between(near, pairs(o + dz, dy), f32x4.splat(fz - <f32>k));
    const two = between(four, v128.shuffle<f32>(four, four, 2, 3, 2, 3), f32x4.splat(fy - <f32>j));
    const low = f32x4.extract_lane(two, 0);
    const beside = fx - <f32>i;
    // One cell across has nothing beside it.
    return beside > 0 ? <f64>(low + (f32x4.extract_lane(two, 1) - low) * beside) : <f64>low;
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

// @ts-ignore: decorator
@inline
function between(a: v128, b: v128, t: v128): v128 {
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), t));
}

/** Between the vectors at either end of an edge. */
// @ts-ignore: decorator
@inline
function edgeOf(o: usize, dx: usize, u: v128): v128 {
  return between(v128.load(o), v128.load(o + dx), u);
}

/** Two floats, and the two a row further. */
// @ts-ignore: decorator
@inline
function pairs(o: usize, dy: usize): v128 {
  return v128.load64_lane(o + dy, v128.load64_zero(o), 1);
}

function cellAt(x: f64, count: i32): i32 {
  return max(0, min(count - 1, <i32>Math.floor(x * <f64>count)));
}

/** Where a ray leaves cell `i` of `count` along one axis. */
function edge(i: i32, count: i32, o: f64, s: f64): f64 {
  if (Math.abs(s) < 1e-12) return Infinity;
  return (<f64>(s > 0 ? i + 1 : i) / <f64>count - o) / s;
}

/** How far a ray goes from one side of a cell to the other along one axis. */
function across(count: i32, s: f64): f64 {
  return Math.abs(s) < 1e-12 ? 0 : 1.0 / (<f64>count * Math.abs(s));
}
