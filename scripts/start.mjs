import { spawn } from 'node:child_process';
import { join, resolve } from 'node:path';
import { freePort, startMariadb } from './lib/mariadb.mjs';
import { buildKernel, buildWeb, installModules, installPackages, ROOT } from './lib/system.mjs';

// Everything from a bare checkout to a served application. See README.md for the environment variables.
installPackages(['mariadb-server', 'ffmpeg']);
installModules();
buildKernel();
buildWeb();

const data = resolve(process.env.TENDER_ORBIT_DATA ?? join(ROOT, '.data'));
const database = await startMariadb(data, Number(process.env.TENDER_ORBIT_DB_PORT ?? 4311));
const port = await freePort(Number(process.env.TENDER_ORBIT_PORT ?? 4310));
const server = spawn(process.execPath, ['--import', 'tsx', 'scripts/serve.ts'], {
  cwd: ROOT,
  stdio: 'inherit',
  env: {
    ...process.env,
    TENDER_ORBIT_DATA: data,
    TENDER_ORBIT_DB_PORT: String(database.port),
    TENDER_ORBIT_PORT: String(port),
    TENDER_ORBIT_LOG: process.env.TENDER_ORBIT_LOG ?? 'warn',
  },
});
// Ctrl+C reaches the whole foreground group; the server stops itself, then the database is stopped here.
for (const signal of ['SIGINT', 'SIGTERM']) {
  process.on(signal, () => {
    if (signal === 'SIGTERM') server.kill('SIGTERM');
  });
}
server.on('exit', async (code) => {
  await database.stop();
  process.exit(code ?? 0);
});
