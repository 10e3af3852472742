import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import type { ProductDocument, SetDocument, ShotDocument } from '@tender-orbit/core/document';
import type { Mesh } from '@tender-orbit/core/geometry';
import { readModel, writeStaged, type ModelImage } from '@tender-orbit/core/interchange';
import { compile, evaluate, picturesIn } from '@tender-orbit/core/scene';
import { builtMeshes, fileOfKey, meshesOfKey, modelKey } from '@tender-orbit/core/product';
import type { FrameRate } from '@tender-orbit/core/time';
import { loadPicture } from '../workers/index.ts';

export interface StagedTask {
  shot: ShotDocument;
  set: SetDocument;
  products: Record<string, ProductDocument>;
  rate: FrameRate;
  aspect: number;
  /** Files by hash. */
  paths: Record<string, string>;
}

/** No other software takes animations with more keys than this gladly. */
const MOST_FRAMES = 3000;

/** The staged set of a shot with its moves, as a GLB. */
export default async function write(job: StagedTask): Promise<Uint8Array> {
  const models = new Map<string, { meshes: Mesh[]; images: ModelImage[] }>();
  for (const product of Object.values(job.products)) {
    const key = modelKey(product);
    const built = builtMeshes(key);
    if (built) models.set(key, { meshes: built, images: [] });
    else {
      const model = await readModel(new Uint8Array(await readFile(job.paths[fileOfKey(key)])));
      models.set(key, {
        meshes: meshesOfKey(
          key,
          model.parts.map((p) => p.mesh),
        ),
        images: model.images,
      });
    }
  }
  const context = {
    products: new Map(Object.entries(job.products)),
    meshes: (key: string) => models.get(key)?.meshes,
    aspect: job.aspect,
  };
  const frames = Math.min(MOST_FRAMES, job.shot.length);
  const program = compile(job.set, job.shot);
  const tableaux = Array.from({ length: frames }, (_, frame) => evaluate(program, frame, context));
  const pictures = new Map<string, ModelImage>();
  for (const [key, source] of picturesIn(tableaux[0])) {
    const { width, height, data } = await loadPicture(source, job.paths);
    const bytes = await sharp(data, { raw: { width, height, channels: 4 } })
      .png()
      .toBuffer();
    pictures.set(key, { name: `Art ${pictures.size + 1}`, mimeType: 'image/png', bytes: new Uint8Array(bytes) });
  }
  return writeStaged({ name: job.shot.name, tableaux, rate: job.rate, models, pictures });
}
