import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { expect } from 'chai';
import sharp from 'sharp';
import type { FontMade } from '@tender-orbit/core/contract';
import type { RunningServer } from '@tender-orbit/server';
import { signedIn, startTestServer, type Client } from './harness.ts';

const require = createRequire(import.meta.url);

describe('server: fonts that are brought', () => {
  let server: RunningServer;
  let client: Client;
  let bytes: Buffer;
  before(async () => {
    server = await startTestServer();
    client = await signedIn(server);
    bytes = await readFile(require.resolve('@fontsource/caveat/files/caveat-latin-700-normal.woff2'));
  });
  after(() => server.stop());
  const bring = async (file: Uint8Array, fileName: string) => {
    const { hash } = await client.ok<{ hash: string }>('POST', '/assets', file);
    const answer = await client.send('POST', '/fonts', { asset: hash, fileName });
    return { hash, status: answer.status, text: answer.bytes.toString() };
  };

  it('are known by their own names', async () => {
    const { hash, status, text } = await bring(bytes, 'hand.woff2');
    expect([status, JSON.parse(text) as FontMade]).deep.equal([201, { asset: hash, name: 'Caveat' }]);
  });

  it('that are none are refused by name: a picture, a font that is cut off, a file of another', async () => {
    const picture = await sharp({ create: { width: 8, height: 8, channels: 3, background: '#ff0000' } })
      .png()
      .toBuffer();
    const shot = await bring(picture, 'hand.ttf');
    expect(shot.status).equal(422);
    expect(shot.text).contain('is a PNG picture, not a font: bring a TTF, OTF');
    const broken = await bring(bytes.subarray(0, 900), 'broken.woff2');
    expect(broken.status).equal(422);
    expect(broken.text).contain('broken.woff2').contain('could not be read as a font');
    const other = await signedIn(server, 'odo@vellowmere.example');
    const { hash } = await client.ok<{ hash: string }>('POST', '/assets', bytes);
    expect((await other.send('POST', '/fonts', { asset: hash, fileName: 'hand.woff2' })).status).equal(404);
  });
});
