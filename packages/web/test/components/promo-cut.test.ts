import './page.ts';
import { expect } from 'chai';
import {
  addClip,
  addTitle,
  bringMusic,
  changeMusic,
  newTitle,
  setPart,
  newTransition,
  type Clip,
  type PromoDocument,
} from '@tender-orbit/core/document';
import { framesPlayed } from '@tender-orbit/core/promo';
import type { TakeSummary } from '../../src/api/index.ts';
import ClipDetails from '../../src/promo/ClipDetails.vue';
import CutOnBeats from '../../src/promo/CutOnBeats.vue';
import PromoTimeline from '../../src/promo/PromoTimeline.vue';
import TitleDetails from '../../src/promo/TitleDetails.vue';
import TitleDress from '../../src/promo/TitleDress.vue';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useSplit } from '../../src/promo/use-split.ts';
import { useCampaign } from '../../src/stores/index.ts';
import { defineComponent, h, ref } from 'vue';
import { choose, clearPage, rest, show } from './mounted.ts';
import { openCampaign, panel, wholeTake } from './open-campaign.ts';

const real = globalThis.fetch;
const promo = (): PromoDocument => useCampaign().promo!;
const take = (id: string, name: string): TakeSummary => wholeTake({ id, name });
const run: ReturnType<typeof usePromo>['run'] = (command) => usePromo().run(command);
const clip = (id: string, values: Partial<Clip> = {}): Clip => ({
  ...{ id, take: 't1', start: 0, length: 40 },
  ...values,
});
/** Types a value into a number field and leaves it. */
async function type(wrapper: ReturnType<typeof show>, label: string, value: string): Promise<void> {
  const input = wrapper.find(`input[aria-label="${label}, %"]`);
  await input.trigger('focus');
  await input.setValue(value);
  await input.trigger('blur');
}

describe('the cut of a promo', () => {
  beforeEach(async () => {
    await openCampaign({}, { takes: [take('t1', 'Take 1'), take('t2', 'Take 2')] });
    usePromo().chosen.value = null;
    usePromo().frame.value = 0;
    run(addClip(clip('a'), 'Take 1'));
    run(addClip(clip('b', { start: 3, length: 20 }), 'Take 1'));
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('a clip comes by a transition, which says what its take lacks; the first one only by a cut', async () => {
    const first = panel(ClipDetails, { clip: promo().clips[0] });
    expect(first.find('[aria-label="Comes by"]').exists()).equal(false);
    const details = panel(ClipDetails, { clip: promo().clips[1] });
    await choose(details, 'Comes by', 'wipe');
    expect(promo().clips[1].into).include({ kind: 'wipe', frames: 8 });
    clearPage();
    const wiping = panel(ClipDetails, { clip: promo().clips[1] });
    expect(wiping.text()).contain('The transition begins 1 frame before the take does');
    await type(wiping, 'Softness', '40');
    expect(promo().clips[1].into?.softness).equal(0.4);
    await choose(wiping, 'Comes by', 'cut');
    expect('into' in promo().clips[1]).equal(false);
  });

  it('a pace is set for both ends at once, then for each; the take is fitted, and it goes back to natural', async () => {
    await type(panel(ClipDetails, { clip: promo().clips[0] }), 'At the start', '200');
    expect(promo().clips[0].pace).include({ from: 2, to: 2 });
    await type(panel(ClipDetails, { clip: promo().clips[0] }), 'At the end', '50');
    expect(promo().clips[0].pace).include({ from: 2, to: 0.5 });
    const details = panel(ClipDetails, { clip: promo().clips[0] });
    expect(details.text()).contain('The take ends 2 frames before');
    const press = (text: string) =>
      details
        .findAll('button')
        .find((b) => b.text() === text)!
        .trigger('click');
    await press('Fit the take');
    expect(framesPlayed(promo().clips[0])).closeTo(48, 1e-9);
    expect(promo().clips[0].pace!.from / promo().clips[0].pace!.to, 'its ramp').closeTo(4, 1e-9);
    await press('Natural');
    expect('pace' in promo().clips[0]).equal(false);
  });

  it('a picture is pushed slowly, then as it is told', async () => {
    const details = panel(ClipDetails, { clip: promo().clips[0] });
    await details.find('[data-test=picture-recipe]').trigger('click');
    await rest();
    const lines = [...document.querySelectorAll<HTMLElement>('[role=menuitem], .v-list-item')];
    lines.find((line) => line.textContent?.trim() === 'Slow push')!.click();
    await rest();
    expect(promo().clips[0].picture).include({ cover: true, scale: 1 });
    expect(promo().tracks.map((t) => [t.thing, t.path, t.keys.map((k) => [k.frame, k.value])])).deep.equal([
      ['a', 'scale', [0, 39].map((frame) => [frame, frame === 0 ? 1 : 1.08])],
    ]);
    const moved = panel(ClipDetails, { clip: promo().clips[0] });
    await choose(moved, 'Ease from these keys', 'Soft landing');
    expect(promo().tracks[0].keys[0].ease).deep.equal({ kind: 'soft', start: 0, landing: 1 });
    // At the playhead a keyed value is keyed, one that is not holds for all of the clip.
    usePromo().frame.value = 20;
    await rest();
    await type(moved, 'Scale', '120');
    await type(moved, 'Across', '10');
    expect(promo().tracks[0].keys.map((k) => k.frame)).deep.equal([0, 20, 39]);
    expect(promo().clips[0].picture!.x).equal(0.1);
    await moved.find('[aria-label="Key Across"]').trigger('click');
    expect(promo().tracks.map((t) => t.path)).deep.equal(['scale', 'x']);
  });

  it('a picture of another proportion fills the frame as it is told', async () => {
    await choose(panel(ClipDetails, { clip: promo().clips[0] }), 'Fills', 'cropped');
    expect(promo().clips[0].fill).equal('cropped');
    clearPage();
    await choose(panel(ClipDetails, { clip: promo().clips[0] }), 'Fills', 'between bars');
    expect('fill' in promo().clips[0]).equal(false);
  });

  it('a title is dressed: a shadow asks for more once it is there, and letters are plain again by one press', async () => {
    run(addTitle(newTitle('t', { text: 'slow as the hill', start: 0, length: 100 })));
    const bare = panel(TitleDress, { title: promo().titles[0] });
    await bare.find('button').trigger('click');
    await rest();
    expect(bare.find('input[aria-label="Softness, %"]').exists()).equal(false);
    await type(bare, 'Shadow', '70');
    expect(promo().titles[0].dress).include({ shadow: 0.7, shadowBlur: 0.25, box: 0 });
    const dressed = panel(TitleDress, { title: promo().titles[0] });
    await dressed.find('button').trigger('click');
    await rest();
    await type(dressed, 'Softness', '60');
    expect(promo().titles[0].dress?.shadowBlur).equal(0.6);
    await dressed
      .findAll('button')
      .find((b) => b.text() === 'Plain letters')!
      .trigger('click');
    expect('dress' in promo().titles[0]).equal(false);
  });

  it('a title comes word by word, one on each beat', async () => {
    run(addTitle(newTitle('t', { text: 'slow as the hill', start: 0, length: 100 })));
    await choose(panel(TitleDetails, { title: promo().titles[0] }), 'Comes', 'word by word');
    expect(promo().titles[0].parts).include({ part: 'word', overlap: 0.5 });
    run(bringMusic({ asset: 'a'.repeat(64), name: 'Heath' }));
    run(changeMusic('Tempo', { tempo: 120 }));
    const details = panel(TitleDetails, { title: promo().titles[0] });
    await details
      .findAll('button')
      .find((b) => b.text().startsWith('One on each beat'))!
      .trigger('click');
    const { num, den } = useCampaign().rate;
    const beats = [0, 1, 2, 3].map((n) => Math.round((n * 0.5 * num) / den));
    expect(promo().titles[0].parts!.times).deep.equal(beats);
  });

  it('the clip under the playhead is split there', async () => {
    usePromo().frame.value = 30;
    const { splittable, split } = useSplit();
    expect(splittable.value).equal(true);
    split();
    expect(promo().clips.map((c) => [c.start, c.length])).deep.equal([
      [0, 30],
      [30, 10],
      [3, 20],
    ]);
    usePromo().frame.value = 40;
    expect(splittable.value).equal(false);
  });

  it('all clips are cut anew on the beats of the music, in one step', async () => {
    run(bringMusic({ asset: 'a'.repeat(64), name: 'Heath' }));
    run(changeMusic('Tempo', { tempo: 120 }));
    const wrapper = panel(CutOnBeats, { open: false });
    await wrapper.setProps({ open: true });
    await rest();
    const dialog = document.querySelector('[data-test=cut-on-beats]')!;
    expect(dialog.textContent).contain('of 2 takes');
    (dialog.querySelector('[data-test=cut]') as HTMLButtonElement).click();
    await rest();
    expect(
      promo()
        .clips.map((c) => c.take)
        .sort()[0],
    ).equal('t1');
    expect(promo().clips.reduce((sum, c) => sum + c.length, 0)).equal(60);
    expect(promo().clips.every((c) => c.id !== 'a')).equal(true);
    expect(wrapper.emitted('close')).length(1);
  });

  it('a transition lasts beats, an iris has an outline, smoke its colour, and the cut goes to its beat', async () => {
    run(bringMusic({ asset: 'a'.repeat(64), name: 'Heath' }));
    usePromo().editClip('b', 'Slip clip', { start: 10 });
    // A beat each 12 frames; the cut lies at 40.
    run(changeMusic('Tempo', { tempo: 120 }));
    const second = () => h(ClipDetails as never, { clip: promo().clips[1] } as never);
    const iris = panel(defineComponent({ setup: () => second }));
    await choose(iris, 'Comes by', 'iris');
    await choose(iris, 'Opens in', 'hexagon');
    await iris
      .findAll('button')
      .find((b) => b.text() === 'A bar')!
      .trigger('click');
    expect(promo().clips[1].into).include({ kind: 'iris', shape: 'hexagon', frames: 48 });
    await choose(iris, 'Comes by', 'smoke');
    expect(promo().clips[1].into).include({ kind: 'smoke', colour: '#D9D2DC' });
    expect(iris.find('[data-test=cut-to-beat]').text()).equal('Cut to the beat, -4 f');
    await iris.find('[data-test=cut-to-beat]').trigger('click');
    expect(promo().clips.map(({ length }) => length)).deep.equal([36, 24]);
    await rest();
    expect(iris.find('[data-test=cut-to-beat]').exists()).equal(false);
  });

  it('the timeline tells paces and transitions', () => {
    run(setPart('a', 'Pace', 'pace', { from: 1, to: 0.5, reverse: true, between: 'blend' }));
    run(setPart('b', 'Transition', 'into', newTransition('whip', 6)));
    const player = { playing: ref(false), track: ref(null), toggle: () => {}, seek: () => {} };
    const wrapper = panel(PromoTimeline, { player });
    const labels = wrapper.findAll('[data-test=clip]').map((c) => c.attributes('aria-label'));
    expect(labels).deep.equal(['Take 1 40 f, back at 100 to 50 %, clip', 'Take 1 20 f, clip, comes by whip']);
  });
});
