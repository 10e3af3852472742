import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { newEmitter, newSmoke, type SmokeEffect } from '@tender-orbit/core/document';
import type { Estimate, TakeSummary } from '@tender-orbit/core/contract';
import { SimulationStore, type RunningServer } from '@tender-orbit/server';
import {
  changeDocument,
  signedIn,
  smallCampaign,
  startTestServer,
  testConfig,
  until,
  type Client,
  type SmallCampaign,
} from './harness.ts';

const LENGTH = 18;

describe('server: smoke in takes', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;
  const config = testConfig();

  before(async () => {
    server = await startTestServer(config);
    client = await signedIn(server);
    campaign = await smallCampaign(client);
    await change('set', campaign.set.id, { effects: [smoke()] });
    await change('shot', campaign.shot.id, { length: LENGTH });
  });
  after(() => server.stop());

  /** Thick dark smoke before the camera, in few cells. */
  const smoke = (values: Partial<SmokeEffect> = {}): SmokeEffect =>
    newSmoke('smoke', 'Smoke', {
      ...{ width: 0.32, height: 0.32, depth: 0.32, thickness: 900, colour: '#101010', ...values },
      cells: { coarse: 0.02, normal: 0.02, fine: 0.02 },
      emitters: [
        newEmitter('source', 'Source', { position: [0, 0.06, 0], width: 0.14, height: 0.1, depth: 0.1, rate: 40 }),
      ],
    });

  const change = (kind: 'set' | 'shot', id: string, values: object): Promise<void> =>
    changeDocument(client, kind, id, values);
  const start = async (values: object = {}): Promise<string> => {
    const body = { shot: campaign.shot.id, quality: 'draft', width: 48, samples: 4, ...values };
    return (await client.ok<{ id: string }>('POST', '/takes', body)).id;
  };
  const find = async (id: string): Promise<TakeSummary> =>
    (await client.ok<TakeSummary[]>('GET', `/campaigns/${campaign.id}/takes`)).find((t) => t.id === id)!;
  const rendered = (id: string): Promise<TakeSummary> =>
    until(
      () => find(id),
      (t) => t.state !== 'rendering',
    );
  const simulated = async (id: string): Promise<number> =>
    (
      await server.context.db.rows<{ part: number }>(
        "SELECT part FROM jobs WHERE subject_id = ? AND kind = 'take-simulate' AND seconds IS NOT NULL",
        [id],
      )
    ).length;
  const brightness = async (id: string, frame: number): Promise<number> => {
    const { bytes } = await client.send('GET', `/takes/${id}/frames/${frame}`);
    const { channels } = await sharp(bytes).extract({ left: 18, top: 8, width: 12, height: 14 }).stats();
    return channels[0].mean;
  };
  const files = async (): Promise<string[]> =>
    (await readdir(join(config.files, 'simulations'), { recursive: true })).filter((f) => f.endsWith('.frame'));

  const estimate = (): Promise<Estimate> =>
    client.ok<Estimate>('POST', '/takes/estimate', { shot: campaign.shot.id, quality: 'draft', width: 48, samples: 4 });

  it('counts in the estimate of a take while it is not there', async () => {
    const { seconds, simulation } = await estimate();
    expect(simulation).above(0);
    expect(seconds).above(simulation);
  });

  it('is simulated first, chunk by chunk, and then seen to come', async () => {
    const id = await start();
    const done = await rendered(id);
    expect(done).include({ state: 'done' });
    expect(done.done).length(LENGTH);
    expect(await simulated(id)).equal(3);
    expect(await files()).length(LENGTH - 1);
    expect(await brightness(id, 17)).below((await brightness(id, 0)) * 0.8);
  });

  it('costs an estimate nothing once it is there', async () => {
    expect((await estimate()).simulation).equal(0);
  });

  it('played backwards it goes, and nothing is simulated again', async () => {
    const before = await files();
    const playback = { backwards: true, speed: 1, offset: 0, loop: false };
    await change('set', campaign.set.id, { effects: [smoke({ playback })] });
    const id = await start();
    await rendered(id);
    expect(await files()).deep.equal(before);
    expect(await brightness(id, 0)).below((await brightness(id, 17)) * 0.8);
  });

  it('frames are shared with a take that shows the same smoke, not with one that shows other', async () => {
    await change('set', campaign.set.id, { effects: [smoke()] });
    const id = await start();
    await rendered(id);
    expect(await simulated(id)).equal(0);
    await change('set', campaign.set.id, { effects: [smoke({ lift: -6 })] });
    const other = await start();
    await rendered(other);
    expect(await simulated(other)).above(0);
    expect(await brightness(other, 17)).not.closeTo(await brightness(id, 17), 0.01);
  });

  it('a look that is keyed is not taken for the look that it had', async () => {
    await change('set', campaign.set.id, { effects: [smoke()] });
    const before = await start();
    await rendered(before);
    const there = await files();
    const thin = { thing: 'smoke', path: 'thickness', keys: [{ frame: 0, value: 1, ease: 'linear' }] };
    await change('shot', campaign.shot.id, { tracks: [thin] });
    const after = await start();
    await rendered(after);
    expect(await files()).deep.equal(there);
    expect(await brightness(after, 17)).above((await brightness(before, 17)) * 1.2);
    await change('shot', campaign.shot.id, { tracks: [] });
  });

  it('hidden on the set and shown by a key it is simulated and seen', async () => {
    await change('set', campaign.set.id, { effects: [smoke({ visible: false })] });
    const shown = { thing: 'smoke', path: 'visible', keys: [{ frame: 9, value: true, ease: 'hold' }] };
    await change('shot', campaign.shot.id, { tracks: [shown] });
    const id = await start();
    await rendered(id);
    expect(await brightness(id, 17)).below((await brightness(id, 0)) * 0.8);
    await change('shot', campaign.shot.id, { tracks: [] });
  });

  it('an effect that is too fine fails its take with a sentence', async () => {
    const huge = {
      ...smoke({ width: 10, height: 10, depth: 10 }),
      cells: { coarse: 0.02, normal: 0.001, fine: 0.001 },
    };
    await change('set', campaign.set.id, { effects: [huge] });
    const answer = await client.send('POST', '/takes', {
      shot: campaign.shot.id,
      quality: 'clay',
      width: 48,
      samples: 2,
    });
    expect(answer.status).equal(422);
    expect((answer.body as { title: string }).title).match(/million cells and \d+ GB of memory/);
  });

  it('what is simulated is counted, kept while a take may need it, and cleared when asked', async () => {
    const used = async (): Promise<number> => (await client.ok<{ bytes: number }>('GET', '/simulations')).bytes;
    expect(await used()).above(1000);
    await change('set', campaign.set.id, { effects: [smoke({ lift: 1 })] });
    const id = await start();
    await client.send('POST', `/takes/${id}/stop`);
    const refused = await client.send('DELETE', '/simulations');
    expect(refused.status).equal(422);
    expect(await used()).above(1000);
    await client.send('DELETE', `/takes/${id}`);
    expect(await client.ok('DELETE', '/simulations')).deep.equal({ bytes: 0 });
    expect(await used()).equal(0);
  });

  it('a hidden effect is neither simulated nor seen', async () => {
    await change('set', campaign.set.id, { effects: [smoke({ visible: false, lift: 9 })] });
    const id = await start();
    const done = await rendered(id);
    expect(done.state).equal('done');
    expect(await simulated(id)).equal(0);
    expect(await brightness(id, 17)).closeTo(await brightness(id, 0), 3);
  });
});

describe('server: simulated frames on disk', () => {
  it('are written once and whole, read back, counted and cleared', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'smoke-'));
    const store = new SimulationStore(folder);
    const key = '0123456789abcdef0123456789abcdef';
    expect(store.frame(key)).equal(undefined);
    expect(store.state(key)).equal(undefined);
    const frame = {
      kind: 'smoke' as const,
      ...{ size: [8, 8, 8] as [number, number, number], cell: 0.5, origin: [0, 0, 0] as [number, number, number] },
      ...{ most: 2, density: Uint16Array.from({ length: 512 }, (_, i) => i * 7) },
    };
    await store.writeFrame(key, frame);
    expect(store.frame(key)).deep.equal(frame);
    const state = Uint8Array.from({ length: 50 }, (_, i) => i * 5);
    await store.writeState(key, state);
    expect(store.state(key)).deep.equal(state);
    expect(await store.used()).above(50);
    expect((await readdir(folder, { recursive: true })).some((f) => f.endsWith('.part'))).equal(false);
    await store.clear();
    expect(store.has(key)).equal(false);
    expect(await store.used()).equal(0);
    await rm(folder, { recursive: true });
  });
});
