import { Router } from 'express';
import * as yup from 'yup';
import { newCampaign, newPromo, newSet, newShot } from '@tender-orbit/core/document';
import { personOf, requireCampaign, type AppContext } from '../http/index.ts';
import { listDeliveries } from '../promos/index.ts';
import { listTakes } from '../takes/index.ts';
import { removeCampaign } from './remove-campaign.ts';
import { DocumentRepository } from './repository.ts';

const createBody = yup.object({
  name: yup
    .string()
    .strict()
    .trim()
    .required('Give the campaign a name.')
    .max(120, 'The campaign name is longer than 120 characters: shorten it.'),
  client: yup.string().strict().max(120, 'The client name is longer than 120 characters: shorten it.').default(''),
  frameRate: yup
    .object({ num: yup.number().strict().integer().required(), den: yup.number().strict().integer().required() })
    .required('Choose a frame rate.'),
  width: yup.number().strict().integer().required('Choose a picture size.'),
  height: yup.number().strict().integer().required('Choose a picture size.'),
});

export function campaignRoutes(ctx: AppContext): Router {
  const router = Router();
  const documents = new DocumentRepository(ctx.db, ctx.assets);

  router.get('/campaigns', async (req, res) => {
    const rows = await ctx.db.rows<{
      id: string;
      document: string;
      updated: string;
      products: number;
      shots: number;
      takes: number;
      cover: string | null;
      coverFrame: number | null;
    }>(
      `SELECT c.id, c.document, DATE_FORMAT(c.updated_at, '%Y-%m-%dT%H:%i:%sZ') AS updated,
         (SELECT COUNT(*) FROM products p WHERE p.campaign_id = c.id) AS products,
         (SELECT COUNT(*) FROM shots s WHERE s.campaign_id = c.id) AS shots,
         (SELECT COUNT(*) FROM takes t WHERE t.campaign_id = c.id) AS takes,
         (SELECT t.id FROM takes t WHERE t.campaign_id = c.id AND t.state = 'done' ORDER BY t.created_at, t.id LIMIT 1) AS cover,
         (SELECT FLOOR(t.length / 2) FROM takes t WHERE t.campaign_id = c.id AND t.state = 'done' ORDER BY t.created_at, t.id LIMIT 1) AS coverFrame
       FROM campaigns c WHERE c.owner_id = ? ORDER BY c.updated_at DESC, c.id`,
      [personOf(req)],
    );
    res.json(rows.map((row) => ({ ...row, document: JSON.parse(row.document) })));
  });

  /** A new campaign comes with a lit set, one shot of four seconds and an empty promo, so that nothing is blank. */
  router.post('/campaigns', async (req, res) => {
    const person = personOf(req);
    const { name, client = '', frameRate, width, height } = await createBody.validate(req.body ?? {});
    const campaign = await documents.create(
      'campaign',
      person,
      newCampaign(name, { client, frameRate, width, height }),
      'Create campaign',
      person,
    );
    const set = await documents.create('set', campaign.id, newSet('Studio'), 'Create set', person);
    const length = Math.round((4 * frameRate.num) / frameRate.den);
    await documents.create('shot', campaign.id, newShot('Shot 1', set.id, 'hero', length), 'Create shot', person);
    await documents.create(
      'promo',
      campaign.id,
      newPromo(`${name} promo`.slice(0, 120), width, height),
      'Create promo',
      person,
    );
    res.status(201).json(campaign);
  });

  router.get('/campaigns/:id', async (req, res) => {
    const id = req.params.id;
    const campaign = await documents.get('campaign', id, personOf(req));
    const [products, sets, shots, promos, takes, deliveries] = await Promise.all([
      documents.list('product', id),
      documents.list('set', id),
      documents.list('shot', id),
      documents.list('promo', id),
      listTakes(ctx, id),
      listDeliveries(ctx, id),
    ]);
    res.json({ campaign, products, sets, shots, promos, takes, deliveries });
  });

  router.delete('/campaigns/:id', async (req, res) => {
    await requireCampaign(ctx, req, req.params.id);
    await removeCampaign(ctx, req.params.id);
    res.status(204).end();
  });

  router.post('/campaigns/:id/shots', async (req, res) => {
    await requireCampaign(ctx, req, req.params.id);
    res.status(201).json(await documents.create('shot', req.params.id, req.body, 'Create shot', personOf(req)));
  });
  return router;
}
