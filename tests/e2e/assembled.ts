import { createHash } from 'node:crypto';
import { inflateSync } from 'node:zlib';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import type { PromoDocument, TakeComposite } from '@tender-orbit/core/document';
import type { Picture } from '@tender-orbit/core/picture';
import { composeTake, layersOver, readLight, type LightFrame } from '@tender-orbit/core/composite';
import { assemble, promoTexts, shownAt, takeFramesAt, textDrawer, type TakeFrame } from '@tender-orbit/core/promo';
import { openPlates } from '../../packages/server/src/promos/open-plates.ts';
import { openTitlePainter } from '../../packages/server/src/promos/title-fonts.ts';

const RATE = { num: 24, den: 1 };

/** What the page gets from the server at a path. */
async function bytesAt(page: Page, path: string): Promise<Buffer> {
  const numbers = await page.evaluate(
    async (from) => [...new Uint8Array(await (await fetch(from)).arrayBuffer())],
    path,
  );
  return Buffer.from(numbers);
}
/** The file of a frame of a take, as the page gets it. */
export const takeFrameBytes = (page: Page, take: string, frame: number): Promise<Buffer> =>
  bytesAt(page, `/api/takes/${take}/frames/${frame}`);
const fileBytes = (page: Page, hash: string): Promise<Buffer> => bytesAt(page, `/api/assets/${hash}`);
const fileText = async (page: Page, hash: string): Promise<string> => (await fileBytes(page, hash)).toString();

/** Mean red of what the promo shows; no number while it shows nothing. */
export const meanRed = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-test=promo-canvas]');
    if (!canvas || canvas.width === 0) return NaN;
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    let sum = 0;
    for (let i = 0; i < data.length; i += 4) sum += data[i];
    return sum / (data.length / 4);
  });

/** A frame past the third that passes while the promo plays has the mean red that the same frame has at rest, within `near` of 255. */
export async function expectPlayedAsAtRest(page: Page, near: number): Promise<void> {
  const canvas = page.locator('[data-test=promo-canvas]');
  const first = await canvas.getAttribute('data-shown');
  await page.locator('[aria-label=Play]').click();
  // Read in one go: the next frame comes at any time.
  const passing = await page.waitForFunction((was) => {
    const seen = document.querySelector<HTMLCanvasElement>('[data-test=promo-canvas]')!;
    const { shown } = seen.dataset;
    return shown !== was && Number(shown) > 2 && { shown, url: seen.toDataURL() };
  }, first);
  const { shown, url } = (await passing.jsonValue()) as { shown: string; url: string };
  await page.locator('[aria-label=Play]').waitFor();
  await page.locator('[data-test=ruler]').focus();
  await page.keyboard.press('Home');
  for (let n = 0; n < Number(shown); n++) await page.keyboard.press('ArrowRight');
  await page.waitForFunction(
    (n) => document.querySelector<HTMLElement>('[data-test=promo-canvas]')!.dataset.frame === n,
    shown,
  );
  const { channels } = await sharp(Buffer.from(url.split(',')[1], 'base64')).stats();
  expect(channels[0].mean).closeTo(await meanRed(page), near);
}

/** The preview's picture of a frame of a promo of takes of one length, footage and layers that need no file, is the one that the core assembles, to the byte. */
export async function expectAssembled(
  page: Page,
  promo: PromoDocument,
  take: { done: number[] },
  frame: number,
  composites: Readonly<Record<string, TakeComposite>> = {},
): Promise<void> {
  await page.waitForFunction(
    (n) => (document.querySelector('[data-test=promo-canvas]') as HTMLElement).dataset.frame === String(n),
    frame,
  );
  const shown = await page.evaluate(async () => {
    const canvas = document.querySelector('[data-test=promo-canvas]') as HTMLCanvasElement;
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    return [...new Uint8Array(await crypto.subtle.digest('SHA-256', data))];
  });
  const length = (): number => take.done.length;
  const painter = await openTitlePainter();
  const plates = openPlates();
  const nothing = async (): Promise<null> => null;
  const reader = {
    ...{
      plates,
      text: textDrawer(painter),
      parts: nothing,
      still: nothing,
      cube: nothing,
      vector: nothing,
      film: nothing,
    },
    light: async (id: string, n: number): Promise<LightFrame> =>
      readLight(new Uint8Array(inflateSync(await bytesAt(page, `/api/takes/${id}/frames/${n}/light`)))),
  };
  const pictures = new Map<string, Picture>();
  for (const part of takeFramesAt(promo, frame, length)) {
    const composite = composites[part.take];
    if (composite) {
      pictures.set(`${part.take} ${part.frame}`, (await composeTake(part.take, composite, part.frame, RATE, reader))!);
      continue;
    }
    const footage = promo.footage.find(({ id }) => id === part.take);
    const bytes = footage
      ? await fileBytes(page, (await fileText(page, footage.list)).split('\n')[part.frame])
      : await takeFrameBytes(page, part.take, part.frame);
    const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    pictures.set(`${part.take} ${part.frame}`, {
      width: info.width,
      height: info.height,
      data: new Uint8ClampedArray(data),
    });
  }
  const picture = (part: TakeFrame): Picture => pictures.get(`${part.take} ${part.frame}`)!;
  await painter.need(promoTexts(promo, []));
  const layers = await layersOver(promo, {}, frame, RATE, reader);
  const made = assemble(plates, promo, frame, shownAt(promo, frame, length), picture, painter, layers);
  painter.dispose();
  expect(Buffer.from(shown).toString('hex')).equal(createHash('sha256').update(made.data).digest('hex'));
}
