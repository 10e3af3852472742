import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import type { Page } from 'playwright-core';
import type { PromoDocument, SetDocument, ShotDocument } from '@tender-orbit/core/document';
import { expectAssembled, takeFrameBytes } from './assembled.ts';
import { addOverlayAndSound, makeMusic, moveAndGrade, slowCompensated, slowMotion, toFrame } from './promo-steps.ts';
import { compareWithTake, meanVolume } from './delivered.ts';
import {
  choose,
  goTo,
  newCampaign,
  openPage,
  openStage,
  PERSON,
  saved,
  signIn,
  typeNumber,
  type Stage,
} from './harness.ts';

const FRAMES = 6;

interface Bundle {
  sets: Array<{
    document: {
      products: Array<{ seated: boolean; position: number[] }>;
      lights: Array<{ id: string; lumens: number; shape: string; position: number[]; aim: number[] }>;
      surfaces: Array<{ kind: string }>;
      view: SetDocument['view'];
    };
  }>;
  shots: Array<{
    document: ShotDocument;
  }>;
  promos: Array<{ document: PromoDocument }>;
  takes: Array<{ id: string; done: number[]; width: number; times: number[] | null }>;
}

describe('journey: from a model file to a promo video', () => {
  let stage: Stage;
  let page: Page;
  let faults: string[];
  let campaign: string;
  const bundle = (): Promise<Bundle> =>
    page.evaluate(async (id) => (await fetch(`/api/campaigns/${id}`)).json(), campaign) as Promise<Bundle>;

  before(async () => {
    stage = await openStage();
    ({ page, faults } = await openPage(stage));
  });
  after(() => stage?.stop());
  afterEach(() => expect(faults, faults.join('\n')).deep.equal([]));

  it('signs in, after a clear word on a wrong password', async () => {
    await page.goto(stage.server.address);
    await page.waitForURL(/sign-in/);
    await page.fill('[name=email]', PERSON.email);
    await page.fill('[name=password]', 'guess');
    await page.click('button[type=submit]');
    expect(await page.getByRole('alert').textContent()).equal('E-mail address and password do not match.');
    await signIn(page, stage.server.address);
  });

  it('starts a campaign', async () => {
    campaign = await newCampaign(page, 'Journey');
    await page.locator('[data-test=campaign-name]').getByText('Journey').waitFor();
  });

  it('a change of picture size in the brief takes the promo with it', async () => {
    for (const [label, width] of [
      ['Square 1:1, 1080 x 1080', 1080],
      ['Wide 16:9, 960 x 540', 960],
    ] as const) {
      await choose(page.locator('section[aria-label=Brief]').getByLabel('Picture size'), label);
      // It may be saved before one could see that it was not.
      let stored = 0;
      for (let tries = 0; tries < 150 && stored !== width; tries++) {
        stored = (await bundle()).promos[0].document.width;
        await page.waitForTimeout(200);
      }
      expect(stored).equal(width);
    }
  });

  it('imports a model and sees its parts, finishes, triangles and size', async () => {
    await goTo(page, 'Products');
    await page.locator('[data-test=model-input] input').setInputFiles(stage.files.jar);
    const panel = page.locator('[data-test=product-panel]');
    await panel.waitFor();
    for (const part of ['Glass', 'Honey', 'Label', 'Lid'])
      await panel.getByText(part, { exact: true }).first().waitFor();
    expect(await page.locator('[aria-label=Product]').textContent())
      .match(/6\.8 x 9\.2 x 6\.8 cm/)
      .match(/43,648 triangles/);
    expect(Number(await panel.getByRole('textbox', { name: 'Height, cm' }).inputValue())).closeTo(9.19, 0.02);
    await page.waitForFunction(
      () => Number((document.querySelector('[data-test=product-canvas]') as HTMLElement).dataset.drawn) > 0,
    );
  });

  it('corrects the real size and takes it back', async () => {
    await typeNumber(page, 'Height, cm', '18.38', '[data-test=product-panel]');
    const viewer = page.getByRole('region', { name: 'Product', exact: true });
    await viewer.getByText(/1[0-9.]+ x 18.4 x 1[0-9.]+ cm/).waitFor();
    await page.getByRole('button', { name: /Undo Set real size/ }).click();
    await viewer.getByText('6.8 x 9.2 x 6.8 cm').waitFor();
  });

  it('stands it in the lit studio, seated, and the viewer shows it', async () => {
    await page.click('[data-test=to-set]');
    await page.waitForURL(/\/set$/);
    await page.locator('[data-test=set-list]').getByText('Honey jar').waitFor();
    expect(await page.locator('[data-test=seat]').textContent()).equal('Seated');
    await page.waitForFunction(
      () => Number((document.querySelector('[data-test=stage]') as HTMLElement).dataset.drawn) > 1,
    );
    await saved(page);
    const { products } = (await bundle()).sets[0].document;
    expect(products[0]).deep.include({ seated: true, position: [0, 0, 0] });
  });

  it('draws nothing while nothing changes', async () => {
    const drawn = (): Promise<number> =>
      page.evaluate(() => Number((document.querySelector('[data-test=stage]') as HTMLElement).dataset.drawn));
    await page.waitForTimeout(2500);
    const before = await drawn();
    await page.waitForTimeout(1500);
    expect(await drawn()).equal(before);
  });

  it('changes a light by its number and moves one on the orbit plan by keyboard', async () => {
    await page.locator('[data-test=set-list]').getByText('Key', { exact: true }).click();
    await typeNumber(page, 'Power, lm', '1500*2', '[data-test=details]');
    const lightOf = async (id: string) => (await bundle()).sets[0].document.lights.find((l) => l.id === id)!;
    const before = await lightOf('rim');
    const plan = page.locator('[data-test=orbit-plan] [data-spot=rim]');
    await plan.focus();
    await plan.press('ArrowRight');
    await plan.press('Alt+ArrowUp');
    await saved(page);
    expect((await lightOf('key')).lumens).equal(3000);
    const after = await lightOf('rim');
    const round = ([x, , z]: readonly number[]): number => (Math.atan2(x, z) * 180) / Math.PI;
    const high = ([x, y, z]: readonly number[]): number => (Math.atan2(y, Math.hypot(x, z)) * 180) / Math.PI;
    expect(Math.abs(round(after.position) - round(before.position))).closeTo(2, 0.1);
    expect(high(after.position) - high(before.position)).closeTo(2, 0.1);
    expect(Math.hypot(...after.position)).closeTo(Math.hypot(...before.position), 0.01);
  });

  it('places the highlight of a light by a click in the viewer, as one step', async () => {
    const light = async () => (await bundle()).sets[0].document.lights.find((l) => l.id === 'key')!;
    const before = await light();
    await page.locator('[data-test=set-list]').getByText('Key', { exact: true }).click();
    await page.click('[data-test=place-highlight]');
    const box = (await page.locator('[data-test=stage]').boundingBox())!;
    // On the floor before the product: from there the mirror image lies above the floor in any case.
    await page.mouse.click(box.x + box.width * 0.3, box.y + box.height * 0.93);
    await saved(page);
    const after = await light();
    expect(after.aim).not.deep.equal(before.aim);
    const reach = ({ position, aim }: typeof after): number => Math.hypot(...position.map((v, a) => v - aim[a]));
    expect(reach(after)).closeTo(reach(before), 0.001);
    await page.getByRole('button', { name: /Undo Place highlight/ }).click();
    await saved(page);
    expect((await light()).position).deep.equal(before.position);
  });

  it('gives a light another shape, and puts a flag on the set that the orbit plan shows', async () => {
    await page.locator('[data-test=set-list]').getByText('Rim', { exact: true }).click();
    await choose(page.getByRole('combobox', { name: 'Shape' }), 'Spot');
    await page.getByRole('textbox', { name: 'Beam, deg' }).waitFor();
    await page.getByRole('button', { name: 'Add to Surfaces' }).click();
    await page.getByText('Flag', { exact: true }).click();
    await page.locator('[data-test=orbit-plan] [data-spot^=flag], [data-test=orbit-plan] .mark.bar').first().waitFor();
    await saved(page);
    const { lights, surfaces } = (await bundle()).sets[0].document;
    expect(lights.find((l) => l.id === 'rim')!.shape).equal('spot');
    expect(surfaces.map((s) => s.kind)).deep.equal(['sweep', 'card']);
    await page.getByRole('button', { name: /Undo Add flag/ }).click();
    await page.getByRole('button', { name: /Undo Change shape/ }).click();
    await saved(page);
  });

  it('traces the set in the viewer, anew after a change', async () => {
    await page.getByRole('radio', { name: 'Traced' }).click();
    const traced = page.locator('[data-test=traced]');
    const samples = (): Promise<number> => traced.getAttribute('data-samples').then(Number);
    await page.waitForFunction(
      () => Number((document.querySelector('[data-test=traced]') as HTMLElement)?.dataset.samples) > 1,
    );
    const picture = (): Promise<number[]> =>
      traced.evaluate((canvas: HTMLCanvasElement) => {
        const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
        const mean = data.reduce((n, v) => n + v, 0) / data.length;
        return [mean, Math.sqrt(data.reduce((n, v) => n + (v - mean) ** 2, 0) / data.length)];
      });
    const [mean, spread] = await picture();
    expect(spread).above(20);
    await page.locator('[data-test=set-list]').getByText('Room', { exact: true }).click();
    await typeNumber(page, 'Brightness, cd', '900', '[data-test=details]');
    await page.waitForFunction((before) => {
      const canvas = document.querySelector('[data-test=traced]') as HTMLCanvasElement;
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
      return data.reduce((n, v) => n + v, 0) / data.length > before + 5;
    }, mean);
    expect(await samples()).above(0);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /Undo Change brightness/ }).click();
    await page.getByRole('radio', { name: 'Lit' }).click();
  });

  it('carries a light round the product on the orbit plan, and takes it back as one step', async () => {
    const spot = page.locator('[data-test=orbit-plan] [data-spot=fill]');
    const box = (await spot.locator('circle').boundingBox())!;
    const across = async (): Promise<number> =>
      Number(await page.getByRole('textbox', { name: 'Across, cm' }).first().inputValue());
    await spot.focus();
    await spot.press('Enter');
    const before = await across();
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x - 60, box.y + 10, { steps: 5 });
    await page.mouse.up();
    expect(await across()).below(before - 10);
    await page.keyboard.press('Control+z');
    await page.waitForFunction(
      (wanted) =>
        Number((document.querySelector('input[aria-label="Across, cm"]') as HTMLInputElement).value) === wanted,
      before,
    );
  });

  it('gives it a turntable and a keyed focal length, and moves a bead', async () => {
    await goTo(page, 'Moves');
    await typeNumber(page, 'Shot length, f', String(FRAMES), '[data-test=recipes]');
    await page.click('[data-test=recipe-turntable]');
    await page.click('[data-test=recipe-push-in]');
    await page.getByRole('button', { name: /^Recipe Push-in, frames 1 to / }).waitFor();
    await page.getByRole('button', { name: 'Key Focal length' }).click();
    const single = page.getByRole('button', { name: /Key of focal length at frame 1/ });
    await single.focus();
    await single.press('ArrowRight');
    await page.getByRole('button', { name: /Key of focal length at frame 2/ }).waitFor();
    await choose(page.locator('[data-test=ease]'), 'Hold');
    await saved(page);
    const { tracks, recipes, length } = (await bundle()).shots[0].document;
    expect(length).equal(FRAMES);
    expect(recipes.map((r) => r.kind)).deep.equal(['turntable', 'push-in']);
    expect(tracks.find((t) => t.path === 'focalLength')!.keys).deep.equal([{ frame: 1, value: 85, ease: 'hold' }]);
  });

  it('scrubs and plays', async () => {
    const frame = (): Promise<number> => page.locator('[data-test=ruler]').getAttribute('aria-valuenow').then(Number);
    await page.locator('[data-test=ruler]').focus();
    await page.keyboard.press('End');
    expect(await frame()).equal(FRAMES - 1);
    await page.keyboard.press('Home');
    await page.getByRole('button', { name: 'Play' }).click();
    await page.waitForFunction(
      () => document.querySelector('[data-test=ruler]')!.getAttribute('aria-valuenow') !== '0',
    );
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
  });

  it('renders a take on the server, frame by frame, after an estimate', async () => {
    await goTo(page, 'Composite');
    const panel = page.locator('[data-test=new-take]');
    await panel.getByRole('radio', { name: 'draft' }).click();
    await panel.getByRole('radio', { name: '25%' }).click();
    await typeNumber(page, 'Samples', '4', '[data-test=new-take]');
    await page.waitForFunction(() => /about/.test(document.querySelector('[data-test=estimate]')?.textContent ?? ''));
    await page.click('[data-test=start-take]');
    await page.locator('[data-test=take]').waitFor();
    await page.locator('[data-test=take-frame]').waitFor();
    await page.locator('[data-test=take] .done').waitFor();
    const [take] = (await bundle()).takes;
    expect(take.done).length(FRAMES);
    const stats = await sharp(await frameBytes(take.id, 2)).stats();
    expect(Math.max(...stats.channels.map((c) => c.stdev))).above(12);
  });

  const frameBytes = (take: string, frame: number): Promise<Buffer> => takeFrameBytes(page, take, frame);

  it('puts a title and music on it; the preview is the picture that the core assembles, to the byte', async () => {
    await goTo(page, 'Promo');
    await page.locator('[data-test=shelf-take]').first().click();
    await page.click('[data-test=add-title]');
    await page.locator('[data-test=title-text] textarea').first().fill('Slow as the hill');
    await page.locator('[data-test=music-input] input').setInputFiles(stage.files.music);
    await page.locator('[data-test=promo-timeline]').getByText('tune.wav').waitFor();
    await saved(page);
    await toFrame(page, 4);
    await showsWhatIsAssembled(4);
  });

  /** @param composed whether takes are shown through the composite of their shot. */
  async function showsWhatIsAssembled(frame: number, composed = false): Promise<void> {
    const { promos, takes, shots, sets } = await bundle();
    const take = takes.find(({ times }) => times === null)!;
    const composite = { shot: shots[0].document, view: sets[0].document.view };
    await expectAssembled(page, promos[0].document, take, frame, composed ? { [take.id]: composite } : {});
  }

  it('is cut on beats with a transition, which the preview shows to the byte; then that is undone', async () => {
    const before = (await bundle()).promos[0].document;
    await page.getByRole('button', { name: 'Music tune.wav' }).click();
    await typeNumber(page, /^Tempo/, '240', '[data-test=promo-details]');
    await page.click('[data-test=open-cut]');
    const dialog = page.getByRole('dialog', { name: 'Cut on beats' });
    await choose(dialog.getByRole('combobox', { name: 'Cuts at' }), 'every beat');
    await typeNumber(page, /^Length/, '1', '[data-test=cut-on-beats]');
    await page.click('[data-test=cut]');
    const clips = page.locator('[data-test=clip]');
    await clips.nth(1).focus();
    await page.keyboard.press('Enter');
    await choose(page.getByRole('combobox', { name: 'Comes by' }), 'whip');
    await saved(page);
    const [first, second] = (await bundle()).promos[0].document.clips;
    // Four beats a second at 24 frames.
    expect(first.length).equal(6);
    expect(second.into).include({ kind: 'whip', frames: 3 });
    await toFrame(page, 6);
    await showsWhatIsAssembled(6);
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
    await page.waitForFunction(() => document.querySelectorAll('[data-test=clip]').length === 1);
    await saved(page);
    expect((await bundle()).promos[0].document).deep.equal(before);
  });

  it('a picture is laid over it, which the preview shows to the byte, and a sound of the kit on a beat', async () => {
    await addOverlayAndSound(page, 2, bundle);
    await toFrame(page, 5);
    await showsWhatIsAssembled(5);
  });

  it('its picture is turned, pushed and covered, and layers lie over it, which the preview shows to the byte', async () => {
    const before = (await bundle()).promos[0].document;
    await moveAndGrade(page, bundle);
    await toFrame(page, 5);
    await showsWhatIsAssembled(5);
    for (let i = 0; i < 5; i++) await page.keyboard.press('Control+z');
    await page.locator('[data-test=layer]').first().waitFor({ state: 'detached' });
    await saved(page);
    expect((await bundle()).promos[0].document).deep.equal(before);
  });

  it('is slowed, its in-betweens rendered at their own times, which the preview shows to the byte', async () => {
    await slowMotion(page, bundle);
    await showsWhatIsAssembled(1);
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
    await saved(page);
    expect((await bundle()).promos[0].document.clips[0]).not.property('pace');
  });

  it('in-betweens are motion-compensated, which the preview shows to the byte', async () => {
    await slowCompensated(page);
    await showsWhatIsAssembled(1, true);
    for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z');
    await saved(page);
    expect((await bundle()).promos[0].document.clips[0]).not.property('pace');
  });

  it('gets music that is made for it, whose beats are known', async () => {
    await makeMusic(page, bundle);
  });

  it('plays the promo in time with its sound', async () => {
    await page.locator('[data-test=ruler]').focus();
    await page.keyboard.press('Home');
    await page.getByRole('button', { name: 'Play' }).click();
    await page.waitForFunction(
      () => document.querySelector('[data-test=ruler]')!.getAttribute('aria-valuenow') === '5',
    );
  });

  it('has everything after a reload', async () => {
    await saved(page);
    const before = await bundle();
    await page.reload();
    await page.locator('[data-test=clip]').waitFor();
    await page.locator('[data-test=title]').getByText('Slow as the hill').waitFor();
    expect(await bundle()).deep.equal(before);
  });

  it('delivers an MP4 that ffprobe confirms and that shows the product', async () => {
    await goTo(page, 'Release');
    await page.click('[data-test=deliver]');
    await page.locator('[data-test=delivery][data-state=done]').waitFor();
    const [download] = await Promise.all([page.waitForEvent('download'), page.click('[data-test=download]')]);
    const path = join(stage.folder, 'journey.mp4');
    await download.saveAs(path);
    expect(download.suggestedFilename()).equal('Journey promo.mp4');
    const { streams } = JSON.parse(
      execFileSync('ffprobe', ['-v', 'error', '-count_frames', '-show_streams', '-of', 'json', path]).toString(),
    ) as { streams: Array<Record<string, string>> };
    const video = streams.find((s) => s.codec_type === 'video')!;
    expect(video).include({
      codec_name: 'h264',
      nb_read_frames: String(FRAMES),
      r_frame_rate: '24/1',
      color_space: 'bt709',
    });
    expect([video.width, video.height]).deep.equal([960, 540]);
    expect(streams.find((s) => s.codec_type === 'audio')).include({ codec_name: 'aac', sample_rate: '48000' });
    const take = (await bundle()).takes.find(({ times }) => times === null)!;
    await compareWithTake(path, await frameBytes(take.id, 4));
    expect(meanVolume(path)).above(-40);
  });

  it('brings back an earlier revision', async () => {
    await page.locator('[data-test=save-state]').click();
    const dialog = page.locator('[data-test=history]');
    await choose(dialog.getByRole('combobox', { name: 'Document' }), 'Set: Studio');
    await dialog.getByText('Create set').waitFor();
    await dialog.getByRole('button', { name: 'Bring back' }).last().click();
    await page.getByText(/Revision 1 is back/).waitFor();
    expect((await bundle()).sets[0].document.products).deep.equal([]);
  });
});
