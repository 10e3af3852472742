import type { Request } from 'express';
import type { Database } from '../database/index.ts';
import type { ServerConfig } from '../config.ts';
import type { AssetStore } from '../assets/index.ts';
import type { FrameDispatcher, TakeFiles } from '../takes/index.ts';
import type { DeliveryRunner } from '../promos/index.ts';
import { HttpProblem, notFound } from './problems.ts';

declare module 'express-session' {
  interface SessionData {
    personId: string;
  }
}

/** What the routes work with. */
export interface AppContext {
  config: ServerConfig;
  db: Database;
  assets: AssetStore;
  takeFiles: TakeFiles;
  dispatcher: FrameDispatcher;
  deliveries: DeliveryRunner;
}

export function personOf(req: Request): string {
  const id = req.session.personId;
  if (!id) throw new HttpProblem(401, 'session/none', 'Sign in to go on.');
  return id;
}

/** @throws HttpProblem 404 unless the campaign is the signed-in person's. */
export async function requireCampaign(ctx: AppContext, req: Request, campaignId: string): Promise<void> {
  const row = await ctx.db.one('SELECT id FROM campaigns WHERE id = ? AND owner_id = ?', [campaignId, personOf(req)]);
  if (!row) throw notFound('campaign');
}
