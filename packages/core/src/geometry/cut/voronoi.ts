import { boundsOf } from '../bounds.ts';
import { closedVolume } from '../volume.ts';
import { faceNormal, mergeMeshes, type Mesh } from '../mesh.ts';
import type { Vec3 } from '../transform.ts';
import { closed, halve, type HalfSpace } from './halve.ts';
import { apartFrom, CUT_FACE, cubeAbout, isClosed, meshFrom, solidOf, type Solid } from './solid.ts';

/** A piece of meshes that broke. */
export interface BrokenPiece {
  /** Of which seed's cell it is. */
  cell: number;
  /** What it has of each mesh, by the mesh's place in the list. */
  outside: ReadonlyMap<number, Mesh>;
  /** Where it broke; null where it has no such faces. */
  inside: Mesh | null;
}

/** Seeds drawn to choose the one nearest to where they gather. */
const DRAWS = 6;

/**
 * Points on the surface of meshes, evenly by area, or more of them near a point.
 * @param gather 0..1, the share of them that is drawn towards `near`. @param random numbers from 0 to below 1.
 */
export function seedsOn(
  meshes: readonly Mesh[],
  count: number,
  near: Vec3,
  gather: number,
  random: () => number,
): Vec3[] {
  const sums: number[] = [];
  const faces: Array<readonly [Mesh, number]> = [];
  let area = 0;
  for (const mesh of meshes)
    for (let t = 0; t + 2 < mesh.indices.length; t += 3) {
      const [x, y, z] = faceNormal(mesh.positions, mesh.indices, t);
      area += Math.sqrt(x * x + y * y + z * z);
      sums.push(area);
      faces.push([mesh, t]);
    }
  const draw = (): Vec3 => {
    const [mesh, t] = faces[firstAbove(sums, random() * area)];
    let [u, v] = [random(), random()];
    if (u + v > 1) [u, v] = [1 - u, 1 - v];
    const at = (k: number, axis: number): number => mesh.positions[3 * mesh.indices[t + k] + axis];
    return [0, 1, 2].map((i) => at(0, i) + u * (at(1, i) - at(0, i)) + v * (at(2, i) - at(0, i))) as Vec3;
  };
  if (area === 0) return [];
  return Array.from({ length: count }, () => {
    if (random() >= gather) return draw();
    const drawn = Array.from({ length: DRAWS }, draw);
    return drawn.reduce((a, b) => (distance2(b, near) < distance2(a, near) ? b : a));
  });
}

function firstAbove(sums: readonly number[], value: number): number {
  let [low, high] = [0, sums.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sums[middle] > value) high = middle;
    else low = middle + 1;
  }
  return low;
}

const distance2 = (a: Vec3, b: ArrayLike<number>): number =>
  (a[0] - b[0]) * (a[0] - b[0]) + (a[1] - b[1]) * (a[1] - b[1]) + (a[2] - b[2]) * (a[2] - b[2]);

/**
 * Breaks meshes into the Voronoi cells of seeds, cut exactly: volumes of the pieces add up to the whole. What is closed is closed again
 * in every piece, also when several meshes close each other (faces and sides of a board). What comes apart within a cell is several
 * pieces. Open sheets (a label) are cut and stay on what they lie on.
 */
export function breakMeshes(meshes: readonly Mesh[], seeds: readonly Vec3[]): BrokenPiece[] {
  const numbers = meshes.map((_, i) => i);
  const open = numbers.filter((i) => closedVolume(meshes[i]) === null);
  const wholes = numbers.filter((i) => !open.includes(i)).map((i) => solidOf([meshes[i]], [i]));
  const sheets: Solid[] = [];
  const opened = solidOf(
    open.map((i) => meshes[i]),
    open,
  );
  for (const solid of apartFrom(opened)) (isClosed(solid) ? wholes : sheets).push(solid);
  const { min, max } = boundsOf(meshes);
  const reach = Math.sqrt(distance2(min, max));
  const cells = seeds.map((_, i) => cellAt(seeds, i, reach));
  const cut = wholes.map((whole) => cellsOf(whole, seeds, cells));
  const laid = sheets.map((sheet) => cellsOf(sheet, seeds, cells));
  return seeds.flatMap((_, cell) => {
    const pieces = cut.flatMap((of) => apartFrom(closed(of[cell])).map((s) => pieceOf(s, cell)));
    for (const of of laid) for (const part of apartFrom({ ...of[cell], covers: [] })) lay(pieceOf(part, cell), pieces);
    return pieces;
  });
}

function pieceOf(solid: Solid, cell: number): BrokenPiece {
  const outside = new Map<number, Mesh>();
  for (const number of new Set(solid.of)) {
    const mesh = number === CUT_FACE ? null : meshFrom(solid, number);
    if (mesh) outside.set(number, mesh);
  }
  return { cell, outside, inside: meshFrom(solid, CUT_FACE) };
}

/** Lays a piece of a sheet on the piece that is nearest to it; without one it is a piece of its own. */
function lay(sheet: BrokenPiece, pieces: BrokenPiece[]): void {
  const [[number, mesh]] = sheet.outside;
  const [x, y, z] = mesh.positions;
  const under = pieces
    .map((piece) => ({ piece, far: nearest([...piece.outside.values()], [x, y, z]) }))
    .reduce((a, b) => (b.far < a.far ? b : a), { piece: sheet, far: Infinity }).piece;
  if (under === sheet) {
    pieces.push(sheet);
    return;
  }
  const there = under.outside.get(number);
  const outside = new Map(under.outside).set(number, there ? mergeMeshes([there, mesh]) : mesh);
  pieces[pieces.indexOf(under)] = { ...under, outside };
}

/** Square of how far the vertices of meshes are from a point at least. */
function nearest(meshes: readonly Mesh[], point: Vec3): number {
  let least = Infinity;
  for (const { positions } of meshes)
    for (let i = 0; i < positions.length; i += 3)
      least = Math.min(least, distance2(point, positions.subarray(i, i + 3)));
  return least;
}

/** What is nearer to a seed than to any other: the planes that bound it, and the box round it. */
interface Cell {
  walls: HalfSpace[];
  min: Vec3;
  max: Vec3;
}

/** The cell of a seed within a cube that reaches `reach` from it: as far as the meshes are large. */
function cellAt(seeds: readonly Vec3[], cell: number, reach: number): Cell {
  const seed = seeds[cell];
  const others = seeds
    .map((at, i) => ({ at, i, far: distance2(at, seed) }))
    .filter(({ i, far }) => i !== cell && far > 0)
    .sort((a, b) => a.far - b.far || a.i - b.i);
  const walls: HalfSpace[] = [];
  let box = cubeAbout(seed, reach);
  for (const { at, far } of others) {
    if (far / 4 > farthest(box, seed)) break;
    const length = Math.sqrt(far);
    const normal = at.map((v, axis) => (v - seed[axis]) / length) as Vec3;
    const offset = normal.reduce((sum, n, axis) => sum + (n * (at[axis] + seed[axis])) / 2, 0);
    walls.push({ normal, offset });
    box = halve(box, { normal, offset });
  }
  const [min, max]: [Vec3, Vec3] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (const c of placesOf(box))
    for (let a = 0; a < 3; a++) {
      min[a] = Math.min(min[a], c[a]);
      max[a] = Math.max(max[a], c[a]);
    }
  return { walls: walls.filter(({ normal }) => box.covers.some((cover) => cover.normal === normal)), min, max };
}

/** A part of a cut's size beyond which it is made, so that it leaves what lies at the end of a cell alone. */
const CLEAR = 1e-4;

/**
 * What of a solid lies in each of some cells, by their number. Cells are told apart by ever smaller boxes first, so that not every one of them is
 * cut from the whole.
 */
function cellsOf(solid: Solid, seeds: readonly Vec3[], cells: readonly Cell[]): Solid[] {
  const out: Solid[] = [];
  const divide = (rest: Solid, group: readonly number[]): void => {
    if (group.length === 1) {
      const [cell] = group;
      out[cell] = cells[cell].walls.reduce(halve, rest);
      return;
    }
    const spread = [0, 1, 2].map((a) => {
      const values = group.map((i) => seeds[i][a]);
      return Math.max(...values) - Math.min(...values);
    });
    const axis = spread.indexOf(Math.max(...spread));
    const sorted = [...group].sort((a, b) => seeds[a][axis] - seeds[b][axis] || a - b);
    const half = sorted.length >> 1;
    const clear = CLEAR * spread[axis];
    const [low, high] = [sorted.slice(0, half), sorted.slice(half)];
    const normal: Vec3 = [0, 0, 0];
    normal[axis] = 1;
    divide(halve(rest, { normal, offset: Math.max(...low.map((i) => cells[i].max[axis])) + clear }), low);
    const back = normal.map((v) => -v) as Vec3;
    divide(halve(rest, { normal: back, offset: clear - Math.min(...high.map((i) => cells[i].min[axis])) }), high);
  };
  divide(
    solid,
    seeds.map((_, i) => i),
  );
  return out;
}

/** All places of a solid's corners and covers. */
function* placesOf({ corners, covers }: Solid): Generator<readonly number[]> {
  yield* corners;
  for (const { steps } of covers) for (const { from } of steps) yield from;
}

/** Square of how far a solid reaches from a point. */
function farthest(solid: Solid, from: Vec3): number {
  let most = 0;
  for (const c of placesOf(solid)) most = Math.max(most, distance2(from, c));
  return most;
}
