// What every command needs on a fresh machine. Node's built-ins only: nothing is installed yet.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');

const npm = process.platform === 'win32' ? 'npm.cmd' : 'npm';

/** Runs a command to its end, its output passed on; throws when it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (error) throw error;
  if (status !== 0) throw new Error(`${[command, ...args].join(' ')} ended with ${status}`);
}

/** The machine must be able to run what follows. */
export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major > 20 || (major === 20 && minor >= 19)) return;
  console.error(`Libretto needs Node 20.19 or newer; this is ${process.versions.node}.`);
  process.exit(1);
}

/** `npm ci`, unless what is installed is what the lock file says. */
export function install() {
  const mark = path.join(root, 'node_modules', '.libretto-lock');
  const wanted = hashOf([path.join(root, 'package-lock.json')]);
  if (existsSync(mark) && readFileSync(mark, 'utf8') === wanted) return;
  console.log('Installing packages …');
  run(npm, ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(mark, wanted);
}

/** The web app, unless it is built from the sources as they are. */
export function build() {
  const mark = path.join(root, 'app', 'dist', '.libretto-build');
  const sources = ['app', 'core', 'model', 'formats', 'text', 'demo/src'].flatMap((folder) => filesIn(path.join(root, folder)));
  const wanted = hashOf([...sources, path.join(root, 'package-lock.json')]);
  if (existsSync(mark) && readFileSync(mark, 'utf8') === wanted) return;
  console.log('Building the app (one to four minutes) …');
  run(npm, ['run', 'build', '-w', '@libretto/app'], {
    env: { ...process.env, EXPO_OFFLINE: '1', EXPO_NO_TELEMETRY: '1', CI: '1' },
  });
  writeFileSync(mark, wanted);
}

/** Debian's packages that are missing, through apt-get; `have` tells by a program that each brings. */
export function debian(packages) {
  const missing = Object.entries(packages)
    .filter(([, program]) => !existsSync(program))
    .map(([name]) => name);
  if (!missing.length) return;
  console.log(`Installing ${missing.join(', ')} …`);
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) =>
    run([...sudo, 'apt-get'][0], [...sudo, 'apt-get', ...args].slice(1), {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  try {
    apt('update', '-qq');
    apt('install', '-y', '-qq', '--no-install-recommends', ...missing);
  } catch {
    console.error(
      `These are needed and could not be installed: ${missing.join(', ')}. On Debian: apt-get install ${missing.join(' ')}`,
    );
    process.exit(1);
  }
}

/** Starts the server; it prints its address. */
export function serve(env = {}) {
  return spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
}

function filesIn(folder) {
  const skip = new Set(['node_modules', 'dist', 'built', '.expo', 'pdf', 'fonts', 'test-results']);
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const full = path.join(folder, entry.name);
    if (entry.isDirectory()) return skip.has(entry.name) ? [] : filesIn(full);
    return /\.test\.tsx?$/.test(entry.name) ? [] : [full];
  });
}

function hashOf(files) {
  const hash = createHash('sha256');
  for (const file of files.sort()) if (statSync(file).isFile()) hash.update(path.relative(root, file)).update(readFileSync(file));
  return hash.digest('hex');
}
