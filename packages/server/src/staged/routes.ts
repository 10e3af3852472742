import { Router } from 'express';
import { Problem } from '@tender-orbit/core/problem';
import type { AssetStore } from '../assets/index.ts';
import type { DocumentRepository } from '../documents/index.ts';
import { personOf } from '../http/index.ts';
import { filePaths, shotOf } from '../takes/index.ts';
import { WorkerPool } from '../workers/index.ts';
import type { StagedTask } from './staged-worker.ts';

const WORKER = new URL('./staged-worker.ts', import.meta.url);
const SECONDS = 180;
const MEMORY_MB = 4096;

export type StagedPool = WorkerPool<StagedTask, Uint8Array>;

export function stagedPool(): StagedPool {
  return new WorkerPool(WORKER, { threads: 1, memoryMb: MEMORY_MB });
}

export interface StagedContext {
  assets: AssetStore;
  documents: DocumentRepository;
  staged: StagedPool;
}

/** A shot's staged set as a file for other software. */
export function stagedRoutes({ assets, documents, staged }: StagedContext): Router {
  const router = Router();
  router.get('/shots/:id/staged.glb', async (req, res) => {
    const { shot, set, products, campaign } = await shotOf(documents, req.params.id, personOf(req));
    const task: StagedTask = {
      ...{ shot, set, products, rate: campaign.frameRate },
      aspect: campaign.width / campaign.height,
      paths: filePaths(assets, { set, products }),
    };
    const tooHeavy = new Problem(
      'staged/too-heavy',
      `The set of "${shot.name}" took more than ${SECONDS} s or ${MEMORY_MB} MB to write: hide what is not needed.`,
      shot.name,
    );
    const glb = await staged.run(task, { seconds: SECONDS, tooHeavy });
    const name = shot.name.replace(/[^A-Za-z0-9 _-]+/g, '').trim() || 'shot';
    res.attachment(`${name}.glb`).type('model/gltf-binary').send(Buffer.from(glb));
  });
  return router;
}
