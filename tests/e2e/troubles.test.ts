import { closeSync, ftruncateSync, openSync } from 'node:fs';
import { expect } from 'chai';
import type { BrowserContext, Page } from 'playwright-core';
import { goTo, newCampaign, openPage, openStage, saved, signIn, typeNumber, type Stage } from './harness.ts';

/** What goes wrong in daily work: each trouble gets a clear sentence and costs nothing. */
describe('troubles in the browser', () => {
  let stage: Stage;
  let page: Page;
  let context: BrowserContext;
  let faults: string[];
  let campaign: string;

  before(async () => {
    stage = await openStage();
    ({ page, context, faults } = await openPage(stage));
    await signIn(page, stage.server.address);
    campaign = await newCampaign(page, 'Troubles');
  });
  after(() => stage?.stop());
  afterEach(() => expect(faults, faults.join('\n')).deep.equal([]));

  const notice = async (): Promise<string> => {
    const bar = page.locator('[data-test=notice]');
    await bar.waitFor();
    return (await bar.textContent()) ?? '';
  };
  const dismiss = async (): Promise<void> => {
    await page.locator('.v-snackbar').getByRole('button', { name: 'Close' }).click();
    await page.locator('[data-test=notice]').waitFor({ state: 'hidden' });
  };
  const onServer = <T>(path: string): Promise<T> =>
    page.evaluate(async (p) => (await fetch(`/api${p}`)).json(), path) as Promise<T>;
  const lumens = async (): Promise<number> =>
    (await onServer<{ sets: Array<{ document: { lights: Array<{ lumens: number }> } }> }>(`/campaigns/${campaign}`))
      .sets[0].document.lights[0].lumens;

  it('a picture named .glb', async () => {
    await goTo(page, 'Products');
    await page.locator('[data-test=model-input] input').setInputFiles(stage.files.fake);
    expect(await notice()).equal(
      '"picture.glb" is a PNG picture, not a model: bring a .glb, .gltf, .obj, .stl, .ply, .usdz or .usda file.',
    );
    await dismiss();
    expect((await onServer<{ products: unknown[] }>(`/campaigns/${campaign}`)).products).deep.equal([]);
  });

  it('a file of 2 GB', async () => {
    const handle = openSync(stage.files.huge, 'w');
    ftruncateSync(handle, 2 * 1024 ** 3);
    closeSync(handle);
    await page.locator('[data-test=model-input] input').setInputFiles(stage.files.huge);
    expect(await notice()).match(/larger than 256 MB, the most that is taken: make it smaller/);
    await dismiss();
  });

  it('words where a number belongs', async () => {
    await goTo(page, 'Set');
    await page.locator('[data-test=set-list]').getByText('Key', { exact: true }).click();
    await typeNumber(page, 'Power, lm', 'bright', '[data-test=details]');
    expect(await page.locator('[data-test=details]').getByRole('alert').textContent()).match(
      /Power needs a number, like 2600; "bright" was not taken/,
    );
    await typeNumber(page, 'Power, lm', 'NaN', '[data-test=details]');
    await page.waitForTimeout(900);
    expect(await lumens()).equal(2600);
  });

  it('a title of 10,000 characters is kept, not saved, and says why', async () => {
    await goTo(page, 'Promo');
    await page.click('[data-test=add-title]');
    await page.locator('[data-test=title-text] textarea').first().fill('x'.repeat(10000));
    await page.getByText(/10000 characters are too many for a title: shorten it to 2000/).waitFor();
    expect(await notice()).match(/Title text is longer than 2000 characters: shorten it/);
    await dismiss();
    expect(await page.locator('[data-test=save-state]').textContent()).equal('Not saved');
    await page.locator('[data-test=title-text] textarea').first().fill('Short as the hill');
    await saved(page);
  });

  it('a lost connection: work goes on, is kept, and is sent when it is back', async () => {
    await goTo(page, 'Set');
    await page.locator('[data-test=set-list]').getByText('Key', { exact: true }).click();
    await context.setOffline(true);
    await typeNumber(page, 'Power, lm', '1111', '[data-test=details]');
    await page.getByText('Offline, kept here').waitFor();
    await context.setOffline(false);
    await saved(page);
    expect(await lumens()).equal(1111);
  });

  for (const [choice, mine, theirs, expected] of [
    ['Keep mine', 3333, 4444, 3333],
    ['Take the other', 5555, 6666, 6666],
  ] as const) {
    it(`a second tab: "${choice}"`, async () => {
      const { page: other } = await openPage(stage, context);
      await other.goto(`${stage.server.address}/campaign/${campaign}/set`);
      await other.locator('[data-test=set-list]').getByText('Key', { exact: true }).click();
      await typeNumber(other, 'Power, lm', String(theirs), '[data-test=details]');
      await other.waitForFunction(() => document.querySelector('[data-test=save-state]')?.textContent === 'Saved');
      await typeNumber(page, 'Power, lm', String(mine), '[data-test=details]');
      const dialog = page.locator('[data-test=conflict]');
      await dialog
        .getByText(/changed elsewhere/)
        .first()
        .waitFor();
      await dialog.getByRole('button', { name: choice }).click();
      await saved(page);
      expect(await lumens()).equal(expected);
      await other.close();
      // Both tabs stand at the same revision again.
      await page.reload();
      await page.locator('[data-test=set-list]').getByText('Key', { exact: true }).click();
    });
  }

  it('an address of a campaign that is not there', async () => {
    await page.goto(`${stage.server.address}/campaign/nobody/set`);
    await page.getByText('This campaign is not here: it may have been deleted.').waitFor();
    await page.getByRole('button', { name: 'All campaigns' }).click();
    await page.locator('[data-test=campaign-card]').waitFor();
  });

  it('a station chosen before the campaign has come', async () => {
    await page.route('**/api/campaigns/*', async (route) => {
      await new Promise((next) => setTimeout(next, 1500));
      await route.continue();
    });
    await page.goto(`${stage.server.address}/campaign/${campaign}/brief`, { waitUntil: 'commit' });
    await goTo(page, 'Products');
    await page.locator('[data-test=model-input] input').waitFor({ state: 'attached' });
    await page.unroute('**/api/campaigns/*');
  });

  it('every control has a name, and no station scrolls the page', async () => {
    for (const station of ['brief', 'products', 'set', 'moves', 'composite', 'promo', 'release']) {
      await page.goto(`${stage.server.address}/campaign/${campaign}/${station}`);
      await page.locator('.station').waitFor();
      await page.waitForTimeout(700);
      const nameless = await page.evaluate(() =>
        [
          ...document.querySelectorAll<HTMLElement>(
            'button, a[href], input, select, textarea, [role=slider], [role=button]',
          ),
        ]
          .filter((e) => e.offsetParent !== null && !e.closest('[aria-hidden=true]'))
          .filter((e) => {
            const label =
              e.getAttribute('aria-label') ||
              e.textContent?.trim() ||
              e.getAttribute('title') ||
              e.closest('label')?.textContent?.trim();
            return !label;
          })
          .map((e) => e.outerHTML.slice(0, 120)),
      );
      expect(nameless, station).deep.equal([]);
      expect(
        await page.evaluate(() => document.documentElement.scrollHeight <= window.innerHeight),
        `${station} scrolls the page`,
      ).equal(true);
    }
  });

  it('deleting a campaign asks for its name, and leaves the others', async () => {
    await page.goto(stage.server.address);
    const second = await newCampaign(page, 'Short lived');
    await page.goto(stage.server.address);
    const cards = page.locator('[data-test=campaign-card]');
    await page.getByRole('button', { name: 'Delete Short lived' }).click();
    const ask = page.locator('[data-test=delete-campaign]');
    const sure = ask.getByRole('button', { name: 'Delete campaign' });
    await ask.getByRole('textbox').fill('Short');
    expect(await sure.isDisabled()).equal(true);
    await ask.getByRole('button', { name: 'Keep it' }).click();
    await ask.waitFor({ state: 'hidden' });
    expect(await cards.count()).equal(2);
    await page.getByRole('button', { name: 'Delete Short lived' }).click();
    await ask.getByRole('textbox').fill('Short lived');
    await sure.click();
    await cards.getByText('Short lived').waitFor({ state: 'detached' });
    expect(await cards.allTextContents()).length(1);
    expect(await page.evaluate(async (id) => (await fetch(`/api/campaigns/${id}`)).status, second)).equal(404);
  });
});
