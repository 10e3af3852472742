import { expect } from 'chai';
import type { Sound } from '@tender-orbit/core/audio';
import type { DeliverySummary, FilmMade } from '@tender-orbit/core/contract';
import { newKitSound, newPromo, newTitle, type PromoDocument } from '@tender-orbit/core/document';
import { assemble, shownAt, soundTrack, sourceLength, type TakeFrame } from '@tender-orbit/core/promo';
import type { Picture } from '@tender-orbit/core/picture';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { RunningServer } from '@tender-orbit/server';
import { decodeSound } from '../src/ffmpeg/index.ts';
import { openPlates } from '../src/promos/open-plates.ts';
import { openTitlePainter } from '../src/promos/title-fonts.ts';
import { Client, signedIn, smallCampaign, startTestServer, testConfig, until, type SmallCampaign } from './harness.ts';

const [WIDTH, HEIGHT] = [128, 72];

describe('server: cuts that show cuts', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;
  before(async () => {
    server = await startTestServer(testConfig());
    client = await signedIn(server);
    campaign = await smallCampaign(client);
  });
  after(() => server.stop());

  const words = (text: string, length: number, colour: string): PromoDocument => ({
    ...newPromo(text, WIDTH, HEIGHT),
    titles: [newTitle('t', { text, size: 26, colour, start: 0, length })],
  });
  const add = async (document: PromoDocument): Promise<string> =>
    (await client.ok<{ id: string }>('POST', `/campaigns/${campaign.id}/promos`, document)).id;
  async function save(id: string, values: Partial<PromoDocument>): Promise<PromoDocument> {
    const { revision, document } = await client.ok<{ revision: number; document: PromoDocument }>(
      'GET',
      `/documents/promo/${id}`,
    );
    const changed = { ...document, ...values };
    await client.ok('PUT', `/documents/promo/${id}`, { expectedRevision: revision, label: 'Edit', document: changed });
    return changed;
  }
  const clip = (id: string, take: string, start: number, length: number) => ({ id, take, start, length });

  it('are delivered with all that these show, frame by frame', async () => {
    const deep = words('Deep', 30, '#e9b44c');
    const deepId = await add(deep);
    const middle: PromoDocument = { ...words('Middle', 6, '#ffffff'), clips: [clip('m', deepId, 0, 20)] };
    const middleId = await add(middle);
    const promo = await save(campaign.promo.id, {
      clips: [clip('a', middleId, 4, 14), clip('b', deepId, 0, 12)],
      titles: [],
    });
    const { id } = await client.ok<{ id: string }>('POST', `/promos/${campaign.promo.id}/deliveries`, {
      format: 'mp4',
    });
    // What is delivered is what was there when it was asked for.
    await save(deepId, { titles: [] });
    const all = await until(
      () => client.ok<DeliverySummary[]>('GET', `/campaigns/${campaign.id}/deliveries`),
      (list) => ['done', 'failed'].includes(list.find((d) => d.id === id)!.state),
    );
    expect(all.find((d) => d.id === id)).include({ state: 'done', frames: 26, error: null });
    const path = server.context.deliveryFiles.path(id, 'mp4');
    const scale = 'scale=in_color_matrix=bt709:in_range=tv:out_range=pc';
    const output = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-'];
    const raw = execFileSync('ffmpeg', ['-loglevel', 'error', '-i', path, '-vf', scale, ...output], {
      maxBuffer: 1 << 28,
    });

    const cuts: Record<string, PromoDocument> = { [deepId]: deep, [middleId]: middle };
    const painter = await openTitlePainter();
    const plates = openPlates();
    const length = sourceLength(cuts, () => 0);
    const made = (cut: PromoDocument, frame: number): Picture => {
      const pictureOf = (part: TakeFrame): Picture => made(cuts[part.take], part.frame);
      return assemble(plates, cut, frame, shownAt(cut, frame, length), pictureOf, painter, null, length);
    };
    const bytes = WIDTH * HEIGHT * 4;
    expect(raw.length).equal(26 * bytes);
    for (const frame of [0, 1, 2, 9, 13, 20, 25]) {
      const wanted = made(promo, frame).data;
      let error = 0;
      for (let i = 0; i < bytes; i++) error += Math.abs(wanted[i] - raw[frame * bytes + i]);
      expect(error / bytes, `frame ${frame}`).below(3);
      expect(
        wanted.some((v, i) => i % 4 < 3 && v > 100),
        `something is seen in frame ${frame}`,
      ).equal(true);
    }
    painter.dispose();
  });

  it('are heard where a clip says so, with what is filmed and its sound', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'heard-'));
    const film = join(folder, 'heard.mp4');
    const sine = ['-f', 'lavfi', '-i', 'sine=frequency=440:sample_rate=48000:duration=1'];
    execFileSync('ffmpeg', [
      ...['-loglevel', 'error', '-f', 'lavfi', '-i', 'color=c=gray:size=128x72:rate=24:duration=1', ...sine],
      ...['-pix_fmt', 'yuv420p', film],
    ]);
    const { hash } = await client.ok<{ hash: string }>('POST', '/assets', new Uint8Array(readFileSync(film)));
    rmSync(folder, { recursive: true, force: true });
    const made = await client.ok<FilmMade>('POST', `/campaigns/${campaign.id}/films`, {
      ...{ asset: hash, fileName: 'heard.mp4', sound: true },
    });
    const inner = { ...words('Hit', 36, '#ffffff'), sounds: [newKitSound('h', 'hit', 6)] };
    const innerId = await add(inner);
    const sound = { gain: 0, pitch: 'kept' as const };
    const promo = await save(campaign.promo.id, {
      clips: [
        { ...clip('a', 'film', 0, 18), sound },
        { ...clip('b', innerId, 0, 24), sound },
        clip('c', innerId, 0, 12),
      ],
      footage: [
        {
          ...{ id: 'film', name: 'Heard', list: made.list, poster: made.frames[0], frames: 24, rate: 24 },
          ...{ width: WIDTH, height: HEIGHT, sound: made.sound! },
        },
      ],
    });
    const { id } = await client.ok<{ id: string }>('POST', `/promos/${campaign.promo.id}/deliveries`, {
      format: 'mp4',
    });
    await until(
      () => client.ok<DeliverySummary[]>('GET', `/campaigns/${campaign.id}/deliveries`),
      (list) => list.find((d) => d.id === id)!.state === 'done',
    );
    const heard = await decodeSound('ffmpeg', server.context.deliveryFiles.path(id, 'mp4'), 10);
    const files = new Map([[made.sound!, await decodeSound('ffmpeg', server.context.assets.path(made.sound!), 10)]]);
    const wanted = soundTrack(promo, { num: 24, den: 1 }, null, 48_000, files, { [innerId]: inner });
    const level = ({ left }: Sound, from: number): number => {
      let sum = 0;
      for (let i = 0; i < 4800; i++) sum += left[Math.round(from * 48_000) + i] ** 2;
      return Math.sqrt(sum / 4800);
    };
    for (const from of [0.1, 0.5, 0.8, 1, 1.2, 1.9])
      expect(level(heard, from), `${from} s`).closeTo(level(wanted, from), 0.01);
    for (const from of [0.3, 1.02]) expect(level(wanted, from), 'film and hit').above(0.03);
    expect(level(wanted, 1.85), 'not asked for').equal(0);
  });

  it('are refused when one comes round to itself, by its name', async () => {
    const ring = await add({ ...words('Ring', 9, '#ffffff'), clips: [clip('r', campaign.promo.id, 0, 9)] });
    await save(campaign.promo.id, { clips: [clip('a', ring, 0, 9)] });
    const { status, body } = await client.send<{ title: string }>('POST', `/promos/${ring}/deliveries`, {
      format: 'mp4',
    });
    expect(status).equal(422);
    expect(body.title).match(/The cut "Ring" shows itself/);
    // One that is gone is said as a take that is gone.
    await client.ok('DELETE', `/documents/promo/${ring}`);
    const gone = await client.send('POST', `/promos/${campaign.promo.id}/deliveries`, { format: 'mp4' });
    expect(gone.body.title).match(/take that was deleted/);
  });
});
