import './page.ts';
import { expect } from 'chai';
import { defineComponent, h } from 'vue';
import { newKitSound, newPromo, newTitle, type PromoDocument } from '@tender-orbit/core/document';
import ClipDetails from '../../src/promo/ClipDetails.vue';
import CutShelf from '../../src/promo/CutShelf.vue';
import CutSwitch from '../../src/promo/CutSwitch.vue';
import OverlayDetails from '../../src/promo/OverlayDetails.vue';
import { sizeIn, useCuts } from '../../src/promo/use-cuts.ts';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useCampaign } from '../../src/stores/index.ts';
import ReleaseStation from '../../src/release/ReleaseStation.vue';
import { question } from '../../src/ui/confirm.ts';
import { choose, clearPage, fromMenu, rest, setNumber, type show } from './mounted.ts';
import { heldWorkers } from './held-workers.ts';
import { asked, openCampaign, panel } from './open-campaign.ts';
import type { FitReply, FitRequest } from '../../src/workers/title-worker.ts';

/** Opens the menu of cuts and takes a line of it. */
async function take(menu: ReturnType<typeof show>, title: string): Promise<void> {
  await menu.find('button').trigger('click');
  await rest();
  [...document.querySelectorAll<HTMLElement>('.v-list-item')]
    .filter((line) => line.textContent!.trim().startsWith(title))
    .at(-1)!
    .click();
  await rest();
}
const cuts = (): string[] => useCampaign().promoIds;

describe('promo: cuts', () => {
  const real = globalThis.fetch;
  const worker = heldWorkers<FitRequest, FitReply>();
  beforeEach(async () => {
    const promos = [newPromo('Launch 16x9', 960, 540), newPromo('Teaser', 600, 600)];
    const none = Object.fromEntries(
      ['takes', 'deliveries', 'simulation-runs'].map((path) => [`GET /api/campaigns/c/${path}`, []]),
    );
    await openCampaign(none, { promos: promos.map((document, n) => ({ id: `promo${n}`, revision: 1, document })) });
    usePromo().run({
      label: 'Fill',
      run: (promo) => {
        promo.clips.push({ id: 'a', take: '', start: 0, length: 48 });
        promo.titles.push(newTitle('t', { text: 'Slow', x: 0.99 }));
      },
    });
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('another one is taken in hand, and edits go there', async () => {
    const menu = panel(CutSwitch);
    await take(menu, 'Teaser');
    expect(useCampaign().promo!.name).equal('Teaser');
    usePromo().addTitle();
    expect(useCampaign().promo!.titles).length(1);
    expect(useCampaign().promo!.titles[0].text).not.equal('Slow');
  });

  it('a copy in another proportion is made, saved and taken in hand', async () => {
    const menu = panel(CutSwitch);
    await take(menu, 'Copy to 9:16, the crop follows the product');
    await worker.asked();
    const { after, key } = worker.requests.at(-1)!;
    // Its titles come back as the worker has fitted them.
    worker.reply({ key, titles: after.titles.map((title) => ({ ...title, x: 0.5 })) });
    await rest(100);
    const [, , body] = asked.find(([method, path]) => method === 'POST' && path.endsWith('/promos'))!;
    expect(body).include({ name: 'Launch 9x16', width: 540, height: 960 });
    const made = body as PromoDocument;
    expect(made.clips[0]).deep.include({ fill: 'cropped', length: 48 });
    expect(made.titles[0]).include({ text: 'Slow', x: 0.5 });
    expect(after.titles[0].x).equal(0.94);
    expect(cuts()).deep.equal(['promo0', 'promo1', 'made']);
    expect(useCampaign().promo!.name).equal('Launch 9x16');
  });

  it('one is deleted after a question, never the last', async () => {
    const menu = panel(CutSwitch);
    await take(menu, 'Delete this cut');
    expect(question.value!.title).equal('Delete "Launch 16x9"?');
    question.value!.answer(false);
    await rest();
    expect(cuts()).length(2);
    await take(menu, 'Delete this cut');
    question.value!.answer(true);
    await rest();
    expect(cuts()).deep.equal(['promo1']);
    expect(asked.at(-1)!.slice(0, 2)).deep.equal(['DELETE', '/api/documents/promo/promo0']);
    expect(useCampaign().promo!.name).equal('Teaser');
  });

  it('one is shown in another: at the end, over the picture, never in what it shows itself', async () => {
    usePromo().run({ label: 'Title', run: (promo) => void promo.titles.push(newTitle('u', { start: 0, length: 30 })) });
    await take(panel(CutSwitch), 'Teaser');
    const shelf = panel(CutShelf);
    const card = shelf.find('[data-test=shelf-cut]');
    expect(card.text()).contain('Launch 16x9').contain('2.0 s');
    await card.trigger('click');
    await fromMenu(card, 'Lay over the picture');
    const { clips, overlays } = useCampaign().promo!;
    expect(clips[0]).include({ take: 'promo0', start: 0, length: 48 });
    expect(overlays[0]).include({ footage: 'promo0', speed: 1 });
    expect(Object.keys(useCampaign().cuts)).deep.equal(['promo0']);

    const details = panel(ClipDetails, { clip: clips[0] });
    expect(details.find('h2').text()).equal('Launch 16x9');
    // There is nothing to be heard in it.
    expect(details.find('[data-test=own-sound]').exists()).equal(false);
    await details.find('[data-test=open-cut]').trigger('click');
    expect(useCampaign().promo!.name).equal('Launch 16x9');
    await rest();
    // The other way round there would be no end.
    const back = shelf.find('[data-test=shelf-cut]');
    expect(back.text()).contain('Teaser');
    expect(back.attributes('aria-disabled')).equal('true');
    // What is deleted is said to be seen there.
    await take(panel(CutSwitch), 'Delete this cut');
    expect(question.value!.text).contain('in "Teaser", there will be black');
    question.value!.answer(false);
  });

  it('one that has sounds is heard where it is shown, until that is taken away', async () => {
    usePromo().run({ label: 'Hit', run: (promo) => void promo.sounds.push(newKitSound('h', 'hit', 6)) });
    await take(panel(CutSwitch), 'Teaser');
    const card = panel(CutShelf).find('[data-test=shelf-cut]');
    await card.trigger('click');
    await fromMenu(card, 'Lay over the picture');
    const now = (): PromoDocument => useCampaign().promo!;
    expect(now().clips[0].sound).deep.equal({ gain: 0, pitch: 'kept' });
    expect(now().overlays[0].sound).deep.equal({ gain: 0, pitch: 'kept' });
    const Details = defineComponent(() => () => [
      h(ClipDetails, { clip: now().clips[0] }),
      h(OverlayDetails, { overlay: now().overlays[0] }),
    ]);
    const details = panel(Details);
    await setNumber(details, 'Gain, dB', '-6');
    await choose(details, 'Pitch', 'Follows the speed');
    expect(now().clips[0].sound).deep.equal({ gain: -6, pitch: 'follows' });
    for (const field of details.findAll('[data-test=own-sound] input')) await field.setValue(false);
    await rest();
    expect(now().clips[0]).not.property('sound');
    expect(now().overlays[0]).not.property('sound');
    expect(details.find('[aria-label="Gain, dB"]').exists()).equal(false);
  });

  it('one is made of the clips that are chosen, and shown in their place', async () => {
    const work = usePromo();
    work.run({
      label: 'More',
      run: (promo) =>
        void promo.clips.push({ id: 'b', take: '', start: 0, length: 12 }, { id: 'c', take: '', start: 0, length: 9 }),
    });
    work.choose({ kind: 'clip', id: 'a' });
    work.alsoChosen.value = new Set(['b']);
    await useCuts().nest();
    const [, , body] = asked.find(([method, path]) => method === 'POST' && path.endsWith('/promos'))!;
    expect((body as PromoDocument).clips.map(({ id }) => id)).deep.equal(['a', 'b']);
    expect((body as PromoDocument).name).equal('Launch 16x9 part');
    const [nested, rest] = useCampaign().promo!.clips;
    expect(nested).include({ take: 'made', start: 0, length: 60 });
    expect(rest.id).equal('c');
    expect(work.chosen.value).deep.equal({ kind: 'clip', id: nested.id });
    expect(work.sourceOf('made')).deep.equal({ name: 'Launch 16x9 part', length: 60 });
  });

  it('files are made of the cut in hand, or of all of them', async () => {
    const release = panel(ReleaseStation);
    const made = (): string[] =>
      asked.flatMap(([method, path]) =>
        method === 'POST' && path.endsWith('/deliveries') ? [path.split('/')[3]] : [],
      );
    await choose(release, 'Cut', 'Teaser');
    expect(useCampaign().promo!.name).equal('Teaser');
    await choose(release, 'Cut', 'Launch 16x9');
    await release.find('[data-test=deliver]').trigger('click');
    await rest(100);
    expect(made()).deep.equal(['promo0']);
    await release.find('[data-test=deliver-all]').trigger('click');
    await rest(100);
    expect(made()).deep.equal(['promo0', 'promo0', 'promo1']);
  });

  it('sizes keep the shorter side and are even', () => {
    expect(sizeIn({ wide: 9, high: 16 }, 1920, 1080)).deep.equal({ width: 1080, height: 1920 });
    expect(sizeIn({ wide: 4, high: 5 }, 1920, 1080)).deep.equal({ width: 1080, height: 1350 });
    expect(sizeIn({ wide: 16, high: 9 }, 540, 960)).deep.equal({ width: 960, height: 540 });
    expect(sizeIn({ wide: 9, high: 16 }, 4000, 3000)).deep.equal({ width: 2304, height: 4096 });
  });
});
