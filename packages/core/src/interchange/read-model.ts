import { flatten, parseGltf } from './gltf/index.ts';
import type { Model } from './model.ts';
import { takeRigs } from './rig-file.ts';

/**
 * A model from the normalised GLB that importModel() wrote (uncompressed, triangles only, one node a part). Part and image
 * numbers are stable: the same bytes give the same numbers.
 */
export async function readModel(glb: Uint8Array): Promise<Model> {
  const document = await parseGltf('model', glb, {});
  const { model } = flatten(document, 'model');
  takeRigs(
    document,
    model.parts.map(({ mesh }) => mesh),
  );
  return model;
}
