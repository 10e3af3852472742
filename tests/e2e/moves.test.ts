import { expect } from 'chai';
import type { Page } from 'playwright-core';
import type { Ease, ShotDocument } from '@tender-orbit/core/document';
import { choose, goTo, newCampaign, openPage, openStage, saved, signIn, typeNumber, type Stage } from './harness.ts';

describe('moves: eases', () => {
  let stage: Stage;
  let page: Page;
  let faults: string[];
  let campaign: string;

  before(async () => {
    stage = await openStage();
    ({ page, faults } = await openPage(stage));
    await signIn(page, stage.server.address);
    campaign = await newCampaign(page, 'Soft landings');
    await goTo(page, 'Moves');
    await page.click('[data-test=recipe-push-in]');
    await page.getByRole('button', { name: 'Dissolve' }).click();
    await page.locator('[data-test=bead]').first().waitFor();
  });
  after(() => stage?.stop());
  afterEach(() => expect(faults, faults.join('\n')).deep.equal([]));

  const easeTo = (name: string): Promise<void> => choose(page.locator('[data-test=ease]'), name);
  async function shot(): Promise<ShotDocument> {
    await saved(page);
    const answer = await page.request.get(`${stage.server.address}/api/campaigns/${campaign}`);
    return ((await answer.json()) as { shots: Array<{ document: ShotDocument }> }).shots[0].document;
  }
  /** The ease with which the camera sets out forward. */
  const forward = async (): Promise<Ease> => (await shot()).tracks.find((t) => t.path === 'position.2')!.keys[0].ease;

  it('a span lands softly, by as much as is typed', async () => {
    await page.getByRole('button', { name: /^Key of forward at frame 1,/ }).click();
    await easeTo('Soft landing');
    await typeNumber(page, 'Soft landing, %', '80', '[data-test=key-details]');
    expect(await forward()).deep.equal({ kind: 'soft', start: 0, landing: 0.8 });
  });

  it('its curve is bent by a handle that is dragged, as one step, and by arrow keys', async () => {
    await easeTo('Handles');
    const usual = { kind: 'bezier', out: [0.4, 0], in: [0.6, 1] };
    expect(await forward()).deep.equal(usual);
    await page.getByRole('button', { name: /^Graph of forward/ }).click();
    const handle = page.locator('[data-test=handle-out]');
    await handle.scrollIntoViewIfNeeded();
    const { x, y, width, height } = (await handle.boundingBox())!;
    await page.mouse.move(x + width / 2, y + height / 2);
    await page.mouse.down();
    await page.mouse.move(x + width / 2 + 90, y + height / 2 - 30, { steps: 4 });
    await page.mouse.up();
    const bent = (await forward()) as { out: [number, number]; in: [number, number] };
    expect(bent.out[0]).above(0.42);
    expect(Math.abs(bent.out[1])).above(0.1);
    expect(bent.in).deep.equal(usual.in);
    await page.keyboard.press('Control+z');
    expect(await forward()).deep.equal(usual);
    await handle.focus();
    await handle.press('ArrowRight');
    expect(await forward()).deep.equal({ ...usual, out: [0.42, 0] });
  });

  it('spans of several threads share an ease, which one number changes for all', async () => {
    const starts = page.getByRole('button', { name: /^Key of .* at frame 1,/ });
    const count = await starts.count();
    expect(count).above(1);
    await starts.first().click();
    for (let i = 1; i < count; i++) await starts.nth(i).click({ modifiers: ['Shift'] });
    await easeTo('Overshoot');
    await page.getByRole('button', { name: `Link ${count} eases` }).click();
    await typeNumber(page, 'Beyond, %', '25', '[data-test=key-details]');
    const { eases: linked, tracks } = await shot();
    expect(linked.map((e) => e.ease)).deep.equal([{ kind: 'overshoot', amount: 0.25 }]);
    for (const { keys } of tracks) expect(keys[0].ease).deep.equal({ kind: 'linked', id: linked[0].id });
  });
});
