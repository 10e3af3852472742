import { expect } from 'chai';
import { newTitle, styleOf } from '@tender-orbit/core/document';
import type { KeptTitleStyle } from '@tender-orbit/core/contract';
import type { RunningServer } from '@tender-orbit/server';
import { signedIn, startTestServer, type Client } from './harness.ts';

describe('server: styles of titles', () => {
  let server: RunningServer;
  let client: Client;
  before(async () => {
    server = await startTestServer();
    client = await signedIn(server);
  });
  after(() => server.stop());
  const style = styleOf(newTitle('t', { font: 'caveat-700', fill: { colour: '#FF0000', angle: 30 } }));

  it('are kept with the person until they are deleted, and seen by nobody else', async () => {
    const made = await client.ok<KeptTitleStyle>('POST', '/title-styles', { name: 'By hand', style });
    expect(made.style).deep.equal(style);
    expect(await client.ok<KeptTitleStyle[]>('GET', '/title-styles')).deep.equal([made]);
    const other = await signedIn(server, 'odo@vellowmere.example');
    expect(await other.ok<KeptTitleStyle[]>('GET', '/title-styles')).deep.equal([]);
    expect((await other.send('DELETE', `/title-styles/${made.id}`)).status).equal(404);
    await client.ok('DELETE', `/title-styles/${made.id}`);
    expect(await client.ok<KeptTitleStyle[]>('GET', '/title-styles')).deep.equal([]);
  });

  it('that no title could have are refused by name, and none is kept', async () => {
    for (const [body, said] of [
      [{ name: ' ', style }, 'name'],
      [{ name: 'Odd' }, 'style is missing'],
      [{ name: 'Odd', style: { ...style, size: -4 } }, 'Size'],
      [{ name: 'Odd', style: { ...style, arrive: { kind: 'explode', frames: 3 } } }, 'Arrival'],
      [{ name: 'Odd', style: { ...style, shout: true } }, 'shout'],
    ] as const) {
      const refused = await client.send('POST', '/title-styles', body);
      expect(refused.status, said).equal(422);
      expect(refused.bytes.toString()).contain(said);
    }
    expect(await client.ok<KeptTitleStyle[]>('GET', '/title-styles')).deep.equal([]);
  });
});
