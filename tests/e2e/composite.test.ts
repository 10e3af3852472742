import { inflateSync } from 'node:zlib';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { composeShot, readLight } from '@tender-orbit/core/composite';
import type { SetDocument, ShotDocument } from '@tender-orbit/core/document';
import type { TakeSummary } from '@tender-orbit/core/contract';
import { textDrawer } from '@tender-orbit/core/promo';
import { openTitlePainter } from '../../packages/server/src/promos/title-fonts.ts';
import { goTo, newCampaign, openPage, openStage, saved, searchFor, signIn, typeNumber, type Stage } from './harness.ts';

describe('composite: a finished shot out of a take', () => {
  let stage: Stage;
  let page: Page;
  let faults: string[];
  let campaign: string;
  let take: string;

  before(async () => {
    stage = await openStage();
    ({ page, faults } = await openPage(stage));
    await signIn(page, stage.server.address);
    campaign = await newCampaign(page, 'Discs behind the box');
    await goTo(page, 'Products');
    await page.click('[data-test=make-carton]');
    await page.locator('[data-test=product-panel]').waitFor();
    await searchFor(page, 'Put product on the set');
    await page.locator('[data-test=set-list]').waitFor();
    await goTo(page, 'Moves');
    await typeNumber(page, 'Shot length, f', '4', '[data-test=recipes]');
    await saved(page);
  });
  after(() => stage?.stop());
  afterEach(() => expect(faults, faults.join('\n')).deep.equal([]));

  interface Bundle {
    sets: Array<{ document: SetDocument }>;
    shots: Array<{ id: string; document: ShotDocument }>;
    promos: Array<{ id: string }>;
    takes: TakeSummary[];
  }
  const bundle = async (): Promise<Bundle> => {
    await saved(page);
    return (await (await page.request.get(`${stage.server.address}/api/campaigns/${campaign}`)).json()) as Bundle;
  };
  /** What the picture shows, once it is whole. */
  async function shown(frame: number, width: number): Promise<Buffer> {
    const canvas = page.locator(`[data-test=composite][data-frame="${frame}"][data-width="${width}"]`);
    await canvas.waitFor();
    const pixels = await canvas.evaluate((element) => {
      const { width: w, height: h } = element as HTMLCanvasElement;
      return [...(element as HTMLCanvasElement).getContext('2d')!.getImageData(0, 0, w, h).data];
    });
    return Buffer.from(pixels);
  }

  it('a draft is rendered, and layers are put on the rack over it', async () => {
    await goTo(page, 'Composite');
    await typeNumber(page, 'Samples', '4', '[data-test=new-take]');
    await page.click('[data-test=start-take]');
    await page.locator('[data-test=take] .done').waitFor({ timeout: 300_000 });
    [{ id: take }] = (await bundle()).takes;
    for (const kind of ['repeater', 'specks', 'grade', 'lens', 'text'])
      await page.locator(`[data-test=layer-${kind}]`).click();
    await page.locator('[data-test=composite-viewer] [data-test=composite]').waitFor();
    const { shots } = await bundle();
    expect(shots[0].document.layers.map((l) => l.kind)).deep.equal([
      ...['take', 'repeater', 'specks', 'grade', 'lens', 'text'],
    ]);
  });

  it('discs scale up one after the other behind the product, by keys', async () => {
    await page.locator('[data-plate]', { hasText: 'Repeater' }).click();
    await page.locator('[data-test=layer-details]', { hasText: 'Growth' }).waitFor();
    await page.locator('[data-test=layer-details]').getByText('Behind the products').click();
    await page.locator('[data-test=layer-details] [aria-label^="Key growth" i]').click();
    await typeNumber(page, 'Growth, %', '0', '[data-test=layer-details]');
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press('End');
    await typeNumber(page, 'Growth, %', '100', '[data-test=layer-details]');
    const { layers, tracks } = (await bundle()).shots[0].document;
    const repeater = layers.find((l) => l.kind === 'repeater')!;
    expect(repeater.behind).equal(true);
    expect(tracks.find((t) => t.thing === repeater.id)!.keys.map((k) => [k.frame, k.value])).deep.equal([
      [0, 0],
      [3, 1],
    ]);
  });

  it('the picture is the one that the core composes, to the byte', async () => {
    const { shots, sets, takes } = await bundle();
    const { width } = takes[0];
    const painter = await openTitlePainter();
    const answer = await page.request.get(`${stage.server.address}/api/takes/${take}/frames/3/light`);
    const light = readLight(new Uint8Array(inflateSync(await answer.body())));
    const wanted = composeShot(
      { shot: shots[0].document, view: sets[0].document.view },
      3,
      { num: 24, den: 1 },
      light,
      {
        ...{ takes: new Map([['', light]]), stills: new Map(), text: textDrawer(painter) },
      },
    );
    painter.dispose();
    expect(Buffer.from(wanted.data).equals(await shown(3, width))).equal(true);
  });

  it('the promo shows the composite where it uses the take', async () => {
    await goTo(page, 'Promo');
    await page.locator('[data-test=shelf-take]').first().click();
    await page.locator('[data-test=promo-canvas]').first().waitFor();
    const reds = async (): Promise<number> =>
      page.evaluate(() => {
        const canvas = document.querySelector<HTMLCanvasElement>('[data-test=promo-canvas]')!;
        const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
        let sum = 0;
        for (let i = 0; i < data.length; i += 4) sum += data[i];
        return sum / (data.length / 4);
      });
    const before = await reds();
    await goTo(page, 'Composite');
    await page.locator('[data-test=layer-solid]').click();
    await typeNumber(page, 'Opacity, %', '90', '[data-test=layer-details]');
    await goTo(page, 'Promo');
    await page.waitForFunction(
      ([was]) => {
        const canvas = document.querySelector<HTMLCanvasElement>('[data-test=promo-canvas]');
        if (!canvas || canvas.width === 0) return false;
        const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
        let sum = 0;
        for (let i = 0; i < data.length; i += 4) sum += data[i];
        return Math.abs(sum / (data.length / 4) - was) > 5;
      },
      [before],
    );
  });
});
