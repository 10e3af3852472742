import type { Request } from 'express';
import type { Database } from '../database/index.ts';
import { notFound, personOf } from '../http/index.ts';

/** @throws HttpProblem 404 unless the campaign is the signed-in person's. */
export async function requireCampaign(db: Database, req: Request, campaignId: string): Promise<void> {
  const row = await db.one('SELECT id FROM campaigns WHERE id = ? AND owner_id = ?', [campaignId, personOf(req)]);
  if (!row) throw notFound('campaign');
}
