import { Router } from 'express';
import { fontBody, type FontMade } from '@tender-orbit/core/contract';
import { Problem } from '@tender-orbit/core/problem';
import { describeType, type AssetStore } from '../assets/index.ts';
import { personOf } from '../http/index.ts';
import { secondsFor, type FontRead, type Readers } from '../readers/index.ts';

const SECONDS = 20;
/** Bytes that a font file has at most: large enough for those of all Han characters. */
const LARGEST = 40_000_000;
const FONT_TYPES = ['font/ttf', 'font/otf', 'font/woff', 'font/woff2'];

export interface FontContext {
  assets: AssetStore;
  readers: Readers;
}

/** Font files that were uploaded are read once where nothing can be harmed, before any text is drawn with them. */
export function fontRoutes({ assets, readers }: FontContext): Router {
  const router = Router();
  router.post('/fonts', async (req, res) => {
    const { asset, fileName } = await fontBody.validate(req.body ?? {});
    const { mime, size } = await assets.readable(asset, personOf(req));
    if (!FONT_TYPES.includes(mime))
      throw new Problem(
        'font/type',
        `"${fileName}" is ${describeType(mime)}, not a font: bring a TTF, OTF, WOFF or WOFF2 file.`,
        fileName,
      );
    if (size > LARGEST)
      throw new Problem(
        'font/too-large',
        `"${fileName}" has ${Math.round(size / 1e6)} MB: a font may have ${LARGEST / 1e6}. Bring one of fewer characters.`,
        fileName,
      );
    const tooHeavy = new Problem(
      'font/too-heavy',
      `"${fileName}" took more time or memory to read than a font does: bring another file of it.`,
      fileName,
    );
    const { name } = await readers.run<FontRead>(
      { kind: 'font', fileName, path: assets.path(asset) },
      { seconds: secondsFor(size, SECONDS), tooHeavy },
    );
    res.status(201).json({ asset, name } satisfies FontMade);
  });
  return router;
}
