import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb } from './lib/mariadb.mjs';
import { buildKernel, buildWeb, installModules, installPackages, ROOT } from './lib/system.mjs';

// All tests from a bare checkout: checks, unit, API on a real database, browser journeys. `npm test -- core` runs a part.
installPackages(['mariadb-server', 'ffmpeg', 'chromium']);
installModules();
buildKernel();

/** Two groups of journeys, about equally long: these, and all others. */
const FIRST = ['journey', 'label', 'import', 'maths', 'troubles', 'moves'];
const REST = readdirSync(join(ROOT, 'tests', 'e2e'))
  .filter((file) => file.endsWith('.test.ts'))
  .map((file) => file.replace('.test.ts', ''))
  .filter((name) => !FIRST.includes(name));
const COMPONENTS = 'packages/web/test/components/.mocharc.json';
const PARTS = {
  check: (quiet) => run('npm', ['run', '--silent', 'check'], quiet),
  core: (quiet) => run('npx', ['mocha', 'packages/core/test/**/*.test.ts', 'packages/demo/test/**/*.test.ts'], quiet),
  web: async (quiet) =>
    (await run('npx', ['mocha', 'packages/web/test/*.test.ts'], quiet)) &&
    run('npx', ['mocha', '--config', COMPONENTS, '--exit', 'packages/web/test/components/*.test.ts'], quiet),
  server: (quiet) => run('npx', ['mocha', '--timeout', '180000', '--exit', 'packages/server/test/**/*.test.ts'], quiet),
  // Two browsers side by side; what the second says is shown when it has ended.
  e2e: async () => {
    const journeys = (files, quiet) =>
      run(
        'npx',
        ['mocha', '--timeout', '900000', '--exit', '--bail', ...files.map((f) => `tests/e2e/${f}.test.ts`)],
        quiet,
      );
    const passed = await Promise.all([FIRST, REST].map((files, i) => journeys(files, i > 0)));
    return passed.every(Boolean);
  },
};
/** Parts of a stage, in the order in which they begin: two run side by side, since each keeps about one core busy. */
const STAGES = [['core', 'check', 'server', 'web'], ['e2e']];
const SIDE_BY_SIDE = 2;
const wanted = process.argv.slice(2).filter((a) => a in PARTS);
const parts = wanted.length > 0 ? wanted : Object.keys(PARTS);
const folder = mkdtempSync(join(tmpdir(), 'tender-orbit-test-'));
// The database runs as a user of its own, who must be able to reach the folder.
chmodSync(folder, 0o755);
const env = { ...process.env, TENDER_ORBIT_TEST_FOLDER: folder, TENDER_ORBIT_LOG: 'silent' };
let database = null;
let failed = null;
const children = new Set();
const stop = async () => {
  await database?.stop();
  rmSync(folder, { recursive: true, force: true });
};
for (const signal of ['SIGINT', 'SIGTERM']) {
  process.on(signal, async () => {
    for (const child of children) child.kill('SIGTERM');
    await stop();
    process.exit(130);
  });
}

try {
  if (parts.includes('server') || parts.includes('e2e')) {
    database = await startMariadb(folder, 4400, 't%');
    env.TENDER_ORBIT_DB_PORT = String(database.port);
    env.TENDER_ORBIT_DB_USER = database.user;
    env.TENDER_ORBIT_DB_PASSWORD = database.password;
    env.TENDER_ORBIT_DB_ROOT_PASSWORD = database.rootPassword;
  }
  if (parts.includes('e2e')) buildWeb();
  for (const stage of STAGES.map((all) => all.filter((part) => parts.includes(part)))) {
    if (failed || stage.length === 0) continue;
    console.log(`\n== ${stage.join(', ')}`);
    const left = [...stage];
    const lane = async (_, i) => {
      for (let part = left.shift(); part && !failed; part = left.shift()) {
        const start = Date.now();
        if (!(await PARTS[part](i > 0))) failed ??= part;
        console.log(`== ${part} took ${Math.round((Date.now() - start) / 1000)} s`);
      }
    };
    await Promise.all(Array.from({ length: SIDE_BY_SIDE }, lane));
  }
} finally {
  await stop();
}
if (failed) {
  console.error(`\nThe tests of "${failed}" failed.`);
  process.exit(1);
}
console.log('\nAll tests passed.');

/** Runs a command. @param quiet keeps what it says until it has ended. */
function run(command, args, quiet = false) {
  return new Promise((done) => {
    const out = quiet ? 'pipe' : 'inherit';
    const child = spawn(command, args, { cwd: ROOT, stdio: ['ignore', out, out], env });
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', (chunk) => said.push(chunk));
    children.add(child);
    const end = (good) => {
      children.delete(child);
      process.stdout.write(Buffer.concat(said));
      done(good);
    };
    child.on('close', (code) => end(code === 0));
    child.on('error', () => end(false));
  });
}
