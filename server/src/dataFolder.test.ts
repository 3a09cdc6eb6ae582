import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { FolderInUse, holdDataFolder } from './dataFolder';
import { freePort } from './testing/freePort';

const newFolder = () => mkdtempSync(path.join(tmpdir(), 'libretto-data-'));
const root = path.join(__dirname, '../..');

test('one process holds a folder, gives it back, and one that was ended holds it no more', () => {
  const folder = newFolder();
  const lock = path.join(folder, 'server.lock');
  const release = holdDataFolder(folder);
  expect(JSON.parse(readFileSync(lock, 'utf8'))).toMatchObject({ pid: process.pid });
  release();
  expect(existsSync(lock)).toBe(false);
  // Our parent runs; a number that no process has; this number, but another process had it.
  writeFileSync(lock, JSON.stringify({ pid: process.ppid, since: null }));
  expect(() => holdDataFolder(folder)).toThrow(FolderInUse);
  writeFileSync(lock, JSON.stringify({ pid: 2 ** 22 + 1, since: null }));
  holdDataFolder(folder)();
  writeFileSync(lock, JSON.stringify({ pid: process.ppid, since: '1' }));
  holdDataFolder(folder)();
  writeFileSync(lock, 'torn');
  holdDataFolder(folder)();
});

test('a second server on the same data folder says so and touches nothing', async () => {
  const folder = newFolder();
  const upload = path.join(folder, 'incoming', 'half-an-upload');
  const claim = path.join(folder, 'deliveries', 'somebodys.claim');
  for (const file of [upload, claim]) {
    mkdirSync(path.dirname(file), { recursive: true });
    writeFileSync(file, 'theirs');
  }
  const release = holdDataFolder(folder);
  // The lock is another process's for the server that is started.
  const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: root,
    env: { ...process.env, LIBRETTO_DATA: folder, PORT: String(await freePort()) },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let said = '';
  server.stderr.on('data', (data: Buffer) => (said += String(data)));
  const code = await new Promise((resolve) => server.once('exit', resolve));
  release();
  expect(code).toBe(1);
  expect(said).toContain('is in use by another Libretto');
  expect([readFileSync(upload, 'utf8'), readFileSync(claim, 'utf8')]).toEqual(['theirs', 'theirs']);
});

test('a server whose port is taken touches nothing either', async () => {
  const folder = newFolder();
  const upload = path.join(folder, 'incoming', 'half-an-upload');
  mkdirSync(path.dirname(upload), { recursive: true });
  writeFileSync(upload, 'theirs');
  const taken = createServer().listen(0, '127.0.0.1');
  await new Promise((resolve) => taken.once('listening', resolve));
  const { port } = taken.address() as { port: number };
  const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: root,
    env: { ...process.env, LIBRETTO_DATA: folder, PORT: String(port) },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let said = '';
  server.stderr.on('data', (data: Buffer) => (said += String(data)));
  await new Promise((resolve) => server.once('exit', resolve));
  taken.close();
  expect(said).toContain('is in use');
  expect(readFileSync(upload, 'utf8')).toBe('theirs');
});
