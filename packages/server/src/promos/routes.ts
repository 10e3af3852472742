import { Router, type Request } from 'express';
import * as yup from 'yup';
import { promoLength } from '@tender-orbit/core/promo';
import { Problem } from '@tender-orbit/core/problem';
import { describeType } from '../assets/index.ts';
import type { Database } from '../database/index.ts';
import { DocumentRepository } from '../documents/repository.ts';
import { HttpProblem, notFound, personOf, requireCampaign, type AppContext } from '../http/index.ts';
import { newId } from '../ids.ts';
import { decodeSound, toFlac } from './ffmpeg.ts';
import { migrateDelivery, type DeliverySnapshot } from '@tender-orbit/core/document';
import type { DeliveryFormat } from './snapshot.ts';
import { fontPath } from './title-fonts.ts';

export interface DeliverySummary {
  id: string;
  promo: string;
  name: string;
  format: DeliveryFormat;
  state: 'waiting' | 'working' | 'done' | 'failed' | 'stopped';
  progress: number;
  size: number | null;
  error: string | null;
  frames: number;
  width: number;
  height: number;
  createdAt: string;
}

const musicBody = yup.object({
  asset: yup
    .string()
    .strict()
    .required()
    .matches(/^[0-9a-f]{64}$/, 'The uploaded file is not known here: upload it again.'),
  fileName: yup
    .string()
    .strict()
    .required('The file name is missing.')
    .max(255, 'The file name is longer than 255 characters.'),
});
const deliveryBody = yup.object({
  format: yup.string().strict().oneOf(['mp4', 'webm'], 'The format must be mp4 or webm.').required('Choose a format.'),
});
const LONGEST_MUSIC = 1800;

/** The deliveries of a campaign, newest first. */
export async function listDeliveries({ db }: { db: Database }, campaign: string): Promise<DeliverySummary[]> {
  const rows = await db.rows<Omit<DeliverySummary, 'frames' | 'width' | 'height'> & { snapshot: string }>(
    `SELECT id, promo_id AS promo, name, format, state, progress, size, error, snapshot, DATE_FORMAT(created_at, '%Y-%m-%dT%H:%i:%sZ') AS createdAt
     FROM deliveries WHERE campaign_id = ? ORDER BY created_at DESC, id`,
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

export function promoRoutes(ctx: AppContext): Router {
  const router = Router();
  const documents = new DocumentRepository(ctx.db, ctx.assets);

  /** Makes an uploaded sound into the working format; the answer is what a promo's music refers to. */
  router.post('/campaigns/:id/music', async (req, res) => {
    await requireCampaign(ctx, req, req.params.id);
    const { asset, fileName } = await musicBody.validate(req.body ?? {});
    const described = await ctx.assets.describe(asset);
    if (!/^(audio|video)\//.test(described.mime)) {
      throw new Problem(
        'sound/type',
        `"${fileName}" is ${describeType(described.mime)}, not music: bring a wav, mp3, ogg, flac or m4a file.`,
        fileName,
      );
    }
    const path = ctx.assets.path(asset);
    let flac: Buffer;
    let seconds: number;
    try {
      flac = await toFlac(ctx.config.ffmpeg, path);
      const sound = await decodeSound(ctx.config.ffmpeg, path);
      seconds = sound.left.length / sound.sampleRate;
    } catch (error) {
      if (error instanceof Problem && error.code === 'ffmpeg/missing') throw error;
      throw new Problem(
        'sound/broken',
        `"${fileName}" could not be read as sound: save it again as wav or flac and retry.`,
        fileName,
      );
    }
    if (seconds > LONGEST_MUSIC)
      throw new Problem(
        'sound/long',
        `"${fileName}" is longer than ${LONGEST_MUSIC / 60} minutes: cut it first.`,
        fileName,
      );
    const stored = await ctx.assets.put(flac);
    res.status(201).json({ asset: stored.hash, name: fileName, seconds });
  });

  router.get('/fonts/:family/files/:file', (req, res) => {
    const path = fontPath(`${req.params.family}/files/${req.params.file}`);
    if (!path) throw notFound('font');
    res.set('Cache-Control', 'public, max-age=31536000').type('font/woff2').sendFile(path, { dotfiles: 'allow' });
  });

  router.get('/campaigns/:id/deliveries', async (req, res) => {
    await requireCampaign(ctx, req, req.params.id);
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
    for (const { take } of promo.document.clips) {
      if (take === '' || snapshot.takeLengths[take]) continue;
      snapshot.takeLengths[take] = await readyLength(ctx, promo.campaign, take);
    }
    const id = newId();
    await ctx.db.run(
      "INSERT INTO deliveries (id, campaign_id, promo_id, name, format, state, snapshot) VALUES (?, ?, ?, ?, ?, 'waiting', ?)",
      [id, promo.campaign, promo.id, promo.document.name, format, JSON.stringify(snapshot)],
    );
    ctx.deliveries.wake();
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
    }>('SELECT id, name, format, state, campaign_id FROM deliveries WHERE id = ?', [req.params.id]);
    if (!row) throw notFound('delivery');
    await requireCampaign(ctx, req, row.campaign_id);
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
    res.download(ctx.deliveries.path(delivery.id, delivery.format), fileName, { dotfiles: 'allow' });
  });

  router.delete('/deliveries/:id', async (req, res) => {
    const delivery = await ownDelivery(req);
    await ctx.db.run('DELETE FROM deliveries WHERE id = ?', [delivery.id]);
    await ctx.deliveries.remove(delivery.id, delivery.format);
    res.status(204).end();
  });
  return router;
}

/** Frames of a take that is wholly there. @throws Problem naming it otherwise. */
async function readyLength(ctx: AppContext, campaign: string, take: string): Promise<number> {
  const row = await ctx.db.one<{ name: string; length: number; state: string }>(
    'SELECT name, length, state FROM takes WHERE id = ? AND campaign_id = ?',
    [take, campaign],
  );
  if (!row)
    throw new Problem('promo/no-take', 'A clip uses a take that was deleted: choose another take for it.', 'Clip');
  if (row.state !== 'done')
    throw new Problem(
      'promo/take-unfinished',
      `"${row.name}" is not rendered to the end yet: wait for it or choose another take.`,
      row.name,
    );
  return row.length;
}
