import { Problem } from '../problem/index.ts';
import type { ProductDocument, SetCamera, SetEffect, SetProduct, SetThing } from '../document/index.ts';
import {
  boundsCentre,
  boundsOf,
  emptyBounds,
  transformPoint,
  type Bounds,
  type Mesh,
  type Vec3,
} from '../geometry/index.ts';
import type { Mover } from '../motion/index.ts';
import { placeCamera } from './place/camera.ts';
import { placeLight } from './place/light.ts';
import { bodyFor, keyOf, movingInstance, standingInstance, topOf, type Body } from './place/product.ts';
import { placeSurface, surfaceTop } from './place/surface.ts';
import type { ShotProgram, Slot } from './program.ts';
import type {
  Tableau,
  TableauCamera,
  TableauInstance,
  TableauLight,
  TableauSurface,
  TableauSwarm,
  TableauVolume,
} from './tableau.ts';
import { playedFrame, type Simulated } from './effects.ts';
import { placeParticles } from './place/particles.ts';
import { placeSmoke } from './place/smoke.ts';

/** What evaluate() looks things up in. */
export interface EvaluateContext {
  /** Products by id. */
  products: ReadonlyMap<string, ProductDocument>;
  /** Meshes of a model by its key (see modelKey()); an instance whose model is not there yet is left out. */
  meshes: (model: string) => readonly Mesh[] | undefined;
  /** Picture width over height. */
  aspect: number;
  /** What is simulated of an effect at one of its frames, counted from its beginning; undefined while it is not there. */
  simulated?: (effect: string, frame: number) => Simulated | undefined;
}

/** A thing as it is at a frame, for looking at only: the next frame writes over it. */
export function posed<T extends SetThing>({ thing, poser }: Slot<T>, frame: number): T {
  return poser ? poser.fleeting(frame) : thing;
}

/** @throws Problem `shot/no-camera` when the shot's camera is not in the set. */
export function cameraOf({ camera, shot }: ShotProgram): Slot<SetCamera> {
  if (camera) return camera;
  throw new Problem(
    'shot/no-camera',
    `The camera of shot "${shot.name}" is no longer in the set: choose another camera.`,
    shot.name,
  );
}

/** A product with its meshes, or null while they are not there. */
export function bodyOf(item: SetProduct, context: EvaluateContext): Body | null {
  const product = context.products.get(item.product);
  if (!product) return null;
  const meshes = context.meshes(keyOf(product));
  return meshes ? bodyFor(product, meshes, item) : null;
}

/** Height of what a product stands on at its place: the floor, or the top of a thing. */
export function groundUnder(
  item: SetProduct,
  { surfaces }: ShotProgram,
  frame: number,
  tops: ReadonlyMap<string, number>,
): number {
  if (!item.standsOn) return 0;
  const slot = surfaces.find((s) => s.thing.id === item.standsOn);
  const surface = slot && posed(slot, frame);
  const top = surface ? surfaceTop(surface, item.position[0], item.position[2]) : null;
  return top ?? tops.get(item.standsOn) ?? 0;
}

/**
 * A document plus a frame number gives a picture: this is the first half. Pure: the same documents and frame give the same
 * tableau in the browser and on the server. What did not change since another frame is the same object in both.
 *
 * @throws Problem `shot/no-camera` when the shot's camera is not in the set.
 */
export function evaluate(program: ShotProgram, frame: number, context: EvaluateContext): Tableau {
  const { set, shot } = program;
  const camera = posed(cameraOf(program), frame);
  const { instances, surfaces } = matterAt(program, frame, context);
  const lights: TableauLight[] = [];
  for (const slot of program.lights) {
    const light = posed(slot, frame);
    if (light.on && light.lumens > 0) lights.push(slot.poser ? placeLight(light) : kept(light, placeLight));
  }
  const room = program.moves.posers.get(set.environment.id) as Mover<typeof set.environment> | undefined;
  const { intensity, rotation, seen, room: walls } = room?.fleeting(frame) ?? set.environment;
  const placedCamera = placeCamera(camera, context.aspect, focusPoint(camera, program, frame, instances, context));
  return {
    frame,
    seed: shot.seed,
    instances,
    surfaces,
    lights,
    environment: { intensity, rotation: (rotation * Math.PI) / 180, seen, room: walls },
    camera: placedCamera,
    ...effectsAt(program, frame, context, placedCamera),
    view: set.view,
  };
}

/** What takes up room in a set. */
export interface Matter {
  instances: TableauInstance[];
  surfaces: TableauSurface[];
}

/** Products and surfaces at a frame, without camera or lights. */
export function matterAt(program: ShotProgram, frame: number, context: EvaluateContext): Matter {
  const instances: TableauInstance[] = [];
  const tops = new Map<string, number>();
  for (const slot of program.products) {
    const item = posed(slot, frame);
    const body = item.visible ? bodyOf(item, context) : null;
    if (!body) continue;
    const ground = groundUnder(item, program, frame, tops);
    const instance = (slot.poser ? movingInstance : standingInstance)(item, body, ground, frame);
    instances.push(instance);
    if (slot.carries) tops.set(item.id, topOf(instance.matrix, body, instance.parts));
  }
  const surfaces: TableauSurface[] = [];
  for (const slot of program.surfaces) {
    const surface = posed(slot, frame);
    if (surface.visible) surfaces.push(slot.poser ? placeSurface(surface) : kept(surface, placeSurface));
  }
  return { instances, surfaces };
}

/** What effects show at a frame. */
function effectsAt(
  program: ShotProgram,
  frame: number,
  context: EvaluateContext,
  camera: TableauCamera,
): Pick<Tableau, 'volumes' | 'swarms'> {
  const volumes: TableauVolume[] = [];
  const swarms: TableauSwarm[] = [];
  for (const slot of program.effects) {
    const effect = posed(slot, frame);
    const seen = simulatedAt(effect, frame, program, context);
    if (effect.kind === 'smoke' && seen?.kind === 'smoke') volumes.push(placeSmoke(effect, seen));
    if (effect.kind !== 'particles' || seen?.kind !== 'particles' || seen.count === 0) continue;
    const item = program.products.find(({ thing }) => thing.id === effect.product);
    const body = item && effect.form === 'product' ? bodyOf(item.thing, context) : null;
    const swarm = placeParticles(effect, seen, camera, frame, body && { body, item: item!.thing });
    if (swarm) swarms.push(swarm);
  }
  return { volumes, swarms };
}

/** What is simulated of an effect that is seen at a frame of the shot. */
export function simulatedAt(
  effect: SetEffect,
  frame: number,
  { shot }: ShotProgram,
  { simulated }: EvaluateContext,
): Simulated | undefined {
  const at = simulated && effect.visible ? playedFrame(effect, frame, shot.length) : null;
  return at === null ? undefined : simulated!(effect.id, at);
}

const placed = new WeakMap<object, unknown>();

/** What `place` makes of a thing that stands still, made once. */
function kept<T extends object, R>(thing: T, place: (thing: T) => R): R {
  let made = placed.get(thing) as R | undefined;
  if (!made) placed.set(thing, (made = place(thing)));
  return made;
}

const boxes = new WeakMap<Mesh, Bounds>();

/** What the camera keeps in focus: the middle of a product, the place of another thing, or null for its own distance. */
function focusPoint(
  camera: SetCamera,
  { products, surfaces, lights, set, moves }: ShotProgram,
  frame: number,
  instances: readonly TableauInstance[],
  context: EvaluateContext,
): Vec3 | null {
  if (!camera.focusOn) return null;
  const instance = instances.find((i) => i.id === camera.focusOn);
  if (!instance) {
    const others: ReadonlyArray<Slot<SetThing>> = [
      ...products,
      ...surfaces,
      ...lights,
      ...[...set.cameras, ...set.nulls].map((thing) => ({ thing, poser: moves.posers.get(thing.id) ?? null })),
    ] as never;
    const other = others.find((slot) => slot.thing.id === camera.focusOn);
    return (other && (posed(other, frame) as { position?: Vec3 }).position) ?? null;
  }
  const all = emptyBounds();
  for (const { index } of instance.parts) {
    const mesh = context.meshes(instance.model)![index];
    // Meshes outlive frames, so each is measured once.
    const box = boxes.get(mesh) ?? boundsOf([mesh]);
    boxes.set(mesh, box);
    for (let a = 0; a < 3; a++) {
      all.min[a] = Math.min(all.min[a], box.min[a]);
      all.max[a] = Math.max(all.max[a], box.max[a]);
    }
  }
  return Number.isFinite(all.min[0]) ? transformPoint(instance.matrix, boundsCentre(all)) : null;
}
