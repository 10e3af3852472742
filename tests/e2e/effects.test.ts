import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import {
  composeShot,
  filmFrame,
  filmKey,
  readCube,
  readLight,
  readLightParts,
  readVector,
  writeCube,
} from '@tender-orbit/core/composite';
import type { SetDocument, ShotDocument } from '@tender-orbit/core/document';
import type { TakeSummary } from '@tender-orbit/core/contract';
import { textDrawer } from '@tender-orbit/core/promo';
import { openPlates } from '../../packages/server/src/promos/open-plates.ts';
import { decodeImage } from '../../packages/server/src/workers/index.ts';
import { openTitlePainter } from '../../packages/server/src/promos/title-fonts.ts';
import { expectPlayedAsAtRest, meanRed } from './assembled.ts';
import {
  choose,
  goTo,
  newCampaign,
  openPage,
  openStage,
  saved,
  searchFor,
  signIn,
  typeNumber,
  type Stage,
} from './harness.ts';

describe('effects, and a composite over their take', () => {
  let stage: Stage;
  let page: Page;
  let faults: string[];
  let campaign: string;
  let take: string;

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

  it('a take simulates it first, at the level that it is to have, and has it in its frames', async () => {
    await page.locator('.pick', { hasText: 'Smoke reveal' }).first().click();
    await choose(page.locator('[data-test=details] input[aria-label="Level of takes"]'), 'Coarse');
    expect((await documents()).set.effects[0]).include({ level: 'coarse' });
    await goTo(page, 'Composite');
    await page.locator('[data-test=simulates]', { hasText: 'Smoke reveal (coarse)' }).waitFor();
    const { id } = await page.evaluate(
      async ([shot]) => {
        const { csrfToken } = (await (await fetch('/api/session')).json()) as { csrfToken: string };
        const answer = await fetch('/api/takes', {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'x-csrf-token': csrfToken },
          body: JSON.stringify({ shot, quality: 'clay', width: 64, samples: 2, lights: true }),
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
    let made: TakeSummary | undefined;
    for (let tries = 0; tries < 300 && made?.state !== 'done'; tries++) {
      await page.waitForTimeout(1000);
      const answer = await page.request.get(`${stage.server.address}/api/campaigns/${campaign}/takes`);
      made = ((await answer.json()) as TakeSummary[]).find((t) => t.id === id);
      expect(made?.state).not.equal('failed');
    }
    expect(made?.done).length(10);
    take = id;
  });

  it('layers are put on the rack over the take', async () => {
    await page.locator('[data-test=take] .done').waitFor();
    for (const kind of ['repeater', 'specks', 'grade', 'lens', 'text'])
      await page.locator(`[data-test=layer-${kind}]`).click();
    await page.locator('[data-test=composite-viewer] [data-test=composite]').waitFor();
    const { shot } = await documents();
    expect(shot.layers.map((l) => l.kind)).deep.equal(['take', 'repeater', 'specks', 'grade', 'lens', 'text']);
  });

  it('discs scale up one after the other behind the product, by keys', async () => {
    await page.locator('[data-plate]', { hasText: 'Repeater' }).click();
    await page.locator('[data-test=layer-details]', { hasText: 'Growth' }).waitFor();
    await page.locator('[data-test=layer-details]').getByText('Behind the products').click();
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press('Home');
    await page.locator('[data-test=layer-details] [aria-label^="Key growth" i]').click();
    await typeNumber(page, 'Growth, %', '0', '[data-test=layer-details]');
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press('End');
    await typeNumber(page, 'Growth, %', '100', '[data-test=layer-details]');
    const { layers, tracks } = (await documents()).shot;
    const repeater = layers.find((l) => l.kind === 'repeater')!;
    expect(repeater.behind).equal(true);
    expect(tracks.find((t) => t.thing === repeater.id)!.keys.map((k) => [k.frame, k.value])).deep.equal([
      [0, 0],
      [9, 1],
    ]);
  });

  it('a film stands turned in space on the glass, with round corners', async () => {
    await page.locator('[data-test=layer-footage]').click();
    const file = join(stage.folder, 'heath.mp4');
    const colour = (of: string): string[] => ['-f', 'lavfi', '-i', `color=${of}:s=64x64:r=24:d=0.25`];
    const coding = ['-filter_complex', '[0][1]concat=n=2', '-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-y', file];
    execFileSync('ffmpeg', ['-v', 'error', ...colour('red'), ...colour('blue'), ...coding]);
    await page.locator('[data-test=footage-input] input').setInputFiles(file);
    await page.getByText('12 frames, 0.5 s').waitFor();
    await typeNumber(page, 'Turn, deg', '40', '[data-test=layer-details]');
    await typeNumber(page, 'Corners, %', '20', '[data-test=layer-details]');
    const { layers } = (await documents()).shot;
    const footage = layers.find((l) => l.kind === 'footage')!;
    expect(footage.film).contain({ frames: 12, rate: 24, name: 'heath.mp4' });
    expect([footage.turn, footage.corner]).deep.equal([40, 0.2]);
  });

  it('a table of colours is taken in, and one that is broken is told by its line', async () => {
    await page.locator('[data-test=layer-lut]').click();
    const input = page.locator('[data-test=cube-input] input');
    const give = (name: string, text: string): Promise<void> =>
      input.setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
    await give('broken.cube', 'LUT_3D_SIZE 2\n0 0 0\n1 0');
    await page.getByText(/line 3 needs three numbers/).waitFor();
    await give(
      'warm.cube',
      writeCube('Warm', 5, (rgb) => void (rgb[2] *= 0.6)),
    );
    await page.getByText('warm.cube (5 x 5 x 5)').waitFor();
    const { layers } = (await documents()).shot;
    expect(layers.at(-1)).contain({ kind: 'lut', title: 'warm.cube (5 x 5 x 5)', space: 'glass' });
  });

  it('a leaf goes around the box, where what is nearer hides it', async () => {
    await page.locator('[data-test=layer-shape]').click();
    const details = page.locator('[data-test=layer-details]');
    await details.getByRole('button', { name: 'In the set' }).click();
    await details.locator('[data-test=in-set] input').check();
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press('Home');
    await details.locator('[aria-label^="Key azimuth" i]').click();
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press('End');
    await typeNumber(page, 'Azimuth, deg', '360', '[data-test=layer-details]');
    const { shot, set } = await documents();
    const leaf = shot.layers.find((l) => l.kind === 'shape')!;
    expect(leaf).contain({ inSet: true, thing: set.products[0].id, facing: true });
    expect(shot.tracks.find((t) => t.thing === leaf.id && t.path === 'azimuth')!.keys).length(2);
  });

  it('a logo is brought as outlines and drawn on; what has none is told', async () => {
    await page.locator('[data-test=layer-logo]').click();
    const input = page.locator('[data-test=logo-file] input');
    const give = (name: string, inner: string): Promise<void> =>
      input.setInputFiles({
        ...{ name, mimeType: 'image/svg+xml' },
        buffer: Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 40">${inner}</svg>`),
      });
    await give('words.svg', '<text>honey</text>');
    await page.getByText(/"words.svg" holds no outlines/).waitFor();
    await give('comb.svg', '<path d="M5 5h20v20h-20z" fill="gold"/><circle cx="45" cy="20" r="10" fill="teal"/>');
    await page.getByText('comb.svg (2 outlines)').waitFor();
    await typeNumber(page, 'Drawn on, %', '70', '[data-test=layer-details]');
    expect((await documents()).shot.layers.find((l) => l.kind === 'logo')).contain({ drawn: 0.7, space: 'glass' });
  });

  it('two layers are grouped, looked into, and one is clipped to the other', async () => {
    const rack = page.locator('[data-test=plate-rack]');
    await page.locator('[data-test=layer-gradient]').click();
    await page.locator('[data-test=layer-vapour]').click();
    await rack.locator('[data-test=group]').click();
    const { layers } = (await documents()).shot;
    const group = layers.find((l) => l.kind === 'group')!;
    expect(layers.filter((l) => l.group === group.id).map((l) => l.kind)).deep.equal(['gradient', 'vapour']);
    await rack.locator('[data-test=open-group]').click();
    await rack.locator('[data-plate]').first().click();
    const details = page.locator('[data-test=layer-details]');
    await details.getByRole('button', { name: 'In the stack' }).click();
    await details.getByText('Clip to the layer below').click();
    await rack.locator('[data-test=leave-group]').click();
    expect((await documents()).shot.layers.find((l) => l.kind === 'vapour')!.clip).equal(true);
    await rack.locator('[data-plate]', { hasText: 'Group' }).click();
    await typeNumber(page, 'Opacity, %', '40', '[data-test=layer-details]');
  });

  it('a mask is drawn over the picture, by keys too', async () => {
    const details = page.locator('[data-test=layer-details]');
    await details.getByRole('button', { name: 'Mask and matte' }).click();
    await choose(details.getByRole('combobox', { name: 'Mask', exact: true }), 'Path');
    await details.locator('[data-test=draw-mask]').click();
    const point = page.locator('[data-test=path-point-1]');
    await point.focus();
    await page.keyboard.press('Shift+ArrowRight');
    const box = (await page.locator('[data-test=path-point-0]').boundingBox())!;
    await page.mouse.move(box.x + 5, box.y + 5);
    await page.mouse.down();
    await page.mouse.move(box.x + 5, box.y - 15, { steps: 3 });
    await page.mouse.up();
    const group = (await documents()).shot.layers.find((l) => l.kind === 'group')!;
    const [{ points }] = group.maskPath;
    expect(points[1].at[0]).closeTo(0.3, 1e-9);
    expect(points[0].at[1]).above(0.26);
  });

  it('a light of the take goes down by its fader on the light desk', async () => {
    await page.locator('[data-test=below-desk]').click();
    const fader = page.locator('[data-test^=fader-] [role=slider]').first();
    await fader.focus();
    for (let i = 0; i < 20; i++) await page.keyboard.press('ArrowDown');
    const { layers } = (await documents()).shot;
    const made = layers.find((l) => l.kind === 'fader')!;
    expect(made.level).closeTo(0.64, 0.02);
    expect(made.group).equal(layers.find((l) => l.kind === 'take')!.id);
    await page.locator('[data-test=below-rack]').click();
  });

  it('the picture is the one that the core composes, to the byte', async () => {
    const { shot, set } = await documents();
    const footage = shot.layers.find((l) => l.kind === 'footage')!;
    const key = filmFrame(footage, 9 / 24)!;
    const bring = async (hash: string): Promise<Buffer> =>
      (await page.request.get(`${stage.server.address}/api/assets/${hash}`)).body();
    const hash = (await bring(key.list)).toString().split('\n')[key.frame];
    const decoded = await decodeImage(await bring(hash), 'film');
    // Frame 10 of it is in its blue half.
    expect(key.frame).equal(9);
    expect(decoded.data[2]).above(200);
    const table = shot.layers.find((l) => l.kind === 'lut')!;
    const cubes = new Map([[table.asset, readCube((await bring(table.asset)).toString(), 'warm')]]);
    const films = new Map([[filmKey(key), { ...decoded, data: new Uint8ClampedArray(decoded.data) }]]);
    const painter = await openTitlePainter();
    const answer = await page.request.get(`${stage.server.address}/api/takes/${take}/frames/9/light`);
    const light = readLight(new Uint8Array(inflateSync(await answer.body())));
    const lights = await page.request.get(`${stage.server.address}/api/takes/${take}/frames/9/lights`);
    const parts = new Map([['', readLightParts(new Uint8Array(inflateSync(await lights.body())))]]);
    const logo = shot.layers.find((l) => l.kind === 'logo')!;
    const vectors = new Map([[logo.asset, readVector((await bring(logo.asset)).toString(), 'comb')]]);
    const wanted = composeShot(openPlates(), { shot, view: set.view }, 9, { num: 24, den: 1 }, light, {
      ...{ takes: new Map([['', light]]), parts, vectors, stills: new Map(), films, cubes, text: textDrawer(painter) },
    });
    painter.dispose();
    expect(Buffer.from(wanted.data).equals(await shown(9, 64))).equal(true);
  });

  it('the promo shows the composite where it uses the take', async () => {
    await goTo(page, 'Promo');
    await page.locator('[data-test=shelf-take]').first().click();
    await page.locator('[data-test=promo-canvas]').first().waitFor();
    const before = await meanRed(page);
    await goTo(page, 'Composite');
    await page.locator('[data-test=layer-solid]').click();
    await typeNumber(page, 'Opacity, %', '90', '[data-test=layer-details]');
    await goTo(page, 'Promo');
    while (!(Math.abs((await meanRed(page)) - before) > 5)) await page.waitForTimeout(100);
  });

  it('at rest all of its frames are made small, composites and all, and these are played', async () => {
    await page.waitForFunction(() => {
      const runs = [...document.querySelectorAll<HTMLElement>('.ruler .drawn')];
      return runs.reduce((sum, { style }) => sum + parseFloat(style.width), 0) > 99.5;
    });
    // Nearly all of the picture is the layer, which the take alone does not have.
    await expectPlayedAsAtRest(page, 3);
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

  it('honeycomb sweets are poured into a bowl by one press, and settle in it', async () => {
    await page.goto(stage.server.address);
    campaign = await newCampaign(page, 'Sweets');
    await goTo(page, 'Products');
    await page.click('[data-test=make-turned]');
    await page.getByText('Bowl', { exact: true }).click();
    await page.locator('[data-test=product-panel]').waitFor();
    await find('Put product on the set');
    await page.locator('[data-test=set-list]').waitFor();
    await goTo(page, 'Moves');
    await typeNumber(page, 'Shot length, f', '120', '[data-test=recipes]');
    await page.click('[data-test=effect-sweets]');
    await page.getByText(/They come in from frame/).waitFor();
    const { set, shot } = await documents();
    const sweets = set.products.filter((p) => p.name.startsWith('Honey sweet'));
    expect(sweets).length(24);
    const last = (thing: string, path: string): number =>
      shot.tracks.find((t) => t.thing === thing && t.path === path)!.keys.at(-1)!.value as number;
    const [bowl] = set.products;
    const inside = sweets.filter(({ id }) => {
      const [x, z] = [last(id, 'position.0') - bowl.position[0], last(id, 'position.2') - bowl.position[2]];
      return Math.hypot(x, z) < 0.075;
    });
    expect(inside.length).above(18);
    // One undo takes them off again.
    await page.keyboard.press('Control+z');
    expect((await documents()).set.products).length(1);
  });

  it('the bowl breaks at a frame into pieces that are a product of their own, in one step', async () => {
    await find('Shatter');
    const dialog = '[data-test=shatter-dialog]';
    await page.locator(dialog).waitFor();
    await typeNumber(page, 'Pieces', '8', dialog);
    await typeNumber(page, 'Struck at, f', '20', dialog);
    await page.click('[data-test=shatter-run]');
    await page.locator(dialog).waitFor({ state: 'hidden' });
    const { set, shot } = await documents();
    const [bowl, pieces] = set.products;
    const seen = (thing: string): unknown[] =>
      shot.tracks
        .find((t) => t.thing === thing && t.path === 'visible')!
        .keys.map(({ frame, value }) => [frame, value]);
    expect(seen(bowl.id).at(-1)).deep.equal([19, false]);
    expect(seen(pieces.id).at(-1)).deep.equal([19, true]);
    const moved = new Set(shot.tracks.filter((t) => t.thing === pieces.id).map((t) => t.path.split('.')[2]));
    expect(moved.size).above(7);
    // Its model is stored: Products shows it.
    await goTo(page, 'Products');
    await page.getByText('Bowl in pieces').first().waitFor();
    await goTo(page, 'Moves');
    await page.keyboard.press('Control+z');
    expect((await documents()).set.products).length(1);
    // Struck again, the product of the first try is used again.
    await find('Shatter');
    await page.locator(dialog).waitFor();
    await typeNumber(page, 'Pieces', '5', dialog);
    await page.click('[data-test=shatter-run]');
    await page.locator(dialog).waitFor({ state: 'hidden' });
    expect((await documents()).set.products[1].product).equal(pieces.product);
    await goTo(page, 'Products');
    expect(await page.getByText('Bowl in pieces', { exact: true }).count()).equal(1);
  });
});
