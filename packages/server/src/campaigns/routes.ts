import { shortened } from '@tender-orbit/core/text';
import { Router } from 'express';
import {
  newCampaignBody,
  type CampaignBundle,
  type CampaignCard,
  type StoredDocument,
} from '@tender-orbit/core/contract';
import { migrate, newCampaign, newPromo, newSet, newShot } from '@tender-orbit/core/document';
import type { Database } from '../database/index.ts';
import { requireCampaign, type DocumentRepository } from '../documents/index.ts';
import { personOf } from '../http/index.ts';
import { listDeliveries } from '../promos/index.ts';
import type { Readers } from '../readers/index.ts';
import type { RunQueue } from '../runs/index.ts';
import { listTakes } from '../takes/index.ts';
import { removeCampaign, type Removable } from './remove-campaign.ts';

export interface CampaignContext extends Removable {
  db: Database;
  documents: DocumentRepository;
  readers: Pick<Readers, 'warm'>;
  runs: Pick<RunQueue, 'list'>;
  config: { renderWorkers: number };
}

export function campaignRoutes(ctx: CampaignContext): Router {
  const router = Router();
  const { db, documents } = ctx;

  router.get('/campaigns', async (req, res) => {
    const rows = await db.rows<Omit<CampaignCard, 'document'> & { document: string }>(
      `SELECT c.id, c.document, DATE_FORMAT(c.updated_at, '%Y-%m-%dT%H:%i:%sZ') AS updated,
         (SELECT COUNT(*) FROM products p WHERE p.campaign_id = c.id) AS products,
         (SELECT COUNT(*) FROM shots s WHERE s.campaign_id = c.id) AS shots,
         (SELECT COUNT(*) FROM takes t WHERE t.campaign_id = c.id) AS takes,
         cover.id AS cover, FLOOR(cover.length / 2) AS coverFrame
       FROM campaigns c LEFT JOIN takes cover ON cover.id = (
         SELECT t.id FROM takes t WHERE t.campaign_id = c.id
           AND NOT EXISTS (SELECT 1 FROM jobs j WHERE j.subject_id = t.id AND j.state <> 'done')
         ORDER BY t.created_at, t.id LIMIT 1)
       WHERE c.owner_id = ? ORDER BY c.updated_at DESC, c.id`,
      [personOf(req)],
    );
    const cards = rows.map((row): CampaignCard => ({
      ...row,
      document: migrate('campaign', JSON.parse(row.document) as object),
    }));
    res.json(cards);
  });

  /** A new campaign comes with a lit set, one shot of four seconds and an empty promo, so that nothing is blank. */
  router.post('/campaigns', async (req, res) => {
    const person = personOf(req);
    const { name, client = '', frameRate, width, height } = await newCampaignBody.validate(req.body ?? {});
    const document = newCampaign(name, { client, frameRate, width, height });
    const length = Math.round((4 * frameRate.num) / frameRate.den);
    // All of it or nothing: a campaign without a set could not be opened.
    const campaign = await db.transaction(async (statements) => {
      const made = await documents.createIn(statements, 'campaign', person, document, 'Create campaign', person);
      const add = <K extends 'set' | 'shot' | 'promo'>(kind: K, input: object): Promise<StoredDocument<K>> =>
        documents.createIn(statements, kind, made.id, input, `Create ${kind}`, person);
      const set = await add('set', newSet('Studio'));
      await add('shot', newShot('Shot 1', set.id, 'hero', length));
      await add('promo', newPromo(shortened(`${name} promo`, 120), width, height));
      return made;
    });
    res.status(201).json(campaign);
  });

  router.get('/campaigns/:id', async (req, res) => {
    const id = req.params.id;
    const campaign = await documents.get('campaign', id, personOf(req));
    // Whoever opens a campaign may well bring files in next.
    ctx.readers.warm();
    const [products, sets, shots, promos, takes, deliveries, simulations] = await Promise.all([
      documents.list('product', id),
      documents.list('set', id),
      documents.list('shot', id),
      documents.list('promo', id),
      listTakes(ctx, id),
      listDeliveries(ctx, id),
      ctx.runs.list(id),
    ]);
    res.json({ campaign, products, sets, shots, promos, takes, deliveries, simulations } satisfies CampaignBundle);
  });

  router.delete('/campaigns/:id', async (req, res) => {
    await requireCampaign(db, req, req.params.id);
    await removeCampaign(ctx, req.params.id);
    res.status(204).end();
  });

  router.post('/campaigns/:id/sets', async (req, res) => {
    await requireCampaign(db, req, req.params.id);
    res.status(201).json(await documents.create('set', req.params.id, req.body, 'Create set', personOf(req)));
  });

  router.post('/campaigns/:id/shots', async (req, res) => {
    await requireCampaign(db, req, req.params.id);
    res.status(201).json(await documents.create('shot', req.params.id, req.body, 'Create shot', personOf(req)));
  });
  router.post('/campaigns/:id/promos', async (req, res) => {
    await requireCampaign(db, req, req.params.id);
    res.status(201).json(await documents.create('promo', req.params.id, req.body, 'Create promo', personOf(req)));
  });
  return router;
}
