import type { Mat4, Vec3 } from '../geometry/index.ts';
import { tan } from '../maths/index.ts';
import { cameraOf, posed } from './evaluate.ts';
import type { ShotProgram } from './program.ts';
import type { Moves, Tableau } from './tableau.ts';

/** A camera as it is in a frame: metres, world directions. */
export interface FrameCamera {
  eye: Vec3;
  right: Vec3;
  up: Vec3;
  forward: Vec3;
  /** Picture heights across for a metre a metre away. */
  focal: number;
  /** Picture heights by which the picture is shifted, right and up. */
  shift: [number, number];
}

/** Where camera and things of the set are in a frame, and as its shutter closes where that is elsewhere. */
export interface FrameSpace {
  camera: FrameCamera;
  closing?: FrameCamera;
  /** Frames that the shutter is open. */
  shutter: number;
  /** Radius, and distance of what is sharp, metres. */
  aperture: number;
  focus: number;
  things: Readonly<Record<string, { at: Vec3; close?: Vec3 }>>;
}

/** A hundredth of a millimetre: finer says nothing, and takes room in every frame of a take. */
const round = (v: number): number => Math.round(v * 1e5) / 1e5;
const spot = (m: Mat4): Vec3 => [round(m[12]), round(m[13]), round(m[14])];

/**
 * Where things are in a frame, for what is laid over its picture later.
 * @param tableau of that frame, as evaluateMotion() gives it. @param next frames of the shot until the next frame of the picture.
 */
export function frameSpace(program: ShotProgram, frame: number, tableau: Tableau, next = 1): FrameSpace {
  const { camera } = tableau;
  const shutter = (posed(cameraOf(program), frame).shutter / 360) * next;
  const focal = 0.5 / tan(camera.verticalFov / 2);
  const shift: [number, number] = [(camera.shift[0] * camera.aspect) / 2, camera.shift[1] / 2];
  // Directions are kept whole: a far card would show their rounding.
  const seen = (m: Mat4): FrameCamera => ({
    ...{ eye: [m[12], m[13], m[14]], right: [m[0], m[1], m[2]], up: [m[4], m[5], m[6]] },
    ...{ forward: [-m[8], -m[9], -m[10]], focal, shift },
  });
  const things: Record<string, { at: Vec3; close?: Vec3 }> = {};
  const placed: ReadonlyArray<Moves & { id: string; matrix: Mat4 }> = [
    ...tableau.instances,
    ...tableau.surfaces,
    ...tableau.lights,
  ];
  for (const { id, matrix, close } of placed) things[id] = { at: spot(matrix), ...(close && { close: spot(close) }) };
  const { set, moves } = program;
  for (const thing of set.nulls) {
    const slot = { thing, poser: moves.posers.get(thing.id) ?? null } as Parameters<typeof posed>[0];
    const at = (time: number): Vec3 => (posed(slot, time) as { position: Vec3 }).position.map(round) as Vec3;
    things[thing.id] = { at: at(frame), ...(slot.poser && { close: at(frame + shutter) }) };
  }
  return {
    ...{ camera: seen(camera.matrix), shutter, aperture: camera.apertureRadius, focus: camera.focusDistance, things },
    ...(camera.close && { closing: seen(camera.close) }),
  };
}
