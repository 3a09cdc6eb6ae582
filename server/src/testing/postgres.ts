import { execFileSync, spawn } from 'node:child_process';
import { chownSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Client } from 'pg';
import { freePort } from './freePort';

export interface Database {
  url: string;
  close: () => Promise<void>;
}

const home = '/usr/lib/postgresql';

/** A database of Debian's PostgreSQL for one test, on loopback, in a folder that is thrown away. */
export async function startPostgres(): Promise<Database> {
  const bin = path.join(home, readdirSync(home).sort().at(-1)!, 'bin');
  const dir = mkdtempSync(path.join(tmpdir(), 'libretto-postgres-'));
  // It refuses to run as root.
  const id = (flag: string) => Number(execFileSync('id', [flag, 'postgres']).toString());
  const as = process.getuid?.() === 0 ? { uid: id('-u'), gid: id('-g') } : {};
  if (as.uid) chownSync(dir, as.uid, as.gid);
  const data = path.join(dir, 'data');
  const env = { ...process.env, LC_ALL: 'C' };
  execFileSync(path.join(bin, 'initdb'), ['-D', data, '-U', 'libretto', '-A', 'trust', '-E', 'UTF8', '-N'], {
    ...as,
    cwd: dir,
    env,
  });
  const port = await freePort();
  const server = spawn(
    path.join(bin, 'postgres'),
    [
      '-D',
      data,
      '-p',
      String(port),
      '-c',
      'listen_addresses=127.0.0.1',
      '-c',
      `unix_socket_directories=${dir}`,
      '-c',
      'fsync=off',
    ],
    { ...as, cwd: dir, env, stdio: 'ignore' },
  );
  const url = `postgres://libretto@127.0.0.1:${port}/postgres`;
  const ended = new Promise<void>((resolve) => server.once('exit', () => resolve()));
  while (server.exitCode === null && !(await answers(url))) await new Promise((resolve) => setTimeout(resolve, 50));
  if (server.exitCode !== null) throw new Error('PostgreSQL did not start');
  return {
    url,
    close: async () => {
      // At once, whoever is connected (postgres(1): SIGQUIT is its immediate shutdown).
      server.kill('SIGQUIT');
      await ended;
      rmSync(dir, { recursive: true, force: true });
    },
  };
}

async function answers(url: string): Promise<boolean> {
  const client = new Client({ connectionString: url });
  client.on('error', () => {});
  try {
    await client.connect();
    return true;
  } catch {
    return false;
  } finally {
    await client.end().catch(() => {});
  }
}
