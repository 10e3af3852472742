import './page.ts';
import { expect } from 'chai';
import { addTitle, newCampaign, newTitle } from '@tender-orbit/core/document';
import { useActions } from '../../src/actions/index.ts';
import type { DeliverySummary } from '../../src/api/index.ts';
import CampaignList from '../../src/campaigns/CampaignList.vue';
import SignIn from '../../src/campaigns/SignIn.vue';
import NewTake from '../../src/composite/NewTake.vue';
import TakeList from '../../src/composite/TakeList.vue';
import AccountMenu from '../../src/frame/AccountMenu.vue';
import CourseLine from '../../src/frame/CourseLine.vue';
import NoticeBar from '../../src/frame/NoticeBar.vue';
import SaveState from '../../src/frame/SaveState.vue';
import TakeShelf from '../../src/promo/TakeShelf.vue';
import { usePromo } from '../../src/promo/use-promo.ts';
import ReleaseStation from '../../src/release/ReleaseStation.vue';
import { useCampaign, useDocuments, useNotices, useSession } from '../../src/stores/index.ts';
import { ConfirmDialog } from '../../src/ui/index.ts';
import { byRole, clearPage, rest } from './mounted.ts';
import { asked, openCampaign, panel, router, wholeTake } from './open-campaign.ts';

const real = globalThis.fetch;

const take = wholeTake;
const delivery = (values: Partial<DeliverySummary>): DeliverySummary => ({
  ...{ id: 'd1', promo: 'promo', name: 'Launch', format: 'mp4', state: 'done', progress: 1, size: 1_390_000 },
  ...{ error: null, frames: 120, width: 960, height: 540, createdAt: '2026-01-01T00:00:00Z' },
  ...values,
});
const calls = (method: string): string[] => asked.filter(([m]) => m === method).map(([, path]) => path);

describe('panels of the work', () => {
  beforeEach(async () => {
    const takes = [
      take({}),
      take({ id: 't2', name: 'Take 2', state: 'rendering', done: [0, 1], secondsLeft: 90 }),
      take({ id: 't3', name: 'Take 3', state: 'failed', done: [], error: 'Frame 3 could not be written.' }),
    ];
    const deliveries = [delivery({}), delivery({ id: 'd2', state: 'working', progress: 0.4, size: null })];
    const card = { id: 'c', document: newCampaign('Launch', { client: '' }), updated: '2026-01-01T10:00:00Z' };
    await openCampaign(
      {
        'POST /api/takes/estimate': { secondsPerFrame: 2, seconds: 96, bytes: 1.26e9, layers: 24 },
        'GET /api/campaigns': [{ ...card, products: 2, shots: 1, takes: 0, cover: null, coverFrame: 0 }],
        'GET /api/campaigns/c/takes': takes,
        'GET /api/campaigns/c/deliveries': deliveries,
      },
      { takes, deliveries },
    );
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  describe('takes', () => {
    it('say how far they are, go on, stop, and are deleted only when that is meant', async () => {
      panel(ConfirmDialog);
      const list = panel(TakeList, { modelValue: 't2' });
      expect(list.findAll('[data-test=take]').map((t) => t.text())).satisfy((texts: string[]) =>
        texts.some((text) => /Take 2.*2 of 48, .*left/.test(text)),
      );
      expect(list.text()).contain('Frame 3 could not be written.');
      byRole('button', 'Pause Take 2; finished frames stay')!.click();
      await rest();
      expect(calls('POST')).include('/api/takes/t2/stop');
      await list.setProps({ modelValue: 't3' });
      byRole('button', 'Go on with Take 3')!.click();
      byRole('button', 'Delete Take 3')!.click();
      await rest();
      byRole('button', 'Leave it')!.click();
      await rest();
      expect(calls('DELETE')).deep.equal([]);
      byRole('button', 'Delete Take 3')!.click();
      await rest();
      byRole('button', 'Delete take')!.click();
      await rest();
      expect([calls('POST').includes('/api/takes/t3/resume'), calls('DELETE')]).deep.equal([true, ['/api/takes/t3']]);
    });

    it('that the promo uses cannot be deleted', async () => {
      usePromo().addTake(take({}));
      panel(TakeList, { modelValue: 't1' });
      const button = byRole('button', 'Take 1 is used in the promo: take it out there first') as HTMLButtonElement;
      expect(button.disabled).equal(true);
    });

    it('a new one is estimated, and started as it was set', async () => {
      const form = panel(NewTake, { part: null });
      await form
        .findAll('[role=radio]')
        .find((r) => r.text() === 'final')!
        .trigger('click');
      await form
        .findAll('[role=radio]')
        .find((r) => r.text() === '25%')!
        .trigger('click');
      await form.find('[data-test=passes] input').setValue(true);
      await rest(1000);
      expect(form.find('[data-test=estimate]').text()).match(/^about /);
      expect(form.find('[data-test=disk]').text()).match(/^about 1\.3 GB\s+with 24 layers a frame$/);
      expect(useActions().run('take.start')).equal(true);
      await rest();
      const [, , body] = asked.filter(([m, path]) => m === 'POST' && path === '/api/takes').at(-1)!;
      expect(body).deep.include({ shot: 'shot', quality: 'final', passes: true, width: 320, anew: false });
    });

    it('a new one renders all frames when asked to, and keeps with the person that a core is left free', async () => {
      const form = panel(NewTake, { part: null });
      await form.find('[data-test=reuse] input').setValue(false);
      await form.find('[data-test=spare-core] input').setValue(true);
      await rest();
      const last = (method: string, path: string): unknown =>
        asked.filter(([m, p]) => m === method && p === path).at(-1)?.[2];
      expect(last('PUT', '/api/session/preferences')).deep.include({ spareCore: true });
      expect(useActions().run('take.start')).equal(true);
      await rest();
      expect(last('POST', '/api/takes')).deep.include({ anew: true });
    });

    it('are added to the promo from the shelf once they are whole', async () => {
      const shelf = panel(TakeShelf);
      const rows = shelf.findAll('[data-test=shelf-take]');
      expect(rows.map((r) => r.attributes('aria-disabled'))).deep.equal([undefined, 'true']);
      await rows[1].trigger('click');
      expect(usePromo().promo.value!.clips).deep.equal([]);
      await rows[0].trigger('click');
      expect(usePromo().promo.value!.clips.map((c) => c.take)).deep.equal(['t1']);
      await rest();
      expect(shelf.text()).contain('used once');
    });
  });

  describe('files', () => {
    it('are made in the format chosen, once there is something to show', async () => {
      const release = panel(ReleaseStation);
      expect(useActions().can('release.make')).equal(false);
      expect(release.text()).contain('The promo is empty');
      usePromo().addTake(take({}));
      await rest();
      await release.findAll('.format')[1].trigger('click');
      useActions().run('release.make');
      await rest();
      expect(asked.find(([m, path]) => m === 'POST' && path.endsWith('/deliveries'))![2]).deep.equal({
        format: 'webm',
      });
    });

    it('say their size or how far they are, can be watched, downloaded and cancelled', async () => {
      const release = panel(ReleaseStation);
      const [done, working] = release.findAll('[data-test=delivery]');
      expect(done.text()).contain('1.39 MB');
      expect(done.find('[data-test=download]').attributes('href')).equal('/api/deliveries/d1/file');
      expect(working.find('[role=progressbar]').attributes('aria-valuenow')).equal('40');
      [...document.querySelectorAll('button')].find((b) => b.textContent?.trim() === 'Cancel')!.click();
      await rest();
      expect(calls('DELETE')).deep.equal(['/api/deliveries/d2']);
    });
  });

  describe('captions', () => {
    it('of the titles are saved beside the film, as soon as there are any', async () => {
      const saved: Array<{ name: string; blob: Blob }> = [];
      const made = URL.createObjectURL;
      const click = HTMLAnchorElement.prototype.click;
      let last: Blob | null = null;
      URL.createObjectURL = (blob) => {
        last = blob as Blob;
        return 'blob:here';
      };
      HTMLAnchorElement.prototype.click = function () {
        saved.push({ name: this.download, blob: last! });
      };
      try {
        const release = panel(ReleaseStation);
        expect(release.find('[data-test=captions-vtt]').exists()).equal(false);
        usePromo().run(addTitle(newTitle('t', { text: 'Slow as the hill', start: 24, length: 48 })));
        await rest();
        for (const kind of ['vtt', 'srt']) await release.find(`[data-test=captions-${kind}]`).trigger('click');
      } finally {
        URL.createObjectURL = made;
        HTMLAnchorElement.prototype.click = click;
      }
      expect(saved.map(({ name }) => name.replace(/^.*\./, ''))).deep.equal(['vtt', 'srt']);
      expect(await saved[0].blob.text()).match(/^WEBVTT\n\n1\n00:00:01\.000 --> 00:00:03\.000\nSlow as the hill\n$/);
      expect(await saved[1].blob.text()).match(/^1\n00:00:01,000 --> 00:00:03,000\n/);
    });

    it('of a file become titles in one step, and one that has none is refused by its name', async () => {
      const promo = () => useCampaign().promo!;
      const text = '1\n00:00:01,000 --> 00:00:02,000\nHeather\n\n2\n00:00:02,500 --> 00:00:03,000\nand honey\n';
      await usePromo().addCaptions(new File([text], 'words.srt'));
      expect(promo().titles.map((t) => [t.text, t.start, t.length])).deep.equal([
        ['Heather', 24, 24],
        ['and honey', 60, 12],
      ]);
      expect(usePromo().chosen.value).deep.equal({ kind: 'title', id: promo().titles[0].id });
      useDocuments().undo();
      expect(promo().titles).deep.equal([]);
      await usePromo().addCaptions(new File(['no times'], 'words.txt'));
      expect(useNotices().text).contain('words.txt has no captions');
      expect(promo().titles).deep.equal([]);
    });
  });

  describe('the frame', () => {
    it('the course line leads to every station, says how far each is, and undoes by name', async () => {
      await router.push('/campaign/c/set');
      const line = panel(CourseLine);
      const stops = line.findAll('nav a').map((a) => a.attributes('href'));
      expect(stops).deep.equal(
        ['brief', 'products', 'set', 'moves', 'composite', 'promo', 'release'].map((s) => `/campaign/c/${s}`),
      );
      expect(line.find('[aria-current=page]').text()).contain('3 lights');
      expect((byRole('button', 'Nothing to undo') as HTMLButtonElement).disabled).equal(true);
      useDocuments().run('campaign', 'c', { label: 'Rename', run: (draft) => void (draft.name = 'Other') });
      await rest();
      byRole('button', 'Undo Rename')!.click();
      expect(useCampaign().campaign!.name).equal('Launch');
    });

    it('says whether everything is saved', async () => {
      const state = panel(SaveState);
      expect(state.text()).equal('Saved');
      useDocuments().run('campaign', 'c', { label: 'Rename', run: (draft) => void (draft.name = 'Other') });
      await rest();
      expect(state.text()).equal('Saving...');
    });

    it('notices are said to those who do not see them: what went wrong at once', async () => {
      panel(NoticeBar);
      useNotices().refuse('The file is too large.');
      await rest();
      expect(document.querySelector('[data-test=notice]')!.getAttribute('role')).equal('alert');
      useNotices().done('Kept.');
      await rest();
      expect(document.querySelector('[data-test=notice]')!.getAttribute('role')).equal('status');
    });

    it('the account says whose it is, and signs out', async () => {
      useSession().person = { id: 'p', email: 'mara@vellowmere.example', name: 'Mara Vell' };
      const account = panel(AccountMenu);
      expect(account.text()).equal('MV');
      account.find('button').element.click();
      await rest();
      expect(document.body.textContent).contain('mara@vellowmere.example');
      [...document.querySelectorAll<HTMLElement>('.v-list-item')].at(-1)!.click();
      await rest();
      expect(calls('DELETE')).include('/api/session');
    });
  });

  describe('before a campaign', () => {
    it('the list waits, shows what there is, and asks for the name before one is deleted', async () => {
      const list = panel(CampaignList);
      expect(list.find('[role=status]').exists()).equal(true);
      await rest();
      expect(list.find('[data-test=campaign-card]').text())
        .contain('Launch')
        .contain('2 products')
        .contain('No client');
      byRole('button', 'Delete Launch')!.click();
      await rest();
      expect(document.querySelector('[data-test=delete-campaign]')!.textContent).contain('cannot be undone');
    });

    it('signing in sends what was typed, and leads only to pages of our own', async () => {
      await router.push('/sign-in?to=//elsewhere.example');
      const page = panel(SignIn);
      await page.find('input[name=email]').setValue('mara@vellowmere.example');
      await page.find('input[name=password]').setValue('slow');
      await page.find('form').trigger('submit');
      await rest(60);
      expect(asked.find(([m, path]) => m === 'POST' && path === '/api/session')![2]).deep.equal({
        email: 'mara@vellowmere.example',
        password: 'slow',
      });
      expect(router.currentRoute.value.path).equal('/');
    });
  });
});
