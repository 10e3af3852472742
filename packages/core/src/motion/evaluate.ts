import { vec3 } from 'gl-matrix';
import { get, set as assign } from 'lodash-es';
import { Problem } from '../problem/index.ts';
import { hexToLinear, makeFinish, type Finish } from '../finish/index.ts';
import {
  aimMatrix,
  boundsCentre,
  boundsOf,
  emptyBounds,
  identity,
  placementMatrix,
  seatOffset,
  transformPoint,
  type Bounds,
  type Mat4,
  type Mesh,
  type Vec3,
} from '../geometry/index.ts';
import { exposureScale } from '../light/index.ts';
import { apertureRadius, verticalFov } from '../camera/index.ts';
import type {
  BlockSurface,
  ProductDocument,
  SetCamera,
  SetDocument,
  SetProduct,
  SetSurface,
  ShotDocument,
} from '../document/index.ts';
import { modelKey, shownParts } from '../product/index.ts';
import { placeLight } from './place-light.ts';
import { sampleTrack } from './sample-track.ts';
import type { Moves, Tableau, TableauCamera, TableauInstance, TableauSurface } from './tableau.ts';

/** What evaluate() looks things up in. */
export interface EvaluateContext {
  /** Products by id. */
  products: ReadonlyMap<string, ProductDocument>;
  /** Meshes of a model by its key (see modelKey()); an instance whose model is not there yet is left out. */
  meshes: (model: string) => readonly Mesh[] | undefined;
  /** Picture width over height. */
  aspect: number;
}

/** Every thing in a set that has an id, and so can be selected and keyed. */
export function thingsOf(set: SetDocument): Array<{ id: string; name: string; thing: object }> {
  return [
    ...set.products.map((thing) => ({ id: thing.id, name: thing.name, thing })),
    ...set.surfaces.map((thing) => ({ id: thing.id, name: thing.name, thing })),
    ...set.lights.map((thing) => ({ id: thing.id, name: thing.name, thing })),
    { id: set.environment.id, name: 'Room', thing: set.environment },
    ...set.cameras.map((thing) => ({ id: thing.id, name: thing.name, thing })),
  ];
}

/**
 * The set with every keyed number at its value at `frame`. Tracks whose thing is gone or whose property is not a
 * number are passed over: a shot outlives what was deleted from its set.
 */
export function applyTracks(set: SetDocument, shot: ShotDocument, frame: number): SetDocument {
  if (shot.tracks.length === 0) return set;
  const moved = JSON.parse(JSON.stringify(set)) as SetDocument;
  const things = new Map(thingsOf(moved).map((t) => [t.id, t.thing]));
  for (const track of shot.tracks) {
    const thing = things.get(track.thing);
    if (thing && track.keys.length > 0 && typeof get(thing, track.path) === 'number') {
      assign(thing, track.path, sampleTrack(track.keys, frame));
    }
  }
  return moved;
}

/**
 * A document plus a frame number gives a picture: this is the first half. Pure; the same inputs give the same tableau
 * in the browser and on the server.
 *
 * @throws Problem `shot/no-camera` when the shot's camera is not in the set.
 */
export function evaluate(set: SetDocument, shot: ShotDocument, frame: number, context: EvaluateContext): Tableau {
  const at = applyTracks(set, shot, frame);
  const camera = at.cameras.find((c) => c.id === shot.camera);
  if (!camera) {
    throw new Problem(
      'shot/no-camera',
      `The camera of shot "${shot.name}" is no longer in the set: choose another camera.`,
      shot.name,
    );
  }
  const tops: Placed = new Map();
  const instances = inOrder(at.products.filter((p) => p.visible)).flatMap((p) =>
    placeProduct(p, at, context, tops, frame),
  );
  return {
    frame,
    seed: shot.seed,
    instances,
    surfaces: at.surfaces.filter((s) => s.visible).map(placeSurface),
    lights: at.lights.filter((l) => l.on && l.lumens > 0).map(placeLight),
    environment: {
      intensity: at.environment.intensity,
      rotation: (at.environment.rotation * Math.PI) / 180,
      seen: at.environment.seen,
      room: at.environment.room,
    },
    camera: placeCamera(camera, context.aspect, focusPoint(camera, at, instances, context)),
    volumes: [],
    view: at.view,
  };
}

/**
 * The same with everything's place as the shutter closes (it opens at `frame`) and one frame before: what motion blur and
 * motion vectors need. Things that do not move are left without.
 */
export function evaluateMotion(set: SetDocument, shot: ShotDocument, frame: number, context: EvaluateContext): Tableau {
  const open = evaluate(set, shot, frame, context);
  if (shot.tracks.length === 0) return open;
  const shutter = applyTracks(set, shot, frame).cameras.find((c) => c.id === shot.camera)!.shutter / 360;
  const close = shutter > 0 ? evaluate(set, shot, frame + shutter, context) : open;
  const before = evaluate(set, shot, frame - 1, context);
  const moved = <T extends Moves & { id: string; matrix: Mat4 }>(list: T[], of: (tableau: Tableau) => T[]): T[] => {
    const find = (tableau: Tableau, id: string): Mat4 | undefined => of(tableau).find((t) => t.id === id)?.matrix;
    return list.map((thing) => withMoves(thing, find(close, thing.id), find(before, thing.id)));
  };
  const { camera } = open;
  return {
    ...open,
    instances: moved(open.instances, (t) => t.instances),
    surfaces: moved(open.surfaces, (t) => t.surfaces),
    lights: moved(open.lights, (t) => t.lights),
    camera: { ...withMoves(camera, close.camera.matrix, before.camera.matrix), fovBefore: before.camera.verticalFov },
  };
}

function withMoves<T extends Moves & { matrix: Mat4 }>(thing: T, close?: Mat4, before?: Mat4): T {
  const differs = (other?: Mat4): Mat4 | undefined =>
    other && other.some((v, i) => Math.abs(v - thing.matrix[i]) > 1e-9) ? other : undefined;
  return { ...thing, close: differs(close), before: differs(before) };
}

function placeSurface(surface: SetSurface): TableauSurface {
  const { id, name, seenBy } = surface;
  const look = { id, name, seenBy, finish: surfaceFinish(surface) };
  if (surface.kind === 'card') {
    const { kind, width, height, position, aim } = surface;
    return { ...look, shape: { kind, width, height }, matrix: aimMatrix(position, aim) };
  }
  if (surface.kind === 'block') {
    const { kind, form, width, height, depth, bevel, steps, position, turn } = surface;
    const shape = { kind, form, width, height, depth, bevel, steps };
    return { ...look, shape, matrix: placementMatrix(position, turn, 0, 0, 1) };
  }
  const { kind, width, depth, height, radius, mirror, catcher } = surface;
  return { ...look, shape: { kind, width, depth, height, radius }, matrix: identity(), mirror, catcher };
}

const finishes = new WeakMap<Finish, Finish>();

/** What a surface looks like; thin ones are seen from both sides. */
function surfaceFinish({ name, colour, roughness, finish }: SetSurface): Finish {
  if (!finish)
    return makeFinish(name, { baseColor: hexToLinear(colour) ?? [0.5, 0.5, 0.5], roughness, doubleSided: true });
  const known = finishes.get(finish) ?? { ...finish, doubleSided: true };
  finishes.set(finish, known);
  return known;
}

/** Products in the order in which they can be placed: what something stands on comes before it. */
function inOrder(products: readonly SetProduct[]): SetProduct[] {
  const byId = new Map(products.map((p) => [p.id, p]));
  const depth = (p: SetProduct, seen: Set<string>): number => {
    const under = p.seated ? byId.get(p.standsOn) : undefined;
    // A ring of things that stand on each other ends where it closes.
    return under && !seen.has(under.id) ? 1 + depth(under, new Set([...seen, p.id])) : 0;
  };
  return [...products].sort((a, b) => depth(a, new Set([a.id])) - depth(b, new Set([b.id])));
}

/** Height of the ground under a thing at `x`, `z`: the floor, or the top of what it stands on there. */
function groundUnder(item: SetProduct, set: SetDocument, placed: Placed): number {
  if (!item.standsOn) return 0;
  const surface = set.surfaces.find((s) => s.id === item.standsOn);
  if (surface?.kind === 'block') return blockTop(surface, item.position[0], item.position[2]);
  return placed.get(item.standsOn) ?? 0;
}
/** Tops of products that are placed already. */
type Placed = Map<string, number>;

/** Height of a block's upper side; of the step that is under the place. */
export function blockTop(block: BlockSurface, x: number, z: number): number {
  const base = block.position[1];
  if (block.form !== 'steps') return base + block.height;
  const a = (block.turn * Math.PI) / 180;
  const forward = Math.sin(a) * (x - block.position[0]) + Math.cos(a) * (z - block.position[2]);
  const share = 0.5 - forward / Math.max(1e-6, block.depth);
  const step = Math.min(block.steps, Math.max(1, Math.ceil(share * block.steps + 1e-9)));
  return base + (block.height * step) / block.steps;
}

function placeProduct(
  item: SetProduct,
  set: SetDocument,
  context: EvaluateContext,
  tops: Placed,
  frame: number,
): TableauInstance[] {
  const product = context.products.get(item.product);
  const model = product && modelKey(product);
  const meshes = model && context.meshes(model);
  if (!product || !meshes) return [];
  const parts = shownParts(product, item.variant, meshes, frame);
  const placed = (position: Vec3): number[] =>
    placementMatrix(position, item.turn, item.tilt, item.roll, product.scale * item.scale);
  const position: Vec3 = [...item.position];
  if (item.seated) {
    const lift = seatOffset(
      parts.map((p) => meshes[p.index]),
      placed([position[0], 0, position[2]]),
    );
    position[1] += lift + groundUnder(item, set, tops);
  }
  const matrix = placed(position);
  tops.set(
    item.id,
    boundsOf(
      parts.map((p) => meshes[p.index]),
      matrix,
    ).max[1],
  );
  return [{ id: item.id, name: item.name, model, matrix, parts, seenBy: item.seenBy }];
}

const boxes = new WeakMap<Mesh, Bounds>();

/** What the camera keeps in focus: the middle of a product, the place of another thing, or null for its own distance. */
function focusPoint(
  camera: SetCamera,
  set: SetDocument,
  instances: TableauInstance[],
  context: EvaluateContext,
): Vec3 | null {
  if (!camera.focusOn) return null;
  const instance = instances.find((i) => i.id === camera.focusOn);
  if (!instance) {
    const other = thingsOf(set).find((t) => t.id === camera.focusOn)?.thing as { position?: Vec3 } | undefined;
    return other?.position ?? null;
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

function placeCamera(camera: SetCamera, aspect: number, focus: Vec3 | null): TableauCamera {
  const matrix = aimMatrix(camera.position, camera.aim);
  const depth = focus ? -[0, 1, 2].reduce((d, a) => d + (focus[a] - camera.position[a]) * matrix[8 + a], 0) : 0;
  return {
    id: camera.id,
    position: camera.position,
    aim: camera.aim,
    matrix,
    verticalFov: verticalFov(camera.focalLength, camera.sensorWidth, aspect),
    aspect,
    apertureRadius: apertureRadius(camera.focalLength, camera.fNumber),
    blades: camera.blades,
    focusDistance: depth > 0.01 ? depth : camera.focus > 0 ? camera.focus : vec3.distance(camera.position, camera.aim),
    shift: [camera.shiftX * 2, camera.shiftY * 2],
    exposureScale: exposureScale(camera.exposure),
  };
}
