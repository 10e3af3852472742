import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb } from './lib/mariadb.mjs';
import { buildKernel, buildWeb, installModules, installPackages, ROOT } from './lib/system.mjs';

// All tests from a bare checkout: checks, unit, API on a real database, browser journeys. `npm test -- core` runs a part.
installPackages(['mariadb-server', 'ffmpeg', 'chromium']);
installModules();
buildKernel();

const COMPONENTS = 'packages/web/test/components/.mocharc.json';
const PARTS = {
  check: () => run('npm', ['run', '--silent', 'check']),
  core: () => run('npx', ['mocha', 'packages/core/test/**/*.test.ts', 'packages/demo/test/**/*.test.ts']),
  web: async () =>
    (await run('npx', ['mocha', 'packages/web/test/*.test.ts'])) &&
    run('npx', ['mocha', '--config', COMPONENTS, '--exit', 'packages/web/test/components/*.test.ts']),
  server: () => run('npx', ['mocha', '--timeout', '180000', '--exit', 'packages/server/test/**/*.test.ts']),
  e2e: () => run('npx', ['mocha', '--timeout', '900000', '--exit', '--bail', 'tests/e2e/**/*.test.ts']),
};
const wanted = process.argv.slice(2).filter((a) => a in PARTS);
const parts = wanted.length > 0 ? wanted : Object.keys(PARTS);
const folder = mkdtempSync(join(tmpdir(), 'tender-orbit-test-'));
// The database runs as a user of its own, who must be able to reach the folder.
chmodSync(folder, 0o755);
const env = { ...process.env, TENDER_ORBIT_TEST_FOLDER: folder, TENDER_ORBIT_LOG: 'silent' };
let database = null;
let failed = null;
let child = null;
const stop = async () => {
  await database?.stop();
  rmSync(folder, { recursive: true, force: true });
};
for (const signal of ['SIGINT', 'SIGTERM']) {
  process.on(signal, async () => {
    child?.kill('SIGTERM');
    await stop();
    process.exit(130);
  });
}

try {
  if (parts.includes('server') || parts.includes('e2e')) {
    database = await startMariadb(folder, 4400);
    env.TENDER_ORBIT_DB_PORT = String(database.port);
  }
  if (parts.includes('e2e')) buildWeb();
  for (const part of parts) {
    const start = Date.now();
    console.log(`\n== ${part}`);
    if (!(await PARTS[part]())) {
      failed = part;
      break;
    }
    console.log(`== ${part} took ${Math.round((Date.now() - start) / 1000)} s`);
  }
} finally {
  await stop();
}
if (failed) {
  console.error(`\nThe tests of "${failed}" failed.`);
  process.exit(1);
}
console.log('\nAll tests passed.');

function run(command, args) {
  return new Promise((done) => {
    child = spawn(command, args, { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit'], env });
    child.on('exit', (code) => done(code === 0));
    child.on('error', () => done(false));
  });
}
