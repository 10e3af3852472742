import './page.ts';
import { expect } from 'chai';
import {
  addClip,
  addMarker,
  addTitle,
  changeClip,
  newPace,
  newTitle,
  type Clip,
  type PromoDocument,
} from '@tender-orbit/core/document';
import type { TakeSummary } from '../../src/api/index.ts';
import LayerShelf from '../../src/composite/LayerShelf.vue';
import ClipDetails from '../../src/promo/ClipDetails.vue';
import MarkerDetails from '../../src/promo/MarkerDetails.vue';
import MixerPanel from '../../src/promo/MixerPanel.vue';
import PromoDetails from '../../src/promo/PromoDetails.vue';
import PromoTimeline from '../../src/promo/PromoTimeline.vue';
import PromoVariables from '../../src/promo/PromoVariables.vue';
import TitleDetails from '../../src/promo/TitleDetails.vue';
import TakeShelf from '../../src/promo/TakeShelf.vue';
import TitleFill from '../../src/promo/TitleFill.vue';
import TitlePlace from '../../src/promo/TitlePlace.vue';
import { usePromoCarry } from '../../src/promo/use-promo-carry.ts';
import type { PromoPlayer } from '../../src/promo/use-player.ts';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useCampaign, useRack } from '../../src/stores/index.ts';
import { computed, defineComponent, h, ref } from 'vue';
import { fromMenu, choose, clearPage, drag, layOut, rest, show } from './mounted.ts';
import { openCampaign, panel, wholeTake } from './open-campaign.ts';

const real = globalThis.fetch;
const promo = (): PromoDocument => useCampaign().promo!;
const take = (id: string): TakeSummary =>
  wholeTake({ id, name: `Take ${id}`, length: 90, done: Array.from({ length: 90 }, (_, i) => i) });
const clip = (id: string, values: Partial<Clip> = {}): Clip => ({
  ...{ id, take: 't1', start: 10, length: 20 },
  ...values,
});
const run: ReturnType<typeof usePromo>['run'] = (command) => usePromo().run(command);
const player: PromoPlayer = {
  playing: ref(false),
  track: computed(() => null),
  stems: computed(() => null),
  toggle: () => undefined,
  seek: (to) => void (usePromo().frame.value = to),
};
const line = () => panel(PromoTimeline, { player });
const lengths = (): number[] => promo().clips.map((c) => c.length);
async function tool(time: ReturnType<typeof line>, name: string): Promise<void> {
  const found = time.findAll('[role=radio]').find((button) => button.text() === name)!;
  await found.trigger('click');
}
async function type(wrapper: ReturnType<typeof show>, label: string, value: string): Promise<void> {
  const input = wrapper.find(`input[aria-label="${label}"]`);
  await input.trigger('focus');
  await input.setValue(value);
  await input.trigger('blur');
}

/** Opens a button's menu and takes the line that begins with some words. */
async function takeLine(of: ReturnType<typeof show>, button: string, line: string): Promise<void> {
  await of.find(`[data-test=${button}]`).trigger('click');
  await rest();
  const lines = [...document.querySelectorAll<HTMLElement>('.v-list-item')];
  lines.find((one) => one.textContent!.trim().startsWith(line))!.click();
  await rest();
}
/** Details of the first title, whatever becomes of it. */
const titleDetails = () =>
  panel(
    defineComponent(() => () => h(TitleDetails, { title: promo().titles[0] })),
    {},
  );

describe('the station Promo', () => {
  beforeEach(async () => {
    await openCampaign({}, { takes: [take('t1'), take('t2')] });
    const { chosen, frame, range } = usePromo();
    chosen.value = null;
    frame.value = 0;
    range.value = null;
    useRack().workOnPromo(() => usePromo().frame.value);
    for (const id of ['a', 'b', 'c']) run(addClip(clip(id), id));
  });
  afterEach(async () => {
    clearPage();
    useRack().workOnPromo(null);
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  describe('trims', () => {
    it('edges trim, at the start too; the rest goes along, in one step', async () => {
      const time = line();
      layOut(time, '.lanes', 60);
      const start = time.findAll('[data-test=clip]')[1].find('[data-part=start]');
      await drag(start, 20, [23, 26], { altKey: true });
      expect(promo().clips[1]).include({ start: 16, length: 14 });
      expect(lengths()).deep.equal([20, 14, 20]);
    });

    it('rolled, a cut moves alone; slipped, a clip shows others; slid, it goes between its neighbours', async () => {
      const time = line();
      layOut(time, '.lanes', 60);
      await tool(time, 'Roll');
      await drag(time.findAll('[data-test=clip]')[1].find('[data-part=start]'), 20, [25], { altKey: true });
      expect(lengths()).deep.equal([25, 15, 20]);
      expect(promo().clips[1].start).equal(15);
      await tool(time, 'Slip');
      await drag(time.findAll('[data-test=clip]')[1], 30, [26], { altKey: true });
      expect(promo().clips[1]).include({ start: 19, length: 15 });
      await tool(time, 'Slide');
      await drag(time.findAll('[data-test=clip]')[1], 30, [27], { altKey: true });
      expect(lengths()).deep.equal([22, 15, 23]);
      expect(promo().clips[2].start).equal(7);
      await time.findAll('[data-test=clip]')[1].trigger('keydown', { key: 'ArrowRight' });
      expect(lengths()).deep.equal([23, 15, 22]);
    });
  });

  it('several clips are chosen with Shift, hidden, given attributes and deleted together', async () => {
    run(changeClip('a', 'Pace', { pace: { ...newPace(), from: 2 } }));
    const time = line();
    layOut(time, '.lanes', 60);
    const clips = () => time.findAll('[data-test=clip]');
    await drag(clips()[0], 5, []);
    const { chosenClips, copyAttributes, pasteAttributes, toggleChosen, removeChosen, duplicateChosen } = usePromo();
    copyAttributes();
    await drag(clips()[1], 25, []);
    await drag(clips()[2], 45, [], { shiftKey: true });
    expect(chosenClips.value).deep.equal(['b', 'c']);
    pasteAttributes();
    expect(promo().clips.map((c) => c.pace?.from)).deep.equal([2, 2, 2]);
    toggleChosen();
    expect(promo().clips.map((c) => c.off ?? false)).deep.equal([false, true, true]);
    toggleChosen();
    expect(promo().clips.some((c) => 'off' in c && c.off)).equal(false);
    removeChosen();
    expect(promo().clips.map((c) => c.id)).deep.equal(['a']);
    usePromo().chosen.value = { kind: 'clip', id: 'a' };
    duplicateChosen();
    expect(promo().clips).length(2);
    expect(promo().clips[1].pace?.from).equal(2);
  });

  it('a take is inserted at the playhead, or for as long as the range is', async () => {
    usePromo().frame.value = 25;
    const shelf = show(TakeShelf);
    await fromMenu(shelf.findAll('[data-test=shelf-take]')[1], 'Insert at the playhead');
    expect(promo().clips.map((c) => [c.take, c.length])).deep.equal([
      ...[['t1', 20]],
      ...[['t1', 5]],
      ...[['t2', 90]],
      ...[['t1', 15]],
      ...[['t1', 20]],
    ]);
    usePromo().bound({ from: 20, to: 32 });
    await fromMenu(shelf.findAll('[data-test=shelf-take]')[0], 'Insert for the range');
    expect(promo().clips[1]).include({ take: 't1', length: 12 });
  });

  it('a part is played round and round, by marks at both ends', async () => {
    const { frame, bound, range } = usePromo();
    frame.value = 12;
    bound({ from: 12 });
    bound({ to: 31 });
    expect(range.value).deep.equal({ from: 12, to: 31 });
    const time = line();
    await time.find('[data-test=loop-off]').trigger('click');
    expect(range.value).equal(null);
    bound({ from: 0, to: 60 });
    expect(range.value).equal(null);
  });

  it('markers stand at the playhead, become notes when they last, and are carried', async () => {
    usePromo().frame.value = 30;
    usePromo().addMarker();
    const [marker] = promo().markers;
    expect(marker).include({ at: 30, length: 0, name: 'Marker' });
    const details = panel(MarkerDetails, { marker });
    await type(details, 'Lasts, f', '12');
    const time = line();
    await time.find('[data-test=marker]').trigger('keydown', { key: 'ArrowLeft' });
    expect(promo().markers[0]).include({ at: 29, length: 12 });
    expect(time.find('[data-test=marker]').attributes('aria-label')).equal('Note Marker');
    run(addMarker({ id: 'm2', name: 'Hit', at: 3, length: 0 }));
    usePromo().chosen.value = { kind: 'marker', id: 'm2' };
    usePromo().removeChosen();
    expect(promo().markers).length(1);
  });

  it('layers of the composite lie over the promo: from the playhead, or for all of it; keyed in its frames', async () => {
    usePromo().frame.value = 12;
    const shelf = show(LayerShelf);
    expect(shelf.find('[data-test=layer-take]').exists()).equal(false);
    expect(shelf.text()).contain('Put over the picture');
    await shelf.find('[data-test=layer-grade]').trigger('click');
    await shelf.find('[data-test=layer-shape]').trigger('click');
    const [grade, shape] = promo().layers;
    expect([grade.start, grade.length, shape.start, shape.length]).deep.equal([0, 0, 12, 48]);
    const rack = useRack();
    rack.setValue(grade, 'exposure', -1);
    rack.key(promo().layers[0], 'exposure');
    usePromo().frame.value = 40;
    rack.setValue(promo().layers[0], 'exposure', 0);
    expect(promo().tracks[0].keys.map((k) => [k.frame, k.value])).deep.equal([
      [12, -1],
      [40, 0],
    ]);
    expect(useCampaign().shot!.layers).deep.equal([]);
    clearPage();
    usePromo().chosen.value = { kind: 'layer', id: grade.id };
    rack.chosen = grade.id;
    const details = panel(PromoDetails, {});
    await choose(details, 'Ease from these keys', 'Linear');
    expect(promo().tracks[0].keys[1].ease).equal('linear');
    const time = line();
    await time.findAll('[data-test=layer]')[0].trigger('keydown', { key: 'ArrowRight' });
    expect(promo().layers[1].start).equal(13);
    await time.findAll('[data-test=layer]')[1].trigger('keydown', { key: 'ArrowRight' });
    expect(promo().layers[0].start).equal(1);
    expect(promo().tracks[0].keys.map((k) => k.frame)).deep.equal([13, 41]);
    usePromo().chosen.value = { kind: 'layer', id: shape.id };
    usePromo().removeChosen();
    expect(promo().layers.map((l) => l.kind)).deep.equal(['grade']);
  });

  it('a clip says what is seen of its picture at the playhead', async () => {
    const details = panel(ClipDetails, { clip: promo().clips[0] });
    await details.find('[data-test=picture-recipe]').trigger('click');
    await rest();
    const lines = [...document.querySelectorAll<HTMLElement>('.v-list-item')];
    lines.find((l) => l.textContent?.trim() === 'Fade in')!.click();
    await rest();
    const moved = panel(ClipDetails, { clip: promo().clips[0] });
    const opacity = (): string => (moved.find('input[aria-label="Opacity, %"]').element as HTMLInputElement).value;
    expect(opacity()).equal('0');
    usePromo().frame.value = 19;
    await rest();
    expect(opacity()).equal('100');
    await moved
      .findAll('button')
      .find((b) => b.text() === 'At rest')!
      .trigger('click');
    expect([promo().tracks, promo().clips[0].picture]).deep.equal([[], undefined]);
  });

  it('rows of the mixer have levels, gain, tone and a mute', async () => {
    const sound = { sampleRate: 48000, left: new Float32Array(48000).fill(0.5), right: new Float32Array(48000) };
    const mixer = panel(MixerPanel, { stems: { music: sound, sounds: sound, out: sound } });
    expect(mixer.find('[data-test=strip-music]').text()).contain('-6.0 dB');
    // A meter of 3 s has nothing to tell of the first second.
    expect(mixer.find('[data-test=strip-all]').text())
      .match(/400 ms-?[\d.]* ?LUFS|400 mssilent/)
      .contain('3 ssilent');
    await type(mixer.find('[data-test=strip-music]') as never, 'Gain, dB', '-3');
    expect(promo().mixer).deep.include({ music: { ...promo().mixer!.music, gain: -3 } });
    await mixer
      .find('[data-test=strip-sounds]')
      .findAll('button')
      .find((b) => b.text() === 'Mute')!
      .trigger('click');
    expect(promo().mixer!.sounds.muted).equal(true);
    await mixer
      .findAll('button')
      .find((b) => b.text() === 'As it comes')!
      .trigger('click');
    expect('mixer' in promo()).equal(false);
  });

  it('titles name values in braces, which are asked for and come from the campaign', async () => {
    run(addTitle(newTitle('t', { text: '{product} for {price}' })));
    const fields = show(PromoVariables);
    await fields.find('button').trigger('click');
    await rest();
    await fields.find('[data-test=campaign-variables]').trigger('click');
    expect(promo().variables!.map((v) => v.name)).include.members(['campaign', 'date']);
    await rest();
    const add = fields.find('[data-test=add-variable]');
    expect(add.text()).match(/^Add (price|product)$/);
    await add.trigger('click');
    expect(promo().variables!.some((v) => v.name === add.text().slice(4) || v.value === '')).equal(true);
  });

  it('a title gets a gradient and balanced lines, and gives its style to others', async () => {
    run(addTitle(newTitle('t', { text: 'Slow' })));
    run(addTitle(newTitle('u', { text: 'Heath', colour: '#FF0000' })));
    const fill = panel(TitleFill, { title: promo().titles[0] });
    await fill.find('button').trigger('click');
    await rest();
    for (const box of fill.findAll('input[type=checkbox]')) await box.setValue(true);
    expect(promo().titles[0]).deep.include({ balanced: true, fill: { colour: '#E0A63C', angle: -90 } });
    await type(fill, 'Leading, em', '1.4');
    expect(promo().titles[0].leading).equal(1.4);
    const details = titleDetails();
    await type(details, 'Bend, deg', '60');
    expect(promo().titles[0].bend).equal(60);
    await rest();
    await takeLine(details, 'title-style', 'Give it to "Heath"');
    expect(promo().titles[1]).deep.include({
      text: 'Heath',
      balanced: true,
      bend: 60,
      colour: promo().titles[0].colour,
    });
  });

  it('a title is keyed at the playhead, moves by recipe, and comes to rest', async () => {
    run(addTitle(newTitle('t', { text: 'Slow', start: 10, length: 40 })));
    const { frame } = usePromo();
    frame.value = 10;
    const place = panel(TitlePlace, { title: promo().titles[0] });
    const bead = () => place.findAll('button').find((b) => /Scale/.test(b.attributes('aria-label') ?? ''))!;
    await bead().trigger('click');
    frame.value = 49;
    await rest();
    await type(place, 'Scale, %', '150');
    expect(promo().tracks).deep.equal([
      {
        ...{ thing: 't', path: 'scale' },
        keys: [
          { frame: 0, value: 1, ease: promo().tracks[0].keys[0].ease },
          { frame: 39, value: 1.5, ease: promo().tracks[0].keys[1].ease },
        ],
      },
    ]);
    // What is not keyed is of all of the title.
    await type(place, 'Rotation, deg', '12');
    expect(promo().titles[0].rotation).equal(12);
    await takeLine(place, 'title-move', 'Drift');
    expect(promo().tracks.map(({ path }) => path)).deep.equal(['scale', 'x']);
    await rest();
    await place
      .findAll('button')
      .find((b) => b.text() === 'At rest')!
      .trigger('click');
    expect(promo().tracks).deep.equal([]);
  });

  it('letters are set apart by their words or the selection, and like the others again', async () => {
    run(addTitle(newTitle('t', { text: 'Slow as the hill' })));
    const details = titleDetails();
    await details
      .findAll('button')
      .find((b) => b.text().includes('Letters set apart'))!
      .trigger('click');
    await rest();
    const apart = (line: string): Promise<void> => takeLine(details, 'set-apart', line);
    await apart('“hill”');
    expect(promo().titles[0].runs).deep.equal([{ from: 12, to: 16, colour: '#E0A63C' }]);
    await type(details, 'Raised, em', '0.3');
    const text = details.find<HTMLTextAreaElement>('textarea');
    text.element.setSelectionRange(0, 4);
    await text.trigger('select');
    await apart('The selection, “Slow”');
    expect(promo().titles[0].runs!.map(({ from, to, raise }) => [from, to, raise])).deep.equal([
      [0, 4, undefined],
      [12, 16, 0.3],
    ]);
    await text.setValue('So slow as the hill');
    expect(promo().titles[0].runs!.at(-1)!.from).equal(15);
    await details.find('[aria-label="Set hill like the others"]').trigger('click');
    expect(promo().titles[0].runs).length(1);
  });

  it('what is chosen is carried about in the picture: titles, clips, layers', async () => {
    run(addTitle(newTitle('t', { x: 0.5, y: 0.5 })));
    const carry = usePromoCarry(() => 100);
    const dragged = (by: [number, number]): void => {
      const target = { setPointerCapture: () => undefined };
      const at = (x: number, y: number) =>
        ({ button: 0, clientX: x, clientY: y, pointerId: 1, currentTarget: target }) as unknown as PointerEvent;
      carry.down(at(50, 50));
      carry.move(at(50 + by[0], 50 + by[1]));
      carry.up();
    };
    const { chosen } = usePromo();
    chosen.value = { kind: 'title', id: 't' };
    dragged([2, 1]);
    expect(promo().titles[0]).include({ x: 0.5, y: 0.5 });
    dragged([32, -10]);
    expect(promo().titles[0].x).closeTo(0.5 + (0.32 * promo().height) / promo().width, 1e-3);
    expect(promo().titles[0].y).closeTo(0.4, 1e-3);
    chosen.value = { kind: 'clip', id: 'a' };
    dragged([10, 20]);
    expect(promo().clips[0].picture).include({ x: 0.1, y: -0.2 });
    const rack = useRack();
    rack.add('text');
    chosen.value = { kind: 'layer', id: rack.chosen };
    expect(carry.carries.value).equal(true);
    dragged([-10, 20]);
    expect(rack.layer).include({ x: -0.1, y: -0.2 });
    rack.change(rack.layer!, 'Lock', { locked: true });
    expect(carry.carries.value).equal(false);
  });
});
