import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import mysql, { type Connection } from 'mysql2/promise';
import {
  configFromEnvironment,
  startServer,
  addPerson,
  type RunningServer,
  type ServerConfig,
} from '@tender-orbit/server';

/** A server on the test run's MariaDB with a database and a folder of its own. */
export const PASSWORD = 'slow as the hill';
let count = 0;

export function testConfig(values: Partial<ServerConfig> = {}): ServerConfig {
  const folder = process.env.TENDER_ORBIT_TEST_FOLDER;
  if (!folder || !process.env.TENDER_ORBIT_DB_PORT)
    throw new Error('Run these tests with "npm test -- server": they need its MariaDB.');
  const name = `t${process.pid}_${++count}`;
  const files = join(folder, name);
  mkdirSync(files, { recursive: true });
  const base = configFromEnvironment({ ...process.env, TENDER_ORBIT_DB_NAME: name });
  return {
    ...base,
    port: 0,
    files,
    web: '',
    logLevel: 'silent',
    renderWorkers: 2,
    uploadLimit: 8 * 1024 * 1024,
    ...values,
  };
}

/** A connection of the database's administrator, for what the server's own user must not do. */
export function asRoot(): Promise<Connection> {
  const { host, port } = testConfig().database;
  const password = process.env.TENDER_ORBIT_DB_ROOT_PASSWORD ?? '';
  return mysql.createConnection({ host, port, user: 'root', password });
}

/** Starts it with two people, mara and odo. */
export async function startTestServer(config: ServerConfig = testConfig()): Promise<RunningServer> {
  return startServer(config, async ({ db }) => {
    if (await db.one('SELECT id FROM people LIMIT 1')) return;
    await addPerson(db, 'mara@vellowmere.example', 'Mara', PASSWORD);
    await addPerson(db, 'odo@vellowmere.example', 'Odo', PASSWORD);
  });
}

export interface Answer<T = Record<string, unknown>> {
  status: number;
  headers: Headers;
  body: T;
  bytes: Buffer;
}

/** A browser without a window: keeps its cookie and CSRF token. */
export class Client {
  cookie = '';
  csrf = '';

  constructor(private readonly address: string) {}

  async send<T = Record<string, unknown>>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const raw = body instanceof Uint8Array;
    const ask = (): Promise<Response> =>
      fetch(`${this.address}/api${path}`, {
        method,
        headers: {
          ...(this.cookie ? { cookie: this.cookie } : {}),
          ...(this.csrf ? { 'x-csrf-token': this.csrf } : {}),
          ...(body === undefined ? {} : { 'content-type': raw ? 'application/octet-stream' : 'application/json' }),
          ...headers,
        },
        body: body === undefined ? undefined : raw ? (body as Uint8Array<ArrayBuffer>) : JSON.stringify(body),
      });
    // A kept connection may have been closed by the server (it does so after refusing an upload): a second one is new.
    const response = await ask().catch(ask);
    for (const cookie of response.headers.getSetCookie()) this.cookie = cookie.split(';')[0];
    const bytes = Buffer.from(await response.arrayBuffer());
    const json = /json/.test(response.headers.get('content-type') ?? '');
    return {
      status: response.status,
      headers: response.headers,
      body: (json ? JSON.parse(bytes.toString()) : {}) as T,
      bytes,
    };
  }

  async signIn(email = 'mara@vellowmere.example', password = PASSWORD): Promise<Answer> {
    this.csrf = String((await this.send('GET', '/session')).body.csrfToken);
    const answer = await this.send('POST', '/session', { email, password });
    if (answer.status === 200) this.csrf = String(answer.body.csrfToken);
    return answer;
  }

  /** Sends and insists on success. */
  async ok<T = Record<string, unknown>>(method: string, path: string, body?: unknown): Promise<T> {
    const answer = await this.send<T>(method, path, body);
    if (answer.status >= 300) throw new Error(`${method} ${path}: ${answer.status} ${JSON.stringify(answer.body)}`);
    return answer.body;
  }
}

export async function signedIn(server: RunningServer, email?: string): Promise<Client> {
  const client = new Client(server.address);
  const answer = await client.signIn(email);
  if (answer.status !== 200) throw new Error(`signing in: ${answer.status}`);
  return client;
}

/** A campaign of 64 x 36 pixels with what comes with it. */
export interface SmallCampaign {
  id: string;
  set: { id: string; revision: number; document: Record<string, unknown> };
  shot: { id: string; revision: number; document: Record<string, unknown> };
  promo: { id: string; revision: number; document: Record<string, unknown> };
}

export async function smallCampaign(client: Client, values: object = {}): Promise<SmallCampaign> {
  const { id } = await client.ok<{ id: string }>('POST', '/campaigns', {
    name: 'Test',
    frameRate: { num: 24, den: 1 },
    width: 128,
    height: 72,
    ...values,
  });
  const bundle = await client.ok<Record<string, Array<SmallCampaign['set']>>>('GET', `/campaigns/${id}`);
  return { id, set: bundle.sets[0], shot: bundle.shots[0], promo: bundle.promos[0] };
}

/** Asks again until `done` says so. */
/** Saves a document with other values. */
export async function changeDocument(client: Client, kind: 'set' | 'shot', id: string, values: object): Promise<void> {
  const path = `/documents/${kind}/${id}`;
  const { revision, document } = await client.ok<{ revision: number; document: object }>('GET', path);
  const body = { expectedRevision: revision, label: 'Change', document: { ...document, ...values } };
  await client.ok('PUT', path, body);
}

export async function until<T>(ask: () => Promise<T>, done: (value: T) => boolean, seconds = 120): Promise<T> {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    const value = await ask();
    if (done(value)) return value;
    if (Date.now() > end)
      throw new Error(`It did not come about within ${seconds} s: ${JSON.stringify(value).slice(0, 400)}`);
    await new Promise((next) => setTimeout(next, 100));
  }
}
