import { expect } from 'chai';
import type { Page } from 'playwright-core';
import type { SetDocument, ShotDocument } from '@tender-orbit/core/document';
import type { TakeSummary } from '@tender-orbit/core/contract';
import { goTo, newCampaign, openPage, openStage, saved, searchFor, signIn, typeNumber, type Stage } from './harness.ts';

describe('effects: smoke and bodies', () => {
  let stage: Stage;
  let page: Page;
  let faults: string[];
  let campaign: string;

  before(async () => {
    stage = await openStage();
    ({ page, faults } = await openPage(stage));
    await signIn(page, stage.server.address);
    campaign = await newCampaign(page, 'Out of the mist');
    await goTo(page, 'Products');
    await page.click('[data-test=make-carton]');
    await page.locator('[data-test=product-panel]').waitFor();
    await searchFor(page, 'Put product on the set');
    await page.locator('[data-test=set-list]').waitFor();
    await goTo(page, 'Moves');
    await typeNumber(page, 'Shot length, f', '10', '[data-test=recipes]');
  });
  after(() => stage?.stop());
  afterEach(() => expect(faults, faults.join('\n')).deep.equal([]));

  async function documents(): Promise<{ set: SetDocument; shot: ShotDocument }> {
    await saved(page);
    const answer = await page.request.get(`${stage.server.address}/api/campaigns/${campaign}`);
    const { sets, shots } = (await answer.json()) as {
      sets: Array<{ document: SetDocument }>;
      shots: Array<{ document: ShotDocument }>;
    };
    return { set: sets[0].document, shot: shots[0].document };
  }
  const find = (words: string): Promise<void> => searchFor(page, words);
  const ribbon = () => page.locator('[data-test=ripeness]');
  const ripe = () => page.locator('[data-test=ripeness][aria-label^="Simulated"]');

  it('a smoke reveal of a box is simulated beside the work, and its ribbon fills', async () => {
    await goTo(page, 'Set');
    await find('Add smoke reveal');
    await page.locator('[data-test=effect-cost]').waitFor();
    await goTo(page, 'Moves');
    await ribbon().waitFor();
    await ripe().waitFor();
    const { set } = await documents();
    expect(set.effects[0]).include({ kind: 'smoke', name: 'Smoke reveal' });
    expect(set.effects[0].playback.backwards).equal(true);
  });

  it('a force that is changed while it stands there has it simulated anew', async () => {
    await page.locator('.pick', { hasText: 'Smoke reveal' }).first().click();
    await typeNumber(page, 'Rises by heat, m/s2', '-3', '[data-test=details]');
    await page.locator('[data-test=ripeness]:not([aria-label^="Simulated"])').waitFor();
    await ripe().waitFor();
    expect((await documents()).set.effects[0]).include({ lift: -3 });
  });

  it('petals burst out of the box, start later by a number, and are seen in the viewer', async () => {
    await find('Add petal burst');
    await page.locator('[data-test=effect-cost]', { hasText: '180 at once' }).waitFor();
    await page.locator('[data-test=ripeness][aria-label^="Simulated"]').nth(1).waitFor();
    const still = await page.locator('[data-test=stage]').screenshot();
    await typeNumber(page, 'Burst', '400', '[data-test=details]');
    await page.locator('[data-test=effect-cost]', { hasText: '400 at once' }).waitFor();
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press('End');
    await page.locator('[data-test=ripeness][aria-label^="Simulated"]').nth(1).waitFor();
    expect((await documents()).set.effects[1]).include({ kind: 'particles', form: 'petal', burst: 400 });
    expect(await page.locator('[data-test=stage]').screenshot()).not.deep.equal(still);
  });

  it('a take simulates it first and has it in its frames', async () => {
    await goTo(page, 'Composite');
    await page.locator('[data-test=simulates]', { hasText: 'Smoke reveal (normal)' }).waitFor();
    const { id } = await page.evaluate(
      async ([shot]) => {
        const { csrfToken } = (await (await fetch('/api/session')).json()) as { csrfToken: string };
        const answer = await fetch('/api/takes', {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'x-csrf-token': csrfToken },
          body: JSON.stringify({ shot, quality: 'clay', width: 64, samples: 2 }),
        });
        return (await answer.json()) as { id: string };
      },
      [
        await page.evaluate(
          async ([of]) =>
            ((await (await fetch(`/api/campaigns/${of}`)).json()) as { shots: Array<{ id: string }> }).shots[0].id,
          [campaign],
        ),
      ],
    );
    let take: TakeSummary | undefined;
    for (let tries = 0; tries < 300 && take?.state !== 'done'; tries++) {
      await page.waitForTimeout(1000);
      const answer = await page.request.get(`${stage.server.address}/api/campaigns/${campaign}/takes`);
      take = ((await answer.json()) as TakeSummary[]).find((t) => t.id === id);
      expect(take?.state).not.equal('failed');
    }
    expect(take?.done).length(10);
  });

  it('the box is dropped as a body and rests at the frame that was asked for', async () => {
    await goTo(page, 'Moves');
    await find('Drop as bodies');
    await page.locator('[data-test=drop-dialog]').waitFor();
    // Dropped straight, it lands where it stands.
    await typeNumber(page, 'Tumbled by, deg', '0', '[data-test=drop-dialog]');
    await page.locator('[data-test=drop-run]').click();
    await page.locator('[data-test=drop-dialog]').waitFor({ state: 'hidden' });
    const { shot } = await documents();
    const lift = shot.tracks.find((t) => t.path === 'position.1')!;
    expect(lift.keys.at(-1)!.frame).equal(9);
    expect(Math.abs(lift.keys.at(-1)!.value as number)).below(0.004);
    expect(shot.tracks.find((t) => t.path === 'seated')!.keys[0].value).equal(false);
  });
});
