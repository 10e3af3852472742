/** Model files that the server reads. */
export const MODEL = /\.(glb|gltf|obj|stl|ply|usdz|usda|usdc|usd)$/i;
/** Files that a model may bring along. */
const RESOURCE = /\.(bin|mtl|png|jpe?g|webp|avif|tiff?|gif)$/i;
/** What a picker of model files offers. */
export const MODEL_ACCEPT =
  '.glb,.gltf,.obj,.mtl,.stl,.ply,.usdz,.usda,.usdc,.bin,.png,.jpg,.jpeg,.webp,.avif,.tif,.tiff';

/** A .gltf, .obj or .usda names other files; the rest are whole in themselves. */
const WITH_OTHERS = /\.(gltf|obj|usda|usd)$/i;

/** The files that were dropped with a model and that it may refer to. */
export function companionsOf<F extends { name: string }>(model: F, files: readonly F[]): F[] {
  return WITH_OTHERS.test(model.name) ? files.filter((f) => f !== model && RESOURCE.test(f.name)) : [];
}
