import { Router } from 'express';
import { importBody } from '@tender-orbit/core/contract';
import { validateDocument } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import type { AssetStore } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import { requireCampaign, type DocumentRepository } from '../documents/index.ts';
import { personOf } from '../http/index.ts';
import { newId } from '../ids.ts';
import type { JobDispatcher, JobQueue } from '../jobs/index.ts';
import type { ImportPayload } from './import-node.ts';

export interface ProductContext {
  db: Database;
  assets: AssetStore;
  documents: DocumentRepository;
  jobs: JobQueue;
  dispatcher: JobDispatcher;
}

/** How often a request looks whether its import has ended, in ms. */
const LOOK_EVERY = 50;

export function productRoutes({ db, assets, documents, jobs, dispatcher }: ProductContext): Router {
  const router = Router();

  /** An import is a job like any other: it comes to its end even when whoever asked for it is gone. */
  async function imported(campaign: string, payload: ImportPayload): Promise<string> {
    const subject = newId();
    await db.transaction((statements) =>
      jobs.add(statements, [{ queue: 'import', kind: 'import', campaign, subject, payload }]),
    );
    dispatcher.wake();
    for (;;) {
      const job = await jobs.stateOf(subject);
      if (job?.state === 'done') {
        await jobs.cancel(subject);
        return (job.result as { product: string }).product;
      }
      if (job?.state === 'failed') {
        await jobs.cancel(subject);
        const { code = 'model/refused', thing } = (job.result ?? {}) as { code?: string; thing?: string };
        throw new Problem(code, job.error ?? `"${payload.fileName}" could not be read.`, thing ?? payload.fileName);
      }
      if (!job) throw new Problem('model/dropped', `"${payload.fileName}" is no longer being read: bring it again.`);
      await new Promise((next) => setTimeout(next, LOOK_EVERY));
    }
  }

  router.post('/campaigns/:id/products', async (req, res) => {
    const person = personOf(req);
    await requireCampaign(db, req, req.params.id);
    if (req.body?.product) {
      const product = validateDocument('product', req.body.product);
      const made = await documents.create('product', req.params.id, product, `New ${product.name}`, person);
      res.status(201).json(made);
      return;
    }
    const request = await importBody.validate(req.body ?? {});
    // A file that is not here is said before anything is queued.
    for (const hash of [request.asset, ...Object.values(request.resources)]) await assets.describe(hash);
    const id = await imported(req.params.id, { ...request, person });
    const { revision, document } = await documents.get('product', id, person);
    res.status(201).json({ id, revision, document });
  });
  return router;
}
