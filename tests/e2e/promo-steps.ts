import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import type { PromoDocument } from '@tender-orbit/core/document';
import { saved, typeNumber } from './harness.ts';

/** Brings a still in that can be seen through, lays it turned over the picture from a frame on, and taps a glass there. */
export async function addOverlayAndSound(
  page: Page,
  frame: number,
  bundle: () => Promise<{ promos: Array<{ document: PromoDocument }> }>,
): Promise<void> {
  const png = await sharp({ create: { width: 60, height: 40, channels: 4, background: '#e8b04ac0' } })
    .png()
    .toBuffer();
  await page.click('[data-test=shelf-footage]');
  await page
    .locator('[data-test=promo-footage-input] input')
    .setInputFiles([{ name: 'seal.png', mimeType: 'image/png', buffer: png }]);
  await page.locator('[data-test=footage]').waitFor();
  await toFrame(page, frame);
  await page.click('[data-test=footage-over]');
  await typeNumber(page, /^Rotation/, '12', '[data-test=promo-details]');
  await page.click('[data-test=shelf-sounds]');
  await page.click('[data-test=kit-glass-tap]');
  await saved(page);
  const { overlays, sounds } = (await bundle()).promos[0].document;
  expect(overlays[0]).include({ start: frame, rotation: 12 });
  expect(sounds[0]).include({ name: 'Glass tap', at: frame });
}

/** Puts the playhead on a frame, by keys. */
export async function toFrame(page: Page, frame: number): Promise<void> {
  await page.locator('[data-test=ruler]').focus();
  await page.keyboard.press('Home');
  for (let i = 0; i < frame; i++) await page.keyboard.press('ArrowRight');
}
