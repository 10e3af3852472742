import { tan } from '../maths/index.ts';
import {
  boundsCentre,
  boundsOf,
  inverse,
  multiply,
  transformPoint,
  type Bounds,
  type Mat4,
  type Mesh,
  type Vec3,
} from '../geometry/index.ts';
import { evaluate, type EvaluateContext } from './evaluate.ts';
import type { ShotProgram } from './program.ts';
import type { TableauCamera, TableauInstance } from './tableau.ts';

/** A part of a thing: its box where it stands. */
export interface Box {
  key: string;
  /** Middles of its six faces, in the part. */
  faces: Vec3[];
  bounds: Bounds;
  matrix: Mat4;
}

const boxes = new WeakMap<Mesh, Bounds>();

function boxOf(mesh: Mesh): Bounds {
  let box = boxes.get(mesh);
  if (!box) boxes.set(mesh, (box = boundsOf([mesh])));
  return box;
}

/** The boxes of a thing's parts. */
export function boxesOf(instance: TableauInstance, meshes: readonly Mesh[]): Box[] {
  return instance.parts
    .filter(({ shell }) => !shell)
    .map(({ index, shape, place }) => {
      const bounds = boxOf(shape?.mesh ?? meshes[index]);
      const middle = boundsCentre(bounds);
      const faces = [0, 1, 2].flatMap((axis) =>
        [bounds.min, bounds.max].map((end) => middle.map((v, a) => (a === axis ? end[a] : v)) as Vec3),
      );
      const matrix = place ? multiply(instance.matrix, place.matrix) : instance.matrix;
      return { key: String(index), faces, bounds, matrix };
    });
}

/** Where a point is in the picture, shares of its height from the middle, y up; null behind the eye. */
export type Projector = (point: Vec3) => [number, number] | null;

export function projector({ matrix, verticalFov }: TableauCamera): Projector {
  const view = inverse(matrix);
  const focal = 0.5 / tan(verticalFov / 2);
  return (point) => {
    const [x, y, z] = transformPoint(view, point);
    return z < -1e-4 ? [(x / -z) * focal, (y / -z) * focal] : null;
  };
}

/** What a box covers of the picture. */
export interface Outline {
  min: [number, number];
  max: [number, number];
}

/** The outline of a box in the picture; null when part of it is behind the eye. */
export function outlineOf({ bounds, matrix }: Box, project: Projector): Outline | null {
  const outline: Outline = { min: [Infinity, Infinity], max: [-Infinity, -Infinity] };
  for (let corner = 0; corner < 8; corner++) {
    const at = [0, 1, 2].map((axis) => ((corner >> axis) & 1 ? bounds.max : bounds.min)[axis]) as Vec3;
    const spot = project(transformPoint(matrix, at));
    if (!spot) return null;
    spot.forEach((v, axis) => {
      outline.min[axis] = Math.min(outline.min[axis], v);
      outline.max[axis] = Math.max(outline.max[axis], v);
    });
  }
  return outline;
}

/** What each product covers of the picture at a frame, shares of its height from the middle, y up; those behind the eye are left out. */
export function screenBoxes(
  program: ShotProgram,
  frame: number,
  context: EvaluateContext,
): Array<Outline & { id: string }> {
  const { instances, camera } = evaluate(program, frame, context);
  const project = projector(camera);
  return instances.flatMap((instance) => {
    const outlines = boxesOf(instance, context.meshes(instance.model) ?? []).map((box) => outlineOf(box, project));
    if (outlines.length === 0 || outlines.includes(null)) return [];
    const end = (of: 'min' | 'max', axis: 0 | 1): number =>
      outlines.reduce((far, o) => Math[of](far, o![of][axis]), of === 'min' ? Infinity : -Infinity);
    return [{ id: instance.id, min: [end('min', 0), end('min', 1)], max: [end('max', 0), end('max', 1)] }];
  });
}
