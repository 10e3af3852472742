import { existsSync } from 'node:fs';
import { expect } from 'chai';
import type { WorkEvent } from '@tender-orbit/core/contract';
import { newBlock, type SetDocument } from '@tender-orbit/core/document';
import type { RunningServer } from '@tender-orbit/server';
import { asRoot, Client, signedIn, smallCampaign, startTestServer, until, type SmallCampaign } from './harness.ts';

describe('server: upkeep', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;

  before(async () => {
    server = await startTestServer();
    client = await signedIn(server);
    campaign = await smallCampaign(client);
  });
  after(() => server.stop());

  const upload = async (text: string): Promise<string> =>
    (await client.ok<{ hash: string }>('POST', '/assets', Buffer.from(text))).hash;
  const age = (hash: string, days: number): Promise<number> =>
    server.context.db.run('UPDATE assets SET created_at = NOW() - INTERVAL ? DAY WHERE hash = ?', [days, hash]);
  const there = async (hash: string): Promise<boolean> => {
    const file = existsSync(server.context.assets.path(hash));
    const row = await server.context.db.one('SELECT hash FROM assets WHERE hash = ?', [hash]);
    expect(file).equal(row !== null);
    return file;
  };
  const path = (): string => `/documents/set/${campaign.set.id}`;
  const current = () => client.ok<{ revision: number; document: SetDocument }>('GET', path());
  const save = async (change: (set: SetDocument) => void, label = 'Edit'): Promise<number> => {
    const { revision, document } = await current();
    change(document);
    const body = { expectedRevision: revision, label, document };
    return (await client.ok<{ revision: number }>('PUT', path(), body)).revision;
  };

  it('every connection counts time in UTC, whatever the database server’s zone is', async () => {
    const { db } = server.context;
    const root = await asRoot();
    await root.query("SET GLOBAL time_zone = '+09:00'");
    try {
      const zones = await Promise.all(
        Array.from({ length: 12 }, () => db.one<{ zone: string }>('SELECT @@session.time_zone AS zone, SLEEP(0.05)')),
      );
      expect(new Set(zones.map((z) => z!.zone))).deep.equal(new Set(['+00:00']));
      const { id } = await smallCampaign(client);
      const card = (await client.ok<Array<{ id: string; updated: string }>>('GET', '/campaigns')).find(
        (c) => c.id === id,
      )!;
      expect(Math.abs(Date.parse(card.updated) - Date.now())).below(60_000);
    } finally {
      await root.query("SET GLOBAL time_zone = 'SYSTEM'");
      await root.end();
    }
  });

  it('files that nothing uses go after a day; bringing one again renews it', async () => {
    const [loose, renewed, young] = [await upload('loose'), await upload('renewed'), await upload('young')];
    for (const hash of [loose, renewed]) await age(hash, 3);
    expect(await upload('renewed')).equal(renewed);
    await server.context.assets.sweep();
    expect([await there(loose), await there(renewed), await there(young)]).deep.equal([false, true, true]);
  });

  it('a file that is brought while it is swept is there afterwards', async () => {
    for (let i = 0; i < 10; i++) {
      const hash = await upload(`race ${i}`);
      await age(hash, 3);
      await Promise.all([server.context.assets.sweep(), upload(`race ${i}`)]);
      expect(await there(hash)).equal(true);
    }
  });

  it('files of kept revisions stay until those revisions go', async () => {
    const hash = await upload('a panorama');
    const used = await save((set) => Object.assign(set.environment.room, { kind: 'file', asset: hash }));
    const kept = (revision: number) => `${'set'} ${campaign.set.id} ${revision}`;
    await save((set) => Object.assign(set.environment.room, { kind: 'studio', asset: '' }));
    await age(hash, 9);
    await server.context.assets.sweep();
    expect(await there(hash)).equal(true);
    const { db } = server.context;
    expect(
      await db.one("SELECT hash FROM asset_uses WHERE user_kind = 'revision' AND user_id = ?", [kept(used)]),
    ).deep.equal({
      hash,
    });
    await db.run('UPDATE revisions SET created_at = NOW() - INTERVAL 200 DAY WHERE document_id = ? AND revision = ?', [
      campaign.set.id,
      used,
    ]);
    await server.context.documents.prune();
    await server.context.assets.sweep();
    expect(await there(hash)).equal(false);
  });

  it('history thins out with age: an hour apart after a day, a day apart after a week; names and the newest stay', async () => {
    const { db, documents } = server.context;
    const other = await smallCampaign(client);
    const id = other.set.id;
    await db.run('DELETE FROM revisions WHERE document_id = ?', [id]);
    // Fifteen minutes apart over ten days, the newest now.
    const rows = Array.from({ length: 960 }, (_, i) => i + 1);
    for (const revision of rows)
      await db.run(
        `INSERT INTO revisions (kind, document_id, revision, document, label, created_at)
         VALUES ('set', ?, ?, '{}', 'x', NOW(3) - INTERVAL ? MINUTE)`,
        [id, revision, (960 - revision) * 15],
      );
    await client.ok('PUT', `/documents/set/${id}/revisions/2/name`, { name: 'Before the client call' });
    await documents.prune();
    const left = await db.rows<{ revision: number; name: string | null; hours: number }>(
      'SELECT revision, name, TIMESTAMPDIFF(MINUTE, created_at, NOW(3)) / 60 AS hours FROM revisions WHERE document_id = ? ORDER BY revision',
      [id],
    );
    const within = (from: number, to: number) =>
      left.filter((r) => !r.name && Number(r.hours) >= from && Number(r.hours) < to).length;
    expect(within(0, 23)).equal(23 * 4);
    expect(within(25, 7 * 24 - 1)).within(141, 144);
    // Three or four calendar days have an end in there, whatever the time of day is now.
    expect(within(7 * 24, 10 * 24)).within(3, 5);
    expect(left.at(-1)!.revision).equal(960);
    expect(left.find((r) => r.revision === 2)!.name).equal('Before the client call');
    expect(await documents.prune()).equal(0);
    // Very old: only the newest and what has a name.
    await db.run('UPDATE revisions SET created_at = created_at - INTERVAL 100 DAY WHERE document_id = ?', [id]);
    await documents.prune();
    expect((await documents.revisions('set', id)).map((r) => r.revision)).deep.equal([960, 2]);
    // Without its name it goes as well.
    await client.ok('PUT', `/documents/set/${id}/revisions/2/name`, { name: '' });
    await documents.prune();
    expect((await documents.revisions('set', id)).map((r) => r.revision)).deep.equal([960]);
    expect((await client.send('PUT', `/documents/set/${id}/revisions/77/name`, { name: 'x' })).status).equal(404);
    expect(
      (await client.send('PUT', `/documents/set/${id}/revisions/960/name`, { name: 'x'.repeat(121) })).status,
    ).equal(422);
  });

  it('a save whose revision cannot be kept is no save', async () => {
    const before = await current();
    const { db } = server.context;
    await db.run(
      "INSERT INTO revisions (kind, document_id, revision, document, label) VALUES ('set', ?, ?, '{}', 'in the way')",
      [campaign.set.id, before.revision + 1],
    );
    const answer = await client.send('PUT', path(), {
      ...{ expectedRevision: before.revision, label: 'Edit' },
      document: { ...before.document, name: 'Half saved' },
    });
    expect(answer.status).equal(500);
    expect(await current()).deep.include({ revision: before.revision, document: before.document });
    await db.run("DELETE FROM revisions WHERE label = 'in the way'");
  });

  it('of two that save on the same revision at once, one is told so, whatever the timing', async () => {
    for (let i = 0; i < 5; i++) {
      const { revision, document } = await current();
      const answers = await Promise.all(
        ['one', 'two', 'three'].map((name) =>
          client.send('PUT', path(), { expectedRevision: revision, label: name, document: { ...document, name } }),
        ),
      );
      expect(answers.map((a) => a.status).sort()).deep.equal([200, 409, 409]);
      const now = await current();
      expect(now.revision).equal(revision + 1);
      for (const stale of answers.filter((a) => a.status === 409))
        expect(stale.body).deep.include({ revision: now.revision, document: now.document });
    }
  });

  it('sessions that have run out are let go', async () => {
    const { db } = server.context;
    await db.run("INSERT INTO sessions (session_id, expires, data) VALUES ('old', UNIX_TIMESTAMP() - 10, '{}')");
    await server.stop();
    server = await startTestServer(server.context.config);
    client = Object.assign(new Client(server.address), { cookie: client.cookie, csrf: client.csrf });
    await until(
      () => server.context.db.one("SELECT session_id FROM sessions WHERE session_id = 'old'"),
      (row) => row === null,
      10,
    );
    expect((await client.send('GET', '/campaigns')).status).equal(200);
  });

  it('work is told of as it goes on, to whom the campaign belongs', async () => {
    await save((set) => void set.surfaces.push(newBlock('plinth', 'plinth')));
    const stranger = await signedIn(server, 'odo@vellowmere.example');
    expect((await stranger.send('GET', `/campaigns/${campaign.id}/events`)).status).equal(404);
    const abort = new AbortController();
    const response = await fetch(`${server.address}/api/campaigns/${campaign.id}/events`, {
      headers: { cookie: client.cookie },
      signal: abort.signal,
    });
    expect(response.headers.get('content-type')).match(/^text\/event-stream/);
    const heard: WorkEvent[] = [];
    const listening = (async () => {
      let text = '';
      for await (const chunk of response.body!) {
        text += Buffer.from(chunk).toString();
        const events = text.split('\n\n');
        text = events.pop()!;
        for (const event of events) {
          const data = /^data:(.*)$/m.exec(event)?.[1];
          if (/^event:\s*work$/m.test(event) && data) heard.push(JSON.parse(data) as WorkEvent);
        }
      }
    })().catch(() => undefined);
    await until(
      async () => heard.length,
      (n) => n > 0,
      10,
    );
    const shot = await client.ok<{ revision: number; document: object }>('GET', `/documents/shot/${campaign.shot.id}`);
    await client.ok('PUT', `/documents/shot/${campaign.shot.id}`, {
      ...{ expectedRevision: shot.revision, label: 'Length' },
      document: { ...shot.document, length: 3 },
    });
    const { id } = await client.ok<{ id: string }>('POST', '/takes', {
      ...{ shot: campaign.shot.id, quality: 'clay', width: 32, samples: 1 },
    });
    const last = await until(
      async () => heard.at(-1)!.takes.find((t) => t.id === id),
      (take) => take?.state === 'done',
    );
    expect(last!.done).deep.equal([0, 1, 2]);
    expect(heard.length).above(2);
    // A job that another process moved on is noticed as well.
    const before = heard.length;
    await server.context.db.run(
      "UPDATE jobs SET state = 'failed', error = 'Elsewhere.' WHERE subject_id = ? AND part = 1",
      [id],
    );
    await until(
      async () => heard.length,
      (n) => n > before,
      20,
    );
    expect(heard.at(-1)!.takes[0]).include({ state: 'failed', error: 'Frame 2: Elsewhere.' });
    abort.abort();
    await listening;
  });
});
