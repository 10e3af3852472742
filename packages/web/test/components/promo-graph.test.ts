import './page.ts';
import { expect } from 'chai';
import {
  addClip,
  addLayer,
  addTitle,
  keyValue,
  newLayer,
  newTitle,
  type Command,
  type PromoDocument,
} from '@tender-orbit/core/document';
import { computed, ref } from 'vue';
import PromoTimeline from '../../src/promo/PromoTimeline.vue';
import type { PromoPlayer } from '../../src/promo/use-player.ts';
import { usePromoGraph } from '../../src/promo/use-promo-graph.ts';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useCampaign, useDocuments, useRack } from '../../src/stores/index.ts';
import { graphLines } from '../../src/timeline/graph/graph-lines.ts';
import { useGraphKeys } from '../../src/timeline/graph/use-graph-keys.ts';
import { clearPage, rest } from './mounted.ts';
import { openCampaign, panel, wholeTake } from './open-campaign.ts';

const real = globalThis.fetch;
const promo = (): PromoDocument => useCampaign().promo!;
const run = (command: Command<PromoDocument>): void => usePromo().run(command);
const player: PromoPlayer = {
  playing: ref(false),
  track: computed(() => null),
  stems: computed(() => null),
  toggle: () => undefined,
  seek: (to) => void (usePromo().frame.value = to),
};
const keysOf = (thing: string, path: string): Array<[number, unknown]> =>
  promo()
    .tracks.find((t) => t.thing === thing && t.path === path)!
    .keys.map(({ frame, value }) => [frame, value]);
const key = (thing: string, path: string, frame: number, value: number): void =>
  run(keyValue({ thing, path, frame }, value, 'Key'));

describe('the graph of Promo', () => {
  beforeEach(async () => {
    await openCampaign({}, { takes: [wholeTake({ id: 't1', name: 'Take t1', length: 90 })] });
    const { chosen, frame } = usePromo();
    chosen.value = null;
    frame.value = 0;
    useRack().workOnPromo(() => usePromo().frame.value);
    usePromoGraph().open.value = false;
    run(addClip({ id: 'a', take: 't1', start: 0, length: 40 }, 'a'));
    run(addClip({ id: 'b', take: 't1', start: 0, length: 60 }, 'b'));
    for (const [frame, value] of [
      [10, 1],
      [30, 2],
    ])
      key('b', 'scale', frame, value);
    key('b', 'x', 10, 0);
    document.elementsFromPoint = () => [];
  });
  afterEach(async () => {
    clearPage();
    useRack().workOnPromo(null);
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  const opened = async (kind: 'clip' | 'layer' | 'title', id: string) => {
    const time = panel(PromoTimeline, { player });
    usePromo().chosen.value = { kind, id };
    await rest();
    await time.find('[data-test=open-graph]').trigger('click');
    await rest();
    return time;
  };

  it('is offered for what has keys, and shows those of what is chosen, each by its name', async () => {
    const time = panel(PromoTimeline, { player });
    const button = () => time.find('[data-test=open-graph]');
    expect(button().attributes('disabled')).not.equal(undefined);
    usePromo().chosen.value = { kind: 'clip', id: 'a' };
    await rest();
    expect(button().attributes('disabled')).not.equal(undefined);
    usePromo().chosen.value = { kind: 'clip', id: 'b' };
    await rest();
    await button().trigger('click');
    expect(time.find('[data-test=graph]').exists()).equal(true);
    const names = time.findAll('[data-test=graph-names] button');
    expect(names.map((n) => n.text())).deep.equal(['Scale', 'Across']);
    // What is left out is not drawn.
    await names[1].trigger('click');
    expect(usePromoGraph().rows.value.map((r) => r.track.path)).deep.equal(['scale']);
    await names[1].trigger('click');
    expect(usePromoGraph().rows.value).length(2);
    // A clip without keys has no graph; the next that has some has it again.
    usePromo().chosen.value = { kind: 'clip', id: 'a' };
    await rest();
    expect(time.find('[data-test=graph]').exists()).equal(false);
  });

  it('keys are chosen, changed, moved and deleted by keyboard, and that is undone', async () => {
    const time = await opened('clip', 'b');
    const graph = time.find('[data-test=graph]');
    const press = (name: string, more = {}) => graph.trigger('keydown', { key: name, ...more });
    await press('ArrowRight');
    await press('ArrowRight');
    expect(usePromoGraph().host.selection.list()).deep.equal([{ thing: 'b', path: 'scale', frame: 30 }]);
    await press('ArrowUp');
    expect(keysOf('b', 'scale')[1][1]).above(2).below(2.2);
    await press('ArrowRight', { altKey: true });
    await press('ArrowRight', { altKey: true });
    expect(keysOf('b', 'scale').map(([frame]) => frame)).deep.equal([10, 32]);
    await press('Delete');
    expect(keysOf('b', 'scale')).length(1);
    useDocuments().undo();
    expect(keysOf('b', 'scale')).length(2);
  });

  it('a key is dragged along the time or up and down, whichever way it sets out', async () => {
    await opened('clip', 'b');
    const { host, rows } = usePromoGraph();
    const lines = computed(() => graphLines(rows.value, host.eases(), 'value', 24));
    const range = ref({ low: 0, high: 300 });
    // Four pixels a frame from where the clip lies, and one for each of the values that are seen, in percent.
    const keys = useGraphKeys({
      ...{ host, lines, range: computed(() => range.value), held: ref(null), handles: computed(() => []) },
      ...{ x: (frame) => (frame + 40) * 4, frameAt: (px) => px / 4 - 40, y: (v) => 300 - v, valueAt: (py) => 300 - py },
      place: ({ clientX, clientY }) => ({ px: clientX, py: clientY }),
      ...{ first: () => 0, isSpeed: () => false, isMade: () => false },
    });
    const event = (px: number, py: number): PointerEvent =>
      ({
        ...{ button: 0, buttons: 1, pointerId: 1, clientX: px, clientY: py },
        currentTarget: { setPointerCapture: () => undefined },
      }) as unknown as PointerEvent;
    const go = (from: readonly [number, number], ...to: Array<[number, number]>): void => {
      keys.press(event(...from));
      for (const at of to) keys.drag(event(...at));
      keys.release();
    };
    const key30: [number, number] = [70 * 4, 300 - 200];
    go(key30, [key30[0] + 8, key30[1] + 2], [key30[0] + 33, key30[1] + 40]);
    expect(keysOf('b', 'scale')).deep.equal([
      [10, 1],
      [38, 2],
    ]);
    const key38: [number, number] = [78 * 4, 100];
    go(key38, [key38[0] + 1, key38[1] + 9], [key38[0] + 60, key38[1] + 50]);
    expect(keysOf('b', 'scale')[1]).deep.equal([38, 1.5]);
    // Not before the clip's first frame, and past other keys only where it is let go.
    go([78 * 4, 150], [70 * 4, 150], [50 * 4, 150], [5 * 4, 150]);
    expect(keysOf('b', 'scale')).deep.equal([
      [0, 1.5],
      [10, 1],
    ]);
    expect(keys.moved.value).equal(0);
    // A press beside all keys lets go of what was chosen.
    go([700, 20]);
    expect(host.selection.count.value).equal(0);
  });

  it('layers count from the promo’s first frame, titles from their own', async () => {
    run(addLayer(newLayer('solid', 'glow', 'Glow', { start: 20, length: 30 })) as Command<PromoDocument>);
    run(addTitle(newTitle('line', { start: 12, length: 24 })));
    key('glow', 'opacity', 25, 0.5);
    key('line', 'opacity', 3, 0.5);
    const time = await opened('layer', 'glow');
    expect(usePromoGraph().item.value).deep.include({ start: 0, within: [20, 50] });
    expect(time.findAll('[data-test=graph-names] button').map((n) => n.text())).deep.equal(['Opacity']);
    usePromo().chosen.value = { kind: 'title', id: 'line' };
    await rest();
    expect(usePromoGraph().item.value).deep.include({ start: 12, within: [0, 24] });
  });
});
