import './page.ts';
import { expect } from 'chai';
import { keyValue, RECIPE_KINDS, type AppliedRecipe, type Rule } from '@tender-orbit/core/document';
import { useActions } from '../../src/actions/index.ts';
import { useGraph } from '../../src/timeline/graph/use-graph.ts';
import MotionDialog from '../../src/moves/MotionDialog.vue';
import MovesTimeline from '../../src/moves/MovesTimeline.vue';
import PathDetails from '../../src/moves/PathDetails.vue';
import RecipeDetails from '../../src/moves/recipes/RecipeDetails.vue';
import RecipeGallery from '../../src/moves/recipes/RecipeGallery.vue';
import RuleDetails from '../../src/moves/rules/RuleDetails.vue';
import { useKeyActions } from '../../src/moves/use-key-tools.ts';
import { useKeySelection } from '../../src/moves/use-key-selection.ts';
import { useMoveSelection } from '../../src/things/use-move-selection.ts';
import { useCampaign, useDocuments, useNotices, usePlayhead, useSelection, useStage } from '../../src/stores/index.ts';
import { choose, clearPage, fromMenu, rest, setNumber, type show } from './mounted.ts';
import { openCampaign, panel, turning } from './open-campaign.ts';

type Wrapper = ReturnType<typeof show>;
const real = globalThis.fetch;
const shot = () => useCampaign().shot!;
const recipe = (i = 0): AppliedRecipe => shot().recipes[i];
const rule = (i = 0): Rule => shot().rules[i];
const at = (frame: number, thing = 'item', path = 'turn') => ({ thing, path, frame });

const pressed = (wrapper: Wrapper, words: string): Promise<void> =>
  wrapper
    .findAll('button')
    .find((b) => b.text() === words)!
    .trigger('click');
/** Gives an element on the page a place. */
function layOut(wrapper: Wrapper, of: string, width: number): void {
  wrapper.find(of).element.getBoundingClientRect = () => new DOMRect(0, 0, width, 60);
}

describe('moves', () => {
  beforeEach(async () => {
    await openCampaign({});
    panel({ setup: () => (useKeyActions(), () => null) });
  });
  afterEach(async () => {
    useKeySelection().clear();
    useMoveSelection().clear();
    useGraph().close();
    useStage().recording = false;
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  describe('recipes', () => {
    it('are cards that apply to what is in hand, from the playhead on; the search finds them', async () => {
      const gallery = panel(RecipeGallery);
      expect(gallery.findAll('canvas')).length(RECIPE_KINDS.length);
      usePlayhead().seek(6, 48);
      await gallery.find('[data-test=recipe-pop-in]').trigger('click');
      expect(recipe()).deep.include({ kind: 'pop-in', start: 6, length: 14, things: ['item'] });
      expect(useStage().selected).equal('item');
      useActions()
        .finds.find((f) => f.title === 'Crane')!
        .run();
      expect(recipe(1)).deep.include({ kind: 'crane', camera: 'hero', start: 6, length: 41 });
      useActions().run('moves.clear');
      expect(shot().recipes).deep.equal([]);
    });

    it('what is missing is said, and nothing is made', async () => {
      useStage().run({ label: 'Clear', run: (set) => void (set.products = []) });
      await panel(RecipeGallery).find('[data-test=recipe-turntable]').trigger('click');
      expect(useNotices().text).contain('no product on the set');
      expect(shot().recipes).deep.equal([]);
    });

    it('a reveal brings its own flag when there is none, and both go by one undo', async () => {
      const before = useCampaign().set!.surfaces.length;
      await panel(RecipeGallery).find('[data-test=recipe-reveal]').trigger('click');
      const flag = useCampaign().set!.surfaces.at(-1)!;
      expect(recipe().things).deep.equal([flag.id]);
      useDocuments().undo();
      expect([shot().recipes.length, useCampaign().set!.surfaces.length]).deep.equal([0, before]);
    });

    it('stay what they are: begin, length, options and ease are changed, until they are dissolved into keys', async () => {
      await panel(RecipeGallery).find('[data-test=recipe-turntable]').trigger('click');
      const details = panel(RecipeDetails);
      await setNumber(details, 'Turns', '2');
      await setNumber(details, 'Begins, f', '5');
      await setNumber(details, 'Takes, f', '24');
      await choose(details, 'Ease of the recipe', 'Soft landing');
      await setNumber(details, 'Soft landing, %', '50');
      expect(recipe()).deep.include({ start: 4, length: 24, ease: { kind: 'soft', start: 0, landing: 0.5 } });
      expect(recipe().options.turns).equal(2);
      await pressed(details, 'Dissolve');
      expect(shot().recipes).deep.equal([]);
      expect(shot().tracks[0].keys.map((k) => [k.frame, k.value])).deep.equal([
        [4, 0],
        [28, 720],
      ]);
      expect(details.find('h2').exists()).equal(false);
    });

    it('lie as one bar over the threads that they make: chosen, moved and made longer by keys, muted from the menu', async () => {
      await panel(RecipeGallery).find('[data-test=recipe-turntable]').trigger('click');
      const line = panel(MovesTimeline);
      expect(line.findAll('.bead.made')).length(2);
      const bar = line.find('[data-test=recipe-bar]');
      await bar.trigger('keydown', { key: 'ArrowRight' });
      await bar.trigger('keydown', { key: 'ArrowLeft', shiftKey: true });
      expect(recipe()).deep.include({ start: 1, length: 47 });
      await fromMenu(bar, 'Mute');
      expect(recipe().muted).equal(true);
      await bar.trigger('keydown', { key: 'Delete' });
      expect(shot().recipes).deep.equal([]);
    });

    it('a bar is dragged as a whole and at its ends, each one step', async () => {
      await panel(RecipeGallery).find('[data-test=recipe-pop-in]').trigger('click');
      const line = panel(MovesTimeline);
      layOut(line, '.lanes', 48);
      const bar = line.find('[data-test=recipe-bar]');
      for (const part of [bar, ...bar.findAll('.end')])
        (part.element as unknown as { setPointerCapture: () => void }).setPointerCapture = () => {};
      const drag = async (of: typeof bar, from: number, ...to: number[]): Promise<void> => {
        await of.trigger('pointerdown', { button: 0, buttons: 1, clientX: from });
        for (const clientX of to) await of.trigger('pointermove', { buttons: 1, clientX });
        await of.trigger('pointerup');
      };
      await drag(bar, 4, 9, 14);
      expect(recipe()).deep.include({ start: 10, length: 14 });
      await drag(bar.findAll('.end')[1], 24, 30, 34);
      expect(recipe()).deep.include({ start: 10, length: 24 });
      await drag(bar.findAll('.end')[0], 10, 16);
      expect(recipe()).deep.include({ start: 16, length: 18 });
      useDocuments().undo();
      useDocuments().undo();
      useDocuments().undo();
      expect(recipe()).deep.include({ start: 0, length: 14 });
    });
  });

  describe('rules', () => {
    const addDrift = async (line: Wrapper): Promise<void> => {
      await fromMenu(line.find('.label'), 'Drift');
    };

    it('are laid on a thread, hang there as tags, and their numbers are changed and keyed', async () => {
      useDocuments().run('shot', 'shot', turning('item'));
      const line = panel(MovesTimeline);
      await addDrift(line);
      expect(rule()).deep.include({ kind: 'drift', thing: 'item', path: 'turn', amount: 5 });
      expect(line.find('[data-test=rule-tag]').text()).equal('Drift');
      const details = panel(RuleDetails);
      await setNumber(details, 'Amount, deg', '12');
      expect(rule()).deep.include({ amount: 12 });
      await details.find('[aria-label="Key Amount"]').trigger('click');
      usePlayhead().seek(24, 48);
      await rest();
      await setNumber(details, 'Amount, deg', '0');
      const keys = shot().tracks.find((t) => t.thing === rule().id)!.keys;
      expect(keys.map((k) => [k.frame, k.value])).deep.equal([
        [0, 12],
        [24, 0],
      ]);
      expect(line.text()).contain('drift: amount');
      await pressed(details, 'Remove');
      expect([shot().rules.length, shot().tracks.length]).deep.equal([0, 1]);
    });

    it('are muted, put into another order and baked to keys', async () => {
      useDocuments().run('shot', 'shot', turning('item', 90));
      const line = panel(MovesTimeline);
      await addDrift(line);
      await fromMenu(line.find('.label'), 'Wave');
      const details = panel(RuleDetails);
      await pressed(details, 'Earlier');
      expect(shot().rules.map((r) => r.kind)).deep.equal(['wave', 'drift']);
      await fromMenu(line.findAll('[data-test=rule-tag]')[0], 'Mute');
      expect(rule().muted).equal(true);
      await line.findAll('[data-test=rule-tag]')[1].trigger('click');
      await pressed(details, 'Bake');
      expect(shot().rules).deep.equal([]);
      expect(shot().tracks[0].keys).length(49);
    });

    it('one that needs another thing says so where there is none, and takes a path along', async () => {
      useStage().selected = 'item';
      const line = panel(MovesTimeline);
      await line.find('[data-test=add-rule]').trigger('click');
      await rest();
      const lines = [...document.querySelectorAll<HTMLElement>('.v-list-item')];
      lines.find((l) => l.textContent!.trim() === 'Ride')!.click();
      await rest();
      const [path] = shot().paths;
      expect(rule()).deep.include({ kind: 'ride', target: path.id });
      const details = panel(PathDetails);
      expect(details.find('h2').text()).equal('Path');
      await details.find('.v-expansion-panel-title').trigger('click');
      await rest();
      await setNumber(details, 'Point across, cm', '42');
      expect(shot().paths[0].points[0].at[0]).equal(0.42);
      await pressed(details, 'Add after');
      expect(shot().paths[0].points).length(4);
      await pressed(details, 'Remove path');
      expect([shot().paths.length, shot().rules.length]).deep.equal([0, 0]);
    });
  });

  describe('keys', () => {
    const frames = (thing = 'item'): number[] =>
      shot()
        .tracks.find((t) => t.thing === thing && t.path === 'turn')
        ?.keys.map((k) => k.frame) ?? [];
    beforeEach(() => useDocuments().run('shot', 'shot', turning('item')));

    it('are copied and pasted at the playhead, duplicated, reversed, mirrored and nudged', () => {
      const actions = useActions();
      const selection = useKeySelection();
      selection.replace([at(0), at(48)]);
      actions.run('key.copy');
      usePlayhead().seek(10, 48);
      actions.run('key.paste');
      expect(frames()).deep.equal([0, 10, 48, 58]);
      expect(useNotices().text).contain('beyond the end');
      expect(selection.list().map((k) => k.frame)).deep.equal([10, 58]);
      actions.run('key.reverse');
      const value = (frame: number) => shot().tracks[0].keys.find((k) => k.frame === frame)!.value;
      expect([value(10), value(58)]).deep.equal([360, 0]);
      actions.run('key.mirror');
      expect([value(10), value(58)]).deep.equal([360, 720]);
      actions.run('key.on');
      expect(frames()).deep.equal([0, 11, 48, 59]);
      actions.run('key.back');
      actions.run('key.duplicate');
      expect(frames()).deep.equal([0, 10, 48, 58, 59, 107]);
      for (let i = 0; i < 6; i++) useDocuments().undo();
      expect(frames()).deep.equal([0, 48]);
    });

    it('the playhead goes from key to key, of what is chosen or of all', () => {
      useDocuments().run('shot', 'shot', keyValue(at(20, 'hero', 'focalLength'), 50, 'Key'));
      const actions = useActions();
      const head = usePlayhead();
      actions.run('key.next');
      expect(head.frame).equal(20);
      useStage().selected = 'item';
      actions.run('key.previous');
      expect(head.frame).equal(0);
      actions.run('key.next');
      expect(head.frame).equal(47);
    });

    it('the whole place of all that is chosen is keyed in one step', () => {
      useSelection().pick('hero');
      useActions().run('key.place');
      expect(
        shot()
          .tracks.filter((t) => t.thing === 'hero')
          .map((t) => t.path),
      ).have.members(['position.0', 'position.1', 'position.2', 'aim.0', 'aim.1', 'aim.2', 'roll']);
      useDocuments().undo();
      expect(shot().tracks).length(1);
    });

    it('while they are recorded every change is a key, and that is seen', async () => {
      const line = panel(MovesTimeline);
      useActions().run('moves.record');
      await rest();
      expect(line.classes()).contain('recording');
      expect(line.find('[role=status]').text()).equal('Recording keys');
      usePlayhead().seek(12, 48);
      useStage().setNumber('item', 'scale', 2, 'Grow');
      useStage().setValues('item', { visible: false }, 'Hide');
      expect(shot().tracks.map((t) => [t.path, t.keys[0].frame, t.keys[0].value])).deep.include.members([
        ['scale', 12, 2],
        ['visible', 12, false],
      ]);
      expect(useCampaign().set!.products[0].scale).equal(1);
    });

    it('are chosen by a box, and let go by a press beside them', async () => {
      const line = panel(MovesTimeline);
      layOut(line, '.lanes', 480);
      const lanes = line.find('.lanes');
      (lanes.element as unknown as { setPointerCapture: () => void }).setPointerCapture = () => {};
      line.findAll('[data-test=bead]').forEach((bead, i) => {
        bead.element.getBoundingClientRect = () => new DOMRect(i * 470, 8, 12, 12);
      });
      await lanes.trigger('pointerdown', { button: 0, buttons: 1, clientX: 300, clientY: 2 });
      await lanes.trigger('pointermove', { buttons: 1, clientX: 479, clientY: 30 });
      await lanes.trigger('pointerup');
      expect(
        useKeySelection()
          .list()
          .map((k) => k.frame),
      ).deep.equal([48]);
      await lanes.trigger('pointerdown', { button: 0, buttons: 1, clientX: 200, clientY: 40 });
      await lanes.trigger('pointerup');
      expect(useKeySelection().count.value).equal(0);
    });

    it('motion is copied to other things by attribute, and removed from many', async () => {
      useDocuments().run('shot', 'shot', keyValue(at(5, 'item', 'scale'), 2, 'Key'));
      useStage().addProduct('box');
      const box = useCampaign().set!.products.at(-1)!;
      useStage().selected = 'item';
      panel(MotionDialog);
      useActions().run('motion.copy');
      await rest();
      const checks = [...document.querySelectorAll<HTMLElement>('[role=dialog] .v-checkbox, .ui-dialog .v-checkbox')];
      const press = (words: string): void =>
        checks
          .find((c) => c.textContent!.includes(words))!
          .querySelector('input')!
          .click();
      expect(checks.map((c) => c.textContent!.trim())).include.members(['Turn, 2 keys', 'Times, 1 key']);
      press('Times');
      await rest();
      press(box.name);
      await rest();
      document.querySelector<HTMLElement>('[data-test=copy-motion]')!.click();
      await rest();
      expect(
        shot()
          .tracks.filter((t) => t.thing === box.id)
          .map((t) => [t.path, t.keys.length]),
      ).deep.equal([['turn', 2]]);
    });
  });

  describe('the graph', () => {
    beforeEach(() => useDocuments().run('shot', 'shot', turning('item')));

    it('opens under its thread, and another one joins it', async () => {
      useDocuments().run('shot', 'shot', keyValue(at(5, 'item', 'scale'), 2, 'Key'));
      const line = panel(MovesTimeline);
      expect(line.find('[data-test=graph]').exists()).equal(false);
      const [first, second] = line.findAll('[data-test=open-graph]');
      await first.trigger('click');
      await second.trigger('click', { shiftKey: true });
      expect(line.findAll('[data-test=graph]')).length(1);
      expect(line.find('[data-test=graph] .mono').text()).equal('%, deg');
      await line.find('[data-test=graph-speed]').trigger('click');
      expect(line.find('[data-test=graph] .mono').text()).equal('%, deg/s');
    });

    it('has handles of the chosen key that arrow keys move; both turn together while they lie on one line', async () => {
      useDocuments().run('shot', 'shot', keyValue(at(24), 180, 'Key'));
      const bezier = {
        kind: 'bezier' as const,
        out: [0.4, 0.4] as [number, number],
        in: [0.6, 0.6] as [number, number],
      };
      useDocuments().run('shot', 'shot', {
        label: 'Ease',
        run: (s) => s.tracks[0].keys.forEach((k) => void (k.ease = structuredClone(bezier))),
      });
      useKeySelection().only({ thing: 'item', path: 'turn' }, 24);
      useGraph().mode.value = 'value';
      const line = panel(MovesTimeline);
      await line.find('[data-test=open-graph]').trigger('click');
      await rest();
      const handle = (end: string) => line.find(`[data-test=handle-${end}]`);
      await handle('out').trigger('keydown', { key: 'ArrowUp' });
      const eases = () => shot().tracks[0].keys.map((k) => k.ease as typeof bezier);
      expect(eases()[1].out).deep.equal([0.4, 0.42]);
      // The other handle keeps its reach and goes onto the same line.
      expect(eases()[0].in[1]).closeTo(1 - 0.4 * (0.42 / 0.4), 1e-3);
      await handle('out').trigger('keydown', { key: 'ArrowUp', altKey: true });
      expect(eases()[1].out).deep.equal([0.4, 0.44]);
      expect(eases()[0].in[1]).closeTo(1 - 0.4 * (0.42 / 0.4), 1e-3);
    });
  });
});
