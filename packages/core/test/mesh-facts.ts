import type { Mesh } from '@tender-orbit/core/geometry';

/** Facts about meshes that tests state; positions are compared to a nanometre, since Float32 carries no more. */
const place = (mesh: Mesh, vertex: number): string =>
  [0, 1, 2].map((a) => Math.round(mesh.positions[vertex * 3 + a] * 1e7)).join(' ');

/** Edges that do not have exactly one partner running the other way; none in a watertight, evenly wound body. */
export function openEdges(meshes: readonly Mesh[]): string[] {
  const count = new Map<string, number>();
  for (const mesh of meshes) {
    for (let t = 0; t < mesh.indices.length; t += 3) {
      const corners = [0, 1, 2].map((k) => place(mesh, mesh.indices[t + k]));
      if (new Set(corners).size < 3) continue;
      for (let k = 0; k < 3; k++) {
        const [a, b] = [corners[k], corners[(k + 1) % 3]];
        const name = a < b ? `${a}|${b}` : `${b}|${a}`;
        count.set(name, (count.get(name) ?? 0) + (a < b ? 1 : -1));
      }
    }
  }
  return [...count].filter(([, n]) => n !== 0).map(([name]) => name);
}

/** Signed volume by the divergence theorem: positive when faces look outward. */
export function volumeOf(meshes: readonly Mesh[]): number {
  let sum = 0;
  for (const { positions: p, indices } of meshes) {
    for (let t = 0; t < indices.length; t += 3) {
      const [a, b, c] = [indices[t] * 3, indices[t + 1] * 3, indices[t + 2] * 3];
      sum +=
        p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
        p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
        p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
    }
  }
  return sum / 6;
}

/** Largest deviation of a normal's length from one. */
export function normalError(mesh: Mesh): number {
  let worst = 0;
  for (let i = 0; i < mesh.normals.length; i += 3) {
    worst = Math.max(worst, Math.abs(Math.hypot(mesh.normals[i], mesh.normals[i + 1], mesh.normals[i + 2]) - 1));
  }
  return worst;
}
