import { spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { freePort } from './freePort';

const program = '/usr/sbin/apache2';
const modules = '/usr/lib/apache2/modules';

export interface Dav {
  url: string;
  /** Where what is written there lies. */
  docs: string;
  close: () => void;
}

/** Debian's Apache with mod_dav (RFC 4918, classes 1 and 2) on loopback, in a folder of its own. */
export async function startApache(): Promise<Dav> {
  if (!existsSync(program)) throw new Error('apache2-bin is missing; npm test installs it');
  const root = mkdtempSync(path.join(tmpdir(), 'libretto-dav-'));
  const docs = path.join(root, 'docs');
  mkdirSync(docs);
  const port = await freePort();
  const url = `http://127.0.0.1:${port}/`;
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
  const server = spawn(program, ['-X', '-d', root, '-f', path.join(root, 'httpd.conf')], { stdio: 'inherit' });
  const close = () => void server.kill();
  while (server.exitCode === null) {
    if ((await fetch(url, { method: 'OPTIONS' }).catch(() => null))?.headers.get('dav')) return { url, docs, close };
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  const log = path.join(root, 'error.log');
  throw new Error(`Apache did not come up: ${existsSync(log) ? readFileSync(log, 'utf8') : ''}`);
}
