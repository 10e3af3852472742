import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { readModel } from '@tender-orbit/core/interchange';
import type { DecodedImage, ModelData } from '@tender-orbit/core/trace';
import { Problem } from '@tender-orbit/core/problem';

/** No picture on a model needs more than this to fill a 4K frame. */
const MAX_TEXTURE = 8192;

/** A stored normalised model with its textures decoded, as the tracer wants it. */
export async function loadModel(path: string): Promise<ModelData> {
  const model = await readModel(new Uint8Array(await readFile(path)));
  const images = await Promise.all(model.images.map((i) => decodeImage(i.bytes, i.name)));
  return { meshes: model.parts.map((p) => p.mesh), images };
}

export async function decodeImage(bytes: Uint8Array, name: string): Promise<DecodedImage> {
  try {
    const { data, info } = await sharp(bytes, { limitInputPixels: MAX_TEXTURE * MAX_TEXTURE })
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, data };
  } catch {
    throw new Problem('picture/broken', `The picture "${name}" could not be read: save it again as PNG or JPEG.`, name);
  }
}
