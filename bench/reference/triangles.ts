import { buildSweep, transformMesh, type Mesh } from '@tender-orbit/core/geometry';
import type { Tableau } from '@tender-orbit/core/scene';
import type { ModelData } from '@tender-orbit/core/trace';
import { buildBvh } from './build-bvh.ts';

/** All triangles of a tableau in world space, metres, ordered by leaf of their tree. */
export interface Triangles {
  /** 9 a triangle: first vertex, then the edges to the second and third. */
  triangles: Float32Array;
  /** NODE_STRIDE a node; node 0 is the root. */
  nodes: Float32Array;
}

/** Products and sweeps of a tableau, flattened. */
export function flatten(tableau: Tableau, models: ReadonlyMap<string, ModelData>): Triangles {
  const meshes: Mesh[] = tableau.surfaces.flatMap(({ shape }) => (shape.kind === 'sweep' ? [buildSweep(shape)] : []));
  for (const { model, matrix, parts } of tableau.instances)
    for (const { index } of parts) meshes.push(transformMesh(models.get(model)!.meshes[index], matrix));

  const count = meshes.reduce((n, { indices }) => n + indices.length / 3, 0);
  const unordered = new Float32Array(count * 9);
  const boxes = new Float32Array(count * 6);
  let t = 0;
  for (const { positions, indices } of meshes)
    for (let first = 0; first < indices.length; first += 3, t++)
      for (let a = 0; a < 3; a++) {
        const [v0, v1, v2] = [0, 1, 2].map((k) => positions[indices[first + k] * 3 + a]);
        unordered.set([v0], t * 9 + a);
        unordered.set([v1 - v0], t * 9 + 3 + a);
        unordered.set([v2 - v0], t * 9 + 6 + a);
        boxes[t * 6 + a] = Math.min(v0, v1, v2);
        boxes[t * 6 + 3 + a] = Math.max(v0, v1, v2);
      }
  const { nodes, order } = buildBvh(boxes);
  const triangles = new Float32Array(count * 9);
  order.forEach((from, to) => triangles.set(unordered.subarray(from * 9, from * 9 + 9), to * 9));
  return { triangles, nodes };
}
