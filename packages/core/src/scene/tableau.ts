import type { Mat4, Mesh, Vec3 } from '../geometry/index.ts';
import type { ShownPart } from '../product/index.ts';
import type { SmokeFlow } from './effects.ts';
import { pictureKey, type Finish, type PictureSource } from '../finish/index.ts';
import type { LightColour } from '../light/index.ts';
import type {
  BlockSurface,
  Gobo,
  Gradient,
  Room,
  RayVisibility,
  SweepSurface,
  LightLinking,
  ViewTransform,
} from '../document/index.ts';

/** The set at one frame, with nothing left to look up but the models' meshes. */
export interface Tableau {
  frame: number;
  seed: number;
  instances: TableauInstance[];
  surfaces: TableauSurface[];
  lights: TableauLight[];
  environment: { /** cd/m2 */ intensity: number; /** radians */ rotation: number; seen: boolean; room: Room };
  camera: TableauCamera;
  volumes: TableauVolume[];
  swarms: TableauSwarm[];
  view: ViewTransform;
}

/** Where a thing is, when it moves: as the shutter closes (it opens at the frame) and one frame before. */
export interface Moves {
  close?: Mat4;
  before?: Mat4;
}

export interface TableauInstance extends Moves {
  id: string;
  name: string;
  /** What the model is known by: see modelKey(). */
  model: string;
  matrix: Mat4;
  parts: readonly ShownPart[];
  rayVisibility: RayVisibility;
}

export type TableauShape =
  | ({ kind: 'sweep' } & Pick<SweepSurface, 'width' | 'depth' | 'height' | 'radius'>)
  | { kind: 'card'; width: number; height: number }
  | ({ kind: 'block' } & Pick<BlockSurface, 'form' | 'width' | 'height' | 'depth' | 'bevel' | 'steps'>);

export interface TableauSurface extends Moves {
  id: string;
  name: string;
  shape: TableauShape;
  matrix: Mat4;
  finish: Finish;
  rayVisibility: RayVisibility;
  mirror?: SweepSurface['mirror'];
  catcher?: boolean;
}

/** A light centred at its matrix's origin that emits towards -Z. */
export interface TableauLight extends Moves {
  id: string;
  name: string;
  kind: 'rect' | 'disc' | 'sphere' | 'point' | 'sun';
  matrix: Mat4;
  /** Metres; the diameter of discs and spheres. */
  width: number;
  height: number;
  /** Linear Rec.709: luminance (cd/m2) of panels, discs, spheres and suns, intensity (cd) of points. */
  radiance: LightColour;
  seen: boolean;
  /** Radians off axis at which a honeycomb cuts off; 0: none. */
  gridAngle?: number;
  /** Half angles in radians between which the beam fades out. */
  cone?: { inner: number; outer: number };
  /** Apparent diameter of a sun, radians. */
  angle?: number;
  gradient?: Gradient;
  gobo?: Gobo;
  lightLinking?: LightLinking;
}

/** A box of smoke or haze: density in a grid, or 1 everywhere. */
export interface TableauVolume {
  /** The unit cube to the world. */
  matrix: Mat4;
  /** Extinction per metre at density 1. */
  extinction: number;
  /** Share of what is met that is scattered on, linear Rec.709. */
  colour: LightColour;
  /** Henyey-Greenstein: -1 back, 0 even, 1 forward. */
  phase: number;
  /** Cells along x, y, z, x fastest; `key`: what the density is known by. */
  grid?: VolumeGrid;
}

export interface VolumeGrid {
  size: Vec3;
  density: Float32Array;
  key?: string;
  /** Each cell's own colour, by which the volume's is multiplied: bytes red, green, blue, unused; square roots of linear shares. */
  colours?: Uint32Array;
  /** Metres that density goes while the shutter is open, three a cell of a coarser grid. */
  shutter?: { size: Vec3; ways: Float32Array };
  /** Noise by which renders break density up: how far, the size of its grain in metres, and what it moves with. */
  detail?: { amount: number; size: number; flow: SmokeFlow };
}

/** What some of a swarm look like. */
export interface SwarmLook {
  /** What its meshes are known by, together. */
  key: string;
  /** What the model is known by whose own pictures the finishes use. */
  model?: string;
  parts: ReadonlyArray<{ mesh: Mesh; finish: Finish }>;
}

/** Many small things of few shapes. */
export interface TableauSwarm {
  id: string;
  name: string;
  looks: readonly SwarmLook[];
  count: number;
  /** Which look each has, and the number that it is known by from frame to frame. */
  look: Uint8Array;
  numbers: Uint32Array;
  /** Rows of the 3 x 4 matrix to the world of each, one after the other; as the shutter closes, and one frame before. */
  matrices: Float32Array;
  close?: Float32Array;
  before?: Float32Array;
  /** What it is known by, when the same swarm may come in other arrays. */
  key?: string;
}

/** Every picture that finishes of a tableau ask for, by its key; models' own pictures are not among them. */
export function picturesIn(tableau: Tableau): Map<string, PictureSource> {
  const all = new Map<string, PictureSource>();
  const swarms = tableau.swarms.flatMap(({ looks }) => looks.flatMap(({ parts }) => parts));
  const dressed = [...tableau.instances.flatMap((i) => i.parts), ...tableau.surfaces, ...swarms];
  const finishes = dressed.map((part) => part.finish);
  for (const finish of finishes)
    for (const use of Object.values(finish.textures)) if (use?.picture) all.set(pictureKey(use.picture), use.picture);
  return all;
}

export interface TableauCamera extends Moves {
  id: string;
  position: Vec3;
  aim: Vec3;
  /** World matrix; looks along -Z. */
  matrix: Mat4;
  /** Radians, at `aspect`. */
  verticalFov: number;
  fovBefore?: number;
  aspect: number;
  /** Metres; 0 is a pinhole. */
  apertureRadius: number;
  blades: number;
  focusDistance: number;
  /** In half pictures, right and up. */
  shift: [number, number];
  /** Scene luminance times this is what the view transform gets. */
  exposureScale: number;
}

export type { RayVisibility, LightLinking };
