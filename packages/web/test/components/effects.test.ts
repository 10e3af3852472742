import './page.ts';
import { expect } from 'chai';
import type { SetDocument, SmokeEffect } from '@tender-orbit/core/document';
import type { SmokeFrame } from '@tender-orbit/core/simulate';
import { useActions } from '../../src/actions/index.ts';
import NewTake from '../../src/composite/NewTake.vue';
import { useEffects } from '../../src/effects/index.ts';
import PropertyField from '../../src/controls/PropertyField.vue';
import BodyHingeFields from '../../src/moves/BodyHingeFields.vue';
import DropDialog from '../../src/moves/DropDialog.vue';
import MovesTimeline from '../../src/moves/MovesTimeline.vue';
import OrbitPlan from '../../src/plan/OrbitPlan.vue';
import DetailsPanel from '../../src/set/details/DetailsPanel.vue';
import EmitterMaskFields from '../../src/set/details/EmitterMaskFields.vue';
import SetList from '../../src/set/SetList.vue';
import { useCampaign, useDocuments, useNotices, useStage } from '../../src/stores/index.ts';
import type { BodiesReply, BodiesRequest } from '../../src/workers/bodies-worker.ts';
import type { EffectsReply, EffectsRequest } from '../../src/workers/effects-worker.ts';
import { heldWorkers } from './held-workers.ts';
import { choose, clearPage, rest, setNumber, type show } from './mounted.ts';
import { openCampaign, panel } from './open-campaign.ts';

type Wrapper = ReturnType<typeof show>;
const real = globalThis.fetch;
const set = (): SetDocument => useCampaign().set!;
const smoke = (): SmokeEffect => set().effects[0] as SmokeEffect;
/** Long enough for a change to be sent to the worker. */
const calm = (): Promise<void> => new Promise((done) => setTimeout(done, 320));

describe('effects', () => {
  const { requests, reply, asked } = heldWorkers<EffectsRequest, EffectsReply>();

  beforeEach(async () => {
    await openCampaign();
    useStage().addSmoke('smoke reveal');
    await rest();
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  const frame = (most: number): SmokeFrame => ({
    ...{ kind: 'smoke', size: [8, 8, 8], cell: 0.01, origin: [0, 0, 0], most },
    density: new Uint16Array(512).fill(65535),
  });

  const densityAt = (at: number): number => {
    const seen = useEffects().simulatedAt(smoke().id, at)!;
    return seen.kind === 'smoke' ? seen.density[0] : NaN;
  };

  it('smoke made for the product stands in the list and on the plan, and is in hand', () => {
    expect(smoke()).include({ kind: 'smoke', name: 'Smoke reveal' });
    expect(smoke().playback.backwards).equal(true);
    expect(useStage().selected).equal(smoke().id);
    expect(panel(SetList).text()).contain('Smoke reveal');
    expect(panel(OrbitPlan).find('rect[style*="--violet"]').exists()).equal(true);
  });

  it('is simulated as soon as nothing changes, with what is known of it before', async () => {
    useEffects();
    await asked();
    expect(requests).length(1);
    const [{ id, effects, known }] = requests;
    expect(effects).deep.equal([{ id: smoke().id, level: 'coarse', elsewhere: false }]);
    expect(known.size).equal(0);
    const keys = Array.from({ length: 48 }, (_, i) => `k${i}`);
    reply({ kind: 'keys', id, effect: smoke().id, level: 'coarse', keys });
    reply({ kind: 'frame', id, effect: smoke().id, key: 'k1', frame: frame(2), milliseconds: 20 });
    // Played backwards, the shot ends with what was simulated first.
    expect(useEffects().ripe(smoke().id).slice(-3)).deep.equal([false, true, true]);
    expect(useEffects().share(smoke().id)).closeTo(1 / 47, 1e-9);
    // Until a frame is there the one before it stands for it.
    expect(densityAt(5)).equal(2);
    reply({ kind: 'frame', id, effect: smoke().id, key: 'k2', frame: frame(4), milliseconds: 20 });
    expect(densityAt(1.5)).equal(3);
    useStage().setNumber(smoke().id, 'lift', 4, 'Change lift');
    await calm();
    expect(requests).length(2);
    expect([...requests[1].known]).deep.equal(['k1', 'k2']);
    // What still comes for what was asked before is let go.
    reply({ kind: 'frame', id, effect: smoke().id, key: 'k3', frame: frame(1), milliseconds: 20 });
    expect(useEffects().ripe(smoke().id).at(-4)).equal(false);
  });

  it('its panel says what a level takes, and changes sources, walls and playing', async () => {
    const details = panel(DetailsPanel);
    expect(details.find('[data-test=effect-cost]').text()).match(/thousand cells, \d+ MB/);
    const before = details.find('[data-test=effect-cost]').text();
    useEffects().levels.set(smoke().id, 'fine');
    await rest();
    expect(details.find('[data-test=effect-cost]').text()).not.equal(before);
    const add = details.find('button[aria-label="Add emitter"]');
    await add.trigger('click');
    await rest();
    expect(smoke().emitters).length(3);
    await setNumber(details, 'Rate, /s', '33');
    expect(smoke().emitters[2].rate).equal(33);
    await choose(details, 'Shape', 'Thing');
    expect(smoke().emitters[2].shape).equal('thing');
    await details.find('button[aria-label="Delete emitter"]').trigger('click');
    await rest();
    expect(smoke().emitters).length(2);
    await setNumber(details, 'Rises by heat, m/s2', '7');
    expect(smoke().lift).equal(7);
  });

  it('in Moves its numbers are keyed, and a ribbon says what is simulated', async () => {
    const stage = useStage();
    stage.toggleKey(smoke().id, 'lift', 'rises by heat');
    stage.toggleKey(smoke().id, `emitters.${smoke().emitters[0].id}.rate`, 'rate');
    await rest();
    const rate = `emitters.${smoke().emitters[0].id}.rate`;
    expect(useCampaign().shot!.tracks.map(({ path }) => path)).have.members(['lift', rate]);
    const line = panel(MovesTimeline);
    expect(line.find('[data-test=ripeness]').attributes('aria-label')).match(/0 % simulated, coarse/);
  });

  it('an emitter gets a mask, its side, and loses it again, each in a step', async () => {
    const shown = panel(DetailsPanel);
    const fields = shown.findComponent(EmitterMaskFields);
    const mask = { from: 'above' as const, width: 2, height: 1, values: 'f0' };
    fields.vm.$emit('change', mask);
    await rest();
    expect(smoke().emitters[0].mask).deep.equal(mask);
    await choose(shown, 'Side of the mask', 'From the front');
    expect(smoke().emitters[0].mask).deep.equal({ ...mask, from: 'front' });
    await shown.find('[aria-label="Give off without the mask"]').trigger('click');
    expect(smoke().emitters[0].mask).equal(null);
    useDocuments().undo();
    expect(smoke().emitters[0].mask!.from).equal('front');
  });

  it('the box of an effect takes no keys, also while moves are recorded', async () => {
    const stage = useStage();
    stage.recording = true;
    stage.setNumber(smoke().id, 'position.0', 0.2, 'Move');
    stage.setNumber(smoke().id, 'lift', 3, 'Change lift');
    stage.recording = false;
    expect(smoke().position[0]).equal(0.2);
    expect(useCampaign().shot!.tracks.map(({ path }) => path)).deep.equal(['lift']);
    const details = panel(DetailsPanel, { keys: true });
    const keyed = (label: string): boolean => details.find(`button[aria-label*="${label}"]`).exists();
    expect([keyed('ises by heat'), keyed('Height'), keyed('Width')]).deep.equal([true, false, false]);
  });

  it('a level that is too fine is said in a sentence, where the effect is', async () => {
    useEffects();
    await calm();
    const message = 'It would be 900 million cells.';
    reply({ kind: 'problem', id: requests[0].id, effect: smoke().id, message });
    await rest();
    expect(panel(DetailsPanel).find('[role=alert]').text()).equal(message);
  });

  it('a take says what it will simulate first', () => {
    expect(panel(NewTake, { part: null }).find('[data-test=simulates]').text()).contain('Smoke reveal (normal)');
  });
});

describe('what of its product a placed product has otherwise', () => {
  beforeEach(() => openCampaign());
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('is chosen by part, label or finish, and always becomes a key', async () => {
    useStage().selected = 'item';
    const details = panel(DetailsPanel, { keys: true });
    await details
      .findAll('button')
      .find((b) => b.text().includes('Parts, labels and finishes'))!
      .trigger('click');
    await rest();
    await setNumber(details, 'Fill level, %', '40');
    const [track] = useCampaign().shot!.tracks;
    expect(track).deep.include({ thing: 'item', path: 'own.body.turned.fill' });
    expect(track.keys[0].value).equal(0.4);
    expect(useStage().value('item', 'own.body.turned.fill')).equal(0.4);
    await choose(details, 'Part, label or finish', 'Part: Body');
    await setNumber(details, 'Shift up, cm', '5');
    expect(useCampaign().shot!.tracks[1]).deep.include({ thing: 'item', path: 'own.parts.0.shift.1' });
    expect(panel(MovesTimeline).text()).contain('Body: shift up');
  });
});

describe('dropping as bodies', () => {
  const { requests, reply } = heldWorkers<BodiesRequest, BodiesReply>();
  beforeEach(async () => {
    await openCampaign();
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));
  const dialog = async (): Promise<Wrapper> => {
    const shown = panel(DropDialog);
    useActions().run('motion.drop');
    await rest();
    return shown;
  };
  const inDialog = (words: string): HTMLElement =>
    [...document.querySelectorAll<HTMLElement>('[role=dialog] button')].find((b) => b.textContent?.trim() === words)!;

  it('asks for what falls, and keys what comes back in one step that can be taken back', async () => {
    await dialog();
    inDialog('Let them fall').click();
    await rest();
    expect(requests[0].falling).deep.equal(['item']);
    expect(requests[0].restAt).equal(24);
    const tracks = [{ thing: 'item', path: 'position.1', keys: [{ frame: 3, value: 0.2, ease: 'linear' as const }] }];
    reply({ id: requests[0].id, tracks, start: 3, rests: 24 });
    await rest();
    expect(useCampaign().shot!.tracks).deep.equal(tracks);
    useDocuments().undo();
    expect(useCampaign().shot!.tracks).deep.equal([]);
  });

  it('each way asks for its own numbers, and says which it is', async () => {
    const shown = await dialog();
    const fields = (): string[] =>
      [...document.querySelectorAll('[role=dialog] input')].map((f) => f.getAttribute('aria-label') ?? '');
    expect(fields().some((label) => /Falls from/.test(label))).equal(true);
    inDialog('Throw').click();
    await rest();
    expect(fields().some((label) => /Falls from/.test(label))).equal(false);
    expect(fields().some((label) => /Comes from/.test(label))).equal(true);
    expect(fields().some((label) => /In the air/.test(label))).equal(true);
    // What rolls stays on the floor.
    inDialog('Roll').click();
    await rest();
    expect(fields().some((label) => /Comes from/.test(label))).equal(true);
    expect(fields().some((label) => /In the air/.test(label))).equal(false);
    inDialog('Throw').click();
    await rest();
    inDialog('Let them fall').click();
    await rest();
    expect(requests[0].settings).include({ way: 'throw', away: 0.6 });
    expect(requests[0].hinge).equal(null);
    shown.unmount();
  });

  it('a part that swings is asked for with its limits, which its beginning keeps to', async () => {
    const hinge = { thing: 'item', parts: [1], side: 'back' as const, from: 0, to: 90, start: 75 };
    const products = useCampaign().set!.products;
    const shown = panel(BodyHingeFields, { value: hinge, products });
    await shown.find('.v-expansion-panel-title').trigger('click');
    await rest();
    const fields = shown.findAllComponents(PropertyField);
    expect(fields.map((field) => field.props('property').label)).deep.equal(['Begins open', 'Least', 'Most']);
    fields[0].vm.$emit('change', 120);
    fields[2].vm.$emit('change', 60);
    const changes = shown.emitted('change')!.map(([change]) => change);
    expect(changes[0]).include({ start: 120, to: 120 });
    expect(changes[1]).include({ start: 60, to: 60 });
  });

  it('says so when it could not be worked out, and nothing is lost', async () => {
    await dialog();
    inDialog('Let them fall').click();
    await rest();
    reply({ id: requests[0].id, failed: true });
    await rest();
    expect(useNotices().text).match(/could not be worked out/);
    expect(useCampaign().shot!.tracks).deep.equal([]);
  });
});
