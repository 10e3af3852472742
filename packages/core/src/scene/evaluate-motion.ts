import { verticalFov } from '../camera/index.ts';
import { aimMatrix, type Mat4 } from '../geometry/index.ts';
import type { ShownPart } from '../product/index.ts';
import type { ParticlesEffect } from '../document/index.ts';
import { playedFrame } from './effects.ts';
import { bodyOf, cameraOf, evaluate, groundUnder, posed, simulatedAt, type EvaluateContext } from './evaluate.ts';
import { productLook, rowsAt } from './place/particles.ts';
import { partsOf, placeProduct, topOf } from './place/product.ts';
import { surfaceMatrix } from './place/surface.ts';
import type { ShotProgram } from './program.ts';
import { withPartMoves } from './part-moves.ts';
import type { Moves, Tableau, TableauSwarm, TableauVolume } from './tableau.ts';

/**
 * The same as evaluate() with everything's place as the shutter closes (it opens at `frame`) and one frame before: what
 * motion blur and motion vectors need. For those two only places of moving things are worked out; things that do not move
 * are left without.
 * @param frame whole, or a part of one. @param step frames of the shot from a frame of the picture to the next, and from the one before:
 * the shutter is open for a share of the first.
 */
export function evaluateMotion(
  program: ShotProgram,
  frame: number,
  context: EvaluateContext,
  step: { next: number; last: number } = { next: 1, last: 1 },
): Tableau {
  const open = evaluate(program, frame, context);
  const { moving } = program;
  const shutter = (posed(cameraOf(program), frame).shutter / 360) * step.next;
  const earlier = frame - step.last;
  if (open.swarms.length > 0)
    open.swarms = open.swarms.map((swarm) => swarmMoves(swarm, program, [frame, shutter, earlier], context));
  if (open.volumes.length > 0 && shutter > 0) open.volumes = smokeMoves(program, frame, shutter, context, open.volumes);
  if (moving.size === 0) return open;
  const close = shutter > 0 ? placesAt(program, frame + shutter, context) : null;
  const before = placesAt(program, earlier, context);
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

/** A swarm with where each of it is at the two other times; what is not there then stays where it is. */
function swarmMoves(
  swarm: TableauSwarm,
  program: ShotProgram,
  [frame, shutter, earlier]: readonly [frame: number, shutter: number, earlier: number],
  context: EvaluateContext,
): TableauSwarm {
  const slot = program.effects.find(({ thing }) => thing.id === swarm.id)!;
  const at = (time: number): Float32Array | undefined => {
    const effect = posed(slot, time) as ParticlesEffect;
    const there = simulatedAt(effect, time, program, context);
    if (there?.kind !== 'particles') return undefined;
    const item = program.products.find(({ thing }) => thing.id === effect.product)?.thing;
    const body = item && effect.form === 'product' ? bodyOf(item, context) : null;
    const rows = rowsAt(effect, there, body ? productLook({ body, item: item! }, time) : undefined);
    const out = swarm.matrices.slice();
    // Both in the order of their numbers.
    let j = 0;
    for (let i = 0; i < swarm.count; i++) {
      while (j < there.count && there.numbers[j] < swarm.numbers[i]) j++;
      if (there.numbers[j] === swarm.numbers[i] && j < there.count) out.set(rows.subarray(j * 12, j * 12 + 12), i * 12);
    }
    return out;
  };
  return { ...swarm, close: shutter > 0 ? at(frame + shutter) : undefined, before: at(earlier) };
}

/** Volumes with the ways that their density goes while the shutter is open; in the order of their effects. */
function smokeMoves(
  program: ShotProgram,
  frame: number,
  shutter: number,
  context: EvaluateContext,
  volumes: readonly TableauVolume[],
): TableauVolume[] {
  let n = 0;
  const out = [...volumes];
  for (const slot of program.effects) {
    const effect = posed(slot, frame);
    const seen = simulatedAt(effect, frame, program, context);
    if (effect.kind !== 'smoke' || seen?.kind !== 'smoke') continue;
    const volume = out[n];
    const [now, then] = [frame, frame + shutter].map((at) => playedFrame(effect, at, program.shot.length) ?? 0);
    // Where a loop begins anew, and where it is held at its end, nothing is drawn out.
    const frames = Math.abs(then - now) > effect.playback.speed * Math.max(1, shutter) ? 0 : then - now;
    if (seen.motion && volume.grid && frames !== 0) {
      const { size, ways } = seen.motion;
      out[n] = { ...volume, grid: { ...volume.grid, shutter: { size, ways: ways.map((v) => v * frames) } } };
    }
    n++;
  }
  return out;
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
  const { id, position, aim, roll, focalLength, sensorWidth } = posed(cameraOf(program), frame);
  places.set(id, aimMatrix(position, aim, roll));
  return { places, parts, fov: verticalFov(focalLength, sensorWidth, context.aspect) };
}
