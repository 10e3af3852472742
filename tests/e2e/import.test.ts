import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import type { ProductDocument } from '@tender-orbit/core/document';
import { makeFinish } from '@tender-orbit/core/finish';
import { buildTurned } from '@tender-orbit/core/geometry';
import { writeModel } from '@tender-orbit/core/interchange';
import { goTo, newCampaign, openPage, openStage, saved, signIn, type Stage } from './harness.ts';

describe('journey: a model of a hundred metres, and files that are none', () => {
  let stage: Stage;
  let page: Page;
  let faults: string[];
  let campaign: string;
  before(async () => {
    stage = await openStage();
    ({ page, faults } = await openPage(stage));
    await signIn(page, stage.server.address);
    campaign = await newCampaign(page, 'Smoker');
    await goTo(page, 'Products');
  });
  after(() => stage?.stop());
  afterEach(() => expect(faults.splice(0)).deep.equal([]));

  const bring = (...files: string[]): Promise<void> =>
    page.locator('[data-test=model-input] input, input[data-test=model-input]').first().setInputFiles(files);
  const products = async (): Promise<ProductDocument[]> => {
    const ask = async (id: string): Promise<unknown> => (await fetch(`/api/campaigns/${id}`)).json();
    const { products: all } = (await page.evaluate(ask, campaign)) as {
      products: Array<{ document: ProductDocument }>;
    };
    return all.map(({ document }) => document);
  };
  /** Share of the viewer's pixels that are the product's own strong red. */
  const redShare = (): Promise<number> =>
    page.evaluate(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('.viewer canvas')!;
      const copy = document.createElement('canvas');
      Object.assign(copy, { width: 160, height: 100 });
      const context = copy.getContext('2d')!;
      context.drawImage(canvas, 0, 0, 160, 100);
      const { data } = context.getImageData(0, 0, 160, 100);
      let red = 0;
      for (let i = 0; i < data.length; i += 4)
        if (data[i] > 60 && data[i] > 2 * data[i + 1] && data[i] > 2 * data[i + 2]) red++;
      return red / (160 * 100);
    });
  const drawn = async (): Promise<void> => {
    const count = (): Promise<number> =>
      page.evaluate(() => Number(document.querySelector<HTMLElement>('.viewer canvas')?.dataset.drawn ?? 0));
    const before = await count();
    await page.waitForFunction(
      (n) => Number(document.querySelector<HTMLElement>('.viewer canvas')?.dataset.drawn ?? 0) > n,
      before,
    );
  };

  it('is brought in, seen, and corrected by one press', async () => {
    const mesh = buildTurned({
      profile: [
        [0, 0],
        [40, 0],
        [40, 100],
        [0, 100],
      ],
      segments: 32,
    });
    const finish = makeFinish('Enamel', { baseColor: [0.7, 0.02, 0.02], roughness: 0.6 });
    const path = join(stage.folder, 'Smoker.glb');
    writeFileSync(
      path,
      await writeModel({ parts: [{ name: 'Body', mesh, finish: 0 }], finishes: [finish], images: [] }),
    );
    await bring(path);
    const report = page.getByRole('region', { name: 'What came in' });
    await report.waitFor();
    expect(await report.innerText())
      .contain('80 x 100 x 80 m')
      .contain('in metres');
    await drawn();
    const large = await redShare();
    expect(large).above(0.03);
    await report.getByRole('button', { name: 'In millimetres: 10 cm' }).click();
    await page.waitForFunction(
      () => document.querySelector('[data-test=import-size]')?.textContent === '8 x 10 x 8 cm',
    );
    await saved(page);
    expect((await products())[0]).include({ name: 'Smoker', scale: 0.001 });
    // It is framed as before: the studio fits the model, whatever its size.
    expect(await redShare()).closeTo(large, 0.05);
    await report.getByRole('button', { name: 'Put this away' }).click();
    await report.waitFor({ state: 'detached' });
  });

  it('files that are none are said in one sentence by their name, and leave nothing', async () => {
    const scan = join(stage.folder, 'scan.ply');
    const points = ['0 0 0', '1 0 0', '0 1 0'].join('\n');
    writeFileSync(
      scan,
      `ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nend_header\n${points}\n`,
    );
    await bring(scan);
    await page.getByText('"scan.ply" holds only points and lines').first().waitFor();
    const cut = join(stage.folder, 'cut.glb');
    writeFileSync(cut, Buffer.from('glTF\x02\0\0\0\xff\xff\0\0', 'latin1'));
    await bring(cut);
    await page.getByText('"cut.glb" is cut off').first().waitFor();
    expect(await products()).length(1);
  });
});
