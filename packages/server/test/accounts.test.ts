import { expect } from 'chai';
import type { RunningServer } from '@tender-orbit/server';
import { Client, PASSWORD, signedIn, startTestServer } from './harness.ts';

describe('server: sessions and safety', () => {
  let server: RunningServer;
  before(async () => (server = await startTestServer()));
  after(() => server.stop());

  it('is healthy without a session, and gives nothing else without one', async () => {
    const stranger = new Client(server.address);
    expect((await stranger.send('GET', '/health')).body).deep.equal({ ok: true });
    for (const path of [
      '/campaigns',
      '/documents/set/x',
      '/assets/' + 'a'.repeat(64),
      '/takes/x/frames/0',
      '/deliveries/x/file',
      '/nothing',
    ]) {
      const answer = await stranger.send('GET', path);
      expect(answer.status, path).equal(401);
      expect(answer.headers.get('content-type')).contain('application/problem+json');
      expect(answer.body).include({ code: 'session/none', status: 401 });
    }
  });

  it('lets in who knows the password, and says the same to a wrong one and an unknown address', async () => {
    expect((await new Client(server.address).signIn()).status).equal(200);
    const [wrong, unknown] = [
      await new Client(server.address).signIn(undefined, 'guess'),
      await new Client(server.address).signIn('nobody@vellowmere.example'),
    ];
    expect(wrong.status).equal(401);
    expect(unknown.body.title).equal(wrong.body.title);
  });

  it('keeps passwords as argon2 only', async () => {
    const row = await server.context.db.one<{ password_hash: string }>('SELECT password_hash FROM people LIMIT 1');
    expect(row!.password_hash).match(/^\$argon2id\$/);
    expect(row!.password_hash).not.contain(PASSWORD);
  });

  it('gives a new session id at sign-in, http-only and same-site', async () => {
    const client = new Client(server.address);
    await client.send('GET', '/session');
    const before = client.cookie;
    const answer = await client.signIn();
    expect(client.cookie).not.equal(before);
    expect(answer.headers.getSetCookie().join())
      .match(/HttpOnly/i)
      .match(/SameSite=Lax/i);
  });

  it('says how large a file it takes, before and after signing in', async () => {
    const client = new Client(server.address);
    expect((await client.send('GET', '/session')).body.uploadLimit).equal(8 * 1024 * 1024);
    expect((await client.signIn()).body.uploadLimit).equal(8 * 1024 * 1024);
  });

  it('keeps what a person has chosen with the account, and refuses what it does not know', async () => {
    const client = await signedIn(server);
    const preferences = { keySet: 'left-hand', bindings: { 'thing.hide': 'X', 'add.rim': '$mod+Shift+Y' } };
    expect((await client.send('GET', '/session')).body.preferences).deep.equal({ keySet: 'initials', bindings: {} });
    expect((await client.send('PUT', '/session/preferences', preferences)).status).equal(204);
    const again = new Client(server.address);
    expect((await again.signIn()).body.preferences).deep.equal(preferences);
    const wrong = await client.send('PUT', '/session/preferences', { keySet: 'mine', bindings: {} });
    expect([wrong.status, wrong.body.title]).deep.equal([422, 'The key set must be one of: initials, left-hand.']);
    expect((await client.send('GET', '/session')).body.preferences).deep.equal(preferences);
    await client.send('PUT', '/session/preferences', { keySet: 'initials', bindings: {} });
  });

  it('what is kept and no longer understood counts as nothing chosen', async () => {
    const client = await signedIn(server);
    await server.context.db.run('UPDATE people SET preferences = ?', ['{"keySet":"of an older time"}']);
    expect((await client.send('GET', '/session')).body.preferences).deep.equal({ keySet: 'initials', bindings: {} });
    await server.context.db.run('UPDATE people SET preferences = NULL', []);
  });

  it('nobody keeps anything without signing in', async () => {
    const stranger = new Client(server.address);
    stranger.csrf = (await stranger.send('GET', '/session')).body.csrfToken as string;
    const answer = await stranger.send('PUT', '/session/preferences', { keySet: 'initials', bindings: {} });
    expect(answer.status).equal(401);
    const row = await server.context.db.one<{ preferences: unknown }>('SELECT preferences FROM people LIMIT 1');
    expect(row!.preferences).equal(null);
  });

  it('refuses changes without the CSRF token', async () => {
    const client = await signedIn(server);
    client.csrf = 'made-up';
    const answer = await client.send('POST', '/campaigns', {
      name: 'X',
      frameRate: { num: 24, den: 1 },
      width: 128,
      height: 72,
    });
    expect(answer.status).equal(403);
    expect(answer.body.code).equal('session/csrf');
  });

  it('sessions live in the database and end at sign-out', async () => {
    const client = await signedIn(server);
    const id = decodeURIComponent(client.cookie).split('=')[1].slice(2).split('.')[0];
    expect(await server.context.db.one('SELECT session_id FROM sessions WHERE session_id = ?', [id])).not.equal(null);
    expect((await client.send('DELETE', '/session')).status).equal(204);
    expect((await client.send('GET', '/campaigns')).status).equal(401);
  });

  it('sends the headers that isolate the page and forbid foreign scripts', async () => {
    const { headers } = await new Client(server.address).send('GET', '/health');
    expect(headers.get('cross-origin-opener-policy')).equal('same-origin');
    expect(headers.get('cross-origin-embedder-policy')).equal('require-corp');
    expect(headers.get('content-security-policy')).contain("default-src 'self'").not.contain('unsafe-eval ');
    expect(headers.get('x-powered-by')).equal(null);
  });

  it('answers broken JSON and unknown addresses as problems', async () => {
    const client = await signedIn(server);
    const broken = await fetch(`${server.address}/api/campaigns`, {
      method: 'POST',
      headers: { cookie: client.cookie, 'x-csrf-token': client.csrf, 'content-type': 'application/json' },
      body: '{"name":',
    });
    expect(broken.status).equal(400);
    expect((await client.send('GET', '/nothing')).status).equal(404);
  });

  it('one person never sees the work of another', async () => {
    const mara = await signedIn(server);
    const odo = await signedIn(server, 'odo@vellowmere.example');
    const { id } = await mara.ok<{ id: string }>('POST', '/campaigns', {
      name: 'Private',
      frameRate: { num: 24, den: 1 },
      width: 128,
      height: 72,
    });
    const bundle = await mara.ok<{ sets: Array<{ id: string }>; shots: Array<{ id: string }> }>(
      'GET',
      `/campaigns/${id}`,
    );
    expect(await odo.ok<unknown[]>('GET', '/campaigns')).deep.equal([]);
    for (const path of [
      `/campaigns/${id}`,
      `/documents/campaign/${id}`,
      `/documents/set/${bundle.sets[0].id}`,
      `/documents/set/${bundle.sets[0].id}/revisions`,
      `/campaigns/${id}/takes`,
    ]) {
      expect((await odo.send('GET', path)).status, path).equal(404);
    }
    expect((await odo.send('POST', '/takes', { shot: bundle.shots[0].id, quality: 'clay', width: 64 })).status).equal(
      404,
    );
    expect((await odo.send('DELETE', `/documents/set/${bundle.sets[0].id}`)).status).equal(404);
  });

  it('slows down who guesses', async () => {
    const guesser = new Client(server.address);
    let last = 0;
    for (let i = 0; i < 40 && last !== 429; i++) last = (await guesser.signIn(undefined, `guess ${i}`)).status;
    expect(last).equal(429);
  });
});
