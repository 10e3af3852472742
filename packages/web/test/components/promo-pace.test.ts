import './page.ts';
import { expect } from 'chai';
import { addClip, newPace, setPart, type Clip, type PromoDocument } from '@tender-orbit/core/document';
import { framesPlayed, speedAt, takeTime } from '@tender-orbit/core/promo';
import { defineComponent, h } from 'vue';
import type { TakeSummary } from '../../src/api/index.ts';
import ClipPace from '../../src/promo/ClipPace.vue';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useCampaign } from '../../src/stores/index.ts';
import { choose, clearPage, rest, type show } from './mounted.ts';
import { asked, openCampaign, panel, wholeTake } from './open-campaign.ts';

const real = globalThis.fetch;
const promo = (): PromoDocument => useCampaign().promo!;
const clip = (): Clip => promo().clips[0];
const take = wholeTake;
type Wrapper = ReturnType<typeof show>;
const press = async (of: Wrapper, text: string): Promise<void> => {
  await of
    .findAll('button')
    .find((b) => b.text() === text)!
    .trigger('click');
  await rest(5);
};
async function type(of: Wrapper, label: string, value: string): Promise<void> {
  const input = of.find(`input[aria-label="${label}"]`);
  await input.setValue(value);
  await input.trigger('keydown', { key: 'Enter' });
  await rest(5);
}

describe('the pace of a clip', () => {
  let takes: TakeSummary[];
  beforeEach(async () => {
    takes = [take()];
    const answers = {
      'POST /api/takes/t1/times': { id: 'r', name: 'Take 2' },
      'GET /api/campaigns/c/takes': takes,
      'GET /api/campaigns/c/deliveries': [],
      'GET /api/campaigns/c/simulation-runs': [],
    };
    await openCampaign(answers, { takes });
    usePromo().chosen.value = null;
    usePromo().frame.value = 0;
    usePromo().run(addClip({ id: 'a', take: 't1', start: 0, length: 40 }, 'Take 1'));
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));
  const details = (): Wrapper =>
    panel(defineComponent({ setup: () => () => h(ClipPace as never, { clip: clip(), takeLength: 48 } as never) }));
  const byPoints = async (): Promise<Wrapper> => {
    const pace = details();
    await pace.find('input[type=checkbox]').setValue(true);
    await rest(5);
    return pace;
  };

  it('is given by points that are dragged, moved by keys, typed and taken away', async () => {
    const pace = await byPoints();
    expect(clip().pace!.points).deep.equal([
      { at: 0, speed: 1, ramp: 'even' },
      { at: 40, speed: 1, ramp: 'even' },
    ]);
    const graph = pace.find('[data-test=pace-graph]');
    graph.element.getBoundingClientRect = () => new DOMRect(0, 0, 240, 84);
    // In the middle of the graph, at half its height: a speed between 100 and 200 %.
    await graph.trigger('dblclick', { clientX: 120, clientY: 42 });
    const added = clip().pace!.points![1];
    expect(added).include({ at: 20, ramp: 'smooth' });
    expect(added.speed).closeTo(1.15, 0.01);
    expect(speedAt(clip(), 20)).equal(added.speed);
    const point = (n: number) => pace.findAll('[role=slider]')[n];
    expect(point(1).attributes()).include({ 'aria-label': 'Speed at frame 21', 'aria-valuenow': '115' });
    for (const key of ['ArrowUp', 'ArrowUp', 'ArrowRight']) await point(1).trigger('keydown', { key });
    expect(clip().pace!.points![1].at).equal(21);
    expect(clip().pace!.points![1].speed).closeTo(1.25, 1e-9);
    // Not past its neighbours, however far.
    await point(1).trigger('pointerdown', { pointerId: 1 });
    await graph.trigger('pointermove', { clientX: 900, clientY: 78 });
    await graph.trigger('pointerup');
    expect(clip().pace!.points![1]).include({ at: 40, speed: 0 });
    await type(pace, 'At frame, f', '11');
    await type(pace, 'Speed, %', '50');
    expect(clip().pace!.points![1]).include({ at: 10, speed: 0.5 });
    await choose(pace, 'To the next speed', 'holds, then jumps');
    expect(framesPlayed(clip())).closeTo(7.5 + 15, 1e-9);
    expect(clip().pace).include({ from: 1, to: 1 });
    await point(1).trigger('keydown', { key: 'Delete' });
    expect(clip().pace!.points).length(2);
    await pace.find('input[type=checkbox]').setValue(false);
    expect('points' in clip().pace!).equal(false);
  });

  it('holds the picture from the playhead on, and is fitted with its shape', async () => {
    usePromo().frame.value = 10;
    const pace = await byPoints();
    await press(pace, 'Hold here');
    const held = clip();
    expect([10, 16, 22, 23].map((at) => takeTime(held, at))).deep.equal([10, 10, 10, 11]);
    await press(pace, 'Add at playhead');
    expect(clip().pace!.points!.filter(({ at }) => at === 10)).length.above(0);
    await press(pace, 'Fit the take');
    expect(framesPlayed(clip())).closeTo(48, 1e-6);
    usePromo().frame.value = 60;
    await rest(5);
    const hold = pace.findAll('button').find((b) => b.text() === 'Hold here')!;
    expect((hold.element as HTMLButtonElement).disabled).equal(true);
  });

  it('in-betweens are rendered at the times that it asks for; until then it says how far they are', async () => {
    usePromo().run(setPart('a', 'Pace', 'pace', { ...newPace(), from: 0.5, to: 0.5 }));
    const pace = details();
    await choose(pace, 'In between', 'rendered');
    await press(pace, 'Render 40 frames');
    await rest();
    const [, , body] = asked.find(([method, path]) => method === 'POST' && path === '/api/takes/t1/times')!;
    expect((body as { times: number[] }).times).deep.equal(Array.from({ length: 40 }, (_, n) => n / 2));
    expect(clip().pace!.rendered).deep.equal({ take: 'r', times: (body as { times: number[] }).times });
    const half = {
      id: 'r',
      length: 40,
      times: clip().pace!.rendered!.times,
      done: Array.from({ length: 20 }, (_, i) => i),
    };
    useCampaign().takes = [take(), take({ ...half, state: 'rendering', secondsLeft: 90 })];
    await rest(5);
    expect(pace.text()).contain('20 of 40 rendered').contain('blended till then').contain('Pause');
    // On the shelf only takes of whole shots lie.
    expect(useCampaign().wholeTakes.map(({ id }) => id)).deep.equal(['t1']);
    useCampaign().takes = [take(), take({ ...half, state: 'done' })];
    await rest(5);
    expect(pace.text()).contain('All 40 frames are rendered');
    usePromo().run(setPart('a', 'Pace', 'pace', { ...clip().pace!, from: 0.25, to: 0.25 }));
    await rest(5);
    expect(pace.text()).contain('20 of 40 frames are new since');
    // Of a take that was deleted nothing is left.
    useCampaign().takes = [take()];
    await rest(5);
    expect(pace.find('[data-test=render-times]').text()).equal('Render 40 frames');
  });
});
