import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { makePicture, type PictureSource } from '@tender-orbit/core/finish';
import { readModel } from '@tender-orbit/core/interchange';
import { builtMeshes, fileOfKey, meshesOfKey } from '@tender-orbit/core/product';
import type { DecodedImage, ModelData } from '@tender-orbit/core/trace';
import { Problem } from '@tender-orbit/core/problem';

/** No picture on a model needs more than this to fill a 4K frame. */
const MAX_TEXTURE = 8192;

/**
 * A model by its key with its textures decoded, as the tracer wants it: built from its numbers, or the stored normalised
 * file. `paths` gives files by hash.
 */
export async function loadModel(key: string, paths: Record<string, string>): Promise<ModelData> {
  const built = builtMeshes(key);
  if (built) return { meshes: built, images: [] };
  const path = paths[fileOfKey(key)];
  const model = await readModel(new Uint8Array(await readFile(path)));
  const images = await Promise.all(model.images.map((i) => decodeImage(i.bytes, i.name)));
  return {
    meshes: meshesOfKey(
      key,
      model.parts.map((p) => p.mesh),
    ),
    images,
  };
}

/** The pixels of a picture of art. */
export async function loadPicture(source: PictureSource, paths: Record<string, string>): Promise<DecodedImage> {
  if (source.pattern) return makePicture(source);
  return makePicture(source, await decodeImage(await readFile(paths[source.asset]), 'label sheet'));
}

export async function decodeImage(bytes: Uint8Array, name: string): Promise<DecodedImage> {
  try {
    const { data, info } = await sharp(bytes, { limitInputPixels: MAX_TEXTURE * MAX_TEXTURE })
      .toColourspace('srgb')
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, data };
  } catch {
    throw new Problem('picture/broken', `The picture "${name}" could not be read: save it again as PNG or JPEG.`, name);
  }
}
