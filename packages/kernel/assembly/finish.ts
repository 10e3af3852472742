import { brushedMean, MIN_ALPHA, specularMean } from './albedo';
import { filmReflectance } from './film';
import { schlickWeight } from './microfacet';
import {
  M_BRUSHED,
  M_IOR,
  M_IRIDESCENCE,
  M_IRIDESCENCE_IOR,
  M_IRIDESCENCE_THICKNESS,
  M_SPECULAR,
  M_SPECULAR_COLOR,
  material,
  Scene,
  word,
} from './scene';
import { Surface } from './surface';

/** Finishes that are remembered at a time, a power of two. */
const PLACES: i32 = 16;

/** What the facets and the diffuse layer of a finish are, whoever looks at them. */
@unmanaged
export class Finish {
  /** The material it was worked out of; -1: it holds only where it was worked out. */
  material: i32;
  /** Table of a brushed finish. */
  brush: usize;
  roughness: f64;
  alpha: f64;
  f0r: f64;
  f0g: f64;
  f0b: f64;
  f90: f64;
  /** Light scattered among the facets, over what one scattering loses on both sides: mr = f / (pi (1 - mean E)). */
  mr: f64;
  mg: f64;
  mb: f64;
  /** Diffuse colour over pi times what facets leave in the mean. */
  cr: f64;
  cg: f64;
  cb: f64;
  /** Albedo of the dielectric's facets by direction: a E_A + b E_B + c (1 - E). */
  ka: f64;
  kb: f64;
  kc: f64;
}

/** Bytes of the finishes that a thread remembers. */
export function finishBytes(): usize {
  return <usize>PLACES * offsetof<Finish>();
}

export function forgetFinishes(finishes: usize): void {
  for (let i = 0; i < PLACES; i++) changetype<Finish>(finishes + <usize>i * offsetof<Finish>()).material = -1;
}

/**
 * The finish at a surface seen at cosine `nv`. Where nothing but the material says what it is, it is worked out once.
 * @param scratch four doubles to work in.
 */
export function finishAt(finishes: usize, s: Surface, scene: Scene, nv: f64, scratch: usize): Finish {
  const m = s.material;
  const finish = changetype<Finish>(finishes + <usize>(m & (PLACES - 1)) * offsetof<Finish>());
  if (s.plain && finish.material == m) return finish;
  const film = material(scene, m, M_IRIDESCENCE);
  finish.material = s.plain && film <= 0 ? m : -1;
  workOut(finish, s, scene, film, nv, scratch);
  return finish;
}

function workOut(finish: Finish, s: Surface, scene: Scene, film: f64, nv: f64, scratch: usize): void {
  const m = s.material;
  finish.roughness = Math.min(1.0, s.roughness);
  finish.alpha = Math.max(MIN_ALPHA, finish.roughness * finish.roughness);
  if (s.anisotropy > 0) {
    finish.brush = <usize>word(scene.brushed, <i32>material(scene, m, M_BRUSHED));
    brushedMean(finish.brush, finish.roughness, scratch);
  } else specularMean(scene.tables, finish.roughness, scratch);
  const meanA = load<f64>(scratch);
  const meanB = load<f64>(scratch, 8);
  const meanE = meanA + meanB;
  const metal = s.metallic;
  const plain = 1.0 - metal;
  const ior = material(scene, m, M_IOR);
  const strength = material(scene, m, M_SPECULAR);
  const ratio = (ior - 1.0) / (ior + 1.0);
  const base = ratio * ratio;
  // KHR_materials_specular: strength scales both ends of the Fresnel curve.
  const d0 = Math.min(1.0, base * material(scene, m, M_SPECULAR_COLOR)) * strength;
  const d1 = Math.min(1.0, base * material(scene, m, M_SPECULAR_COLOR + 1)) * strength;
  const d2 = Math.min(1.0, base * material(scene, m, M_SPECULAR_COLOR + 2)) * strength;
  finish.f90 = strength * plain + metal;
  finish.f0r = d0 * plain + s.r * metal;
  finish.f0g = d1 * plain + s.g * metal;
  finish.f0b = d2 * plain + s.b * metal;
  const back = 1.0 / (Math.PI * Math.max(1e-6, 1.0 - meanE));
  if (film > 0) {
    addFilm(finish, scene, m, film, nv, scratch);
    finish.mr = back * givenBack(finish.f0r, finish.f90, meanE);
    finish.mg = back * givenBack(finish.f0g, finish.f90, meanE);
    finish.mb = back * givenBack(finish.f0b, finish.f90, meanE);
  } else {
    // Metal and dielectric each their own.
    finish.mr = back * (plain * givenBack(d0, strength, meanE) + metal * givenBack(s.r, 1.0, meanE));
    finish.mg = back * (plain * givenBack(d1, strength, meanE) + metal * givenBack(s.g, 1.0, meanE));
    finish.mb = back * (plain * givenBack(d2, strength, meanE) + metal * givenBack(s.b, 1.0, meanE));
  }
  // The dielectric's own facets, colourless: what they leave goes into the diffuse layer.
  finish.ka = film > 0 ? (finish.f0r + finish.f0g + finish.f0b) / 3.0 : Math.max(d0, Math.max(d1, d2));
  finish.kb = strength;
  finish.kc = givenBack(finish.ka, strength, meanE);
  const leftMean = 1.0 - (finish.ka * meanA + finish.kb * meanB + finish.kc * (1.0 - meanE));
  const diffuse = plain / (Math.PI * Math.max(1e-6, leftMean));
  finish.cr = s.r * diffuse;
  finish.cg = s.g * diffuse;
  finish.cb = s.b * diffuse;
}

/** Share of the light lost to one scattering that facets of such a reflectance give back after more. */
// @ts-ignore: decorator
@inline
function givenBack(f0: f64, f90: f64, meanE: f64): f64 {
  const mean = f0 + (f90 - f0) / 21.0;
  return (mean * mean * meanE) / Math.max(1e-6, 1.0 - mean * (1.0 - meanE));
}

/** KHR_materials_iridescence: the film changes the reflectance at the viewer's angle, which then stands for all. */
function addFilm(finish: Finish, scene: Scene, m: i32, film: f64, nv: f64, scratch: usize): void {
  const f90 = finish.f90;
  const out = changetype<usize>(finish) + offsetof<Finish>('mr');
  finish.mr = finish.f0r;
  finish.mg = finish.f0g;
  finish.mb = finish.f0b;
  filmReflectance(material(scene, m, M_IRIDESCENCE_IOR), material(scene, m, M_IRIDESCENCE_THICKNESS), nv, out, scratch);
  // Back from this angle to straight on, so that the Fresnel curve through it can be followed from there.
  const w = Math.min(0.95, schlickWeight(nv));
  const scale = 1.0 / (1.0 - w);
  finish.f0r += film * (Math.max(0.0, (finish.mr - w * f90) * scale) - finish.f0r);
  finish.f0g += film * (Math.max(0.0, (finish.mg - w * f90) * scale) - finish.f0g);
  finish.f0b += film * (Math.max(0.0, (finish.mb - w * f90) * scale) - finish.f0b);
}
