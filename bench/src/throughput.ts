import { execFile, spawn } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import type { DeliveryAnswer, DeliveryEvent } from '@libretto/model';
import { startApache } from '@libretto/server/testing/apache';
import { ask } from './deliveries';
import { median } from './median';

const root = fileURLToPath(new URL('../..', import.meta.url));
const port = 4196;
const files = 50;
const fileBytes = 5_000_000;
const rounds = 3;

/** What becomes of a delivery, as a browser hears it. */
async function followed(id: string): Promise<DeliveryAnswer> {
  const { body } = await fetch(`http://127.0.0.1:${port}/api/deliveries/events?ids=${id}`);
  let text = '';
  for await (const chunk of body!.pipeThrough(new TextDecoderStream())) {
    text += chunk;
    for (const line of text.split('\n\n').slice(0, -1)) {
      if (!line.startsWith('data: ')) continue;
      const { answer } = JSON.parse(line.slice(6)) as DeliveryEvent;
      if (answer.state !== 'carrying') return answer;
    }
    text = text.slice(text.lastIndexOf('\n\n') + 2);
  }
  throw new Error('the server ended');
}

/**
 * Fifty files of 5 MB into a folder of Debian's Apache with mod_dav, one and eight at once: through our server until it says that they have arrived (uploaded, on the disk, carried, read back,
 * named), beside `curl -T`, reading back by `curl` and `sha256sum`, in turns. Time, how many times that of curl, and the most memory that the server took.
 */
export async function benchThroughput(): Promise<void> {
  const home = mkdtempSync(path.join(tmpdir(), 'libretto-throughput-'));
  const dav = await startApache();
  const config = path.join(home, 'config.json');
  writeFileSync(config, JSON.stringify({ places: [{ kind: 'folder', id: 'folder', name: 'Folder', url: dav.url }] }));
  const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: root,
    env: {
      ...process.env,
      PORT: String(port),
      LIBRETTO_DATA: path.join(home, 'data'),
      LIBRETTO_CONFIG: config,
      LIBRETTO_LOG: 'silent',
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise((resolve) => server.stdout!.once('data', resolve));
  const bodies = Array.from({ length: files }, (_, n) => {
    const body = Buffer.concat([Buffer.from('%PDF-1.7\n'), randomBytes(fileBytes)]);
    writeFileSync(path.join(home, `${n}.pdf`), body);
    return { body, sha256: createHash('sha256').update(body).digest('hex') };
  });
  const cleared = () => {
    for (const name of readdirSync(dav.docs)) rmSync(path.join(dav.docs, name), { recursive: true, force: true });
  };
  const mostMb = () => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1000;

  async function ours(round: string, atOnce: number): Promise<number> {
    cleared();
    const began = performance.now();
    let next = 0;
    const client = async () => {
      for (let n = next++; n < files; n = next++) {
        const id = `speed-${round}-${n}`;
        const { body, sha256 } = bodies[n]!;
        const told = await ask(port, id, body, { placeId: 'folder', fileName: `Docket ${n}.pdf`, bytes: body.length, sha256, subject: '', message: '' }); // prettier-ignore
        const answer = told.state === 'carrying' ? await followed(id) : told;
        if (answer.state !== 'arrived') throw new Error(JSON.stringify(answer));
      }
    };
    await Promise.all(Array.from({ length: atOnce }, client));
    return performance.now() - began;
  }

  async function curl(atOnce: number): Promise<number> {
    cleared();
    const began = performance.now();
    const one = `curl -sf -T ${home}/{}.pdf ${dav.url}{}.pdf && curl -sf ${dav.url}{}.pdf | sha256sum`;
    const { stdout } = await promisify(execFile)('sh', ['-c', `seq 0 ${files - 1} | xargs -P ${atOnce} -I{} sh -c '${one}'`]);
    const read = new Set(stdout.split('\n').map((line) => line.split(' ')[0]));
    if (!bodies.every(({ sha256 }) => read.has(sha256))) throw new Error('curl read back something else');
    return performance.now() - began;
  }

  const figures: Record<string, number> = {};
  try {
    await ours('warm', 1);
    for (const atOnce of [1, 8]) {
      const [mine, its]: [number[], number[]] = [[], []];
      for (let round = 0; round < rounds; round++) {
        its.push(await curl(atOnce));
        mine.push(await ours(`${atOnce}-${round}`, atOnce));
      }
      figures[`ms${atOnce}`] = Math.round(median(mine) / files);
      figures[`curlMs${atOnce}`] = Math.round(median(its) / files);
      figures[`times${atOnce}`] = +(median(mine) / median(its)).toFixed(2);
      console.log(`${atOnce} at once: ${figures[`ms${atOnce}`]} ms a file, curl ${figures[`curlMs${atOnce}`]} ms; the server took ${Math.round(mostMb())} MB at most`); // prettier-ignore
    }
    figures.mostMb = Math.round(mostMb());
  } finally {
    server.kill('SIGTERM');
    dav.close();
    rmSync(home, { recursive: true, force: true });
  }
  console.log(JSON.stringify(figures));
}
