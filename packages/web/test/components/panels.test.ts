import './page.ts';
import { expect } from 'chai';
import { KEY_SETS } from '@tender-orbit/core/contract';
import { keyValue } from '@tender-orbit/core/document';
import { useActions } from '../../src/actions/index.ts';
import BoardCard from '../../src/brief/BoardCard.vue';
import BriefStation from '../../src/brief/BriefStation.vue';
import DeleteCampaign from '../../src/campaigns/DeleteCampaign.vue';
import NewCampaign from '../../src/campaigns/NewCampaign.vue';
import CommandSearch from '../../src/frame/CommandSearch.vue';
import ConflictDialog from '../../src/frame/ConflictDialog.vue';
import ShortcutSheet from '../../src/frame/ShortcutSheet.vue';
import KeyDetails from '../../src/moves/KeyDetails.vue';
import { useKeyActions } from '../../src/moves/use-key-tools.ts';
import { useKeySelection } from '../../src/moves/use-key-selection.ts';
import TitleDetails from '../../src/promo/TitleDetails.vue';
import { usePromo } from '../../src/promo/use-promo.ts';
import { useCampaign, useDocuments, useSession } from '../../src/stores/index.ts';
import { choose, byRole, clearPage, nameOf, rest } from './mounted.ts';
import { asked, openCampaign, panel, router } from './open-campaign.ts';

const buttons = (): string[] => [...document.querySelectorAll('button')].map(nameOf);
const real = globalThis.fetch;

describe('panels of stations', () => {
  beforeEach(async () => {
    await openCampaign();
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  describe('the brief', () => {
    it('writes what is typed as one step, and keeps the promo at the campaign’s size', async () => {
      const brief = panel(BriefStation);
      const name = brief.find('input[aria-label="Campaign name"]');
      await name.setValue('Heather');
      await name.setValue('Heather launch');
      const campaign = useCampaign();
      expect(campaign.campaign!.name).equal('Heather launch');
      useDocuments().undo();
      expect(campaign.campaign!.name).equal('Launch');
      await brief.find('textarea').setValue('Warm and heavy.');
      expect(campaign.campaign!.message).equal('Warm and heavy.');
    });

    it('the storyboard is put in order by Alt and arrows, as one step, and its first shot is number one', async () => {
      const brief = panel(BriefStation);
      const names = (): string[] => brief.findAll('article').map((board) => board.attributes('aria-label')!);
      expect(names()).deep.equal(['Shot 1, Jar turns', 'Shot 2, Lid']);
      const second = brief.findAll('article')[1];
      await second.find('input').trigger('keydown', { key: 'ArrowLeft', altKey: true });
      expect(useCampaign().campaign!.boards).deep.equal([]);
      await second.find('button').trigger('keydown', { key: 'ArrowLeft', altKey: true });
      await rest();
      expect(useCampaign().campaign!.boards).deep.equal(['shot2', 'shot']);
      expect(names()).deep.equal(['Shot 1, Lid', 'Shot 2, Jar turns']);
      useDocuments().undo();
      await rest();
      expect(names()).deep.equal(['Shot 1, Jar turns', 'Shot 2, Lid']);
    });

    it('a board renames its shot, gives it another length, and the last one stays', async () => {
      const board = panel(BoardCard, { shotId: 'shot', number: 1 });
      await board.find('input').setValue('  Turn  ');
      await board.find('input').trigger('keydown', { key: 'Enter' });
      expect(useCampaign().shots[0].document!.name).equal('Turn');
      const length = board.find('input[aria-label="Length, s"]');
      await length.setValue('4');
      await length.trigger('keydown', { key: 'Enter' });
      expect(useCampaign().shots[0].document!.length).equal(
        Math.round((4 * useCampaign().rate.num) / useCampaign().rate.den),
      );
      byRole('button', 'Delete Turn')!.click();
      await rest(5);
      expect(asked.some(([method, path]) => method === 'DELETE' && path.endsWith('/documents/shot/shot'))).equal(true);
      expect(useCampaign().shots.map((shot) => shot.id)).deep.equal(['shot2']);
      panel(BoardCard, { shotId: 'shot2', number: 1 });
      expect((byRole('button', 'Delete Lid') as HTMLButtonElement).disabled).equal(true);
    });
  });

  describe('campaigns', () => {
    it('a new one is made of what was filled in', async () => {
      const dialog = panel(NewCampaign, { modelValue: true });
      await rest();
      const name = document.querySelector<HTMLInputElement>('input[name=name]')!;
      name.value = 'Autumn';
      name.dispatchEvent(new Event('input'));
      document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
      await rest(5);
      const [, , body] = asked.find(([method, path]) => method === 'POST' && path.endsWith('/campaigns'))!;
      expect(body).deep.include({ name: 'Autumn', client: '' });
      expect(dialog.emitted('made')).deep.equal([['made']]);
    });

    it('a new one that is refused says why where it was asked for, and stays open', async () => {
      const works = globalThis.fetch;
      globalThis.fetch = (async () =>
        Response.json({ title: 'Give the campaign a name.', code: 'request/invalid' }, { status: 422 })) as never;
      const dialog = panel(NewCampaign, { modelValue: true });
      await rest();
      document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
      await rest();
      globalThis.fetch = works;
      expect(document.querySelector('.failure')!.textContent).equal('Give the campaign a name.');
      expect([dialog.emitted('made'), dialog.emitted('update:modelValue')]).deep.equal([undefined, undefined]);
    });

    it('one is deleted only when its name was typed', async () => {
      const card = { id: 'c', products: 1, shots: 2, takes: 0, document: { name: 'Launch' } };
      const dialog = panel(DeleteCampaign, { modelValue: card });
      await rest();
      const go = (): HTMLButtonElement => byRole('button', 'Delete campaign') as HTMLButtonElement;
      expect(go().disabled).equal(true);
      const field = document.querySelector<HTMLInputElement>('[role=dialog] input')!;
      field.value = 'Launch';
      field.dispatchEvent(new Event('input'));
      await rest();
      expect(go().disabled).equal(false);
      document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
      await rest(5);
      expect(dialog.emitted('deleted')).deep.equal([['c']]);
    });
  });

  describe('search and keys', () => {
    it('typing narrows, arrows walk, Enter does it', async () => {
      let hidden = 0;
      const actions = useActions();
      actions.add('thing.hide', { run: () => hidden++ });
      actions.add('thing.lock', { run: () => undefined });
      const search = panel(CommandSearch, { modelValue: true });
      await rest();
      const field = document.querySelector<HTMLInputElement>('[data-test=search] input')!;
      const options = (): string[] => [...document.querySelectorAll('[role=option]')].map((o) => o.textContent!.trim());
      expect(options().length).equal(2);
      field.value = 'hide';
      field.dispatchEvent(new Event('input'));
      await rest();
      expect(options()[0]).contain('Hide or show');
      expect(document.querySelector('[role=option]')!.getAttribute('aria-selected')).equal('true');
      field.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true }));
      field.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }));
      field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
      expect(hidden).equal(1);
      expect(search.emitted('update:modelValue')!.at(-1)).deep.equal([false]);
    });

    it('an action of another station goes there and waits for it', async () => {
      await router.push('/campaign/c/set');
      panel(CommandSearch, { modelValue: true });
      await rest();
      const field = document.querySelector<HTMLInputElement>('[data-test=search] input')!;
      field.value = 'start take';
      field.dispatchEvent(new Event('input'));
      await rest();
      field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
      await rest(100);
      expect(router.currentRoute.value.path).equal('/campaign/c/composite');
      expect(useActions().awaited).equal('take.start');
    });

    it('the sheet learns keys, takes them away, and gives the set’s back', async () => {
      panel(ShortcutSheet, { modelValue: true });
      await rest();
      const field = (): HTMLElement => document.querySelector('[data-keys="thing.lock"]')!;
      const press = async (init: KeyboardEventInit): Promise<void> => {
        field().click();
        await rest();
        field().dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, ...init }));
        await rest();
      };
      expect(field().textContent?.trim()).equal('K');
      await press({ key: 'j', code: 'KeyJ', ctrlKey: true });
      expect(field().textContent?.trim()).equal('Ctrl+J');
      await press({ key: 'Escape' });
      expect(field().textContent?.trim()).equal('Ctrl+J');
      await press({ key: 'Backspace' });
      expect(field().textContent?.trim()).equal('none');
      byRole('button', 'Take all own keys back')!.click();
      await rest();
      expect(field().textContent?.trim()).equal('K');
      expect(useSession().preferences).deep.equal({ keySet: KEY_SETS[0], bindings: {} });
    });
  });

  describe('moves', () => {
    it('a key is eased, moved, given another value and deleted', async () => {
      const campaign = useCampaign();
      const documents = useDocuments();
      const at = (frame: number) => ({ thing: 'item', path: 'turn', frame });
      documents.run('shot', 'shot', keyValue(at(0), 0, 'Key'));
      documents.run('shot', 'shot', keyValue(at(10), 90, 'Key'));
      useKeySelection().replace([at(10)]);
      panel({ setup: () => (useKeyActions(), () => null) });
      const details = panel(KeyDetails);
      const key = () => campaign.shot!.tracks[0].keys.at(-1)!;
      await choose(details, 'Ease', 'Hold');
      expect(key().ease).equal('hold');
      const value = details.find('input[aria-label="Value, deg"]');
      await value.setValue('360/2');
      await value.trigger('keydown', { key: 'Enter' });
      expect(key().value).equal(180);
      const frame = details.find('input[aria-label="At frame, f"]');
      await frame.setValue('21');
      await frame.trigger('keydown', { key: 'Enter' });
      expect(key().frame).equal(20);
      useActions().run('key.delete');
      expect(campaign.shot!.tracks[0].keys.map((k) => k.frame)).deep.equal([0]);
      expect(useActions().can('key.delete')).equal(false);
    });
  });

  describe('titles', () => {
    it('are written, set and aligned; too long a text is kept and said', async () => {
      const promo = usePromo();
      promo.addTitle();
      const title = () => promo.promo.value!.titles[0];
      const details = panel(TitleDetails, { title: title() });
      await details.find('textarea').setValue('Slow as the hill');
      expect(title().text).equal('Slow as the hill');
      await details.findAll('[role=radio]')[1].trigger('click');
      expect(title().align).equal('centre');
      await details.setProps({ title: { ...title(), text: 'x'.repeat(2001) } });
      expect(details.text()).contain('2001 characters are too many');
    });
  });

  describe('two windows', () => {
    it('say what was changed elsewhere and settle it as asked', async () => {
      panel(ConflictDialog);
      const documents = useDocuments();
      const settled: string[] = [];
      documents.settle = (choice: 'mine' | 'theirs') => void settled.push(choice);
      documents.$patch({ conflict: { kind: 'set', id: 'set', message: 'Another window moved the key.' } } as never);
      await rest();
      expect(document.body.textContent).contain('Another window moved the key.');
      expect(buttons()).include.members(['Keep mine', 'Take the other']);
      byRole('button', 'Keep mine')!.click();
      expect(settled).deep.equal(['mine']);
    });
  });
});
