import { readdir, rename } from 'node:fs/promises';
import { dirname } from 'node:path';
import { expect } from 'chai';
import parseExr from 'parse-exr';
import sharp from 'sharp';
import { plainItem } from '@tender-orbit/core/document';
import { makeModels } from '@tender-orbit/demo';
import type { Estimate, FollowedPoint, TakeSummary } from '@tender-orbit/core/contract';
import type { RunningServer } from '@tender-orbit/server';
import { Client, signedIn, smallCampaign, startTestServer, testConfig, until, type SmallCampaign } from './harness.ts';

describe('server: takes', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;
  const config = testConfig();

  before(async () => {
    server = await startTestServer(config);
    client = await signedIn(server);
    campaign = await smallCampaign(client);
    const { hash } = await client.ok<{ hash: string }>(
      'POST',
      '/assets',
      (await makeModels()).find((m) => m.key === 'dipper')!.glb,
    );
    const product = await client.ok<{ id: string }>('POST', `/campaigns/${campaign.id}/products`, {
      fileName: 'Dipper.glb',
      asset: hash,
    });
    const set = campaign.set.document as { products: object[] };
    await client.ok('PUT', `/documents/set/${campaign.set.id}`, {
      expectedRevision: 1,
      label: 'Place',
      document: {
        ...set,
        products: [
          {
            id: 'dipper',
            name: 'Dipper',
            product: product.id,
            ...plainItem(),
            position: [0, 0, 0],
          },
        ],
      },
    });
    await setLength(4);
  });
  after(() => server.stop());

  const setLength = (length: number): Promise<void> => changeShot({ length });
  async function changeShot(values: object): Promise<void> {
    const { revision, document } = await client.ok<{ revision: number; document: object }>(
      'GET',
      `/documents/shot/${campaign.shot.id}`,
    );
    await client.ok('PUT', `/documents/shot/${campaign.shot.id}`, {
      expectedRevision: revision,
      label: 'Change',
      document: { ...document, ...values },
    });
  }
  const start = async (values: object = {}): Promise<string> =>
    (
      await client.ok<{ id: string }>('POST', '/takes', {
        shot: campaign.shot.id,
        quality: 'clay',
        width: 48,
        samples: 2,
        // What is tested here is rendering: frames that show the same have tests of their own.
        anew: true,
        ...values,
      })
    ).id;
  const list = () => client.ok<TakeSummary[]>('GET', `/campaigns/${campaign.id}/takes`);
  const find = async (id: string) => (await list()).find((t) => t.id === id)!;
  const frame = async (id: string, n: number) => (await client.send('GET', `/takes/${id}/frames/${n}`)).bytes;

  it('render every frame, which come one by one and show the product', async () => {
    const id = await start();
    const done = await until(
      () => find(id),
      (t) => t.state !== 'rendering',
    );
    expect(done).include({ state: 'done', width: 48, height: 28, length: 4, passes: false });
    expect(done.done).deep.equal([0, 1, 2, 3]);
    expect(done.secondsPerFrame).above(0);
    expect(done.secondsLeft).equal(null);
    const { data, info } = await sharp(await frame(id, 0))
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect(info).include({ width: 48, height: 28 });
    const stats = await sharp(data, { raw: { width: 48, height: 28, channels: 3 } }).stats();
    expect(stats.channels[0].stdev).above(4);
  });

  it('give the same bytes when rendered again', async () => {
    const ids = [await start(), await start()];
    for (const id of ids)
      await until(
        () => find(id),
        (t) => t.state === 'done',
      );
    expect((await frame(ids[0], 2)).equals(await frame(ids[1], 2))).equal(true);
  });

  it('final: steadied with their neighbours, the same bytes on one thread as on two, with layers when asked', async () => {
    const values = { quality: 'final', samples: 3, passes: true };
    const done = async (): Promise<string> => {
      const id = await start(values);
      const take = await until(
        () => find(id),
        (t) => t.state !== 'rendering',
      );
      expect(take.error ?? '').equal('');
      expect(take).include({ state: 'done', passes: true });
      return id;
    };
    const first = await done();
    await server.stop();
    server = await startTestServer({ ...config, renderWorkers: 1 });
    client = Object.assign(new Client(server.address), { cookie: client.cookie, csrf: client.csrf });
    const second = await done();
    await server.stop();
    server = await startTestServer(config);
    client = Object.assign(new Client(server.address), { cookie: client.cookie, csrf: client.csrf });
    for (const n of [0, 2]) {
      expect((await frame(first, n)).equals(await frame(second, n))).equal(true);
      const layers = await client.send('GET', `/takes/${first}/frames/${n}/layers`);
      expect(layers.status).equal(200);
      expect(layers.bytes.equals((await client.send('GET', `/takes/${second}/frames/${n}/layers`)).bytes)).equal(true);
      const picture = parseExr(new Uint8Array(layers.bytes).buffer, 1015);
      expect([picture.width, picture.height]).deep.equal([48, 28]);
    }
    // What was traced only to be developed is cleared away.
    const left = await readdir(dirname(server.context.frames.path(first, 0)));
    expect(left.filter((name) => !/\.(webp|exr|lights?)$/.test(name))).deep.equal([]);
    const clay = await start();
    await until(
      () => find(clay),
      (t) => t.state === 'done',
    );
    expect((await client.send('GET', `/takes/${clay}/frames/0/layers`)).status).equal(404);
  });

  it('of a region: the rest of the picture is left black', async () => {
    const id = await start({ region: { x0: 0.25, y0: 0, x1: 0.75, y1: 0.5 } });
    await until(
      () => find(id),
      (t) => t.state === 'done',
    );
    const { data } = await sharp(await frame(id, 0))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const light = (x: number, y: number): number => data[(y * 48 + x) * 3];
    expect(light(24, 5)).above(20);
    expect(light(4, 5)).below(4);
    expect(light(24, 24)).below(4);
    const wrong = await client.send('POST', '/takes', {
      ...{ shot: campaign.shot.id, quality: 'clay', width: 48 },
      region: { x0: 0.5, y0: 0, x1: 0.5, y1: 1 },
    });
    expect(wrong.status).equal(422);
  });

  it('are made from the set as it was when they were started', async () => {
    const id = await start();
    await until(
      () => find(id),
      (t) => t.state === 'done',
    );
    const before = await frame(id, 1);
    const { revision, document } = await client.ok<{ revision: number; document: { environment: object } }>(
      'GET',
      `/documents/set/${campaign.set.id}`,
    );
    await client.ok('PUT', `/documents/set/${campaign.set.id}`, {
      expectedRevision: revision,
      label: 'Dark',
      document: { ...document, environment: { ...document.environment, intensity: 1 } },
    });
    expect((await frame(id, 1)).equals(before)).equal(true);
    const darker = await start();
    await until(
      () => find(darker),
      (t) => t.state === 'done',
    );
    expect((await frame(darker, 1)).equals(before)).equal(false);
  });

  it('what is seen at a point is followed through a take; where nothing is, or no depth, it is said', async () => {
    await setLength(4);
    const id = await start({ quality: 'draft' });
    await until(
      () => find(id),
      (t) => t.state === 'done',
    );
    const ask = (values: object) =>
      client.send('POST', `/takes/${id}/follow`, { x: 0, y: 0, frame: 1, from: 0, to: 3, ...values });
    const followed = JSON.parse((await ask({})).bytes.toString()) as FollowedPoint;
    expect(followed.from).equal(0);
    expect(followed.track).length(4);
    // Nothing moves: where it was pressed it stays, in sight.
    for (const [x, y, seen] of followed.track) {
      expect(x).closeTo(0, 1e-3);
      expect(y).closeTo(0, 1e-3);
      expect(seen).equal(1);
    }
    const sentence = async (values: object): Promise<string> => (await ask(values)).bytes.toString();
    expect(await sentence({ from: 2, to: 1 })).contain('lies before the first');
    expect(await sentence({ y: 3 })).contain('y must be');
    const sketched = await start({ quality: 'sketch' });
    await until(
      () => find(sketched),
      (t) => t.state === 'done',
    );
    const answer = await client.send('POST', `/takes/${sketched}/follow`, { x: 0, y: 0, frame: 1, from: 0, to: 3 });
    expect(answer.bytes.toString()).contain('rendered without depths');
  });

  it('a point on a part of a product is followed as that part is lifted', async () => {
    const keys = [
      { frame: 0, value: 0, ease: 'linear' },
      { frame: 3, value: 0.006, ease: 'linear' },
    ];
    await changeShot({ length: 4, tracks: [{ thing: 'dipper', path: 'own.parts.0.shift.1', keys }] });
    const id = await start({ quality: 'draft', width: 96 });
    await until(
      () => find(id),
      (t) => t.state === 'done',
    );
    const asked = { x: 0, y: 0, frame: 0, from: 0, to: 3 };
    const { thing, track } = await client.ok<FollowedPoint>('POST', `/takes/${id}/follow`, asked);
    await changeShot({ tracks: [] });
    expect(thing).equal('dipper');
    // The dipper itself stays where it is: only its part goes up, as much from each frame to the next.
    const steps = track.slice(1).map(([x, y], i) => [x - track[i][0], y - track[i][1]]);
    for (const [across, up] of steps) {
      expect(across).closeTo(0, 2e-3);
      expect(up).closeTo(steps[0][1], 0.1 * steps[0][1]);
      expect(up).above(5e-3);
    }
    expect(track[0][1]).closeTo(0, 1e-3);
  });

  it('can be stopped, keep what they have, and go on', async () => {
    await setLength(60);
    const id = await start({ samples: 24 });
    const some = await until(
      () => find(id),
      (t) => t.done.length > 1,
    );
    // Two threads share what is left.
    expect(some.secondsLeft).closeTo(((60 - some.done.length) * some.secondsPerFrame!) / 2, 1e-6);
    await client.ok('POST', `/takes/${id}/stop`);
    const stopped = await find(id);
    expect(stopped.state).equal('stopped');
    expect(stopped.done.length).within(some.done.length, 59);
    await new Promise((next) => setTimeout(next, 800));
    expect((await find(id)).done.length).at.most(stopped.done.length + 2);
    await client.ok('POST', `/takes/${id}/resume`);
    expect(
      (
        await until(
          () => find(id),
          (t) => t.done.length > stopped.done.length + 2,
        )
      ).state,
    ).equal('rendering');
    expect((await client.send('DELETE', `/takes/${id}`)).status).equal(204);
    expect(await find(id)).equal(undefined);
  });

  it('go on where they were when the server is stopped while rendering', async () => {
    await setLength(24);
    const id = await start({ samples: 24 });
    const first = await until(
      () => find(id),
      (t) => t.done.length >= 2,
    );
    const kept = await frame(id, first.done[0]);
    await server.stop();
    server = await startTestServer(config);
    client = Object.assign(new Client(server.address), { cookie: client.cookie, csrf: client.csrf });
    expect((await find(id)).done.length).at.least(first.done.length);
    expect(
      (
        await until(
          () => find(id),
          (t) => t.state === 'done',
        )
      ).done,
    ).length(24);
    expect((await frame(id, first.done[0])).equals(kept)).equal(true);
  });

  it('tell beforehand how long they take', async () => {
    const ask = (values: object): Promise<Estimate> =>
      client.ok('POST', '/takes/estimate', { shot: campaign.shot.id, width: 64, ...values });
    const estimate = await ask({ quality: 'draft' });
    expect(estimate.frames).equal(24);
    expect(estimate.secondsPerFrame).above(0);
    expect(estimate.seconds).closeTo((estimate.secondsPerFrame * 24) / 2, 1e-6);
    expect(estimate.layers).equal(0);
    const layered = await ask({ quality: 'final', samples: 2, passes: true });
    expect(layered.layers).above(12);
    expect(layered.bytes / estimate.bytes).above(5);
  });

  it('refuse sizes, qualities and frames that there are none of', async () => {
    for (const values of [
      { width: 8 },
      { width: 99999 },
      { width: NaN },
      { quality: 'perfect' },
      { samples: -1 },
      { shot: '' },
    ]) {
      const answer = await client.send('POST', '/takes', {
        shot: campaign.shot.id,
        quality: 'clay',
        width: 48,
        ...values,
      });
      expect(answer.status, JSON.stringify(values)).equal(422);
    }
    const [take] = await list();
    for (const n of ['-1', '999', 'x', '..%2F0'])
      expect((await client.send('GET', `/takes/${take.id}/frames/${n}`)).status).equal(404);
  });

  it('say which frame failed and why, and can be tried again', async () => {
    // A model that no worker has read yet, and whose file then goes missing.
    const { hash } = await client.ok<{ hash: string }>(
      'POST',
      '/assets',
      (await makeModels()).find((m) => m.key === 'box')!.glb,
    );
    const box = await client.ok<{ id: string; document: { model: string } }>(
      'POST',
      `/campaigns/${campaign.id}/products`,
      { fileName: 'Box.glb', asset: hash },
    );
    const { revision, document } = await client.ok<{ revision: number; document: { products: object[] } }>(
      'GET',
      `/documents/set/${campaign.set.id}`,
    );
    const products = document.products.map((p) => ({ ...p, product: box.id }));
    await client.ok('PUT', `/documents/set/${campaign.set.id}`, {
      expectedRevision: revision,
      label: 'Swap',
      document: { ...document, products },
    });
    await setLength(1);
    const path = server.context.assets.path(box.document.model);
    await rename(path, `${path}.away`);
    const id = await start();
    const failed = await until(
      () => find(id),
      (t) => t.state === 'failed',
    );
    expect(failed.error).match(/^Frame 1: /);
    await rename(`${path}.away`, path);
    await client.ok('POST', `/takes/${id}/resume`);
    expect(
      (
        await until(
          () => find(id),
          (t) => t.state !== 'rendering',
        )
      ).state,
    ).equal('done');
  });

  it('a deleted campaign takes its documents, takes and files along, also those at work; others stay', async () => {
    const other = await smallCampaign(client);
    const done = await start();
    await until(
      () => find(done),
      (t) => t.state === 'done',
    );
    const busy = await start({ samples: 64 });
    await until(
      () => find(busy),
      (t) => t.state === 'rendering',
    );
    const { db, frames } = server.context;
    const folder = dirname(frames.path(done, 0));
    expect(await readdir(folder)).not.empty;
    const stranger = await signedIn(server, 'odo@vellowmere.example');
    expect((await stranger.send('DELETE', `/campaigns/${campaign.id}`)).status).equal(404);
    expect((await client.send('DELETE', `/documents/campaign/${campaign.id}`)).status).equal(404);

    expect((await client.send('DELETE', `/campaigns/${campaign.id}`)).status).equal(204);

    expect((await client.send('GET', `/campaigns/${campaign.id}`)).status).equal(404);
    expect((await client.send('GET', `/takes/${done}/frames/0`)).status).equal(404);
    expect(await readdir(folder).catch(() => 'gone')).equal('gone');
    for (const [table, column] of [
      ['takes', 'campaign_id'],
      ['sets', 'campaign_id'],
      ['revisions', 'document_id'],
      ['asset_uses', 'user_id'],
    ])
      expect(await db.rows(`SELECT 1 FROM ${table} WHERE ${column} = ?`, [campaign.id]), table).empty;
    expect(await db.rows('SELECT 1 FROM revisions WHERE document_id = ?', [campaign.set.id])).empty;
    expect((await client.send('GET', `/campaigns/${other.id}`)).status).equal(200);
    expect((await client.send('DELETE', `/campaigns/${campaign.id}`)).status).equal(404);
  });
});
