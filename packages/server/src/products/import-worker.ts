import { readFile } from 'node:fs/promises';
import draco3d from 'draco3dgltf';
import { MeshoptDecoder } from 'meshoptimizer/decoder';
import { importModel, type Model } from '@tender-orbit/core/interchange';
import { decodeImage } from '../workers/index.ts';

/** Paths of the files to read; resources by the URI the .gltf knows them under. */
export interface ImportTask {
  fileName: string;
  path: string;
  resources: Record<string, string>;
}

/** The normalised file, and the model without its heavy arrays' bytes being needed again. */
export interface ImportResult {
  glb: Uint8Array;
  model: Model;
  triangles: number;
}

/** Reads a model file whole and writes it anew in the one form that is drawn from. */
export default async function read(job: ImportTask): Promise<ImportResult> {
  await MeshoptDecoder.ready;
  const resources: Record<string, Uint8Array> = {};
  for (const [uri, path] of Object.entries(job.resources)) resources[uri] = new Uint8Array(await readFile(path));
  const imported = await importModel(job.fileName, new Uint8Array(await readFile(job.path)), resources, {
    draco: await draco3d.createDecoderModule(),
    meshopt: MeshoptDecoder,
  });
  // A texture that cannot be decoded is found now, not in the middle of a render.
  for (const image of imported.model.images) await decodeImage(image.bytes, image.name);
  return imported;
}
