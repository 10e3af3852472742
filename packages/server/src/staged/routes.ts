import { Router } from 'express';
import { Problem } from '@tender-orbit/core/problem';
import { DocumentRepository } from '../documents/repository.ts';
import { personOf, type AppContext } from '../http/index.ts';
import { filePaths, shotOf } from '../takes/index.ts';
import { runOnce } from '../workers/index.ts';
import type { StagedJob } from './staged-worker.ts';

const WORKER = new URL('./staged-worker.ts', import.meta.url);
const SECONDS = 180;
const MEMORY_MB = 4096;

/** A shot's staged set as a file for other software. */
export function stagedRoutes(ctx: AppContext): Router {
  const router = Router();
  const documents = new DocumentRepository(ctx.db, ctx.assets);
  router.get('/shots/:id/staged.glb', async (req, res) => {
    const { shot, set, products, campaign } = await shotOf(documents, req.params.id, personOf(req));
    const job: StagedJob = {
      ...{ shot, set, products, rate: campaign.frameRate },
      aspect: campaign.width / campaign.height,
      paths: filePaths(ctx.assets, { set, products }),
    };
    const tooHeavy = new Problem(
      'staged/too-heavy',
      `The set of "${shot.name}" took more than ${SECONDS} s or ${MEMORY_MB} MB to write: hide what is not needed.`,
      shot.name,
    );
    const glb = await runOnce<Uint8Array>(WORKER, job, SECONDS, MEMORY_MB, tooHeavy);
    const name = shot.name.replace(/[^A-Za-z0-9 _-]+/g, '').trim() || 'shot';
    res.attachment(`${name}.glb`).type('model/gltf-binary').send(Buffer.from(glb));
  });
  return router;
}
