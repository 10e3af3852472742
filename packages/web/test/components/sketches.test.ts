import './page.ts';
import { expect } from 'chai';
import type { TakeSummary } from '../../src/api/index.ts';
import BriefStation from '../../src/brief/BriefStation.vue';
import NewTake from '../../src/composite/NewTake.vue';
import TakeShelf from '../../src/promo/TakeShelf.vue';
import { useCampaign } from '../../src/stores/index.ts';
import { byRole, clearPage, rest } from './mounted.ts';
import { asked, openCampaign, panel } from './open-campaign.ts';

const real = globalThis.fetch;
const take = (values: Partial<TakeSummary>): TakeSummary => ({
  ...{ id: 't1', shot: 'shot', name: 'Take 1', quality: 'draft', width: 64, height: 36, length: 48, state: 'done' },
  ...{ error: null, done: [0, 1, 2], secondsPerFrame: 1, secondsLeft: null, bytes: 0, failed: [] },
  ...{ frames: null, times: null, passes: false, lights: false, createdAt: '2026-01-01T00:00:00Z' },
  ...values,
});
const sketched = take({ id: 'made', shot: 'shot2', name: 'Lid take 1', quality: 'sketch', length: 24 });
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
    const fresh = panel(NewTake);
    expect(fresh.find('[aria-label="Samples"]').exists()).equal(true);
    byRole('radio', 'sketch')!.click();
    await rest();
    expect(fresh.text()).contain('A flat drawing in a moment');
    expect(fresh.find('[aria-label="Samples"]').exists()).equal(false);
    expect(byRole('radio', 'Part')).equal(undefined);
  });
});
