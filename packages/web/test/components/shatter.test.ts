import './page.ts';
import { expect } from 'chai';
import { replaceTracks } from '@tender-orbit/core/document';
import { useActions } from '../../src/actions/index.ts';
import MovesTimeline from '../../src/moves/MovesTimeline.vue';
import ShatterDialog from '../../src/moves/ShatterDialog.vue';
import { useCampaign, useDocuments, useNotices } from '../../src/stores/index.ts';
import type { ShatterReply, ShatterRequest } from '../../src/workers/shatter-worker.ts';
import { NumberField } from '../../src/ui/index.ts';
import { heldWorkers } from './held-workers.ts';
import { clearPage, rest, type show } from './mounted.ts';
import { openCampaign, panel } from './open-campaign.ts';

const real = globalThis.fetch;

describe('shattering a product', () => {
  const { requests, reply } = heldWorkers<ShatterRequest, ShatterReply>();
  beforeEach(async () => {
    await openCampaign();
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  const dialog = async (): Promise<ReturnType<typeof show>> => {
    const shown = panel(ShatterDialog);
    useActions().run('motion.shatter');
    await rest();
    return shown;
  };
  const buttons = (): HTMLButtonElement[] => [...document.querySelectorAll<HTMLButtonElement>('[role=dialog] button')];
  const press = async (words: string): Promise<void> => {
    buttons()
      .find((b) => b.textContent?.trim() === words)!
      .click();
    await rest();
  };
  const boxes = (): HTMLInputElement[] => [
    ...document.querySelectorAll<HTMLInputElement>('[role=dialog] input[type=checkbox]'),
  ];

  it('asks for pieces of what is chosen, at the frame, with the parts that stay whole', async () => {
    const shown = await dialog();
    const numbers = shown.findAllComponents(NumberField);
    numbers.find((field) => field.props('label') === 'Struck at')!.vm.$emit('change', 13, '');
    numbers.find((field) => field.props('label') === 'Pieces')!.vm.$emit('change', 12, '');
    boxes()[1].click();
    await rest();
    await press('Burst');
    // A burst comes from no side.
    expect(document.querySelector('[role=dialog] [aria-label^="Comes from"]')).equal(null);
    await press('Strike');
    const [{ whole, settings, set }] = requests;
    expect(set.products.map(({ id }) => id)).include(whole);
    expect(settings).include({ frame: 12, cells: 12, way: 'burst' });
    expect(settings.whole).deep.equal([1]);
    expect(buttons().at(-1)!.disabled).equal(true);
  });

  it('says what went wrong and can be asked again', async () => {
    await dialog();
    await press('Strike');
    reply({ id: requests[0].id, failed: 'It is not seen.' });
    await rest();
    expect(useNotices().text).equal('It is not seen.');
    await press('Strike');
    expect(requests).length(2);
  });

  it('needs a part that breaks', async () => {
    await dialog();
    for (const box of boxes()) box.click();
    await rest();
    expect(buttons().at(-1)!.disabled).equal(true);
  });

  it('the keys of many parts are one row of the timeline, which opens', async () => {
    const [item] = useCampaign().set!.products;
    const keys = [0, 6, 20].map((frame) => ({ frame, value: frame / 100, ease: 'linear' as const }));
    const pieces = Array.from({ length: 30 }, (_, n) => ({ thing: item.id, path: `own.parts.${n}.shift.1`, keys }));
    useDocuments().run('shot', 'shot', replaceTracks('Shatter', pieces));
    const shown = panel(MovesTimeline);
    await rest();
    const rows = (): number => shown.findAll('.label').length;
    expect(rows()).equal(1);
    expect(shown.text()).include('30 parts');
    await shown.find('[data-test=fold-parts]').trigger('click');
    expect(rows()).equal(31);
    await shown.find('[data-test=fold-parts]').trigger('click');
    expect(rows()).equal(1);
  });
});
