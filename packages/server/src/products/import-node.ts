import type { ImportRequest } from '@tender-orbit/core/contract';
import type { ProductDocument } from '@tender-orbit/core/document';
import { productOf } from '@tender-orbit/core/interchange';
import { Problem } from '@tender-orbit/core/problem';
import { describeType, type AssetStore } from '../assets/index.ts';
import type { DocumentRepository } from '../documents/index.ts';
import type { JobHandler } from '../jobs/index.ts';
import { WorkerPool } from '../workers/index.ts';
import type { ImportResult, ImportTask } from './import-worker.ts';

const WORKER = new URL('./import-worker.ts', import.meta.url);
const SECONDS = 120;
const MEMORY_MB = 4096;

/** What an import job carries: the request, and who asked for it. */
export interface ImportPayload extends ImportRequest {
  person: string;
}

/** Makes products of model files, in a thread with a time and memory limit. */
export class ImportNode {
  private readonly pool = new WorkerPool<ImportTask, ImportResult>(WORKER, { threads: 1, memoryMb: MEMORY_MB });

  constructor(
    private readonly assets: AssetStore,
    private readonly documents: DocumentRepository,
  ) {}

  get handlers(): Record<string, JobHandler> {
    return {
      import: async ({ campaign, payload }, { signal }) => {
        const { person, ...request } = payload as ImportPayload;
        const product = await this.read(request, signal);
        const label = `Import ${request.fileName}`.slice(0, 200);
        const { id } = await this.documents.create('product', campaign, product, label, person);
        return { result: { product: id } };
      },
    };
  }

  async close(): Promise<void> {
    await this.pool.close();
  }

  private async read({ fileName, asset, resources }: ImportRequest, signal: AbortSignal): Promise<ProductDocument> {
    const described = await this.assets.describe(asset);
    if (described.mime !== 'model/gltf-binary' && described.mime !== 'model/gltf+json') {
      throw new Problem(
        'model/not-gltf',
        `"${fileName}" is ${describeType(described.mime)}, not a glTF model: bring a .glb or .gltf file.`,
        fileName,
      );
    }
    const tooHeavy = new Problem(
      'model/too-heavy',
      `"${fileName}" took more than ${SECONDS} s or ${MEMORY_MB} MB to read: simplify it and retry.`,
      fileName,
    );
    const result = await this.pool.run(
      {
        fileName,
        path: this.assets.path(asset),
        resources: Object.fromEntries(Object.entries(resources).map(([uri, hash]) => [uri, this.assets.path(hash)])),
      },
      { signal, seconds: SECONDS, tooHeavy },
    );
    const model = await this.assets.put(result.glb);
    const name = fileName.replace(/\.(glb|gltf)$/i, '').trim() || 'Product';
    return productOf(name, fileName, asset, model.hash, result.model);
  }
}
