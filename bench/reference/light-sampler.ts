import { LIGHT, type PackedScene } from './layout.ts';

/** Chooses, samples and evaluates the lights of a packed scene. Results stay in the fields until the next call. */
export class LightSampler {
  /** Direction of the last sample, distance to it, its radiance, and its density per solid angle (0: no light). */
  dx = 0;
  dy = 0;
  dz = 0;
  distance = 0;
  r = 0;
  g = 0;
  b = 0;
  pdf = 0;
  /** Panel last hit by panelHit() and its distance. */
  panel = -1;
  t = Infinity;

  readonly panels: number;
  readonly hasEnvironment: boolean;
  private readonly lights: Float32Array;
  private readonly weights: Float64Array;
  private readonly scene: PackedScene;
  private readonly cos: number;
  private readonly sin: number;

  constructor(scene: PackedScene) {
    this.scene = scene;
    this.lights = scene.lights;
    this.panels = scene.lights.length / LIGHT.stride;
    this.weights = new Float64Array(this.panels);
    this.hasEnvironment = scene.environmentCdf[scene.environmentHeight] > 0;
    this.cos = Math.cos(scene.environmentRotation);
    this.sin = Math.sin(scene.environmentRotation);
  }

  /** Estimated share of each panel's light at a point: radiance x area x facing cosine / distance squared. */
  private weigh(x: number, y: number, z: number): number {
    const { lights: l } = this;
    let sum = 0;
    for (let i = 0; i < this.panels; i++) {
      const at = i * LIGHT.stride;
      const dx = x - l[at];
      const dy = y - l[at + 1];
      const dz = z - l[at + 2];
      const d2 = dx * dx + dy * dy + dz * dz;
      const facing = dx * l[at + 9] + dy * l[at + 10] + dz * l[at + 11];
      const size = l[at + LIGHT.area];
      const power = (0.2126 * l[at + 12] + 0.7152 * l[at + 13] + 0.0722 * l[at + 14]) * size;
      // Near a large panel its centre's cosine says little, so a share stays whenever the point may be in front.
      const cos = Math.max(0, facing / Math.sqrt(d2 + 1e-12));
      const reach = facing > -Math.sqrt(size) ? (0.15 + cos) / (d2 + size * 0.25) : 0;
      this.weights[i] = power * reach;
      sum += this.weights[i];
    }
    return sum;
  }

  /** A point on one panel, chosen by estimated share. `choice`, `u`, `v` in [0, 1). pdf includes the choice. */
  samplePanel(x: number, y: number, z: number, choice: number, u: number, v: number): boolean {
    const sum = this.weigh(x, y, z);
    this.pdf = 0;
    if (!(sum > 0)) return false;
    let rest = choice * sum;
    let i = 0;
    while (i < this.panels - 1 && rest >= this.weights[i]) rest -= this.weights[i++];
    const { lights: l } = this;
    const at = i * LIGHT.stride;
    const s = u * 2 - 1;
    const t = v * 2 - 1;
    const dx = l[at] + l[at + 3] * s + l[at + 6] * t - x;
    const dy = l[at + 1] + l[at + 4] * s + l[at + 7] * t - y;
    const dz = l[at + 2] + l[at + 5] * s + l[at + 8] * t - z;
    const d2 = dx * dx + dy * dy + dz * dz;
    const d = Math.sqrt(d2);
    const cos = -(dx * l[at + 9] + dy * l[at + 10] + dz * l[at + 11]) / d;
    if (!(cos > 1e-6) || this.weights[i] <= 0) return false;
    this.dx = dx / d;
    this.dy = dy / d;
    this.dz = dz / d;
    this.distance = d;
    this.r = l[at + 12];
    this.g = l[at + 13];
    this.b = l[at + 14];
    this.pdf = ((this.weights[i] / sum) * d2) / (cos * l[at + LIGHT.area]);
    return true;
  }

  /** Nearest panel, front side only, closer than `far`. With `seenOnly` panels hidden from the camera are passed. */
  panelHit(
    ox: number,
    oy: number,
    oz: number,
    dx: number,
    dy: number,
    dz: number,
    near: number,
    far: number,
    seenOnly: boolean,
  ): boolean {
    const { lights: l } = this;
    this.panel = -1;
    this.t = far;
    for (let i = 0; i < this.panels; i++) {
      const at = i * LIGHT.stride;
      if (seenOnly && l[at + LIGHT.seen] === 0) continue;
      const cos = dx * l[at + 9] + dy * l[at + 10] + dz * l[at + 11];
      if (cos >= 0) continue;
      const cx = l[at] - ox;
      const cy = l[at + 1] - oy;
      const cz = l[at + 2] - oz;
      const t = (cx * l[at + 9] + cy * l[at + 10] + cz * l[at + 11]) / cos;
      if (t <= near || t >= this.t) continue;
      const px = dx * t - cx;
      const py = dy * t - cy;
      const pz = dz * t - cz;
      const u = px * l[at + 3] + py * l[at + 4] + pz * l[at + 5];
      const v = px * l[at + 6] + py * l[at + 7] + pz * l[at + 8];
      const uu = l[at + 3] ** 2 + l[at + 4] ** 2 + l[at + 5] ** 2;
      const vv = l[at + 6] ** 2 + l[at + 7] ** 2 + l[at + 8] ** 2;
      if (Math.abs(u) > uu || Math.abs(v) > vv) continue;
      this.t = t;
      this.panel = i;
      this.r = l[at + 12];
      this.g = l[at + 13];
      this.b = l[at + 14];
    }
    return this.panel >= 0;
  }

  /** Density with which samplePanel() from (x, y, z) would have given the direction that hit `panel` at distance `t`. */
  panelPdf(x: number, y: number, z: number, panel: number, dx: number, dy: number, dz: number, t: number): number {
    const sum = this.weigh(x, y, z);
    const at = panel * LIGHT.stride;
    const l = this.lights;
    const cos = -(dx * l[at + 9] + dy * l[at + 10] + dz * l[at + 11]);
    return sum > 0 && cos > 1e-6 ? ((this.weights[panel] / sum) * t * t) / (cos * l[at + LIGHT.area]) : 0;
  }

  /** Radiance of the environment in a direction, into r, g, b; its sampling density into pdf. */
  environmentAt(dx: number, dy: number, dz: number): void {
    const { scene } = this;
    const w = scene.environmentWidth;
    const h = scene.environmentHeight;
    const x = dx * this.cos + dz * this.sin;
    const z = dz * this.cos - dx * this.sin;
    const u = Math.atan2(x, -z) / (2 * Math.PI) + 0.5;
    const theta = Math.acos(Math.min(1, Math.max(-1, dy)));
    const column = Math.min(w - 1, (u * w) | 0);
    const row = Math.min(h - 1, ((theta / Math.PI) * h) | 0);
    const p = (row * w + column) * 3;
    this.r = scene.environment[p];
    this.g = scene.environment[p + 1];
    this.b = scene.environment[p + 2];
    this.pdf = this.cellPdf(row, column, Math.sin(theta));
  }

  private cellPdf(row: number, column: number, sinTheta: number): number {
    const { environmentCdf: cdf, environmentWidth: w, environmentHeight: h } = this.scene;
    const at = h + 1 + row * (w + 1) + column;
    const p = (cdf[row + 1] - cdf[row]) * (cdf[at + 1] - cdf[at]);
    return sinTheta > 1e-6 ? (p * w * h) / (2 * Math.PI * Math.PI * sinTheta) : 0;
  }

  /** A direction towards the environment, by luminance. */
  sampleEnvironment(u: number, v: number): boolean {
    const { environmentCdf: cdf, environmentWidth: w, environmentHeight: h } = this.scene;
    const row = search(cdf, 0, h, v);
    const base = h + 1 + row * (w + 1);
    const column = search(cdf, base, w, u);
    const fv = (v - cdf[row]) / Math.max(1e-12, cdf[row + 1] - cdf[row]);
    const fu = (u - cdf[base + column]) / Math.max(1e-12, cdf[base + column + 1] - cdf[base + column]);
    const theta = ((row + Math.min(0.999999, fv)) / h) * Math.PI;
    const azimuth = ((column + Math.min(0.999999, fu)) / w - 0.5) * 2 * Math.PI;
    const s = Math.sin(theta);
    const x = Math.sin(azimuth) * s;
    const z = -Math.cos(azimuth) * s;
    this.dx = x * this.cos - z * this.sin;
    this.dy = Math.cos(theta);
    this.dz = z * this.cos + x * this.sin;
    this.distance = Infinity;
    const p = (row * w + column) * 3;
    this.r = this.scene.environment[p];
    this.g = this.scene.environment[p + 1];
    this.b = this.scene.environment[p + 2];
    this.pdf = this.cellPdf(row, column, s);
    return this.pdf > 0;
  }
}

/** The cell of a cumulative table starting at `base` with `count` cells that holds `x`. */
function search(cdf: Float32Array, base: number, count: number, x: number): number {
  let lo = 0;
  let hi = count - 1;
  while (lo < hi) {
    const mid = (lo + hi + 1) >> 1;
    if (cdf[base + mid] <= x) lo = mid;
    else hi = mid - 1;
  }
  return lo;
}
