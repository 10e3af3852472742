import { shortened } from '../text/index.ts';
import { plainProduct, productFinishes, type ProductDocument } from '../document/index.ts';
import { boundsOf, boundsSize, METRES_IN, triangleCount, type LengthUnit } from '../geometry/index.ts';
import type { Model } from './model.ts';

/** What a product keeps of the file it came from. */
export interface ModelSource {
  fileName: string;
  /** SHA-256 of the file as it was brought, and of the normalised model. */
  source: string;
  model: string;
  unit: LengthUnit;
  origin?: ProductDocument['origin'];
}

/** The product document an imported model starts with. */
export function productOf(
  name: string,
  { fileName, source, model: hash, unit, origin }: ModelSource,
  model: Model,
): ProductDocument {
  const finishes = productFinishes(model.finishes.map((f) => ({ ...f, name: shortened(f.name, 200) })));
  return {
    ...plainProduct(),
    version: 3,
    name: shortened(name, 120),
    fileName: shortened(fileName, 255),
    source,
    model: hash,
    ...(origin && { origin }),
    scale: METRES_IN[unit],
    extent: boundsSize(boundsOf(model.parts.map((p) => p.mesh))),
    parts: model.parts.map((p, index) => ({
      index,
      name: shortened(p.name, 200),
      finish: finishes[p.finish].id,
      triangles: triangleCount(p.mesh),
      visible: true,
    })),
    finishes,
  };
}
