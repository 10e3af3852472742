import './page.ts';
import { expect } from 'chai';
import type { TakeSummary } from '../../src/api/index.ts';
import { addClip } from '@tender-orbit/core/document';
import BriefStation from '../../src/brief/BriefStation.vue';
import NewTake from '../../src/composite/NewTake.vue';
import TakeShelf from '../../src/promo/TakeShelf.vue';
import ReleaseStation from '../../src/release/ReleaseStation.vue';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useCampaign } from '../../src/stores/index.ts';
import { ConfirmDialog } from '../../src/ui/index.ts';
import { byRole, clearPage, rest, show } from './mounted.ts';
import { asked, openCampaign, panel, wholeTake } from './open-campaign.ts';

const real = globalThis.fetch;
const take = wholeTake;
const sketched = take({
  id: 'made',
  shot: 'shot2',
  name: 'Lid take 1',
  quality: 'sketch',
  length: 24,
  done: [0, 1, 2],
});
const clips = () => useCampaign().promo!.clips;

describe('sketches that stand in for takes', () => {
  let takes: TakeSummary[];
  beforeEach(async () => {
    takes = [take({})];
    const answers = {
      'GET /api/campaigns/c/deliveries': [],
      'GET /api/campaigns/c/simulation-runs': [],
      get 'GET /api/campaigns/c/takes'() {
        return takes;
      },
      get 'POST /api/takes'() {
        takes = [sketched, ...takes];
        return { id: 'made', name: 'Lid take 1' };
      },
    };
    await openCampaign(answers, { takes });
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));
  const posted = (): unknown[] => asked.filter(([m, p]) => m === 'POST' && p === '/api/takes').map(([, , b]) => b);

  it('shots without a take are drawn into the cut, and swapped once they are rendered, in one step', async () => {
    const shelf = panel(TakeShelf);
    expect(shelf.find('[data-test=swap-sketches]').exists()).equal(false);
    expect(shelf.find('[data-test=add-sketches]').text()).equal('Sketch the shot without a take');
    await shelf.find('[data-test=add-sketches]').trigger('click');
    await rest();
    expect(posted()).deep.equal([
      {
        shot: 'shot2',
        quality: 'sketch',
        width: useCampaign().campaign!.width > 640 ? 640 : useCampaign().campaign!.width,
      },
    ]);
    expect(clips().map(({ take: of, length }) => [of, length])).deep.equal([['made', 24]]);
    expect(shelf.find('[data-test=add-sketches]').exists()).equal(false);
    expect(panel(ReleaseStation).find('[data-test=still-sketches]').text()).contain('One clip shows a sketch');
    const before = clips()[0];
    useCampaign().takes = [take({ id: 'real', shot: 'shot2', length: 24 }), ...takes];
    await rest(5);
    expect(shelf.find('[data-test=swap-sketches]').text()).equal('Swap 1 sketch for takes');
    await shelf.find('[data-test=swap-sketches]').trigger('click');
    expect(clips()).deep.equal([{ ...before, take: 'real' }]);
    await rest(5);
    expect(shelf.find('[data-test=swap-sketches]').exists()).equal(false);
  });

  it('boards without a picture are drawn from the brief', async () => {
    const brief = panel(BriefStation);
    await brief.find('[data-test=sketch-boards]').trigger('click');
    await rest();
    expect(posted()).length(1);
    expect(brief.find('[data-test=sketch-boards]').exists()).equal(false);
    expect(useCampaign().coverOf('shot2')).equal('/api/takes/made/frames/1');
  });

  it('a sketch has no samples and no part', async () => {
    const fresh = panel(NewTake, { part: null });
    expect(fresh.find('[aria-label="Samples"]').exists()).equal(true);
    byRole('radio', 'sketch')!.click();
    await rest();
    expect(fresh.text()).contain('A flat drawing in a moment');
    expect(fresh.find('[aria-label="Samples"]').exists()).equal(false);
    expect(byRole('radio', 'Part')).equal(undefined);
  });

  it('in-betweens that no clip shows any more are deleted when that is meant', async () => {
    const slow = take({ id: 'slow', times: [0, 0.5, 1], length: 3, bytes: 2_000_000 });
    const spare = take({ id: 'spare', times: [0, 0.5], length: 2, bytes: 1_000_000 });
    useCampaign().takes = [take({}), slow, spare];
    const pace = { from: 0.5, to: 0.5, reverse: false, between: 'rendered' as const };
    const rendered = { take: 'slow', times: [0, 0.5, 1] };
    usePromo().run(addClip({ id: 'a', take: 't1', start: 0, length: 3, pace: { ...pace, rendered } }, 'Take 1'));
    const shelf = panel(TakeShelf);
    show(ConfirmDialog);
    await rest(5);
    await shelf.find('[data-test=clear-unused]').trigger('click');
    await rest();
    byRole('button', 'Delete in-betweens')!.click();
    await rest();
    expect(asked.filter(([m]) => m === 'DELETE').map(([, path]) => path)).deep.equal(['/api/takes/spare']);
  });
});
