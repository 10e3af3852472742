import { readFile, writeFile } from 'node:fs/promises';
import draco3d from 'draco3dgltf';
import { MeshoptDecoder } from 'meshoptimizer/decoder';
import type { FilePose, ProductDocument } from '@tender-orbit/core/document';
import {
  extensionOf,
  finishImport,
  importModel,
  productOf,
  type ImportedModel,
  type ModelReport,
} from '@tender-orbit/core/interchange';
import { plainTextures } from './plain-pictures.ts';

/** Paths of the files to read; resources by the name the model calls them; where the normalised model goes. */
export interface ModelTask {
  kind: 'model';
  fileName: string;
  path: string;
  resources: Record<string, string>;
  pose?: FilePose;
  out: string;
}

export interface ModelRead {
  /** Without the hashes of its files. */
  product: ProductDocument;
  report: ModelReport;
}

const USD = new Set(['usdz', 'usda', 'usdc', 'usd']);

/** Reads a model file whole and writes it anew in the one form that is drawn from. */
export async function readModelFile({ fileName, path, resources, pose, out }: ModelTask): Promise<ModelRead> {
  const bytes = new Uint8Array(await readFile(path));
  const files: Record<string, Uint8Array> = {};
  for (const [uri, place] of Object.entries(resources)) files[uri] = new Uint8Array(await readFile(place));
  const { glb, model, report } = await imported(fileName, bytes, files, pose);
  await writeFile(out, glb);
  const name = fileName.replace(/\.[a-z0-9]{1,5}$/i, '').trim() || 'Product';
  const origin =
    report.animations.length > 0 || Object.keys(resources).length > 0
      ? { files: [], animations: report.animations.slice(0, 1000), pose: pose ?? null }
      : undefined;
  return { product: productOf(name, { fileName, source: '', model: '', unit: report.unit, origin }, model), report };
}

async function imported(
  fileName: string,
  bytes: Uint8Array,
  files: Record<string, Uint8Array>,
  pose?: FilePose,
): Promise<ImportedModel> {
  const textures = ({ images }: ImportedModel['model']): Promise<void> => plainTextures(fileName, images);
  if (USD.has(extensionOf(fileName))) {
    const { readUsd } = await import('./read-usd.ts');
    return finishImport(fileName, await readUsd(fileName, bytes, files), textures);
  }
  await MeshoptDecoder.ready;
  const decoders = { draco: await draco3d.createDecoderModule(), meshopt: MeshoptDecoder };
  return importModel(fileName, bytes, files, decoders, { pose, textures });
}
