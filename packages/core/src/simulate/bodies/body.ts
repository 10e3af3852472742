import type Rapier from '@dimforge/rapier3d-simd-compat';
import type { Mat4, Mesh, Quaternion, Vec3 } from '../../geometry/index.ts';
import type { FrameRate } from '../../time/index.ts';

/** The library of rigid bodies, started: only who uses it has it loaded. */
export type BodyEngine = typeof Rapier;

/** A mesh of a thing, in the thing's own space. */
export interface BodyPart {
  mesh: Mesh;
  /** Which of its product's parts it is. */
  part?: number;
  /** Its place in the model, when it has one of its own. */
  place?: Mat4;
  /** Kilograms per cubic metre. */
  density: number;
  /** Times the asked friction and bounce, by its finish; 1 when left out. */
  grip?: number;
  spring?: number;
  /** Share by which its shape is told smaller than it is, 0..1. */
  slack?: number;
}

/** A thing that falls, or that others fall on; `matrix` brings its model to the set where it rests. */
export interface Body {
  id: string;
  parts: readonly BodyPart[];
  matrix: Mat4;
  /** Where it is so many frames after the beginning, when it moves by keys. */
  matrixAt?: (frame: number) => Mat4;
  /** How it moves at the beginning, when it comes in struck: metres and radians a second. */
  motion?: { velocity: Vec3; spin: Vec3 };
}

/** Parts of a body that turn about a line of it. */
export interface BodyHinge {
  body: string;
  /** Numbers of the parts. */
  parts: readonly number[];
  /** A point of the line and its direction, in the model. */
  point: Vec3;
  axis: Vec3;
  /** Degrees between which it turns, and at which it begins. */
  from: number;
  to: number;
  start: number;
}

export const BODY_WAYS = ['drop', 'pour', 'throw', 'roll', 'hang'] as const;
/**
 * How bodies come in: each above its place, in a stream over the middle of their places, thrown at their places, rolling or sliding
 * over the floor to them, hung from springs.
 */
export type BodyWay = (typeof BODY_WAYS)[number];

export interface BodySettings {
  /** Struck: from their places, with the motion that they have. */
  way: BodyWay | 'struck';
  /** Metres that they fall from above their places, and how much further off each one is than the one before. */
  height: number;
  stagger: number;
  /** Metres by which they are strewn about their places. */
  spread: number;
  /** Degrees by which they are turned any way at the start; rolling, by which their directions differ. */
  tumble: number;
  /** Thrown or rolling: metres away on the floor, degrees about the vertical from which, seconds in the air. */
  away: number;
  direction: number;
  flight: number;
  /** Hung: swings a second of the spring, and how soon it comes to rest, 0..1. */
  frequency: number;
  damping: number;
  /** Share of its speed that a body keeps as it bounces, and Coulomb's coefficient. */
  bounce: number;
  friction: number;
  /** Seconds in which they are drawn to their places at the end; 0: they stay where they come to rest. */
  home: number;
  /** Frames that are gone through at least, while something else moves among them. */
  least?: number;
  /** Frames that are gone through at most. */
  most?: number;
  seed: number;
  rate: FrameRate;
}

/** Where a body is: metres, and its rotation. */
export interface BodyPose {
  position: Vec3;
  rotation: Quaternion;
}

/** Poses of each body frame by frame, from the start on, and the frame from which all of them rest. */
export interface BodyMotion {
  frames: ReadonlyMap<string, readonly BodyPose[]>;
  /** Degrees of each hinge, in the order in which they were given. */
  hinges: ReadonlyArray<readonly number[]>;
  rests: number;
}
