import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import type { Page } from 'playwright-core';
import type { ProductDocument, SetDocument } from '@tender-orbit/core/document';
import { readHdr, writeExr } from '@tender-orbit/core/interchange';
import { choose, goTo, newCampaign, openPage, openStage, saved, signIn, typeNumber, type Stage } from './harness.ts';

interface Bundle {
  products: Array<{ id: string; document: ProductDocument }>;
  sets: Array<{ document: SetDocument }>;
}

/** A page of 72 x 36 points, its left half red: the smallest file that a PDF reader takes. */
function pdfPage(): string {
  const paint = '1 0 0 rg 0 0 36 36 re f';
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 72 36] /Contents 4 0 R /Resources << >> >>',
    `<< /Length ${paint.length} >>\nstream\n${paint}\nendstream`,
  ];
  let text = '%PDF-1.4\n';
  const places = objects.map((body, i) => {
    const at = text.length;
    text += `${i + 1} 0 obj\n${body}\nendobj\n`;
    return at;
  });
  const table = text.length;
  text += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n`;
  text += places.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('');
  return `${text}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${table}\n%%EOF\n`;
}

describe('journey: art from other files, and labels by hand', () => {
  let stage: Stage;
  let page: Page;
  let faults: string[];
  let campaign: string;
  const bundle = (): Promise<Bundle> =>
    page.evaluate(async (id) => (await fetch(`/api/campaigns/${id}`)).json(), campaign) as Promise<Bundle>;
  const product = async (name: string): Promise<ProductDocument> =>
    (await bundle()).products.find((p) => p.document.name === name)!.document;
  const stored = async (hash: string): Promise<Buffer> =>
    Buffer.from(
      await page.evaluate(
        async (id) => [...new Uint8Array(await (await fetch(`/api/assets/${id}`)).arrayBuffer())],
        hash,
      ),
    );
  const colourOf = async (hash: string, left = 0): Promise<number[]> => {
    const image = sharp(await stored(hash)).removeAlpha();
    const { width = 1, height = 1 } = await image.metadata();
    const { data } = await image
      .extract({ left: Math.floor(left * width), top: Math.floor(height / 2), width: 1, height: 1 })
      .raw()
      .toBuffer({ resolveWithObject: true });
    return [...data];
  };

  before(async () => {
    stage = await openStage();
    ({ page, faults } = await openPage(stage));
    await signIn(page, stage.server.address);
    campaign = await newCampaign(page, 'Labels');
    await goTo(page, 'Products');
    await page.click('[data-test=make-carton]');
    await page.locator('[data-test=product-panel]').waitFor();
    await page.click('[data-test=make-device]');
    await page.locator('[data-test=tab-art]').waitFor();
  });
  after(() => stage?.stop());
  afterEach(() => expect(faults, faults.join('\n')).deep.equal([]));

  it('takes a film in, a picture for each frame, and shows it on the screen', async () => {
    const file = join(stage.folder, 'screen film.webm');
    const half = (colour: string): string => `color=${colour}:s=64x36:r=24:d=0.25`;
    execFileSync('ffmpeg', [
      ...['-v', 'error', '-f', 'lavfi', '-i', half('red'), '-f', 'lavfi', '-i', half('blue')],
      ...['-filter_complex', '[0][1]concat=n=2', '-c:v', 'libvpx-vp9', '-y', file],
    ]);
    await page.click('[data-test=tab-art]');
    await page.locator('[data-test=art-input] input').setInputFiles(file);
    await page.getByText(/1 sheet is in, on Screen/).waitFor();
    await saved(page);
    const { sheets } = await product('Card');
    expect(sheets[0].film).length(12);
    expect(sheets[0].picture.asset).equal(sheets[0].film![0]);
    const [red, , blue] = await colourOf(sheets[0].film![1]);
    expect(red).above(blue + 100);
    const last = await colourOf(sheets[0].film![10]);
    expect(last[2]).above(last[0] + 100);
  });

  it('draws a page of a PDF at the resolution asked for', async () => {
    const file = join(stage.folder, 'leaflet.pdf');
    writeFileSync(file, pdfPage());
    await typeNumber(page, 'Dots per inch, dpi', '144');
    await page.locator('[data-test=art-input] input').setInputFiles(file);
    await page.locator('figcaption').getByText('leaflet', { exact: true }).waitFor();
    await saved(page);
    const sheet = (await product('Card')).sheets.find((s) => s.name === 'leaflet')!;
    expect([sheet.width, sheet.height]).deep.equal([144, 72]);
    expect(await colourOf(sheet.picture.asset, 0.2)).deep.equal([255, 0, 0]);
    expect(await colourOf(sheet.picture.asset, 0.8)).deep.equal([255, 255, 255]);
  });

  it('pulls a label wider on the product, rubs some of its art out, and takes that back', async () => {
    await page.locator('[data-test=part]').filter({ hasText: 'Screen' }).click();
    await page.click('[data-test=slot-planar]');
    const slot = page.locator('[data-test=slot]').last();
    await choose(slot.locator('[data-test=slot-sheet]'), 'leaflet');
    await slot.locator('[data-test=place-label]').click();
    const label = async (): Promise<ProductDocument['slots'][number]> => (await product('Card')).slots.at(-1)!;
    await saved(page);
    const before = await label();
    const grip = (await page.locator('[data-test=grip-e]').boundingBox())!;
    const other = (await page.locator('[data-test=grip-w]').boundingBox())!;
    const pull = (grip.x - other.x) / 4;
    const middle = [grip.x + grip.width / 2, grip.y + grip.height / 2];
    await page.mouse.move(middle[0], middle[1]);
    await page.mouse.down();
    for (const k of [0.5, 1]) await page.mouse.move(middle[0] + pull * k, middle[1]);
    await page.mouse.up();
    await saved(page);
    const wider = await label();
    // Half of the width more at one side is half as much again in all: the middle stays.
    expect(wider.width / before.width).closeTo(1.5, 0.08);
    expect(wider.height).equal(before.height);

    await slot.locator('[data-test=brush-hide]').click();
    const [x, y] = [(grip.x + other.x) / 2, middle[1]];
    await page.mouse.move(x, y);
    await page.mouse.down();
    for (const k of [1, 2, 3]) await page.mouse.move(x + k * 8, y);
    await page.mouse.up();
    await saved(page);
    const { mask } = await label();
    expect(mask).length(1);
    expect(mask![0].hide).equal(true);
    expect(mask![0].points[0]).closeTo(0.5, 0.1);
    expect(mask![0].points.length).at.least(4);
    await page.getByRole('button', { name: /^Undo/ }).click();
    await saved(page);
    expect((await label()).mask ?? []).deep.equal([]);
  });

  it('gives another product a copy of the variant, and says what it has no place for', async () => {
    await page.click('[data-test=carry-variant]');
    await page.locator('.v-list-item').filter({ hasText: 'Carton' }).click();
    await page.getByText(/is a variant of Carton now. It has no .*Screen/).waitFor();
    await saved(page);
    expect((await product('Carton')).variants).length(2);
  });

  it('lights the set with an OpenEXR panorama', async () => {
    const [width, height] = [16, 8];
    const bright = Float32Array.from({ length: width * height }, (_, i) => (i < width ? 8 : 0.5));
    const channels = ['R', 'G', 'B'].map((name) => ({ name, type: 'float' as const, data: bright }));
    const file = join(stage.folder, 'workshop.exr');
    writeFileSync(file, writeExr({ width, height, channels }));
    await goTo(page, 'Set');
    await page.locator('[data-test=set-list]').getByText('Room', { exact: true }).click();
    await page.locator('[data-test=panorama-input] input').setInputFiles(file);
    await page.getByText(/workshop.exr lights the set/).waitFor();
    await saved(page);
    const { room } = (await bundle()).sets[0].document.environment;
    const kept = readHdr(new Uint8Array(await stored(room.asset)));
    expect([kept.width, kept.height]).deep.equal([width, height]);
    // The bright row is at the top still.
    expect(kept.data[0] / kept.data[kept.data.length - 3]).closeTo(16, 0.3);
  });
});
