import './page.ts';
import { expect } from 'chai';
import {
  addClip,
  addMarker,
  addOverlay,
  addTitle,
  newOverlay,
  newTitle,
  type Clip,
  type PromoDocument,
} from '@tender-orbit/core/document';
import { placedClips } from '@tender-orbit/core/promo';
import { computed, defineComponent, h, ref } from 'vue';
import CalloutFields from '../../src/promo/CalloutFields.vue';
import OverlayDetails from '../../src/promo/OverlayDetails.vue';
import PromoTimeline from '../../src/promo/PromoTimeline.vue';
import TakeShelf from '../../src/promo/TakeShelf.vue';
import type { PromoPlayer } from '../../src/promo/use-player.ts';
import { useCallout } from '../../src/promo/use-callout.ts';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useCampaign, useRack } from '../../src/stores/index.ts';
import { clearPage, drag, fromMenu, layOut, rest } from './mounted.ts';
import { asked, openCampaign, panel, wholeTake } from './open-campaign.ts';

const real = globalThis.fetch;
const promo = (): PromoDocument => useCampaign().promo!;
const take = (id: string) =>
  wholeTake({ id, name: `Take ${id}`, length: 90, done: Array.from({ length: 90 }, (_, i) => i) });
const clip = (id: string): Clip => ({ id, take: 't1', start: 10, length: 20 });
const run: ReturnType<typeof usePromo>['run'] = (command) => usePromo().run(command);
const player: PromoPlayer = {
  playing: ref(false),
  track: computed(() => null),
  stems: computed(() => null),
  toggle: () => undefined,
  seek: (to) => void (usePromo().frame.value = to),
};
const order = (): string[] => promo().clips.map(({ id }) => id);

describe('the rows of Promo', () => {
  beforeEach(async () => {
    const followed = { thing: 'jar', from: 0, track: [[0.1, 0.2, 1]] };
    await openCampaign({ 'POST /api/takes/t1/follow': followed }, { takes: [take('t1'), take('t2')] });
    const { chosen, frame, range } = usePromo();
    chosen.value = null;
    frame.value = 0;
    range.value = null;
    useRack().workOnPromo(() => usePromo().frame.value);
    for (const id of ['a', 'b', 'c']) run(addClip(clip(id), id));
    document.elementsFromPoint = () => [];
  });
  afterEach(async () => {
    clearPage();
    useRack().workOnPromo(null);
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));
  const line = () => {
    const time = panel(PromoTimeline, { player });
    layOut(time, '.lanes', 60);
    return time;
  };

  it('a clip is carried over the picture and back into the cut, each in one step', async () => {
    const time = line();
    document.elementsFromPoint = () => [time.find('[data-row=overlays]').element];
    await drag(time.findAll('[data-test=clip]')[1], 25, [27, 30]);
    expect(order()).deep.equal(['a', 'c']);
    expect(promo().overlays[0]).deep.include({ footage: 't1', first: 10, start: 20, length: 20, size: 1 });
    expect(usePromo().chosen.value).deep.equal({ kind: 'overlay', id: promo().overlays[0].id });
    await rest();
    document.elementsFromPoint = () => [time.find('[data-row=picture]').element];
    await drag(time.find('[data-test=overlay]'), 25, [26, 27]);
    expect(promo().overlays).deep.equal([]);
    expect(placedClips(promo()).map(({ from }) => from)).deep.equal([0, 20, 40]);
    expect(promo().clips[1].start).equal(10);
  });

  it('things of all rows are chosen together, grouped, carried as one and deleted', async () => {
    run(addTitle(newTitle('t', { start: 5, length: 10 })));
    run(addMarker({ id: 'm', name: 'Here', at: 8, length: 0 }));
    const time = line();
    const work = usePromo();
    await drag(time.find('[data-test=title]'), 7, []);
    await drag(time.findAll('[data-test=clip]')[2], 50, [], { shiftKey: true });
    expect(work.chosenItems.value).deep.equal(['t', 'c']);
    work.groupChosen();
    work.chosen.value = null;
    // One of them takes all in hand; with Alt it is taken by itself.
    await drag(time.find('[data-test=title]'), 7, []);
    expect([...work.chosenItems.value].sort()).deep.equal(['c', 't']);
    work.chosen.value = null;
    await drag(time.find('[data-test=title]'), 7, [], { altKey: true });
    expect(work.chosenItems.value).deep.equal(['t']);
    work.chosen.value = null;
    // The clip is carried to the front: its title comes with it, as far as it can.
    await drag(time.findAll('[data-test=clip]')[2], 50, [45, 30, 5]);
    expect(order()).deep.equal(['c', 'a', 'b']);
    expect(promo().titles[0].start).equal(0);
    await rest();
    const { titles, markers } = promo();
    expect(markers[0].at).equal(8);
    work.ungroupChosen();
    expect(promo().groups).equal(undefined);
    expect(titles).length(1);
    work.chosen.value = { kind: 'title', id: 't' };
    work.alsoChosen.value = new Set(['m', 'a']);
    work.removeChosen();
    expect(order()).deep.equal(['c', 'b']);
    expect([promo().titles, promo().markers]).deep.equal([[], []]);
  });

  it('a title and an overlay that are chosen are dragged by as much', async () => {
    run(addTitle(newTitle('t', { start: 5, length: 10 })));
    run(addOverlay(newOverlay('o', { id: 't2', frames: 90, rate: 24 }, 24, { start: 12, length: 20 }), 'o'));
    const time = line();
    const work = usePromo();
    work.chosen.value = { kind: 'title', id: 't' };
    work.alsoChosen.value = new Set(['o']);
    await rest();
    await drag(time.find('[data-test=title]'), 7, [9, 13], { altKey: true });
    expect([promo().titles[0].start, promo().overlays[0].start]).deep.equal([11, 18]);
  });

  it('a take overwrites what is at the playhead, or lies over it', async () => {
    const shelf = panel(TakeShelf);
    usePromo().frame.value = 30;
    usePromo().range.value = { from: 30, to: 45 };
    await fromMenu(shelf.findAll('[data-test=shelf-take]')[1], 'Overwrite the range');
    expect(placedClips(promo()).map(({ clip: { take: of }, from }) => [of, from])).deep.equal([
      ['t1', 0],
      ['t1', 20],
      ['t2', 30],
      ['t1', 45],
    ]);
    await fromMenu(shelf.findAll('[data-test=shelf-take]')[1], 'Lay over the picture');
    expect(promo().overlays[0]).deep.include({ footage: 't2', start: 30, speed: 1 });
    const details = panel(defineComponent(() => () => h(OverlayDetails, { overlay: promo().overlays[0] })));
    const bead = details.findAll('button').find((b) => /Across/.test(b.attributes('aria-label') ?? ''))!;
    await bead.trigger('click');
    expect(promo().tracks).deep.include({
      ...{ thing: promo().overlays[0].id, path: 'x' },
      keys: [{ frame: 0, value: 0.5, ease: promo().tracks[0].keys[0].ease }],
    });
  });

  it('a callout is pointed at what is pressed in the picture, by the take’s own frame', async () => {
    const { add, picking, pointAt } = useCallout();
    const { frame, chosen } = usePromo();
    frame.value = 25;
    const shelf = panel(TakeShelf);
    await shelf.find('[data-test=add-callout]').trigger('click');
    const [title] = promo().titles;
    expect([title.start, title.length, picking.value]).deep.equal([25, 15, title.id]);
    await pointAt(0.75, 0.25);
    const [, , body] = asked.find(([, path]) => path === '/api/takes/t1/follow')!;
    expect(body).deep.equal({ x: (0.25 * 16) / 9, y: 0.25, frame: 15, from: 0, to: 89 });
    const fields = panel(defineComponent(() => () => h(CalloutFields, { title: promo().titles[0] })));
    await fields.find('button').trigger('click');
    await rest();
    expect(promo().titles[0].callout).deep.include({ take: 't1', track: [0.1, 0.2, 1], rides: false, mark: 'ring' });
    await fields.find('input[type=checkbox]').setValue(true);
    expect(promo().titles[0].callout!.rides).equal(true);
    await fields
      .findAll('button')
      .find((b) => b.text() === 'No line')!
      .trigger('click');
    expect(promo().titles[0].callout).equal(undefined);
    // Another choice ends the picking.
    add();
    expect(picking.value).not.equal('');
    chosen.value = null;
    await rest();
    expect(picking.value).equal('');
  });
});
