import { expect } from 'chai';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import type { PromoDocument } from '@tender-orbit/core/document';
import { choose, saved, typeNumber } from './harness.ts';

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

/** Turns the clip's picture by 45 degrees and pushes it by a recipe, and lays a grade and a text over it. */
export async function moveAndGrade(
  page: Page,
  bundle: () => Promise<{ promos: Array<{ document: PromoDocument }> }>,
): Promise<void> {
  await page.locator('[data-test=clip]').first().focus();
  await page.keyboard.press('Enter');
  await page.click('[data-test=picture-recipe]');
  await page.getByText('Slow push', { exact: true }).click();
  await typeNumber(page, /^Rotation/, '45', '[data-test=promo-details]');
  await page.click('[data-test=shelf-layers]');
  await page.click('[data-test=layer-grade]');
  await typeNumber(page, /^Exposure/, '-0.5', '[data-test=promo-details]');
  await page.click('[data-test=layer-text]');
  await page.locator('[data-test=layer]').nth(1).waitFor();
  await saved(page);
  const { layers, clips, tracks } = (await bundle()).promos[0].document;
  expect(layers.map(({ kind }) => kind)).deep.equal(['grade', 'text']);
  expect(clips[0].picture).include({ rotation: 45, cover: true });
  expect(tracks).deep.include({
    ...{ thing: clips[0].id, path: 'scale' },
    keys: [
      { frame: 0, value: 1, ease: 'linear' },
      { frame: clips[0].length - 1, value: 1.08, ease: 'eased' },
    ],
  });
}

/** Plays the clip at half its pace, what lies in between rendered. */
export async function slowMotion(
  page: Page,
  bundle: () => Promise<{
    promos: Array<{ document: PromoDocument }>;
    takes: Array<{ id: string; times: number[] | null; done: number[] }>;
  }>,
): Promise<void> {
  await page.locator('[data-test=clip]').first().focus();
  await page.keyboard.press('Enter');
  const details = page.locator('[data-test=promo-details]');
  await typeNumber(page, /^At the start/, '50', '[data-test=promo-details]');
  await choose(details.getByRole('combobox', { name: 'In between' }), 'rendered');
  await page.click('[data-test=render-times]');
  await details.getByText(/frames are rendered at their own times/).waitFor();
  await saved(page);
  const { promos, takes } = await bundle();
  const { length, pace } = promos[0].document.clips[0];
  expect(pace!.rendered!.times).deep.equal(Array.from({ length }, (_, n) => n / 2));
  const made = takes.find(({ id }) => id === pace!.rendered!.take)!;
  expect([made.times, made.done.length]).deep.equal([pace!.rendered!.times, length]);
  await toFrame(page, 1);
}

/** Slows the first clip to half its speed, its in-betweens motion-compensated. */
export async function slowCompensated(page: Page): Promise<void> {
  await page.locator('[data-test=clip]').first().focus();
  await page.keyboard.press('Enter');
  const details = page.locator('[data-test=promo-details]');
  await typeNumber(page, /^At the start/, '50', '[data-test=promo-details]');
  await choose(details.getByRole('combobox', { name: 'In between' }), 'motion-compensated');
  await saved(page);
  await toFrame(page, 1);
}

/** Makes music for the promo instead of what it has: its beats are known without listening. */
export async function makeMusic(
  page: Page,
  bundle: () => Promise<{ promos: Array<{ document: PromoDocument }> }>,
): Promise<void> {
  await page.getByRole('button', { name: 'Music tune.wav' }).click();
  await page.click('[data-test=make-other-music]');
  await typeNumber(page, /^Length/, '8', '[data-test=make-music]');
  await typeNumber(page, /^Tempo/, '120', '[data-test=make-music]');
  await page.click('[data-test=take-music]');
  await page.locator('[data-test=make-music]').waitFor({ state: 'detached' });
  await saved(page);
  const { music } = (await bundle()).promos[0].document;
  expect(music).include({ tempo: 120, beatsPerBar: 4, downbeat: 0 });
  expect(music!.beats).length(16);
}
