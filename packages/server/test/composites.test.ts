import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import { expect } from 'chai';
import sharp from 'sharp';
import {
  composeShot,
  finishCover,
  readLight,
  readLightParts,
  thingCover,
  type LightFrame,
} from '@tender-orbit/core/composite';
import {
  newLayer,
  newClipPicture,
  newPace,
  newPromo,
  newTransition,
  nextProduct,
  type Clip,
  type Layer,
  type PromoDocument,
  type SetDocument,
  type ShotDocument,
  type TakeComposite,
} from '@tender-orbit/core/document';
import { fitPicture, type Picture } from '@tender-orbit/core/picture';
import { assemble, shownAt } from '@tender-orbit/core/promo';
import { builtDocument, newBuilder } from '@tender-orbit/core/product';
import type { DeliverySummary, TakeSummary } from '@tender-orbit/core/contract';
import type { RunningServer } from '@tender-orbit/server';
import { openPlates } from '../src/promos/open-plates.ts';
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

const config = testConfig();

describe('server: composites of takes', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;
  let take: string;
  const folder = mkdtempSync(join(tmpdir(), 'composite-'));

  before(async () => {
    server = await startTestServer(config);
    client = await signedIn(server);
    campaign = await smallCampaign(client);
    await changeDocument(client, 'shot', campaign.shot.id, { length: 2 });
    const { id } = await client.ok<{ id: string }>('POST', `/campaigns/${campaign.id}/products`, {
      product: builtDocument('Carton', newBuilder('carton')),
    });
    const set = campaign.set.document as unknown as SetDocument;
    const product = nextProduct(set, 'box', { id, name: 'Carton' }, [0, 0]);
    await changeDocument(client, 'set', campaign.set.id, { products: [product] });
    const body = { shot: campaign.shot.id, quality: 'draft', width: 96, samples: 4, lights: true };
    take = (await client.ok<{ id: string }>('POST', '/takes', body)).id;
    await until(
      () => client.ok<TakeSummary[]>('GET', `/campaigns/${campaign.id}/takes`),
      (list) => list.find((t) => t.id === take)!.state === 'done',
    );
  });
  after(async () => {
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  });

  const light = async (frame: number): Promise<LightFrame> => {
    const { bytes, status } = await client.send('GET', `/takes/${take}/frames/${frame}/light`);
    expect(status).equal(200);
    return readLight(new Uint8Array(inflateSync(bytes)));
  };
  const layers = async (list: Layer[]): Promise<void> =>
    changeDocument(client, 'shot', campaign.shot.id, { layers: list });
  async function delivered(clips: Clip[] = [{ id: 'c', take, start: 0, length: 2 }], frame = 0): Promise<Buffer> {
    const stored = await client.ok<{ revision: number; document: object }>(
      'GET',
      `/documents/promo/${campaign.promo.id}`,
    );
    await client.ok('PUT', `/documents/promo/${campaign.promo.id}`, {
      ...{ expectedRevision: stored.revision, label: 'Edit' },
      document: { ...stored.document, clips },
    });
    const { id } = await client.ok<{ id: string }>('POST', `/promos/${campaign.promo.id}/deliveries`, {
      format: 'mp4',
    });
    const all = await until(
      () => client.ok<DeliverySummary[]>('GET', `/campaigns/${campaign.id}/deliveries`),
      (list) => ['done', 'failed'].includes(list.find((d) => d.id === id)!.state),
    );
    const done = all.find((d) => d.id === id)!;
    expect(done.error).equal(null);
    const path = join(folder, `${id}.mp4`);
    writeFileSync(path, (await client.send('GET', `/deliveries/${id}/file`)).bytes);
    return execFileSync(
      config.ffmpeg,
      [
        ...['-v', 'error', '-i', path, '-vf', `select=eq(n\\,${frame})`],
        ...['-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-'],
      ],
      { maxBuffer: 1 << 26 },
    );
  }
  const pixel = (frame: Buffer, x: number, y: number): number[] => {
    const { width } = { width: 128 };
    return [...frame.subarray((y * width + x) * 3, (y * width + x) * 3 + 3)];
  };

  it('each frame has its light, which through the view transform is the picture that was rendered, and a matte', async () => {
    const frame = await light(0);
    expect([frame.width, frame.height]).deep.equal([96, 54]);
    const { bytes } = await client.send('GET', `/takes/${take}/frames/0`);
    const rendered = await sharp(bytes).ensureAlpha().raw().toBuffer();
    const set = await client.ok<{ document: { view: TakeComposite['view'] } }>(
      'GET',
      `/documents/set/${campaign.set.id}`,
    );
    const { document } = await client.ok<{ document: ShotDocument }>('GET', `/documents/shot/${campaign.shot.id}`);
    const shot = { ...document, layers: [newLayer('take', 't', 'Take')] };
    const picture = composeShot(openPlates(), { shot, view: set.document.view }, 0, { num: 24, den: 1 }, frame, {
      ...{ takes: new Map([['', frame]]), stills: new Map(), films: new Map(), cubes: new Map(), text: () => null },
    });
    // Light is kept in steps of a quarter of a per cent.
    picture.data.forEach((v, i) => expect(Math.abs(v - rendered[i])).at.most(1));
    const covered = frame.matte.reduce((sum, m) => sum + (m > 0.5 ? 1 : 0), 0) / frame.matte.length;
    expect(covered).within(0.02, 0.9);
  });

  it('each frame knows how far away things are, where they stand, and what covers it', async () => {
    const { depths, matte, width, height } = await light(0);
    const { space, things, ids, depth } = depths!;
    expect(things).include('box');
    expect(Object.keys(space.things)).include('box');
    const number = things.indexOf('box');
    // Where the box covers a pixel it is as far away as its place, give or take its size.
    const { eye } = space.camera;
    const { at } = space.things.box;
    const away = Math.hypot(...eye.map((v, i) => v - at[i]));
    let covered = 0;
    for (let i = 0; i < width * height; i++) {
      if (ids[i * 2] !== number || matte[i] < 0.99) continue;
      covered++;
      expect(depth[i]).within(away - 0.4, away + 0.4);
    }
    expect(covered).above(20);
  });

  it('and which finishes: those of the box lie where the box does, and nowhere else', async () => {
    const frame = await light(0);
    const box = thingCover(frame, 'box');
    const covers = frame.depths!.finishes!.names.map((name) => finishCover(frame, name));
    const share = (cover: Float32Array): number => {
      const inside = cover.reduce((sum, v, i) => sum + v * box[i], 0);
      return inside / cover.reduce((sum, v) => sum + v, 1e-9);
    };
    const own = covers.filter((cover) => share(cover) > 0.9);
    expect(own.length).above(0);
    const together = own.reduce((sum, cover) => sum + cover.reduce((n, v) => n + v, 0), 0);
    expect(together / box.reduce((n, v) => n + v, 0)).closeTo(1, 0.1);
  });

  it('its lights one by one add up to its light, and are told from a take that keeps none', async () => {
    const whole = await light(0);
    const { bytes, status } = await client.send('GET', `/takes/${take}/frames/0/lights`);
    expect(status).equal(200);
    const { parts, width, height } = readLightParts(new Uint8Array(inflateSync(bytes)));
    expect([width, height]).deep.equal([whole.width, whole.height]);
    const sum = (of: Float32Array): number => of.reduce((n, v) => n + v, 0);
    const all = parts.reduce((n, { data }) => n + sum(data), 0);
    // All go through the same weights; steps and what is clamped are left.
    expect(all / sum(whole.light)).closeTo(1, 0.01);
    const [summary] = await client.ok<TakeSummary[]>('GET', `/campaigns/${campaign.id}/takes`);
    expect(summary.lights).equal(true);
    const other = await signedIn(server, 'odo@vellowmere.example');
    expect((await other.send('GET', `/takes/${take}/frames/0/lights`)).status).equal(404);
  });

  it('a delivery has the lights as the desk mixes them, and layers that stand in the set', async () => {
    const { space } = (await light(0)).depths!;
    const { bytes } = await client.send('GET', `/takes/${take}/frames/0/lights`);
    const { parts } = readLightParts(new Uint8Array(inflateSync(bytes)));
    const faders = parts.map(({ light: id }, i) =>
      newLayer('fader', `f${i}`, id, { group: 't', light: id, visible: false } as Partial<Layer>),
    );
    await layers([newLayer('take', 't', 'Take'), ...faders]);
    const dark = await delivered();
    // With every light off nothing is left but what was clamped.
    expect(Math.max(...dark)).below(40);
    const card = newLayer('solid', 'c', 'Card', {
      ...{ colour: '#FFFFFF', inSet: true, thing: 'box', distance: 0.001, metres: 0.02 },
      ...{ mask: 'none' },
    } as Partial<Layer>);
    const near = { ...card, azimuth: 0, distance: Math.hypot(space.camera.eye[0], space.camera.eye[2]) * 0.5 };
    await layers([newLayer('take', 't', 'Take'), near]);
    const [r, g] = pixel(await delivered(), 64, 36);
    expect(Math.min(r, g)).above(200);
  });

  it('nobody else has it, and a frame without any is not found', async () => {
    const other = await signedIn(server, 'odo@vellowmere.example');
    expect((await other.send('GET', `/takes/${take}/frames/0/light`)).status).equal(404);
    expect((await client.send('GET', `/takes/${take}/frames/77/light`)).status).equal(404);
  });

  it('a delivery has the composite of the shot: what is on the glass covers all, what is behind lets the product stand', async () => {
    await layers([]);
    const plain = await delivered();
    await layers([
      newLayer('take', 't', 'Take'),
      newLayer('solid', 's', 'Solid', { colour: '#D03030', space: 'glass' } as Partial<Layer>),
    ]);
    const red = await delivered();
    for (const [x, y] of [
      [10, 10],
      [64, 36],
      [120, 60],
    ]) {
      const [r, g] = pixel(red, x, y);
      expect(r).within(200, 216);
      expect(g).within(40, 56);
    }
    await layers([
      newLayer('take', 't', 'Take'),
      newLayer('solid', 's', 'Solid', { colour: '#2030E0', behind: true } as Partial<Layer>),
    ]);
    const behind = await delivered();
    const { matte, width, height } = await light(0);
    let [kept, changed] = [0, 0];
    for (let y = 4; y < 68; y += 4)
      for (let x = 4; x < 124; x += 4) {
        const at = Math.floor((y * height) / 72) * width + Math.floor((x * width) / 128);
        const away = Math.abs(pixel(behind, x, y)[2] - pixel(plain, x, y)[2]);
        if (matte[at] > 0.98) kept = Math.max(kept, away < 40 ? 1 : kept);
        if (matte[at] < 0.02 && away > 20) changed++;
      }
    expect(kept).equal(1);
    expect(changed).above(20);
  });

  it('a delivery is refused while a layer that is seen uses a take that was deleted, by the name of the layer', async () => {
    const old = { take: 'deleted' } as Partial<Layer>;
    await layers([newLayer('take', 't', 'Take'), newLayer('take', 'old', 'Jar of before', old)]);
    const refused = await client.send('POST', `/promos/${campaign.promo.id}/deliveries`, { format: 'mp4' });
    expect(refused.status).equal(422);
    expect(refused.body.title).match(
      /layer "Jar of before" of the shot .* uses a take that was deleted: choose another/,
    );
    await layers([newLayer('take', 't', 'Take'), newLayer('take', 'old', 'Jar of before', { ...old, visible: false })]);
    await delivered();
  });

  it('a delivery has the moves and transitions of its clips, as the core assembles them', async () => {
    await layers([]);
    const picture = newClipPicture({ x: 0.1, scale: 1.4, rotation: 8, radius: 0.2, cropLeft: 0.1 });
    const into = { ...newTransition('wipe', 4), angle: 30, softness: 0.5 };
    const pace = { ...newPace(), from: 0.5, to: 0.5 };
    const clips = [
      { id: 'c', take, start: 0, length: 2, picture },
      { id: 'd', take, start: 0, length: 2, into, pace },
    ];
    // The transition takes no more than the clips have: two frames, of which the first is the promo's second.
    const at = 1;
    const decoded = await delivered(clips, at);
    const frames = new Map<number, Picture>();
    for (const frame of [0, 1]) {
      const { bytes } = await client.send('GET', `/takes/${take}/frames/${frame}`);
      const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
      frames.set(frame, { width: info.width, height: info.height, data: new Uint8ClampedArray(data) });
    }
    const promo: PromoDocument = { ...newPromo('P', 128, 72), clips };
    const shown = shownAt(promo, at, () => frames.size)!;
    expect(shown.transition?.kind).equal('wipe');
    const nobody = { draw: () => null };
    const made = assemble(openPlates(), promo, at, shown, ({ frame }) => frames.get(frame) ?? null, nobody);
    const plain = fitPicture(frames.get(at)!, 128, 72);
    let [error, change] = [0, 0];
    for (let i = 0; i < 128 * 72; i++)
      for (let c = 0; c < 3; c++) {
        error += Math.abs(made.data[i * 4 + c] - decoded[i * 3 + c]) / (128 * 72 * 3);
        change += Math.abs(made.data[i * 4 + c] - plain.data[i * 4 + c]) / (128 * 72 * 3);
      }
    expect(error).below(3);
    expect(change).above(6);
  });

  it('a composite that shows another is delivered with it; one whose take is gone is said by the name of its layer', async () => {
    const body = { shot: campaign.shot.id, quality: 'draft', width: 96, samples: 2 };
    const other = (await client.ok<{ id: string }>('POST', '/takes', body)).id;
    await until(
      () => client.ok<TakeSummary[]>('GET', `/campaigns/${campaign.id}/takes`),
      (list) => list.find((t) => t.id === other)!.state === 'done',
    );
    // Green covers the first frame alone; within it the second frame of the same composite is shown.
    const shows = (of: string): Layer =>
      newLayer('composite', 'within', 'Within', { take: of, skip: 1, height: 0.5, space: 'glass' } as Partial<Layer>);
    const green = newLayer('solid', 'green', 'Green', {
      colour: '#00FF00',
      space: 'glass',
      length: 1,
    } as Partial<Layer>);
    await layers([newLayer('take', 't', 'Take'), green, shows(other)]);
    const frame = await delivered();
    const [r, g, b] = pixel(frame, 4, 4);
    expect([g > 200, r < 60, b < 60]).deep.equal([true, true, true]);
    const [red, middle, blue] = pixel(frame, 64, 36);
    expect(middle).below(Math.max(red, blue) + 40);

    await layers([newLayer('take', 't', 'Take'), shows('gone')]);
    const refused = await client.send('POST', `/promos/${campaign.promo.id}/deliveries`, { format: 'mp4' });
    expect(refused.status).equal(422);
    expect(refused.bytes.toString()).contain('Within');
  });
});
