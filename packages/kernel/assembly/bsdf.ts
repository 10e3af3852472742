import { brushed, specular, stretched } from './albedo';
import { setChances, setLayers } from './bsdf-layers';
import { BsdfState, COAT_F0 } from './bsdf-state';
import { finishAt } from './finish';
import { basis, cosTurn, sinTurn } from './maths';
import {
  charlieD,
  charlieVisibility,
  ggxD,
  roundD,
  roundRoot,
  sampleVisible,
  schlickWeight,
  smithRoot,
} from './microfacet';
import { Scene } from './scene';
import { Surface } from './surface';

/**
 * Reflection of an opaque surface: from the top the artist's mirror, clearcoat, sheen, then facets (metal or dielectric,
 * with what they scatter among themselves given back) over Lambert diffuse. Layers take what those above leave on the
 * viewer's side, as KHR_materials_sheen does; facets and diffuse are coupled both ways and so stay reciprocal.
 */
@unmanaged
export class Bsdf extends BsdfState {
  /** @param nx..nz shading normal on the side of the viewer, @param vx..vz direction to the viewer. */
  prepare(s: Surface, scene: Scene, nx: f64, ny: f64, nz: f64, vx: f64, vy: f64, vz: f64): void {
    const m = s.material;
    const tables = scene.tables;
    this.tables = tables;
    this.nx = nx;
    this.ny = ny;
    this.nz = nz;
    this.vx = vx;
    this.vy = vy;
    this.vz = vz;
    const nv = Math.max(1e-4, nx * vx + ny * vy + nz * vz);
    this.nv = nv;
    const finish = finishAt(this.finishes, s, scene, nv, this.scratch());
    this.finish = finish;
    this.frame(s, finish.alpha);
    this.albedoAt(nv, this.wx, this.wy);
    const eA = this.e0;
    const eB = this.e1;
    const lost = 1.0 - eA - eB;
    this.mr = finish.mr * lost;
    this.mg = finish.mg * lost;
    this.mb = finish.mb * lost;
    const left = Math.max(0.0, 1.0 - (finish.ka * eA + finish.kb * eB + finish.kc * lost));
    this.cr = finish.cr * left;
    this.cg = finish.cg * left;
    this.cb = finish.cb * left;
    setLayers(this, s, scene, m, nv);
    setChances(this, eA, eB, nv);
  }

  /** A and B of the facets for a direction, into e0 and e1. */
  // @ts-ignore: decorator
  @inline
  albedoAt(mu: f64, x: f64, y: f64): void {
    if (!this.aniso) {
      specular(this.tables, mu, this.finish.roughness, this.scratch());
      return;
    }
    brushed(this.finish.brush, mu, x, y, this.finish.roughness, this.scratch());
  }

  frame(s: Surface, alpha: f64): void {
    this.aniso = s.anisotropy > 0;
    this.ax = alpha;
    this.ay = alpha;
    if (this.aniso) {
      this.ax = stretched(alpha, s.anisotropy);
      // The shading normal may be turned to the viewer: the tangent follows.
      const d = s.tx * this.nx + s.ty * this.ny + s.tz * this.nz;
      const x = s.tx - this.nx * d;
      const y = s.ty - this.ny * d;
      const z = s.tz - this.nz * d;
      const l = 1.0 / Math.max(1e-300, Math.sqrt(x * x + y * y + z * z));
      this.t0 = x * l;
      this.t1 = y * l;
      this.t2 = z * l;
      this.b0 = this.ny * this.t2 - this.nz * this.t1;
      this.b1 = this.nz * this.t0 - this.nx * this.t2;
      this.b2 = this.nx * this.t1 - this.ny * this.t0;
    } else basis(this.nx, this.ny, this.nz, changetype<usize>(this) + offsetof<BsdfState>('t0'));
    this.wx = this.vx * this.t0 + this.vy * this.t1 + this.vz * this.t2;
    this.wy = this.vx * this.b0 + this.vy * this.b1 + this.vz * this.b2;
    this.rootV = smithRoot(this.wx, this.wy, this.nv, this.ax, this.ay);
  }

  /** Values times cosine and density for a direction; zero below the surface. */
  evaluate(lx: f64, ly: f64, lz: f64): void {
    const nl = this.nx * lx + this.ny * ly + this.nz * lz;
    this.dr = 0;
    this.dg = 0;
    this.db = 0;
    this.gr = 0;
    this.gg = 0;
    this.gb = 0;
    this.mirror = 0;
    this.pdf = 0;
    if (nl <= 0) return;
    const nv = this.nv;
    const hx = lx + this.vx;
    const hy = ly + this.vy;
    const hz = lz + this.vz;
    const hl = 1.0 / Math.max(1e-30, Math.sqrt(hx * hx + hy * hy + hz * hz));
    const nh = Math.min(1.0, (this.nx * hx + this.ny * hy + this.nz * hz) * hl);
    const vh = Math.max(0.0, (this.vx * hx + this.vy * hy + this.vz * hz) * hl);
    const weight = schlickWeight(vh);
    let tx: f64 = 0;
    let ty: f64 = 0;
    let d: f64 = 0;
    let rootL: f64 = 0;
    const sideH = Math.max(0.0, 1.0 - nh * nh);
    const sideL = Math.max(0.0, 1.0 - nl * nl);
    if (this.aniso) {
      tx = lx * this.t0 + ly * this.t1 + lz * this.t2;
      ty = lx * this.b0 + ly * this.b1 + lz * this.b2;
      d = ggxD((tx + this.wx) * hl, (ty + this.wy) * hl, nh, this.ax, this.ay);
      rootL = smithRoot(tx, ty, nl, this.ax, this.ay);
    } else {
      d = roundD(sideH, nh, this.ax);
      rootL = roundRoot(sideL, nl, this.ax);
    }
    this.albedoAt(nl, tx, ty);
    const finish = this.finish;
    const eA = this.e0;
    const eB = this.e1;
    const lost = 1.0 - eA - eB;
    const facet = ((d * 0.5) / (nl * this.rootV + nv * rootL)) * nl * this.under;
    const many = lost * nl;
    this.gr = (finish.f0r + (finish.f90 - finish.f0r) * weight) * facet + this.mr * many;
    this.gg = (finish.f0g + (finish.f90 - finish.f0g) * weight) * facet + this.mg * many;
    this.gb = (finish.f0b + (finish.f90 - finish.f0b) * weight) * facet + this.mb * many;
    const left = Math.max(0.0, 1.0 - (finish.ka * eA + finish.kb * eB + finish.kc * lost)) * nl;
    this.dr = this.cr * left;
    this.dg = this.cg * left;
    this.db = this.cb * left;
    this.pdf = (this.pCosine * nl) / Math.PI + (this.pFacet * d * 0.5) / (nv + this.rootV);
    if (this.sheenUnder > 0) {
      const sheen = charlieD(nh, this.sheenAlpha) * charlieVisibility(nl, nv, this.sheenAlpha) * nl * this.sheenUnder;
      this.dr += this.sr * sheen;
      this.dg += this.sg * sheen;
      this.db += this.sb * sheen;
    }
    if (this.coat > 0) {
      const a = this.coatAlpha;
      const dc = roundD(sideH, nh, a);
      const c =
        ((this.coat * (COAT_F0 + (1.0 - COAT_F0) * weight) * dc * 0.5) /
          (nl * this.coatRoot + nv * roundRoot(sideL, nl, a))) *
        nl;
      this.gr += c;
      this.gg += c;
      this.gb += c;
      this.pdf += (this.pCoat * dc * 0.5) / (nv + this.coatRoot);
    }
    if (this.mirrorStrength > 0) {
      const a = this.mirrorAlpha;
      const dm = roundD(sideH, nh, a);
      this.mirror = ((this.mirrorScale * dm * 0.5) / (nl * this.mirrorRoot + nv * roundRoot(sideL, nl, a))) * nl;
      this.pdf += (this.pMirror * dm * 0.5) / (nv + this.mirrorRoot);
    }
  }

  /** Draws a direction and evaluates it; false when it falls below the surface. */
  sample(lobe: f64, u: f64, v: f64): bool {
    let x: f64 = 0;
    let y: f64 = 0;
    let z: f64 = 0;
    if (lobe < this.pCosine) {
      const r = Math.sqrt(u);
      x = r * cosTurn(v);
      y = r * sinTurn(v);
      z = Math.sqrt(Math.max(0.0, 1.0 - u));
    } else {
      let ax = this.ax;
      let ay = this.ay;
      if (lobe >= this.pCosine + this.pFacet) {
        ax = lobe < this.pCosine + this.pFacet + this.pCoat ? this.coatAlpha : this.mirrorAlpha;
        ay = ax;
      }
      sampleVisible(this.wx, this.wy, this.nv, ax, ay, u, v, changetype<usize>(this) + offsetof<Bsdf>('h0'));
      const vh = 2.0 * (this.wx * this.h0 + this.wy * this.h1 + this.nv * this.h2);
      x = this.h0 * vh - this.wx;
      y = this.h1 * vh - this.wy;
      z = this.h2 * vh - this.nv;
    }
    this.lx = this.t0 * x + this.b0 * y + this.nx * z;
    this.ly = this.t1 * x + this.b1 * y + this.ny * z;
    this.lz = this.t2 * x + this.b2 * y + this.nz * z;
    this.evaluate(this.lx, this.ly, this.lz);
    return this.pdf > 0;
  }
}
