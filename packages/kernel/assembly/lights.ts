import { at, LIGHT_STRIDE, Scene } from './scene';

/** Chooses, samples and evaluates lights, as core's trace/light-sampler.ts does. */
@unmanaged
export class Lights {
  scene: Scene;
  /** Direction of the last sample, distance to it, its radiance, and its density per solid angle (0: no light). */
  dx: f64;
  dy: f64;
  dz: f64;
  distance: f64;
  r: f64;
  g: f64;
  b: f64;
  pdf: f64;
  /** Distance and number of the panel last hit by panelHit(). */
  t: f64;
  panel: i32;
  hasEnvironment: bool;
  /** f64 a panel. */
  weights: usize;

  /** Estimated share of each panel's light at a point: radiance x area x facing cosine / distance squared. */
  weigh(x: f64, y: f64, z: f64): f64 {
    const l = this.scene.lights;
    const panels = this.scene.lightCount;
    let sum: f64 = 0;
    for (let i: i32 = 0; i < panels; i++) {
      const o = i * LIGHT_STRIDE;
      const dx = x - at(l, o);
      const dy = y - at(l, o + 1);
      const dz = z - at(l, o + 2);
      const d2 = dx * dx + dy * dy + dz * dz;
      const facing = dx * at(l, o + 9) + dy * at(l, o + 10) + dz * at(l, o + 11);
      const size = at(l, o + 15);
      const power = (0.2126 * at(l, o + 12) + 0.7152 * at(l, o + 13) + 0.0722 * at(l, o + 14)) * size;
      // Near a large panel its centre's cosine says little, so a share stays whenever the point may be in front.
      const cos = Math.max(0.0, facing / Math.sqrt(d2 + 1e-12));
      const reach = facing > -Math.sqrt(size) ? (0.15 + cos) / (d2 + size * 0.25) : 0.0;
      store<f64>(this.weights + (<usize>i << 3), power * reach);
      sum += load<f64>(this.weights + (<usize>i << 3));
    }
    return sum;
  }

  /** A point on one panel, chosen by estimated share. `choice`, `u`, `v` in [0, 1). pdf includes the choice. */
  samplePanel(x: f64, y: f64, z: f64, choice: f64, u: f64, v: f64): bool {
    const panels = this.scene.lightCount;
    const sum = this.weigh(x, y, z);
    this.pdf = 0;
    if (!(sum > 0)) return false;
    let rest = choice * sum;
    let i: i32 = 0;
    while (i < panels - 1 && rest >= load<f64>(this.weights + (<usize>i << 3))) {
      rest -= load<f64>(this.weights + (<usize>i << 3));
      i++;
    }
    const l = this.scene.lights;
    const o = i * LIGHT_STRIDE;
    const s = u * 2 - 1;
    const t = v * 2 - 1;
    const dx = at(l, o) + at(l, o + 3) * s + at(l, o + 6) * t - x;
    const dy = at(l, o + 1) + at(l, o + 4) * s + at(l, o + 7) * t - y;
    const dz = at(l, o + 2) + at(l, o + 5) * s + at(l, o + 8) * t - z;
    const d2 = dx * dx + dy * dy + dz * dz;
    const d = Math.sqrt(d2);
    const cos = -(dx * at(l, o + 9) + dy * at(l, o + 10) + dz * at(l, o + 11)) / d;
    if (!(cos > 1e-6) || load<f64>(this.weights + (<usize>i << 3)) <= 0) return false;
    this.dx = dx / d;
    this.dy = dy / d;
    this.dz = dz / d;
    this.distance = d;
    this.r = at(l, o + 12);
    this.g = at(l, o + 13);
    this.b = at(l, o + 14);
    this.pdf = ((load<f64>(this.weights + (<usize>i << 3)) / sum) * d2) / (cos * at(l, o + 15));
    return true;
  }

  /** Nearest panel, front side only, closer than `far`. With `seenOnly` panels hidden from the camera are passed. */
  panelHit(
    ox: f64,
    oy: f64,
    oz: f64,
    dx: f64,
    dy: f64,
    dz: f64,
    near: f64,
    far: f64,
    seenOnly: bool,
  ): bool {
    const l = this.scene.lights;
    const panels = this.scene.lightCount;
    this.panel = -1;
    this.t = far;
    for (let i: i32 = 0; i < panels; i++) {
      const o = i * LIGHT_STRIDE;
      if (seenOnly && at(l, o + 16) === 0) continue;
      const cos = dx * at(l, o + 9) + dy * at(l, o + 10) + dz * at(l, o + 11);
      if (cos >= 0) continue;
      const cx = at(l, o) - ox;
      const cy = at(l, o + 1) - oy;
      const cz = at(l, o + 2) - oz;
      const t = (cx * at(l, o + 9) + cy * at(l, o + 10) + cz * at(l, o + 11)) / cos;
      if (t <= near || t >= this.t) continue;
      const px = dx * t - cx;
      const py = dy * t - cy;
      const pz = dz * t - cz;
      const u = px * at(l, o + 3) + py * at(l, o + 4) + pz * at(l, o + 5);
      const v = px * at(l, o + 6) + py * at(l, o + 7) + pz * at(l, o + 8);
      const uu = at(l, o + 3) * at(l, o + 3) + at(l, o + 4) * at(l, o + 4) + at(l, o + 5) * at(l, o + 5);
      const vv = at(l, o + 6) * at(l, o + 6) + at(l, o + 7) * at(l, o + 7) + at(l, o + 8) * at(l, o + 8);
      if (Math.abs(u) > uu || Math.abs(v) > vv) continue;
      this.t = t;
      this.panel = i;
      this.r = at(l, o + 12);
      this.g = at(l, o + 13);
      this.b = at(l, o + 14);
    }
    return this.panel >= 0;
  }

  /** Density with which samplePanel() from (x, y, z) would have given the direction that hit `panel` at distance `t`. */
  panelPdf(x: f64, y: f64, z: f64, panel: i32, dx: f64, dy: f64, dz: f64, t: f64): f64 {
    const sum = this.weigh(x, y, z);
    const o = panel * LIGHT_STRIDE;
    const l = this.scene.lights;
    const cos = -(dx * at(l, o + 9) + dy * at(l, o + 10) + dz * at(l, o + 11));
    return sum > 0 && cos > 1e-6 ? ((load<f64>(this.weights + (<usize>panel << 3)) / sum) * t * t) / (cos * at(l, o + 15)) : 0;
  }

  /** Radiance of the environment in a direction, into r, g, b; its sampling density into pdf. */
  environmentAt(dx: f64, dy: f64, dz: f64): void {
    const scene = this.scene;
    const w = scene.environmentWidth;
    const h = scene.environmentHeight;
    const x = dx * scene.environmentCos + dz * scene.environmentSin;
    const z = dz * scene.environmentCos - dx * scene.environmentSin;
    const u = Math.atan2(x, -z) / (2.0 * Math.PI) + 0.5;
    const theta = Math.acos(Math.min(1.0, Math.max(-1.0, dy)));
    const column = min(w - 1, <i32>(u * <f64>w));
    const row = min(h - 1, <i32>((theta / Math.PI) * <f64>h));
    this.take(row, column);
    this.pdf = this.cellPdf(row, column, Math.sin(theta));
  }

  take(row: i32, column: i32): void {
    const p = (row * this.scene.environmentWidth + column) * 3;
    this.r = at(this.scene.environment, p);
    this.g = at(this.scene.environment, p + 1);
    this.b = at(this.scene.environment, p + 2);
  }

  cellPdf(row: i32, column: i32, sinTheta: f64): f64 {
    const cdf = this.scene.environmentCdf;
    const w = this.scene.environmentWidth;
    const h = this.scene.environmentHeight;
    const o = h + 1 + row * (w + 1) + column;
    const p = (at(cdf, row + 1) - at(cdf, row)) * (at(cdf, o + 1) - at(cdf, o));
    return sinTheta > 1e-6 ? (p * <f64>w * <f64>h) / (2.0 * Math.PI * Math.PI * sinTheta) : 0.0;
  }

  /** A direction towards the environment, by luminance. */
  sampleEnvironment(u: f64, v: f64): bool {
    const scene = this.scene;
    const cdf = scene.environmentCdf;
    const w = scene.environmentWidth;
    const h = scene.environmentHeight;
    const row = search(cdf, 0, h, v);
    const base = h + 1 + row * (w + 1);
    const column = search(cdf, base, w, u);
    const fv = (v - at(cdf, row)) / Math.max(1e-12, at(cdf, row + 1) - at(cdf, row));
    const fu = (u - at(cdf, base + column)) / Math.max(1e-12, at(cdf, base + column + 1) - at(cdf, base + column));
    const theta = ((<f64>row + Math.min(0.999999, fv)) / <f64>h) * Math.PI;
    const azimuth = ((<f64>column + Math.min(0.999999, fu)) / <f64>w - 0.5) * 2.0 * Math.PI;
    const s = Math.sin(theta);
    const x = Math.sin(azimuth) * s;
    const z = -Math.cos(azimuth) * s;
    this.dx = x * scene.environmentCos - z * scene.environmentSin;
    this.dy = Math.cos(theta);
    this.dz = z * scene.environmentCos + x * scene.environmentSin;
    this.distance = Infinity;
    this.take(row, column);
    this.pdf = this.cellPdf(row, column, s);
    return this.pdf > 0;
  }
}

/** The cell of a cumulative table starting at `base` with `count` cells that holds `x`. */
function search(cdf: usize, base: i32, count: i32, x: f64): i32 {
  let lo = 0;
  let hi = count - 1;
  while (lo < hi) {
    const mid = (lo + hi + 1) >> 1;
    if (at(cdf, base + mid) <= x) lo = mid;
    else hi = mid - 1;
  }
  return lo;
}
