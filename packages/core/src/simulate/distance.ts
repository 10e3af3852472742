import { boundsOf, identity, inverse, type Mat4, type Mesh, type Vec3 } from '../geometry/index.ts';
import { pow } from '../maths/index.ts';
import { fieldOf, type CellField } from './fields.ts';

/** How far round a surface distances are told, in cells. */
const BAND = 1.6;
/** Turns in which a mesh's triangles are gone through. */
const TURNS = 3;

/** Vertices of a mesh in cells of a field: cell centres lie at whole numbers. */
function inCells({ positions }: Mesh, m: Mat4, { cell, origin }: CellField): Float64Array {
  const out = new Float64Array(positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [positions[i], positions[i + 1], positions[i + 2]];
    for (let a = 0; a < 3; a++)
      out[i + a] = (m[a] * x + m[a + 4] * y + m[a + 8] * z + m[a + 12] - origin[a]) / cell - 0.5;
  }
  return out;
}

/**
 * Lowers a field to the signed distance from a mesh, in cells, where that is nearer: exact within a band of cells round its
 * surface, and inside the whole band's depth. Inside is where rays along x and along y cross the surface an odd number of
 * times; open sheets have no inside.
 * @param field full of one value: how far distances are told, at least FAR.
 */
export function addDistance(field: CellField, mesh: Mesh, matrix: Mat4): void {
  const points = inCells(mesh, matrix, field);
  const { size, values } = field;
  const inside = insideOf(points, mesh.indices, size);
  const band = Math.max(BAND, values[0]);
  const near = new Float32Array(values.length).fill(band);
  // Triangles from all over come first: what they leave to be nearer than is soon little.
  for (let turn = 0; turn < TURNS; turn++)
    for (let t = turn * 3; t < mesh.indices.length; t += TURNS * 3)
      addTriangle(near, points, mesh.indices, t, size, band);
  for (let i = 0; i < values.length; i++) {
    const d = near[i];
    const signed = inside[i] === 1 ? -d : d;
    if (signed < values[i]) values[i] = signed;
  }
}

/** The farthest that a field of distances tells, in cells. */
export const FAR = BAND;

/** Fields of meshes in their own space, by cell; what moves as it is needs them once. */
const local = new WeakMap<Mesh, Map<string, CellField>>();
/** Cells of a field in a mesh's own space that are finer than those of the domain it is for, and how many it has at most. */
const FINER = 0.6;
const MOST_LOCAL = 1_500_000;

/**
 * The distance from a mesh in its own space, in cells finer than `cell`, worked out once.
 * @param reach how far round the surface it is told; as `cell` in the mesh's own metres.
 */
export function localField(mesh: Mesh, cell: number, reach = BAND * cell): CellField {
  const known = local.get(mesh) ?? new Map<string, CellField>();
  local.set(mesh, known);
  const key = `${cell.toPrecision(6)} ${reach.toPrecision(6)}`;
  let field = known.get(key);
  if (!field) {
    const { min, max } = boundsOf([mesh]);
    // The band is told in these cells, and has to be as wide as that of the domain's.
    const fine = Math.max(cell * FINER, boxCell(min, max));
    const margin = Math.ceil(reach / fine) + 1;
    const size = [0, 1, 2].map((a) => Math.ceil((max[a] - min[a]) / fine) + 2 * margin) as Vec3;
    field = fieldOf({ size, cell: fine, origin: min.map((v) => v - margin * fine) as Vec3 }, reach / cell / FINER);
    addDistance(field, mesh, identity());
    known.set(key, field);
  }
  return field;
}

/** The least cell with which a box has no more cells than are kept. */
function boxCell(min: Vec3, max: Vec3): number {
  const [x, y, z] = [0, 1, 2].map((a) => max[a] - min[a] + 1e-6);
  return pow((x * y * z) / MOST_LOCAL, 1 / 3);
}

/**
 * The same as addDistance() for a mesh that is moved as it is, from a field of its own that is worked out once: right to a
 * fraction of a cell.
 */
export function addMovedDistance(field: CellField, mesh: Mesh, matrix: Mat4): void {
  const scale = Math.sqrt(matrix[0] * matrix[0] + matrix[1] * matrix[1] + matrix[2] * matrix[2]);
  const own = localField(mesh, field.cell / scale);
  const { size, origin, cell, values } = field;
  const box = boundsOf([mesh], matrix);
  const low = box.min.map((v, a) => Math.max(0, Math.ceil((v - origin[a]) / cell - 0.5 - BAND)));
  const high = box.max.map((v, a) => Math.min(size[a] - 1, Math.floor((v - origin[a]) / cell - 0.5 + BAND)));
  // From cells of the domain straight to cells of the mesh's own field.
  const m = inverse(matrix).map((v) => v / own.cell);
  const [ox, oy, oz] = [0, 1, 2].map((a) => m[a + 12] - own.origin[a] / own.cell - 0.5);
  const inCells = (own.cell * scale) / cell;
  for (let k = low[2]; k <= high[2]; k++)
    for (let j = low[1]; j <= high[1]; j++) {
      const y = origin[1] + (j + 0.5) * cell;
      const z = origin[2] + (k + 0.5) * cell;
      const row = (k * size[1] + j) * size[0];
      for (let i = low[0]; i <= high[0]; i++) {
        const x = origin[0] + (i + 0.5) * cell;
        const d = sampled(
          own,
          m[0] * x + m[4] * y + m[8] * z + ox,
          m[1] * x + m[5] * y + m[9] * z + oy,
          m[2] * x + m[6] * y + m[10] * z + oz,
        );
        const near = d * inCells;
        if (near < values[row + i]) values[row + i] = near;
      }
    }
}

/** A field between its cells; far away beyond it. */
export function sampled({ size: [nx, ny, nz], values }: CellField, x: number, y: number, z: number): number {
  const [i, j, k] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  if (i < 0 || j < 0 || k < 0 || i >= nx - 1 || j >= ny - 1 || k >= nz - 1) return Infinity;
  const [u, v, w] = [x - i, y - j, z - k];
  const at = (k * ny + j) * nx + i;
  const up = at + nx * ny;
  const near =
    (values[at] * (1 - u) + values[at + 1] * u) * (1 - v) + (values[at + nx] * (1 - u) + values[at + nx + 1] * u) * v;
  const far =
    (values[up] * (1 - u) + values[up + 1] * u) * (1 - v) + (values[up + nx] * (1 - u) + values[up + nx + 1] * u) * v;
  return near * (1 - w) + far * w;
}

function addTriangle(
  near: Float32Array,
  p: Float64Array,
  indices: Uint32Array,
  t: number,
  [nx, ny, nz]: readonly number[],
  band: number,
): void {
  const a = indices[t] * 3;
  const b = indices[t + 1] * 3;
  const c = indices[t + 2] * 3;
  const x0 = first(p[a], p[b], p[c], band);
  const x1 = last(p[a], p[b], p[c], band, nx);
  const y0 = first(p[a + 1], p[b + 1], p[c + 1], band);
  const y1 = last(p[a + 1], p[b + 1], p[c + 1], band, ny);
  const z0 = first(p[a + 2], p[b + 2], p[c + 2], band);
  const z1 = last(p[a + 2], p[b + 2], p[c + 2], band, nz);
  if (x0 > x1 || y0 > y1 || z0 > z1) return;
  // Many triangles: nothing is made for each.
  const ax = p[a];
  const ay = p[a + 1];
  const az = p[a + 2];
  const abx = p[b] - ax;
  const aby = p[b + 1] - ay;
  const abz = p[b + 2] - az;
  const acx = p[c] - ax;
  const acy = p[c + 1] - ay;
  const acz = p[c + 2] - az;
  // Nothing of a triangle is nearer than its plane.
  const mx = aby * acz - abz * acy;
  const my = abz * acx - abx * acz;
  const mz = abx * acy - aby * acx;
  const long = mx * mx + my * my + mz * mz;
  // Nor than the least ball round it: about the middle of its longest side or, where all angles are acute, its circumcentre.
  const ab = length(abx, aby, abz);
  const ac = length(acx, acy, acz);
  const both = abx * acx + aby * acy + abz * acz;
  const twice = 2 * (ab * ac - both * both);
  let u = 0.5;
  let v = 0.5;
  if (both >= ab) u = 0;
  else if (both >= ac) v = 0;
  else if (both > 0) {
    u = (ac * (ab - both)) / twice;
    v = (ab * (ac - both)) / twice;
  }
  const rx = u * abx + v * acx;
  const ry = u * aby + v * acy;
  const rz = u * abz + v * acz;
  const gx = ax + rx;
  const gy = ay + ry;
  const gz = az + rz;
  const reach = Math.sqrt(
    Math.max(length(rx, ry, rz), length(abx - rx, aby - ry, abz - rz), length(acx - rx, acy - ry, acz - rz)),
  );
  const far = (band + reach) * (band + reach);
  const flat = long > 0 ? 1 / long : 0;
  for (let z = z0; z <= z1; z++)
    for (let y = y0; y <= y1; y++) {
      const aside = length(0, y - gy, z - gz);
      if (aside >= far) continue;
      const half = Math.sqrt(far - aside);
      const from = gx - half <= x0 ? x0 : Math.ceil(gx - half);
      const to = gx + half >= x1 ? x1 : Math.floor(gx + half);
      const row = (z * ny + y) * nx;
      const off = my * (y - ay) + mz * (z - az);
      for (let x = from; x <= to; x++) {
        const known = near[row + x];
        const above = mx * (x - ax) + off;
        const up = above * above * flat;
        const left = known * known - up;
        if (left <= 0) continue;
        // Nor, along its plane, than that.
        const bound = reach + Math.sqrt(left);
        if (aside + (x - gx) * (x - gx) - up >= bound * bound) continue;
        const d = squared(x - ax, y - ay, z - az, abx, aby, abz, acx, acy, acz);
        if (d < known * known) near[row + x] = Math.sqrt(d);
      }
    }
}

/** The first and last cells of an axis within the band round three places. */
function first(a: number, b: number, c: number, band: number): number {
  return Math.max(0, Math.ceil(Math.min(a, b, c) - band));
}
function last(a: number, b: number, c: number, band: number, count: number): number {
  return Math.min(count - 1, Math.floor(Math.max(a, b, c) + band));
}

/** Squared distance of a point from a triangle with a corner at 0 (Ericson, Real-Time Collision Detection, 5.1.5). */
function squared(
  px: number,
  py: number,
  pz: number,
  abx: number,
  aby: number,
  abz: number,
  acx: number,
  acy: number,
  acz: number,
): number {
  const d1 = abx * px + aby * py + abz * pz;
  const d2 = acx * px + acy * py + acz * pz;
  if (d1 <= 0 && d2 <= 0) return px * px + py * py + pz * pz;
  const ab = abx * abx + aby * aby + abz * abz;
  const ac = acx * acx + acy * acy + acz * acz;
  const both = abx * acx + aby * acy + abz * acz;
  const d3 = d1 - ab;
  const d4 = d2 - both;
  if (d3 >= 0 && d4 <= d3) return length(px - abx, py - aby, pz - abz);
  const d5 = d1 - both;
  const d6 = d2 - ac;
  if (d6 >= 0 && d5 <= d6) return length(px - acx, py - acy, pz - acz);
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) {
    const v = d1 / (d1 - d3);
    return length(px - v * abx, py - v * aby, pz - v * abz);
  }
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) {
    const w = d2 / (d2 - d6);
    return length(px - w * acx, py - w * acy, pz - w * acz);
  }
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const w = (d4 - d3) / (d4 - d3 + (d5 - d6));
    return length(px - abx - w * (acx - abx), py - aby - w * (acy - aby), pz - abz - w * (acz - abz));
  }
  const sum = va + vb + vc;
  const v = vb / sum;
  const w = vc / sum;
  return length(px - v * abx - w * acx, py - v * aby - w * acy, pz - v * abz - w * acz);
}

const length = (x: number, y: number, z: number): number => x * x + y * y + z * z;

/** A nudge that keeps rays off edges and corners, where a crossing would count twice or not at all; cells. */
const ASIDE_U = 1.37e-5;
const ASIDE_W = 2.71e-5;

/** 1 where rays along x and along y both say that a cell is inside. */
function insideOf(p: Float64Array, indices: Uint32Array, size: readonly number[]): Uint8Array {
  const [nx, ny, nz] = size;
  const alongX = crossings(p, indices, size, 0);
  const alongY = crossings(p, indices, size, 1);
  const out = new Uint8Array(nx * ny * nz);
  for (let i = 0; i < out.length; i++) out[i] = alongX[i] & alongY[i];
  return out;
}

/** Parity of the crossings before each cell along an axis; rows that are left inside belong to an open surface and do not count. */
function crossings(p: Float64Array, indices: Uint32Array, size: readonly number[], axis: 0 | 1): Uint8Array {
  const [nx, ny, nz] = size;
  const strides = [1, nx, nx * ny];
  const across = axis === 0 ? 1 : 0;
  const count = size[axis];
  const flips = new Uint8Array(nx * ny * nz);
  /** Crossings beyond the last cell, by row. */
  const beyond = new Uint8Array(size[across] * nz);
  const wide = size[across];
  const [step, side, deep] = [strides[axis], strides[across], strides[2]];
  for (let t = 0; t < indices.length; t += 3) {
    // Many triangles: nothing is made for each.
    const a = indices[t] * 3;
    const b = indices[t + 1] * 3;
    const c = indices[t + 2] * 3;
    const au = p[a + across];
    const aw = p[a + 2];
    const bu = p[b + across] - au;
    const bw = p[b + 2] - aw;
    const cu = p[c + across] - au;
    const cw = p[c + 2] - aw;
    const area = bu * cw - bw * cu;
    if (area === 0) continue;
    const u0 = Math.max(0, Math.ceil(au + Math.min(0, bu, cu) - 1e-4));
    const u1 = Math.min(wide - 1, Math.floor(au + Math.max(0, bu, cu)));
    const w0 = Math.max(0, Math.ceil(aw + Math.min(0, bw, cw) - 1e-4));
    const w1 = Math.min(nz - 1, Math.floor(aw + Math.max(0, bw, cw)));
    for (let w = w0; w <= w1; w++)
      for (let u = u0; u <= u1; u++) {
        const pu = u + ASIDE_U - au;
        const pw = w + ASIDE_W - aw;
        const s = (pu * cw - pw * cu) / area;
        const r = (bu * pw - bw * pu) / area;
        if (s < 0 || r < 0 || s + r > 1) continue;
        const at = p[a + axis] + s * (p[b + axis] - p[a + axis]) + r * (p[c + axis] - p[a + axis]);
        const from = Math.max(0, Math.ceil(at));
        if (from < count) flips[w * deep + u * side + from * step] ^= 1;
        else beyond[w * wide + u] ^= 1;
      }
  }
  for (let w = 0; w < nz; w++)
    for (let u = 0; u < size[across]; u++) {
      const row = w * strides[2] + u * strides[across];
      let state = 0;
      for (let i = 0; i < count; i++) state = flips[row + i * strides[axis]] ^= state;
      // Inside at the end without a way out: a sheet, or one that goes on beyond the domain.
      if (state !== beyond[w * size[across] + u]) for (let i = 0; i < count; i++) flips[row + i * strides[axis]] = 0;
    }
  return flips;
}
