import { M_CLEARCOAT, M_CLEARCOAT_ROUGHNESS, M_IOR, M_SPECULAR, M_SPECULAR_COLOR, material, Scene } from './scene';
import { ggxD, sampleGgxNormal, schlickWeight, smithG1, smithVisibility } from './microfacet';
import { Surface } from './surface';

/** Below this the lobe would be narrower than the arithmetic carries. */
const MIN_ALPHA: f64 = 0.0012;
const COAT_F0: f64 = 0.04;

/** Reflection of an opaque surface, as core's trace/opaque-bsdf.ts has it. */
@unmanaged
export class Bsdf {
  /** Last evaluated value times cosine, and density. */
  r: f64;
  g: f64;
  b: f64;
  pdf: f64;
  /** Last sampled direction. */
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
  alpha: f64;
  coatAlpha: f64;
  coat: f64;
  coatBlock: f64;
  f0r: f64;
  f0g: f64;
  f0b: f64;
  f90: f64;
  dr: f64;
  dg: f64;
  db: f64;
  pDiffuse: f64;
  pSpecular: f64;
  pCoat: f64;
  h0: f64;
  h1: f64;
  h2: f64;

  /** @param nx..nz shading normal on the side of the viewer, @param vx..vz direction to the viewer. */
  prepare(s: Surface, scene: Scene,
    nx: f64,
    ny: f64,
    nz: f64,
    vx: f64,
    vy: f64,
    vz: f64,
  ): void {
    const m = s.material;
    this.nx = nx;
    this.ny = ny;
    this.nz = nz;
    this.vx = vx;
    this.vy = vy;
    this.vz = vz;
    this.nv = Math.max(1e-4, nx * vx + ny * vy + nz * vz);
    this.alpha = Math.max(MIN_ALPHA, s.roughness * s.roughness);
    this.coat = material(scene, m, M_CLEARCOAT);
    const coatRoughness = material(scene, m, M_CLEARCOAT_ROUGHNESS);
    this.coatAlpha = Math.max(MIN_ALPHA, coatRoughness * coatRoughness);
    const ior = material(scene, m, M_IOR);
    const specular = material(scene, m, M_SPECULAR);
    const ratio = (ior - 1.0) / (ior + 1.0);
    const base = ratio * ratio;
    const metal = s.metallic;
    this.f90 = specular * (1 - metal) + metal;
    const tint = specular * (1.0 - metal);
    this.f0r = Math.min(1.0, base * material(scene, m, M_SPECULAR_COLOR)) * tint + s.r * metal;
    this.f0g = Math.min(1.0, base * material(scene, m, M_SPECULAR_COLOR + 1)) * tint + s.g * metal;
    this.f0b = Math.min(1.0, base * material(scene, m, M_SPECULAR_COLOR + 2)) * tint + s.b * metal;
    this.dr = s.r * (1.0 - metal);
    this.dg = s.g * (1.0 - metal);
    this.db = s.b * (1.0 - metal);
    const f = (this.f0r + this.f0g + this.f0b) / 3.0;
    const d = (this.dr + this.dg + this.db) / 3.0;
    const grazing = schlickWeight(this.nv);
    const coatFresnel = this.coat * (COAT_F0 + (1 - COAT_F0) * grazing);
    this.coatBlock = 1 - coatFresnel;
    const specularShare = f + (this.f90 - f) * grazing;
    const total = coatFresnel + (specularShare + d) * this.coatBlock;
    if (!(total > 0)) {
      this.pDiffuse = 1;
      this.pSpecular = 0;
      this.pCoat = 0;
      return;
    }
    this.pCoat = coatFresnel / total;
    this.pSpecular = (specularShare * this.coatBlock) / total;
    this.pDiffuse = 1 - this.pCoat - this.pSpecular;
  }

  /** Value times cosine and density for a direction; zero below the surface. */
  evaluate(lx: f64, ly: f64, lz: f64): void {
    const nl = this.nx * lx + this.ny * ly + this.nz * lz;
    this.r = 0;
    this.g = 0;
    this.b = 0;
    this.pdf = 0;
    if (nl <= 0) return;
    let hx = lx + this.vx;
    let hy = ly + this.vy;
    let hz = lz + this.vz;
    const hl = Math.max(1e-30, Math.sqrt(hx * hx + hy * hy + hz * hz));
    hx /= hl;
    hy /= hl;
    hz /= hl;
    const nh = Math.min(1.0, this.nx * hx + this.ny * hy + this.nz * hz);
    const vh = Math.max(0.0, this.vx * hx + this.vy * hy + this.vz * hz);
    const weight = schlickWeight(vh);
    const d = ggxD(nh, this.alpha);
    const spec = d * smithVisibility(nl, this.nv, this.alpha) * nl;
    const lambert = nl / Math.PI;
    const fr = this.f0r + (this.f90 - this.f0r) * weight;
    const fg = this.f0g + (this.f90 - this.f0g) * weight;
    const fb = this.f0b + (this.f90 - this.f0b) * weight;
    const under = 1 - Math.max(fr, Math.max(fg, fb));
    this.r = (this.dr * lambert * under + fr * spec) * this.coatBlock;
    this.g = (this.dg * lambert * under + fg * spec) * this.coatBlock;
    this.b = (this.db * lambert * under + fb * spec) * this.coatBlock;
    this.pdf = this.pDiffuse * lambert + (this.pSpecular * d * smithG1(this.nv, this.alpha)) / (4 * this.nv);
    if (this.coat > 0) {
      const dc = ggxD(nh, this.coatAlpha);
      const c = this.coat * (COAT_F0 + (1 - COAT_F0) * weight) * dc * smithVisibility(nl, this.nv, this.coatAlpha) * nl;
      this.r += c;
      this.g += c;
      this.b += c;
      this.pdf += (this.pCoat * dc * smithG1(this.nv, this.coatAlpha)) / (4 * this.nv);
    }
  }

  /** Draws a direction and evaluates it; false when it falls below the surface. */
  sample(lobe: f64, u: f64, v: f64): bool {
    // Orthonormal basis round the normal (Duff et al. 2017).
    const sign = this.nz >= 0 ? 1.0 : -1.0;
    const a = -1.0 / (sign + this.nz);
    const b = this.nx * this.ny * a;
    const tx = 1 + sign * this.nx * this.nx * a;
    const ty = sign * b;
    const tz = -sign * this.nx;
    const bx = b;
    const by = sign + this.ny * this.ny * a;
    const bz = -this.ny;
    if (lobe < this.pDiffuse) {
      const r = Math.sqrt(u);
      const phi = 2 * Math.PI * v;
      const x = r * Math.cos(phi);
      const y = r * Math.sin(phi);
      const z = Math.sqrt(Math.max(0.0, 1.0 - u));
      this.lx = tx * x + bx * y + this.nx * z;
      this.ly = ty * x + by * y + this.ny * z;
      this.lz = tz * x + bz * y + this.nz * z;
    } else {
      const alpha = lobe < this.pDiffuse + this.pSpecular ? this.alpha : this.coatAlpha;
      const wx = this.vx * tx + this.vy * ty + this.vz * tz;
      const wy = this.vx * bx + this.vy * by + this.vz * bz;
      sampleGgxNormal(wx, wy, this.nv, alpha, u, v, changetype<usize>(this) + offsetof<Bsdf>('h0'));
      const hx = tx * this.h0 + bx * this.h1 + this.nx * this.h2;
      const hy = ty * this.h0 + by * this.h1 + this.ny * this.h2;
      const hz = tz * this.h0 + bz * this.h1 + this.nz * this.h2;
      const vh = 2 * (this.vx * hx + this.vy * hy + this.vz * hz);
      this.lx = hx * vh - this.vx;
      this.ly = hy * vh - this.vy;
      this.lz = hz * vh - this.vz;
    }
    this.evaluate(this.lx, this.ly, this.lz);
    return this.pdf > 0;
  }
}
