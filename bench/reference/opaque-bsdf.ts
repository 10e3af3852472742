import { MATERIAL } from './layout.ts';
import { ggxD, sampleGgxNormal, schlickWeight, smithG1, smithVisibility } from './microfacet.ts';
import type { Surface } from './surface.ts';

/** Below this the lobe would be narrower than float arithmetic carries. */
const MIN_ALPHA = 0.0012;
const COAT_F0 = 0.04;

/**
 * Reflection of the glTF 2.0 metallic-roughness model with clearcoat, without the transmitted part: Lambert under a
 * GGX layer under a GGX coat. sample(), evaluate() and pdf belong together: the density that sample() draws from is the
 * `pdf` evaluate() reports. Directions are in world space and point away from the surface.
 */
export class OpaqueBsdf {
  /** Last evaluated value times cosine, and density. */
  r = 0;
  g = 0;
  b = 0;
  pdf = 0;
  /** Last sampled direction. */
  lx = 0;
  ly = 0;
  lz = 0;

  private nx = 0;
  private ny = 1;
  private nz = 0;
  private vx = 0;
  private vy = 0;
  private vz = 0;
  private nv = 1;
  private alpha = 1;
  private coatAlpha = 1;
  private coat = 0;
  private coatBlock = 1;
  private readonly f0 = new Float64Array(3);
  private readonly f90 = new Float64Array(1);
  private readonly diffuse = new Float64Array(3);
  private pDiffuse = 1;
  private pSpecular = 0;
  private pCoat = 0;
  private readonly h = new Float64Array(3);

  /** @param nx..nz shading normal on the side of the viewer, @param vx..vz direction to the viewer. */
  prepare(
    s: Surface,
    materials: Float32Array,
    nx: number,
    ny: number,
    nz: number,
    vx: number,
    vy: number,
    vz: number,
  ): void {
    const m = s.material * MATERIAL.stride;
    this.nx = nx;
    this.ny = ny;
    this.nz = nz;
    this.vx = vx;
    this.vy = vy;
    this.vz = vz;
    this.nv = Math.max(1e-4, nx * vx + ny * vy + nz * vz);
    this.alpha = Math.max(MIN_ALPHA, s.roughness * s.roughness);
    this.coat = materials[m + MATERIAL.clearcoat];
    const coatRoughness = materials[m + MATERIAL.clearcoatRoughness];
    this.coatAlpha = Math.max(MIN_ALPHA, coatRoughness * coatRoughness);
    const ior = materials[m + MATERIAL.ior];
    const specular = materials[m + MATERIAL.specular];
    const base = ((ior - 1) / (ior + 1)) ** 2;
    const metal = s.metallic;
    this.f90[0] = specular * (1 - metal) + metal;
    let f = 0;
    let d = 0;
    for (let c = 0; c < 3; c++) {
      const colour = c === 0 ? s.r : c === 1 ? s.g : s.b;
      this.f0[c] =
        Math.min(1, base * materials[m + MATERIAL.specularColor + c]) * specular * (1 - metal) + colour * metal;
      this.diffuse[c] = colour * (1 - metal);
      f += this.f0[c] / 3;
      d += this.diffuse[c] / 3;
    }
    const grazing = schlickWeight(this.nv);
    const coatFresnel = this.coat * (COAT_F0 + (1 - COAT_F0) * grazing);
    this.coatBlock = 1 - coatFresnel;
    const specularShare = f + (this.f90[0] - f) * grazing;
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
  evaluate(lx: number, ly: number, lz: number): void {
    const nl = this.nx * lx + this.ny * ly + this.nz * lz;
    this.r = this.g = this.b = this.pdf = 0;
    if (nl <= 0) return;
    let hx = lx + this.vx;
    let hy = ly + this.vy;
    let hz = lz + this.vz;
    const hl = Math.sqrt(hx * hx + hy * hy + hz * hz) || 1;
    hx /= hl;
    hy /= hl;
    hz /= hl;
    const nh = Math.min(1, this.nx * hx + this.ny * hy + this.nz * hz);
    const vh = Math.max(0, this.vx * hx + this.vy * hy + this.vz * hz);
    const weight = schlickWeight(vh);
    const d = ggxD(nh, this.alpha);
    const spec = d * smithVisibility(nl, this.nv, this.alpha) * nl;
    const lambert = nl / Math.PI;
    const fr = this.f0[0] + (this.f90[0] - this.f0[0]) * weight;
    const fg = this.f0[1] + (this.f90[0] - this.f0[1]) * weight;
    const fb = this.f0[2] + (this.f90[0] - this.f0[2]) * weight;
    const under = 1 - Math.max(fr, fg, fb);
    this.r = (this.diffuse[0] * lambert * under + fr * spec) * this.coatBlock;
    this.g = (this.diffuse[1] * lambert * under + fg * spec) * this.coatBlock;
    this.b = (this.diffuse[2] * lambert * under + fb * spec) * this.coatBlock;
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
  sample(lobe: number, u: number, v: number): boolean {
    // Orthonormal basis round the normal (Duff et al. 2017).
    const sign = this.nz >= 0 ? 1 : -1;
    const a = -1 / (sign + this.nz);
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
      const z = Math.sqrt(Math.max(0, 1 - u));
      this.lx = tx * x + bx * y + this.nx * z;
      this.ly = ty * x + by * y + this.ny * z;
      this.lz = tz * x + bz * y + this.nz * z;
    } else {
      const alpha = lobe < this.pDiffuse + this.pSpecular ? this.alpha : this.coatAlpha;
      const wx = this.vx * tx + this.vy * ty + this.vz * tz;
      const wy = this.vx * bx + this.vy * by + this.vz * bz;
      sampleGgxNormal(wx, wy, this.nv, alpha, u, v, this.h);
      const hx = tx * this.h[0] + bx * this.h[1] + this.nx * this.h[2];
      const hy = ty * this.h[0] + by * this.h[1] + this.ny * this.h[2];
      const hz = tz * this.h[0] + bz * this.h[1] + this.nz * this.h[2];
      const vh = 2 * (this.vx * hx + this.vy * hy + this.vz * hz);
      this.lx = hx * vh - this.vx;
      this.ly = hy * vh - this.vy;
      this.lz = hz * vh - this.vz;
    }
    this.evaluate(this.lx, this.ly, this.lz);
    return this.pdf > 0;
  }
}
