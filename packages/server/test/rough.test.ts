import { rmSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { connect, type Socket } from 'node:net';
import { gzipSync } from 'node:zlib';
import { expect } from 'chai';
import type { RunningServer } from '@tender-orbit/server';
import { Client, signedIn, smallCampaign, startTestServer, testConfig, until, type SmallCampaign } from './harness.ts';

/** No word of the server's own: folders, code, exceptions. */
const INSIDES = /\/tmp|\/home|\/root|node_modules|undefined|TypeError|RangeError|SyntaxError|at .*:\d+|ENOENT|ER_/;

describe('server: rough handling', () => {
  let server: RunningServer;
  let client: Client;
  let campaign: SmallCampaign;
  before(async () => {
    server = await startTestServer(testConfig());
    client = await signedIn(server);
    campaign = await smallCampaign(client);
  });
  after(() => server.stop());

  const upload = async (bytes: Uint8Array, by = client): Promise<string> =>
    (await by.ok<{ hash: string }>('POST', '/assets', bytes)).hash;
  const openFiles = async (): Promise<number> => (await readdir('/proc/self/fd')).length;
  /** Sends bytes as they are and gives the whole answer. */
  const raw = (text: string | Buffer): Promise<string> =>
    new Promise((done, fail) => {
      const socket: Socket = connect(Number(new URL(server.address).port), '127.0.0.1');
      let answer = '';
      socket.on('data', (chunk) => (answer += chunk.toString('latin1')));
      socket.on('close', () => done(answer));
      socket.on('error', fail);
      socket.write(text);
    });
  const head = (method: string, path: string, more = ''): string =>
    `${method} ${path} HTTP/1.1\r\nHost: x\r\nConnection: close\r\nCookie: ${client.cookie}\r\nX-CSRF-Token: ${client.csrf}\r\n${more}`;

  it('addresses, letters and packing that cannot be read get a sentence', async () => {
    const json = (body: string | Buffer, type = 'application/json', more = ''): Buffer =>
      Buffer.concat([
        Buffer.from(
          `${head('POST', '/api/campaigns')}Content-Type: ${type}\r\n${more}Content-Length: ${Buffer.byteLength(body)}\r\n\r\n`,
        ),
        Buffer.from(body),
      ]);
    const cases: Array<[Buffer | string, number]> = [
      [`${head('GET', '/api/assets/%E0%A4%A')}\r\n`, 400],
      [`${head('GET', '/%')}\r\n`, 404],
      [json('{"name":'), 400],
      [json('{}', 'application/json; charset=koi8'), 415],
      [json('{}', 'application/json', 'Content-Encoding: pigeon\r\n'), 415],
      [json('not packed', 'application/json', 'Content-Encoding: gzip\r\n'), 400],
      [json(gzipSync('{"name":"x"}').subarray(0, 12), 'application/json', 'Content-Encoding: gzip\r\n'), 400],
      [json(gzipSync(' '.repeat(30_000_000)), 'application/json', 'Content-Encoding: gzip\r\n'), 413],
      [json(`${'['.repeat(5000)}${']'.repeat(5000)}`), 400],
      [json(`{"name":${'{"a":'.repeat(900)}1${'}'.repeat(900)}}`), 400],
      [json('{"name":"x","__proto__":{"admin":true}}'), 400],
      [json('{"name":"half \\ud83d"}'), 400],
    ];
    for (const [request, status] of cases) {
      const answer = await raw(request);
      expect(answer.split('\r\n')[0], request.toString('latin1').slice(0, 300)).contain(` ${status} `);
      const [, body] = answer.split('\r\n\r\n');
      const title = /"title":"([^"]*)"/.exec(body)?.[1] ?? '';
      expect(title, body).match(/[.]$/);
      expect(title).not.match(INSIDES);
    }
    expect(await client.ok('GET', `/campaigns/${campaign.id}`)).property('campaign');
  });

  it('a name of whole characters is kept whole, also where it is shortened', async () => {
    const name = `${'n'.repeat(113)}\u{1F36F}`;
    const { id } = await client.ok<{ id: string }>('POST', '/campaigns', {
      ...{ name, frameRate: { num: 24, den: 1 }, width: 128, height: 72 },
    });
    const { promos } = await client.ok<{ promos: Array<{ document: { name: string } }> }>('GET', `/campaigns/${id}`);
    expect(promos[0].document.name).match(/^n+/);
    expect(promos[0].document.name).not.match(/[\ud800-\udfff](?![\udc00-\udfff])(?<![\ud800-\udbff][\udc00-\udfff])/);
  });

  it('a campaign is made whole or not at all', async () => {
    const { db } = server.context;
    const count = async (): Promise<number> =>
      Number((await db.one<{ n: number }>('SELECT COUNT(*) AS n FROM campaigns'))!.n);
    const before = await count();
    await db.pool.query('RENAME TABLE promos TO promos_away');
    const body = { name: 'Half', frameRate: { num: 24, den: 1 }, width: 128, height: 72 };
    const { status, body: answer } = await client.send('POST', '/campaigns', body).finally(() => {
      return db.pool.query('RENAME TABLE promos_away TO promos');
    });
    expect(status).equal(500);
    expect(String(answer.title)).not.match(INSIDES);
    expect(await count()).equal(before);
  });

  it('visits leave no sessions behind', async () => {
    const { db } = server.context;
    const rows = async (): Promise<number> =>
      Number((await db.one<{ n: number }>('SELECT COUNT(*) AS n FROM sessions'))!.n);
    const before = await rows();
    for (let i = 0; i < 5; i++) await new Client(server.address).send('GET', '/session');
    const wrong = await new Client(server.address).signIn(undefined, 'not it at all');
    expect(wrong.status).equal(401);
    expect(await rows()).equal(before);
    const foreign = new Client(server.address);
    const answer = await foreign.send('POST', '/session', { email: 'mara@vellowmere.example', password: 'x' });
    expect(answer.body.code).equal('session/csrf');
  });

  it('files are read by those whose they are', async () => {
    const hash = await upload(new TextEncoder().encode('the recipe of the honey'));
    const other = await signedIn(server, 'odo@vellowmere.example');
    expect((await client.send('GET', `/assets/${hash}`)).status).equal(200);
    expect((await other.send('GET', `/assets/${hash}`)).status).equal(404);
    const theirs = await smallCampaign(other);
    const bring = { fileName: 'a.glb', asset: hash, resources: {} };
    expect((await other.send('POST', `/campaigns/${theirs.id}/products`, bring)).status).equal(404);
    // Naming it in a document of their own gives no right to it either.
    const room = { kind: 'file', asset: hash, boxes: [] };
    const environment = { ...(theirs.set.document.environment as object), room };
    await other.ok('PUT', `/documents/set/${theirs.set.id}`, {
      ...{ expectedRevision: 1, label: 'Borrow', document: { ...theirs.set.document, environment } },
    });
    expect((await other.send('GET', `/assets/${hash}`)).status).equal(404);
    await upload(new TextEncoder().encode('the recipe of the honey'), other);
    expect((await other.send('GET', `/assets/${hash}`)).status).equal(200);
  });

  it('a file that is missing on disk is said, and ends nothing', async () => {
    const hash = await upload(new TextEncoder().encode('soon gone'));
    rmSync(server.context.assets.path(hash));
    const answer = await client.send('GET', `/assets/${hash}`);
    expect(answer.status).equal(404);
    expect(answer.headers.get('cache-control') ?? '').not.contain('immutable');
    expect(String(answer.body.title)).match(/[.]$/);
    const bring = { fileName: 'gone.glb', asset: hash, resources: {} };
    const refused = await client.send('POST', `/campaigns/${campaign.id}/products`, bring);
    expect(refused.status).within(400, 500);
    expect(String(refused.body.title)).not.match(INSIDES);
    expect((await client.send('GET', '/campaigns')).status).equal(200);
  });

  it('downloads that break off leave no file open', async () => {
    const hash = await upload(new Uint8Array(6_000_000).fill(7));
    const open = await openFiles();
    for (let i = 0; i < 30; i++) {
      await new Promise<void>((done) => {
        const socket = connect(Number(new URL(server.address).port), '127.0.0.1');
        socket.write(`${head('GET', `/api/assets/${hash}`)}\r\n`);
        socket.once('data', () => socket.destroy());
        socket.on('close', () => done());
      });
    }
    await until(openFiles, (now) => now <= open + 3, 15);
  });

  it('whatever a route trips over is a sentence, and the server goes on', async () => {
    const { context } = server;
    const id = campaign.id;
    const routes: Array<[string, string, unknown?]> = [
      ['GET', '/session'],
      ['GET', '/campaigns'],
      ['GET', `/campaigns/${id}`],
      ['POST', '/campaigns', { name: 'X', frameRate: { num: 24, den: 1 }, width: 128, height: 72 }],
      ['DELETE', `/campaigns/${id}`],
      ['POST', `/campaigns/${id}/sets`, campaign.set.document],
      ['POST', `/campaigns/${id}/shots`, campaign.shot.document],
      ['POST', `/campaigns/${id}/products`, { fileName: 'a.glb', asset: 'a'.repeat(64), resources: {} }],
      ['POST', `/campaigns/${id}/music`, { fileName: 'a.wav', asset: 'a'.repeat(64) }],
      ['POST', '/assets', new Uint8Array([1, 2, 3])],
      ['GET', `/assets/${'a'.repeat(64)}`],
      ['GET', `/documents/set/${campaign.set.id}`],
      ['GET', `/documents/set/${campaign.set.id}/revisions`],
      [
        'PUT',
        `/documents/set/${campaign.set.id}`,
        { expectedRevision: 1, label: 'x', document: campaign.set.document },
      ],
      ['GET', `/campaigns/${id}/takes`],
      ['POST', '/takes', { shot: campaign.shot.id, quality: 'clay', width: 64 }],
      ['POST', '/takes/estimate', { shot: campaign.shot.id, quality: 'clay', width: 64 }],
      ['POST', '/takes/none/stop'],
      ['DELETE', '/takes/none'],
      ['GET', '/takes/none/frames/0'],
      ['GET', '/takes/none/frames/0/layers'],
      ['GET', `/shots/${campaign.shot.id}/staged.glb`],
      ['POST', `/promos/${campaign.promo.id}/deliveries`, { format: 'mp4' }],
      ['GET', '/deliveries/none/file'],
      ['DELETE', '/deliveries/none'],
      ['POST', '/products/none/pose', { pose: null }],
    ];
    const { db } = context;
    const broken = (): Promise<never> =>
      Promise.reject(new Error('Cannot read properties of undefined in /root/server'));
    const own = { rows: db.rows, one: db.one, run: db.run, transaction: db.transaction };
    try {
      Object.assign(db, { rows: broken, one: broken, run: broken, transaction: broken });
      for (const [method, path, body] of routes) {
        const { status, body: answer } = await client.send(method, path, body);
        expect(status, `${method} ${path}`).within(400, 500);
        expect(String(answer.title), `${method} ${path}`).match(/[.]$/);
        expect(String(answer.title)).not.match(INSIDES);
      }
    } finally {
      // The instance's own fields go; the class's methods are there again.
      for (const name of Object.keys(own)) delete (db as unknown as Record<string, unknown>)[name];
    }
    expect((await client.send('GET', `/campaigns/${id}`)).status).equal(200);
  });

  it('deleting a take that is being rendered lets the next one start at once', async () => {
    const slow = { shot: campaign.shot.id, quality: 'final', width: 1920, samples: 4096 };
    const first = await client.ok<{ id: string }>('POST', '/takes', slow);
    const working = (): Promise<Array<{ subject: string }>> =>
      server.context.db.rows<{ subject: string }>("SELECT subject_id AS subject FROM jobs WHERE state = 'working'");
    await until(working, (jobs) => jobs.length > 0);
    const second = await client.ok<{ id: string }>('POST', '/takes', {
      ...slow,
      quality: 'clay',
      width: 64,
      samples: 1,
    });
    expect((await working()).every(({ subject }) => subject === first.id)).equal(true);
    await client.ok('DELETE', `/takes/${first.id}`);
    await until(working, (jobs) => jobs.some(({ subject }) => subject === second.id), 5);
  });
});
