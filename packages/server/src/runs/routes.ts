import { Router, type Request } from 'express';
import { simulationBody, type SimulationAsked, type SimulationEstimate } from '@tender-orbit/core/contract';
import type { TakeSnapshot } from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import { requireCampaign, type DocumentRepository } from '../documents/index.ts';
import { notFound, personOf, sendStored } from '../http/index.ts';
import type { JobEvents, JobsContext } from '../jobs/index.ts';
import { frameCount, SimulationStore } from '../simulations/index.ts';
import { shotOf, type RenderNode } from '../takes/index.ts';
import type { RunQueue } from './run-queue.ts';

export interface RunContext extends JobsContext {
  documents: DocumentRepository;
  events: JobEvents;
  runs: RunQueue;
  renderNode: RenderNode;
  config: { files: string };
}

/** Simulating an effect apart from takes: how long it takes, starting, stopping, going on, and its frames. */
export function simulationRunRoutes(ctx: RunContext): Router {
  const router = Router();
  const { db, documents, jobs, events, dispatcher, runs, renderNode, config } = ctx;
  const store = new SimulationStore(config.files);

  interface Asked {
    asked: SimulationAsked;
    campaign: string;
    snapshot: TakeSnapshot;
    number: number;
  }

  /** The shot as it stands, its effect at the level that is asked for. */
  async function askedOf(req: Request): Promise<Asked> {
    const asked = (await simulationBody.validate(req.body ?? {})) as SimulationAsked;
    const whole = await shotOf(documents, asked.shot, personOf(req));
    const { campaign, shot, products } = whole;
    const number = whole.set.effects.findIndex((e) => e.id === asked.effect);
    if (number < 0) throw notFound('effect');
    const effects = whole.set.effects.map((e, n) => (n === number ? { ...e, level: asked.level } : e));
    const snapshot: TakeSnapshot = {
      ...{ set: { ...whole.set, effects }, shot, products, frameRate: campaign.frameRate },
      ...{ quality: 'clay', width: campaign.width, height: campaign.height, samples: 0 },
    };
    const { name } = effects[number];
    if (frameCount(snapshot, number) === 0)
      throw new Problem(
        'simulation/not-seen',
        `"${name}" is not seen in "${shot.name}": show it, or let it begin earlier.`,
        name,
      );
    return { asked, campaign: whole.campaignId, snapshot, number };
  }

  async function ownRun(req: Request<{ id: string }>): Promise<{ id: string; campaign: string }> {
    const { id } = req.params;
    const campaign = await runs.campaignOf(id);
    if (campaign === null) throw notFound('simulation');
    await requireCampaign(db, req, campaign);
    return { id, campaign };
  }

  async function remove(id: string): Promise<void> {
    await runs.remove(id);
    await dispatcher.drop(id);
  }

  router.get('/campaigns/:id/simulation-runs', async (req, res) => {
    await requireCampaign(db, req, req.params.id);
    res.json(await runs.list(req.params.id));
  });

  router.post('/simulation-runs/estimate', async (req, res) => {
    const { snapshot, number } = await askedOf(req);
    const frames = frameCount(snapshot, number);
    const seconds = await renderNode.simulationSeconds(snapshot, number);
    res.json({ frames, seconds } satisfies SimulationEstimate);
  });

  router.post('/simulation-runs', async (req, res) => {
    const { asked, campaign, snapshot } = await askedOf(req);
    // What an earlier one simulated is found again where it still holds.
    for (const earlier of await runs.same(asked)) await remove(earlier);
    const id = await runs.add(campaign, asked, snapshot, personOf(req));
    dispatcher.wake();
    events.changed(campaign);
    res.status(201).json({ id });
  });

  router.post('/simulation-runs/:id/stop', async (req, res) => {
    const { id, campaign } = await ownRun(req);
    await jobs.pause(id);
    await dispatcher.drop(id);
    events.changed(campaign);
    res.status(204).end();
  });

  router.post('/simulation-runs/:id/resume', async (req, res) => {
    const { id, campaign } = await ownRun(req);
    await jobs.resume(id);
    dispatcher.wake();
    events.changed(campaign);
    res.status(204).end();
  });

  router.delete('/simulation-runs/:id', async (req, res) => {
    const { id, campaign } = await ownRun(req);
    await remove(id);
    events.changed(campaign);
    res.status(204).end();
  });

  router.get('/simulation-runs/:id/keys', async (req, res) => {
    res.json(await runs.keys((await ownRun(req)).id));
  });

  router.get('/simulation-runs/:id/frames/:frame', async (req, res) => {
    const { id } = await ownRun(req as unknown as Request<{ id: string }>);
    const key = (await runs.keys(id))[Number(req.params.frame) - 1];
    if (key === undefined || !store.has(key)) throw notFound('simulated frame');
    res.set('Cache-Control', 'private, no-cache');
    res.set('Content-Encoding', 'deflate');
    res.type('application/octet-stream');
    await sendStored(res, store.path(key), 'simulated frame');
  });
  return router;
}
