import { productOf } from '@tender-orbit/core/interchange';
import type { ProductDocument } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import { describeType, type AssetStore } from '../assets/index.ts';
import { runOnce } from '../workers/index.ts';
import type { ImportJob, ImportResult } from './import-worker.ts';

const WORKER = new URL('./import-worker.ts', import.meta.url);
const SECONDS = 120;
const MEMORY_MB = 4096;

export interface ImportRequest {
  fileName: string;
  asset: string;
  resources: Record<string, string>;
}

/** Turns an uploaded model file into a product; the hard work runs in a thread with a time and memory limit. */
export async function importProduct(
  assets: AssetStore,
  { fileName, asset, resources }: ImportRequest,
): Promise<ProductDocument> {
  const described = await assets.describe(asset);
  if (described.mime !== 'model/gltf-binary' && described.mime !== 'model/gltf+json') {
    throw new Problem(
      'model/not-gltf',
      `"${fileName}" is ${describeType(described.mime)}, not a glTF model: bring a .glb or .gltf file.`,
      fileName,
    );
  }
  const job: ImportJob = {
    fileName,
    path: assets.path(asset),
    resources: Object.fromEntries(Object.entries(resources).map(([uri, hash]) => [uri, assets.path(hash)])),
  };
  const tooHeavy = new Problem(
    'model/too-heavy',
    `"${fileName}" took more than ${SECONDS} s or ${MEMORY_MB} MB to read: simplify it and retry.`,
    fileName,
  );
  const result = await runOnce<ImportResult>(WORKER, job, SECONDS, MEMORY_MB, tooHeavy);
  const model = await assets.put(result.glb);
  const name = fileName.replace(/\.(glb|gltf)$/i, '').trim() || 'Product';
  return productOf(name, fileName, asset, model.hash, result.model);
}
