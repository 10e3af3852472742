import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import validator from 'gltf-validator';
import sharp from 'sharp';
import type { Page } from 'playwright-core';
import type { ProductDocument, SetDocument } from '@tender-orbit/core/document';
import { boundsOf } from '@tender-orbit/core/geometry';
import { compile, evaluate } from '@tender-orbit/core/scene';
import { builtMeshes, modelKey } from '@tender-orbit/core/product';
import { newShot } from '@tender-orbit/core/document';
import { choose, goTo, newCampaign, openPage, openStage, saved, signIn, typeNumber, type Stage } from './harness.ts';

interface Bundle {
  products: Array<{ id: string; document: ProductDocument }>;
  sets: Array<{ document: SetDocument }>;
  shots: Array<{ id: string }>;
}

const FACES = {
  front: [180, 240],
  back: [180, 240],
  left: [120, 240],
  right: [120, 240],
  top: [180, 120],
  bottom: [180, 120],
} as const;
const COLOURS: Record<string, string> = {
  front: '#d02020',
  back: '#20a020',
  left: '#2020d0',
  right: '#d0a020',
  top: '#a020a0',
  bottom: '#20a0a0',
};

describe('journey: a product and its light without a model file', () => {
  let stage: Stage;
  let page: Page;
  let faults: string[];
  let campaign: string;
  const bundle = (): Promise<Bundle> =>
    page.evaluate(async (id) => (await fetch(`/api/campaigns/${id}`)).json(), campaign) as Promise<Bundle>;
  const product = async (name: string): Promise<ProductDocument> =>
    (await bundle()).products.find((p) => p.document.name === name)!.document;
  const panel = (): string => '[data-test=product-panel]';

  before(async () => {
    stage = await openStage();
    ({ page, faults } = await openPage(stage));
    await signIn(page, stage.server.address);
    campaign = await newCampaign(page, 'Staging');
    await goTo(page, 'Products');
  });
  after(() => stage?.stop());
  afterEach(() => expect(faults, faults.join('\n')).deep.equal([]));

  it('builds a carton of its real size and puts six art panels on the faces that they are named after', async () => {
    await page.click('[data-test=make-carton]');
    await page.locator(panel()).waitFor();
    for (const [name, mm] of [
      ['Width, mm', '90'],
      ['Height, mm', '120'],
      ['Depth, mm', '60'],
    ])
      await typeNumber(page, name, mm, panel());
    const files: string[] = [];
    for (const [face, [width, height]] of Object.entries(FACES)) {
      const file = join(stage.folder, `carton ${face}.png`);
      await sharp({ create: { width, height, channels: 3, background: COLOURS[face] } })
        .png()
        .toFile(file);
      files.push(file);
    }
    await page.click('[data-test=tab-art]');
    await page.locator('[data-test=art-input] input').setInputFiles(files);
    await page.getByText(/6 sheets are in, on Front, Back, Left, Right, Top, Bottom/).waitFor();
    await saved(page);
    const { slots, sheets, variants, parts, builder } = await product('Carton');
    expect(builder).include({ width: 0.09, height: 0.12, depth: 0.06 });
    for (const face of Object.keys(FACES)) {
      const slot = slots.find((s) => s.name.toLowerCase() === face)!;
      const sheet = sheets.find((s) => s.id === variants[0].fills.find((f) => f.slot === slot.id)!.sheet)!;
      expect(sheet.name).equal(`carton ${face}`);
      expect(parts[slot.part].name.toLowerCase()).equal(face);
    }
  });

  it('shows the art on it: the front’s red and the right side’s yellow are in the picture', async () => {
    await page.waitForFunction(() => {
      const canvas = document.querySelector('[data-test=product-canvas]') as HTMLCanvasElement;
      const small = document.createElement('canvas');
      Object.assign(small, { width: 120, height: 90 });
      const context = small.getContext('2d')!;
      context.drawImage(canvas, 0, 0, 120, 90);
      const { data } = context.getImageData(0, 0, 120, 90);
      let [red, yellow] = [0, 0];
      for (let i = 0; i < data.length; i += 4) {
        const [r, g, b] = data.subarray(i, i + 3);
        if (r > 60 && g < r * 0.35 && b < r * 0.35) red++;
        if (r > 40 && g > r * 0.55 && g < r * 0.95 && b < r * 0.4) yellow++;
      }
      return red > 300 && yellow > 20;
    });
  });

  it('stands it on the floor, then on a plinth, to a micrometre', async () => {
    await page.click('[data-test=to-set]');
    await page.waitForURL(/\/set$/);
    const lowest = async (): Promise<number> => {
      await saved(page);
      const [{ document: set }] = (await bundle()).sets;
      const box = await product('Carton');
      const meshes = builtMeshes(modelKey(box))!;
      const context = { products: new Map([[set.products[0].product, box]]), meshes: () => meshes, aspect: 1.5 };
      const [instance] = evaluate(compile(set, newShot('s', 's', set.cameras[0].id, 1)), 0, context).instances;
      return boundsOf(meshes, instance.matrix).min[1];
    };
    expect(await lowest()).closeTo(0, 1e-6);
    await page.getByRole('button', { name: 'Add to Surfaces' }).click();
    await page.getByText('Plinth', { exact: true }).click();
    await page.locator('[data-test=set-list]').getByText('Carton', { exact: true }).click();
    await choose(page.locator('[data-test=stands-on]'), 'Plinth');
    expect(await lowest()).closeTo(0.08, 1e-6);
  });

  it('lights it with a rim and a flag by the orbit plan alone', async () => {
    const plan = page.locator('[data-test=orbit-plan]');
    const add = async (label: string): Promise<void> => {
      await page.click('[data-test=plan-add]');
      await page.getByText(label, { exact: true }).last().click();
    };
    await add('Rim light');
    await saved(page);
    const rim = (await bundle()).sets[0].document.lights.find((l) => l.role === 'rim' && l.id !== 'rim')!;
    const spot = plan.locator(`[data-spot=${rim.id}]`);
    const box = (await spot.locator('circle').boundingBox())!;
    const disc = (await plan.locator('svg.disc').boundingBox())!;
    const [cx, cy] = [disc.x + disc.width / 2, disc.y + disc.height / 2];
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(cx - disc.width * 0.22, cy - disc.height * 0.24, { steps: 6 });
    await page.mouse.up();
    await spot.focus();
    for (let i = 0; i < 4; i++) await spot.press('Alt+ArrowUp');
    await add('Flag');
    await saved(page);
    const { lights, surfaces } = (await bundle()).sets[0].document;
    const moved = lights.find((l) => l.id === rim.id)!;
    expect(moved.position[0]).below(-0.1);
    expect(moved.position[2]).below(-0.1);
    expect(moved.position[1]).above(rim.position[1] * 0.5);
    const flag = surfaces.find((s) => s.name === 'Flag')!;
    const card = plan.locator(`[data-spot=${flag.id}]`);
    await card.focus();
    for (let i = 0; i < 5; i++) await card.press('ArrowRight');
    await card.press('ArrowUp');
    await saved(page);
    const after = (await bundle()).sets[0].document.surfaces.find((s) => s.id === flag.id)!;
    const [was, is] = [flag, after].map((s) => (s.kind === 'card' ? s.position : [0, 0, 0]));
    const azimuth = (p: readonly number[]): number => (Math.atan2(p[0], p[2]) * 180) / Math.PI;
    expect(azimuth(is) - azimuth(was)).closeTo(10, 0.5);
    expect(Math.hypot(is[0], is[2])).closeTo(Math.hypot(was[0], was[2]) - 0.02, 0.002);
  });

  it('moves two chosen things together and lines them up', async () => {
    const list = page.locator('[data-test=set-list]');
    await list.getByText('Carton', { exact: true }).click();
    await list.getByText('Plinth', { exact: true }).click({ modifiers: ['Control'] });
    await page.locator('[data-test=arrange]').getByText('2 things').waitFor();
    await page.getByRole('button', { name: 'Align left sides' }).click();
    await saved(page);
    const { surfaces } = (await bundle()).sets[0].document;
    const plinth = surfaces.find((s) => s.name === 'Plinth')!;
    // The carton is 9 cm wide, the plinth 16: left sides meet at -4.5 cm.
    expect(plinth.kind === 'block' && plinth.position[0]).closeTo(0.035, 1e-6);
  });

  it('exports the staged set as a GLB that the official validator finds no fault with', async () => {
    const waiting = page.waitForEvent('download');
    await page.click('[data-test=export-set]');
    const file = join(stage.folder, 'set.glb');
    await (await waiting).saveAs(file);
    const report = await validator.validateBytes(new Uint8Array(readFileSync(file)));
    expect(report.issues.messages.filter((m: { severity: number }) => m.severity === 0)).deep.equal([]);
  });

  it('makes three variants of a jar and sees them side by side, each traced', async () => {
    await goTo(page, 'Products');
    await page.locator('[data-test=model-input] input').setInputFiles(stage.files.jar);
    await page.getByText('43,648 triangles', { exact: true }).waitFor();
    const lid = page
      .locator(panel())
      .locator('[data-test=part]')
      .filter({ hasText: /^Lid\s*8/ });
    await page.click('[data-test=tab-finish]');
    for (const finish of ['Anodised black', 'Copper']) {
      await page.click('[data-test=add-variant]');
      await lid.click();
      if (!(await page.locator('[data-test=finish-library]').isVisible())) await page.click('[data-test=library]');
      await page.locator('[data-test=finish-library]').getByText(finish, { exact: true }).click();
    }
    await page.waitForFunction(() => document.querySelectorAll('[data-test=variant-picture]').length === 3);
    await saved(page);
    const { variants, finishes, parts } = await product('Honey jar');
    const lidPart = parts.find((p) => p.name === 'Lid')!;
    const worn = variants.map(
      (v) =>
        finishes.find((f) => f.id === (v.finishes.find((w) => w.part === lidPart.index)?.finish ?? lidPart.finish))!
          .name,
    );
    expect(worn).deep.equal(['Brass lid', 'Anodised black', 'Copper']);
    const pictures = await page
      .locator('[data-test=variant-picture]')
      .evaluateAll((all) => all.map((i) => (i as HTMLImageElement).src));
    expect(new Set(pictures).size).equal(3);
  });

  it('shows a variant with one click, on the set too', async () => {
    await page.locator('[data-test=variant]').nth(0).click();
    await page.locator('[data-test=to-set]').click();
    await page.waitForURL(/\/set$/);
    await choose(page.locator('[data-test=set-variant]'), 'Variant 3');
    await saved(page);
    const jar = await product('Honey jar');
    const item = (await bundle()).sets[0].document.products.find((p) => p.name === 'Honey jar')!;
    expect(item.variant).equal(jar.variants[2].id);
  });
});
