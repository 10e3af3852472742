import { verticalFov } from '../camera/index.ts';
import type { SetCamera } from '../document/index.ts';
import { aimMatrix, type Mat4 } from '../geometry/index.ts';
import { shownParts } from '../product/index.ts';
import { bodyOf, cameraOf, evaluate, groundUnder, posing, type EvaluateContext } from './evaluate.ts';
import { placeProduct } from './place/product.ts';
import { surfaceMatrix } from './place/surface.ts';
import type { ShotProgram } from './program.ts';
import type { Moves, Tableau } from './tableau.ts';

/**
 * The same as evaluate() with everything's place as the shutter closes (it opens at `frame`) and one frame before: what
 * motion blur and motion vectors need. For those two only places of moving things are worked out; things that do not move
 * are left without.
 */
export function evaluateMotion(program: ShotProgram, frame: number, context: EvaluateContext): Tableau {
  const open = evaluate(program, frame, context);
  if (program.moving.size === 0) return open;
  const base = cameraOf(program);
  const shutter = posing(program, frame)(base).shutter / 360;
  const close = shutter > 0 ? placesAt(program, frame + shutter, context) : null;
  const before = placesAt(program, frame - 1, context);
  const moved = <T extends Moves & { id: string; matrix: Mat4 }>(list: readonly T[]): T[] =>
    list.map((thing) =>
      program.moving.has(thing.id) ? withMoves(thing, close?.places.get(thing.id), before.places.get(thing.id)) : thing,
    );
  const { camera } = open;
  return {
    ...open,
    instances: moved(open.instances),
    surfaces: moved(open.surfaces),
    lights: moved(open.lights),
    camera: {
      ...withMoves(camera, close?.places.get(camera.id), before.places.get(camera.id)),
      fovBefore: fovOf(before.camera, context.aspect),
    },
  };
}

function fovOf({ focalLength, sensorWidth }: SetCamera, aspect: number): number {
  return verticalFov(focalLength, sensorWidth, aspect);
}

function withMoves<T extends Moves & { matrix: Mat4 }>(thing: T, close?: Mat4, before?: Mat4): T {
  const differs = (other?: Mat4): Mat4 | undefined =>
    other && other.some((v, i) => Math.abs(v - thing.matrix[i]) > 1e-9) ? other : undefined;
  return { ...thing, close: differs(close), before: differs(before) };
}

/** Where moving things and the camera are at a frame. */
function placesAt(
  program: ShotProgram,
  frame: number,
  context: EvaluateContext,
): { places: Map<string, Mat4>; camera: SetCamera } {
  const { set, moving } = program;
  const pose = posing(program, frame);
  const places = new Map<string, Mat4>();
  const tops = new Map<string, number>();
  // A thing at rest is looked at only when something stands on it.
  const carriers = new Set(program.products.map((p) => p.standsOn));
  for (const item of program.products) {
    if (!moving.has(item.id) && !carriers.has(item.id)) continue;
    const posed = pose(item);
    const body = posed.visible ? bodyOf(posed, context) : null;
    if (!body) continue;
    const parts = shownParts(body.product, posed.variant, body.meshes, frame);
    const { matrix, top } = placeProduct(posed, body, parts, groundUnder(posed, set, pose, tops));
    places.set(item.id, matrix);
    tops.set(item.id, top);
  }
  for (const surface of set.surfaces) if (moving.has(surface.id)) places.set(surface.id, surfaceMatrix(pose(surface)));
  for (const light of set.lights) {
    if (!moving.has(light.id)) continue;
    const { position, aim } = pose(light);
    places.set(light.id, aimMatrix(position, aim));
  }
  const camera = pose(cameraOf(program));
  places.set(camera.id, aimMatrix(camera.position, camera.aim));
  return { places, camera };
}
