import { makePicture, type PictureSource } from '@tender-orbit/core/finish';
import type { Mesh } from '@tender-orbit/core/geometry';
import { readHdr, readModel, type ModelImage } from '@tender-orbit/core/interchange';
import type { Panorama } from '@tender-orbit/core/light';
import { builtMeshes, fileOfKey, meshesOfKey } from '@tender-orbit/core/product';

/** A model by its key: built from its numbers, or fetched; its pictures as bitmaps whose bytes are untouched. */
export async function readModelByKey(key: string): Promise<{ meshes: Mesh[]; images: ImageBitmap[] }> {
  const built = builtMeshes(key);
  if (built) return { meshes: built, images: [] };
  const model = await readModel(await fetchAsset(fileOfKey(key)));
  const images = await Promise.all(model.images.map(({ bytes, mimeType }) => bitmapOf(bytes, mimeType)));
  return {
    meshes: meshesOfKey(
      key,
      model.parts.map((p) => p.mesh),
    ),
    images,
  };
}

/** The pictures in a model's file, as they lie in it; a built one has none. */
export async function readImagesByKey(key: string): Promise<ModelImage[]> {
  const file = fileOfKey(key);
  return file ? (await readModel(await fetchAsset(file))).images : [];
}

/** The pixels of a picture of art. */
export async function readPicture(source: PictureSource): Promise<ImageData> {
  const stored = source.pattern ? undefined : pixelsOf(await bitmapOf(await fetchAsset(source.asset)));
  const { width, height, data } = makePicture(source, stored);
  return new ImageData(new Uint8ClampedArray(data), width, height);
}

/** A panorama file. */
export async function readPanorama(asset: string): Promise<Panorama> {
  return readHdr(await fetchAsset(asset));
}

export function pixelsOf(bitmap: ImageBitmap): ImageData {
  const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  return context.getImageData(0, 0, bitmap.width, bitmap.height);
}

async function fetchAsset(hash: string): Promise<Uint8Array> {
  const response = await fetch(`/api/assets/${hash}`);
  if (!response.ok) throw new Error(`the server answered ${response.status}`);
  return new Uint8Array(await response.arrayBuffer());
}

function bitmapOf(bytes: Uint8Array, mimeType?: string): Promise<ImageBitmap> {
  return createImageBitmap(new Blob([new Uint8Array(bytes)], mimeType ? { type: mimeType } : {}), {
    colorSpaceConversion: 'none',
    premultiplyAlpha: 'none',
  });
}
