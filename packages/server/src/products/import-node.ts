import { shortened } from '@tender-orbit/core/text';
import { randomBytes } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { ImportRequest, PoseMade } from '@tender-orbit/core/contract';
import type { FilePose, ProductDocument } from '@tender-orbit/core/document';
import { extensionOf, type ModelReport } from '@tender-orbit/core/interchange';
import { Problem } from '@tender-orbit/core/problem';
import { describeType, type AssetStore } from '../assets/index.ts';
import type { DocumentRepository } from '../documents/index.ts';
import type { JobHandler } from '../jobs/index.ts';
import { secondsFor, type ModelRead, type ModelTask, type Readers } from '../readers/index.ts';

const SECONDS = 120;

/** What an import job carries: the request, and who asked for it. */
export interface ImportPayload extends ImportRequest {
  person: string;
}

/** What a pose job carries: a product that stands here, and its new pose. */
export interface PosePayload {
  product: string;
  person: string;
  pose: FilePose | null;
}

/** What each kind of model file may be by its content; text has no type of its own. */
const CONTENT: Record<string, readonly string[]> = {
  glb: ['model/gltf-binary'],
  gltf: ['model/gltf+json', 'model/gltf-binary'],
  usdz: ['application/zip'],
};
const OTHERS = ['obj', 'stl', 'ply', 'usda', 'usdc', 'usd'];
const KINDS_SENTENCE = 'bring a .glb, .gltf, .obj, .stl, .ply, .usdz or .usda file';

interface Read extends ModelRead {
  /** Hash of the normalised model. */
  model: string;
}

/** Makes products of model files, in child processes with limits. */
export class ImportNode {
  constructor(
    private readonly assets: AssetStore,
    private readonly documents: DocumentRepository,
    private readonly readers: Readers,
    private readonly folder: string,
  ) {}

  get handlers(): Record<string, JobHandler> {
    return {
      import: async ({ campaign, payload }, { signal }) => {
        const { person, ...request } = payload as ImportPayload;
        const { product, report } = await this.make(request, person, signal);
        const label = shortened(`Import ${request.fileName}`, 200);
        const { id } = await this.documents.create('product', campaign, product, label, person);
        return { result: { product: id, report } satisfies { product: string; report: ModelReport } };
      },
      pose: async ({ payload }, { signal }) => ({ result: await this.pose(payload as PosePayload, signal) }),
    };
  }

  private async make(
    { fileName, asset, resources }: ImportRequest,
    person: string,
    signal: AbortSignal,
  ): Promise<{ product: ProductDocument; report: ModelReport }> {
    const { product, report, model } = await this.read({ fileName, asset, resources }, person, signal);
    const files = Object.entries(resources).map(([name, hash]) => ({ name, asset: hash }));
    const origin = product.origin && { ...product.origin, files };
    return { product: { ...product, source: asset, model, ...(origin && { origin }) }, report };
  }

  private async pose({ product: id, person, pose }: PosePayload, signal: AbortSignal): Promise<PoseMade> {
    const { document } = await this.documents.get('product', id, person);
    const { fileName, source, origin } = document;
    if (!origin || origin.animations.length === 0)
      throw new Problem('product/still', `"${document.name}" has no animation to be posed by.`, document.name);
    if (pose && pose.animation >= origin.animations.length)
      throw new Problem(
        'product/pose',
        `"${document.name}" has no such animation: choose one of its own.`,
        document.name,
      );
    const resources = Object.fromEntries(origin.files.map(({ name, asset }) => [name, asset]));
    const { product, model } = await this.read(
      { fileName, asset: source, resources },
      person,
      signal,
      pose ?? undefined,
    );
    if (product.parts.length !== document.parts.length)
      throw new Problem(
        'product/pose',
        `"${document.name}" has other parts in this pose: bring the file in anew.`,
        document.name,
      );
    return { model, extent: product.extent, pose };
  }

  private async read(
    { fileName, asset, resources }: ImportRequest,
    person: string,
    signal: AbortSignal,
    pose?: FilePose,
  ): Promise<Read> {
    const described = await this.assets.describe(asset);
    checkKind(fileName, described.mime);
    let { size } = described;
    for (const hash of Object.values(resources)) size += (await this.assets.describe(hash)).size;
    await mkdir(this.folder, { recursive: true });
    const out = join(this.folder, `${randomBytes(12).toString('hex')}.glb`);
    const task: ModelTask = {
      ...{ kind: 'model', fileName, path: this.assets.path(asset), pose, out },
      resources: Object.fromEntries(Object.entries(resources).map(([uri, hash]) => [uri, this.assets.path(hash)])),
    };
    const tooHeavy = new Problem(
      'model/too-heavy',
      `"${fileName}" took more time or memory to read than there is, or broke off: simplify it and retry.`,
      fileName,
    );
    try {
      const read = await this.readers.run<ModelRead>(task, {
        signal,
        seconds: secondsFor(size, SECONDS),
        tooHeavy,
      });
      return { ...read, model: (await this.assets.adopt(out, person)).hash };
    } finally {
      await rm(out, { force: true });
    }
  }
}

/** A file whose name and content disagree is refused before anything reads it. */
function checkKind(fileName: string, mime: string): void {
  const extension = extensionOf(fileName);
  const known = Object.hasOwn(CONTENT, extension);
  const fits = known
    ? CONTENT[extension].includes(mime)
    : OTHERS.includes(extension) && !/^(image|audio|video)\//.test(mime);
  if (fits || (known && mime === 'application/octet-stream')) return;
  if (!known && !OTHERS.includes(extension))
    throw new Problem('model/unknown', `"${fileName}" is no model that can be read: ${KINDS_SENTENCE}.`, fileName);
  throw new Problem(
    'model/not-model',
    `"${fileName}" is ${describeType(mime)}, not a model: ${KINDS_SENTENCE}.`,
    fileName,
  );
}
