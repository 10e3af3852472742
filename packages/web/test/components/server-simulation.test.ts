import './page.ts';
import { expect } from 'chai';
import { writeFrame, type SmokeFrame } from '@tender-orbit/core/simulate';
import type { SimulationSummary } from '../../src/api/index.ts';
import { useEffects } from '../../src/effects/index.ts';
import ServerSimulation from '../../src/set/details/ServerSimulation.vue';
import { useCampaign, useStage } from '../../src/stores/index.ts';
import type { EffectsReply, EffectsRequest } from '../../src/workers/effects-worker.ts';
import { heldWorkers } from './held-workers.ts';
import { clearPage, rest, show } from './mounted.ts';
import { asked, openCampaign } from './open-campaign.ts';

/** Long enough for a change to be sent to the worker. */
const calm = (): Promise<void> => new Promise((done) => setTimeout(done, 320));
const KEYS = Array.from({ length: 48 }, (_, i) => `k${i}`);

describe('effects on the server', () => {
  const { requests, reply } = heldWorkers<EffectsRequest, EffectsReply>();
  const real = globalThis.fetch;
  const id = (): string => useCampaign().set!.effects[0].id;
  const run = (values: Partial<SimulationSummary> = {}): SimulationSummary => ({
    ...{ id: 'r', shot: useCampaign().shotId, effect: id(), level: 'coarse', state: 'done' },
    ...{ frames: 47, done: 47, secondsLeft: null, error: null },
    ...values,
  });
  const frame: SmokeFrame = {
    ...{ kind: 'smoke', size: [8, 8, 8], cell: 0.01, origin: [0, 0, 0], most: 3 },
    density: new Uint16Array(512).fill(65535),
  };
  let served = 0;

  beforeEach(async () => {
    served = 0;
    await openCampaign({
      'GET /api/simulation-runs/r/keys': KEYS.slice(1),
      'POST /api/simulation-runs/estimate': { frames: 47, seconds: 130 },
    });
    const answer = globalThis.fetch;
    globalThis.fetch = (async (path: string, init: RequestInit) => {
      if (!path.startsWith('/api/simulation-runs/r/frames/')) return answer(path, init);
      served++;
      return new Response(writeFrame(frame) as Uint8Array<ArrayBuffer>);
    }) as typeof fetch;
    useStage().addSmoke('smoke reveal');
    await rest();
  });
  afterEach(async () => {
    clearPage();
    await useCampaign().close();
  });
  after(() => void (globalThis.fetch = real));

  it('what the server has is not simulated here, and is fetched when it is looked at', async () => {
    const effects = useEffects();
    useCampaign().simulations = [run()];
    await calm();
    expect([...requests.at(-1)!.known]).include('k47');
    expect(requests.at(-1)!.effects[0].elsewhere).equal(false);
    reply({ kind: 'keys', id: requests.at(-1)!.id, effect: id(), level: 'coarse', keys: KEYS });
    expect(effects.share(id())).equal(1);
    expect(effects.ripe(id()).every(Boolean)).equal(true);
    expect(effects.simulatedAt(id(), 10)).equal(undefined);
    await calm();
    const seen = effects.simulatedAt(id(), 10)!;
    expect(seen.kind === 'smoke' && seen.density[0]).equal(3);
    // Those that come next were fetched with it, and none twice.
    expect(served).equal(4);
  });

  it('what was there and is removed is simulated here after all', async () => {
    useEffects();
    useCampaign().simulations = [run()];
    await calm();
    expect(requests.at(-1)!.known.size).equal(47);
    const before = requests.length;
    useCampaign().simulations = [];
    await calm();
    expect(requests.length).above(before);
    expect(requests.at(-1)!.known.size).equal(0);
  });

  it('what is on its way there is not simulated twice; a run that is gone is', async () => {
    useEffects();
    useCampaign().simulations = [run({ state: 'running', done: 8 })];
    await calm();
    expect(requests.at(-1)!.effects[0].elsewhere).equal(true);
    useCampaign().simulations = [];
    await calm();
    expect(requests.at(-1)!.effects[0].elsewhere).equal(false);
    expect(requests.at(-1)!.known.size).equal(0);
  });

  it('its panel estimates, starts, pauses, goes on and removes', async () => {
    const wrapper = show(ServerSimulation, { props: { effect: id(), level: 'coarse' } });
    const press = async (selector: string): Promise<void> => {
      await wrapper.find(selector).trigger('click');
      await calm();
    };
    const calls = (): string[] => asked.filter(([m]) => m !== 'GET').map(([m, path]) => `${m} ${path.slice(4)}`);
    await press('[data-test=run-estimate]');
    expect(wrapper.find('[data-test=run-estimated]').text()).equal('Takes about 2 min.');
    await press('[data-test=run-start]');
    expect(asked.findLast(([m, path]) => m === 'POST' && path.endsWith('-runs'))![2]).deep.equal({
      ...{ shot: useCampaign().shotId, effect: id(), level: 'coarse' },
    });
    useCampaign().simulations = [run({ state: 'running', done: 16, secondsLeft: 30 })];
    await rest();
    expect(wrapper.find('[data-test=run-words]').text()).equal('16 of 47 frames, 30 s left');
    await press('button[aria-label=Pause]');
    expect(calls().at(-1)).equal('POST /simulation-runs/r/stop');
    useCampaign().simulations = [run({ state: 'failed', done: 16, error: 'The disk is full.' })];
    await rest();
    expect(wrapper.find('[role=alert]').text()).equal('The disk is full.');
    await press('button[aria-label="Go on"]');
    expect(calls().at(-1)).equal('POST /simulation-runs/r/resume');
    useCampaign().simulations = [run()];
    await rest();
    expect(wrapper.find('[data-test=run-words]').text()).equal('All 47 frames are on the server');
    await press('button[aria-label="Remove the simulation on the server"]');
    expect(calls().at(-1)).equal('DELETE /simulation-runs/r');
  });
});
