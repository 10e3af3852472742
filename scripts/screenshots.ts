import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium, type Page } from 'playwright-core';
import { DEMO_PERSON } from '@tender-orbit/demo';

/**
 * Takes the pictures of docs/screenshots from a running server with the demo campaign: `npm start`, then
 * `npm run screenshots [address] [views...]`.
 */
const address = process.argv[2] ?? 'http://127.0.0.1:4310';
const folder = join('docs', 'screenshots');
mkdirSync(folder, { recursive: true });
const browser = await chromium.launch({
  executablePath: process.env.TENDER_ORBIT_CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--use-gl=angle', '--use-angle=gl-egl', '--ignore-gpu-blocklist'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.setDefaultTimeout(120_000);

interface View {
  path: string;
  rest: number;
  prepare?: (page: Page) => Promise<void>;
  after?: (page: Page) => Promise<void>;
}

/** How each view is brought into the state a person works in. */
const VIEWS: Record<string, View> = {
  campaigns: { path: '/', rest: 1500 },
  brief: { path: '/campaign/demo/brief', rest: 1500 },
  products: {
    path: '/campaign/demo/products',
    rest: 6000,
    prepare: async (p) => {
      await p.locator('[data-test=product]').getByText('Heather jar').click();
      await p.waitForFunction(() => document.querySelectorAll('[data-test=variant-picture]').length === 3);
      await p.locator('[data-test=part]').filter({ hasText: 'Label' }).click();
      await p.click('[data-test=tab-art]');
    },
  },
  finishes: {
    path: '/campaign/demo/products',
    rest: 2000,
    prepare: async (p) => {
      await p.locator('[data-test=product]').getByText('Heather jar').click();
      await p
        .locator('[data-test=part]')
        .filter({ hasText: /^Lid\s*8/ })
        .click();
      await p.click('[data-test=tab-finish]');
      await p.click('[data-test=library]');
      const balls = p.locator('[data-test=finish-library] button');
      const count = await balls.count();
      await p.waitForFunction(
        (wanted) => document.querySelectorAll('[data-test=finish-library] img').length >= wanted,
        count,
        { timeout: 240_000 },
      );
    },
  },
  meter: {
    path: '/campaign/demo/set',
    rest: 2500,
    prepare: async (p) => {
      await p.locator('[data-test=set-list]').getByText('Key', { exact: true }).click();
      await p.getByRole('radio', { name: 'Traced' }).click();
      await p.click('[data-test=meter]');
      await p.waitForFunction(
        () => Number((document.querySelector('[data-test=traced]') as HTMLElement | null)?.dataset.samples) >= 40,
      );
    },
  },
  set: {
    path: '/campaign/demo/set',
    rest: 500,
    prepare: async (p) => {
      await p.locator('[data-test=ruler], [aria-label=Playhead]').first().focus();
      await p.keyboard.press('End');
      await p.locator('[data-test=set-list]').getByText('Rim', { exact: true }).click();
      await p.getByRole('radio', { name: 'Traced' }).click();
      await p.waitForFunction(
        () => Number((document.querySelector('[data-test=traced]') as HTMLElement | null)?.dataset.samples) >= 40,
      );
    },
  },
  effects: {
    path: '/campaign/demo/moves',
    rest: 500,
    prepare: async (p) => {
      await p.locator('[data-test=effect-petal-burst]').click();
      await p.locator('[data-test=effect-cost]').waitFor();
      await p.locator('[data-test=ripeness][aria-label^="Simulated"]').waitFor();
      await p.locator('[data-test=ruler]').focus();
      for (let i = 0; i < 11; i++) await p.keyboard.press('ArrowRight');
      await p.getByRole('radio', { name: 'Traced' }).click();
      await p.waitForFunction(
        () => Number((document.querySelector('[data-test=traced]') as HTMLElement | null)?.dataset.samples) >= 40,
      );
    },
    // The other views show the set as it was.
    after: (p) => p.keyboard.press('Control+z'),
  },
  smoke: {
    path: '/campaign/demo/moves',
    rest: 4000,
    prepare: async (p) => {
      for (let i = 0; i < 2; i++)
        await p
          .getByRole('button', { name: /next shot/i })
          .first()
          .click();
      await p.locator('[data-test=ripeness][aria-label^="Simulated"]').waitFor();
      await p.locator('[data-test=ruler]').focus();
      for (let i = 0; i < 19; i++) await p.keyboard.press('ArrowRight');
    },
  },
  moves: {
    path: '/campaign/demo/moves',
    rest: 9000,
    prepare: async (p) => {
      await p.locator('[data-test=recipe-bar]').filter({ hasText: 'Turntable' }).click();
      await p.locator('[data-test=open-graph]').first().click();
      await p.locator('[data-test=ruler]').focus();
      for (let i = 0; i < 3; i++) await p.keyboard.press('PageDown');
    },
  },
  composite: {
    path: '/campaign/demo/composite',
    rest: 12000,
    prepare: async (p) => {
      await p.locator('[data-plate]', { hasText: 'Evening glow' }).click();
      await p.locator('[data-test=ruler]').focus();
      await p.keyboard.press('End');
    },
  },
  promo: {
    path: '/campaign/demo/promo',
    rest: 5000,
    prepare: async (p) => {
      await p.locator('[data-test=ruler]').focus();
      for (let i = 0; i < 15; i++) await p.keyboard.press('PageDown');
      await p.locator('[data-test=clip]').nth(3).focus();
      await p.keyboard.press('Enter');
      // As the file has it.
      await p.waitForSelector('[data-test=promo-canvas][data-frame]', { timeout: 120_000 });
    },
  },
  release: { path: '/campaign/demo/release', rest: 3000 },
};

await page.goto(`${address}/sign-in`);
await page.fill('[name=email]', DEMO_PERSON.email);
await page.fill('[name=password]', DEMO_PERSON.password);
await page.click('button[type=submit]');
await page.waitForSelector('[data-test=campaign-card]');
const wanted = process.argv.slice(3);
for (const [name, view] of Object.entries(VIEWS)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  await page.goto(address + view.path);
  await page.waitForTimeout(2500);
  await view.prepare?.(page);
  await page.waitForTimeout(view.rest);
  await page.screenshot({ path: join(folder, `${name}.png`) });
  await view.after?.(page);
  await page.waitForTimeout(1500);
  console.log(`${name}.png`);
}
await browser.close();
