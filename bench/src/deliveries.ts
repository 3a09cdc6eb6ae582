import { spawn, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import { connect, createServer, type AddressInfo, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { SMTPServer } from 'smtp-server';
import { random } from '@libretto/demo/scene/noise';
import type { DeliveryAnswer } from '@libretto/model';
import { folderServer } from '@libretto/server/standins/folderServer';
import { startPostgres } from '@libretto/server/testing/postgres';

const root = fileURLToPath(new URL('../..', import.meta.url));
const port = 4197;
const atATime = 10;
const to = ['owner@wren.example.org', 'claims@marine-mutual.example.com'];

/**
 * Deliveries to a folder and to two addresses, cut off at random: the server killed, the mail server cut before and after a message's end, put off and refused, the folder's line
 * cut in the middle; each is sent again under its id until it is told how it stands. Afterwards what lies there is counted.
 *
 * @param runs how many deliveries.
 * @param servers how many servers share them, through Debian's PostgreSQL where there is more than one; each request goes to any of them, and any of them is killed.
 */
export async function benchDeliveries(runs: number, servers: number): Promise<void> {
  const home = mkdtempSync(path.join(tmpdir(), 'libretto-deliveries-'));
  const roll = random(20261129);
  const chance = (p: number) => roll() < p;

  // A mail server that goes wrong: what it keeps is the truth.
  const kept = new Map<string, number>();
  const smtp = new SMTPServer({
    disabledCommands: ['STARTTLS', 'AUTH'],
    onRcptTo: (_address, _session, done) => done(chance(0.05) ? Object.assign(new Error('later'), { responseCode: 450 }) : null),
    onData(stream, session, done) {
      const cut = () => {
        for (const c of smtp.connections as Set<{ id: string; _socket: Socket }>) if (c.id === session.id) c._socket.destroy();
      };
      const [before, after, later] = [chance(0.08), chance(0.08), chance(0.05)];
      if (before) setTimeout(cut, 5);
      let text = '';
      stream.on('data', (chunk: Buffer) => {
        if (text.length < 4000) text += chunk.toString('latin1');
      });
      stream.on('end', () => {
        if (before) return;
        if (later) return done(Object.assign(new Error('no room just now'), { responseCode: 452 }));
        const id = /Message-ID: <(.*?)@/i.exec(text)![1]!;
        for (const { address } of session.envelope.rcptTo) kept.set(`${id} ${address}`, (kept.get(`${id} ${address}`) ?? 0) + 1);
        if (after) return cut();
        done(null, 'kept');
      });
    },
  });
  smtp.on('error', () => {});
  await new Promise<void>((resolve) => smtp.listen(0, '127.0.0.1', resolve));

  // A folder behind a line that is cut.
  const docs = path.join(home, 'docs');
  const dav = await folderServer({ root: docs, username: 'yard', password: 'stand-in' });
  await dav.listen({ host: '127.0.0.1', port: 0 });
  const davPort = (dav.server.address() as AddressInfo).port;
  const line = createServer((near) => {
    const far = connect(davPort, '127.0.0.1');
    for (const [a, b] of [[near, far], [far, near]] as const) a.pipe(b).on('error', () => {}); // prettier-ignore
    const end = () => (near.destroy(), far.destroy());
    near.on('error', end).on('close', end);
    far.on('error', end).on('close', end);
    if (chance(0.1)) setTimeout(end, roll() * 60);
  });
  await new Promise<void>((resolve) => line.listen(0, '127.0.0.1', resolve));

  const config = path.join(home, 'config.json');
  writeFileSync(
    config,
    JSON.stringify({
      places: [
        { kind: 'folder', id: 'folder', name: 'Folder', url: `http://127.0.0.1:${(line.address() as AddressInfo).port}/`, username: 'yard', passwordEnv: 'YARD' },
        { kind: 'mail', id: 'mail', name: 'Mail', from: 'office@saltmarsh.example.org', to, host: '127.0.0.1', port: (smtp.server.address() as AddressInfo).port },
      ],
    }),
  ); // prettier-ignore
  let kills = 0;
  const database = servers > 1 ? await startPostgres() : null;
  const running: ChildProcess[] = [];
  const start = async (n: number) => {
    const server = (running[n] = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
      cwd: root,
      env: {
        ...process.env,
        PORT: String(port + n),
        LIBRETTO_DATA: path.join(home, `data-${n}`),
        ...(database && { LIBRETTO_DATABASE: database.url, LIBRETTO_LEASE_S: '3' }),
        LIBRETTO_CONFIG: config,
        LIBRETTO_LOG: 'silent',
        YARD: 'stand-in',
      },
      stdio: ['ignore', 'pipe', 'inherit'],
    }));
    await new Promise((resolve) => server.stdout!.once('data', resolve));
  };
  const any = () => Math.floor(Math.random() * servers);
  for (let n = 0; n < servers; n++) await start(n);

  const states = new Map<string, DeliveryAnswer>();
  const file = (n: number) => Buffer.from(`%PDF-1.7\n${n} ${'stern tube '.repeat(20_000)}`);
  const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
  async function deliver(n: number): Promise<void> {
    const id = `delivery-${n}`;
    const body = file(n);
    const request = { placeId: n % 2 ? 'mail' : 'folder', fileName: `Docket ${n}.pdf`, bytes: body.length, sha256: createHash('sha256').update(body).digest('hex'), subject: `Docket ${n}`, message: '' }; // prettier-ignore
    for (;;) {
      const answer = await ask(port + any(), id, body, request).catch(() => null);
      if (!answer) await wait(100);
      else if (answer.state === 'carrying' || (answer.state === 'failed' && answer.again)) await wait(150);
      else return void states.set(id, answer);
    }
  }

  const started = Date.now();
  for (let first = 0; first < runs; first += atATime) {
    const batch = Promise.all(Array.from({ length: Math.min(atATime, runs - first) }, (_, i) => deliver(first + i)));
    if (chance(0.5)) {
      await wait(20 + roll() * 900);
      const n = any();
      running[n]!.kill('SIGKILL');
      kills++;
      await new Promise((resolve) => running[n]!.once('exit', resolve));
      await start(n);
    }
    await batch;
    if ((first / atATime) % 10 === 9)
      console.log(`${first + atATime} deliveries, ${kills} kills, ${Math.round((Date.now() - started) / 1000)} s`);
  }
  for (const server of running) server.kill('SIGTERM');

  const figures = {
    runs,
    servers,
    kills,
    arrived: 0,
    lost: 0,
    doubled: 0,
    falselyArrived: 0,
    refused: 0,
    inDoubt: 0,
    inDoubtAndThere: 0,
  };
  const files = readdirSync(docs).filter((name) => name.endsWith('.pdf'));
  for (let n = 0; n < runs; n++) {
    const id = `delivery-${n}`;
    const answer = states.get(id)!;
    const counts = n % 2 ? to.map((address) => kept.get(`${id} ${address}`) ?? 0) : [files.filter((f) => f.startsWith(`Docket ${n}.`) || f.startsWith(`Docket ${n} (`)).length]; // prettier-ignore
    const whole = n % 2 || counts[0] === 0 || readFileSync(path.join(docs, `Docket ${n}.pdf`)).equals(file(n));
    if (counts.some((c) => c > 1)) figures.doubled++;
    if (answer.state === 'arrived') {
      figures.arrived++;
      if (counts.includes(0) || !whole) figures.falselyArrived++;
    } else if (answer.state === 'doubt') {
      figures.inDoubt++;
      if (!counts.includes(0)) figures.inDoubtAndThere++;
    } else if (answer.state === 'failed') figures.refused++;
    else figures.lost++;
  }
  smtp.close(() => {});
  line.close();
  await dav.close();
  await database?.close();
  console.log(JSON.stringify(figures));
  process.exit(figures.lost || figures.doubled || figures.falselyArrived ? 1 : 0);
}

/** Sends a file to be delivered; what the server says of it then. */
export function ask(port: number, id: string, body: Buffer, request: object): Promise<DeliveryAnswer> {
  return new Promise((resolve, reject) => {
    const sent = http.request(
      { host: '127.0.0.1', port, path: `/api/deliveries/${id}`, method: 'PUT', headers: { 'content-type': 'application/pdf', 'content-length': body.length, 'x-delivery': encodeURIComponent(JSON.stringify(request)) } },
      (answer) => {
        let text = '';
        answer.on('data', (chunk: Buffer) => (text += chunk.toString()));
        answer.on('error', reject);
        answer.on('end', () => {
          try {
            resolve(JSON.parse(text) as DeliveryAnswer);
          } catch (error) {
            reject(error as Error);
          }
        });
      },
    ); // prettier-ignore
    sent.on('error', reject);
    sent.end(body);
  });
}
