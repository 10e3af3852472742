import { Router } from 'express';
import type { ServerConfig } from '../config.ts';
import { personOf, sendStored } from '../http/index.ts';
import { tooLarge, type AssetStore } from './store.ts';

export interface AssetContext {
  assets: AssetStore;
  config: Pick<ServerConfig, 'uploadLimit'>;
}

export function assetRoutes(ctx: AssetContext): Router {
  const router = Router();

  /** The body is the file itself; progress is the sender's to show. */
  router.post('/assets', async (req, res) => {
    const declared = Number(req.headers['content-length'] ?? 0);
    if (declared > ctx.config.uploadLimit) {
      // Refused before a byte is read; the connection is closed, since the rest would follow.
      res.set('Connection', 'close');
      throw tooLarge(ctx.config.uploadLimit);
    }
    res.status(201).json(await ctx.assets.receive(req, personOf(req)));
  });

  router.get('/assets/:hash', async (req, res) => {
    const asset = await ctx.assets.readable(req.params.hash, personOf(req));
    res.set({
      'Content-Type': asset.mime,
      'Cache-Control': 'private, max-age=31536000, immutable',
      // Uploaded content is never run as a page, whatever is in it.
      'Content-Security-Policy': "default-src 'none'; sandbox",
    });
    await sendStored(res, ctx.assets.path(asset.hash), 'file');
  });
  return router;
}
