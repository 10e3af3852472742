import './page.ts';
import { expect } from 'chai';
import type { Ease, Key } from '@tender-orbit/core/document';
import KeyDetails from '../../src/moves/KeyDetails.vue';
import { useKeySelection } from '../../src/moves/use-key-selection.ts';
import { useCampaign, useDocuments } from '../../src/stores/index.ts';
import { choose, clearPage, rest, type show } from './mounted.ts';
import { openCampaign, panel, turning } from './open-campaign.ts';

type Wrapper = ReturnType<typeof show>;
const real = globalThis.fetch;

describe('the chosen key', () => {
  const product = () => useCampaign().set!.products[0];
  const keys = (): Key[] => useCampaign().shot!.tracks[0].keys;
  const ease = (): Ease => keys()[0].ease;
  let details: Wrapper;

  beforeEach(async () => {
    await openCampaign({});
    useDocuments().run('shot', useCampaign().shotId, turning(product().id));
    useKeySelection().only({ thing: product().id, path: 'turn' }, 0);
    details = panel(KeyDetails);
  });
  afterEach(async () => {
    useKeySelection().clear();
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  const setNumber = async (label: string, value: string): Promise<void> => {
    const input = details.find(`input[aria-label="${label}"]`);
    await input.setValue(value);
    await input.trigger('keydown', { key: 'Enter' });
    await rest();
  };

  it('takes an ease of every kind, with its numbers', async () => {
    await choose(details, 'Ease', 'Soft landing');
    expect(ease()).deep.equal({ kind: 'soft', start: 0, landing: 1 });
    await setNumber('Soft landing, %', '60');
    expect(ease()).deep.equal({ kind: 'soft', start: 0, landing: 0.6 });
    await choose(details, 'Ease', 'Spring');
    await setNumber('Damping, Ns/m', '8');
    expect(ease()).deep.include({ kind: 'spring', damping: 8 });
    await choose(details, 'Ease', 'Hold');
    expect(ease()).equal('hold');
    expect(details.find('input[aria-label="Damping, Ns/m"]').exists()).equal(false);
    useDocuments().undo();
    expect(ease()).deep.include({ kind: 'spring', damping: 8 });
  });

  it('shares a linked ease with others: a change of it changes them all, until it is unlinked', async () => {
    const at = (frame: number) => ({ thing: product().id, path: 'turn', frame });
    useKeySelection().replace([at(0), at(48)]);
    await choose(details, 'Ease', 'Overshoot');
    await details.find('[data-test=link-ease]').trigger('click');
    const [linked] = useCampaign().shot!.eases;
    expect(linked).deep.include({ name: 'overshoot 1', ease: { kind: 'overshoot', amount: 0.1 } });
    expect(keys().map((k) => k.ease)).deep.equal([0, 1].map(() => ({ kind: 'linked', id: linked.id })));
    await setNumber('Beyond, %', '25');
    expect(useCampaign().shot!.eases[0].ease).deep.equal({ kind: 'overshoot', amount: 0.25 });
    useKeySelection().replace([at(0)]);
    await rest();
    await details
      .findAll('button')
      .find((b) => b.text() === 'Unlink')!
      .trigger('click');
    expect(keys().map((k) => (k.ease as { kind: string }).kind)).deep.equal(['overshoot', 'linked']);
  });
});
