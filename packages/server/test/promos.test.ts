import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import { assemble, promoTexts, shownAt, soundTrack } from '@tender-orbit/core/promo';
import {
  newFileSound,
  newKitSound,
  newOverlay,
  noBeats,
  validateDocument,
  type Footage,
  type PromoDocument,
} from '@tender-orbit/core/document';
import { addVoice, mallet, silence, writeWav, type Sound } from '@tender-orbit/core/audio';
import type { DeliverySummary, FilmMade } from '@tender-orbit/core/contract';
import type { RunningServer } from '@tender-orbit/server';
import { openPlates } from '../src/promos/open-plates.ts';
import { fontPath, openTitlePainter } from '../src/promos/title-fonts.ts';
import { Client, signedIn, smallCampaign, startTestServer, testConfig, until, type SmallCampaign } from './harness.ts';

const SIZE = { width: 128, height: 72, rate: 24 };
/** Three seconds of a plain tune. */
function tuneSound(): Sound {
  const sound = silence(3 * 48000);
  for (let i = 0; i < 6; i++) addVoice(sound, i * 0.5, 0.5, 0.5, 0, mallet(330 + 40 * i));
  return sound;
}
const tune = (): Uint8Array => writeWav(tuneSound());

const ffmpeg = (...args: string[]): Buffer =>
  execFileSync('ffmpeg', ['-hide_banner', '-loglevel', 'error', '-y', ...args], { maxBuffer: 1 << 28 });
const probe = (path: string): { streams: Array<Record<string, string>>; format: Record<string, string> } =>
  JSON.parse(
    execFileSync('ffprobe', [
      '-v',
      'error',
      '-count_frames',
      '-show_streams',
      '-show_format',
      '-of',
      'json',
      path,
    ]).toString(),
  );

describe('server: promos', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;
  const folder = mkdtempSync(join(tmpdir(), 'promo-test-'));
  const config = testConfig();
  before(async () => {
    server = await startTestServer(config);
    client = await signedIn(server);
  });
  beforeEach(async () => (campaign = await smallCampaign(client)));
  after(() => server.stop());

  const title = {
    id: 't',
    text: 'Vellowmere',
    font: 'fraunces-600',
    size: 24,
    tracking: 0,
    colour: '#E9B44C',
    x: 0.5,
    y: 0.5,
    align: 'centre',
    start: 3,
    length: 20,
    arrive: { kind: 'fade', frames: 4 },
    leave: { kind: 'none', frames: 0 },
  };
  async function save(values: object): Promise<PromoDocument> {
    const { revision, document } = await client.ok<{ revision: number; document: object }>(
      'GET',
      `/documents/promo/${campaign.promo.id}`,
    );
    await client.ok('PUT', `/documents/promo/${campaign.promo.id}`, {
      expectedRevision: revision,
      label: 'Edit',
      document: { ...document, ...values },
    });
    return validateDocument('promo', { ...document, ...values });
  }
  const bringMusic = async (bytes: Uint8Array, fileName: string) => {
    const { body } = await client.send<{ hash: string }>('POST', '/assets', bytes);
    return client.send<{ asset: string; name: string; seconds: number } & Record<string, unknown>>(
      'POST',
      `/campaigns/${campaign.id}/music`,
      { asset: body.hash, fileName },
    );
  };
  async function deliver(format: string): Promise<DeliverySummary> {
    const { id } = await client.ok<{ id: string }>('POST', `/promos/${campaign.promo.id}/deliveries`, { format });
    const all = await until(
      () => client.ok<DeliverySummary[]>('GET', `/campaigns/${campaign.id}/deliveries`),
      (list) => ['done', 'failed'].includes(list.find((d) => d.id === id)!.state),
    );
    return all.find((d) => d.id === id)!;
  }
  async function download(id: string, name: string): Promise<string> {
    const path = join(folder, name);
    const answer = await client.send('GET', `/deliveries/${id}/file`);
    expect(answer.status).equal(200);
    expect(answer.headers.get('content-disposition')).contain('attachment');
    writeFileSync(path, answer.bytes);
    return path;
  }

  it('take music as wav, mp3, ogg, flac and m4a, and know its length', async () => {
    const wav = join(folder, 'tune.wav');
    writeFileSync(wav, tune());
    for (const [ending, ...codec] of [
      ['wav'],
      ['mp3', '-c:a', 'libmp3lame'],
      ['ogg', '-c:a', 'libvorbis'],
      ['flac'],
      ['m4a', '-c:a', 'aac'],
    ]) {
      const path = join(folder, `music.${ending}`);
      ffmpeg('-i', wav, ...codec, path);
      const answer = await bringMusic(new Uint8Array(readFileSync(path)), `music.${ending}`);
      expect(answer.status, `${ending} ${JSON.stringify(answer.body)}`).equal(201);
      expect(answer.body.seconds).closeTo(3, 0.1);
    }
  });

  it('refuse what is no music, by what it is', async () => {
    const cases: Array<[Uint8Array, string, RegExp]> = [
      [new TextEncoder().encode('la la la'), 'song.mp3', /"song\.mp3" is of no known type, not music/],
      [Uint8Array.from([...tune().slice(0, 60)]).fill(9, 12), 'torn.wav', /"torn\.wav"/],
    ];
    for (const [bytes, name, message] of cases) {
      const answer = await bringMusic(bytes, name);
      expect(answer.status).equal(422);
      expect(answer.body.title).match(message);
    }
  });

  it('become an MP4 of exactly their frames, size, rate, colour and sound', async () => {
    const { asset, name } = (await bringMusic(tune(), 'tune.wav')).body;
    await save({
      titles: [title, { ...title, id: 'u', start: 30, length: 18 }],
      music: { asset, name, trim: 0.2, gain: -3, fadeIn: 0, fadeOut: 0.3, tempo: 0, firstBeat: 0, ...noBeats() },
    });
    const done = await deliver('mp4');
    expect(done.error).equal(null);
    expect(done).include({ state: 'done', frames: 48, width: 128, height: 72 });
    const path = await download(done.id, 'out.mp4');
    const { streams, format } = probe(path);
    const [video, audio] = ['video', 'audio'].map((kind) => streams.find((s) => s.codec_type === kind)!);
    expect(video).include({ codec_name: 'h264', r_frame_rate: '24/1', nb_read_frames: '48', pix_fmt: 'yuv420p' });
    expect(video).include({
      color_space: 'bt709',
      color_primaries: 'bt709',
      color_transfer: 'bt709',
      color_range: 'tv',
    });
    expect([video.width, video.height]).deep.equal([128, 72]);
    expect(audio).include({ codec_name: 'aac', sample_rate: '48000' });
    expect(Number(format.duration)).closeTo(2, 0.05);
    const sound = ffmpeg('-i', path, '-f', 'f32le', '-ac', '1', '-');
    const samples = new Float32Array(sound.buffer, sound.byteOffset, sound.length >> 2);
    expect(Math.max(...samples.map(Math.abs))).above(0.1);
  });

  it('have the sounds of the promo in them, made ones and files, where they are heard in the preview', async () => {
    const { asset, name, seconds } = (await bringMusic(tune(), 'tune.wav')).body;
    const promo = await save({
      titles: [{ ...title, start: 0, length: 48 }],
      music: null,
      sounds: [
        newKitSound('hit', 'hit', 24, { pan: -0.5 }),
        {
          ...newFileSound('tune', { asset, name, seconds }, 6),
          source: { kind: 'file', asset, trim: 0.5, seconds: 0.4 },
        },
      ],
    });
    const path = await download((await deliver('mp4')).id, 'sounds.mp4');
    const bytes = ffmpeg('-i', path, '-f', 'f32le', '-ac', '2', '-ar', '48000', '-');
    const heard = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length >> 2);
    const made = soundTrack(promo, { num: 24, den: 1 }, null, 48000, new Map([[asset, tuneSound()]]));
    /** Level over a tenth of a second, of the left side. */
    const level = (at: (i: number) => number, from: number): number => {
      let sum = 0;
      for (let i = 0; i < 4800; i++) sum += at(Math.round(from * 48000) + i) ** 2;
      return Math.sqrt(sum / 4800);
    };
    for (const from of [0.05, 0.3, 0.5, 1, 1.3])
      expect(
        level((i) => heard[2 * i], from),
        `${from} s`,
      ).closeTo(
        level((i) => made.left[i], from),
        0.02,
      );
    expect(level((i) => made.left[i], 1)).above(0.1);
    await save({ sounds: [] });
  });

  it('show footage in the cut and over it: each of its own frames at its time', async () => {
    // A film whose second is red and then blue, and a green still.
    const film = join(folder, 'film.mp4');
    const red = ['-f', 'lavfi', '-i', 'color=c=red:size=128x72:rate=24:duration=0.5'];
    const blue = ['-f', 'lavfi', '-i', 'color=c=blue:size=128x72:rate=24:duration=0.5'];
    ffmpeg(...red, ...blue, '-filter_complex', 'concat=n=2', '-pix_fmt', 'yuv420p', film);
    const { body } = await client.send<{ hash: string }>('POST', '/assets', new Uint8Array(readFileSync(film)));
    const made = await client.ok<FilmMade>('POST', `/campaigns/${campaign.id}/films`, {
      ...{ asset: body.hash, fileName: 'film.mp4' },
    });
    const png = await sharp({ create: { width: 32, height: 32, channels: 3, background: '#00ff00' } })
      .png()
      .toBuffer();
    const still = (await client.send<{ hash: string }>('POST', '/assets', new Uint8Array(png))).body.hash;
    const { asset } = await client.ok<{ asset: string }>('POST', '/pictures', { asset: still, fileName: 'green.png' });
    const { list } = await client.ok<{ list: string }>('POST', `/campaigns/${campaign.id}/films/sequence`, {
      frames: [asset],
    });
    const footage: Footage[] = [
      { ...{ id: 'film', name: 'Film', list: made.list, poster: made.frames[0], frames: made.frames.length }, ...SIZE },
      { ...{ id: 'green', name: 'Green', list, poster: asset, frames: 1 }, ...SIZE, width: 32, height: 32 },
    ];
    const gone = { kind: 'none', frames: 0 } as const;
    await save({
      ...{ sounds: [], footage, clips: [{ id: 'c', take: 'film', start: 0, length: 24 }] },
      // A letter that a film is seen through.
      titles: [
        {
          ...{ ...title, text: 'I', font: 'bebas-neue-400', size: 70, x: 0.15, start: 16, length: 8 },
          ...{ arrive: gone, window: { footage: 'green', first: 0 } },
        },
      ],
      overlays: [newOverlay('o', footage[1], 24, { start: 6, length: 6, size: 0.5, arrive: gone, leave: gone })],
    });
    const done = await deliver('mp4');
    expect(done.error).equal(null);
    const path = await download(done.id, 'footage.mp4');
    const raw = ffmpeg('-i', path, '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-');
    const pixel = (frame: number, x: number, y: number): number[] => [
      ...raw.subarray((frame * 72 * 128 + y * 128 + x) * 3, (frame * 72 * 128 + y * 128 + x) * 3 + 3),
    ];
    const isOf = (rgb: number[], colour: 0 | 1 | 2): boolean =>
      rgb[colour] > 200 && rgb.every((v, c) => c === colour || v < 90);
    expect(raw.length).equal(24 * 72 * 128 * 3);
    expect(isOf(pixel(2, 8, 8), 0)).equal(true);
    expect(isOf(pixel(20, 8, 8), 2)).equal(true);
    expect([2, 8, 20].map((frame) => isOf(pixel(frame, 64, 36), 1))).deep.equal([false, true, false]);
    const seen = (frame: number): number =>
      Array.from({ length: 40 * 72 }, (_, i) => isOf(pixel(frame, i % 40, Math.floor(i / 40)), 1)).filter(Boolean)
        .length;
    expect(seen(14)).equal(0);
    expect(seen(20)).above(60);
    await save({ clips: [], footage: [], overlays: [], titles: [] });
  });

  it('contain at each frame the picture that the core assembles', async () => {
    // In a font that was brought, large enough that another one would be noticed.
    const fontFile = fontPath('great-vibes/files/great-vibes-latin-400-normal.woff2')!;
    const { hash } = await client.ok<{ hash: string }>('POST', '/assets', await readFile(fontFile));
    await client.ok('POST', '/fonts', { asset: hash, fileName: 'hand.woff2' });
    const key = (frame: number, value: number) => ({ frame, value, ease: 'linear' });
    const promo = await save({
      titles: [
        // A variable font that grows heavier, some of its letters set apart.
        { ...title, font: 'archivo-variable', runs: [{ from: 0, to: 3, colour: '#FFF3D6' }] },
        { ...title, id: 'own', font: hash, size: 34, y: 0.5 },
      ],
      tracks: [
        { thing: 't', path: 'x', keys: [key(0, 0.3), key(19, 0.7)] },
        { thing: 't', path: 'weight', keys: [key(0, 100), key(19, 600)] },
      ],
    });
    const done = await deliver('mp4');
    const path = await download(done.id, 'frame.mp4');
    const painter = await openTitlePainter({ [hash]: fontFile });
    await painter.need(promoTexts(promo, []));
    for (const frame of [0, 4, 12, 22]) {
      const decoded = ffmpeg(
        '-i',
        path,
        '-vf',
        `select=eq(n\\,${frame}),scale=in_color_matrix=bt709:in_range=tv:out_range=pc`,
        '-frames:v',
        '1',
        '-f',
        'rawvideo',
        '-pix_fmt',
        'rgba',
        '-',
      );
      const shown = shownAt(promo, frame, () => 0);
      const made = assemble(openPlates(), promo, frame, shown, () => null, painter);
      let error = 0;
      for (let i = 0; i < made.data.length; i++) error += Math.abs(made.data[i] - decoded[i]);
      expect(error / made.data.length, `frame ${frame}`).below(3);
    }
    painter.dispose();
  });

  it('become a WebM with VP9 and Opus at a broadcast rate, to the frame', async () => {
    campaign = await smallCampaign(client, { frameRate: { num: 30000, den: 1001 } });
    await save({ titles: [{ ...title, start: 0, length: 37 }] });
    const done = await deliver('webm');
    expect(done.error).equal(null);
    const { streams } = probe(await download(done.id, 'out.webm'));
    expect(streams.find((s) => s.codec_type === 'video')).include({
      codec_name: 'vp9',
      r_frame_rate: '30000/1001',
      nb_read_frames: '37',
    });
    expect(streams.find((s) => s.codec_type === 'audio')).include({ codec_name: 'opus' });
  });

  it('are refused while empty, with a take that is gone, or in an unknown format', async () => {
    const refuse = async (format = 'mp4') =>
      (await client.send('POST', `/promos/${campaign.promo.id}/deliveries`, { format })).body.title;
    expect(await refuse()).match(/The promo is empty/);
    await save({ clips: [{ id: 'c', take: 'gone', start: 0, length: 5 }] });
    expect(await refuse()).match(/take that was deleted/);
    // Over the picture too.
    await save({ clips: [], overlays: [newOverlay('o', { id: 'gone', frames: 9, rate: 24 }, 24)] });
    expect(await refuse()).match(/take that was deleted/);
    expect(await refuse('avi')).match(/mp4 or webm/);
  });

  it('files can be deleted, and are private', async () => {
    await save({ titles: [title] });
    const done = await deliver('mp4');
    expect(
      (await (await signedIn(server, 'odo@vellowmere.example')).send('GET', `/deliveries/${done.id}/file`)).status,
    ).equal(404);
    const path = server.context.deliveryFiles.path(done.id, 'mp4');
    expect(existsSync(path)).equal(true);
    expect((await client.send('DELETE', `/deliveries/${done.id}`)).status).equal(204);
    expect(existsSync(path)).equal(false);
    expect(existsSync(`${path}.part`)).equal(false);
  });

  it('say so in one sentence when ffmpeg is missing, and can be made once it is there', async () => {
    const bare = testConfig({ ffmpeg: '/nowhere/ffmpeg' });
    const lame = await startTestServer(bare);
    try {
      const person = await signedIn(lame);
      const small = await smallCampaign(person);
      await person.ok('PUT', `/documents/promo/${small.promo.id}`, {
        expectedRevision: 1,
        label: 'x',
        document: { ...small.promo.document, titles: [title] },
      });
      const { id } = await person.ok<{ id: string }>('POST', `/promos/${small.promo.id}/deliveries`, { format: 'mp4' });
      const [failed] = await until(
        () => person.ok<DeliverySummary[]>('GET', `/campaigns/${small.id}/deliveries`),
        ([d]) => d.state === 'failed',
      );
      expect(failed.id).equal(id);
      expect(failed.error).equal(
        'ffmpeg is not installed on the server, so video and sound cannot be made: install the package "ffmpeg" and try again.',
      );
      const { hash } = await person.ok<{ hash: string }>('POST', '/assets', tune());
      expect(
        (await person.send('POST', `/campaigns/${small.id}/music`, { asset: hash, fileName: 'tune.wav' })).body.title,
      ).match(/ffmpeg is not installed/);
    } finally {
      await lame.stop();
    }
  });

  it('begin again when the server was stopped while encoding', async () => {
    await save({ titles: [{ ...title, length: 900 }] });
    const { id } = await client.ok<{ id: string }>('POST', `/promos/${campaign.promo.id}/deliveries`, {
      format: 'webm',
    });
    const state = async () =>
      (await client.ok<DeliverySummary[]>('GET', `/campaigns/${campaign.id}/deliveries`)).find((d) => d.id === id)!;
    await until(state, (d) => d.state === 'working' && d.progress > 0);
    await server.stop();
    server = await startTestServer(config);
    client = Object.assign(new Client(server.address), { cookie: client.cookie, csrf: client.csrf });
    expect((await until(state, (d) => d.state === 'done' || d.state === 'failed')).error).equal(null);
  });
});
