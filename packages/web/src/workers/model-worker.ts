import { readModel } from '@tender-orbit/core/interchange';
import type { Mesh } from '@tender-orbit/core/geometry';

/** Reads models off the main thread: heavy files must not freeze the interface. */
export interface ModelReply {
  hash: string;
  meshes?: Mesh[];
  images?: ImageBitmap[];
  error?: string;
}

self.onmessage = async (event: MessageEvent<{ hash: string }>) => {
  const { hash } = event.data;
  try {
    const response = await fetch(`/api/assets/${hash}`);
    if (!response.ok) throw new Error(`the server answered ${response.status}`);
    const model = await readModel(new Uint8Array(await response.arrayBuffer()));
    const meshes = model.parts.map((p) => p.mesh);
    const images = await Promise.all(
      model.images.map((i) =>
        createImageBitmap(new Blob([new Uint8Array(i.bytes)], { type: i.mimeType }), {
          colorSpaceConversion: 'none',
          premultiplyAlpha: 'none',
        }),
      ),
    );
    const reply: ModelReply = { hash, meshes, images };
    const buffers = meshes.flatMap((m) => [m.positions.buffer, m.normals.buffer, m.uvs.buffer, m.indices.buffer]);
    self.postMessage(reply, { transfer: [...new Set(buffers), ...images] as Transferable[] });
  } catch (error) {
    self.postMessage({ hash, error: (error as Error).message } satisfies ModelReply);
  }
};
