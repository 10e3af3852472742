import { expect } from 'chai';
import { newLayer, newShot } from '@tender-orbit/core/document';
import type { KeptLook } from '@tender-orbit/core/contract';
import type { RunningServer } from '@tender-orbit/server';
import { signedIn, startTestServer, type Client } from './harness.ts';

const look = (count = 1) => ({
  ...newShot('Warm', 'none', 'none', 24),
  layers: Array.from({ length: count }, (_, i) => newLayer('grade', `g${i}`, 'Grade')),
});

describe('server: looks', () => {
  let server: RunningServer;
  let client: Client;
  before(async () => {
    server = await startTestServer();
    client = await signedIn(server);
  });
  after(() => server.stop());

  it('are kept with the person, in the order they came, until they are deleted', async () => {
    const made: KeptLook[] = [];
    for (const name of ['Warm', 'Cold']) made.push(await client.ok<KeptLook>('POST', '/looks', { name, look: look() }));
    const listed = await client.ok<KeptLook[]>('GET', '/looks');
    expect(listed.map((l) => l.name)).deep.equal(['Warm', 'Cold']);
    expect(listed[0].look).deep.equal(look());
    await client.ok('DELETE', `/looks/${made[0].id}`);
    expect((await client.ok<KeptLook[]>('GET', '/looks')).map((l) => l.id)).deep.equal([made[1].id]);
    expect((await client.send('DELETE', `/looks/${made[0].id}`)).status).equal(404);
  });

  it('without a name, without layers, with too many or with something that is none are refused by name', async () => {
    for (const [body, said] of [
      [{ name: ' ', look: look() }, 'name'],
      [{ name: 'Empty', look: look(0) }, '1 to 60 layers'],
      [{ name: 'Many', look: look(61) }, 'has 61'],
      [{ name: 'Odd', look: { ...look(), layers: [{ kind: 'nothing' }] } }, 'Layer'],
      [{ name: 'Odd', look: [] }, 'not a document'],
    ] as const) {
      const refused = await client.send('POST', '/looks', body);
      expect(refused.status, JSON.stringify(body).slice(0, 60)).equal(422);
      expect(refused.bytes.toString()).contain(said);
    }
  });

  it('are seen by nobody else', async () => {
    const { id } = await client.ok<KeptLook>('POST', '/looks', { name: 'Mine', look: look() });
    const other = await signedIn(server, 'odo@vellowmere.example');
    expect(await other.ok<KeptLook[]>('GET', '/looks')).deep.equal([]);
    expect((await other.send('DELETE', `/looks/${id}`)).status).equal(404);
    expect((await client.ok<KeptLook[]>('GET', '/looks')).some((l) => l.id === id)).equal(true);
  });
});
