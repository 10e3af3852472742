import { vec3 } from 'gl-matrix';
import { get, set as assign } from 'lodash-es';
import { Problem } from '../problem/index.ts';
import { hexToLinear, makeFinish } from '../finish/index.ts';
import { aimMatrix, placementMatrix, seatOffset, type Mesh, type Vec3 } from '../geometry/index.ts';
import { exposureScale, kelvinToRgb, panelLuminance } from '../light/index.ts';
import { apertureRadius, verticalFov } from '../camera/index.ts';
import type {
  ProductDocument,
  SetCamera,
  SetDocument,
  SetProduct,
  ShotDocument,
  SoftboxLight,
} from '../document/index.ts';
import { sampleTrack } from './sample-track.ts';
import type { Tableau, TableauCamera, TableauInstance, TableauLight } from './tableau.ts';

/** What evaluate() looks things up in. */
export interface EvaluateContext {
  /** Products by id. */
  products: ReadonlyMap<string, ProductDocument>;
  /** Meshes of a model by SHA-256; an instance whose model is not there yet is left out. */
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
  return {
    frame,
    seed: shot.seed,
    instances: at.products.filter((p) => p.visible).flatMap((p) => placeProduct(p, context)),
    surfaces: at.surfaces
      .filter((s) => s.visible)
      .map(({ id, name, kind, width, depth, height, radius, colour, roughness }) => ({
        id,
        shape: { kind, width, depth, height, radius },
        finish: makeFinish(name, { baseColor: hexToLinear(colour) ?? [0.5, 0.5, 0.5], roughness, doubleSided: true }),
      })),
    lights: at.lights.filter((l) => l.on && l.lumens > 0).map(placeLight),
    environment: { intensity: at.environment.intensity, rotation: (at.environment.rotation * Math.PI) / 180 },
    camera: placeCamera(camera, context.aspect),
  };
}

function placeProduct(item: SetProduct, context: EvaluateContext): TableauInstance[] {
  const product = context.products.get(item.product);
  const meshes = product && context.meshes(product.model);
  if (!product || !meshes) return [];
  const parts = product.parts.filter((p) => p.visible && p.index < meshes.length);
  const placed = (position: Vec3): number[] =>
    placementMatrix(position, item.turn, item.tilt, item.roll, product.scale);
  const position: Vec3 = [...item.position];
  if (item.seated) {
    const lift = seatOffset(
      parts.map((p) => meshes[p.index]),
      placed([position[0], 0, position[2]]),
    );
    position[1] += lift;
  }
  return [
    {
      id: item.id,
      model: product.model,
      matrix: placed(position),
      parts: parts.map((p) => ({ index: p.index, finish: product.finishes[p.finish] ?? makeFinish('Default') })),
    },
  ];
}

function placeLight(light: SoftboxLight): TableauLight {
  const luminance = panelLuminance(light.lumens, light.width, light.height);
  const [r, g, b] = kelvinToRgb(light.kelvin);
  return {
    id: light.id,
    matrix: aimMatrix(light.position, light.aim),
    width: light.width,
    height: light.height,
    radiance: [r * luminance, g * luminance, b * luminance],
    seen: light.seen,
  };
}

function placeCamera(camera: SetCamera, aspect: number): TableauCamera {
  return {
    id: camera.id,
    position: camera.position,
    aim: camera.aim,
    matrix: aimMatrix(camera.position, camera.aim),
    verticalFov: verticalFov(camera.focalLength, camera.sensorWidth, aspect),
    aspect,
    apertureRadius: apertureRadius(camera.focalLength, camera.fNumber),
    focusDistance: camera.focus > 0 ? camera.focus : vec3.distance(camera.position, camera.aim),
    exposureScale: exposureScale(camera.exposure),
  };
}
