import { existsSync } from 'node:fs';
import { Router, type Request } from 'express';
import * as yup from 'yup';
import type { TakeQuality, TakeSnapshot } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import { DocumentRepository } from '../documents/repository.ts';
import { notFound, personOf, requireCampaign, type AppContext } from '../http/index.ts';
import { newId } from '../ids.ts';
import { startWorker, type WorkerReply } from '../workers/index.ts';
import { filePaths } from './dispatcher.ts';
import { listTakes } from './list-takes.ts';
import type { Probe } from './render-frame.ts';
import type { RenderJob } from './render-worker.ts';
import { shotOf } from './shot-of.ts';

const WORKER = new URL('./render-worker.ts', import.meta.url);
const share = yup.number().strict().min(0).max(1).required();
const body = yup.object({
  shot: yup.string().strict().required('Choose a shot.').max(16),
  quality: yup
    .string()
    .strict()
    .oneOf(['clay', 'draft', 'final'], 'Quality must be clay, draft or final.')
    .required('Choose a quality.'),
  width: yup
    .number()
    .strict()
    .integer()
    .min(16, 'A take is at least 16 pixels wide.')
    .max(3840, 'A take is at most 3840 pixels wide.')
    .required('Choose a width.'),
  samples: yup
    .number()
    .strict()
    .integer()
    .min(0, 'Samples cannot be below 0.')
    .max(4096, 'At most 4096 samples a pixel.'),
  passes: yup.boolean().strict(),
  region: yup
    .object({ x0: share, y0: share, x1: share, y1: share })
    .default(undefined)
    .test('area', 'The part to render is empty: draw it larger.', (r) => !r || (r.x1! > r.x0! && r.y1! > r.y0!)),
});

interface TakeRow {
  id: string;
  campaign_id: string;
  state: string;
}

export function takeRoutes(ctx: AppContext): Router {
  const router = Router();
  const documents = new DocumentRepository(ctx.db, ctx.assets);

  async function snapshotFor(req: Request): Promise<{ snapshot: TakeSnapshot; campaign: string; shot: string }> {
    const request = await body.validate(req.body ?? {});
    const { id, campaignId, campaign, shot, set, products } = await shotOf(documents, request.shot, personOf(req));
    const { width, height } = campaign;
    return {
      campaign: campaignId,
      shot: id,
      snapshot: {
        ...{ set, shot, products },
        quality: request.quality as TakeQuality,
        width: request.width,
        // Even sizes only: video with subsampled colour has no odd ones.
        height: Math.max(2, Math.round((request.width * height) / width / 2) * 2),
        samples: request.samples ?? 0,
        passes: request.quality === 'final' && (request.passes ?? false),
        region: request.region as TakeSnapshot['region'],
      },
    };
  }

  async function ownTake(req: Request<{ id: string }>): Promise<TakeRow> {
    const row = await ctx.db.one<TakeRow>('SELECT id, campaign_id, state FROM takes WHERE id = ?', [req.params.id]);
    if (!row) throw notFound('take');
    await requireCampaign(ctx, req, row.campaign_id);
    return row;
  }

  router.get('/campaigns/:id/takes', async (req, res) => {
    await requireCampaign(ctx, req, req.params.id);
    res.json(await listTakes(ctx, req.params.id));
  });

  router.post('/takes/estimate', async (req, res) => {
    const { snapshot } = await snapshotFor(req);
    const { secondsPerFrame } = await measure({
      task: 'probe',
      snapshot,
      frame: 0,
      paths: filePaths(ctx.assets, snapshot),
      raw: {},
      exr: '',
    });
    const frames = snapshot.shot.length;
    res.json({
      frames,
      secondsPerFrame,
      seconds: (secondsPerFrame * frames) / Math.max(1, Math.min(frames, ctx.config.renderWorkers)),
    });
  });

  router.post('/takes', async (req, res) => {
    const { snapshot, campaign, shot } = await snapshotFor(req);
    const id = newId();
    const { count } = (await ctx.db.one<{ count: number }>('SELECT COUNT(*) AS count FROM takes WHERE shot_id = ?', [
      shot,
    ]))!;
    const name = `${snapshot.shot.name} take ${Number(count) + 1}`;
    await ctx.db.transaction(async (connection) => {
      await connection.query(
        'INSERT INTO takes (id, campaign_id, shot_id, name, quality, width, height, length, state, snapshot) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)',
        [
          id,
          campaign,
          shot,
          name,
          snapshot.quality,
          snapshot.width,
          snapshot.height,
          snapshot.shot.length,
          'rendering',
          JSON.stringify(snapshot),
        ],
      );
      const rows = Array.from({ length: snapshot.shot.length }, (_, frame) => [id, frame, 'waiting']);
      await connection.query('INSERT INTO take_frames (take_id, frame, state) VALUES ?', [rows]);
    });
    ctx.dispatcher.wake();
    res.status(201).json({ id, name });
  });

  router.post('/takes/:id/stop', async (req, res) => {
    const take = await ownTake(req);
    await ctx.db.run("UPDATE takes SET state = 'stopped' WHERE id = ? AND state = 'rendering'", [take.id]);
    ctx.dispatcher.drop(take.id);
    await ctx.db.run("UPDATE take_frames SET state = 'waiting' WHERE take_id = ? AND state = 'working'", [take.id]);
    await ctx.db.run("UPDATE take_frames SET state = 'traced' WHERE take_id = ? AND state = 'developing'", [take.id]);
    res.status(204).end();
  });

  router.post('/takes/:id/resume', async (req, res) => {
    const take = await ownTake(req);
    await ctx.db.run("UPDATE take_frames SET state = 'waiting', error = NULL WHERE take_id = ? AND state = 'failed'", [
      take.id,
    ]);
    await ctx.db.run(
      "UPDATE takes SET state = 'rendering', error = NULL WHERE id = ? AND state IN ('stopped', 'failed')",
      [take.id],
    );
    ctx.dispatcher.wake();
    res.status(204).end();
  });

  router.delete('/takes/:id', async (req, res) => {
    const take = await ownTake(req);
    ctx.dispatcher.drop(take.id);
    await ctx.db.run('DELETE FROM takes WHERE id = ?', [take.id]);
    await ctx.takeFiles.removeTake(take.id);
    res.status(204).end();
  });

  router.get('/takes/:id/frames/:frame', async (req, res) => {
    const take = await ownTake(req as Request<{ id: string }>);
    const frame = Number(req.params.frame);
    const row = await ctx.db.one("SELECT frame FROM take_frames WHERE take_id = ? AND frame = ? AND state = 'done'", [
      take.id,
      Number.isInteger(frame) ? frame : -1,
    ]);
    if (!row) throw notFound('frame');
    res.set('Cache-Control', 'private, max-age=31536000, immutable');
    res.type('image/webp').sendFile(ctx.takeFiles.path(take.id, frame), { dotfiles: 'allow' });
  });
  router.get('/takes/:id/frames/:frame/layers', async (req, res) => {
    const take = await ownTake(req as unknown as Request<{ id: string }>);
    const frame = Number(req.params.frame);
    const path = ctx.takeFiles.exrPath(take.id, Number.isInteger(frame) && frame >= 0 ? frame : 0);
    if (!existsSync(path)) throw notFound('layers of this frame');
    res.type('image/x-exr').download(path, `frame-${String(frame + 1).padStart(5, '0')}.exr`, { dotfiles: 'allow' });
  });
  return router;
}

/** Runs a probe in a worker of its own, so that an estimate does not wait behind a long frame. */
function measure(job: RenderJob): Promise<Probe> {
  return new Promise((done, fail) => {
    const worker = startWorker(WORKER);
    worker.once('message', (reply: WorkerReply<Probe>) => {
      void worker.terminate();
      if (reply.ok) done(reply.value);
      else fail(new Problem(reply.problem.code, reply.problem.message, reply.problem.thing));
    });
    worker.once('error', fail);
    worker.postMessage(job);
  });
}
