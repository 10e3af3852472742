import { transformPoint, type Vec3 } from '../../geometry/index.ts';
import { SMOKE_SIDES, type SmokeEffect } from '../../document/index.ts';
import type { Solid } from '../bodies-in.ts';
import { addDistance, addMovedDistance, FAR } from '../distance.ts';
import { fieldOf, type CellField } from '../fields.ts';
import type { SmokeDomain } from './domain.ts';

/**
 * Which cells are solid, and of what: rows of one number a cell, 0 for gas, SHUT for hollows, otherwise
 * 1 + the number of the solid.
 */
export interface Obstacles {
  owner: Uint16Array;
  solids: readonly Solid[];
}

/** A cell is solid when its centre is within half a cell of matter: walls thinner than a cell stay tight. */
const SKIN = 0.5;

/** Distance from each thing's skin is asked for by emitters as well, so it is worked out once a frame. */
export class DistanceFields {
  private readonly known = new Map<string, CellField>();

  constructor(
    private readonly domain: SmokeDomain,
    readonly solids: readonly Solid[],
  ) {}

  /** Signed distance from one solid, in cells. */
  of(solid: Solid): CellField {
    let field = this.known.get(solid.key);
    if (!field) {
      field = fieldOf(this.domain, FAR);
      if (solid.moves) addMovedDistance(field, solid.mesh, solid.matrix);
      else addDistance(field, solid.mesh, solid.matrix);
      this.known.set(solid.key, field);
    }
    return field;
  }

  /** Takes over what another frame worked out of solids that stand where they stood. */
  keep(earlier: DistanceFields): void {
    const wanted = new Set(this.solids.map(({ key }) => key));
    for (const [key, field] of earlier.known) if (wanted.has(key)) this.known.set(key, field);
  }
}

/** The solids' cells. @param keep cells whose hollows stay open, since something gives off smoke there. */
export function obstaclesOf(
  domain: SmokeDomain,
  fields: DistanceFields,
  keep: ReadonlySet<number> = new Set(),
): Obstacles {
  const [nx, ny, nz] = domain.size;
  const owner = new Uint16Array(nx * ny * nz);
  fields.solids.forEach((solid, n) => {
    const { values } = fields.of(solid);
    for (let i = 0; i < values.length; i++) if (values[i] <= SKIN) owner[i] = n + 1;
  });
  shut(owner, domain.size, keep);
  return { owner, solids: fields.solids };
}

/** Cells that no gas comes to or goes from: nobody sees what would be in them. */
export const SHUT = 0xffff;

/** Fills hollows that have no way to a side of the domain, but for those that hold a cell of `keep`. */
function shut(owner: Uint16Array, [nx, ny, nz]: Vec3, keep: ReadonlySet<number>): void {
  const reached = new Uint8Array(owner.length);
  const stack: number[] = [];
  const visit = (at: number): void => {
    if (owner[at] !== 0 || reached[at] === 1) return;
    reached[at] = 1;
    stack.push(at);
  };
  for (let k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++) {
      const edge = k === 0 || k === nz - 1 || j === 0 || j === ny - 1;
      for (let i = 0; i < nx; i += edge ? 1 : nx - 1) visit((k * ny + j) * nx + i);
    }
  keep.forEach(visit);
  while (stack.length > 0) {
    const at = stack.pop()!;
    const i = at % nx;
    const j = Math.floor(at / nx) % ny;
    const k = Math.floor(at / (nx * ny));
    if (i > 0) visit(at - 1);
    if (i < nx - 1) visit(at + 1);
    if (j > 0) visit(at - nx);
    if (j < ny - 1) visit(at + nx);
    if (k > 0) visit(at - nx * ny);
    if (k < nz - 1) visit(at + nx * ny);
  }
  for (let at = 0; at < owner.length; at++) if (owner[at] === 0 && reached[at] === 0) owner[at] = SHUT;
}

/** Metres a second of a solid at a point, by where it was a frame before. */
function speedAt({ back }: Solid, point: Vec3, seconds: number): Vec3 {
  const was = transformPoint(back, point);
  return point.map((v, axis) => (v - was[axis]) / seconds) as Vec3;
}

/** What the solver's walls are made from: gas or not with ghost cells on all sides, faces at solids, and speeds there in cells a second. */
export interface Walls {
  open: Float32Array;
  faces: Int32Array;
  speeds: Float32Array;
}

/** Bits that say along which axis a face lies. */
const AXIS_BIT = 28;

/** @param row floats in a row of the solver's arrays. */
export function wallsOf(
  effect: SmokeEffect,
  { size: [nx, ny, nz], cell, origin }: SmokeDomain,
  { owner, solids }: Obstacles,
  row: number,
  seconds: number,
): Walls {
  const plane = row * (ny + 2);
  const open = new Float32Array(plane * (nz + 2));
  const side = SMOKE_SIDES.map((name) => (effect.walls[name] ? 0 : 1));
  for (let k = 0; k <= nz + 1; k++)
    for (let j = 0; j <= ny + 1; j++)
      for (let i = 0; i <= nx + 1; i++) {
        const at = k * plane + j * row + i;
        const ghost =
          (i < 1 ? 1 : 0) + (i > nx ? 1 : 0) + (j < 1 ? 1 : 0) + (j > ny ? 1 : 0) + (k < 1 || k > nz ? 1 : 0);
        if (ghost === 0) open[at] = owner[((k - 1) * ny + j - 1) * nx + i - 1] === 0 ? 1 : 0;
        else if (ghost === 1) open[at] = side[i < 1 ? 0 : i > nx ? 1 : j < 1 ? 2 : j > ny ? 3 : k < 1 ? 4 : 5];
      }
  const faces: number[] = [];
  const speeds: number[] = [];
  const steps = [1, row, plane];
  const ownerAt = (i: number, j: number, k: number): number =>
    i < 1 || j < 1 || k < 1 || i > nx || j > ny || k > nz ? 0 : owner[((k - 1) * ny + j - 1) * nx + i - 1];
  for (let k = 1; k <= nz + 1; k++)
    for (let j = 1; j <= ny + 1; j++)
      for (let i = 1; i <= nx + 1; i++) {
        const at = k * plane + j * row + i;
        const outside = (i > nx ? 1 : 0) + (j > ny ? 1 : 0) + (k > nz ? 1 : 0);
        if (outside > 1) continue;
        for (let axis = 0; axis < 3; axis++) {
          // Beyond a far side only the face across that side belongs to a cell of the domain.
          if (outside === 1 && !(axis === 0 ? i > nx : axis === 1 ? j > ny : k > nz)) continue;
          if (open[at] !== 0 && open[at - steps[axis]] !== 0) continue;
          const before: Vec3 = [i - (axis === 0 ? 1 : 0), j - (axis === 1 ? 1 : 0), k - (axis === 2 ? 1 : 0)];
          const who = ownerAt(i, j, k) || ownerAt(...before);
          faces.push((axis << AXIS_BIT) | at);
          speeds.push(
            who === 0 || who === SHUT ? 0 : faceSpeed(solids[who - 1], axis, [i, j, k], cell, origin, seconds),
          );
        }
      }
  return { open, faces: Int32Array.from(faces), speeds: Float32Array.from(speeds) };
}

function faceSpeed(solid: Solid, axis: number, [i, j, k]: Vec3, cell: number, origin: Vec3, seconds: number): number {
  const centre = [i - 0.5, j - 0.5, k - 0.5].map((v, a) => origin[a] + (a === axis ? v - 0.5 : v) * cell) as Vec3;
  return speedAt(solid, centre, seconds)[axis] / cell;
}
