import { spawn, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { freePort } from '../../testing/freePort';
import { folderCarrier } from './folderCarrier';

/** The carrier against a WebDAV server that is not ours: Debian's Apache with mod_dav (RFC 4918 classes 1 and 2). */
const apache = '/usr/sbin/apache2';
const modules = '/usr/lib/apache2/modules';
const root = mkdtempSync(path.join(tmpdir(), 'libretto-dav-'));
const docs = path.join(root, 'docs');
let server: ChildProcess;
let url: string;

beforeAll(async () => {
  if (!existsSync(apache)) throw new Error('apache2-bin is missing; npm test installs it');
  mkdirSync(docs);
  const port = await freePort();
  url = `http://127.0.0.1:${port}/`;
  const load = ['mpm_event', 'authn_core', 'authz_core', 'dav', 'dav_fs', 'unixd']
    .map((m) => `LoadModule ${m}_module ${modules}/mod_${m}.so`)
    .filter((l) => existsSync(l.split(' ')[2]!));
  writeFileSync(
    path.join(root, 'httpd.conf'),
    [
      ...load,
      `ServerRoot ${root}`,
      `PidFile ${root}/pid`,
      `Listen 127.0.0.1:${port}`,
      'ServerName localhost',
      `ErrorLog ${root}/error.log`,
      `DavLockDB ${root}/locks`,
      'User www-data',
      'Group www-data',
      `DocumentRoot ${docs}`,
      `<Directory ${docs}>`,
      'Dav On',
      'Require all granted',
      '</Directory>',
    ].join('\n'),
  );
  for (const folder of [root, docs]) chmodSync(folder, 0o777);
  server = spawn(apache, ['-X', '-d', root, '-f', path.join(root, 'httpd.conf')], { stdio: 'inherit' });
  for (let i = 0; i < 100; i++) {
    if ((await fetch(url, { method: 'OPTIONS' }).catch(() => null))?.headers.get('dav')) return;
    await new Promise((r) => setTimeout(r, 100));
  }
  throw new Error(`Apache did not come up: ${existsSync(`${root}/error.log`) ? readFileSync(`${root}/error.log`, 'utf8') : ''}`);
}, 30_000);

afterAll(() => {
  server?.kill();
});

function cargo(id: string, fileName: string, content: string) {
  const file = path.join(root, id);
  writeFileSync(file, content);
  return {
    id,
    path: file,
    placeId: 'records',
    fileName,
    bytes: Buffer.byteLength(content),
    sha256: createHash('sha256').update(content).digest('hex'),
    subject: '',
    message: '',
    heard: [],
  };
}

test('a file arrives in a folder made for it, is read back, keeps others of its name, and comes once', async () => {
  const carrier = folderCarrier({ kind: 'folder', id: 'records', name: 'Records', url, folder: 'Surveys/2026' });
  const attempt = { signal: AbortSignal.timeout(20_000), token: 'one', handing: async () => {} };
  const first = await carrier.carry(cargo('delivery-1', 'Größe & Maß.pdf', '%PDF one'), attempt);
  expect(first).toMatchObject({ how: 'read-back', where: 'Records / Surveys / 2026 / Größe & Maß.pdf' });
  expect((await carrier.carry(cargo('delivery-1', 'Größe & Maß.pdf', '%PDF one'), attempt)).where).toBe(first.where);
  expect((await carrier.carry(cargo('delivery-2', 'Größe & Maß.pdf', '%PDF two'), attempt)).where).toContain('(2)');
  expect(
    readdirSync(path.join(docs, 'Surveys/2026'))
      .filter((n) => !n.startsWith('.DAV'))
      .sort(),
  ).toEqual(['Größe & Maß (2).pdf', 'Größe & Maß.pdf']);
  expect(readFileSync(path.join(docs, 'Surveys/2026/Größe & Maß.pdf'), 'utf8')).toBe('%PDF one');
}, 30_000);
