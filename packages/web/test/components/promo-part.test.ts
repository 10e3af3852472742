import './page.ts';
import { expect } from 'chai';
import { DOMWrapper } from '@vue/test-utils';
import type { Clip } from '@tender-orbit/core/document';
import TakePart from '../../src/promo/TakePart.vue';
import TakeShelf from '../../src/promo/TakeShelf.vue';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useCampaign } from '../../src/stores/index.ts';
import { choose, clearPage, fromMenu, rest, setNumber, type show } from './mounted.ts';
import { openCampaign, panel, wholeTake } from './open-campaign.ts';

const real = globalThis.fetch;
const take = wholeTake({ length: 60, done: Array.from({ length: 60 }, (_, i) => i) });
const clips = (): Clip[] => useCampaign().promo!.clips;
/** The page as far as tests ask of what is mounted: a dialog lies outside of what opens it. */
const page = (): ReturnType<typeof show> => new DOMWrapper(document.body) as unknown as ReturnType<typeof show>;
const dialog = (): ReturnType<ReturnType<typeof show>['find']> => page().find('[data-test=take-part]');

describe('a part of a take', () => {
  beforeEach(async () => {
    await openCampaign({}, { takes: [take] });
    const { chosen, frame, range } = usePromo();
    chosen.value = range.value = null;
    frame.value = 0;
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  async function ends(first: string, last: string): Promise<void> {
    await setNumber(page(), 'First frame, f', first);
    await setNumber(page(), 'Last frame, f', last);
  }
  const press = async (name: string): Promise<void> => {
    await page().find(`[data-test=part-${name}]`).trigger('click');
    await rest();
  };

  it('is chosen from the shelf by its ends, of which the one that is moved is shown', async () => {
    const shelf = panel(TakeShelf);
    await fromMenu(shelf.find('[data-test=shelf-take]'), 'A part of it...');
    expect(dialog().find('h2').text()).equal('A part of Take 1');
    await ends('11', '30');
    expect(dialog().find('img').attributes('alt')).equal('Frame 30');
    expect(dialog().text()).contain('20 frames, 0.83 s.');
    await press('add');
    expect(clips()).length(1);
    expect(clips()[0]).include({ take: 't1', start: 10, length: 20 });
    // A first frame is never behind the last.
    await fromMenu(shelf.find('[data-test=shelf-take]'), 'A part of it...');
    await ends('40', '20');
    await press('insert');
    expect(clips()[0]).include({ start: 39, length: 1 });
    expect(clips()).length(2);
  });

  it('gives a range of the time line its beginning, its end, or all of it', async () => {
    const work = usePromo();
    work.addTake(take);
    work.range.value = { from: 12, to: 24 };
    let closed = 0;
    panel(TakePart, { take, onClose: () => closed++ });
    await rest();
    await ends('11', '34');
    expect(dialog().text()).contain('the range of the time line has 12, 0.50 s');
    await press('overwrite');
    expect(clips().map(({ start, length }) => [start, length])).deep.equal([
      [0, 12],
      [10, 12],
      [24, 36],
    ]);
    await choose(page(), 'The range shows', 'up to its last frame');
    await press('overwrite');
    expect(clips()[1]).include({ start: 22, length: 12 });
    await choose(page(), 'The range shows', 'all of it, slower or faster');
    await press('overwrite');
    expect(clips()[1]).deep.include({ start: 10, length: 12 });
    expect(clips()[1].pace).include({ from: 2, to: 2 });
    expect(closed).equal(3);
  });
});
