import { Finish } from './finish';

export const COAT_F0: f64 = 0.04;

/** What a Bsdf has worked out for a surface and a viewer. */
@unmanaged
export class BsdfState {
  tables: usize;
  /** Finishes remembered, and the one at hand. */
  finishes: usize;
  finish: Finish;
  /** Last evaluated: diffuse (with sheen), glossy, and the mirror on top, each times cosine; their joint density. */
  dr: f64;
  dg: f64;
  db: f64;
  gr: f64;
  gg: f64;
  gb: f64;
  mirror: f64;
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
  /** Frame round the normal, six doubles: tangents. */
  t0: f64;
  t1: f64;
  t2: f64;
  b0: f64;
  b1: f64;
  b2: f64;
  /** Viewer in that frame. */
  wx: f64;
  wy: f64;
  ax: f64;
  ay: f64;
  aniso: bool;
  rootV: f64;
  coat: f64;
  coatAlpha: f64;
  coatRoot: f64;
  mirrorStrength: f64;
  mirrorAlpha: f64;
  mirrorRoot: f64;
  mirrorScale: f64;
  /** What the layers on top leave of facets and diffuse. */
  under: f64;
  sheenUnder: f64;
  sheenAlpha: f64;
  sr: f64;
  sg: f64;
  sb: f64;
  /** Strength and colour of the multiply scattered part, (1 - E(v)) / (pi (1 - mean E)). */
  mr: f64;
  mg: f64;
  mb: f64;
  /** Diffuse colour times what facets leave on the viewer's side, over pi times what they leave in the mean. */
  cr: f64;
  cg: f64;
  cb: f64;
  pCosine: f64;
  pFacet: f64;
  pCoat: f64;
  pMirror: f64;
  e0: f64;
  e1: f64;
  h0: f64;
  h1: f64;
  h2: f64;

  // @ts-ignore: decorator
  @inline
  scratch(): usize {
    return changetype<usize>(this) + offsetof<BsdfState>('e0');
  }
}
