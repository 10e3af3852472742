import { Router, type Request } from 'express';
import {
  followBody,
  takeBody,
  takeOrderBody,
  takeTimesBody,
  type Estimate,
  type FollowedPoint,
  type TakeMade,
  type TakeRequest,
} from '@tender-orbit/core/contract';
import type { TakeQuality, TakeSnapshot } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import { requireCampaign, type DocumentRepository } from '../documents/index.ts';
import { notFound, personOf, sendStored } from '../http/index.ts';
import type { JobEvents, JobsContext } from '../jobs/index.ts';
import type { FrameQueue } from './frame-queue.ts';
import type { FrameStore } from './frame-store.ts';
import { listTakes } from './list-takes.ts';
import type { RenderNode } from './render-node.ts';
import { shotOf } from './shot-of.ts';
import { sourcesOf } from './snapshot.ts';
import { startTake } from './start-take.ts';

export interface TakeContext extends JobsContext {
  documents: DocumentRepository;
  events: JobEvents;
  frameQueue: FrameQueue;
  frames: FrameStore;
  renderNode: RenderNode;
  config: { renderWorkers: number };
}

/** Frames that a point is followed through at most. */
const FOLLOWED = 2000;

/** Frames that a shot has at most: the last one of all of them. */
const LAST = 100_000;

export function takeRoutes(ctx: TakeContext): Router {
  const router = Router();
  const { db, documents, jobs, events, dispatcher, frameQueue, frames, renderNode } = ctx;

  interface Asked {
    snapshot: TakeSnapshot;
    campaign: string;
    shot: string;
    anew: boolean;
  }

  /** What is rendered: the shot as it stands now. */
  async function snapshotFor(req: Request, body: unknown): Promise<Asked> {
    const request = await takeBody.validate(body ?? {});
    const { id, campaignId, campaign, shot, set, products } = await shotOf(documents, request.shot, personOf(req));
    const { frames: chosen } = request as TakeRequest;
    if (chosen && chosen.first >= shot.length)
      throw new Problem(
        'take/no-such-frame',
        `"${shot.name}" has ${shot.length} frames: frame ${chosen.first + 1} cannot be rendered.`,
        shot.name,
      );
    const { width, height } = campaign;
    // A drawing has no light to keep, and is there at once.
    const sketched = request.quality === 'sketch';
    return {
      campaign: campaignId,
      shot: id,
      anew: request.anew ?? false,
      snapshot: {
        ...{ set, shot, products, frameRate: campaign.frameRate },
        quality: request.quality as TakeQuality,
        width: request.width,
        // Even sizes only: video with subsampled colour has no odd ones.
        height: Math.max(2, Math.round((request.width * height) / width / 2) * 2),
        samples: request.samples ?? 0,
        passes: request.quality === 'final' && (request.passes ?? false),
        lights: !sketched && (request.lights ?? false),
        region: sketched ? undefined : (request.region as TakeSnapshot['region']),
        ...(chosen && { frames: { ...chosen, last: Math.min(chosen.last, shot.length - 1) } }),
      },
    };
  }

  async function start(req: Request, body: unknown): Promise<TakeMade> {
    const { snapshot, campaign, shot, anew } = await snapshotFor(req, body);
    const made = await startTake(ctx, { campaign, shot, snapshot, person: personOf(req), anew });
    dispatcher.wake();
    events.changed(campaign);
    return made;
  }

  interface OwnTake {
    id: string;
    campaign: string;
    shot: string;
  }

  async function ownTake(req: Request<{ id: string }>): Promise<OwnTake> {
    const row = await db.one<OwnTake>('SELECT id, campaign_id AS campaign, shot_id AS shot FROM takes WHERE id = ?', [
      req.params.id,
    ]);
    if (!row) throw notFound('take');
    await requireCampaign(db, req, row.campaign);
    return row;
  }

  router.get('/campaigns/:id/takes', async (req, res) => {
    await requireCampaign(db, req, req.params.id);
    res.json(await listTakes(ctx, req.params.id));
  });

  router.post('/takes/estimate', async (req, res) => {
    const { snapshot } = await snapshotFor(req, req.body);
    const { secondsPerFrame, bytesPerFrame, layers, simulation } = await renderNode.probe(snapshot);
    const count = new Set(sourcesOf(snapshot)).size;
    const rendering = (secondsPerFrame * count) / Math.max(1, Math.min(count, ctx.config.renderWorkers));
    const seconds = rendering + simulation;
    const bytes = bytesPerFrame * count;
    res.json({ frames: count, secondsPerFrame, seconds, simulation, bytes, layers } satisfies Estimate);
  });

  router.post('/takes', async (req, res) => {
    res.status(201).json(await start(req, req.body));
  });

  /** A take of the shot as it stands now, with all that another was asked for: only what has changed is rendered. */
  router.post('/takes/:id/again', async (req, res) => {
    const take = await ownTake(req);
    const was = await frameQueue.snapshotOf(take.id);
    const { quality, width, samples, passes, lights, region, frames: chosen } = was;
    // What ended with the shot ends with it again.
    const last = chosen && chosen.last === was.shot.length - 1 ? LAST : chosen?.last;
    const body: TakeRequest = {
      ...{ shot: take.shot, quality, width, samples, passes, lights },
      ...(region && { region }),
      ...(chosen && { frames: { ...chosen, last: last! } }),
    };
    res.status(201).json(await start(req, body));
  });

  /** A take as it was rendered, of other times of its shot: what a clip shows that plays it at another pace. */
  router.post('/takes/:id/times', async (req, res) => {
    const take = await ownTake(req);
    const { times } = await takeTimesBody.validate(req.body ?? {});
    const { frames: _all, ...was } = await frameQueue.snapshotOf(take.id);
    const last = was.shot.length - 1;
    if (times[times.length - 1] > last)
      throw new Problem(
        'take/no-such-frame',
        `"${was.shot.name}" ends with frame ${last + 1}: nothing later can be rendered.`,
        was.shot.name,
      );
    const asked = { campaign: take.campaign, shot: take.shot, snapshot: { ...was, times }, anew: false };
    const made = await startTake(ctx, { ...asked, person: personOf(req) });
    dispatcher.wake();
    events.changed(take.campaign);
    res.status(201).json(made satisfies TakeMade);
  });

  /** What is seen at a point of a frame, followed through frames of the take. */
  router.post('/takes/:id/follow', async (req, res) => {
    const take = await ownTake(req);
    const point = await followBody.validate(req.body ?? {});
    const to = Math.min(point.to, point.from + FOLLOWED - 1);
    const followed = await renderNode.follow(take.id, { ...point, to });
    res.json(followed satisfies FollowedPoint);
  });

  router.put('/campaigns/:id/takes/order', async (req, res) => {
    await requireCampaign(db, req, req.params.id);
    const { takes } = await takeOrderBody.validate(req.body ?? {});
    await db.transaction(async (statements) => {
      for (const [position, id] of takes.entries())
        await statements.run('UPDATE takes SET position = ? WHERE id = ? AND campaign_id = ?', [
          ...[position + 1, id, req.params.id],
        ]);
      const own = await statements.rows<{ id: string }>(
        'SELECT id FROM takes WHERE campaign_id = ? ORDER BY position',
        [req.params.id],
      );
      const put = new Set(takes);
      await jobs.reorder(
        statements,
        own.map(({ id }) => id).filter((id) => put.has(id)),
      );
    });
    events.changed(req.params.id);
    res.status(204).end();
  });

  router.post('/takes/:id/stop', async (req, res) => {
    const take = await ownTake(req);
    await jobs.pause(take.id);
    await dispatcher.drop(take.id);
    events.changed(take.campaign);
    res.status(204).end();
  });

  router.post('/takes/:id/resume', async (req, res) => {
    const take = await ownTake(req);
    await jobs.resume(take.id);
    dispatcher.wake();
    events.changed(take.campaign);
    res.status(204).end();
  });

  router.delete('/takes/:id', async (req, res) => {
    const take = await ownTake(req);
    await frameQueue.remove(take.id);
    await dispatcher.drop(take.id);
    renderNode.forget(take.id);
    await frames.removeTake(take.id);
    events.changed(take.campaign);
    res.status(204).end();
  });

  router.get('/takes/:id/frames/:frame', async (req, res) => {
    const take = await ownTake(req as Request<{ id: string }>);
    const frame = Number(req.params.frame);
    const row = await db.one(
      "SELECT id FROM jobs WHERE subject_id = ? AND kind IN ('take-frame', 'take-develop') AND part = ? AND state = 'done'",
      [take.id, Number.isInteger(frame) ? frame : -1],
    );
    if (!row) throw notFound('frame');
    res.set('Cache-Control', 'private, max-age=31536000, immutable');
    res.type('image/webp');
    await sendStored(res, frames.path(take.id, frame), 'frame');
  });

  for (const [name, path, what] of [
    ['light', frames.lightPath, 'light of the frame'],
    ['lights', frames.partsPath, 'lights of the frame'],
  ] as const)
    router.get(`/takes/:id/frames/:frame/${name}`, async (req, res) => {
      const take = await ownTake(req as unknown as Request<{ id: string }>);
      const frame = Number((req.params as { frame?: string }).frame);
      res.set('Cache-Control', 'private, max-age=31536000, immutable');
      res.type('application/octet-stream');
      await sendStored(res, path.call(frames, take.id, Number.isInteger(frame) && frame >= 0 ? frame : 0), what);
    });

  router.get('/takes/:id/frames/:frame/layers', async (req, res) => {
    const take = await ownTake(req as unknown as Request<{ id: string }>);
    const frame = Number(req.params.frame);
    const path = frames.exrPath(take.id, Number.isInteger(frame) && frame >= 0 ? frame : 0);
    res.type('image/x-exr');
    await sendStored(res, path, 'frame with layers', `frame-${String(frame + 1).padStart(5, '0')}.exr`);
  });
  return router;
}
