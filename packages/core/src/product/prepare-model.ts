import { atan2, cos, hypot } from '../maths/index.ts';
import type { Preparation } from '../document/index.ts';
import {
  boundsOf,
  faceNormal,
  transformMesh,
  type Mesh,
  type RigBase,
  type RigSkin,
  type Vec3,
} from '../geometry/index.ts';

/** Corners that bend more than this keep a hard edge when normals are made. Degrees. */
const CREASE = 40;

/** The meshes of a model as its preparation asks for. */
export function prepareMeshes(meshes: readonly Mesh[], { unwraps, toBase, normals }: Preparation): Mesh[] {
  const all = boundsOf(meshes);
  const [x, z] = [0, 2].map((axis) => (all.min[axis] + all.max[axis]) / 2);
  return meshes.map((mesh, part) => {
    let out = mesh;
    if (toBase) out = shifted(out, [-x, -all.min[1], -z]);
    if (normals) out = repairNormals(out);
    const unwrap = unwraps.find((u) => u.part === part)?.unwrap ?? 'file';
    if (unwrap === 'box') return unwrapBox(out);
    return unwrap === 'round' ? unwrapRound(out) : out;
  });
}

/** A mesh that is moved, with what its rig is measured from. */
function shifted(mesh: Mesh, by: Vec3): Mesh {
  const out = transformMesh(mesh, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, ...by, 1]);
  const { rig } = mesh;
  return rig ? { ...out, rig: { ...rig, shift: rig.shift.map((v, axis) => v + by[axis]) as Vec3 } } : out;
}

/** Each triangle's corners apart from the others', so that uv and normals may break anywhere. */
function apart(mesh: Mesh): Mesh {
  const take = <T extends Float32Array | Uint16Array>(from: T, size: number): T => {
    const out = new (from.constructor as new (length: number) => T)(mesh.indices.length * size);
    for (let i = 0; i < mesh.indices.length; i++)
      for (let c = 0; c < size; c++) out[i * size + c] = from[mesh.indices[i] * size + c];
    return out;
  };
  const takeBase = ({ positions, normals, tangents }: Omit<RigBase, 'targets'>): Omit<RigBase, 'targets'> => ({
    positions: take(positions, 3),
    ...(normals && { normals: take(normals, 3) }),
    ...(tangents && { tangents: take(tangents, tangents.length / (positions.length / 3)) }),
  });
  const takeSkin = (skin: RigSkin): RigSkin => ({
    ...skin,
    which: take(skin.which, skin.sets * 4),
    shares: take(skin.shares, skin.sets * 4),
  });
  const { rig } = mesh;
  return {
    positions: take(mesh.positions, 3),
    normals: take(mesh.normals, 3),
    uvs: take(mesh.uvs, 2),
    indices: Uint32Array.from(mesh.indices, (_, i) => i),
    ...(mesh.colors && { colors: take(mesh.colors, 4) }),
    ...(rig && {
      rig: {
        ...rig,
        ...(rig.base && { base: { ...takeBase(rig.base), targets: rig.base.targets.map(takeBase) } }),
        ...(rig.skin && { skin: takeSkin(rig.skin) }),
      },
    }),
  };
}

/** Art thrown on a part from the six sides of its box, each triangle from the side that it faces most. */
export function unwrapBox(mesh: Mesh): Mesh {
  const out = apart(mesh);
  const box = boundsOf([mesh]);
  const share = (v: number, axis: number): number => (v - box.min[axis]) / (box.max[axis] - box.min[axis] || 1);
  for (let t = 0; t < out.indices.length; t += 3) {
    const n = faceNormal(out.positions, out.indices, t);
    const axis = [0, 1, 2].reduce((best, a) => (Math.abs(n[a]) > Math.abs(n[best]) ? a : best), 0);
    for (let k = 0; k < 3; k++) {
      const [x, y, z] = [0, 1, 2].map((a) => share(out.positions[(t + k) * 3 + a], a));
      // Seen from that side with the top up, u runs to the right.
      const u = axis === 0 ? (n[0] > 0 ? 1 - z : z) : axis === 2 && n[2] < 0 ? 1 - x : x;
      const v = axis === 1 ? (n[1] > 0 ? z : 1 - z) : 1 - y;
      out.uvs.set([u, v], (t + k) * 2);
    }
  }
  return out;
}

/** Art wrapped round the vertical axis through the middle of a part, once round from the back; its middle faces +Z. */
export function unwrapRound(mesh: Mesh): Mesh {
  const out = apart(mesh);
  const box = boundsOf([mesh]);
  const middle = (axis: number): number => (box.min[axis] + box.max[axis]) / 2;
  const height = box.max[1] - box.min[1] || 1;
  for (let t = 0; t < out.indices.length; t += 3) {
    const us = [0, 1, 2].map((k) => {
      const at = (t + k) * 3;
      return atan2(out.positions[at] - middle(0), out.positions[at + 2] - middle(2)) / (2 * Math.PI) + 0.5;
    });
    // A triangle across the seam goes on beyond the sheet's edge, where it repeats.
    const wide = Math.max(...us) - Math.min(...us) > 0.5;
    us.forEach((u, k) => {
      const v = 1 - (out.positions[(t + k) * 3 + 1] - box.min[1]) / height;
      out.uvs.set([wide && u < 0.5 ? u + 1 : u, v], (t + k) * 2);
    });
  }
  return out;
}

/**
 * Normals made anew from the triangles, smooth except across sharp edges; a part whose volume is negative is turned
 * inside out first, so that it looks outward.
 */
export function repairNormals(mesh: Mesh): Mesh {
  const out = apart(mesh);
  const { positions: p, indices } = out;
  let volume = 0;
  for (let i = 0; i < p.length; i += 9)
    volume +=
      p[i] * (p[i + 4] * p[i + 8] - p[i + 5] * p[i + 7]) +
      p[i + 1] * (p[i + 5] * p[i + 6] - p[i + 3] * p[i + 8]) +
      p[i + 2] * (p[i + 3] * p[i + 7] - p[i + 4] * p[i + 6]);
  if (volume < 0)
    for (let t = 0; t < indices.length; t += 3) [indices[t + 1], indices[t + 2]] = [indices[t + 2], indices[t + 1]];
  const faces: number[][] = [];
  const corners = new Map<string, number[]>();
  const place = (v: number): string => [0, 1, 2].map((a) => Math.round(p[v * 3 + a] * 1e6)).join(' ');
  for (let t = 0; t < indices.length; t += 3) {
    faces.push([...faceNormal(p, indices, t)]);
    for (let k = 0; k < 3; k++) {
      const key = place(indices[t + k]);
      corners.set(key, [...(corners.get(key) ?? []), t / 3]);
    }
  }
  const limit = cos((CREASE * Math.PI) / 180);
  for (let t = 0; t < indices.length; t += 3) {
    const own = faces[t / 3];
    const length = hypot(...own) || 1;
    for (let k = 0; k < 3; k++) {
      const sum = [0, 0, 0];
      for (const f of corners.get(place(indices[t + k]))!) {
        const n = faces[f];
        const cosine = (n[0] * own[0] + n[1] * own[1] + n[2] * own[2]) / (length * (hypot(...n) || 1));
        if (cosine >= limit) for (let a = 0; a < 3; a++) sum[a] += n[a];
      }
      const size = hypot(...sum) || 1;
      out.normals.set(
        sum.map((v) => v / size),
        indices[t + k] * 3,
      );
    }
  }
  return out;
}
