import { expect } from 'chai';
import { Presence, type RunningServer } from '@tender-orbit/server';
import { Client, signedIn, startTestServer } from './harness.ts';

describe('server: who is at work', () => {
  it('somebody counts as working for a minute after the last sign', () => {
    let now = 0;
    const presence = new Presence(() => now);
    expect(presence.working).equal(false);
    presence.note();
    now = 59_999;
    expect(presence.working).equal(true);
    presence.note();
    now = 119_000;
    expect(presence.working).equal(true);
    now = 119_999;
    expect(presence.working).equal(false);
  });

  describe('over the network', () => {
    let server: RunningServer;
    before(async () => void (server = await startTestServer()));
    after(() => server.stop());

    it('a sign is taken from people who are signed in, and from nobody else', async () => {
      const stranger = new Client(server.address);
      expect((await stranger.send('POST', '/session/presence')).status).within(401, 403);
      expect(server.context.presence.working).equal(false);
      const client = await signedIn(server);
      expect((await client.send('POST', '/session/presence')).status).equal(204);
      expect(server.context.presence.working).equal(true);
    });

    it('the wish for it is kept with the account, and older choices that lack it stay good', async () => {
      const client = await signedIn(server);
      const plain = { keySet: 'left-hand', bindings: {} };
      await client.ok('PUT', '/session/preferences', plain);
      const chosen = async (): Promise<unknown> =>
        (await client.ok<{ preferences: unknown }>('GET', '/session')).preferences;
      expect(await chosen()).deep.equal(plain);
      await client.ok('PUT', '/session/preferences', { ...plain, spareCore: true });
      expect(await chosen()).deep.equal({ ...plain, spareCore: true });
      expect((await client.send('PUT', '/session/preferences', { ...plain, spareCore: 'yes' })).status).equal(422);
    });
  });
});
