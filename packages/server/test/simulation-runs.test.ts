import { expect } from 'chai';
import { readFrame } from '@tender-orbit/core/simulate';
import { newEmitter, newSmoke, type SmokeEffect } from '@tender-orbit/core/document';
import type { CampaignBundle, SimulationEstimate, SimulationSummary, TakeSummary } from '@tender-orbit/core/contract';
import type { RunningServer } from '@tender-orbit/server';
import { changeDocument, signedIn, smallCampaign, startTestServer, testConfig, until } from './harness.ts';
import type { Client, SmallCampaign } from './harness.ts';

const LENGTH = 18;

describe('server: effects simulated apart from takes', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;
  const config = testConfig();

  const smoke = (values: Partial<SmokeEffect> = {}): SmokeEffect =>
    newSmoke('smoke', 'Smoke', {
      ...{ width: 0.32, height: 0.32, depth: 0.32, ...values },
      cells: { coarse: 0.04, normal: 0.03, fine: 0.02 },
      emitters: [
        newEmitter('source', 'Source', { position: [0, 0.06, 0], width: 0.14, height: 0.1, depth: 0.1, rate: 40 }),
      ],
    });
  const setTo = (values: Partial<SmokeEffect> = {}): Promise<void> =>
    changeDocument(client, 'set', campaign.set.id, { effects: [smoke(values)] });
  const asked = (values: object = {}): object => ({
    ...{ shot: campaign.shot.id, effect: 'smoke', level: 'fine' },
    ...values,
  });
  const start = async (values: object = {}): Promise<string> =>
    (await client.ok<{ id: string }>('POST', '/simulation-runs', asked(values))).id;
  const list = async (): Promise<SimulationSummary[]> =>
    (await client.ok<CampaignBundle>('GET', `/campaigns/${campaign.id}`)).simulations;
  const find = async (id: string): Promise<SimulationSummary> => (await list()).find((r) => r.id === id)!;
  const ended = (id: string): Promise<SimulationSummary> =>
    until(
      () => find(id),
      (r) => r.state !== 'running',
    );
  const keysOf = (id: string): Promise<string[]> => client.ok<string[]>('GET', `/simulation-runs/${id}/keys`);

  before(async () => {
    server = await startTestServer(config);
    client = await signedIn(server);
    campaign = await smallCampaign(client);
    await setTo();
    await changeDocument(client, 'shot', campaign.shot.id, { length: LENGTH });
  });
  after(() => server.stop());

  it('say how long they take, and nothing once they are there', async () => {
    const estimate = (): Promise<SimulationEstimate> =>
      client.ok<SimulationEstimate>('POST', '/simulation-runs/estimate', asked());
    const first = await estimate();
    expect(first.frames).equal(LENGTH - 1);
    expect(first.seconds).above(0);
    const done = await ended(await start());
    expect(done).include({ state: 'done', done: LENGTH - 1, frames: LENGTH - 1, secondsLeft: null, error: null });
    expect((await estimate()).seconds).equal(0);
  });

  it('give each frame by its number, as it was simulated', async () => {
    const [{ id }] = await list();
    expect(await keysOf(id)).length(LENGTH - 1);
    const { status, bytes } = await client.send('GET', `/simulation-runs/${id}/frames/${LENGTH - 1}`);
    expect(status).equal(200);
    const frame = readFrame(new Uint8Array(bytes));
    expect(frame.kind).equal('smoke');
    if (frame.kind === 'smoke') expect(Math.max(...frame.density)).above(0);
    expect((await client.send('GET', `/simulation-runs/${id}/frames/${LENGTH}`)).status).equal(404);
    expect((await client.send('GET', `/simulation-runs/${id}/frames/nothing`)).status).equal(404);
  });

  it('are what a take at that level needs: it simulates nothing', async () => {
    await setTo({ level: 'fine' });
    const body = { shot: campaign.shot.id, quality: 'clay', width: 32, samples: 1 };
    const { id } = await client.ok<{ id: string }>('POST', '/takes', body);
    const takes = (): Promise<TakeSummary[]> => client.ok<TakeSummary[]>('GET', `/campaigns/${campaign.id}/takes`);
    await until(takes, (all) => all.find((t) => t.id === id)!.state !== 'rendering');
    const slow = await server.context.db.one<{ seconds: number }>(
      "SELECT COUNT(*) AS chunks FROM jobs WHERE subject_id = ? AND kind = 'take-simulate' AND state <> 'done'",
      [id],
    );
    expect(Number(Object.values(slow!)[0])).equal(0);
    const [run] = await list();
    const before = await keysOf(run.id);
    expect(await server.context.runs.snapshotOf(run.id)).property('set');
    expect(before.every((key) => /^[0-9a-f]{16,}$/.test(key))).equal(true);
  });

  it('are stopped and go on from where they were', async () => {
    await setTo({ lift: 2, width: 0.6, height: 0.6, depth: 0.6 });
    const id = await start();
    await client.send('POST', `/simulation-runs/${id}/stop`);
    const stopped = await find(id);
    expect(stopped.state).equal('stopped');
    expect(stopped.done).below(LENGTH - 1);
    await client.send('POST', `/simulation-runs/${id}/resume`);
    expect(await ended(id)).include({ state: 'done', done: LENGTH - 1 });
  });

  it('take the place of the earlier one of the same effect and level; those of another level stay', async () => {
    const [old] = await list();
    const id = await start();
    const coarse = await start({ level: 'coarse' });
    expect((await list()).map((r) => r.id)).members([id, coarse]);
    expect((await client.send('GET', `/simulation-runs/${old.id}/keys`)).status).equal(404);
    await ended(id);
    await ended(coarse);
    expect(await client.send('DELETE', `/simulation-runs/${coarse}`)).include({ status: 204 });
    expect((await list()).map((r) => r.id)).deep.equal([id]);
  });

  it('refuse what cannot be simulated with a sentence', async () => {
    const said = async (values: object): Promise<string> => {
      const { status, body } = await client.send('POST', '/simulation-runs', asked(values));
      expect(status).within(400, 499);
      return (body as { title: string }).title;
    };
    expect(await said({ level: 'finest' })).match(/coarse, normal or fine/);
    expect(await said({ effect: 'none' })).match(/effect/);
    await setTo({ visible: false });
    expect(await said({})).match(/"Smoke" is not seen in/);
    await changeDocument(client, 'set', campaign.set.id, {
      effects: [{ ...smoke({ width: 10, height: 10, depth: 10 }), cells: { coarse: 0.04, normal: 0.03, fine: 0.001 } }],
    });
    const { status, body } = await client.send('POST', '/simulation-runs/estimate', asked());
    expect(status).equal(422);
    expect((body as { title: string }).title).match(/million cells and \d+ GB of memory/);
    const failed = await ended(await start());
    expect(failed.state).equal('failed');
    expect(failed.error).match(/million cells/);
  });

  it('of others are not to be seen, and they go with what is cleared', async () => {
    const [run] = await list();
    const other = await signedIn(server, 'odo@vellowmere.example');
    expect((await other.send('GET', `/simulation-runs/${run.id}/keys`)).status).equal(404);
    expect((await other.send('DELETE', `/simulation-runs/${run.id}`)).status).equal(404);
    expect(await client.ok('DELETE', '/simulations')).deep.equal({ bytes: 0 });
    expect(await list()).deep.equal([]);
  });
});
