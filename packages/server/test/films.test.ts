import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp from 'sharp';
import type { FilmMade } from '@tender-orbit/core/contract';
import type { RunningServer } from '@tender-orbit/server';
import { decodeSound } from '../src/ffmpeg/index.ts';
import { framesOf } from '../src/films/index.ts';
import { Client, signedIn, smallCampaign, startTestServer, type SmallCampaign } from './harness.ts';

describe('server: films as they are brought', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;
  const folder = mkdtempSync(join(tmpdir(), 'films-test-'));
  before(async () => {
    server = await startTestServer();
    client = await signedIn(server);
    campaign = await smallCampaign(client);
  });
  after(async () => {
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  });

  /** A file that ffmpeg writes with these arguments. */
  const made = (name: string, ...args: string[]): Buffer => {
    const path = join(folder, name);
    execFileSync('ffmpeg', ['-loglevel', 'error', '-y', ...args, path]);
    return readFileSync(path);
  };
  const upload = async (bytes: Uint8Array): Promise<string> =>
    (await client.ok<{ hash: string }>('POST', '/assets', new Uint8Array(bytes))).hash;
  const film = async (bytes: Uint8Array, fileName: string, more: object = {}): Promise<FilmMade> =>
    client.ok('POST', `/campaigns/${campaign.id}/films`, { asset: await upload(bytes), fileName, ...more });
  const refused = async (
    bytes: Uint8Array,
    fileName: string,
    more: object = {},
  ): Promise<{ code: string; title: string }> => {
    const body = { asset: await upload(bytes), fileName, ...more };
    const answer = await client.send<{ code: string; title: string }>('POST', `/campaigns/${campaign.id}/films`, body);
    expect(answer.status, JSON.stringify(answer.body)).equal(422);
    return answer.body;
  };
  const pixel = async (hash: string, x: number, y: number): Promise<number[]> => {
    const stored = sharp(await server.context.assets.read(hash)).ensureAlpha();
    return [...(await stored.extract({ left: x, top: y, width: 1, height: 1 }).raw().toBuffer())];
  };
  const near = (is: number[], wanted: number[], within: number): void =>
    is.slice(0, wanted.length).forEach((v, i) => expect(v, `${is} is not ${wanted}`).closeTo(wanted[i], within));
  const colour = (of: string, more = ''): string[] => ['-f', 'lavfi', '-i', `color=${of}:s=64x36:r=24${more}`];

  it('give every frame at their own rate, in order, and their list is kept with them', async () => {
    const bytes = made(
      'halves.webm',
      ...[...colour('red', ':d=0.25'), ...colour('blue', ':d=0.25')],
      ...['-filter_complex', '[0][1]concat=n=2', '-c:v', 'libvpx-vp9', '-lossless', '1'],
    );
    const { list, frames, rate, width, height, cut } = await film(bytes, 'halves.webm');
    expect([frames.length, rate, width, height, cut]).deep.equal([12, 24, 64, 36, false]);
    for (const [i, wanted] of [
      [0, [254, 0, 0]],
      [5, [254, 0, 0]],
      [6, [0, 0, 254]],
      [11, [0, 0, 254]],
    ] as const)
      near(await pixel(frames[i], 30, 18), [...wanted], 4);
    expect(await framesOf(server.context.assets, list)).deep.equal(frames);
  });

  it('bring their sound along, where it is asked for, as long as their pictures', async () => {
    const bytes = made(
      'heard.mp4',
      ...[...colour('gray', ':d=1'), '-f', 'lavfi', '-i', 'sine=frequency=440:sample_rate=44100:duration=3'],
      ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac'],
    );
    expect((await film(bytes, 'heard.mp4')).sound).equal(undefined);
    const { sound, frames } = await film(bytes, 'heard.mp4', { sound: true });
    expect(frames).length(24);
    const heard = await decodeSound('ffmpeg', server.context.assets.path(sound!), 10);
    expect(heard.left.length).within(47_990, 48_010);
    let up = 0;
    for (let i = 1; i < heard.left.length; i++) if (heard.left[i - 1] < 0 && heard.left[i] >= 0) up++;
    expect(up).within(436, 442);
    const silent = made('silent.mp4', ...colour('gray', ':d=0.5'), '-c:v', 'libx264', '-pix_fmt', 'yuv420p');
    expect((await film(silent, 'silent.mp4', { sound: true })).sound).equal(undefined);
  });

  it('of another rate have frames doubled or left out, so that their time stays', async () => {
    const bytes = made('steps.mp4', ...colour('gray', ':d=2'), '-c:v', 'libx264', '-pix_fmt', 'yuv420p');
    expect((await film(bytes, 'steps.mp4', { rate: 12 })).frames).length(24);
    expect((await film(bytes, 'steps.mp4', { rate: 30 })).frames).length(60);
  });

  it('of a rate that varies come at a constant one', async () => {
    const bytes = made(
      'varies.mkv',
      ...[...colour('gray', ':d=1'), '-vf', 'select=not(mod(n\\,3))+lt(n\\,12)', '-fps_mode', 'vfr', '-c:v', 'ffv1'],
    );
    const { frames } = await film(bytes, 'varies.mkv', { rate: 24 });
    expect(frames.length).within(22, 24);
  });

  it('that are turned stand upright', async () => {
    const flat = made('flat.mp4', ...colour('gray', ':d=0.2'), '-c:v', 'libx264', '-pix_fmt', 'yuv420p');
    expect(flat.length).above(100);
    const turned = made('turned.mp4', '-i', join(folder, 'flat.mp4'), '-c', 'copy', '-metadata:s:v', 'rotate=90');
    const { width, height, frames } = await film(turned, 'turned.mp4');
    expect([width, height]).deep.equal([36, 64]);
    const { width: w, height: h } = await sharp(await server.context.assets.read(frames[0])).metadata();
    expect([w, h]).deep.equal([36, 64]);
  });

  it('keep their alpha', async () => {
    const bytes = made(
      'alpha.webm',
      ...['-f', 'lavfi', '-i', 'color=green@0.5:s=64x36:r=24:d=0.2,format=yuva420p', '-c:v', 'libvpx-vp9'],
    );
    const { frames } = await film(bytes, 'alpha.webm');
    const [, , , alpha] = await pixel(frames[0], 30, 18);
    expect(alpha).within(120, 136);
  });

  it('of ten bits and of other ranges have the colours that they mean', async () => {
    const ten = made(
      'ten.mp4',
      ...[...colour('0x3C78B4', ':d=0.2'), '-vf', 'scale=out_color_matrix=bt709,format=yuv420p10le', '-c:v', 'libx265'],
      ...['-x265-params', 'log-level=error:lossless=1', '-colorspace', 'bt709'],
    );
    near(await pixel((await film(ten, 'ten.mp4')).frames[1], 30, 18), [0x3c, 0x78, 0xb4], 3);
    // Grey of 203 cd/m2 is the white of graphics in BT.2408: on a screen it is bright and not burnt.
    const pq = made(
      'pq.mp4',
      ...[...colour('white', ':d=0.2'), '-vf'],
      'format=gbrpf32le,zscale=tin=linear:t=smpte2084:npl=203:pin=709:p=2020:m=2020_ncl,format=yuv420p10le',
      ...[
        '-c:v',
        'libx265',
        '-x265-params',
        'log-level=error',
        '-color_trc',
        'smpte2084',
        '-color_primaries',
        'bt2020',
      ],
      ...['-colorspace', 'bt2020nc'],
    );
    const [r, g, b] = await pixel((await film(pq, 'pq.mp4')).frames[1], 30, 18);
    expect(Math.max(r, g, b) - Math.min(r, g, b)).below(6);
    expect(r).within(200, 255);
  });

  it('that are none, are broken or too long are refused by name, and a beginning is cut when that is asked', async () => {
    expect((await refused(Buffer.from('not a film at all'), 'words.mp4')).code).equal('film/broken');
    const whole = made('whole.mp4', ...colour('red', ':d=1'), '-c:v', 'libx264', '-pix_fmt', 'yuv420p');
    expect((await refused(whole.subarray(0, 700), 'half.mp4')).code).equal('film/broken');
    const sound = made('sound.mp4', '-f', 'lavfi', '-i', 'sine=d=0.3', '-c:a', 'aac');
    expect((await refused(sound, 'sound.mp4')).title).contain('no moving picture');
    const long = await refused(whole, 'whole.mp4', { most: 10 });
    expect(long.title).contain('"whole.mp4"').contain('10 frames');
    const { frames, cut } = await film(whole, 'whole.mp4', { most: 10, whole: false });
    expect([frames.length, cut]).deep.equal([10, true]);
  });

  it('of single pictures keep their order; another person’s pictures are none', async () => {
    const shade = async (v: number): Promise<string> =>
      upload(
        await sharp({ create: { width: 4, height: 4, channels: 3, background: { r: v, g: v, b: v } } })
          .png()
          .toBuffer(),
      );
    const frames = [await shade(10), await shade(90), await shade(10)];
    const path = `/campaigns/${campaign.id}/films/sequence`;
    const { list } = await client.ok<{ list: string }>('POST', path, { frames });
    expect(await framesOf(server.context.assets, list)).deep.equal(frames);
    const still = await client.ok<{ list: string }>('POST', path, { frames: [frames[1]] });
    expect(await framesOf(server.context.assets, still.list)).deep.equal([frames[1]]);
    expect((await client.send('POST', path, { frames: [] })).status).equal(422);
    expect((await client.send('POST', path, { frames: [frames[0], 'a'.repeat(64)] })).status).equal(404);
  });
});
