import { boundsOf, type Bounds } from '@tender-orbit/core/geometry';
import { meshOfShape, type Tableau } from '@tender-orbit/core/motion';
import { modelOf } from './models.ts';

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
    if (surface.shape.kind !== 'sweep') out.set(surface.id, boundsOf([meshOfShape(surface.shape)], surface.matrix));
  return out;
}
