import './page.ts';
import { expect } from 'chai';
import { LAYER_KINDS, type Layer, type ShotDocument } from '@tender-orbit/core/document';
import CompositeStation from '../../src/composite/CompositeStation.vue';
import CopyValues from '../../src/composite/CopyValues.vue';
import CompositeViewer from '../../src/composite/CompositeViewer.vue';
import OneMask from '../../src/composite/OneMask.vue';
import LayerDetails from '../../src/composite/LayerDetails.vue';
import LayerShelf from '../../src/composite/LayerShelf.vue';
import PlateRack from '../../src/composite/PlateRack.vue';
import { moveShape, plainShape } from '../../src/composite/mask-shapes.ts';
import MovesTimeline from '../../src/moves/MovesTimeline.vue';
import { useCampaign, useDocuments, useNotices, usePlayhead, useRack } from '../../src/stores/index.ts';
import type { CompositeReply, CompositeRequest } from '../../src/workers/composite-worker.ts';
import { heldWorkers } from './held-workers.ts';
import { choose, clearPage, rest, setNumber, type show } from './mounted.ts';
import { openCampaign, panel } from './open-campaign.ts';

type Wrapper = ReturnType<typeof show>;
const real = globalThis.fetch;
const shot = (): ShotDocument => useCampaign().shot!;
const names = (): string[] => shot().layers.map((l) => l.name);
const layer = (name: string): Layer => shot().layers.find((l) => l.name === name)!;
const take = {
  ...{ id: 't1', shot: 'shot', name: 'Take 1', quality: 'draft', width: 64, height: 36, length: 48, state: 'done' },
  ...{
    done: [0, 1, 2],
    failed: [],
    passes: false,
    lights: false,
    bytes: 0,
    error: null,
    secondsPerFrame: 1,
    secondsLeft: null,
    createdAt: '',
  },
} as never;

describe('composite: layers of other takes', () => {
  beforeEach(() => openCampaign({}, { takes: [take] }));
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('say when their take was deleted, until another is chosen', async () => {
    await panel(LayerShelf).find('[data-test=layer-take]').trigger('click');
    const added = useRack().layer!;
    expect(added.kind).equal('take');
    useRack().change(added, 'Choose take', { take: 'deleted' } as Partial<Layer>);
    clearPage();
    const details = panel(LayerDetails, { layer: layer(added.name) });
    expect(details.text()).contain('Its take was deleted');
    await choose(details, 'Take', 'Take 1');
    clearPage();
    expect(panel(LayerDetails, { layer: layer(added.name) }).text()).not.contain('Its take was deleted');
  });
});

describe('composite: rack', () => {
  beforeEach(() => openCampaign());
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('the first layer brings the take with it; light goes below what stands on the glass', async () => {
    const shelf = panel(LayerShelf);
    for (const kind of ['text', 'specks', 'text']) await shelf.find(`[data-test=layer-${kind}]`).trigger('click');
    expect(names()).deep.equal(['Take', 'Specks', 'Text', 'Text 2']);
    expect(shot().layers.map((l) => l.space)).deep.equal(['scene', 'scene', 'glass', 'glass']);
    expect(useRack().layer!.name).equal('Text 2');
    // One step puts a layer on the empty rack, take and all.
    const documents = useDocuments();
    for (let i = 0; i < 3; i++) documents.undo();
    expect(names()).deep.equal([]);
  });

  it('plates stand from the glass to the farthest, and are carried by keys, over the edge between rails too', async () => {
    const rack = useRack();
    for (const kind of ['gradient', 'specks', 'text'] as const) rack.add(kind);
    const wrapper = panel(PlateRack);
    await rest();
    const plates = (): string[] => wrapper.findAll('.plate').map((p) => p.find('.clip').text());
    expect(plates()).deep.equal(['Text', 'Specks', 'Gradient', 'Take']);
    const plate = (name: string) => wrapper.findAll('.plate').find((p) => p.text() === name)!;
    await plate('Gradient').trigger('keydown', { key: 'ArrowLeft', altKey: true });
    await rest();
    expect(names()).deep.equal(['Take', 'Specks', 'Gradient', 'Text']);
    await plate('Gradient').trigger('keydown', { key: 'ArrowLeft', altKey: true });
    await rest();
    expect(layer('Gradient').space).equal('glass');
    expect(names()).deep.equal(['Take', 'Specks', 'Gradient', 'Text']);
    await plate('Gradient').trigger('keydown', { key: 'ArrowRight', altKey: true });
    await rest();
    expect(layer('Gradient').space).equal('scene');
    await plate('Specks').trigger('click');
    await wrapper.find('[aria-label="Hide layer"]').trigger('click');
    expect(layer('Specks').visible).equal(false);
    await wrapper.find('[aria-label="Duplicate layer with its keys"]').trigger('click');
    await rest();
    expect(names()).deep.equal(['Take', 'Specks', 'Specks 2', 'Gradient', 'Text']);
    await wrapper.find('[aria-label="Delete layer"]').trigger('click');
    expect(names()).deep.equal(['Take', 'Specks', 'Gradient', 'Text']);
  });

  it('values of one layer go to others, each later than the one before, and are cleared of many', async () => {
    const rack = useRack();
    for (const kind of ['gradient', 'shape', 'text', 'solid'] as const) rack.add(kind);
    rack.lock(layer('Text'));
    rack.chosen = layer('Gradient').id;
    rack.setValue(layer('Gradient'), 'x', 0.3);
    rack.key(layer('Gradient'), 'opacity');
    const check = async (label: string): Promise<void> => {
      const box = [...document.querySelectorAll('[data-test=copy-values] .ui-check')].find(
        (e) => e.textContent === label,
      );
      box!.querySelector('input')!.click();
      await rest();
    };
    const press = async (selector: string): Promise<void> => {
      document.querySelector<HTMLElement>(selector)!.click();
      await rest();
    };
    const wrapper = panel(CopyValues, { open: false });
    await wrapper.setProps({ open: true });
    await rest();
    // What is locked cannot be chosen.
    expect(document.querySelector('[data-test=copy-values]')!.textContent).not.contain('Text');
    for (const label of ['Opacity and blend', 'Shape', 'Solid']) await check(label);
    const later = document.querySelector<HTMLInputElement>('[data-test=copy-values] [aria-label="Each later by, f"]')!;
    later.value = '6';
    later.dispatchEvent(new Event('input'));
    later.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    await rest();
    await press('[data-test=copy-values-run]');
    expect([layer('Shape').x, layer('Solid').x]).deep.equal([0.3, 0.3]);
    const keyed = (name: string): number[] =>
      shot()
        .tracks.filter((t) => t.thing === layer(name).id)
        .flatMap((t) => t.keys.map((k) => k.frame));
    expect([keyed('Solid'), keyed('Shape')].map(([f]) => f).sort((a, b) => a - b)).deep.equal([6, 12]);
    // Cleared they are as new.
    await wrapper.setProps({ open: false });
    await wrapper.setProps({ open: true });
    await rest();
    [...document.querySelectorAll<HTMLElement>('[data-test=copy-values] button')]
      .find((b) => b.textContent === 'Clear')!
      .click();
    await rest();
    for (const label of ['Opacity and blend', 'Shape', 'Gradient']) await check(label);
    await press('[data-test=copy-values-run]');
    expect([layer('Shape').x, layer('Gradient').x, layer('Solid').x]).deep.equal([0, 0, 0.3]);
    expect([keyed('Shape'), keyed('Gradient'), keyed('Solid')].map((k) => k.length)).deep.equal([0, 0, 1]);
  });

  it('a locked layer is not changed and says so; one that is isolated is drawn alone until it goes', async () => {
    const rack = useRack();
    rack.add('solid');
    const wrapper = panel(PlateRack);
    await rest();
    await wrapper.find('[aria-label="Lock layer"]').trigger('click');
    rack.setValue(layer('Solid'), 'opacity', 0.2);
    rack.key(layer('Solid'), 'opacity');
    rack.remove(layer('Solid').id);
    expect(layer('Solid')).include({ opacity: 1, locked: true });
    expect(shot().tracks).deep.equal([]);
    expect(useNotices().text).contain('"Solid" is locked: unlock it');
    await rest();
    await wrapper.find('[aria-label="Unlock layer"]').trigger('click');
    await wrapper.find('[aria-label^="Isolate layer"]').trigger('click');
    expect(rack.isolated).equal(layer('Solid').id);
    rack.remove(layer('Solid').id);
    expect([rack.isolated, names().join()]).deep.equal(['', 'Take']);
  });

  it('every kind has its fields; numbers are keyed at the playhead and then moved by keys', async () => {
    const rack = useRack();
    for (const kind of LAYER_KINDS) {
      rack.add(kind);
      await rest();
      const details = panel(LayerDetails, { layer: rack.layer! });
      expect(details.find('[aria-label="Name"]').exists(), kind).equal(true);
      // Of a null nothing is seen.
      expect(details.find('input[aria-label="Opacity, %"]').exists(), kind).equal(kind !== 'null');
      clearPage();
    }
    rack.chosen = layer('Gradient').id;
    const details = panel(LayerDetails, { layer: layer('Gradient') });
    rack.key(layer('Gradient'), 'opacity');
    await rest();
    expect(shot().tracks.map((t) => [t.thing, t.path])).deep.equal([[layer('Gradient').id, 'opacity']]);
    usePlayhead().seek(12, 48);
    await rest();
    await setNumber(details, 'Opacity, %', '40');
    expect(shot().tracks[0].keys.map(({ frame, value }) => [frame, value])).deep.equal([
      [0, 1],
      [12, 0.4],
    ]);
    expect(layer('Gradient').opacity).equal(1);
    expect(rack.value(layer('Gradient'), 'opacity')).closeTo(0.4, 1e-9);
  });

  it('a form is chosen, a mask opens its fields, a name is given', async () => {
    useRack().add('shape');
    await rest();
    const details = panel(LayerDetails, { layer: layer('Shape') });
    await choose(details, 'Form', 'Star');
    expect(layer('Shape')).include({ form: 'star' });
    await details
      .findAll('.v-expansion-panel-title')
      .find((t) => t.text() === 'Mask and matte')!
      .trigger('click');
    await rest(80);
    await choose(details, 'Mask', 'Ellipse');
    expect(layer('Shape').mask).equal('ellipse');
    await choose(details, 'Mask', 'Finish');
    expect(layer('Shape').mask).equal('finish');
    const [{ name: finish }] = useCampaign().products.get('jar')!.finishes;
    await choose(panel(OneMask, { layer: layer('Shape'), things: [] }), 'Finish', finish);
    expect(layer('Shape').maskFinish).equal(finish);
    const name = details.find('input[aria-label="Name"]');
    await name.setValue('Sun');
    await name.trigger('keydown', { key: 'Enter' });
    await name.trigger('blur');
    await rest();
    expect(names()).contain('Sun');
  });

  it('spans stand on the timeline, are moved by keys, and Moves does not show them', async () => {
    const rack = useRack();
    rack.add('solid');
    rack.setValue(layer('Solid'), 'opacity', 0.5);
    rack.key(layer('Solid'), 'opacity');
    const timeline = panel(MovesTimeline, { layers: true });
    await rest();
    const bar = (): ReturnType<Wrapper['find']> => timeline.find('[data-test=layer-span]');
    expect(bar().attributes('aria-label')).contain('Solid is seen in frames 1 to 48');
    await bar().trigger('keydown', { key: 'ArrowLeft', shiftKey: true });
    await bar().trigger('keydown', { key: 'ArrowRight' });
    await rest();
    expect(layer('Solid')).include({ start: 1, length: 0 });
    expect(timeline.text()).contain('opacity');
    clearPage();
    expect(panel(MovesTimeline).text()).not.contain('opacity');
  });

  it('shapes of a drawn mask stand on the timeline too, and are moved and deleted there', async () => {
    const rack = useRack();
    rack.add('solid');
    const shapes = [0, 10, 20].map((frame) => plainShape(frame, 0.2 + frame / 100));
    rack.change(layer('Solid'), 'Mask', { mask: 'path', maskPath: shapes });
    const timeline = panel(MovesTimeline, { layers: true });
    await rest();
    const beads = (): ReturnType<Wrapper['findAll']> => timeline.findAll('[data-test=mask-shape]');
    const frames = (): number[] => layer('Solid').maskPath.map((s) => s.frame);
    expect(timeline.text()).contain('mask shapes');
    expect(beads()).length(3);
    await beads()[1].trigger('keydown', { key: 'ArrowRight' });
    await rest();
    expect(frames()).deep.equal([0, 11, 20]);
    expect(layer('Solid').maskPath[1].points).deep.equal(shapes[1].points);
    await beads()[1].trigger('keydown', { key: 'Enter' });
    expect(usePlayhead().frame).equal(11);
    await beads()[0].trigger('keydown', { key: 'Delete' });
    await rest();
    expect(frames()).deep.equal([11, 20]);
    // A shape that comes to where another is takes its place; with one left the mask no longer changes.
    rack.change(layer('Solid'), 'Move', { maskPath: moveShape(layer('Solid').maskPath, 11, 20) });
    await rest();
    expect(layer('Solid').maskPath).deep.equal([{ ...shapes[1], frame: 20 }]);
    expect(beads()).length(0);
  });
});

describe('composite: station', () => {
  const { requests, reply } = heldWorkers<CompositeRequest, CompositeReply>();
  beforeEach(async () => {
    await openCampaign({}, { takes: [take] });
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('shows the take until there is a composite, and then that', async () => {
    const station = panel(CompositeStation);
    await rest();
    expect(station.find('[data-test=take-viewer]').exists()).equal(true);
    expect(station.find('[data-test=new-take]').exists()).equal(true);
    await station.find('[data-test=layer-gradient]').trigger('click');
    await rest();
    expect(station.find('[data-test=composite-viewer]').exists()).equal(true);
    expect(station.find('[data-test=layer-details]').exists()).equal(true);
    expect(station.find('[data-test=plate-rack]').text()).contain('Gradient');
  });

  it('asks quickly for a small picture, then for a whole one, and says when a frame is not there', async () => {
    useRack().add('specks');
    const viewer = panel(CompositeViewer, { take });
    await rest();
    expect(requests[0]).include({ take: 't1', frame: 0 });
    expect(requests[0].width).above(0);
    expect(requests[0].composite.shot.layers).length(2);
    await rest(420);
    expect(requests.at(-1)!.width).equal(0);
    const answer = (data: Partial<CompositeReply>): void =>
      reply({ id: requests.at(-1)!.id, frame: 0, milliseconds: 5, ...data } as CompositeReply);
    const pixels = new Uint8ClampedArray(8 * 4 * 4).fill(200).buffer;
    answer({ picture: { width: 8, height: 4, pixels } });
    await rest();
    for (const name of ['Scopes', 'Compare'])
      await viewer
        .findAll('button')
        .find((b) => b.text() === name)!
        .trigger('click');
    await rest();
    expect(viewer.find('[data-test=scopes] canvas').attributes('aria-label')).equal('waveform of the picture');
    expect(viewer.find('.surround img').attributes('src')).equal('/api/takes/t1/frames/0');
    answer({ picture: null });
    await rest();
    expect(viewer.text()).contain('Frame 1 of this take is not rendered yet');
    usePlayhead().seek(20, 48);
    await rest();
    expect(viewer.text()).contain('Frame 21 of this take is not rendered yet');
  });
});
