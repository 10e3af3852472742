import { MIN_ALPHA, MIN_SHEEN, sheenAlbedo, specular } from './albedo';
import { BsdfState, COAT_F0 } from './bsdf-state';
import { schlickWeight, smithRoot } from './microfacet';
import {
  M_CLEARCOAT_ROUGHNESS,
  M_MIRROR,
  M_MIRROR_BLUR,
  M_SHEEN_COLOR,
  M_SHEEN_ROUGHNESS,
  material,
  Scene,
} from './scene';
import { Surface } from './surface';

/** What lies over the facets and the diffuse layer of an opaque surface. */

/** The mirror, clearcoat and sheen, from the top, and what they leave of facets and diffuse. */
export function setLayers(bsdf: BsdfState, s: Surface, scene: Scene, m: i32, nv: f64): void {
  bsdf.under = 1;
  bsdf.mirrorScale = 0;
  bsdf.mirrorStrength = material(scene, m, M_MIRROR);
  if (bsdf.mirrorStrength > 0) {
    const blur = material(scene, m, M_MIRROR_BLUR);
    bsdf.mirrorAlpha = Math.max(MIN_ALPHA, blur * blur);
    bsdf.mirrorRoot = smithRoot(bsdf.wx, bsdf.wy, nv, bsdf.mirrorAlpha, bsdf.mirrorAlpha);
    specular(bsdf.tables, nv, blur, bsdf.scratch());
    // The artist's strength is what comes back: facets' own losses are made good.
    bsdf.mirrorScale = bsdf.mirrorStrength / Math.max(0.05, bsdf.e0 + bsdf.e1);
  }
  bsdf.coat = s.coat;
  if (bsdf.coat > 0) {
    const rough = material(scene, m, M_CLEARCOAT_ROUGHNESS);
    bsdf.coatAlpha = Math.max(MIN_ALPHA, rough * rough);
    bsdf.coatRoot = smithRoot(bsdf.wx, bsdf.wy, nv, bsdf.coatAlpha, bsdf.coatAlpha);
    specular(bsdf.tables, nv, rough, bsdf.scratch());
    bsdf.under *= 1.0 - bsdf.coat * (COAT_F0 * bsdf.e0 + bsdf.e1);
  }
  bsdf.sr = material(scene, m, M_SHEEN_COLOR);
  bsdf.sg = material(scene, m, M_SHEEN_COLOR + 1);
  bsdf.sb = material(scene, m, M_SHEEN_COLOR + 2);
  const sheen = Math.max(bsdf.sr, Math.max(bsdf.sg, bsdf.sb));
  bsdf.sheenUnder = sheen > 0 ? bsdf.under : 0.0;
  if (sheen > 0) {
    const rough = Math.max(MIN_SHEEN, material(scene, m, M_SHEEN_ROUGHNESS));
    bsdf.sheenAlpha = rough * rough;
    const albedo = sheenAlbedo(bsdf.tables, nv, rough);
    // The published fit gives back a little more than it gets at grazing angles: it is held to all of it.
    if (sheen * albedo > 1) bsdf.sheenUnder /= sheen * albedo;
    bsdf.under *= 1.0 - Math.min(1.0, sheen * albedo);
  }
  bsdf.mr *= bsdf.under;
  bsdf.mg *= bsdf.under;
  bsdf.mb *= bsdf.under;
  bsdf.cr *= bsdf.under;
  bsdf.cg *= bsdf.under;
  bsdf.cb *= bsdf.under;
}

/** Chances of the lobes, by what each is guessed to give back. */
export function setChances(bsdf: BsdfState, eA: f64, eB: f64, nv: f64): void {
  const finish = bsdf.finish;
  const f = (finish.f0r + finish.f0g + finish.f0b) / 3.0;
  const facet = (f * eA + finish.f90 * eB) * bsdf.under;
  const grazing = schlickWeight(nv);
  const coat = bsdf.coat * (COAT_F0 + (1.0 - COAT_F0) * grazing);
  const sheen = ((bsdf.sr + bsdf.sg + bsdf.sb) / 3.0) * bsdf.sheenUnder * 0.5;
  const cosine = ((bsdf.cr + bsdf.cg + bsdf.cb + bsdf.mr + bsdf.mg + bsdf.mb) * Math.PI) / 3.0 + sheen;
  const total = facet + coat + cosine + bsdf.mirrorStrength;
  if (!(total > 0)) {
    bsdf.pCosine = 1;
    bsdf.pFacet = 0;
    bsdf.pCoat = 0;
    bsdf.pMirror = 0;
    return;
  }
  const share = 1.0 / total;
  bsdf.pCosine = cosine * share;
  bsdf.pFacet = facet * share;
  bsdf.pCoat = coat * share;
  bsdf.pMirror = bsdf.mirrorStrength * share;
}
