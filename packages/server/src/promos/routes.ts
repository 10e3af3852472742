import { Router, type Request } from 'express';
import {
  deliveryBody,
  musicBody,
  type DeliveryFormat,
  type DeliverySummary,
  type MusicMade,
} from '@tender-orbit/core/contract';
import {
  migrateDelivery,
  othersShown,
  takesShown,
  type LayerStack,
  type PromoDocument,
  type DeliverySnapshot,
  type TakeComposite,
} from '@tender-orbit/core/document';
import { Problem } from '@tender-orbit/core/problem';
import { compensatedTakes, cutsWithin, footageLength, promoLength, shownTakes } from '@tender-orbit/core/promo';
import { describeType, type AssetStore } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import { requireCampaign, type DocumentRepository } from '../documents/index.ts';
import { HttpProblem, notFound, personOf, sendStored } from '../http/index.ts';
import { newId } from '../ids.ts';
import { runToEnd, type JobEvents, type JobsContext } from '../jobs/index.ts';
import type { DeliveryFiles } from './delivery-files.ts';
import type { SoundPayload } from './sound-node.ts';
import { fontPath } from './title-fonts.ts';

/** The deliveries of a campaign, newest first. */
export async function listDeliveries({ db }: { db: Database }, campaign: string): Promise<DeliverySummary[]> {
  const rows = await db.rows<Omit<DeliverySummary, 'frames' | 'width' | 'height'> & { snapshot: string }>(
    `SELECT d.id, d.promo_id AS promo, d.name, d.format, IF(j.state = 'paused', 'stopped', j.state) AS state, j.progress,
       d.size, IF(j.state = 'failed', j.error, NULL) AS error, d.snapshot,
       DATE_FORMAT(d.created_at, '%Y-%m-%dT%H:%i:%sZ') AS createdAt
     FROM deliveries d JOIN jobs j ON j.subject_id = d.id WHERE d.campaign_id = ? ORDER BY d.created_at DESC, d.id`,
    [campaign],
  );
  return rows.map(({ snapshot, ...row }) => {
    const { promo } = migrateDelivery(JSON.parse(snapshot) as DeliverySnapshot);
    return {
      ...row,
      size: row.size === null ? null : Number(row.size),
      frames: promoLength(promo),
      width: promo.width,
      height: promo.height,
    };
  });
}

export interface PromoContext extends JobsContext {
  assets: AssetStore;
  documents: DocumentRepository;
  events: JobEvents;
  deliveryFiles: DeliveryFiles;
  config: { ffmpeg: string };
}

export function promoRoutes(ctx: PromoContext): Router {
  const router = Router();
  const { documents } = ctx;

  /** Makes an uploaded sound into the working format; the answer is what a promo's music refers to. */
  router.post('/campaigns/:id/music', async (req, res) => {
    await requireCampaign(ctx.db, req, req.params.id);
    const { asset, fileName } = await musicBody.validate(req.body ?? {});
    const person = personOf(req);
    const described = await ctx.assets.readable(asset, person);
    if (!/^(audio|video)\//.test(described.mime)) {
      throw new Problem(
        'sound/type',
        `"${fileName}" is ${describeType(described.mime)}, not music: bring a wav, mp3, ogg, flac or m4a file.`,
        fileName,
      );
    }
    const payload: SoundPayload = { asset, fileName, person };
    const made = await runToEnd<MusicMade>(
      ctx,
      { queue: 'sound', kind: 'sound', campaign: req.params.id, payload },
      fileName,
    );
    res.status(201).json(made);
  });

  router.get('/fonts/:family/files/:file', async (req, res) => {
    const path = fontPath(`${req.params.family}/files/${req.params.file}`);
    if (!path) throw notFound('font');
    res.set('Cache-Control', 'public, max-age=31536000').type('font/woff2');
    await sendStored(res, path, 'font');
  });

  router.get('/campaigns/:id/deliveries', async (req, res) => {
    await requireCampaign(ctx.db, req, req.params.id);
    res.json(await listDeliveries(ctx, req.params.id));
  });

  router.post('/promos/:id/deliveries', async (req, res) => {
    const { format } = await deliveryBody.validate(req.body ?? {});
    const promo = await documents.get('promo', req.params.id, personOf(req));
    const campaign = await documents.get('campaign', promo.campaign, personOf(req));
    const snapshot: DeliverySnapshot = {
      promo: promo.document,
      frameRate: campaign.document.frameRate,
      takeLengths: {},
    };
    if (promoLength(promo.document) === 0) {
      throw new Problem('promo/empty', 'The promo is empty: put a take or a title into it first.', promo.document.name);
    }
    const cuts = await cutsShown(ctx, promo, personOf(req));
    if (Object.keys(cuts).length > 0) snapshot.cuts = cuts;
    snapshot.shown = {};
    for (const cut of [promo.document, ...Object.values(cuts)]) {
      for (const take of shownTakes(cut)) {
        if (snapshot.takeLengths[take] || cuts[take] || footageLength(cut, take) > 0) continue;
        snapshot.takeLengths[take] = await readyLength(ctx.db, promo.campaign, take);
      }
      Object.assign(snapshot.shown, await compositesShown(ctx, promo.campaign, cut, personOf(req)));
    }
    const carried = compensatedTakes([promo.document, ...Object.values(snapshot.cuts ?? {})]);
    snapshot.composites = await compositesOf(
      ctx,
      promo.campaign,
      Object.keys(snapshot.takeLengths),
      carried,
      personOf(req),
    );
    const id = newId();
    await ctx.db.transaction(async (statements) => {
      await statements.run(
        'INSERT INTO deliveries (id, campaign_id, promo_id, name, format, snapshot) VALUES (?, ?, ?, ?, ?, ?)',
        [id, promo.campaign, promo.id, promo.document.name, format, JSON.stringify(snapshot)],
      );
      await ctx.jobs.add(statements, [{ queue: 'encode', kind: 'delivery', campaign: promo.campaign, subject: id }]);
      await ctx.assets.setUses(statements, 'delivery', id, snapshot, personOf(req));
    });
    ctx.dispatcher.wake();
    ctx.events.changed(promo.campaign);
    res.status(201).json({ id });
  });

  async function ownDelivery(
    req: Request<{ id: string }>,
  ): Promise<{ id: string; name: string; format: DeliveryFormat; state: string; campaign_id: string }> {
    const row = await ctx.db.one<{
      id: string;
      name: string;
      format: DeliveryFormat;
      state: string;
      campaign_id: string;
    }>(
      'SELECT d.id, d.name, d.format, j.state, d.campaign_id FROM deliveries d JOIN jobs j ON j.subject_id = d.id WHERE d.id = ?',
      [req.params.id],
    );
    if (!row) throw notFound('delivery');
    await requireCampaign(ctx.db, req, row.campaign_id);
    return row;
  }

  router.get('/deliveries/:id/file', async (req, res) => {
    const delivery = await ownDelivery(req);
    if (delivery.state !== 'done')
      throw new HttpProblem(
        409,
        'delivery/not-ready',
        'This file is not ready yet: wait for it to finish.',
        delivery.name,
      );
    const fileName = `${delivery.name.replace(/[^\p{L}\p{N} _-]/gu, '')}.${delivery.format}`;
    res.type(delivery.format === 'mp4' ? 'video/mp4' : 'video/webm');
    await sendStored(res, ctx.deliveryFiles.path(delivery.id, delivery.format), 'delivery', fileName);
  });

  router.delete('/deliveries/:id', async (req, res) => {
    const delivery = await ownDelivery(req);
    await ctx.db.transaction(async (statements) => {
      await statements.run('DELETE FROM jobs WHERE subject_id = ?', [delivery.id]);
      await statements.run('DELETE FROM deliveries WHERE id = ?', [delivery.id]);
      await ctx.assets.clearUses(statements, 'delivery', delivery.id);
    });
    await ctx.dispatcher.drop(delivery.id);
    await ctx.deliveryFiles.remove(delivery.id, delivery.format);
    ctx.events.changed(delivery.campaign_id);
    res.status(204).end();
  });
  return router;
}

/** The cuts of its campaign that a promo shows. @throws Problem when one of them is the promo itself, which would have no end. */
async function cutsShown(
  { db, documents }: Pick<PromoContext, 'db' | 'documents'>,
  promo: { id: string; campaign: string; document: PromoDocument },
  person: string,
): Promise<Record<string, PromoDocument>> {
  const all = new Map([[promo.id, promo.document]]);
  const ids = await db.rows<{ id: string }>('SELECT id FROM promos WHERE campaign_id = ?', [promo.campaign]);
  const known = new Set(ids.map(({ id }) => id));
  const wanted = shownTakes(promo.document).filter((id) => known.has(id));
  // Grows while it is gone through; each is in it once, so a ring ends.
  for (const id of wanted) {
    if (!all.has(id)) all.set(id, (await documents.get('promo', id, person)).document);
    for (const other of shownTakes(all.get(id)!)) if (known.has(other) && !wanted.includes(other)) wanted.push(other);
  }
  const cutOf = (id: string): PromoDocument | undefined => all.get(id);
  for (const [id, cut] of all)
    if (id in cutsWithin(cut, cutOf))
      throw new Problem(
        'promo/ring',
        `The cut "${cut.name}" shows itself, which would have no end: take it out of itself, or out of the cut that it shows.`,
        cut.name,
      );
  return cutsWithin(promo.document, cutOf);
}

/**
 * The composites of the shots that takes are of, where they have one, or are shown between their frames, which is a matter of light.
 * @throws Problem naming the layer whose take is not there.
 */
async function compositesOf(
  { db, documents }: Pick<PromoContext, 'db' | 'documents'>,
  campaign: string,
  takes: readonly string[],
  carried: ReadonlySet<string>,
  person: string,
): Promise<Record<string, TakeComposite>> {
  const composites: Record<string, TakeComposite> = {};
  const { known, find } = finder({ db, documents }, campaign, person);
  for (const take of takes) {
    const found = await find(take);
    if (found && (found.shot.layers.length > 0 || carried.has(take)))
      composites[take] = { ...found, others: othersShown(found.shot, (other) => known.get(other) ?? null) };
  }
  return composites;
}

/** The composites that layers of a promo show. @throws Problem naming the layer whose take is not there. */
async function compositesShown(
  ctx: Pick<PromoContext, 'db' | 'documents'>,
  campaign: string,
  promo: PromoDocument,
  person: string,
): Promise<Record<string, TakeComposite>> {
  const { known, find } = finder(ctx, campaign, person);
  await requireTakes(ctx.db, campaign, promo, `of the promo "${promo.name}"`);
  for (const take of takesShown(promo)) await find(take);
  return othersShown(promo, (take) => known.get(take) ?? null);
}

/** Visible layers show takes that are wholly there. @throws Problem naming the layer whose take is not. */
async function requireTakes(
  db: Database,
  campaign: string,
  { layers }: Pick<LayerStack, 'layers'>,
  whose: string,
): Promise<void> {
  for (const layer of layers) {
    if ((layer.kind !== 'take' && layer.kind !== 'composite') || layer.take === '' || !layer.visible) continue;
    await readyLength(db, campaign, layer.take, `The layer "${layer.name}" ${whose}`);
  }
}

/** Finds the composites of takes, and all that they show in turn. */
function finder(
  { db, documents }: Pick<PromoContext, 'db' | 'documents'>,
  campaign: string,
  person: string,
): { known: Map<string, TakeComposite>; find: (take: string) => Promise<TakeComposite | null> } {
  const known = new Map<string, TakeComposite>();
  const find = async (take: string): Promise<TakeComposite | null> => {
    const before = known.get(take);
    if (before) return before;
    const row = await db.one<{ shot: string; times: string | null }>(
      `SELECT s.id AS shot, JSON_QUERY(t.snapshot, '$.times') AS times
       FROM takes t JOIN shots s ON s.id = t.shot_id WHERE t.id = ? AND t.campaign_id = ?`,
      [take, campaign],
    );
    if (!row) return null;
    const { document: shot } = await documents.get('shot', row.shot, person);
    await requireTakes(db, campaign, shot, `of the shot "${shot.name}"`);
    const { document: set } = await documents.get('set', shot.set, person);
    const times = row.times === null ? undefined : (JSON.parse(row.times) as number[]);
    const made = { shot, view: set.view, ...(times && { times }) };
    known.set(take, made);
    for (const other of takesShown(shot)) await find(other);
    return made;
  };
  return { known, find };
}

/** Frames of a take that is wholly there. @throws Problem naming it, or what uses it, otherwise. */
async function readyLength(db: Database, campaign: string, take: string, user = 'A clip'): Promise<number> {
  const row = await db.one<{ name: string; length: number; state: string }>(
    'SELECT t.name, t.length, p.state FROM takes t JOIN take_progress p ON p.take_id = t.id WHERE t.id = ? AND t.campaign_id = ?',
    [take, campaign],
  );
  if (!row)
    throw new Problem('promo/no-take', `${user} uses a take that was deleted: choose another take for it.`, user);
  if (row.state !== 'done')
    throw new Problem(
      'promo/take-unfinished',
      `"${row.name}" is not rendered to the end yet: wait for it or choose another take.`,
      row.name,
    );
  return row.length;
}
