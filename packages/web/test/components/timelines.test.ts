import './page.ts';
import { expect } from 'chai';
import { addClip, addTitle, bringMusic, changeMusic, newTitle, type PromoDocument } from '@tender-orbit/core/document';
import { ref } from 'vue';
import { useActions } from '../../src/actions/index.ts';
import type { TakeSummary } from '../../src/api/index.ts';
import ScrubLine from '../../src/controls/ScrubLine.vue';
import MovesTimeline from '../../src/moves/MovesTimeline.vue';
import { useKeySelection } from '../../src/moves/use-key-selection.ts';
import ClipDetails from '../../src/promo/ClipDetails.vue';
import MusicDetails from '../../src/promo/MusicDetails.vue';
import PromoDetails from '../../src/promo/PromoDetails.vue';
import PromoTimeline from '../../src/promo/PromoTimeline.vue';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useCampaign, useDocuments, usePlayhead, useStage } from '../../src/stores/index.ts';
import TimeRuler from '../../src/timeline/TimeRuler.vue';
import { choose, clearPage, drag, fromMenu, layOut, rest, show } from './mounted.ts';
import { openCampaign, panel, turning } from './open-campaign.ts';

type Wrapper = ReturnType<typeof show>;
const real = globalThis.fetch;
const promo = (): PromoDocument => useCampaign().promo!;
const take = (id: string, name: string): TakeSummary => ({
  ...{ id, shot: 'shot', name, quality: 'draft', width: 64, height: 36, length: 48, state: 'done' },
  ...{ error: null, done: Array.from({ length: 48 }, (_, i) => i), secondsPerFrame: 1, secondsLeft: null },
  ...{
    frames: null,
    times: null,
    passes: false,
    lights: false,
    bytes: 0,
    failed: [],
    createdAt: '2026-01-01T00:00:00Z',
  },
});

const run: ReturnType<typeof usePromo>['run'] = (command) => usePromo().run(command);

describe('time lines', () => {
  beforeEach(async () => {
    await openCampaign({}, { takes: [take('t1', 'Take 1'), take('t2', 'Take 2')] });
    usePromo().chosen.value = null;
    usePromo().frame.value = 0;
    useKeySelection().clear();
    usePlayhead().seek(0, 48);
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  describe('playheads', () => {
    it('of the shot goes by keys, not past its ends, and leaves other keys alone', async () => {
      const scrub = panel(ScrubLine).find('[role=slider]');
      const after = async (key: string): Promise<number> => {
        await scrub.trigger('keydown', { key });
        return usePlayhead().frame;
      };
      expect(await after('ArrowRight')).equal(1);
      expect(await after('PageDown')).equal(11);
      expect(await after('PageUp')).equal(1);
      expect(await after('ArrowLeft')).equal(0);
      expect(await after('ArrowLeft')).equal(0);
      expect(await after('End')).equal(47);
      expect(await after('ArrowRight')).equal(47);
      expect(await after('x')).equal(47);
      expect(await after('Home')).equal(0);
      expect(scrub.attributes('aria-valuemax')).equal('47');
    });

    it('of the shot goes where it is dragged to', async () => {
      const line = panel(ScrubLine);
      layOut(line, 'svg.line', 470);
      await line.find('svg.line').trigger('pointerdown', { buttons: 1, clientX: 100 });
      expect(usePlayhead().frame).equal(10);
      await line.find('svg.line').trigger('pointermove', { buttons: 0, clientX: 300 });
      expect(usePlayhead().frame).equal(10);
      await line.find('svg.line').trigger('pointermove', { buttons: 1, clientX: 900 });
      expect(usePlayhead().frame).equal(47);
    });

    it('a ruler counts seconds, and bars where there is a beat', async () => {
      const grid = { tempo: 120, firstBeat: 0, beatsPerBar: 4 };
      const ruler = show(
        TimeRuler as never,
        {
          props: { length: 96, rate: { num: 24, den: 1 }, grid: null, frame: 12 },
        } as never,
      );
      const words = (of: string): string[] => ruler.findAll(of).map((e) => e.text());
      expect(words('.second')).deep.equal(['0 s', '0.5 s', '1 s', '1.5 s', '2 s', '2.5 s', '3 s', '3.5 s']);
      expect(words('.bar')).deep.equal([]);
      await ruler.setProps({ grid } as never);
      expect(words('.bar:not(.minor)')).deep.equal(['bar 1', 'bar 2']);
      expect(words('.minor')).deep.equal(['.2', '.3', '.4', '.2', '.3', '.4']);
      await ruler.find('[role=slider]').trigger('keydown', { key: 'PageDown' });
      await ruler.find('[role=slider]').trigger('keydown', { key: 'a' });
      expect(ruler.emitted('seek')).deep.equal([[22]]);
    });
  });

  describe('of the moves', () => {
    const keys = (): number[] => useCampaign().shot!.tracks[0].keys.map((k) => k.frame);
    const bead = (line: Wrapper, i: number) => line.findAll('[data-test=bead]')[i];

    beforeEach(() => {
      const [item] = useCampaign().set!.products;
      useDocuments().run('shot', 'shot', turning(item.id));
    });

    it('names each thread, whose keys are chosen, moved and deleted by keys', async () => {
      const line = panel(MovesTimeline);
      expect(line.find('.label').text()).match(/^Jar/);
      expect(keys()).deep.equal([0, 48]);
      await bead(line, 1).trigger('keydown', { key: 'ArrowLeft' });
      await bead(line, 1).trigger('keydown', { key: 'ArrowLeft' });
      expect(keys()).deep.equal([0, 46]);
      expect(bead(line, 1).attributes('aria-pressed')).equal('true');
      expect(line.text()).contain('1 key chosen');
      await bead(line, 0).trigger('keydown', { key: 'Enter' });
      await bead(line, 0).trigger('keydown', { key: 'ArrowLeft' });
      expect(keys(), 'not before the first frame').deep.equal([0, 46]);
      await bead(line, 0).trigger('keydown', { key: 'Delete' });
      expect(keys()).deep.equal([46]);
      useDocuments().undo();
      expect(keys()).deep.equal([0, 46]);
    });

    it('a drag shows where keys will land and changes the shot once; a press goes to the key', async () => {
      const line = panel(MovesTimeline);
      layOut(line, '.lanes', 48);
      const element = bead(line, 1).element as HTMLElement;
      element.setPointerCapture = () => {};
      await bead(line, 1).trigger('pointerdown', { button: 0, buttons: 1, clientX: 48 });
      await bead(line, 1).trigger('pointermove', { buttons: 1, clientX: 30 });
      expect(keys()).deep.equal([0, 48]);
      expect((bead(line, 1).element as HTMLElement).style.left).equal('62.5000%');
      await bead(line, 1).trigger('pointermove', { buttons: 1, clientX: 24 });
      await bead(line, 1).trigger('pointerup');
      expect(keys()).deep.equal([0, 24]);
      useDocuments().undo();
      expect(keys()).deep.equal([0, 48]);
      usePlayhead().seek(5, 48);
      await drag(bead(line, 0), 0, []);
      expect(usePlayhead().frame).equal(0);
    });

    it('Shift chooses several, which a right click eases together', async () => {
      const line = panel(MovesTimeline);
      (bead(line, 0).element as HTMLElement).setPointerCapture = () => {};
      (bead(line, 1).element as HTMLElement).setPointerCapture = () => {};
      await bead(line, 0).trigger('pointerdown', { button: 0, clientX: 0 });
      await bead(line, 0).trigger('pointerup');
      await bead(line, 1).trigger('pointerdown', { button: 0, clientX: 0, shiftKey: true });
      await bead(line, 1).trigger('pointerup');
      expect(
        useKeySelection()
          .list()
          .map((k) => k.frame),
      ).deep.equal([0, 48]);
      await fromMenu(bead(line, 0), 'Hold');
      expect(useCampaign().shot!.tracks[0].keys.map((k) => k.ease)).deep.equal(['hold', 'hold']);
    });

    it('what is on the set no longer is said so', () => {
      useStage().run({ label: 'Clear', run: (set) => void (set.products = []) });
      expect(panel(MovesTimeline).find('.label').text()).match(/^deleted/);
    });

    it('says what to do while nothing moves', () => {
      useDocuments().undo();
      expect(panel(MovesTimeline).text()).contain('Nothing moves in this shot yet');
    });
  });

  describe('of the promo', () => {
    const player = { playing: ref(false), track: ref(null), toggle: () => {}, seek: () => {} };
    const line = (): Wrapper => panel(PromoTimeline, { player });
    beforeEach(() => {
      run(addClip({ id: 'a', take: 't1', start: 0, length: 40 }, 'Take 1'));
      run(addClip({ id: 'b', take: 't2', start: 0, length: 20 }, 'Take 2'));
      run(addTitle(newTitle('title', { text: 'Heather honey', start: 10, length: 20 })));
    });

    it('clips are made longer and shorter, chosen and deleted by keys', async () => {
      const time = line();
      const clip = (i: number) => time.findAll('[data-test=clip]')[i];
      expect(time.findAll('[data-test=clip]').map((c) => c.attributes('aria-label'))).deep.equal([
        'Take 1 40 f, clip',
        'Take 2 20 f, clip',
      ]);
      await clip(0).trigger('keydown', { key: 'ArrowRight' });
      await clip(0).trigger('keydown', { key: 'ArrowRight' });
      await clip(1).trigger('keydown', { key: 'ArrowLeft' });
      expect(promo().clips.map((c) => c.length)).deep.equal([42, 19]);
      useDocuments().undo();
      useDocuments().undo();
      expect(
        promo().clips.map((c) => c.length),
        'one clip’s nudges are one step',
      ).deep.equal([40, 20]);
      await clip(1).trigger('keydown', { key: 'Enter' });
      expect(clip(1).attributes('aria-pressed')).equal('true');
      await clip(1).trigger('keydown', { key: 'Delete' });
      expect(promo().clips.map((c) => c.id)).deep.equal(['a']);
      expect(usePromo().chosen.value).equal(null);
    });

    it('titles are moved by keys, not before the promo begins', async () => {
      const time = line();
      const title = time.find('[data-test=title]');
      await title.trigger('keydown', { key: 'ArrowRight' });
      expect(promo().titles[0].start).equal(11);
      for (let i = 0; i < 14; i++) await title.trigger('keydown', { key: 'ArrowLeft' });
      expect(promo().titles[0].start).equal(0);
    });

    it('a title is carried by its body and stretched by its ends, one drag one step', async () => {
      const time = line();
      layOut(time, '.lanes', 60);
      const title = time.find('[data-test=title]');
      await drag(title, 15, [20, 24]);
      expect(promo().titles[0]).deep.include({ start: 19, length: 20 });
      useDocuments().undo();
      expect(promo().titles[0]).deep.include({ start: 10, length: 20 });
      (title.element as HTMLElement).setPointerCapture = () => {};
      await title.find('[data-part=end]').trigger('pointerdown', { button: 0, buttons: 1, clientX: 30 });
      await title.trigger('pointermove', { buttons: 1, clientX: 45 });
      await title.trigger('pointerup');
      expect(promo().titles[0]).deep.include({ start: 10, length: 35 });
      await title.find('[data-part=start]').trigger('pointerdown', { button: 0, buttons: 1, clientX: 10 });
      await title.trigger('pointermove', { buttons: 1, clientX: 4 });
      await title.trigger('pointerup');
      expect(promo().titles[0]).deep.include({ start: 4, length: 41 });
    });

    it('a clip goes to another place once it is past the middle of its neighbour', async () => {
      const time = line();
      layOut(time, '.lanes', 60);
      const ids = (): string[] => promo().clips.map((c) => c.id);
      await drag(time.findAll('[data-test=clip]')[0], 20, [45]);
      expect(ids()).deep.equal(['a', 'b']);
      await drag(time.findAll('[data-test=clip]')[0], 20, [55]);
      expect(ids()).deep.equal(['b', 'a']);
    });

    it('without music edges land on cuts and on the playhead, unless snapping is off', async () => {
      const time = line();
      layOut(time, '.lanes', 60);
      const title = time.find('[data-test=title]');
      const cut = promo().clips[0].length;
      await drag(title, 15, [15 + cut - 10 - 1]);
      expect(promo().titles[0].start).equal(cut);
      usePromo().frame.value = 7;
      await drag(title, cut + 5, [cut + 5 - (cut - 6)]);
      expect(promo().titles[0].start).equal(7);
      await time
        .findAll('button')
        .find((b) => b.text() === 'Snap')!
        .trigger('click');
      await drag(title, 12, [12 + cut - 7 - 1]);
      expect(promo().titles[0].start).equal(cut - 1);
    });

    it('edges land on beats unless Alt is held', async () => {
      run(bringMusic({ asset: 'a'.repeat(64), name: 'Heath' }));
      run(changeMusic('Set tempo', { tempo: 120 }));
      const time = line();
      layOut(time, '.lanes', 60);
      const title = time.find('[data-test=title]');
      const beat = (60 / 120) * (useCampaign().rate.num / useCampaign().rate.den);
      await drag(title, 15, [15 + beat * 2 - 10 + 1]);
      expect(promo().titles[0].start).equal(Math.round(beat * 2));
      await drag(title, 30, [33], { altKey: true });
      expect(promo().titles[0].start).equal(Math.round(beat * 2) + 3);
    });

    it('a right click chooses; what can be done with it is the station’s', async () => {
      const time = line();
      let removed = 0;
      useActions().add('promo.delete', { run: () => removed++ });
      await fromMenu(time.findAll('[data-test=clip]')[1], 'Delete what is chosen');
      expect(usePromo().chosen.value).deep.equal({ kind: 'clip', id: 'b' });
      expect(removed).equal(1);
    });
  });

  describe('details of the promo', () => {
    const clip = { id: 'a', take: 't1', start: 0, length: 60 };

    it('a clip that is longer than its take says so, and gets another take', async () => {
      run(addClip(clip, 'Take 1'));
      const details = panel(ClipDetails, { clip: promo().clips[0] });
      expect(details.text()).contain('The take ends 12 frames before this clip does');
      await choose(details, 'Take', 'Take 2 (draft)');
      expect(promo().clips[0].take).equal('t2');
    });

    it('a clip whose take was deleted asks for another', () => {
      const details = panel(ClipDetails, { clip: { ...clip, take: 'gone' } });
      expect(details.find('[role=alert]').text()).contain('choose another');
    });

    it('four taps give the music its tempo, as one step', async () => {
      run(bringMusic({ asset: 'a'.repeat(64), name: 'Heath' }));
      const details = panel(MusicDetails, { music: promo().music! });
      const now = performance.now.bind(performance);
      const tap = details.findAll('button').find((b) => b.text() === 'Tap the beat')!;
      for (const at of [0, 500, 1000]) {
        performance.now = () => 1e6 + at;
        await tap.trigger('click');
      }
      expect(promo().music!.tempo).equal(0);
      for (const at of [1500, 2000]) {
        performance.now = () => 1e6 + at;
        await tap.trigger('click');
      }
      performance.now = now;
      expect(promo().music!.tempo).equal(120);
      useDocuments().undo();
      expect(promo().music!.tempo).equal(0);
    });

    it('nothing chosen shows the promo, its size and what it has', async () => {
      run(addClip(clip, 'Take 1'));
      const details = panel(PromoDetails);
      expect(details.findAll('dd').map((d) => d.text())).deep.equal([
        `${((60 * useCampaign().rate.den) / useCampaign().rate.num).toFixed(2)} s`,
        '1',
        '0',
        '0',
        'none',
      ]);
      const width = details.find('input[aria-label="Width, px"]');
      await width.setValue('1080');
      await width.trigger('keydown', { key: 'Enter' });
      expect(promo().width).equal(1080);
      usePromo().chosen.value = { kind: 'clip', id: 'a' };
      await rest(5);
      expect(details.find('h2').text()).equal('Take 1');
    });
  });
});
