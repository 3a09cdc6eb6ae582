import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir, userInfo } from 'node:os';
import path from 'node:path';
import { AwsV4Signer } from 'aws4fetch';
import { freePort } from './freePort';

const program = '/usr/bin/swift-proxy-server';
const parts = ['account', 'container', 'object'] as const;
export const accessKey = 'yard:office';
export const secret = 'slip/two+';

export interface Swift {
  url: string;
  makeBucket: (name: string) => Promise<void>;
  close: () => void;
}

/** Debian's OpenStack Swift with its S3 API (`s3api`, which checks Signature Version 4 itself) on loopback: one disk, one copy, in a folder of its own. */
export async function startSwift(): Promise<Swift> {
  if (!existsSync(program)) throw new Error('swift-proxy is missing; npm test installs it');
  const root = mkdtempSync(path.join(tmpdir(), 'libretto-swift-'));
  mkdirSync(path.join(root, 'disks/d1'), { recursive: true });
  const user = userInfo().username;
  const started: ChildProcess[] = [];
  const start = async (name: string, port: number, lines: readonly string[]) => {
    const file = path.join(root, `${name}.conf`);
    writeFileSync(file, ['[DEFAULT]', 'bind_ip = 127.0.0.1', `bind_port = ${port}`, 'workers = 0', `swift_dir = ${root}`, `user = ${user}`, ...lines].join('\n')); // prettier-ignore
    const server = spawn(`/usr/bin/swift-${name}-server`, [file], { stdio: 'ignore' });
    started.push(server);
    return server;
  };
  for (const part of parts) {
    const port = await freePort();
    const ring = (...args: string[]) => execFileSync('swift-ring-builder', [`${part}.builder`, ...args], { cwd: root, stdio: 'ignore' }); // prettier-ignore
    // Sixteen partitions, one copy of each.
    ring('create', '4', '1', '0');
    ring('add', `r1z1-127.0.0.1:${port}/d1`, '1');
    ring('rebalance');
    await start(part, port, [`devices = ${root}/disks`, 'mount_check = false', '[pipeline:main]', `pipeline = ${part}-server`, `[app:${part}-server]`, `use = egg:swift#${part}`]); // prettier-ignore
  }
  const port = await freePort();
  const section = (kind: string, name: string, ...more: string[]) => [`[${kind}:${name}]`, `use = egg:swift#${name}`, ...more];
  const proxy = await start('proxy', port, [
    '[pipeline:main]', 'pipeline = catch_errors cache s3api tempauth proxy-server',
    ...section('filter', 'catch_errors'),
    '[filter:cache]', 'use = egg:swift#memcache',
    ...section('filter', 's3api', 'location = us-east-1', 'allow_no_owner = true', 's3_acl = false'),
    ...section('filter', 'tempauth', `user_${accessKey.replace(':', '_')} = ${secret} .admin`),
    '[app:proxy-server]', 'use = egg:swift#proxy', 'account_autocreate = true',
  ]); // prettier-ignore
  const url = `http://127.0.0.1:${port}`;
  const makeBucket = async (name: string) => {
    const { url: to, headers } = await new AwsV4Signer({ method: 'PUT', url: `${url}/${name}`, accessKeyId: accessKey, secretAccessKey: secret, service: 's3', region: 'us-east-1' }).sign(); // prettier-ignore
    const answer = await fetch(to, { method: 'PUT', headers });
    if (!answer.ok) throw new Error(`Swift makes no bucket: ${answer.status} ${await answer.text()}`);
  };
  const close = () => started.forEach((server) => server.kill('SIGKILL'));
  let why: unknown;
  // Its parts come up one by one.
  while (proxy.exitCode === null) {
    try {
      await makeBucket('first-bucket');
      return { url, makeBucket, close };
    } catch (error) {
      why = error;
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
  }
  close();
  throw new Error(`Swift did not come up: ${String(why)}\n${readFileSync(path.join(root, 'proxy.conf'), 'utf8')}`);
}
