import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { chromium, type Browser, type BrowserContext, type Locator, type Page } from 'playwright-core';
import { tuneWav } from './sounds.ts';
import { makeModels } from '@tender-orbit/demo';
import { addPerson, configFromEnvironment, startServer, type RunningServer } from '@tender-orbit/server';

export const PERSON = { email: 'mara@vellowmere.example', password: 'slow as the hill' };

/** Everything is slow without a graphics processor: steps wait this long, ms. */
export const PATIENCE = 120_000;

export interface Stage {
  server: RunningServer;
  browser: Browser;
  /** Where the test's own files lie. */
  folder: string;
  files: { jar: string; fake: string; huge: string; music: string };
  stop: () => Promise<void>;
}

/** The built application on a server with a database of its own, and a browser. */
export async function openStage(): Promise<Stage> {
  const base = process.env.TENDER_ORBIT_TEST_FOLDER;
  if (!base || !process.env.TENDER_ORBIT_DB_PORT)
    throw new Error('Run these tests with "npm test -- e2e": they need its MariaDB.');
  const folder = mkdtempSync(join(base, 'e2e-'));
  mkdirSync(join(folder, 'files'));
  const config = configFromEnvironment({ ...process.env, TENDER_ORBIT_DB_NAME: `t_e2e_${process.pid}_${Date.now()}` });
  const server = await startServer(
    {
      ...config,
      port: 0,
      files: join(folder, 'files'),
      web: resolve('packages/web/dist'),
      logLevel: 'silent',
      renderWorkers: 2,
    },
    async ({ db }) => {
      await addPerson(db, PERSON.email, 'Mara Vell', PERSON.password);
    },
  );
  const browser = await chromium.launch({
    executablePath: process.env.TENDER_ORBIT_CHROMIUM ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--use-gl=angle',
      '--use-angle=gl-egl',
      '--ignore-gpu-blocklist',
      '--autoplay-policy=no-user-gesture-required',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--no-first-run',
    ],
  });
  return {
    server,
    browser,
    folder,
    files: await makeFiles(folder),
    stop: async () => {
      await browser.close();
      await server.stop();
    },
  };
}

async function makeFiles(folder: string): Promise<Stage['files']> {
  const files = {
    jar: join(folder, 'Honey jar.glb'),
    fake: join(folder, 'picture.glb'),
    huge: join(folder, 'huge.glb'),
    music: join(folder, 'tune.wav'),
  };
  writeFileSync(files.jar, (await makeModels()).find((m) => m.key === 'jar')!.glb);
  const png = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR4nGP4z8DwHwAFAAH/iZk9HQAAAABJRU5ErkJggg==';
  writeFileSync(files.fake, Buffer.from(png, 'base64'));
  writeFileSync(files.music, tuneWav(2));
  return files;
}

/** A signed-in page that fails the test on any script error. */
export async function openPage(
  stage: Stage,
  context?: BrowserContext,
): Promise<{ page: Page; context: BrowserContext; faults: string[] }> {
  const own =
    context ?? (await stage.browser.newContext({ viewport: { width: 1280, height: 800 }, acceptDownloads: true }));
  const page = await own.newPage();
  page.setDefaultTimeout(PATIENCE);
  const faults: string[] = [];
  page.on('pageerror', (error) => faults.push(error.message));
  page.on('console', (message) => {
    // The browser itself logs every answer of 400 and more; those are the server's to explain.
    if (message.type() === 'error' && !/Failed to load resource/.test(message.text())) faults.push(message.text());
  });
  return { page, context: own, faults };
}

export async function signIn(page: Page, address: string): Promise<void> {
  await page.goto(`${address}/sign-in`);
  await page.fill('[name=email]', PERSON.email);
  await page.fill('[name=password]', PERSON.password);
  await page.click('button[type=submit]');
  await page.waitForSelector('[data-test=new-campaign]');
}

export async function newCampaign(page: Page, name: string): Promise<string> {
  await page.click('[data-test=new-campaign]');
  await page.fill('[role=dialog] [name=name], .make [name=name]', name);
  await choose(page.getByRole('dialog').getByRole('combobox', { name: 'Picture size' }), 'Wide 16:9, 960 x 540');
  await page.click('text=Create campaign');
  await page.waitForURL(/\/campaign\/[^/]+\/brief/);
  return page.url().match(/campaign\/([^/]+)/)![1];
}

/** Chooses from a list that opens, as a person does. */
export async function choose(field: Locator, option: string): Promise<void> {
  // The field's own text lies over its input.
  const input = field.locator('xpath=ancestor-or-self::*[contains(concat(" ", @class, " "), " v-input ")]');
  await input.locator('.v-field').click();
  const page = field.page();
  await page.getByRole('option', { name: option, exact: true }).click();
  await page.getByRole('listbox').waitFor({ state: 'hidden' });
}

/** Goes to a station by its stop on the course line, as a person does. */
export async function goTo(page: Page, station: string): Promise<void> {
  await page.getByRole('navigation', { name: 'Stations' }).getByText(station, { exact: true }).click();
  await page.waitForURL(new RegExp(`/${station.toLowerCase()}$`));
}

export async function saved(page: Page): Promise<void> {
  await page.waitForFunction(() => document.querySelector('[data-test=save-state]')?.textContent === 'Saved');
}

/** Types into a number field by its accessible name and leaves it. */
export async function typeNumber(page: Page, name: string | RegExp, text: string, within?: string): Promise<void> {
  const root = within ? page.locator(within) : page;
  const field = root.getByRole('textbox', { name }).first();
  await field.click();
  await field.fill(text);
  await field.press('Enter');
}

/** Does what the search finds by its words. */
export async function searchFor(page: Page, words: string): Promise<void> {
  await page.keyboard.press('Control+k');
  // Keys go to the search once it has the focus.
  await page.waitForFunction(() => document.activeElement?.closest('[data-test=search]') !== null);
  await page.waitForFunction(() => document.activeElement?.tagName === 'INPUT');
  await page.keyboard.type(words);
  await page.locator('#hit-0').getByText(words, { exact: true }).waitFor({ timeout: 15_000 });
  await page.keyboard.press('Enter');
  await page.locator('[data-test=search]').waitFor({ state: 'hidden' });
}
