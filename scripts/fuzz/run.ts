import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { chromium, type Page } from 'playwright-core';
import { startMariadb } from '../lib/mariadb.mjs';
import { damaged, randomFrom } from './mutate.ts';
import { seeds, type Seed } from './seeds.ts';

/**
 * `npm run fuzz`: damaged files of every kind through the API, some of them in a real tab, and malformed documents. It ends
 * with an error when the server dies, an answer or the tab takes longer than 5 s, an answer is no sentence, or memory does
 * not come back. `--seed`, `--files` and `--tab` choose how much of what.
 */
const { values } = parseArgs({
  options: {
    seed: { type: 'string', default: '1' },
    files: { type: 'string', default: '2000' },
    tab: { type: 'string', default: '150' },
  },
});
const [FILES, IN_TAB] = [Number(values.files), Number(values.tab)];
const SLOWEST = 5000;
/** Memory that may not have come back, MB. */
const KEPT = 150;
const EMAIL = 'fuzz@vellowmere.example';
const INSIDES = /\/tmp|\/home|\/root|node_modules|undefined|TypeError|RangeError|SyntaxError|ENOENT|ER_/;

/** What the API says, as far as it is looked at here. */
interface Answer {
  id?: string;
  title?: string;
  hash?: string;
  csrfToken?: string;
  sets?: Stored[];
  shots?: Stored[];
  promos?: Stored[];
}
interface Stored {
  id: string;
  document: object;
}

const random = randomFrom(Number(values.seed));
const faults: string[] = [];
const data = mkdtempSync(join(tmpdir(), 'tender-orbit-fuzz-'));
const database = await startMariadb(data, 4620);
const server = spawn(process.execPath, ['--import', 'tsx', 'scripts/serve.ts'], {
  env: {
    ...process.env,
    ...{ TENDER_ORBIT_DATA: data, TENDER_ORBIT_DB_PORT: String(database.port), TENDER_ORBIT_PORT: '4621' },
    ...{ TENDER_ORBIT_DB_USER: database.user, TENDER_ORBIT_DB_PASSWORD: database.password },
    ...{ TENDER_ORBIT_DEMO: '0', TENDER_ORBIT_EMAIL: EMAIL, TENDER_ORBIT_LOG: 'silent' },
  },
  stdio: ['ignore', 'pipe', 'inherit'],
});
let said = '';
let ended = false;
server.stdout.on('data', (chunk) => (said += String(chunk)));
server.on('exit', () => (ended = true));
await until(() => said.includes('ready at'));
const address = /ready at (\S+)/.exec(said)![1];
const password = /with the password (\S+)/.exec(said)![1];

let [cookie, token] = ['', 'visitor'];
async function send(
  method: string,
  path: string,
  body?: unknown,
): Promise<{ status: number; body: Answer; ms: number }> {
  const raw = body instanceof Uint8Array || typeof body === 'string';
  const start = performance.now();
  const response = await fetch(`${address}/api${path}`, {
    method,
    headers: {
      ...{ cookie, 'x-csrf-token': token },
      'content-type': body instanceof Uint8Array ? 'application/octet-stream' : 'application/json',
    },
    body: body === undefined ? undefined : raw ? (body as string) : JSON.stringify(body),
  });
  const answer = (await response.json().catch(() => ({}))) as Answer;
  for (const line of response.headers.getSetCookie()) cookie = line.split(';')[0];
  return { status: response.status, body: answer, ms: performance.now() - start };
}
const memory = (): number => (Number(readFileSync(`/proc/${server.pid}/statm`, 'utf8').split(' ')[1]) * 4096) / 1e6;
async function until(good: () => boolean): Promise<void> {
  for (let i = 0; i < 600 && !good(); i++) await new Promise((next) => setTimeout(next, 100));
}

token = (await send('POST', '/session', { email: EMAIL, password })).body.csrfToken!;
const { id: campaign } = (
  await send('POST', '/campaigns', { name: 'Fuzz', frameRate: { num: 24, den: 1 }, width: 128, height: 72 })
).body;
const bundle = (await send('GET', `/campaigns/${campaign}`)).body;

/** Brings a file in by its door. */
async function bring({ name, door }: Seed, bytes: Uint8Array): Promise<{ status: number; body: Answer; ms: number }> {
  const stored = await send('POST', '/assets', bytes);
  const asset = stored.body.hash;
  const paths = {
    model: `/campaigns/${campaign}/products`,
    picture: '/pictures',
    panorama: '/panoramas',
    sound: `/campaigns/${campaign}/music`,
  };
  const answer = await send('POST', paths[door], { fileName: name, asset, ...(door === 'model' && { resources: {} }) });
  return { ...answer, ms: answer.ms + stored.ms };
}

const counts = { taken: 0, refused: 0 };
let slowest = 0;
function judge(what: string, { status, body, ms }: { status: number; body: Answer; ms: number }): void {
  slowest = Math.max(slowest, ms);
  if (status < 300) counts.taken++;
  else counts.refused++;
  if (ms > SLOWEST) faults.push(`${what}: answered after ${Math.round(ms)} ms`);
  if (status >= 500) faults.push(`${what}: ${status} ${String(body.title)}`);
  else if (status >= 300 && (!/[.]$/.test(String(body.title)) || INSIDES.test(String(body.title))))
    faults.push(`${what}: no sentence: ${String(body.title)}`);
}

const all = await seeds();
for (const seed of all) {
  const { status, body } = await bring(seed, seed.bytes);
  if (status >= 300) faults.push(`${seed.name} is whole and was refused: ${String(body.title)}`);
}
const before = memory();
const started = Date.now();
const kept: Array<{ seed: Seed; bytes: Uint8Array }> = [];
for (let i = 0; i < FILES && !ended; i++) {
  const seed = all[i % all.length];
  const bytes = damaged(seed.bytes, random);
  if (i % Math.max(1, Math.floor(FILES / IN_TAB)) === 0) kept.push({ seed, bytes });
  judge(
    `file ${i} (${seed.name})`,
    await bring(seed, bytes).catch((error: Error) => ({ status: 599, body: { title: error.message }, ms: 0 })),
  );
}
const documents = ['set', 'shot', 'promo'] as const;
for (let i = 0; i < FILES / 10 && !ended; i++) {
  const kind = documents[i % documents.length];
  const [{ id, document }] = bundle[`${kind}s`]!;
  const body = JSON.stringify({ expectedRevision: 1, label: 'Fuzz', document });
  const text = Buffer.from(damaged(new TextEncoder().encode(body), random)).toString('utf8');
  judge(`document ${i} (${kind})`, await send('PUT', `/documents/${kind}/${id}`, text));
}
console.log(
  `${FILES} files and ${FILES / 10} documents in ${Math.round((Date.now() - started) / 1000)} s: ${counts.taken} taken, ${counts.refused} refused, slowest answer ${Math.round(slowest)} ms.`,
);

if (IN_TAB > 0 && !ended) await inTab();

// What readers took goes with them; the rest is the collector's.
await new Promise((next) => setTimeout(next, 5000));
const after = ended ? NaN : memory();
console.log(`Memory of the server: ${before.toFixed(0)} MB before, ${after.toFixed(0)} MB after.`);
if (ended) faults.push('the server has ended');
else if (after - before > KEPT) faults.push(`${(after - before).toFixed(0)} MB have not come back`);
server.kill('SIGTERM');
await new Promise((done) => (ended ? done(null) : server.once('exit', done)));
await database.stop();
rmSync(data, { recursive: true, force: true });
for (const fault of faults.slice(0, 40)) console.error(fault);
console.log(faults.length === 0 ? 'Nothing broke.' : `${faults.length} faults.`);
process.exit(faults.length === 0 ? 0 : 1);

/** Brings damaged models and art in by the Products station, and asks the tab after each whether it still answers. */
async function inTab(): Promise<void> {
  const browser = await chromium.launch({
    executablePath: process.env.TENDER_ORBIT_CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--use-gl=angle', '--use-angle=gl-egl', '--ignore-gpu-blocklist'],
  });
  const page = await browser.newPage();
  page.on('pageerror', (error) => faults.push(`tab: ${error.message}`));
  page.on('crash', () => faults.push('the tab has crashed'));
  await page.goto(`${address}/sign-in`);
  await page.getByLabel('E-mail address').fill(EMAIL);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('heading', { name: 'Campaigns' }).waitFor();
  await page.goto(`${address}/campaign/${campaign}/products`);
  await page.getByRole('button', { name: 'Import model' }).first().waitFor();
  let [frozen, longest] = [0, 0];
  for (const [i, { seed, bytes }] of kept.entries()) {
    const path = join(data, seed.name);
    writeFileSync(path, bytes);
    await page.locator('[data-test=model-input] input, input[data-test=model-input]').first().setInputFiles(path);
    const ms = await answers(page);
    longest = Math.max(longest, ms);
    if (ms <= SLOWEST) continue;
    frozen++;
    faults.push(`tab: file ${i} (${seed.name}) held it up for ${Math.round(ms)} ms`);
  }
  console.log(
    `${kept.length} files in a tab: ${frozen} froze it, longest without an answer ${Math.round(longest)} ms.`,
  );
  await browser.close();
}

/** How long the tab takes to answer, ms, after it has had time to begin. */
async function answers(page: Page): Promise<number> {
  let longest = 0;
  for (let i = 0; i < 6; i++) {
    await new Promise((next) => setTimeout(next, 100));
    const start = performance.now();
    await Promise.race([page.evaluate(() => 1), new Promise((next) => setTimeout(next, SLOWEST * 2))]);
    longest = Math.max(longest, performance.now() - start);
  }
  return longest;
}
