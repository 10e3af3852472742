import { Router } from 'express';
import { filmBody, sequenceBody, type FilmMade, type SequenceMade } from '@tender-orbit/core/contract';
import { Problem } from '@tender-orbit/core/problem';
import { describeType, type AssetStore } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import { requireCampaign } from '../documents/index.ts';
import { personOf } from '../http/index.ts';
import { runToEnd, type JobsContext } from '../jobs/index.ts';
import type { FilmPayload } from './film-node.ts';
import { listFrames } from './frame-list.ts';

export interface FilmContext extends JobsContext {
  db: Database;
  assets: AssetStore;
}

/** Films that were uploaded become a picture for each frame. */
export function filmRoutes(ctx: FilmContext): Router {
  const router = Router();

  router.post('/campaigns/:id/films', async (req, res) => {
    await requireCampaign(ctx.db, req, req.params.id);
    const body = await filmBody.validate(req.body ?? {});
    const { fileName } = body;
    const person = personOf(req);
    const { mime } = await ctx.assets.readable(body.asset, person);
    if (!/^video\/|^image\/(gif|apng|webp)$|octet-stream$/.test(mime))
      throw new Problem(
        'film/type',
        `"${fileName}" is ${describeType(mime)}, not a film: bring an MP4, MOV, WebM or GIF file.`,
        fileName,
      );
    const payload: FilmPayload = { ...body, person };
    const job = { queue: 'sound' as const, kind: 'film', campaign: req.params.id, payload };
    res.status(201).json(await runToEnd<FilmMade>(ctx, job, fileName));
  });

  /** Pictures that were brought one by one become a film, in the order given. */
  router.post('/campaigns/:id/films/sequence', async (req, res) => {
    await requireCampaign(ctx.db, req, req.params.id);
    const { frames } = await sequenceBody.validate(req.body ?? {});
    const person = personOf(req);
    for (const frame of new Set(frames)) await ctx.assets.readable(frame, person);
    res.status(201).json({ list: await listFrames(ctx.assets, frames, person) } satisfies SequenceMade);
  });
  return router;
}
