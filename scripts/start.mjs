import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { freePort, startMariadb } from './lib/mariadb.mjs';
import { buildKernel, buildWeb, installModules, installPackages, ROOT } from './lib/system.mjs';

// Everything from a bare checkout to a served application. See README.md for the environment variables.
installPackages(['mariadb-server', 'ffmpeg']);
installModules();
buildKernel();
buildWeb();

const data = resolve(process.env.TENDER_ORBIT_DATA ?? join(ROOT, '.data'));
const running = await runningOn(data);
if (running) {
  console.log(`\nTender Orbit already runs at ${running} on this data (${data}): stop that one first to start anew.\n`);
  process.exit(0);
}
const database = await startMariadb(data, Number(process.env.TENDER_ORBIT_DB_PORT ?? 4311));
const port = await freePort(Number(process.env.TENDER_ORBIT_PORT ?? 4310));
const server = spawn(process.execPath, ['--import', 'tsx', 'scripts/serve.ts'], {
  cwd: ROOT,
  stdio: 'inherit',
  env: {
    ...process.env,
    TENDER_ORBIT_DATA: data,
    TENDER_ORBIT_DB_PORT: String(database.port),
    TENDER_ORBIT_DB_USER: database.user,
    TENDER_ORBIT_DB_PASSWORD: database.password,
    TENDER_ORBIT_PORT: String(port),
    TENDER_ORBIT_LOG: process.env.TENDER_ORBIT_LOG ?? 'warn',
  },
});
// Ctrl+C reaches the whole foreground group, a signal by id this process alone: the server hears of it either way, once.
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => server.kill('SIGTERM'));
server.on('exit', async (code) => {
  await database.stop();
  process.exit(code ?? 0);
});

/** Address of the server that already serves this data, if one does. */
async function runningOn(folder) {
  try {
    const { pid, address } = JSON.parse(readFileSync(join(folder, 'server.json'), 'utf8'));
    process.kill(pid, 0);
    const answer = await fetch(`${address}/api/health`, { signal: AbortSignal.timeout(5000) });
    return answer.ok ? address : null;
  } catch {
    // No such file, no such process, or nobody answers there any more.
    return null;
  }
}
