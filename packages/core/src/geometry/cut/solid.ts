import type { Mesh } from '../mesh.ts';
import type { Vec3 } from '../transform.ts';

/** Of a corner: its place, normal, uv, and its linear RGBA where meshes have colours. */
export type Corner = readonly number[];

/** What a face is of when it was made by a cut. */
export const CUT_FACE = -1;

/** A part of the outline of a cover, with what it covers on its left as seen from outside. */
export interface Step {
  from: Corner;
  to: Corner;
}

/** A face over a cut, of any outline, which is not made of triangles yet. */
export interface Cover {
  normal: Vec3;
  steps: Step[];
}

/** Triangles on their way through cutting; places are in double precision, so that faces that met still meet. */
export interface Solid {
  corners: Corner[];
  /** Three numbers of corners a triangle. */
  faces: number[];
  /** For each triangle, the number of the mesh it came from, or CUT_FACE. */
  of: number[];
  covers: Cover[];
}

/** Places closer than this share of the whole are one. */
const SAME = 1e-5;

/** Numbers that say where a corner is, as text: equal for corners in one place. */
export const placeKey = (c: Corner): string => `${c[0]},${c[1]},${c[2]}`;

/** Meshes as one solid; corners that lie in one place but for rounding come to lie there exactly. */
export function solidOf(meshes: readonly Mesh[], numbers: readonly number[]): Solid {
  const coloured = meshes.some((m) => m.colors);
  const solid: Solid = { corners: [], faces: [], of: [], covers: [] };
  let size = 1e-9;
  for (const { positions } of meshes) for (const v of positions) size = Math.max(size, Math.abs(v));
  const first = new Map<string, readonly [number, number, number]>();
  meshes.forEach(({ positions: p, normals: n, uvs, colors, indices }, m) => {
    const base = solid.corners.length;
    const cell = (value: number): number => Math.round(value / (size * SAME));
    for (let v = 0; v < p.length / 3; v++) {
      const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
      const key = `${cell(x)},${cell(y)},${cell(z)}`;
      let at = first.get(key);
      if (!at) first.set(key, (at = [x, y, z]));
      const colour = coloured ? (colors?.subarray(4 * v, 4 * v + 4) ?? [1, 1, 1, 1]) : [];
      solid.corners.push([...at, ...n.subarray(3 * v, 3 * v + 3), ...uvs.subarray(2 * v, 2 * v + 2), ...colour]);
    }
    for (let t = 0; t + 2 < indices.length; t += 3) {
      const face = [indices[t] + base, indices[t + 1] + base, indices[t + 2] + base];
      const keys = new Set(face.map((i) => placeKey(solid.corners[i])));
      if (keys.size < 3) continue;
      solid.faces.push(...face);
      solid.of.push(numbers[m]);
    }
  });
  return solid;
}

/** Corners of a box's sides, counter-clockwise from outside; bits of a corner's number say on which side of each axis it lies. */
const SIDES = [
  [0, 4, 6, 2],
  [1, 3, 7, 5],
  [0, 1, 5, 4],
  [2, 6, 7, 3],
  [0, 2, 3, 1],
  [4, 5, 7, 6],
];

/** A cube of twice `reach` about a point, of mesh 0. */
export function cubeAbout(middle: readonly number[], reach: number): Solid {
  const rest = [0, 0, 0, 0, 0];
  const corners = Array.from({ length: 8 }, (_, i): Corner => [
    ...middle.map((v, axis) => v + ((i >> axis) & 1 ? reach : -reach)),
    ...rest,
  ]);
  const faces = SIDES.flatMap(([a, b, c, d]) => [a, b, c, a, c, d]);
  return { corners, faces, of: faces.slice(0, faces.length / 3).fill(0), covers: [] };
}

/** The triangles of a solid that came from a mesh, or from cuts; null when it has none. */
export function meshFrom({ corners, faces, of }: Solid, number: number): Mesh | null {
  const index = new Map<number, number>();
  const indices: number[] = [];
  const kept: Corner[] = [];
  for (let f = 0; f < of.length; f++) {
    if (of[f] !== number) continue;
    for (let k = 0; k < 3; k++) {
      const c = faces[3 * f + k];
      let at = index.get(c);
      if (at === undefined) {
        index.set(c, (at = kept.length));
        kept.push(corners[c]);
      }
      indices.push(at);
    }
  }
  if (indices.length === 0) return null;
  const take = (from: number, to: number): Float32Array => {
    const values = new Float32Array(kept.length * (to - from));
    kept.forEach((c, n) => {
      for (let i = from; i < to; i++) values[n * (to - from) + i - from] = c[i];
    });
    return values;
  };
  const mesh: Mesh = {
    ...{ positions: take(0, 3), normals: take(3, 6), uvs: take(6, 8) },
    indices: Uint32Array.from(indices),
  };
  if (kept[0].length > 8) mesh.colors = take(8, 12);
  return mesh;
}

/** A number for each corner, the same for those in one place. */
function placesOf(corners: readonly Corner[]): number[] {
  const places = new Map<string, number>();
  return corners.map((c) => {
    const key = placeKey(c);
    const known = places.get(key) ?? places.size;
    places.set(key, known);
    return known;
  });
}

/** Whether every edge of a solid is met by a face on its other side. */
export function isClosed({ corners, faces }: Solid): boolean {
  const place = placesOf(corners);
  const edges = new Map<number, number>();
  for (let f = 0; f < faces.length; f += 3)
    for (let k = 0; k < 3; k++) {
      const [from, to] = [place[faces[f + k]], place[faces[f + ((k + 1) % 3)]]];
      const edge = Math.min(from, to) * corners.length + Math.max(from, to);
      edges.set(edge, (edges.get(edge) ?? 0) + (from < to ? 1 : -1));
    }
  return [...edges.values()].every((sum) => sum === 0);
}

/** A solid as those that do not touch each other. */
export function apartFrom({ corners, faces, of }: Solid): Solid[] {
  const place = placesOf(corners);
  const parent = Array.from(corners, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  };
  for (let f = 0; f < faces.length; f += 3) {
    const a = root(place[faces[f]]);
    for (let k = 1; k < 3; k++) parent[root(place[faces[f + k]])] = a;
  }
  const pieces = new Map<number, Solid>();
  for (let f = 0; f < of.length; f++) {
    const key = root(place[faces[3 * f]]);
    const piece = pieces.get(key) ?? { corners, faces: [], of: [], covers: [] };
    pieces.set(key, piece);
    piece.faces.push(faces[3 * f], faces[3 * f + 1], faces[3 * f + 2]);
    piece.of.push(of[f]);
  }
  return [...pieces.values()];
}
