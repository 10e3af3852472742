import { randomBytes } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Router } from 'express';
import { panoramaBody, pictureBody, type PanoramaMade, type PictureMade } from '@tender-orbit/core/contract';
import type { PanoramaFit } from '@tender-orbit/core/interchange';
import { Problem } from '@tender-orbit/core/problem';
import type { AssetStore } from '../assets/index.ts';
import { personOf } from '../http/index.ts';
import { secondsFor, type PictureRead, type Readers, type ReaderTask } from '../readers/index.ts';

const SECONDS = 60;

export interface PictureContext {
  assets: AssetStore;
  readers: Readers;
  config: { files: string };
}

/** Pictures and panoramas that were uploaded become what renderers read; the originals are kept beside them. */
export function pictureRoutes({ assets, readers, config }: PictureContext): Router {
  const router = Router();

  /** Runs a reader that may write a file, and keeps that file for the person. */
  async function made<Result extends object>(
    person: string,
    { asset, fileName }: { asset: string; fileName: string },
    task: (path: string, out: string) => ReaderTask,
    copied: (result: Result) => boolean,
  ): Promise<Result & { asset: string }> {
    const { size } = await assets.readable(asset, person);
    const folder = join(config.files, 'incoming');
    await mkdir(folder, { recursive: true });
    const out = join(folder, randomBytes(12).toString('hex'));
    const tooHeavy = new Problem(
      'picture/too-heavy',
      `"${fileName}" took more time or memory to read than there is: make it smaller.`,
      fileName,
    );
    try {
      const result = await readers.run<Result>(task(assets.path(asset), out), {
        seconds: secondsFor(size, SECONDS),
        tooHeavy,
      });
      if (!copied(result)) return { ...result, asset };
      const { hash } = await assets.adopt(out, person);
      await assets.madeOf(hash, asset);
      return { ...result, asset: hash };
    } finally {
      await rm(out, { force: true });
    }
  }

  router.post('/pictures', async (req, res) => {
    const body = await pictureBody.validate(req.body ?? {});
    const { fileName, longest, data } = body;
    const { asset, width, height } = await made<PictureRead>(
      personOf(req),
      body,
      (path, out) => ({ kind: 'picture', fileName, path, longest, data, out }),
      (result) => result.copied,
    );
    res.status(201).json({ asset, width, height } satisfies PictureMade);
  });

  router.post('/panoramas', async (req, res) => {
    const body = await panoramaBody.validate(req.body ?? {});
    const { fileName, mirror } = body;
    const fit = body.fit as PanoramaFit | '';
    const { asset } = await made<object>(
      personOf(req),
      body,
      (path, out) => ({ kind: 'panorama', fileName, path, fit, mirror, out }),
      () => true,
    );
    res.status(201).json({ asset } satisfies PanoramaMade);
  });
  return router;
}
