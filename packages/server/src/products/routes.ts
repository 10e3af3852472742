import { Router } from 'express';
import * as yup from 'yup';
import { validateDocument } from '@tender-orbit/core/document';
import { DocumentRepository } from '../documents/repository.ts';
import { personOf, requireCampaign, type AppContext } from '../http/index.ts';
import { importProduct } from './import-product.ts';

const HASH = /^[0-9a-f]{64}$/;
const body = yup.object({
  fileName: yup
    .string()
    .strict()
    .required('The file name is missing.')
    .max(255, 'The file name is longer than 255 characters.'),
  asset: yup.string().strict().required().matches(HASH, 'The uploaded file is not known here: upload it again.'),
  resources: yup
    .mixed<Record<string, string>>(
      (v): v is Record<string, string> =>
        typeof v === 'object' && v !== null && Object.values(v).every((h) => typeof h === 'string' && HASH.test(h)),
    )
    .default({}),
});

export function productRoutes(ctx: AppContext): Router {
  const router = Router();
  const documents = new DocumentRepository(ctx.db, ctx.assets);
  router.post('/campaigns/:id/products', async (req, res) => {
    await requireCampaign(ctx, req, req.params.id);
    if (req.body?.product) {
      const product = validateDocument('product', req.body.product);
      const made = await documents.create('product', req.params.id, product, `New ${product.name}`, personOf(req));
      res.status(201).json(made);
      return;
    }
    const request = await body.validate(req.body ?? {});
    const product = await importProduct(ctx.assets, request);
    res
      .status(201)
      .json(
        await documents.create(
          'product',
          req.params.id,
          product,
          `Import ${request.fileName}`.slice(0, 200),
          personOf(req),
        ),
      );
  });
  return router;
}
