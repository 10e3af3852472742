import { makeFinish, type Finish } from '@tender-orbit/core/finish';
import { aimMatrix, identity, type Mat4, type Mesh, type Vec3 } from '@tender-orbit/core/geometry';
import type { Tableau, TableauLight } from '@tender-orbit/core/motion';
import {
  packScene,
  traceFrame,
  type DecodedImage,
  type ModelData,
  type PackedScene,
  type Passes,
  type TraceLimits,
} from '@tender-orbit/core/trace';

/** Small scenes whose light can be worked out by hand. */
export interface Studio {
  things?: Array<{ mesh: Mesh; finish?: Partial<Finish>; matrix?: Mat4 }>;
  lights?: TableauLight[];
  images?: DecodedImage[];
  eye?: Vec3;
  aim?: Vec3;
  /** Degrees. */
  fov?: number;
  aperture?: number;
  focus?: number;
  /** Radiance of an even environment all round; 0 is black. */
  room?: number;
  clay?: boolean;
}

/** A surface with Lambert reflection only. */
export const LAMBERT: Partial<Finish> = { specular: 0, ior: 1, roughness: 1, doubleSided: true };

export function panel(
  position: Vec3,
  aim: Vec3,
  width: number,
  height: number,
  radiance: number,
  seen = false,
): TableauLight {
  return {
    id: 'panel',
    matrix: aimMatrix(position, aim),
    width,
    height,
    radiance: [radiance, radiance, radiance],
    seen,
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

export function tableauOf({
  things = [],
  lights = [],
  eye = [0, 0, 4],
  aim = [0, 0, 0],
  fov = 1,
  aperture = 0,
  focus = 4,
  room = 0,
}: Studio): Tableau {
  return {
    frame: 0,
    seed: 3,
    instances: things.map((t, index) => ({
      id: `t${index}`,
      model: 'm',
      matrix: t.matrix ?? identity(),
      parts: [{ index, finish: makeFinish('F', t.finish ?? LAMBERT) }],
    })),
    surfaces: [],
    lights,
    environment: { intensity: room > 0 ? 1 : 0, rotation: 0 },
    camera: {
      id: 'c',
      position: eye,
      aim,
      matrix: aimMatrix(eye, aim),
      verticalFov: (fov * Math.PI) / 180,
      aspect: 1,
      apertureRadius: aperture,
      focusDistance: focus,
      exposureScale: 1,
    },
  };
}

export function pack(studio: Studio): PackedScene {
  const { things = [], images = [], room = 0, clay = false } = studio;
  const models = new Map<string, ModelData>([['m', { meshes: things.map((t) => t.mesh), images }]]);
  const scene = packScene(tableauOf(studio), models, { clay });
  return room > 0 ? evenRoom(scene, room) : scene;
}

/** Replaces the environment by an even one, with the sampling table that belongs to it. */
function evenRoom(scene: PackedScene, radiance: number): PackedScene {
  const { environmentWidth: w, environmentHeight: h } = scene;
  const cdf = new Float32Array(scene.environmentCdf.length);
  for (let row = 0; row < h; row++) {
    cdf[row + 1] = (1 - Math.cos((Math.PI * (row + 1)) / h)) / 2;
    for (let column = 1; column <= w; column++) cdf[h + 1 + row * (w + 1) + column] = column / w;
  }
  return { ...scene, environment: new Float32Array(w * h * 3).fill(radiance), environmentCdf: cdf };
}

export const FREE: TraceLimits = { maxDepth: 64, maxBounces: 32, clamp: 0, exposureScale: 1 };

export function trace(scene: PackedScene, samples = 256, size = 4, limits: TraceLimits = FREE, frame = 0): Passes {
  return traceFrame(scene, { width: size, height: size, samples, limits, frame })!;
}

export function mean(values: Float32Array): number {
  return values.reduce((a, b) => a + b, 0) / values.length;
}
