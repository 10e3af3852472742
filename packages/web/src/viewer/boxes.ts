import { boundsOf, transformPoint, type Bounds } from '@tender-orbit/core/geometry';
import { meshOfShape, surfaceTraits, type Tableau } from '@tender-orbit/core/scene';
import { modelOf } from './models.ts';

/** World places of the vertices of one of a tableau's products or surfaces; none while its model is not there. */
export function verticesOf(tableau: Tableau, id: string): Float64Array {
  const instance = tableau.instances.find((i) => i.id === id);
  const surface = tableau.surfaces.find((s) => s.id === id && !surfaceTraits(s.shape).backdrop);
  const model = instance && modelOf(instance.model);
  const meshes = surface
    ? [meshOfShape(surface.shape)]
    : (instance?.parts.flatMap((p) => model?.meshes[p.index] ?? []) ?? []);
  const matrix = (surface ?? instance)?.matrix;
  const out = new Float64Array(meshes.reduce((n, m) => n + m.positions.length, 0));
  let at = 0;
  for (const { positions: p } of meshes)
    for (let i = 0; i < p.length; i += 3, at += 3) out.set(transformPoint(matrix!, [p[i], p[i + 1], p[i + 2]]), at);
  return out;
}

/** World boxes of a tableau's products and surfaces, by id. */
export function boxesIn(tableau: Tableau): Map<string, Bounds> {
  const out = new Map<string, Bounds>();
  for (const instance of tableau.instances) {
    const model = modelOf(instance.model);
    if (model)
      out.set(
        instance.id,
        boundsOf(
          instance.parts.map((p) => model.meshes[p.index]),
          instance.matrix,
        ),
      );
  }
  for (const surface of tableau.surfaces)
    if (!surfaceTraits(surface.shape).backdrop)
      out.set(surface.id, boundsOf([meshOfShape(surface.shape)], surface.matrix));
  return out;
}
