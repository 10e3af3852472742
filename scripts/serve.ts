import { randomBytes } from 'node:crypto';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { DEMO_PERSON } from '@tender-orbit/demo';
import { addPerson, configFromEnvironment, isLoopback, startServer, type AppContext } from '@tender-orbit/server';
import { loadDemo } from './load-demo.ts';

const config = configFromEnvironment();
// The demo account's password is printed for everyone: beyond this machine it exists only where it is asked for.
const demo = process.env.TENDER_ORBIT_DEMO ? process.env.TENDER_ORBIT_DEMO === '1' : isLoopback(config.host);

async function prepare(context: AppContext): Promise<void> {
  if (demo && (await loadDemo(context))) console.log('The demo campaign has been loaded.');
  if (demo || (await context.db.one('SELECT id FROM people WHERE email <> ? LIMIT 1', [DEMO_PERSON.email]))) return;
  const email = process.env.TENDER_ORBIT_EMAIL;
  if (!email) {
    console.log('Nobody can sign in yet: start once with TENDER_ORBIT_EMAIL=you@example.org to make an account.');
    return;
  }
  const password = randomBytes(12).toString('base64url');
  await addPerson(context.db, email, email.split('@')[0], password);
  console.log(`An account was made: ${email} with the password ${password}`);
}

const running = await startServer({ ...config, locked: demo ? [] : [DEMO_PERSON.email] }, prepare);
// Says to another start on the same data where this one serves.
const mark = join(config.files, '..', 'server.json');
writeFileSync(mark, JSON.stringify({ pid: process.pid, address: running.address }));
console.log(`\nTender Orbit is ready at ${running.address}`);
if (demo) console.log(`Sign in as ${DEMO_PERSON.email} with the password ${DEMO_PERSON.password}`);
console.log('Press Ctrl+C to stop.\n');

let stopping = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    if (stopping) return;
    stopping = true;
    console.log('Stopping...');
    rmSync(mark, { force: true });
    void running.stop().then(() => process.exit(0));
  });
}
// A stream or a promise that fails without anybody listening is a fault to mend, not a reason to end everybody's work.
for (const event of ['unhandledRejection', 'uncaughtException'])
  process.on(event, (error) => console.error(`${event}:`, error));
