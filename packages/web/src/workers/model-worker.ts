import { pictureKey, type PictureSource } from '@tender-orbit/core/finish';
import type { Mesh } from '@tender-orbit/core/geometry';
import type { Panorama } from '@tender-orbit/core/light';
import { readModelByKey, readPanorama, readPicture } from './read-model.ts';

/** Reads models and draws art off the main thread: heavy files must not freeze the interface. */
export type ModelRequest =
  { kind: 'model'; key: string } | { kind: 'picture'; source: PictureSource } | { kind: 'panorama'; key: string };

export interface ModelReply {
  kind: 'model' | 'picture' | 'panorama';
  key: string;
  /** Nothing when it could not be read. */
  meshes?: Mesh[];
  images?: ImageBitmap[];
  panorama?: Panorama;
}

self.onmessage = async ({ data }: MessageEvent<ModelRequest>) => {
  const key = data.kind === 'picture' ? pictureKey(data.source) : data.key;
  const reply: ModelReply = { kind: data.kind, key };
  try {
    if (data.kind === 'model') Object.assign(reply, await readModelByKey(data.key));
    else if (data.kind === 'panorama') reply.panorama = await readPanorama(data.key);
    else
      reply.images = [
        await createImageBitmap(await readPicture(data.source), {
          colorSpaceConversion: 'none',
          premultiplyAlpha: 'none',
        }),
      ];
  } catch {
    // The reply without contents says it: it is asked for again when it is next drawn.
  }
  const buffers = reply.meshes?.flatMap((m) => [m.positions.buffer, m.normals.buffer, m.uvs.buffer, m.indices.buffer]);
  self.postMessage(reply, { transfer: [...new Set(buffers), ...(reply.images ?? [])] as Transferable[] });
};
