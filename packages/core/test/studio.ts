import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { instantiateKernel } from '@tender-orbit/kernel';
import { plainRoom, visibleToAll } from '@tender-orbit/core/document';
import { makeFinish, type Finish } from '@tender-orbit/core/finish';
import {
  aimMatrix,
  buildBox,
  buildTurned,
  identity,
  mergeMeshes,
  type Mat4,
  type Mesh,
  type Vec3,
} from '@tender-orbit/core/geometry';
import type { ShownPart } from '@tender-orbit/core/product';
import type { Tableau, TableauInstance, TableauLight, TableauSurface, TableauVolume } from '@tender-orbit/core/scene';
import {
  KernelTracer,
  packScene,
  roomOf,
  type DecodedImage,
  type ModelData,
  type PackedScene,
  type Passes,
  type TraceLimits,
  type TraceOptions,
} from '@tender-orbit/core/trace';

/** Small scenes whose light can be worked out by hand. */
export interface Studio {
  things?: Array<
    { mesh: Mesh; finish?: Partial<Finish>; matrix?: Mat4 } & Partial<
      Pick<TableauInstance, 'close' | 'before' | 'rayVisibility'> & Pick<ShownPart, 'place' | 'shape'>
    >
  >;
  surfaces?: TableauSurface[];
  lights?: TableauLight[];
  images?: DecodedImage[];
  volumes?: TableauVolume[];
  eye?: Vec3;
  aim?: Vec3;
  /** Degrees. */
  fov?: number;
  aperture?: number;
  focus?: number;
  camera?: Partial<Tableau['camera']>;
  /** Radiance of an even environment all round; 0 is black. */
  room?: number;
  roomSeen?: boolean;
  clay?: boolean;
  view?: Tableau['view'];
}

/** A surface with Lambert reflection only. */
export const LAMBERT: Partial<Finish> = { specular: 0, ior: 1, roughness: 1, doubleSided: true };

/** How the first of a studio's images lies, as it came. */
export const ART = {
  image: 0,
  offset: [0, 0] as [number, number],
  rotation: 0,
  scale: [1, 1] as [number, number],
  strength: 1,
  wrap: ['repeat', 'repeat'] as ['repeat', 'repeat'],
};

export function panel(
  position: Vec3,
  aim: Vec3,
  width: number,
  height: number,
  radiance: number,
  more: Partial<TableauLight> | boolean = {},
): TableauLight {
  return {
    id: 'panel',
    name: 'Panel',
    kind: 'rect',
    matrix: aimMatrix(position, aim),
    width,
    height,
    radiance: [radiance, radiance, radiance],
    ...(typeof more === 'boolean' ? { seen: more } : { seen: false, ...more }),
  };
}

/** A horizontal square at height y facing up. */
export function floor(half = 10, y = 0): Mesh {
  return {
    positions: Float32Array.from([-half, y, half, half, y, half, half, y, -half, -half, y, -half]),
    normals: Float32Array.from([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]),
    uvs: Float32Array.from([0, 1, 1, 1, 1, 0, 0, 0]),
    indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
  };
}

export function ball(radius = 1): Mesh {
  return buildTurned({
    profile: Array.from(
      { length: 49 },
      (_, i) => [Math.sin((i / 48) * Math.PI) * radius, -Math.cos((i / 48) * Math.PI) * radius] as const,
    ),
    segments: 96,
  });
}

export function block(size: Vec3, bevel = 0): Mesh {
  const { panels, edges } = buildBox({ size, bevel });
  return mergeMeshes([...panels, edges]);
}

export function moved(x: number, y: number, z: number): Mat4 {
  return [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1];
}

/** The same numbers in every run. */
export function randomNumbers(seed = 1): () => number {
  let state = seed;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296;
}

export function tableauOf(studio: Studio): Tableau {
  const { things = [], lights = [], surfaces = [], volumes = [], room = 0 } = studio;
  const { eye = [0, 0, 4], aim = [0, 0, 0], fov = 1, aperture = 0, focus = 4 } = studio;
  return {
    frame: 0,
    seed: 3,
    instances: things.map((t, index) => ({
      id: `t${index}`,
      name: `T${index}`,
      model: 'm',
      matrix: t.matrix ?? identity(),
      close: t.close,
      before: t.before,
      parts: [{ index, finish: makeFinish(`F${index}`, t.finish ?? LAMBERT), place: t.place, shape: t.shape }],
      rayVisibility: t.rayVisibility ?? visibleToAll(),
    })),
    surfaces,
    swarms: [],
    lights,
    volumes,
    view: studio.view ?? 'neutral',
    environment: { intensity: room > 0 ? 1 : 0, rotation: 0, seen: studio.roomSeen ?? true, room: plainRoom() },
    camera: {
      id: 'c',
      position: eye,
      aim,
      matrix: aimMatrix(eye, aim),
      verticalFov: (fov * Math.PI) / 180,
      aspect: 1,
      apertureRadius: aperture,
      blades: 0,
      focusDistance: focus,
      shift: [0, 0],
      exposureScale: 1,
      ...studio.camera,
    },
  };
}

export function pack(studio: Studio): PackedScene {
  const { things = [], images = [], room = 0, clay = false } = studio;
  const models = new Map<string, ModelData>([['m', { meshes: things.map((t) => t.mesh), images }]]);
  const scene = packScene(tableauOf(studio), models, { clay });
  return room > 0 ? { ...scene, room: evenRoom(room, studio.roomSeen) } : scene;
}

export function evenRoom(radiance: number, seen = true): PackedScene['room'] {
  return roomOf({ width: 64, height: 32, data: new Float32Array(64 * 32 * 3).fill(radiance) }, 1, 0, seen);
}

export const FREE: TraceLimits = { maxDepth: 64, maxBounces: 32, clamp: 0, exposureScale: 1 };

export const module = new WebAssembly.Module(
  readFileSync(fileURLToPath(import.meta.resolve('@tender-orbit/kernel/trace.wasm'))),
);
/** One tracer for all tests: its memory is used again. */
export const tracer = new KernelTracer(instantiateKernel(module));

export function trace(
  scene: PackedScene,
  samples = 256,
  size = 4,
  limits: TraceLimits = FREE,
  more: Partial<TraceOptions> = {},
): Passes {
  return tracer.load(scene).traceFrame({ width: size, height: size, samples, limits, frame: 0, ...more })!;
}

export function mean(values: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i];
  return sum / values.length;
}
