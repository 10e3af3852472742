import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import mysql from 'mysql2/promise';
import { expect } from 'chai';
import { until } from './harness.ts';

const START = fileURLToPath(new URL('../../../scripts/start.mjs', import.meta.url));

describe('the start command', () => {
  const data = mkdtempSync(join(tmpdir(), 'tender-orbit-start-'));
  const children: ChildProcess[] = [];
  after(() => {
    for (const child of children) child.kill('SIGTERM');
    rmSync(data, { recursive: true, force: true });
  });

  function start(): { child: ChildProcess; said: () => string; ended: Promise<number | null> } {
    const child = spawn(process.execPath, [START], {
      env: {
        ...process.env,
        ...{ TENDER_ORBIT_DATA: data, TENDER_ORBIT_PORT: '4470', TENDER_ORBIT_DB_PORT: '4480' },
        ...{ TENDER_ORBIT_DEMO: '0', TENDER_ORBIT_EMAIL: 'ines@vellowmere.example' },
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    children.push(child);
    let text = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (text += String(chunk)));
    return { child, said: () => text, ended: new Promise((done) => child.on('exit', done)) };
  }
  const alive = (pid: number): boolean => {
    try {
      process.kill(pid, 0);
      return true;
    } catch {
      return false;
    }
  };

  it('serves; a second one says where; a signal to it alone stops all of it', async () => {
    const first = start();
    await until(
      async () => first.said(),
      (text) => text.includes('ready at'),
    );
    const address = /ready at (\S+)/.exec(first.said())![1];
    expect(first.said()).match(/ines@vellowmere\.example with the password \S+/);
    expect(first.said()).not.contain('slow-as-the-hill');

    const second = start();
    expect(await second.ended).equal(0);
    expect(second.said()).contain(`already runs at ${address}`);
    expect((await fetch(`${address}/api/health`)).status).equal(200);

    const database = Number(readFileSync(join(data, 'mariadb.pid'), 'utf8'));
    const { pid } = JSON.parse(readFileSync(join(data, 'server.json'), 'utf8')) as { pid: number };
    await expectRights();
    process.kill(first.child.pid!, 'SIGINT');
    expect(await first.ended).equal(0);
    expect([pid, database].map(alive)).deep.equal([false, false]);
    expect(existsSync(join(data, 'server.json'))).equal(false);
  });

  /** The server's own user reaches its own database, and nobody comes in without a password. */
  async function expectRights(): Promise<void> {
    const secrets = JSON.parse(readFileSync(join(data, 'mariadb.secrets.json'), 'utf8')) as Record<string, string>;
    const port = Number(readFileSync(join(data, 'mariadb.port'), 'utf8'));
    const refused = (sql: string, connection: mysql.Connection): Promise<string> =>
      connection.query(sql).then(
        () => 'taken',
        (error: Error & { code: string }) => error.code,
      );
    const own = await mysql.createConnection({
      host: '127.0.0.1',
      port,
      user: secrets.user,
      password: secrets.password,
    });
    expect(await refused('SELECT COUNT(*) FROM tender_orbit.people', own)).equal('taken');
    expect(await refused('SELECT * FROM mysql.user', own)).match(/DENIED/);
    expect(await refused('CREATE DATABASE elsewhere', own)).match(/DENIED/);
    await own.end();
    const error = await mysql.createConnection({ host: '127.0.0.1', port, user: 'root' }).catch((e: unknown) => e);
    expect((error as { code: string }).code).equal('ER_ACCESS_DENIED_ERROR');
  }
});
