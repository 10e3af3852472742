import './page.ts';
import { expect } from 'chai';
import { hexToLinear, linearToHex } from '@tender-orbit/core/finish';
import type { Layer, LayerOf, ShotDocument, Spot } from '@tender-orbit/core/document';
import CompositePick from '../../src/composite/CompositePick.vue';
import FreehandPad from '../../src/composite/FreehandPad.vue';
import GradientStops from '../../src/composite/GradientStops.vue';
import LayerDetails from '../../src/composite/LayerDetails.vue';
import LayerPath from '../../src/composite/LayerPath.vue';
import LayerShelf from '../../src/composite/LayerShelf.vue';
import MaskFields from '../../src/composite/MaskFields.vue';
import NewTake from '../../src/composite/NewTake.vue';
import PlateRack from '../../src/composite/PlateRack.vue';
import TakeList from '../../src/composite/TakeList.vue';
import { fittedPath } from '../../src/composite/freehand.ts';
import { framesText } from '../../src/composite/frames-text.ts';
import { layerRows } from '../../src/moves/timeline-rows.ts';
import { useCampaign, useLooks, useNotices, usePlayhead, useRack } from '../../src/stores/index.ts';
import ConfirmDialog from '../../src/ui/ConfirmDialog.vue';
import { byRole, choose, clearPage, rest, setNumber } from './mounted.ts';
import { asked, openCampaign, panel } from './open-campaign.ts';

const real = globalThis.fetch;
const shot = (): ShotDocument => useCampaign().shot!;
const layer = <K extends Layer['kind']>(kind: K): LayerOf<K> =>
  shot().layers.find((l): l is LayerOf<K> => l.kind === kind)!;
const take = (values: object): object => ({
  ...{ id: 't1', shot: 'shot', name: 'Take 1', quality: 'draft', width: 64, height: 36, length: 48, state: 'done' },
  ...{ done: [0, 1, 2], failed: [], frames: null, times: null, passes: false, lights: false, bytes: 0, error: null },
  ...{ secondsPerFrame: 1, secondsLeft: null, createdAt: '' },
  ...values,
});
const takes = [
  take({}),
  take({ id: 't2', name: 'Take 2', frames: { first: 0, last: 47, step: 2 } }),
  take({ id: 't9', shot: 'shot2', name: 'Lid take 1' }),
] as never[];
const lastBody = (method: string, path: string): unknown =>
  asked.filter(([m, p]) => m === method && p === path).at(-1)?.[2];

describe('composite: what is put on the rack', () => {
  beforeEach(async () => {
    const kept = { id: 'look1', name: 'Warm', look: null as unknown };
    await openCampaign(
      {
        'GET /api/looks': [],
        'POST /api/looks': kept,
        'GET /api/campaigns/c/takes': takes,
        'POST /api/takes/t2/again': { id: 't1', name: 'Take 3' },
      },
      { takes },
    );
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  describe('kept looks', () => {
    it('are kept from the rack with their keys, put on it again from the shelf, and deleted when that is meant', async () => {
      const rack = useRack();
      rack.add('grade');
      rack.setValue(layer('grade'), 'exposure', 0.5);
      usePlayhead().frame = 3;
      rack.key(layer('grade'), 'exposure');
      await panel(PlateRack).find('[data-test=keep-look]').trigger('click');
      await rest();
      const sent = lastBody('POST', '/api/looks') as { name: string; look: ShotDocument };
      expect([sent.name, sent.look.layers.map((l) => l.kind), sent.look.tracks.length]).deep.equal([
        'Grade',
        ['grade'],
        1,
      ]);
      expect(useNotices().text).contain('"Grade" is kept');
      clearPage();

      panel(ConfirmDialog);
      const shelf = panel(LayerShelf);
      await rest();
      // As the server has it after another visit.
      useLooks().looks = [{ id: 'look1', name: 'Warm', look: sent.look }];
      await rest();
      await shelf.find('[data-test=look]').trigger('click');
      const grades = shot().layers.filter((l) => l.kind === 'grade');
      expect(grades).length(2);
      expect(grades[0].id).not.equal(grades[1].id);
      expect(rack.chosen).equal(grades[1].id);
      expect(shot().tracks.map((t) => t.thing)).have.members(grades.map((g) => g.id));
      byRole('button', 'Delete look Warm')!.click();
      await rest();
      byRole('button', 'Leave it')!.click();
      await rest();
      expect(useLooks().looks).length(1);
      byRole('button', 'Delete look Warm')!.click();
      await rest();
      byRole('button', 'Delete look')!.click();
      await rest();
      expect(useLooks().looks).deep.equal([]);
      expect(asked.some(([m, p]) => m === 'DELETE' && p === '/api/looks/look1')).equal(true);
    });
  });

  describe('further masks', () => {
    it('are put to a layer, combined, drawn each by itself, keyed below it, and taken away', async () => {
      const rack = useRack();
      rack.add('solid');
      rack.change(layer('solid'), 'Mask', { mask: 'ellipse' });
      const fields = () => panel(MaskFields, { layer: layer('solid'), things: [], others: [] });
      let wrapper = fields();
      await wrapper.find('[data-test=add-mask]').trigger('click');
      await rest();
      expect(layer('mask')).contain({ group: layer('solid').id, name: 'Mask 2', combine: 'add', mask: 'ellipse' });
      await choose(wrapper, 'Combine', 'Subtract');
      expect(layer('mask').combine).equal('subtract');
      rack.change(layer('mask'), 'Mask', { mask: 'path' });
      clearPage();
      wrapper = fields();
      await wrapper.find('[data-test=further-mask] [data-test=draw-mask]').trigger('click');
      expect([rack.drawing, rack.drawnOn!.kind]).deep.equal(['mask', 'mask']);
      expect([layer('mask').maskPath.length, layer('solid').maskPath.length]).deep.equal([1, 0]);
      rack.key(layer('mask'), 'maskX');
      // Neither stands on the rack; its keys are a thread below its layer.
      expect(rack.plates.map((l) => l.kind)).deep.equal(['solid', 'take']);
      expect(layerRows(shot()).map((r) => [r.kind, r.name])).deep.equal([
        ['span', 'Solid'],
        ['thread', 'Mask 2'],
        ['span', 'Take'],
      ]);
      rack.lock(layer('solid'));
      rack.setValue(layer('mask'), 'opacity', 0.5);
      expect(layer('mask').opacity).equal(1);
      expect(useNotices().text).contain('"Solid" is locked');
      rack.lock(layer('solid'));
      byRole('button', 'Delete Mask 2')!.click();
      await rest();
      expect(shot().layers.map((l) => l.kind)).deep.equal(['take', 'solid']);
    });
  });

  describe('lines drawn by hand', () => {
    const circle = Array.from({ length: 60 }, (_, i): Spot => {
      const a = (i / 60) * 2 * Math.PI;
      return [0.3 * Math.cos(a), 0.3 * Math.sin(a)];
    });
    it('become a few Beziers that go along them, closed ones round', () => {
      const points = fittedPath(circle, true)!;
      expect(points.length).within(3, 12);
      for (const { at } of points) expect(Math.hypot(...at)).closeTo(0.3, 0.01);
      // In the middle of a side too.
      const [p, q] = points;
      const middle = [0, 1].map((c) => (p.at[c] + 3 * (p.at[c] + p.out[c]) + 3 * (q.at[c] + q.in[c]) + q.at[c]) / 8);
      expect(Math.hypot(...middle)).closeTo(0.3, 0.01);
      const open = fittedPath(circle.slice(0, 30), false)!;
      expect([open[0].in, open.at(-1)!.out]).deep.equal([
        [0, 0],
        [0, 0],
      ]);
      expect(fittedPath([[0, 0]], true)).equal(null);
      expect(
        fittedPath(
          [
            [0, 0],
            [0.001, 0],
          ],
          false,
        ),
      ).equal(null);
    });

    it('are the shape of the mask at the frame, or the points of a stroke, and are edited by points from then on', async () => {
      const rack = useRack();
      rack.add('solid');
      rack.change(layer('solid'), 'Mask', { mask: 'path' });
      rack.draw('freehand', layer('solid').id);
      let path = panel(LayerPath, { layer: layer('solid') });
      path.findComponent(FreehandPad).vm.$emit('drawn', null);
      expect(useNotices().text).contain('goes nowhere');
      path.findComponent(FreehandPad).vm.$emit('drawn', fittedPath(circle, true));
      await rest();
      expect(layer('solid').maskPath[0].points.length).above(2);
      expect(layer('solid').maskPath[0].points[0].feather).equal(0);
      expect(rack.drawing).equal('mask');
      clearPage();
      rack.add('stroke');
      rack.draw('sketch');
      path = panel(LayerPath, { layer: layer('stroke') });
      path.findComponent(FreehandPad).vm.$emit('drawn', fittedPath(circle.slice(0, 30), false));
      await rest();
      expect(layer('stroke').points.length).above(1);
      expect(rack.drawing).equal('stroke');
      rack.draw('stroke');
      expect(rack.drawing).equal('');
    });
  });

  it('a composite is of a take of another shot; one whose take is gone says so', async () => {
    const rack = useRack();
    rack.add('composite');
    let wrapper = panel(CompositePick, { layer: layer('composite') });
    await choose(wrapper, 'Take of another shot', 'Lid take 1');
    expect(layer('composite').take).equal('t9');
    expect(Object.keys(useCampaign().othersOf(shot()))).deep.equal(['t9']);
    clearPage();
    rack.change(layer('composite'), 'Take', { take: 'gone' } as Partial<Layer>);
    wrapper = panel(CompositePick, { layer: layer('composite') });
    expect(wrapper.text()).contain('Its take was deleted');
    expect(useCampaign().othersOf(shot())).deep.equal({});
  });

  it('a gradient has several stops when they are asked for: one more in the widest gap, never fewer than two', async () => {
    useRack().add('gradient');
    const stops = (): number[] => layer('gradient').stops!.map((s) => s.at);
    const wrapper = panel(GradientStops, { layer: layer('gradient') });
    const press = async (test: string): Promise<void> => {
      await wrapper.find(`[data-test=${test}]`).trigger('click');
      await wrapper.setProps({ layer: layer('gradient') });
    };
    await press('several-stops');
    expect(stops()).deep.equal([0, 0.5, 1]);
    // The picture stays: half-way lies what the two mix to there.
    const [first, half, last] = layer('gradient').stops!.map((s) => hexToLinear(s.colour)!);
    half.forEach((v, c) => expect(v).closeTo((first[c] + last[c]) / 2, 0.01));
    await setNumber(wrapper, 'Place of stop 2, %', '20');
    await wrapper.setProps({ layer: layer('gradient') });
    await press('add-stop');
    expect(stops()).deep.equal([0, 0.2, 1, 0.6]);
    for (const n of [4, 2]) {
      await wrapper.find(`[aria-label="Delete stop ${n}"]`).trigger('click');
      await wrapper.setProps({ layer: layer('gradient') });
    }
    expect(stops()).deep.equal([0, 1]);
    expect(wrapper.find('[aria-label="Delete stop 1"]').attributes('disabled')).not.equal(undefined);
    await press('two-colours');
    expect(layer('gradient').stops).equal(undefined);
  });

  it('a layer takes the colour of a finish of a product on the set', async () => {
    useRack().add('solid');
    panel(LayerDetails, { layer: layer('solid') });
    const button = document.querySelector<HTMLElement>('[data-test=product-colour]')!;
    button.click();
    await rest(60);
    const lines = [...document.querySelectorAll<HTMLElement>('.ui-menu .v-list-item')];
    expect(lines.length).above(1);
    const [first] = useCampaign().products.get('jar')!.finishes;
    lines.find((l) => l.textContent!.includes(first.name))!.click();
    await rest();
    expect(layer('solid').colour.toUpperCase()).equal(linearToHex(first.baseColor).toUpperCase());
  });

  it('a colour that stands in the set is traced there: a card with its way, the layer hidden, in one step', async () => {
    const rack = useRack();
    rack.add('solid', { inSet: true, metres: 0.2, lift: 0.3 } as Partial<Layer>);
    const before = useCampaign().set!.surfaces.length;
    const details = panel(LayerDetails, { layer: layer('solid') });
    await details
      .findAll('.v-expansion-panel-title')
      .find((t) => t.text() === 'In the set')!
      .trigger('click');
    await rest();
    await details.find('[data-test=trace-in-set]').trigger('click');
    await rest(60);
    const card = useCampaign().set!.surfaces.at(-1)!;
    expect(useCampaign().set!.surfaces).length(before + 1);
    expect(card).contain({ kind: 'card', name: 'Solid', height: 0.2 });
    expect(layer('solid').visible).equal(false);
    expect(useNotices().text).contain('stands in the set as a card');
  });
});

describe('takes of some of the frames', () => {
  beforeEach(() =>
    openCampaign(
      {
        ...{ 'POST /api/takes/estimate': { frames: 24, secondsPerFrame: 2, seconds: 48, bytes: 1e6, layers: 0 } },
        ...{ 'GET /api/campaigns/c/takes': takes, 'POST /api/takes/t2/again': { id: 't1', name: 'Take 3' } },
      },
      { takes },
    ),
  );
  afterEach(async () => {
    clearPage();
    usePlayhead().range = null;
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('are asked for at half rate, as a still, or as the range on the ruler', async () => {
    const form = panel(NewTake, { part: null });
    const chosen = async (label: string): Promise<unknown> => {
      await form
        .findAll('[role=radio]')
        .find((r) => r.text() === label)!
        .trigger('click');
      await rest(1000);
      return (lastBody('POST', '/api/takes/estimate') as { frames?: unknown }).frames;
    };
    await rest(1000);
    expect((lastBody('POST', '/api/takes/estimate') as { frames?: unknown }).frames).equal(undefined);
    expect(await chosen('Half rate')).deep.equal({ first: 0, last: 47, step: 2 });
    expect(form.find('[data-test=frame-count]').text()).equal('24');
    expect(form.find('[data-test=frames-chosen]').text()).equal('frames 1 to 48 at half rate');
    usePlayhead().frame = 7;
    expect(await chosen('Still')).deep.equal({ first: 7, last: 7, step: 1 });
    usePlayhead().range = { from: 5, to: 20 };
    await rest();
    expect(await chosen('Range')).deep.equal({ first: 5, last: 19, step: 1 });
    // A range that is taken off the ruler is asked for no more.
    usePlayhead().range = null;
    await rest(1000);
    expect((lastBody('POST', '/api/takes/estimate') as { frames?: unknown }).frames).equal(undefined);
    expect(framesText({ first: 5, last: 19, step: 1 })).equal('frames 6 to 20, held before and after');
  });

  it('say so on the shelf, are brought up to date, and are put in order', async () => {
    const list = panel(TakeList, { modelValue: 't2' });
    expect(list.text()).contain('frames 1 to 48 at half rate');
    const again = list.find('[aria-label^="Render Take 2 again"]');
    await again.trigger('click');
    await rest();
    expect(asked.some(([m, p]) => m === 'POST' && p === '/api/takes/t2/again')).equal(true);
    expect(list.emitted('update:modelValue')!.at(-1)).deep.equal(['t1']);
    await list.findAll('[data-test=take]')[1].trigger('keydown', { key: 'ArrowUp', altKey: true });
    await rest();
    expect(lastBody('PUT', '/api/campaigns/c/takes/order')).deep.equal({ takes: ['t2', 't1'] });
  });
});
