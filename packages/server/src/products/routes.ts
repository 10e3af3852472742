import { Router } from 'express';
import { importBody, poseBody, type ModelMade, type PoseMade } from '@tender-orbit/core/contract';
import { validateDocument } from '@tender-orbit/core/document';
import type { AssetStore } from '../assets/index.ts';
import { requireCampaign, type DocumentRepository } from '../documents/index.ts';
import { personOf } from '../http/index.ts';
import { runToEnd, type JobsContext } from '../jobs/index.ts';
import type { ModelReport } from '@tender-orbit/core/interchange';
import type { ImportPayload, PosePayload } from './import-node.ts';

export interface ProductContext extends JobsContext {
  assets: AssetStore;
  documents: DocumentRepository;
}

export function productRoutes(ctx: ProductContext): Router {
  const router = Router();
  const { db, assets, documents } = ctx;

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
    for (const hash of [request.asset, ...Object.values(request.resources)]) await assets.readable(hash, person);
    const payload: ImportPayload = { ...request, person };
    const { product: id, report } = await runToEnd<{ product: string; report: ModelReport }>(
      ctx,
      { queue: 'import', kind: 'import', campaign: req.params.id, payload },
      request.fileName,
    );
    const { revision, document } = await documents.get('product', id, person);
    res.status(201).json({ id, revision, document, report } satisfies ModelMade);
  });

  /** Reads a product's file anew at a moment of one of its animations. The product itself is the client's to change. */
  router.post('/products/:id/pose', async (req, res) => {
    const { pose } = await poseBody.validate(req.body ?? {});
    const person = personOf(req);
    const { document, campaign } = await documents.get('product', req.params.id, person);
    const payload: PosePayload = { product: req.params.id, person, pose };
    res.json(await runToEnd<PoseMade>(ctx, { queue: 'import', kind: 'pose', campaign, payload }, document.name));
  });
  return router;
}
