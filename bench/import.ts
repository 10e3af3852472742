import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeFinish } from '@tender-orbit/core/finish';
import { buildGrid, triangleCount } from '@tender-orbit/core/geometry';
import { readModel, writeModel } from '@tender-orbit/core/interchange';
import { makeModels } from '@tender-orbit/demo';
import { addPerson, configFromEnvironment, startServer, type RunningServer } from '@tender-orbit/server';
import { startMariadb } from '../scripts/lib/mariadb.mjs';
import type { Bench } from './bench.ts';

const EMAIL = 'bench@vellowmere.example';
const PASSWORD = 'as fast as it goes';

interface Stage {
  server: RunningServer;
  campaign: string;
  send: (method: string, path: string, body?: unknown) => Promise<Response>;
  stop: () => Promise<void>;
}

let stage: Promise<Stage> | null = null;
let left = 0;

/** A server with a database of its own, and somebody signed in with a campaign open. */
async function openStage(): Promise<Stage> {
  const folder = mkdtempSync(join(tmpdir(), 'tender-orbit-bench-'));
  const database = await startMariadb(folder, 4600);
  const config = {
    ...configFromEnvironment({
      ...process.env,
      TENDER_ORBIT_DATA: folder,
      TENDER_ORBIT_DB_PORT: String(database.port),
    }),
    ...{ port: 0, web: '', logLevel: 'silent' },
  };
  Object.assign(config.database, { user: database.user, password: database.password });
  const server = await startServer(config, async ({ db }) => void (await addPerson(db, EMAIL, 'Bench', PASSWORD)));
  let [cookie, token] = ['', 'visitor'];
  const send = async (method: string, path: string, body?: unknown): Promise<Response> => {
    const raw = body instanceof Uint8Array;
    const type = raw ? 'application/octet-stream' : 'application/json';
    const response = await fetch(`${server.address}/api${path}`, {
      method,
      headers: { cookie, 'x-csrf-token': token, ...(body !== undefined && { 'content-type': type }) },
      body: body === undefined ? undefined : raw ? (body as Uint8Array<ArrayBuffer>) : JSON.stringify(body),
    });
    if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`);
    for (const line of response.headers.getSetCookie()) cookie = line.split(';')[0];
    return response;
  };
  token = (
    (await (await send('POST', '/session', { email: EMAIL, password: PASSWORD })).json()) as { csrfToken: string }
  ).csrfToken;
  const made = await send('POST', '/campaigns', { name: 'B', frameRate: { num: 24, den: 1 }, width: 128, height: 72 });
  const { id: campaign } = (await made.json()) as { id: string };
  await send('GET', `/campaigns/${campaign}`);
  // Opening a campaign gets a reader ready; a person needs longer than this to find a file.
  await new Promise((next) => setTimeout(next, 4000));
  const stop = async (): Promise<void> => {
    await server.stop();
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  };
  return { server, campaign, send, stop };
}

/** Milliseconds from the first byte sent to the meshes as the viewer's worker has them. */
async function bring({ send, campaign }: Stage, fileName: string, bytes: Uint8Array): Promise<number> {
  const start = performance.now();
  const { hash } = (await (await send('POST', '/assets', bytes)).json()) as { hash: string };
  const body = { fileName, asset: hash, resources: {} };
  const made = await send('POST', `/campaigns/${campaign}/products`, body);
  const { document } = (await made.json()) as { document: { model: string } };
  const glb = new Uint8Array(await (await send('GET', `/assets/${document.model}`)).arrayBuffer());
  const model = await readModel(glb);
  if (model.parts.length === 0) throw new Error('nothing came in');
  return performance.now() - start;
}

/** A wavy sheet of about a million triangles, as GLB. */
async function million(): Promise<Uint8Array> {
  const cells = 708;
  const mesh = buildGrid(cells, cells, (u, v) => {
    const height = 0.02 * Math.sin(u * 40) * Math.cos(v * 30);
    return { p: [u * 0.3, height, v * 0.3], n: [0, 1, 0] };
  });
  if (triangleCount(mesh) < 1e6) throw new Error('it has become too small');
  return writeModel({ parts: [{ name: 'Sheet', mesh, finish: 0 }], finishes: [makeFinish('Cloth')], images: [] });
}

async function used<T>(work: (stage: Stage) => Promise<T>): Promise<T> {
  stage ??= openStage();
  left++;
  try {
    return await work(await stage);
  } finally {
    left--;
    const now = await stage;
    setTimeout(() => {
      if (left > 0 || stage === null) return;
      stage = null;
      void now.stop();
    }, 500);
  }
}

export const importBenches: Bench[] = [
  {
    name: 'import/jar-ms',
    unit: 'ms',
    run: () =>
      used(async (open) => {
        const { glb } = (await makeModels()).find(({ key }) => key === 'jar')!;
        return { value: await bring(open, 'jar.glb', glb), note: 'upload to meshes in the viewer; at most 900' };
      }),
  },
  {
    name: 'import/1m-triangles-ms',
    unit: 'ms',
    run: () =>
      used(async (open) => ({
        value: await bring(open, 'sheet.glb', await million()),
        note: 'upload to meshes in the viewer; at most 7000',
      })),
  },
  {
    name: 'import/peak-mb',
    unit: 'MB',
    run: () =>
      used(async (open) => {
        await bring(open, 'sheet.glb', await million());
        return { value: open.server.context.readers.peakMb, note: 'resident memory of the reader; at most 900' };
      }),
  },
];
