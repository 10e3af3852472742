import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { chownSync, existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { dirname, join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { fail } from './system.mjs';

/** What the server's own database is called, as a pattern. */
const OWN = 'tender\\_orbit';
const USER = 'tender_orbit';

/**
 * Starts MariaDB on loopback with a data folder of its own, or finds the one that is running on that folder.
 *
 * @param databases pattern of the databases that the server's user may make and use; it has rights on no others
 * @returns its port, the user and password that the server signs in with, and a function that stops it if it was started here.
 */
export async function startMariadb(folder, wantedPort, databases = OWN) {
  const data = join(folder, 'mariadb');
  const log = join(folder, 'mariadb.log');
  const portFile = join(folder, 'mariadb.port');
  const pidFile = join(folder, 'mariadb.pid');
  mkdirSync(folder, { recursive: true });
  if (existsSync(portFile) && existsSync(pidFile) && alive(Number(readFileSync(pidFile, 'utf8')))) {
    const port = Number(readFileSync(portFile, 'utf8'));
    // Whoever started it may be of a time before there were passwords.
    if (await answers(port)) return { port, ...(await secure(folder, port, databases)), stop: async () => undefined };
  }
  const user = process.getuid?.() === 0 ? (openToOthers(folder) ? 'mysql' : 'root') : undefined;
  if (!existsSync(join(data, 'mysql'))) {
    rmSync(data, { recursive: true, force: true });
    mkdirSync(data, { recursive: true });
    if (user) giveTo(user, data);
    const made = spawnSync(
      'mariadb-install-db',
      [
        '--no-defaults',
        `--datadir=${data}`,
        '--auth-root-authentication-method=normal',
        '--skip-test-db',
        ...(user ? [`--user=${user}`] : []),
      ],
      { encoding: 'utf8' },
    );
    if (made.status !== 0)
      fail(
        `MariaDB could not make its data folder ${data}: ${(made.stderr || made.stdout || '').trim().split('\n').pop()}`,
      );
  }
  const port = await freePort(wantedPort);
  // The socket path must stay short, so it lies in the system's own temporary folder.
  const socket = `/tmp/tender-orbit-${port}.sock`;
  const child = spawn(
    '/usr/sbin/mariadbd',
    [
      '--no-defaults',
      ...(user ? [`--user=${user}`] : []),
      `--datadir=${data}`,
      `--port=${port}`,
      '--bind-address=127.0.0.1',
      `--socket=${socket}`,
      `--log-error=${join(data, 'error.log')}`,
      '--max-allowed-packet=64M',
      '--innodb-flush-log-at-trx-commit=2',
    ],
    { stdio: 'ignore', detached: true },
  );
  let ended = false;
  child.on('exit', () => (ended = true));
  child.on('error', () => (ended = true));
  for (let tries = 0; !(await answers(port)); tries++) {
    if (ended || tries > 300) fail(`MariaDB did not start; its log is ${join(data, 'error.log')} (${log}).`);
    await sleep(100);
  }
  writeFileSync(portFile, String(port));
  writeFileSync(pidFile, String(child.pid));
  const credentials = await secure(folder, port, databases);
  return {
    port,
    ...credentials,
    stop: async () => {
      if (ended) return;
      child.kill('SIGTERM');
      for (let i = 0; i < 200 && !ended; i++) await sleep(50);
      rmSync(portFile, { force: true });
      rmSync(pidFile, { force: true });
    },
  };
}

/**
 * Gives the database's administrator a password, and the server a user of its own that reaches its own databases alone. Both
 * passwords are made once and kept beside the data with owner-only rights.
 */
async function secure(folder, port, databases) {
  const secrets = credentialsIn(folder);
  const { default: mysql } = await import('mysql2/promise');
  const connect = (password) => mysql.createConnection({ host: '127.0.0.1', port, user: 'root', password });
  // Until it has been given a password the administrator has none.
  const root = await connect(secrets.rootPassword).catch(() => connect(''));
  try {
    const account = `'${USER}'@'127.0.0.1'`;
    await root.query(`CREATE USER IF NOT EXISTS ${account} IDENTIFIED BY ${root.escape(secrets.password)}`);
    await root.query(`ALTER USER ${account} IDENTIFIED BY ${root.escape(secrets.password)}`);
    await root.query(`GRANT ALL PRIVILEGES ON \`${databases}\`.* TO ${account}`);
    const [admins] = await root.query("SELECT host AS host FROM mysql.user WHERE user = 'root'");
    for (const { host } of admins)
      await root.query(`ALTER USER 'root'@${root.escape(host)} IDENTIFIED BY ${root.escape(secrets.rootPassword)}`);
  } finally {
    await root.end();
  }
  return secrets;
}

/** The passwords of a data folder, made when it has none. */
function credentialsIn(folder) {
  const file = join(folder, 'mariadb.secrets.json');
  if (!existsSync(file)) {
    const made = {
      user: USER,
      password: randomBytes(24).toString('hex'),
      rootPassword: randomBytes(24).toString('hex'),
    };
    writeFileSync(file, JSON.stringify(made), { mode: 0o600 });
  }
  return JSON.parse(readFileSync(file, 'utf8'));
}

/** `wanted`, or the next port that nothing listens on. */
export async function freePort(wanted) {
  for (let port = wanted; port < wanted + 200; port++) if (await free(port)) return port;
  return fail(`No free port was found from ${wanted} on: set another one by environment.`);
}

function free(port) {
  return new Promise((done) => {
    const server = createServer();
    server.once('error', () => done(false));
    server.listen(port, '127.0.0.1', () => server.close(() => done(true)));
  });
}

function answers(port) {
  return new Promise((done) => {
    const socket = connect({ port, host: '127.0.0.1' });
    const end = (result) => {
      socket.destroy();
      done(result);
    };
    // MariaDB greets first; a port that only accepts is not it yet.
    socket.once('data', () => end(true));
    socket.once('error', () => end(false));
    socket.setTimeout(2000, () => end(false));
  });
}

function alive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}

/** Whether another user can reach `folder`: every folder above it lets others through. Below /root, say, none can. */
function openToOthers(folder) {
  for (let at = folder; ; at = dirname(at)) {
    if ((statSync(at).mode & 0o001) === 0) return false;
    if (at === dirname(at)) return true;
  }
}

function giveTo(user, folder) {
  const ids = spawnSync('id', [user], { encoding: 'utf8' }).stdout.match(/uid=(\d+).*?gid=(\d+)/);
  if (ids) chownSync(folder, Number(ids[1]), Number(ids[2]));
}
