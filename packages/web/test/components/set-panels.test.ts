import './page.ts';
import { expect } from 'chai';
import { findThing, newCard, type SetDocument } from '@tender-orbit/core/document';
import { defineComponent, h } from 'vue';
import { useActions } from '../../src/actions/index.ts';
import OrbitPlan from '../../src/plan/OrbitPlan.vue';
import ArrangePanel from '../../src/set/details/ArrangePanel.vue';
import LightPower from '../../src/set/details/LightPower.vue';
import LightShaping from '../../src/set/details/LightShaping.vue';
import PlaceTools from '../../src/set/details/PlaceTools.vue';
import ProductDetails from '../../src/set/details/ProductDetails.vue';
import ReplaceDialog from '../../src/set/ReplaceDialog.vue';
import { useSetGroups } from '../../src/set/set-groups.ts';
import SetList from '../../src/set/SetList.vue';
import { useReplace } from '../../src/set/use-replace.ts';
import { useSetActions } from '../../src/set/use-set-actions.ts';
import { useThingMenu } from '../../src/set/use-thing-menu.ts';
import { useCampaign, useDocuments, useSelection, useStage } from '../../src/stores/index.ts';
import { byRole, choose, clearPage, nameOf, rest } from './mounted.ts';
import { asked, openCampaign, panel } from './open-campaign.ts';

/** What a composable gives to a component that shows nothing. */
function used<T>(composable: () => T): T {
  let given!: T;
  panel(defineComponent({ setup: () => ((given = composable()), () => h('i')) }));
  return given;
}
/** The actions of a station that stages, without its pictures. */
const staged = (): void => used(useSetActions);
const set = (): SetDocument => useCampaign().set!;
const light = (id: string) => set().lights.find((l) => l.id === id)!;
const real = globalThis.fetch;

describe('panels of the set', () => {
  beforeEach(async () => {
    await openCampaign();
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  describe('the set list', () => {
    it('shows what is there by role, each with the figure it is compared by', () => {
      const list = panel(SetList);
      const rows = list.findAll('.thing').map((row) => row.text());
      expect(rows[0]).match(/^Jar9 cm|^Jar\d/);
      expect(rows.some((row) => /^Key\+0\.0/.test(row))).equal(true);
      expect(rows.some((row) => /^Hero85 mm/.test(row))).equal(true);
      expect(rows.filter((row) => row.startsWith('Room'))).length(1);
    });

    it('a change of one light leaves all other rows as they are', async () => {
      const groups = used(useSetGroups);
      const before = groups.value.map(({ items }) => [...items]);
      useStage().setNumber('rim', 'lumens', 12, 'Change power');
      await rest();
      const changed = groups.value.flatMap(({ items }, g) => items.filter((item, i) => item !== before[g][i]));
      expect(changed.map(({ id }) => id)).deep.equal(['rim']);
    });

    it('a press chooses, with Ctrl another besides; the eye hides; F2 renames in place', async () => {
      staged();
      const list = panel(SetList);
      const row = (name: string) => list.findAll('.thing').find((r) => r.text().startsWith(name))!;
      await row('Key').find('.pick').trigger('click');
      await row('Fill').find('.pick').trigger('click', { ctrlKey: true });
      expect(useSelection().all).deep.equal(['key', 'fill']);
      // Its button comes with the pointer.
      expect(byRole('button', 'Hide Rim')).equal(undefined);
      await row('Rim').trigger('pointerenter');
      byRole('button', 'Hide Rim')!.click();
      expect(light('rim').on).equal(false);
      await row('Key').find('.pick').trigger('click');
      expect(useActions().run('thing.rename')).equal(true);
      await rest();
      const field = list.find('input[aria-label="New name of Key"]');
      await field.setValue('Sun');
      await field.trigger('keydown', { key: 'Enter' });
      expect(light('key').name).equal('Sun');
    });

    it('Alt with arrows puts a thing elsewhere in its group', async () => {
      const list = panel(SetList);
      const lights = list.findAll('section').find((s) => s.attributes('aria-label') === 'Lights')!;
      await lights.findAll('.pick')[2].trigger('keydown', { key: 'ArrowUp', altKey: true });
      expect(set().lights.map((l) => l.id)).deep.equal(['key', 'rim', 'fill']);
      useDocuments().undo();
      expect(set().lights.map((l) => l.id)).deep.equal(['key', 'fill', 'rim']);
    });

    it('is drawn only in part when there are very many', async () => {
      useStage().run({
        label: 'Many',
        run: (draft) => {
          for (let i = 0; i < 120; i++) draft.surfaces.push(newCard(`card-${i}`, `Card ${i}`, '#000000'));
        },
      });
      const list = panel(SetList);
      await rest();
      expect(list.find('.v-virtual-scroll').exists()).equal(true);
      expect(list.findAll('.thing').length).below(80);
    });
  });

  describe('what can be done with things', () => {
    const titles = (id: string): string[] =>
      used(useThingMenu)(id).map((line) => (line && 'title' in line ? line.title : '-'));

    it('a menu offers what suits the thing, and choosing it is part of it', () => {
      staged();
      expect(titles('key')).include.members(['Only this light', 'Place highlight', 'Rename', 'Delete']);
      expect(useStage().selected).equal('key');
      expect(titles('item')).include.members(['Let it float', 'Replace product...']).not.include('Only this light');
      expect(titles('hero')).include('Rename').not.include('Replace product...');
      expect(titles('environment')).deep.equal([]);
      expect(titles('nobody')).deep.equal([]);
    });

    it('rules stand only between lines', () => {
      staged();
      const lines = titles('item');
      expect([lines[0], lines.at(-1)]).not.include('-');
      lines.forEach((line, i) => expect(line === '-' && lines[i + 1] === '-').equal(false));
    });

    it('keys walk through the things, hide, lock, isolate and delete them', () => {
      staged();
      const { run } = useActions();
      const stage = useStage();
      const first = stage.things[0].id;
      run('thing.next');
      expect(stage.selected).equal(first);
      run('thing.previous');
      expect(stage.selected).equal(stage.things.at(-1)!.id);
      useSelection().pick('fill');
      run('thing.hide');
      run('thing.lock');
      expect(light('fill')).deep.include({ on: false, locked: true });
      run('thing.isolate');
      expect(useSelection().isolated).deep.equal(['fill']);
      run('thing.isolate');
      run('thing.only');
      expect(stage.only).equal('fill');
      run('thing.delete');
      expect(set().lights.map((l) => l.id)).deep.equal(['key', 'rim']);
      expect([stage.selected, stage.only]).deep.equal(['', '']);
      expect(run('thing.delete')).equal(false);
    });

    it('adds lights, cards, bodies and cameras, and groups what is chosen', () => {
      staged();
      const { run, can } = useActions();
      for (const id of ['add.top', 'add.flag', 'add.drum', 'add.camera'] as const) expect(run(id), id).equal(true);
      expect(set().lights.at(-1)!.role).equal('top');
      expect(
        set()
          .surfaces.slice(-2)
          .map((s) => s.kind),
      ).deep.equal(['card', 'block']);
      expect(set().cameras.length).equal(2);
      useSelection().pick('key');
      expect(can('thing.group')).equal(false);
      useSelection().pick('fill', true);
      run('thing.group');
      expect(light('key').group).equal(light('fill').group).not.equal('');
      run('thing.ungroup');
      expect(light('key').group).equal('');
    });
  });

  describe('the orbit plan', () => {
    it('marks can be reached and moved by keys; what is moved is chosen', async () => {
      const plan = panel(OrbitPlan);
      const mark = plan.find('[data-spot=fill]');
      expect(mark.attributes('tabindex')).equal('0');
      const before = light('fill').position;
      await mark.trigger('keydown', { key: 'ArrowRight' });
      expect(useStage().selected).equal('fill');
      expect(light('fill').position).not.deep.equal(before);
      await plan.find('[data-spot=rim]').trigger('keydown', { key: 'Enter' });
      expect(useStage().selected).equal('rim');
      await rest();
      expect(plan.text()).match(/deg round, \d+ up/);
    });

    it('draws each thing as what it is', () => {
      useStage().addCard('flag');
      const plan = panel(OrbitPlan);
      const kinds = plan
        .findAll('[data-spot]')
        .map((m) => m.classes().find((c) => ['product', 'lamp', 'bar', 'body', 'camera'].includes(c)));
      expect(new Set(kinds)).deep.equal(new Set(['product', 'lamp', 'bar', 'body', 'camera']));
    });
  });

  describe('details', () => {
    it('a light’s power goes by stops and by the lamp that would give it', async () => {
      panel(LightPower, { id: 'key' });
      const before = light('key').lumens;
      byRole('button', '+1 stop')!.click();
      expect(light('key').lumens).closeTo(before * 2, before / 100);
      byRole('button', '-1 stop')!.click();
      expect(light('key').lumens).closeTo(before, before / 100);
    });

    it('a light gets another shape, a gobo with its own fields, and links', async () => {
      const shaping = panel(LightShaping, { id: 'key' });
      await choose(shaping, 'Gobo', 'Blinds');
      expect(light('key').gobo.pattern).equal('blinds');
      expect(shaping.findAll('.number-row').length).above(2);
      await choose(shaping, 'Light linking', 'Only chosen things');
      byRole('button', 'Jar')!.click();
      expect(light('key').lightLinking).deep.equal({ mode: 'only', things: ['item'] });
      await choose(shaping, 'Shape', 'Sun');
      expect(light('key').shape).equal('sun');
      await rest();
      expect(shaping.text()).not.contain('Gobo');
    });

    it('a product stands on another thing, and shows its size', async () => {
      const details = panel(ProductDetails, { id: 'item' });
      expect(details.text()).match(/Size[\d.]+ x [\d.]+ x [\d.]+ cm/);
      await choose(details, 'Stands on', 'Plinth');
      expect(set().products[0].standsOn).equal('plinth');
      await details.find('[data-test=seat]').trigger('click');
      expect(set().products[0].seated).equal(false);
    });

    it('place and turn are copied from one thing to another, and a locked one stays', async () => {
      useSelection().pick('key');
      const tools = panel(PlaceTools, { id: 'key' });
      byRole('button', 'Copy place and turn')!.click();
      useSelection().pick('fill');
      await rest();
      byRole('button', 'Paste place and turn')!.click();
      expect(light('fill').position).deep.equal(light('key').position);
      byRole('button', 'Lock Fill where it is')!.click();
      expect(light('fill').locked).equal(true);
      expect(tools.text()).contain('Isolate');
    });

    it('several things are locked and let go together', () => {
      useSelection().pick('key');
      useSelection().pick('rim', true);
      panel(ArrangePanel);
      byRole('button', 'Lock')!.click();
      expect([light('key').locked, light('rim').locked, light('fill').locked]).deep.equal([true, true, false]);
      byRole('button', 'Unlock')!.click();
      expect(light('rim').locked).equal(false);
    });
  });

  describe('replacing a product', () => {
    const pick = async (scope: string, fit = false): Promise<void> => {
      await rest();
      [...document.querySelectorAll<HTMLElement>('.choice')].find((c) => c.textContent?.includes('Box'))!.click();
      [...document.querySelectorAll<HTMLElement>('[role=radio]')].find((r) => nameOf(r) === scope)!.click();
      if (fit) document.querySelector<HTMLInputElement>('[data-test=replace] input[type=checkbox]')!.click();
      await rest();
      document.querySelector<HTMLElement>('[data-test=replace-do]')!.click();
      await rest(10);
    };

    it('only the one that was pressed, which keeps its place and name', async () => {
      panel(ReplaceDialog);
      useStage().duplicate('item');
      useReplace().ask('item');
      await pick('Only this one');
      expect(set().products.map((p) => p.product)).deep.equal(['box', 'jar']);
      expect(set().products[0]).deep.include({ id: 'item', scale: 1 });
      useDocuments().undo();
      expect(set().products.map((p) => p.product)).deep.equal(['jar', 'jar']);
    });

    it('all in the campaign, with the size of the old one', async () => {
      panel(ReplaceDialog);
      useReplace().ask('item');
      const { products } = useCampaign();
      const size = (id: string): number => Math.max(...products.get(id)!.extent) * products.get(id)!.scale;
      await pick('In the whole campaign', true);
      expect(set().products[0].product).equal('box');
      expect(set().products[0].scale * size('box')).closeTo(size('jar'), 1e-9);
    });

    it('in this shot alone: it gets a set of its own when others share it', async () => {
      panel(ReplaceDialog);
      useReplace().ask('item');
      await pick('In this shot');
      const campaign = useCampaign();
      expect(asked.some(([method, path]) => method === 'POST' && path === '/api/campaigns/c/sets')).equal(true);
      expect([campaign.setId, campaign.shot!.set]).deep.equal(['made', 'made']);
      expect(campaign.set!.products[0].product).equal('box');
      campaign.shotId = 'shot2';
      expect(campaign.set!.products[0].product).equal('jar');
      expect(findThing(campaign.set!, 'item')!.name).equal('Jar');
    });

    it('can be done only when another was chosen', async () => {
      panel(ReplaceDialog);
      useReplace().ask('nobody');
      await rest();
      expect((document.querySelector('[data-test=replace-do]') as HTMLButtonElement).disabled).equal(true);
      useReplace().asked.value = '';
    });
  });
});
