import { hypot } from '../maths/index.ts';
import { vec3 } from 'gl-matrix';
import type { MeshRig } from './rig.ts';
import type { Mat4 } from './transform.ts';

/**
 * A triangle mesh in flat arrays, metres, counter-clockwise front faces, +Y up.
 * positions and normals hold 3 numbers a vertex, uvs 2, colors 4 (linear RGBA), tangents 4 (w = handedness).
 */
export interface Mesh {
  positions: Float32Array;
  normals: Float32Array;
  uvs: Float32Array;
  indices: Uint32Array;
  colors?: Float32Array;
  tangents?: Float32Array;
  /** What its model's animations move it by. */
  rig?: MeshRig;
}

export function triangleCount(mesh: Mesh): number {
  return mesh.indices.length / 3;
}

/** Area-weighted smooth normals for a mesh that came without any. Vertices at the same index share a normal. */
export function smoothNormals(positions: Float32Array, indices: Uint32Array): Float32Array {
  const normals = new Float32Array(positions.length);
  for (let t = 0; t < indices.length; t += 3) {
    const n = faceNormal(positions, indices, t);
    for (let k = 0; k < 3; k++) for (let c = 0; c < 3; c++) normals[indices[t + k] * 3 + c] += n[c];
  }
  for (let v = 0; v < normals.length; v += 3) {
    const length = hypot(normals[v], normals[v + 1], normals[v + 2]) || 1;
    for (let c = 0; c < 3; c++) normals[v + c] /= length;
  }
  return normals;
}

/** Twice-area-long normal of the triangle whose first index is at `t`. */
export function faceNormal(positions: Float32Array, indices: Uint32Array, t: number): vec3 {
  const at = (k: number): vec3 => positions.subarray(indices[t + k] * 3, indices[t + k] * 3 + 3);
  const a = at(0);
  const e1 = vec3.subtract([0, 0, 0], at(1), a);
  const e2 = vec3.subtract([0, 0, 0], at(2), a);
  return vec3.cross([0, 0, 0], e1, e2);
}

/** A copy with every vertex moved by `matrix`; normals by its inverse transpose; winding kept under mirroring. */
export function transformMesh(mesh: Mesh, matrix: Mat4): Mesh {
  const positions = new Float32Array(mesh.positions.length);
  const normals = new Float32Array(mesh.normals.length);
  const m = matrix;
  // Cofactors of the upper 3x3 are the inverse transpose up to a positive or negative scale (the determinant).
  const c = [
    m[5] * m[10] - m[6] * m[9],
    m[6] * m[8] - m[4] * m[10],
    m[4] * m[9] - m[5] * m[8],
    m[9] * m[2] - m[10] * m[1],
    m[10] * m[0] - m[8] * m[2],
    m[8] * m[1] - m[9] * m[0],
    m[1] * m[6] - m[2] * m[5],
    m[2] * m[4] - m[0] * m[6],
    m[0] * m[5] - m[1] * m[4],
  ];
  const det = m[0] * c[0] + m[1] * c[1] + m[2] * c[2];
  const sign = det < 0 ? -1 : 1;
  for (let i = 0; i < positions.length; i += 3) {
    const x = mesh.positions[i];
    const y = mesh.positions[i + 1];
    const z = mesh.positions[i + 2];
    positions[i] = m[0] * x + m[4] * y + m[8] * z + m[12];
    positions[i + 1] = m[1] * x + m[5] * y + m[9] * z + m[13];
    positions[i + 2] = m[2] * x + m[6] * y + m[10] * z + m[14];
    const nx = mesh.normals[i];
    const ny = mesh.normals[i + 1];
    const nz = mesh.normals[i + 2];
    const tx = (c[0] * nx + c[3] * ny + c[6] * nz) * sign;
    const ty = (c[1] * nx + c[4] * ny + c[7] * nz) * sign;
    const tz = (c[2] * nx + c[5] * ny + c[8] * nz) * sign;
    const length = hypot(tx, ty, tz) || 1;
    normals[i] = tx / length;
    normals[i + 1] = ty / length;
    normals[i + 2] = tz / length;
  }
  const indices = mesh.indices.slice();
  if (det < 0) {
    for (let t = 0; t < indices.length; t += 3) [indices[t + 1], indices[t + 2]] = [indices[t + 2], indices[t + 1]];
  }
  return { ...mesh, positions, normals, indices };
}

/** One mesh holding all of `meshes`. Optional arrays are kept only when every mesh has them. */
export function mergeMeshes(meshes: Mesh[]): Mesh {
  const join = (pick: (m: Mesh) => Float32Array): Float32Array => {
    const arrays = meshes.map(pick);
    const out = new Float32Array(arrays.reduce((n, a) => n + a.length, 0));
    let at = 0;
    for (const a of arrays) {
      out.set(a, at);
      at += a.length;
    }
    return out;
  };
  const indices = new Uint32Array(meshes.reduce((n, m) => n + m.indices.length, 0));
  let at = 0;
  let base = 0;
  for (const m of meshes) {
    for (let i = 0; i < m.indices.length; i++) indices[at + i] = m.indices[i] + base;
    at += m.indices.length;
    base += m.positions.length / 3;
  }
  const merged: Mesh = {
    positions: join((m) => m.positions),
    normals: join((m) => m.normals),
    uvs: join((m) => m.uvs),
    indices,
  };
  if (meshes.every((m) => m.colors)) merged.colors = join((m) => m.colors!);
  if (meshes.every((m) => m.tangents)) merged.tangents = join((m) => m.tangents!);
  return merged;
}
