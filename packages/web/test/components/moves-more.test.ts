import './page.ts';
import { expect } from 'chai';
import { addPath, addRule, addThing, newNull, type MovePath, type Rule } from '@tender-orbit/core/document';
import { useActions } from '../../src/actions/index.ts';
import KeyDetails from '../../src/moves/KeyDetails.vue';
import MovesTimeline from '../../src/moves/MovesTimeline.vue';
import PathDetails from '../../src/moves/PathDetails.vue';
import RecipeDetails from '../../src/moves/recipes/RecipeDetails.vue';
import RecipeGallery from '../../src/moves/recipes/RecipeGallery.vue';
import RuleDetails from '../../src/moves/rules/RuleDetails.vue';
import { useKeyActions } from '../../src/moves/use-key-tools.ts';
import { useKeySelection } from '../../src/moves/use-key-selection.ts';
import { useMovesActions } from '../../src/moves/use-moves-versions.ts';
import OrbitPlan from '../../src/plan/OrbitPlan.vue';
import { useSetActions } from '../../src/set/use-set-actions.ts';
import { useCampaign, useDocuments, useNotices, usePlayhead, useSelection, useStage } from '../../src/stores/index.ts';
import { useMoveSelection } from '../../src/things/use-move-selection.ts';
import { usePathDrawing } from '../../src/things/use-path-drawing.ts';
import { usePathPoints } from '../../src/things/use-path-points.ts';
import { useTrail } from '../../src/things/use-trail.ts';
import { choose, clearPage, rest, setNumber } from './mounted.ts';
import { openCampaign, panel, turning } from './open-campaign.ts';

const real = globalThis.fetch;
const shot = () => useCampaign().shot!;
const set = () => useCampaign().set!;

describe('moves: nulls, paths, versions', () => {
  beforeEach(async () => {
    await openCampaign({});
    panel({ setup: () => (useKeyActions(), useMovesActions(), useSetActions(), () => null) });
  });
  afterEach(async () => {
    useMoveSelection().clear();
    useStage().recording = false;
    usePathDrawing().drawing.value = false;
    usePlayhead().loop(null, 48);
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  const way: MovePath = {
    ...{ id: 'way', name: 'Way', closed: false },
    points: [
      { id: 'p0', at: [0, 0, 0], handles: null },
      { id: 'p1', at: [1, 0, 0], handles: null },
      { id: 'p2', at: [1, 0, 1], handles: null },
    ],
  };
  const run = (command: ReturnType<typeof addPath>): void => useDocuments().run('shot', 'shot', command);

  it('what is chosen is carried by a new null in its middle, all in one undo each', () => {
    const before = set().nulls.length;
    useStage().addProduct('box');
    useSelection().pick('item');
    useSelection().pick(set().products.at(-1)!.id, true);
    useActions().run('thing.carry');
    const pivot = set().nulls.at(-1)!;
    expect(set().nulls).length(before + 1);
    expect(shot().rules.map((r) => [r.kind, (r as { target: string }).target])).deep.equal([
      ['parent', pivot.id],
      ['parent', pivot.id],
    ]);
    const xs = set().products.map((p) => p.position[0]);
    expect(pivot.position[0]).closeTo((Math.min(...xs) + Math.max(...xs)) / 2, 1e-9);
    expect(useStage().selected).equal(pivot.id);
  });

  it('a null stands on the plan as a cross with its name', async () => {
    useStage().run(addThing('nulls', newNull('n', 'Pivot', [0.2, 0, 0]), 'Add null'));
    await rest();
    const mark = panel(OrbitPlan).find('[data-spot=n]');
    expect(mark.attributes('aria-label')).contain('Pivot');
    expect(mark.find('path').exists()).equal(true);
  });

  it('points of a path are keyed, and moved by keys from then on; a point that goes takes its keys along', async () => {
    run(addPath(way));
    useMoveSelection().choose('path', 'way');
    const details = panel(PathDetails);
    await details.find('.v-expansion-panel-title').trigger('click');
    await rest();
    await details.find('button[aria-label="Key point 2"]').trigger('click');
    expect(shot().tracks.map((t) => [t.thing, t.path])).deep.equal([['way', 'points.p1.at']]);
    usePlayhead().seek(10, 48);
    await rest();
    // The second point's, of three of that name.
    const across = details.findAll('input[aria-label="Point across, cm"]')[1];
    await across.setValue('50');
    await across.trigger('keydown', { key: 'Enter' });
    await rest();
    expect(shot().tracks[0].keys.map((k) => [k.frame, k.value])).deep.equal([
      [0, [1, 0, 0]],
      [10, [0.5, 0, 0]],
    ]);
    expect(shot().paths[0].points[1].at).deep.equal([1, 0, 0]);
    const line = panel(MovesTimeline);
    expect(line.text()).contain('Way').and.contain('point 2');
    const remove = details.findAll('button').filter((b) => b.text() === 'Remove');
    await remove[1].trigger('click');
    expect(shot().paths[0].points.map((p) => p.id)).deep.equal(['p0', 'p2']);
    expect(shot().tracks).deep.equal([]);
  });

  it('a point gets handles as it goes now; pulled, its other one turns with it, or stays with Shift', () => {
    run(addPath(way));
    const points = usePathPoints();
    const path = () => points.paths.value[0];
    points.bend(path(), 1);
    const { handles } = path().points[1];
    expect(handles!.out[0]).closeTo(-handles!.in[0], 1e-6);
    points.pull(path(), path().points[1], 'out', [1, 0, 0.5], true, '');
    expect(path().points[1].handles!.out).deep.equal([0, 0, 0.5]);
    const turned = path().points[1].handles!.in;
    expect([Math.abs(turned[0]), turned[2] < 0]).deep.equal([0, true]);
    expect(Math.hypot(...turned)).closeTo(Math.hypot(...handles!.in), 1e-4);
    points.pull(path(), path().points[1], 'in', [0.5, 0, 0], false, '');
    expect(path().points[1].handles).deep.equal({ in: [-0.5, 0, 0], out: [0, 0, 0.5] });
    points.bend(path(), 1);
    expect(path().points[1].handles).equal(null);
  });

  it('keys are stretched about the playhead where it lies among them', async () => {
    run({
      label: 'Turn',
      run: (s) =>
        void s.tracks.push({
          ...{ thing: 'item', path: 'turn' },
          keys: [20, 30, 40].map((frame) => ({ frame, value: frame, ease: 'linear' })),
        }),
    });
    const keys = useKeySelection();
    keys.replace([20, 30, 40].map((frame) => ({ thing: 'item', path: 'turn', frame })));
    usePlayhead().seek(30, 48);
    const details = panel(KeyDetails);
    await setNumber(details, 'Take, f', '10');
    expect(shot().tracks[0].keys.map((k) => k.frame)).deep.equal([25, 30, 35]);
    usePlayhead().seek(0, 48);
    await setNumber(details, 'Take, f', '20');
    expect(shot().tracks[0].keys.map((k) => k.frame)).deep.equal([25, 35, 45]);
    keys.clear();
  });

  it('a stroke becomes a smooth path; one that goes nowhere is refused in a sentence', () => {
    const pen = usePathDrawing();
    pen.begin([0, 0, 0]);
    for (let i = 1; i <= 20; i++) pen.go([i * 0.01, 0, Math.sin(i / 4) * 0.02]);
    pen.finish();
    expect(shot().paths[0].points.length).within(2, 12);
    expect(useMoveSelection().path.value?.id).equal(shot().paths[0].id);
    pen.begin([0, 0, 0]);
    pen.finish();
    expect(useNotices().text).contain('goes nowhere');
    expect(shot().paths).length(1);
  });

  it('two versions are kept, switched and one chosen', async () => {
    run(turning('item') as never);
    useActions().run('moves.version');
    useActions().run('moves.clear');
    panel(RecipeGallery);
    run({ label: 'Clear', run: (s) => void (s.tracks = []) });
    const line = panel(MovesTimeline);
    expect(line.find('[data-test=versions]').text()).equal('Version B');
    useActions().run('moves.version');
    await rest();
    expect(line.find('[data-test=versions]').text()).equal('Version A');
    expect(shot().tracks).length(1);
    expect(shot().other!.tracks).deep.equal([]);
  });

  it('what is played can be bounded, by actions and on the ruler', async () => {
    usePlayhead().seek(10, 48);
    useActions().run('time.loop-from');
    usePlayhead().seek(20, 48);
    useActions().run('time.loop-to');
    expect(usePlayhead().range).deep.equal({ from: 10, to: 21 });
    const line = panel(MovesTimeline);
    expect(line.find('[data-test=loop-range]').exists()).equal(true);
    const ruler = line.find('[data-test=ruler]');
    ruler.element.getBoundingClientRect = () => new DOMRect(0, 0, 480, 36);
    (ruler.element as unknown as { setPointerCapture: () => void }).setPointerCapture = () => {};
    await ruler.trigger('pointerdown', { button: 0, buttons: 1, clientX: 300, shiftKey: true });
    await ruler.trigger('pointermove', { buttons: 1, clientX: 100 });
    const length = shot().length;
    const frames = [100, 300].map((x) => Math.round((x / 480) * length));
    expect(usePlayhead().range).deep.equal({ from: frames[0], to: frames[1] });
    useActions().run('time.loop-all');
    expect(usePlayhead().range).equal(null);
  });

  it('a camera that aims at a product aims at one of its parts', async () => {
    const rule: Rule = {
      ...{ id: 'look', name: 'Aim', thing: 'hero', path: '', muted: false },
      ...{ kind: 'aim', target: 'item', offset: [0, 0.1, 0], part: '', roll: 0 },
    };
    run(addRule(rule) as never);
    useMoveSelection().choose('rule', 'look');
    const details = panel(RuleDetails);
    await setNumber(details, 'Roll, deg', '15');
    expect(shot().rules[0]).include({ roll: 15 });
    expect(details.find('input[aria-label="Offset up, cm"]').exists()).equal(true);
  });

  it('keys of a way are moved where they lie, in the axes that are keyed', () => {
    run({
      label: 'Go',
      run: (s) =>
        void s.tracks.push({
          ...{ thing: 'item', path: 'position.0' },
          keys: [
            { frame: 0, value: 0, ease: 'linear' },
            { frame: 10, value: 1, ease: 'linear' },
          ],
        }),
    });
    useStage().selected = 'item';
    const { trail, put } = useTrail();
    expect(trail.value!.keys).deep.equal([0, 10]);
    expect(trail.value!.points[5][0]).closeTo(0.5, 1e-9);
    put(10, [2, trail.value!.points[10][1], trail.value!.points[10][2]], '');
    expect(shot().tracks.map((t) => t.path)).deep.equal(['position.0']);
    expect(shot().tracks[0].keys[1].value).equal(2);
    put(10, [2, trail.value!.points[10][1], 0.5], '');
    expect(shot().tracks.map((t) => t.path)).deep.equal(['position.0', 'position.2']);
  });

  it("a model's animation says its speed by its length, and another one is played at its own", async () => {
    useDocuments().run('product', 'jar', {
      label: 'Moves',
      run: (product) =>
        void (product.origin = {
          ...{ files: [], pose: null },
          animations: [
            { name: 'Open', seconds: 2 },
            { name: 'Puff', seconds: 0.5 },
          ],
        }),
    });
    useStage().selected = 'item';
    await panel(RecipeGallery).find('[data-test=recipe-own-animation]').trigger('click');
    const own = () => shot().recipes[0];
    expect(own()).deep.include({ kind: 'own-animation', length: 48 });
    const details = panel(RecipeDetails);
    await setNumber(details, 'Speed, ×', '2');
    expect(own().length).equal(24);
    await choose(details, 'Animation', 'Puff, 0.50 s');
    expect(own()).deep.include({ length: 12 });
    expect(own().options).include({ animation: '1', to: 0.5 });
  });
});
