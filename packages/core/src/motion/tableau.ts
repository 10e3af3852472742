import type { Mat4, Vec3 } from '../geometry/index.ts';
import type { Finish } from '../finish/index.ts';
import type { LightColour } from '../light/index.ts';
import type { SweepSurface } from '../document/index.ts';

/** The set at one frame, with nothing left to look up but the models' meshes. */
export interface Tableau {
  frame: number;
  seed: number;
  instances: TableauInstance[];
  surfaces: TableauSurface[];
  lights: TableauLight[];
  environment: { /** cd/m2 */ intensity: number; /** radians */ rotation: number };
  camera: TableauCamera;
}

export interface TableauInstance {
  id: string;
  /** SHA-256 of the model. */
  model: string;
  matrix: Mat4;
  parts: Array<{ index: number; finish: Finish }>;
}

export interface TableauSurface {
  id: string;
  shape: Pick<SweepSurface, 'kind' | 'width' | 'depth' | 'height' | 'radius'>;
  finish: Finish;
}

/** A rectangular panel centred at its matrix's origin that emits towards -Z. */
export interface TableauLight {
  id: string;
  matrix: Mat4;
  width: number;
  height: number;
  /** Luminance-weighted linear Rec.709, cd/m2. */
  radiance: LightColour;
  seen: boolean;
}

export interface TableauCamera {
  id: string;
  position: Vec3;
  aim: Vec3;
  /** World matrix; looks along -Z. */
  matrix: Mat4;
  /** Radians, at `aspect`. */
  verticalFov: number;
  aspect: number;
  /** Metres; 0 is a pinhole. */
  apertureRadius: number;
  focusDistance: number;
  /** Scene luminance times this is what the view transform gets. */
  exposureScale: number;
}
