import { execFileSync } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import sharp, { type Sharp } from 'sharp';
import type { MusicMade, PanoramaMade, PictureMade } from '@tender-orbit/core/contract';
import { addVoice, mallet, silence, writeWav } from '@tender-orbit/core/audio';
import { readHdr, writeHdr } from '@tender-orbit/core/interchange';
import type { RunningServer } from '@tender-orbit/server';
import { decodeImage } from '../src/workers/index.ts';
import { Client, signedIn, smallCampaign, startTestServer, testConfig, until, type SmallCampaign } from './harness.ts';

/** A sound file of what a filter graph makes. */
function soundOf(graph: string, seconds: number, kind: string): Uint8Array {
  const path = join(tmpdir(), `sound-${process.pid}.${kind}`);
  execFileSync('ffmpeg', ['-y', '-loglevel', 'error', '-f', 'lavfi', '-i', graph, '-t', String(seconds), path]);
  const bytes = readFileSync(path);
  rmSync(path);
  return bytes;
}

describe('server: pictures, panoramas and sounds as they are brought', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;
  before(async () => {
    server = await startTestServer(testConfig({ uploadLimit: 400 * 1024 * 1024 }));
    client = await signedIn(server);
    campaign = await smallCampaign(client);
  });
  after(() => server.stop());

  const upload = async (bytes: Uint8Array): Promise<string> =>
    (await client.ok<{ hash: string }>('POST', '/assets', new Uint8Array(bytes))).hash;
  const picture = async (bytes: Uint8Array, fileName: string, more: object = {}): Promise<PictureMade> =>
    client.ok('POST', '/pictures', { asset: await upload(bytes), fileName, ...more });
  const refused = async (path: string, body: object): Promise<{ code: string; title: string }> => {
    const answer = await client.send<{ code: string; title: string }>('POST', path, body);
    expect(answer.status, JSON.stringify(answer.body)).equal(422);
    expect(answer.body.title).match(/[.]$/);
    return answer.body;
  };
  /** Pixels as the renderer reads them. */
  const pixels = async ({ asset }: { asset: string }): Promise<{ width: number; height: number; data: number[] }> => {
    const { width, height, data } = await decodeImage(new Uint8Array(await server.context.assets.read(asset)), 'x');
    return { width, height, data: [...data] };
  };
  /** Red at the top left, green beside it, blue below; 3 x 2. */
  const corners = (): Sharp => {
    const [r, g, b, w] = [
      [255, 0, 0],
      [0, 255, 0],
      [0, 0, 255],
      [255, 255, 255],
    ];
    return sharp(Buffer.from([...r, ...g, ...w, ...b, ...w, ...w]), { raw: { width: 3, height: 2, channels: 3 } });
  };

  it('are turned upright from all orientations that a camera writes', async () => {
    const upright = [...(await corners().raw().toBuffer())];
    // What has to be done to the upright picture so that each orientation turns it back.
    const stored: Record<number, (p: Sharp) => Sharp> = {
      1: (p) => p,
      2: (p) => p.flop(),
      3: (p) => p.rotate(180),
      4: (p) => p.flip(),
      6: (p) => p.rotate(270),
      8: (p) => p.rotate(90),
    };
    for (const [orientation, store] of Object.entries(stored)) {
      const file = await store(corners())
        .withMetadata({ orientation: Number(orientation) })
        .png()
        .toBuffer();
      const made = await picture(file, `${orientation}.png`);
      expect([made.width, made.height], orientation).deep.equal([3, 2]);
      const { data } = await pixels(made);
      expect(
        data.filter((_, i) => i % 4 < 3),
        orientation,
      ).deep.equal(upright);
      const facts = await sharp(await server.context.assets.read(made.asset)).metadata();
      expect(facts.orientation ?? 1).equal(1);
    }
  });

  it('come from a wide gamut to sRGB, but for data, whose numbers stay', async () => {
    const file = await sharp({ create: { width: 4, height: 4, channels: 3, background: { r: 200, g: 60, b: 60 } } })
      .withIccProfile('p3')
      .png()
      .toBuffer();
    const profiled = (await sharp(file).metadata()).icc;
    expect(profiled).not.equal(undefined);
    const written = [...(await sharp(file, { ignoreIcc: true }).raw().toBuffer())].slice(0, 3);
    const colour = (await pixels(await picture(file, 'p3.png'))).data.slice(0, 3);
    const data = (await pixels(await picture(file, 'p3.png', { data: true }))).data.slice(0, 3);
    expect(data).deep.equal(written);
    expect(colour[0]).above(written[0]);
    const plain = await sharp(await server.context.assets.read((await picture(file, 'p3.png')).asset)).metadata();
    expect(plain.icc).equal(undefined);
  });

  it('of 16 bits, of four inks and of other formats become eight bits of sRGB', async () => {
    const grey = sharp({ create: { width: 4, height: 4, channels: 3, background: '#808080' } });
    const files = [
      await grey.clone().toColourspace('rgb16').png().toBuffer(),
      await grey.clone().toColourspace('cmyk').jpeg().toBuffer(),
      await grey.clone().tiff().toBuffer(),
      await grey.clone().gif().toBuffer(),
    ];
    for (const file of files) {
      const made = await picture(file, 'a picture');
      const facts = await sharp(await server.context.assets.read(made.asset)).metadata();
      expect(facts).include({ format: 'png', depth: 'uchar', space: 'srgb' });
      for (const v of (await pixels(made)).data.slice(0, 3)) expect(v).closeTo(128, 16);
    }
  });

  it('that are plain stay the file they are; drawings become pixels of the size asked for', async () => {
    const file = new Uint8Array(await corners().png().toBuffer());
    expect(await picture(file, 'plain.png')).deep.equal({ asset: await upload(file), width: 3, height: 2 });
    const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="10"><script>while(true);</script><rect width="20" height="10" fill="#f00"/><image href="http://127.0.0.1:9/x.png" width="5" height="5"/><image href="file:///etc/passwd" width="5" height="5"/></svg>`;
    const made = await picture(new TextEncoder().encode(drawing), 'label.svg', { longest: 500 });
    expect([made.width, made.height]).deep.equal([500, 250]);
    expect((await pixels(made)).data.slice(0, 4)).deep.equal([255, 0, 0, 255]);
  });

  it('that cannot be read are refused by their name, huge ones before they are unpacked', async () => {
    const file = await corners().png().toBuffer();
    for (const bytes of [file.subarray(0, 50), Buffer.from('no picture at all')]) {
      const body = { asset: await upload(bytes), fileName: 'front label.png' };
      expect((await refused('/pictures', body)).title).contain('"front label.png"');
    }
    const huge = `<svg xmlns="http://www.w3.org/2000/svg" width="9000000" height="9000000"/>`;
    const body = { asset: await upload(new TextEncoder().encode(huge)), fileName: 'huge.svg' };
    expect((await refused('/pictures', body)).code).match(/picture\/(broken|too-heavy)/);
  });

  it('the original of a copy stays as long as the copy', async () => {
    const file = await corners().withMetadata({ orientation: 6 }).png().toBuffer();
    const original = await upload(file);
    const made = await client.ok<PictureMade>('POST', '/pictures', { asset: original, fileName: 'x.png' });
    expect(made.asset).not.equal(original);
    const { db, assets } = server.context;
    await db.run('UPDATE assets SET created_at = NOW() - INTERVAL 3 DAY', []);
    await db.run("INSERT INTO asset_uses (hash, user_kind, user_id) VALUES (?, 'set', 'x')", [made.asset]);
    await assets.sweep();
    expect(await assets.describe(original)).include({ mime: 'image/png' });
    await db.run("DELETE FROM asset_uses WHERE user_kind = 'set' AND user_id = 'x'");
    // The copy goes first, and with it what held the original.
    await assets.sweep();
    await assets.sweep();
    expect(await assets.describe(original).catch((e: Error) => e.name)).equal('Problem');
  });

  it('a panorama of another proportion needs a choice, and is then all round; it can be mirrored', async () => {
    const data = new Float32Array(64 * 64 * 3).fill(1);
    for (let y = 0; y < 64; y++) for (let x = 0; x < 32; x++) data.fill(4, (y * 64 + x) * 3, (y * 64 + x) * 3 + 3);
    const asset = await upload(writeHdr({ width: 64, height: 64, data }));
    const body = { asset, fileName: 'heath.hdr' };
    const problem = await refused('/panoramas', body);
    expect(problem.code).equal('panorama/shape');
    const read = async (more: object) => {
      const made = await client.ok<PanoramaMade>('POST', '/panoramas', { ...body, ...more });
      return readHdr(new Uint8Array(await server.context.assets.read(made.asset)));
    };
    const stretched = await read({ fit: 'stretch' });
    expect([stretched.width, stretched.height]).deep.equal([64, 32]);
    expect(stretched.data[0]).above(stretched.data[63 * 3]);
    const mirrored = await read({ fit: 'stretch', mirror: true });
    expect(mirrored.data[0]).closeTo(stretched.data[63 * 3], 0.01);
    expect((await read({ fit: 'fill' })).width).equal(128);
    const photo = await upload(await corners().resize(64, 32).jpeg().toBuffer());
    await client.ok('POST', '/panoramas', { asset: photo, fileName: 'heath.jpg' });
    const broken = { asset: await upload(Buffer.from([0x76, 0x2f, 0x31, 1, 2, 0, 0, 0, 7])), fileName: 'sky.exr' };
    expect((await refused('/panoramas', broken)).title).contain('"sky.exr"');
  });

  it('a sound is measured before it is read, and has a file of its peaks', async () => {
    const tune = silence(48000);
    addVoice(tune, 0.5, 0.4, 0.6, 0, mallet(330));
    const bring = async (bytes: Uint8Array, fileName: string): Promise<MusicMade> =>
      client.ok('POST', `/campaigns/${campaign.id}/music`, { asset: await upload(bytes), fileName });
    const made = await bring(writeWav(tune), 'tune.wav');
    expect(made.seconds).closeTo(1, 0.01);
    const peaks = await server.context.assets.read(made.peaks);
    expect(peaks).length(100);
    expect(Math.max(...peaks.subarray(0, 49))).equal(0);
    expect(Math.max(...peaks.subarray(50))).above(20);
    // Forty minutes of silence in half a megabyte: refused for its length, and quickly.
    const long = soundOf('anullsrc=r=8000:cl=mono', 2400, 'flac');
    const body = { asset: await upload(long), fileName: 'long.flac' };
    expect((await refused(`/campaigns/${campaign.id}/music`, body)).code).equal('sound/long');
    const lie = { asset: await upload(writeWav(tune).subarray(0, 60)), fileName: 'cut.wav' };
    expect((await refused(`/campaigns/${campaign.id}/music`, lie)).title).contain('"cut.wav"');
  });

  it('a long song holds up nobody who brings a model', async () => {
    const asset = await upload(soundOf('sine=r=48000,aformat=channel_layouts=stereo', 1700, 'wav'));
    const song = client.send('POST', `/campaigns/${campaign.id}/music`, { asset, fileName: 'song.wav' });
    await until(
      () => server.context.db.rows("SELECT id FROM jobs WHERE kind = 'sound' AND state = 'working'"),
      (rows) => rows.length > 0,
    );
    const model = await upload(new TextEncoder().encode('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n'));
    await client.ok('POST', `/campaigns/${campaign.id}/products`, { fileName: 'lid.obj', asset: model, resources: {} });
    const still = await server.context.db.rows("SELECT id FROM jobs WHERE kind = 'sound' AND state = 'working'");
    expect(still).length(1);
    expect((await song).status).equal(201);
  });
});
