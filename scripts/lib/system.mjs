import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, statSync, readdirSync, writeFileSync, mkdirSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Set-up steps that both the start and the test command need. Plain JavaScript: nothing is installed yet when it runs. */

export const ROOT = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

const PROGRAMS = { 'mariadb-server': '/usr/sbin/mariadbd', ffmpeg: '/usr/bin/ffmpeg', chromium: '/usr/bin/chromium' };

/** Installs the Debian packages that are missing, as root or through sudo. */
export function installPackages(names) {
  const missing = names.filter((name) => !existsSync(PROGRAMS[name]));
  if (missing.length === 0) return;
  const root = process.getuid?.() === 0;
  const sudo = !root && spawnSync('sudo', ['-n', 'true']).status === 0;
  if (!root && !sudo) {
    fail(
      `These Debian packages are missing and this user may not install them: ${missing.join(', ')}. Run "apt-get install ${missing.join(' ')}" as root, then try again.`,
    );
  }
  console.log(`Installing ${missing.join(', ')}...`);
  const apt = (...args) => {
    const [command, ...rest] = [
      ...(root ? [] : ['sudo', '-n']),
      'env',
      'DEBIAN_FRONTEND=noninteractive',
      'apt-get',
      '-qq',
      '-o',
      'Dpkg::Use-Pty=0',
      ...args,
    ];
    return spawnSync(command, rest, { stdio: ['ignore', 'ignore', 'inherit'] }).status === 0;
  };
  if (!apt('update') || !apt('install', '-y', '--no-install-recommends', ...missing)) {
    fail(`Installing ${missing.join(', ')} failed; see apt's message above.`);
  }
}

/** npm ci, when the lock file has changed since it last ran. */
export function installModules() {
  const lock = fingerprintOf([join(ROOT, 'package-lock.json')]);
  const stamp = join(ROOT, 'node_modules/.installed-from');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing npm packages...');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(stamp, lock);
}

/** Compiles the tracing kernel, when its sources have changed since it was last compiled. */
export function buildKernel() {
  const sources = [...filesBelow(join(ROOT, 'packages/kernel')), join(ROOT, 'package-lock.json')];
  whenChanged(sources, join(ROOT, 'packages/kernel/dist/.built-from'), () => {
    console.log('Compiling the tracing kernel...');
    run('npm', ['run', '--silent', 'build', '-w', '@tender-orbit/kernel']);
  });
}

/** Builds the web application, when its sources have changed since it was last built. */
export function buildWeb() {
  const sources = [
    ...filesBelow(join(ROOT, 'packages/web')),
    ...filesBelow(join(ROOT, 'packages/core/src')),
    join(ROOT, 'package-lock.json'),
  ];
  whenChanged(sources, join(ROOT, 'packages/web/dist/.built-from'), () => {
    console.log('Building the web application...');
    run('npm', ['run', '--silent', 'build', '-w', '@tender-orbit/web']);
  });
}

/** Runs `work` unless it has run on exactly these sources before; `stamp` remembers. */
function whenChanged(sources, stamp, work) {
  const now = fingerprintOf(sources);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return;
  work();
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, now);
}

export function fail(sentence) {
  console.error(sentence);
  process.exit(1);
}

function run(command, args) {
  try {
    execFileSync(command, args, { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit'] });
  } catch {
    fail(`"${command} ${args.join(' ')}" failed; see its message above.`);
  }
}

function filesBelow(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.name === 'node_modules' || entry.name === 'dist') return [];
    const path = join(folder, entry.name);
    return entry.isDirectory() ? filesBelow(path) : [path];
  });
}

function fingerprintOf(files) {
  const hash = createHash('sha256');
  for (const file of files.sort()) hash.update(file).update(statSync(file).isFile() ? readFileSync(file) : '');
  return hash.digest('hex');
}
