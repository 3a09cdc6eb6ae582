import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import type { DeliveryAnswer } from '@libretto/model';
import { buildApp } from '../app';
import { wellBehaved } from './moods';
import { startStandIns, type StandIns } from './start';

const file = Buffer.from(`%PDF-1.7\n${'stern tube '.repeat(20000)}`);
const sha256 = createHash('sha256').update(file).digest('hex');
let standIns: StandIns;
let app: FastifyInstance;
let url: string;
let count = 0;

beforeAll(async () => {
  const dataDir = mkdtempSync(path.join(tmpdir(), 'libretto-moods-'));
  standIns = await startStandIns(dataDir);
  app = await buildApp({ places: standIns.places, dataDir, standIns });
  await app.listen({ host: '127.0.0.1', port: 0 });
  url = `http://127.0.0.1:${(app.server.address() as AddressInfo).port}`;
});
beforeEach(() => Object.assign(standIns.moods, wellBehaved()));
afterAll(async () => {
  await app.close();
  await standIns.close();
});

const press = (which: string, mood: string, origin = url) =>
  fetch(`${url}/stand-ins/mood/${which}/${mood}`, {
    method: 'POST',
    redirect: 'manual',
    headers: { origin, 'content-type': 'application/x-www-form-urlencoded' },
  });

/** What becomes of a delivery: its end, or what it waits for. */
async function deliver(placeId: string): Promise<DeliveryAnswer> {
  const id = `delivery-mood-${++count}`;
  const request = {
    placeId,
    fileName: `Docket ${count}.pdf`,
    bytes: file.length,
    sha256,
    subject: `Docket ${count}`,
    message: '',
  };
  await fetch(`${url}/api/deliveries/${id}`, { method: 'PUT', headers: { 'content-type': 'application/pdf', 'x-delivery': encodeURIComponent(JSON.stringify(request)) }, body: new Uint8Array(file) }); // prettier-ignore
  for (;;) {
    const answer = (await (await fetch(`${url}/api/deliveries/${id}`)).json()) as DeliveryAnswer;
    if (answer.state !== 'carrying' || answer.code) return answer;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

test.each([
  ['folder', 'failing', { state: 'carrying' }],
  ['folder', 'full', { state: 'carrying' }],
  ['folder', 'locked', { state: 'carrying' }],
  ['folder', 'password', { state: 'failed' }],
  ['folder', 'cut', { state: 'carrying' }],
  ['folder', 'lying', { state: 'carrying' }],
  ['mail', 'failing', { state: 'carrying' }],
  ['mail', 'full', { state: 'carrying' }],
  ['mail', 'refusing', { state: 'failed' }],
  ['mail', 'password', { state: 'failed' }],
  ['mail', 'cut', { state: 'doubt' }],
] as const)('a stand-in %s that is %s: a delivery is %j', async (which, mood, expected) => {
  expect((await press(which, mood)).status).toBe(303);
  expect(standIns.moods[which]).toBe(mood);
  const answer = await deliver(which === 'folder' ? 'yard-records' : 'workshop');
  expect(answer).toMatchObject(expected);
});

test('what a cut mailbox was given lies there once all the same; well again, it takes what comes', async () => {
  standIns.moods.mail = 'cut';
  expect((await deliver('workshop')).state).toBe('doubt');
  // What was put off before may come meanwhile.
  const own = `Subject: Docket ${count}\r\n`;
  const mails = readdirSync(standIns.mail).filter((n) => n.endsWith('.eml'));
  expect(mails.filter((n) => readFileSync(path.join(standIns.mail, n), 'latin1').includes(own))).toHaveLength(1);
  standIns.moods.mail = 'well';
  expect((await deliver('workshop')).state).toBe('arrived');
});

test('the page says how each behaves; nobody else’s page changes it, and no link does', async () => {
  await press('folder', 'locked');
  const page = await (await fetch(`${url}/stand-ins/`)).text();
  expect(page).toMatch(/aria-pressed="true" disabled>Locked/);
  expect((await press('folder', 'well', 'https://elsewhere.example')).status).toBe(403);
  expect((await fetch(`${url}/stand-ins/mood/folder/well`)).status).toBe(404);
  expect((await press('folder', 'sulking')).status).toBe(404);
  expect(standIns.moods.folder).toBe('locked');
});
