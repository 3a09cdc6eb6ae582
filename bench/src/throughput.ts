import { execFile, spawn } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import type { DeliveryEvent } from '@libretto/model';
import { folderServer } from '@libretto/server/standins/folderServer';
import { median } from './median';

const root = fileURLToPath(new URL('../..', import.meta.url));
const port = 4198;
const run = promisify(execFile);
const [count, megabytes, rounds] = [50, 5, 3];

/**
 * Fifty files of five megabytes to a WebDAV folder, one and eight at a time: through the server, which takes each over, carries it, reads it back and compares it, beside `curl -T`, reading back and `sha256sum` on the same
 * folder. Seconds for all, medians of three rounds in turn; the server's largest memory.
 */
export async function benchThroughput(): Promise<void> {
  const home = mkdtempSync(path.join(tmpdir(), 'libretto-throughput-'));
  const dav = await folderServer({ root: path.join(home, 'docs'), username: 'yard', password: 'stand-in' });
  await dav.listen({ host: '127.0.0.1', port: 0 });
  const folder = `http://127.0.0.1:${(dav.server.address() as AddressInfo).port}`;
  const config = path.join(home, 'config.json');
  writeFileSync(config, JSON.stringify({ places: [{ kind: 'folder', id: 'folder', name: 'Folder', url: `${folder}/`, username: 'yard', passwordEnv: 'YARD' }] })); // prettier-ignore
  mkdirSync(path.join(home, 'data'));
  const files = Array.from({ length: count }, (_, n) => {
    const file = path.join(home, `file-${n}.pdf`);
    writeFileSync(file, Buffer.concat([Buffer.from('%PDF-1.7\n'), randomBytes(megabytes * 1e6)]));
    return file;
  });
  const sums = files.map((file) => createHash('sha256').update(readFileSync(file)).digest('hex'));
  const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: root,
    env: { ...process.env, PORT: String(port), LIBRETTO_DATA: path.join(home, 'data'), LIBRETTO_CONFIG: config, LIBRETTO_LOG: 'silent', YARD: 'stand-in' },
    stdio: ['ignore', 'pipe', 'inherit'],
  }); // prettier-ignore
  await new Promise((resolve) => server.stdout.once('data', resolve));
  const api = `http://127.0.0.1:${port}/api/deliveries`;

  /** So many at a time. */
  async function each(atATime: number, work: (n: number) => Promise<void>): Promise<number> {
    const started = performance.now();
    let next = 0;
    await Promise.all(Array.from({ length: atATime }, async () => { for (let n; (n = next++) < count;) await work(n); })); // prettier-ignore
    return (performance.now() - started) / 1000;
  }
  const ours = (atATime: number, round: string) =>
    each(atATime, async (n) => {
      const body = readFileSync(files[n]!);
      const id = `delivery-${round}-${n}`;
      const request = { placeId: 'folder', fileName: `Ours ${round} ${n}.pdf`, bytes: body.length, sha256: sums[n], subject: '', message: '' }; // prettier-ignore
      const taken = await fetch(`${api}/${id}`, { method: 'PUT', body, headers: { 'content-type': 'application/pdf', 'x-delivery': encodeURIComponent(JSON.stringify(request)) } }); // prettier-ignore
      if (taken.status !== 202) throw new Error(`${id}: ${taken.status} ${await taken.text()}`);
      const events = await fetch(`${api}/events?ids=${id}`);
      let text = '';
      for await (const chunk of events.body!.pipeThrough(new TextDecoderStream())) {
        text += chunk;
        const said = [...text.matchAll(/data: (.*)\n\n/g)].map((m) => (JSON.parse(m[1]!) as DeliveryEvent).answer);
        const bad = said.find((a) => a.state === 'failed' || a.state === 'doubt');
        if (bad) throw new Error(`${id}: ${JSON.stringify(bad)}`);
        if (said.some((a) => a.state === 'arrived')) break;
      }
    });
  const theirs = (atATime: number, round: string) =>
    each(atATime, async (n) => {
      const url = `${folder}/Curl%20${round}%20${n}.pdf`;
      const { stdout } = await run('sh', ['-c', `curl -sS -f -u yard:stand-in -T ${files[n]} '${url}' >/dev/null && curl -sS -f -u yard:stand-in '${url}' | sha256sum`]); // prettier-ignore
      if (!stdout.startsWith(sums[n]!)) throw new Error(`curl ${n}: other bytes`);
    });

  const figures: Record<string, number> = {};
  for (const atATime of [1, 8]) {
    const seconds = { ours: [] as number[], theirs: [] as number[] };
    for (let round = 0; round < rounds; round++) {
      seconds.theirs.push(await theirs(atATime, `${atATime}-${round}`));
      seconds.ours.push(await ours(atATime, `${atATime}-${round}`));
    }
    const ratio = median(seconds.ours.map((s, i) => s / seconds.theirs[i]!));
    console.log(`${atATime} at a time: ours ${median(seconds.ours).toFixed(2)} s, curl ${median(seconds.theirs).toFixed(2)} s, ratio ${ratio.toFixed(2)}`); // prettier-ignore
    figures[`ratio${atATime}`] = +ratio.toFixed(2);
  }
  figures.peakMB = Math.round(Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1024);
  server.kill('SIGTERM');
  await dav.close();
  console.log(JSON.stringify(figures));
  process.exit(0);
}
