import { inverse, multiply, transformPoint, type Mat4, type Mesh, type Vec3 } from '../geometry/index.ts';
import type { ShownPart } from '../product/index.ts';
import type { TableauInstance } from './tableau.ts';

/** A place on a part of a thing: in one of its triangles, so that it goes along as the part moves, turns and bends. */
export interface PointOnPart {
  /** Which part: its number in the model, and the slot of a label that lies on it. */
  index: number;
  slot?: string;
  triangle: number;
  /** Shares of the triangle's second and third corner. */
  weights: readonly [number, number];
  /** How far the place is off it in the part's own space: depths of takes are rounded. */
  off: Vec3;
}

type Meshes = readonly Mesh[];

const meshOf = (part: ShownPart, meshes: Meshes): Mesh | undefined =>
  part.shape?.mesh ?? part.shell ?? meshes[part.index];

const toWorld = ({ matrix }: TableauInstance, part: ShownPart): Mat4 =>
  part.place ? multiply(matrix, part.place.matrix) : matrix;

/**
 * The part of a thing that is nearest to a place in the world, and where on it.
 * @param meshes of its model. @returns null when it shows no part.
 */
export function nearestOnParts(instance: TableauInstance, meshes: Meshes, at: Vec3): PointOnPart | null {
  let [nearest, found]: [number, PointOnPart | null] = [Infinity, null];
  for (const part of instance.parts) {
    const mesh = meshOf(part, meshes);
    if (!mesh) continue;
    const matrix = toWorld(instance, part);
    const local = transformPoint(inverse(matrix), at);
    // Metres of the world for one of the part: things are scaled evenly.
    const scale = matrix[0] * matrix[0] + matrix[1] * matrix[1] + matrix[2] * matrix[2];
    for (let t = 0; t < mesh.indices.length / 3; t++) {
      const [a, b, c] = [0, 1, 2].map((k) => cornerOf(mesh, t, k));
      const weights = nearestIn(local, a, b, c);
      const off = minus(local, mixed(a, b, c, weights));
      const away = dot(off, off) * scale;
      if (away >= nearest) continue;
      nearest = away;
      found = { index: part.index, ...(part.slot !== undefined && { slot: part.slot }), triangle: t, weights, off };
    }
  }
  return found;
}

/** Where a place on a part is in the world at another time; null when the part is not shown then. */
export function worldOfPoint(instance: TableauInstance, meshes: Meshes, on: PointOnPart): Vec3 | null {
  const part = instance.parts.find(({ index, slot }) => index === on.index && slot === on.slot);
  const mesh = part && meshOf(part, meshes);
  if (!part || !mesh || on.triangle * 3 + 2 >= mesh.indices.length) return null;
  const [a, b, c] = [0, 1, 2].map((k) => cornerOf(mesh, on.triangle, k));
  const local = mixed(a, b, c, on.weights).map((v, i) => v + on.off[i]) as Vec3;
  return transformPoint(toWorld(instance, part), local);
}

function cornerOf({ positions, indices }: Mesh, triangle: number, corner: number): Vec3 {
  const at = indices[triangle * 3 + corner] * 3;
  return [positions[at], positions[at + 1], positions[at + 2]];
}

const minus = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

const mixed = (a: Vec3, b: Vec3, c: Vec3, [v, w]: readonly [number, number]): Vec3 =>
  [0, 1, 2].map((i) => a[i] + (b[i] - a[i]) * v + (c[i] - a[i]) * w) as Vec3;

/** Shares of the second and third corner of the place in a triangle that is nearest to a point (Ericson 2005, 5.1.5). */
function nearestIn(p: Vec3, a: Vec3, b: Vec3, c: Vec3): [number, number] {
  const [ab, ac] = [minus(b, a), minus(c, a)];
  const [d1, d2] = [dot(ab, minus(p, a)), dot(ac, minus(p, a))];
  if (d1 <= 0 && d2 <= 0) return [0, 0];
  const [d3, d4] = [dot(ab, minus(p, b)), dot(ac, minus(p, b))];
  if (d3 >= 0 && d4 <= d3) return [1, 0];
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return [d1 / (d1 - d3 || 1), 0];
  const [d5, d6] = [dot(ab, minus(p, c)), dot(ac, minus(p, c))];
  if (d6 >= 0 && d5 <= d6) return [0, 1];
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return [0, d2 / (d2 - d6 || 1)];
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const w = (d4 - d3) / (d4 - d3 + d5 - d6 || 1);
    return [1 - w, w];
  }
  const all = va + vb + vc || 1;
  return [vb / all, vc / all];
}
