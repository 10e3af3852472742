import { expect } from 'chai';
import sharp from 'sharp';
import { plainItem } from '@tender-orbit/core/document';
import { makeModels } from '@tender-orbit/demo';
import type { Estimate, TakeSummary } from '@tender-orbit/core/contract';
import type { RunningServer } from '@tender-orbit/server';
import {
  changeDocument,
  signedIn,
  smallCampaign,
  startTestServer,
  until,
  type Client,
  type SmallCampaign,
} from './harness.ts';

const LENGTH = 24;

describe('server: frames that show the same', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;

  before(async () => {
    server = await startTestServer();
    client = await signedIn(server);
    campaign = await smallCampaign(client);
    const dipper = (await makeModels()).find((m) => m.key === 'dipper')!.glb;
    const { hash } = await client.ok<{ hash: string }>('POST', '/assets', dipper);
    const product = await client.ok<{ id: string }>('POST', `/campaigns/${campaign.id}/products`, {
      fileName: 'Dipper.glb',
      asset: hash,
    });
    const item = { id: 'dipper', name: 'Dipper', product: product.id, ...plainItem(), position: [0, 0, 0] };
    await change('set', campaign.set.id, { products: [item] });
    await change('shot', campaign.shot.id, { length: LENGTH });
  });
  after(() => server.stop());

  const change = (kind: 'set' | 'shot', id: string, values: object): Promise<void> =>
    changeDocument(client, kind, id, values);
  const start = async (values: object = {}): Promise<string> => {
    const body = { shot: campaign.shot.id, quality: 'clay', width: 48, samples: 2, ...values };
    return (await client.ok<{ id: string }>('POST', '/takes', body)).id;
  };
  const find = async (id: string): Promise<TakeSummary> =>
    (await client.ok<TakeSummary[]>('GET', `/campaigns/${campaign.id}/takes`)).find((t) => t.id === id)!;
  const rendered = (id: string): Promise<TakeSummary> =>
    until(
      () => find(id),
      (t) => t.state === 'done',
    );
  const frame = async (id: string, n: number): Promise<string> =>
    (await client.send('GET', `/takes/${id}/frames/${n}`)).bytes.toString('base64');
  /** Frames that were worked on, by kind of work. */
  const worked = async (id: string, kind: string): Promise<number[]> =>
    (
      await server.context.db.rows<{ part: number }>(
        'SELECT part FROM jobs WHERE subject_id = ? AND kind = ? AND seconds IS NOT NULL ORDER BY part',
        [id, kind],
      )
    ).map(({ part }) => part);

  let first: string;

  it('in a shot that stands still one frame is rendered for all that stand in the middle of it', async () => {
    first = await start();
    expect((await rendered(first)).done).length(LENGTH);
    // Frames near an end are steadied with fewer neighbours: they are pictures of their own.
    const pictures = await Promise.all(Array.from({ length: LENGTH }, (_, n) => frame(first, n)));
    expect(new Set(pictures).size).equal(7);
    expect(new Set(pictures.slice(3, LENGTH - 3)).size).equal(1);
    expect(await worked(first, 'take-trace')).deep.equal([0, 1, 2, 3, 4, 5, 6, 18, 19, 20, 21, 22, 23]);
  });

  it('a take of what has not changed has all its frames at once, the same bytes, with layers when it keeps them', async () => {
    const again = await start();
    const take = await find(again);
    expect([take.state, take.done.length]).deep.equal(['done', LENGTH]);
    expect(await worked(again, 'take-trace')).deep.equal([]);
    for (const n of [0, 5, 23]) expect(await frame(again, n)).equal(await frame(first, n));

    await change('shot', campaign.shot.id, { length: 8 });
    const layered = [
      await start({ quality: 'final', passes: true }),
      await start({ quality: 'final', passes: true, anew: true }),
    ];
    for (const id of layered) await rendered(id);
    const third = await start({ quality: 'final', passes: true });
    expect((await find(third)).state).equal('done');
    const layers = (id: string) => client.send('GET', `/takes/${id}/frames/4/layers`);
    expect((await layers(third)).bytes.equals((await layers(layered[0])).bytes)).equal(true);
    await change('shot', campaign.shot.id, { length: LENGTH });
  });

  it('of another size, another number of samples or asked for anew, every frame is rendered', async () => {
    for (const values of [{ width: 64 }, { samples: 3 }]) {
      const id = await start(values);
      expect((await rendered(id)).done).length(LENGTH);
      expect(await worked(id, 'take-trace')).length(13);
    }
    const anew = await start({ anew: true });
    await rendered(anew);
    expect(await worked(anew, 'take-trace')).length(LENGTH);
    // The same noise as ever: rendering is repeatable.
    expect(await frame(anew, 3)).equal(await frame(first, 3));
  });

  it('a change late in the shot leaves the frames before it, but those that look ahead to it', async () => {
    const rise = async (to: number): Promise<string> => {
      const keys = [
        { frame: 12, value: 0, ease: 'linear' },
        { frame: 20, value: to, ease: 'linear' },
      ];
      await change('shot', campaign.shot.id, { tracks: [{ thing: 'dipper', path: 'position.1', keys }] });
      const id = await start();
      await rendered(id);
      return id;
    };
    const before = await rise(0.02);
    const id = await rise(0.05);
    // The shutter is open into the next frame: 12 is the first that moves, 8 the last that is not steadied with it.
    expect(await worked(id, 'take-develop')).deep.equal([9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22, 23]);
    for (const n of [0, 3, 8]) expect(await frame(id, n)).equal(await frame(before, n));
    expect(await frame(id, 15)).not.equal(await frame(before, 15));
  });

  it('a frame whose picture has gone meanwhile is rendered', async () => {
    await change('shot', campaign.shot.id, { tracks: [], length: 10 });
    const kept = await start({ width: 80 });
    await rendered(kept);
    await server.context.frames.removeTake(kept);
    const id = await start({ width: 80 });
    expect((await rendered(id)).done).length(10);
    expect(await worked(id, 'take-trace')).length(10);
  });

  it('a half rate renders every second frame, a still one, a range those within it; what lies between and beyond shows them', async () => {
    // What a frame shows must differ from the next, or they would be one picture anyway.
    const rising = {
      thing: 'dipper',
      path: 'position.1',
      keys: [0, 7].map((at) => ({ frame: at, value: at * 0.005, ease: 'linear' })),
    };
    await change('shot', campaign.shot.id, { length: 8, tracks: [rising] });
    const twos = await start({ frames: { first: 0, last: 7, step: 2 } });
    const take = await rendered(twos);
    expect(take.frames).deep.equal({ first: 0, last: 7, step: 2 });
    expect(await worked(twos, 'take-trace')).deep.equal([0, 2, 4, 6]);
    const pictures = await Promise.all(Array.from({ length: 8 }, (_, n) => frame(twos, n)));
    expect(new Set(pictures).size).equal(4);
    for (const n of [0, 2, 4, 6]) expect(pictures[n + 1]).equal(pictures[n]);

    const still = await start({ frames: { first: 5, last: 5, step: 1 } });
    const { bytes } = await rendered(still);
    expect(await worked(still, 'take-trace')).deep.equal([5]);
    expect(new Set(await Promise.all([0, 5, 7].map((n) => frame(still, n)))).size).equal(1);
    // One file with eight names.
    expect(bytes).below(take.bytes / 2);

    const range = await start({ frames: { first: 5, last: 40, step: 1 } });
    expect((await rendered(range)).frames).deep.equal({ first: 5, last: 7, step: 1 });
    // Steadied with what lies before it, so that a longer take has the same pictures.
    expect(await worked(range, 'take-trace')).deep.equal([2, 3, 4, 5, 6, 7]);
    const whole = await start({});
    expect((await find(whole)).done).deep.equal([5, 6, 7]);
    await rendered(whole);
    expect(await frame(whole, 6)).equal(await frame(range, 6));
    expect(await frame(range, 0)).equal(await frame(range, 5));

    const refused = await client.send('POST', '/takes', {
      ...{ shot: campaign.shot.id, quality: 'clay', width: 48, frames: { first: 9, last: 9, step: 1 } },
    });
    expect(refused.status).equal(422);
    expect(refused.bytes.toString()).contain('has 8 frames: frame 10 cannot be rendered');
  });

  it('other times of a take are rendered as it was rendered, and are refused beyond its shot', async () => {
    const whole = await start({ width: 64 });
    await rendered(whole);
    // What the shot has become since is not seen in them.
    await change('shot', campaign.shot.id, { length: 6 });
    const again = (times: unknown) => client.send('POST', `/takes/${whole}/times`, { times });
    const times = [2, 2.5, 3, 3.25, 7];
    const { id } = JSON.parse((await again(times)).bytes.toString()) as { id: string };
    const take = await rendered(id);
    expect(take).deep.include({ times, length: 5, done: [0, 1, 2, 3, 4], width: 64, frames: null });
    expect((await find(whole)).times).equal(null);
    const pictures = await Promise.all(times.map((_, n) => frame(id, n)));
    expect(new Set(pictures).size).equal(5);
    // Light comes with them, so that composites can be made of them.
    expect((await client.send('GET', `/takes/${id}/frames/1/light`)).status).equal(200);
    const sentence = async (of: unknown): Promise<string> => {
      const { status, bytes } = await again(of);
      expect(status).within(400, 422);
      return bytes.toString();
    };
    expect(await sentence([2, 7.5])).contain('ends with frame 8: nothing later');
    expect(await sentence([3, 2])).contain('earliest to the latest');
    expect(await sentence([])).contain('Say at which times');
    await change('shot', campaign.shot.id, { length: 8 });
  });

  it('a sketch is drawn in a moment, moves as the shot does, and is no take of light', async () => {
    const estimate = await client.ok<Estimate>('POST', '/takes/estimate', {
      ...{ shot: campaign.shot.id, quality: 'sketch', width: 96 },
    });
    expect(estimate).include({ frames: 8, layers: 0, simulation: 0 });
    const drawn = await start({
      quality: 'sketch',
      width: 96,
      lights: true,
      region: { x0: 0, y0: 0, x1: 0.1, y1: 0.1 },
    });
    const take = await rendered(drawn);
    expect(take).deep.include({ quality: 'sketch', lights: false, passes: false, length: 8 });
    expect(await worked(drawn, 'take-trace')).deep.equal([]);
    const stills = await Promise.all([0, 7].map((n) => client.send('GET', `/takes/${drawn}/frames/${n}`)));
    const [first, last] = await Promise.all(
      stills.map(async ({ bytes }) => sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true })),
    );
    expect([first.info.width, first.info.height]).deep.equal([96, 54]);
    // The dipper stands out from the ground, higher at the end than at the beginning.
    const ground = first.data[0];
    const middleOf = (data: Buffer): number => {
      let [sum, count] = [0, 0];
      for (let i = 0; i < data.length; i += 3)
        if (data[i] > ground + 60) {
          sum += Math.floor(i / 3 / 96);
          count++;
        }
      expect(count).above(20);
      return sum / count;
    };
    expect(ground).within(20, 90);
    expect(middleOf(last.data)).below(middleOf(first.data) - 1);
    expect((await client.send('GET', `/takes/${drawn}/frames/0/light`)).status).equal(404);
  });

  it('a take is brought up to date with what it was asked for, and lies where it is put on the shelf', async () => {
    const before = await start({ width: 64, frames: { first: 2, last: 7, step: 1 } });
    await rendered(before);
    await change('shot', campaign.shot.id, { length: 10 });
    const { id } = await client.ok<{ id: string }>('POST', `/takes/${before}/again`, {});
    const take = await find(id);
    expect([take.width, take.frames, take.length]).deep.equal([64, { first: 2, last: 9, step: 1 }, 10]);
    // Steadied with three on either side: the last three of before see two new ones.
    expect(take.done.filter((n) => n >= 2)).deep.equal([2, 3, 4]);
    await rendered(id);

    const ids = async (): Promise<string[]> =>
      (await client.ok<TakeSummary[]>('GET', `/campaigns/${campaign.id}/takes`)).map((t) => t.id);
    const order = (await ids()).reverse();
    await client.ok('PUT', `/campaigns/${campaign.id}/takes/order`, { takes: order });
    expect(await ids()).deep.equal(order);
    const fresh = await start({});
    expect((await ids())[0]).equal(fresh);
    await rendered(fresh);
  });
});
