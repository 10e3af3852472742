import { atan2, cos, hypot, sin } from '../maths/index.ts';
import type { LabelSlot } from '../document/index.ts';
import { DEGREES, type Mesh } from '../geometry/index.ts';

/** How far a label stands off what it lies on, metres of the model. */
const PAPER = 0.00008;

/** A corner of a triangle on its way through the cutting: place, normal, and where it lies in the label (0..1). */
type Corner = [number, number, number, number, number, number, number, number];

/**
 * Where a label's middle lies when it is put at a point of the model: the slot's values for it.
 * @param point and @param normal in the model's own space.
 */
export function placeLabel(
  projection: LabelSlot['projection'],
  point: readonly number[],
  normal: readonly number[],
): Pick<LabelSlot, 'centre' | 'turn'> {
  const [x, y, z] = point;
  // A wrapped label's width is measured along the arc through its middle, so its radius is kept in the place.
  if (projection === 'round') return { centre: [0, y, Math.max(1e-4, hypot(x, z))], turn: atan2(x, z) / DEGREES };
  return { centre: [x, y, z], turn: atan2(normal[0], normal[2]) / DEGREES };
}

type Place = Pick<LabelSlot, 'projection' | 'centre' | 'turn' | 'roll' | 'width' | 'height' | 'corner'>;

/**
 * The part of a mesh that a projected label covers, cut at the label's edge and lifted by a paper's thickness, with the
 * label's uv. A planar label is thrown straight from its front on what faces it; a round one is wrapped about the vertical
 * axis through the slot's own axis (x = z = 0 of the model), its width measured along the arc through its middle.
 */
export function labelShell(mesh: Mesh, slot: Place): Mesh {
  const map = slot.projection === 'round' ? roundMap(slot) : planarMap(slot);
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[] = [];
  const indices: number[] = [];
  const { positions: p, normals: n } = mesh;
  for (let t = 0; t < mesh.indices.length; t += 3) {
    const corners = [0, 1, 2].map((k): Corner => {
      const i = mesh.indices[t + k] * 3;
      return [p[i], p[i + 1], p[i + 2], n[i], n[i + 1], n[i + 2], 0, 0];
    });
    if (!map(corners)) continue;
    const inside = clip(corners, slot.corner, slot.width / slot.height);
    if (inside.length < 3) continue;
    const base = positions.length / 3;
    for (const [x, y, z, nx, ny, nz, u, v] of inside) {
      const length = hypot(nx, ny, nz) || 1;
      positions.push(x + (nx / length) * PAPER, y + (ny / length) * PAPER, z + (nz / length) * PAPER);
      normals.push(nx / length, ny / length, nz / length);
      uvs.push(u, v);
    }
    for (let k = 1; k + 1 < inside.length; k++) indices.push(base, base + k, base + k + 1);
  }
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    uvs: Float32Array.from(uvs),
    indices: Uint32Array.from(indices),
  };
}

/** Writes a triangle's label coordinates; false when it cannot be under the label. */
type LabelMap = (corners: Corner[]) => boolean;

function rolled(x: number, y: number, slot: Place): [number, number] {
  const [c, s] = [cos(slot.roll * DEGREES), sin(slot.roll * DEGREES)];
  return [(x * c + y * s) / slot.width + 0.5, 0.5 - (y * c - x * s) / slot.height];
}

function planarMap(slot: Place): LabelMap {
  const [c, s] = [cos(slot.turn * DEGREES), sin(slot.turn * DEGREES)];
  return (corners) => {
    for (const corner of corners) {
      const [dx, dy, dz] = [0, 1, 2].map((a) => corner[a] - slot.centre[a]);
      // The label looks along +Z, turned about the vertical.
      [corner[6], corner[7]] = rolled(dx * c - dz * s, dy, slot);
    }
    return facing(corners, s, c);
  };
}

function roundMap(slot: Place): LabelMap {
  const radius = Math.max(1e-6, hypot(slot.centre[0], slot.centre[2]));
  return (corners) => {
    const angles = corners.map(([x, , z]) => atan2(x, z) - slot.turn * DEGREES);
    // A triangle across the seam at the back is kept in one piece: angles are taken near the first one's.
    const near = (a: number, to: number): number => a - Math.round((a - to) / (2 * Math.PI)) * 2 * Math.PI;
    const first = near(angles[0], 0);
    corners.forEach((corner, k) => {
      const a = near(angles[k], first);
      [corner[6], corner[7]] = rolled(a * radius, corner[1] - slot.centre[1], slot);
    });
    // What looks towards the axis is the inside of a wall.
    return corners.some(([x, , z, nx, , nz]) => x * nx + z * nz > 0.05 * hypot(x, z));
  };
}

function facing(corners: Corner[], x: number, z: number): boolean {
  return corners.some(([, , , nx, , nz]) => nx * x + nz * z > 0.05);
}

/** A polygon cut to the label's outline (Sutherland-Hodgman): the unit square, or one whose corners are rounded off. */
function clip(polygon: Corner[], corner: number, aspect: number): Corner[] {
  let out = polygon;
  for (const [a, b, c] of outline(corner, aspect)) {
    const inside = ([, , , , , , u, v]: Corner): number => a * u + b * v - c;
    const next: Corner[] = [];
    out.forEach((p, i) => {
      const q = out[(i + 1) % out.length];
      const [dp, dq] = [inside(p), inside(q)];
      if (dp >= 0) next.push(p);
      if (dp >= 0 !== dq >= 0) {
        const t = dp / (dp - dq);
        next.push(p.map((value, k) => value + (q[k] - value) * t) as Corner);
      }
    });
    out = next;
    if (out.length < 3) return [];
  }
  return out;
}

/** Half planes a u + b v >= c whose common part is the label. */
function outline(corner: number, aspect: number): Array<[number, number, number]> {
  const planes: Array<[number, number, number]> = [
    [1, 0, 0],
    [-1, 0, -1],
    [0, 1, 0],
    [0, -1, -1],
  ];
  if (corner <= 0) return planes;
  // The radius is a share of the shorter side.
  const share = Math.min(0.5, corner);
  const [ru, rv] = aspect >= 1 ? [share / aspect, share] : [share, share * aspect];
  for (const [su, sv] of [
    [1, 1],
    [-1, 1],
    [1, -1],
    [-1, -1],
  ]) {
    const [cu, cv] = [su > 0 ? ru : 1 - ru, sv > 0 ? rv : 1 - rv];
    for (let k = 1; k < 8; k++) {
      const angle = (k / 8) * (Math.PI / 2);
      // A tangent of the ellipse that is a circle at the label's real proportion.
      const [a, b] = [(su * cos(angle)) / ru, (sv * sin(angle)) / rv];
      planes.push([a, b, a * cu + b * cv - 1]);
    }
  }
  return planes;
}
