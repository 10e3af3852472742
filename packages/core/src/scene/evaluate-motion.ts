import { verticalFov } from '../camera/index.ts';
import { aimMatrix, type Mat4 } from '../geometry/index.ts';
import type { ShownPart } from '../product/index.ts';
import { bodyOf, cameraOf, evaluate, groundUnder, posed, type EvaluateContext } from './evaluate.ts';
import { partsOf, placeProduct, topOf } from './place/product.ts';
import { surfaceMatrix } from './place/surface.ts';
import type { ShotProgram } from './program.ts';
import { withPartMoves } from './part-moves.ts';
import type { Moves, Tableau } from './tableau.ts';

/**
 * The same as evaluate() with everything's place as the shutter closes (it opens at `frame`) and one frame before: what
 * motion blur and motion vectors need. For those two only places of moving things are worked out; things that do not move
 * are left without.
 */
export function evaluateMotion(program: ShotProgram, frame: number, context: EvaluateContext): Tableau {
  const open = evaluate(program, frame, context);
  const { moving } = program;
  if (moving.size === 0) return open;
  const shutter = posed(cameraOf(program), frame).shutter / 360;
  const close = shutter > 0 ? placesAt(program, frame + shutter, context) : null;
  const before = placesAt(program, frame - 1, context);
  const { camera } = open;
  return {
    ...open,
    instances: withMoves(open.instances, moving, close, before).map((instance) =>
      moving.has(instance.id)
        ? withPartMoves(instance, close?.parts.get(instance.id), before.parts.get(instance.id))
        : instance,
    ),
    surfaces: withMoves(open.surfaces, moving, close, before),
    lights: withMoves(open.lights, moving, close, before),
    camera: {
      ...moved(camera, close?.places.get(camera.id), before.places.get(camera.id)),
      fovBefore: before.fov,
    },
  };
}

function withMoves<T extends Moves & { id: string; matrix: Mat4 }>(
  list: readonly T[],
  moving: ReadonlySet<string>,
  close: Places | null,
  before: Places,
): T[] {
  return list.map((thing) =>
    moving.has(thing.id) ? moved(thing, close?.places.get(thing.id), before.places.get(thing.id)) : thing,
  );
}

function moved<T extends Moves & { matrix: Mat4 }>(thing: T, close?: Mat4, before?: Mat4): T {
  return {
    ...thing,
    close: close && differs(close, thing.matrix) ? close : undefined,
    before: before && differs(before, thing.matrix) ? before : undefined,
  };
}

function differs(a: Mat4, b: Mat4): boolean {
  for (let i = 0; i < 16; i++) if (Math.abs(a[i] - b[i]) > 1e-9) return true;
  return false;
}

/** Where moving things and the camera are at a frame. */
interface Places {
  places: Map<string, Mat4>;
  /** Parts of products. */
  parts: Map<string, readonly ShownPart[]>;
  /** Vertical, radians. */
  fov: number;
}

function placesAt(program: ShotProgram, frame: number, context: EvaluateContext): Places {
  const places = new Map<string, Mat4>();
  const parts = new Map<string, readonly ShownPart[]>();
  const tops = new Map<string, number>();
  for (const slot of program.products) {
    // A thing at rest is looked at only when something stands on it.
    if (!slot.carried && !slot.carries) continue;
    const item = posed(slot, frame);
    const body = item.visible ? bodyOf(item, context) : null;
    if (!body) continue;
    const shown = partsOf(item, body, frame);
    const matrix = placeProduct(item, body, shown, groundUnder(item, program, frame, tops));
    places.set(item.id, matrix);
    parts.set(item.id, shown);
    if (slot.carries) tops.set(item.id, topOf(matrix, body, shown));
  }
  for (const slot of program.surfaces) if (slot.poser) places.set(slot.thing.id, surfaceMatrix(posed(slot, frame)));
  for (const slot of program.lights) {
    if (!slot.poser) continue;
    const { position, aim } = posed(slot, frame);
    places.set(slot.thing.id, aimMatrix(position, aim));
  }
  const { id, position, aim, focalLength, sensorWidth } = posed(cameraOf(program), frame);
  places.set(id, aimMatrix(position, aim));
  return { places, parts, fov: verticalFov(focalLength, sensorWidth, context.aspect) };
}
