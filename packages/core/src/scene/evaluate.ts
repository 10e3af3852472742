import { Problem } from '../problem/index.ts';
import type { ProductDocument, SetCamera, SetDocument, SetProduct, SetThing } from '../document/index.ts';
import {
  boundsCentre,
  boundsOf,
  emptyBounds,
  transformPoint,
  type Bounds,
  type Mesh,
  type Vec3,
} from '../geometry/index.ts';
import type { Poser } from '../motion/index.ts';
import { placeCamera } from './place/camera.ts';
import { placeLight } from './place/light.ts';
import { instanceOf, keyOf, type Body } from './place/product.ts';
import { blockTop, placeSurface } from './place/surface.ts';
import type { ShotProgram } from './program.ts';
import type { Tableau, TableauInstance } from './tableau.ts';

/** What evaluate() looks things up in. */
export interface EvaluateContext {
  /** Products by id. */
  products: ReadonlyMap<string, ProductDocument>;
  /** Meshes of a model by its key (see modelKey()); an instance whose model is not there yet is left out. */
  meshes: (model: string) => readonly Mesh[] | undefined;
  /** Picture width over height. */
  aspect: number;
}

/** Gives a thing as it is at a frame. */
export function posing({ moves }: ShotProgram, frame: number): <T extends SetThing>(thing: T) => T {
  const { posers } = moves;
  return (thing) => (posers.get(thing.id) as Poser<typeof thing> | undefined)?.at(frame) ?? thing;
}

/** @throws Problem `shot/no-camera` when the shot's camera is not in the set. */
export function cameraOf({ set, shot }: ShotProgram): SetCamera {
  const camera = set.cameras.find((c) => c.id === shot.camera);
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
  const model = keyOf(product);
  const meshes = context.meshes(model);
  return meshes ? { product, model, meshes } : null;
}

/** Height of what a product stands on at its place: the floor, or the top of a thing. */
export function groundUnder(
  item: SetProduct,
  set: SetDocument,
  pose: <T extends SetThing>(thing: T) => T,
  tops: ReadonlyMap<string, number>,
): number {
  if (!item.standsOn) return 0;
  const surface = set.surfaces.find((s) => s.id === item.standsOn);
  if (surface?.kind === 'block') return blockTop(pose(surface), item.position[0], item.position[2]);
  return tops.get(item.standsOn) ?? 0;
}

/**
 * A document plus a frame number gives a picture: this is the first half. Pure: the same documents and frame give the same
 * tableau in the browser and on the server. What did not change since another frame is the same object in both.
 *
 * @throws Problem `shot/no-camera` when the shot's camera is not in the set.
 */
export function evaluate(program: ShotProgram, frame: number, context: EvaluateContext): Tableau {
  const { set, shot } = program;
  const pose = posing(program, frame);
  const camera = pose(cameraOf(program));
  const instances: TableauInstance[] = [];
  const tops = new Map<string, number>();
  for (const item of program.products) {
    const posed = pose(item);
    const body = posed.visible ? bodyOf(posed, context) : null;
    if (!body) continue;
    const { instance, top } = instanceOf(posed, body, groundUnder(posed, set, pose, tops), frame);
    instances.push(instance);
    tops.set(item.id, top);
  }
  const surfaces = set.surfaces.map(pose).filter((s) => s.visible);
  const lights = set.lights.map(pose).filter((l) => l.on && l.lumens > 0);
  const { intensity, rotation, seen, room } = pose(set.environment);
  return {
    frame,
    seed: shot.seed,
    instances,
    surfaces: surfaces.map(kept(placeSurface)),
    lights: lights.map(kept(placeLight)),
    environment: { intensity, rotation: (rotation * Math.PI) / 180, seen, room },
    camera: placeCamera(camera, context.aspect, focusPoint(camera, set, pose, instances, context)),
    volumes: [],
    view: set.view,
  };
}

const placed = new WeakMap<object, WeakMap<object, unknown>>();

/** `place`, remembering what it made of each thing. */
function kept<T extends object, R>(place: (thing: T) => R): (thing: T) => R {
  const known = (placed.get(place) ?? new WeakMap()) as WeakMap<T, R>;
  placed.set(place, known as WeakMap<object, unknown>);
  return (thing) => {
    let made = known.get(thing);
    if (!made) known.set(thing, (made = place(thing)));
    return made;
  };
}

const boxes = new WeakMap<Mesh, Bounds>();

/** What the camera keeps in focus: the middle of a product, the place of another thing, or null for its own distance. */
function focusPoint(
  camera: SetCamera,
  set: SetDocument,
  pose: <T extends SetThing>(thing: T) => T,
  instances: readonly TableauInstance[],
  context: EvaluateContext,
): Vec3 | null {
  if (!camera.focusOn) return null;
  const instance = instances.find((i) => i.id === camera.focusOn);
  if (!instance) {
    const others: SetThing[] = [...set.products, ...set.surfaces, ...set.lights, ...set.cameras];
    const other = others.find((t) => t.id === camera.focusOn);
    return (other && (pose(other) as { position?: Vec3 }).position) ?? null;
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
