import { glassAlbedo, specular } from './albedo';
import { basis } from './maths';
import { fresnelDielectric, ggxD, sampleVisible, smithRatio, smithRoot } from './microfacet';

/**
 * A dielectric interface of microfacets (Walter et al. 2007), or a thin wall with two of them. What single scattering
 * loses is given back by scaling with its albedo on the viewer's side (Turquin 2019), so a clear pane stays clear however
 * rough. Radiance is not scaled by the squared index: light and camera stand in air.
 */
@unmanaged
export class Glass {
  /** Last value times cosine without tint, and density. */
  value: f64;
  pdf: f64;
  /** True when the last direction lies behind the interface. */
  through: bool;
  lx: f64;
  ly: f64;
  lz: f64;
  nx: f64;
  ny: f64;
  nz: f64;
  vx: f64;
  vy: f64;
  vz: f64;
  nv: f64;
  t0: f64;
  t1: f64;
  t2: f64;
  b0: f64;
  b1: f64;
  b2: f64;
  wx: f64;
  wy: f64;
  alpha: f64;
  eta: f64;
  thin: bool;
  rootV: f64;
  scale: f64;
  h0: f64;
  h1: f64;
  h2: f64;

  /** @param eta index behind over the index in front, @param thin wall whose far face sends light back to where it came from. */
  prepare(
    tables: usize,
    nx: f64,
    ny: f64,
    nz: f64,
    vx: f64,
    vy: f64,
    vz: f64,
    roughness: f64,
    eta: f64,
    thin: bool,
  ): void {
    this.nx = nx;
    this.ny = ny;
    this.nz = nz;
    this.vx = vx;
    this.vy = vy;
    this.vz = vz;
    this.nv = Math.max(1e-4, nx * vx + ny * vy + nz * vz);
    this.alpha = roughness * roughness;
    this.eta = eta;
    this.thin = thin;
    basis(nx, ny, nz, changetype<usize>(this) + offsetof<Glass>('t0'));
    this.wx = vx * this.t0 + vy * this.t1 + vz * this.t2;
    this.wy = vx * this.b0 + vy * this.b1 + vz * this.b2;
    this.rootV = smithRoot(this.wx, this.wy, this.nv, this.alpha, this.alpha);
    if (thin) {
      specular(tables, this.nv, roughness, changetype<usize>(this) + offsetof<Glass>('h0'));
      this.scale = 1.0 / (this.h0 + this.h1);
    } else this.scale = 1.0 / glassAlbedo(tables, this.nv, roughness, eta);
  }

  /** Reflectance at a facet; a thin wall has two faces, and light bounces between them (geometric series). */
  // @ts-ignore: decorator
  @inline
  reflectance(cos: f64): f64 {
    const f = fresnelDielectric(cos, this.eta);
    return this.thin ? (2.0 * f) / (1.0 + f) : f;
  }

  /** Draws a direction by facet, then reflection or refraction; false when it falls on the wrong side. */
  sample(choice: f64, u: f64, v: f64): bool {
    sampleVisible(
      this.wx,
      this.wy,
      this.nv,
      this.alpha,
      this.alpha,
      u,
      v,
      changetype<usize>(this) + offsetof<Glass>('h0'),
    );
    const hx = this.t0 * this.h0 + this.b0 * this.h1 + this.nx * this.h2;
    const hy = this.t1 * this.h0 + this.b1 * this.h1 + this.ny * this.h2;
    const hz = this.t2 * this.h0 + this.b2 * this.h1 + this.nz * this.h2;
    const vh = this.vx * hx + this.vy * hy + this.vz * hz;
    const reflects = choice < this.reflectance(vh);
    if (reflects || this.thin) {
      this.lx = 2 * vh * hx - this.vx;
      this.ly = 2 * vh * hy - this.vy;
      this.lz = 2 * vh * hz - this.vz;
      const nl = this.nx * this.lx + this.ny * this.ly + this.nz * this.lz;
      if (nl <= 0) return false;
      if (!reflects) {
        this.lx -= 2 * nl * this.nx;
        this.ly -= 2 * nl * this.ny;
        this.lz -= 2 * nl * this.nz;
      }
    } else {
      const ratio = 1.0 / this.eta;
      const bend = ratio * vh - Math.sqrt(Math.max(0.0, 1.0 - ratio * ratio * (1.0 - vh * vh)));
      this.lx = hx * bend - this.vx * ratio;
      this.ly = hy * bend - this.vy * ratio;
      this.lz = hz * bend - this.vz * ratio;
    }
    this.evaluate(this.lx, this.ly, this.lz);
    return this.pdf > 0 && this.through != reflects;
  }

  evaluate(lx0: f64, ly0: f64, lz0: f64): void {
    let lx = lx0;
    let ly = ly0;
    let lz = lz0;
    this.value = 0;
    this.pdf = 0;
    let nl = this.nx * lx + this.ny * ly + this.nz * lz;
    this.through = nl < 0;
    if (nl > 0 || this.thin) {
      if (nl < 0) {
        lx -= 2 * nl * this.nx;
        ly -= 2 * nl * this.ny;
        lz -= 2 * nl * this.nz;
        nl = -nl;
      }
      if (nl <= 0) return;
      const hx = lx + this.vx;
      const hy = ly + this.vy;
      const hz = lz + this.vz;
      const hl = 1.0 / Math.max(1e-30, Math.sqrt(hx * hx + hy * hy + hz * hz));
      const vh = (this.vx * hx + this.vy * hy + this.vz * hz) * hl;
      const f = this.reflectance(vh);
      const share = this.through ? 1.0 - f : f;
      const d = this.facets(hx * hl, hy * hl, hz * hl) * share;
      const rootL = this.rootOf(lx, ly, lz, nl);
      this.pdf = (d * 0.5) / (this.nv + this.rootV);
      this.value = this.pdf * smithRatio(nl, rootL, this.nv, this.rootV) * this.scale;
      return;
    }
    let hx = -(this.vx + this.eta * lx);
    let hy = -(this.vy + this.eta * ly);
    let hz = -(this.vz + this.eta * lz);
    let hl = 1.0 / Math.max(1e-30, Math.sqrt(hx * hx + hy * hy + hz * hz));
    if (hx * this.nx + hy * this.ny + hz * this.nz < 0) hl = -hl;
    hx *= hl;
    hy *= hl;
    hz *= hl;
    const vh = this.vx * hx + this.vy * hy + this.vz * hz;
    const lh = lx * hx + ly * hy + lz * hz;
    if (vh <= 0 || lh >= 0) return;
    const denominator = vh + this.eta * lh;
    const d = this.facets(hx, hy, hz) * (1.0 - fresnelDielectric(vh, this.eta));
    this.pdf =
      (((d * 2.0 * vh) / (this.nv + this.rootV)) * this.eta * this.eta * -lh) /
      Math.max(1e-30, denominator * denominator);
    this.value = ((this.pdf * 2.0 * -nl) / (-nl + this.rootOf(lx, ly, lz, -nl))) * this.scale;
  }

  // @ts-ignore: decorator
  @inline
  facets(hx: f64, hy: f64, hz: f64): f64 {
    const nh = Math.min(1.0, hx * this.nx + hy * this.ny + hz * this.nz);
    return ggxD(Math.sqrt(Math.max(0.0, 1.0 - nh * nh)), 0, nh, this.alpha, this.alpha);
  }

  // @ts-ignore: decorator
  @inline
  rootOf(lx: f64, ly: f64, lz: f64, nl: f64): f64 {
    return smithRoot(Math.sqrt(Math.max(0.0, 1.0 - nl * nl)), 0, nl, this.alpha, this.alpha);
  }
}
