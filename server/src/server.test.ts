import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmdirSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import { simpleParser } from 'mailparser';
import type { DeliveryAnswer } from '@libretto/model';
import { buildApp } from './app';
import { parseConfig } from './config';
import type { Entry } from './ledger/entry';
import { FileLedger } from './ledger/fileLedger';
import { publicPlace, type PlaceConfig } from './places/kinds';
import { startStandIns, type StandIns } from './standins/start';

const dataDir = mkdtempSync(path.join(tmpdir(), 'libretto-server-'));
let standIns: StandIns;
let app: FastifyInstance;
let places: PlaceConfig[];
let port: number;

beforeAll(async () => {
  standIns = await startStandIns(dataDir);
  const [folder, ...mails] = standIns.places;
  places = [
    folder!,
    ...mails,
    { ...folder!, id: 'wrong-password', name: 'Locked folder', password: 'guess' } as PlaceConfig,
    { ...folder!, id: 'nobody-there', name: 'Gone folder', url: 'http://127.0.0.1:9/' } as PlaceConfig,
    { ...mails[0]!, id: 'wrong-mail', name: 'Locked mailbox', password: 'guess' } as PlaceConfig,
    { ...mails[0]!, id: 'small-mail', name: 'Small mailbox', limit: 2000 } as PlaceConfig,
  ];
  app = await buildApp({ places, dataDir, standIns, log: !!process.env.SERVER_LOG });
  await app.listen({ host: '127.0.0.1', port: 0 });
  port = (app.server.address() as AddressInfo).port;
}, 30_000);

afterAll(async () => {
  await app.close();
  await standIns.close();
});

const file = Buffer.from(`%PDF-1.7\n${'stern tube '.repeat(4000)}`);
const sha = (b: Buffer) => createHash('sha256').update(b).digest('hex');
let count = 0;
const newId = () => `delivery-${process.pid}-${count++}`;

async function put(
  id: string,
  request: Record<string, unknown>,
  body: Buffer = file,
  headers: Record<string, string> = {},
): Promise<{ status: number; answer: DeliveryAnswer & { code?: string; reason?: string } }> {
  const full = {
    placeId: 'yard-records',
    fileName: 'Docket.pdf',
    bytes: body.length,
    sha256: sha(body),
    subject: 'Docket',
    message: '',
    ...request,
  };
  const answer = await fetch(`http://127.0.0.1:${port}/api/deliveries/${id}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/pdf', 'x-delivery': encodeURIComponent(JSON.stringify(full)), ...headers },
    body: new Uint8Array(body),
  });
  const first = (await answer.json()) as DeliveryAnswer;
  return { status: answer.status, answer: answer.status === 202 ? await settled(id) : first };
}

/** What becomes of one that was taken over: how it ends, or why it is tried again. */
async function settled(id: string): Promise<DeliveryAnswer> {
  for (;;) {
    const answer = (await (await fetch(`http://127.0.0.1:${port}/api/deliveries/${id}`)).json()) as DeliveryAnswer;
    if (answer.state !== 'carrying' || answer.code) return answer;
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
}

const year = String(new Date().getFullYear());
const inFolder = () => readdirSync(path.join(standIns.folder, 'Surveys', year));
const inMailbox = () => readdirSync(standIns.mail).filter((n) => n.endsWith('.eml'));

describe('a mailbox', () => {
  const mails = (subject: string) =>
    inMailbox().filter((name) => readFileSync(path.join(standIns.mail, name), 'utf8').includes(`Subject: ${subject}`));

  test('eight clients at once under one id, again and again: one mail each time', async () => {
    for (let round = 0; round < 12; round++) {
      const id = newId();
      const subject = `Race ${round} of eight`;
      const answers = await Promise.all(
        Array.from({ length: 8 }, async (_, i) => {
          // Over the time that one is carried: some look before it has arrived and claim after it.
          await new Promise((resolve) => setTimeout(resolve, i * (3 + round)));
          return put(id, { placeId: 'workshop', subject });
        }),
      );
      expect(answers.some(({ answer }) => answer.state === 'arrived')).toBe(true);
      expect(mails(subject)).toHaveLength(1);
    }
  });

  test('looked at before another attempt had arrived, claimed after it: one mail', async () => {
    const id = newId();
    const request = { placeId: 'workshop', subject: 'Between look and claim' };
    const claim = Reflect.get(FileLedger.prototype, 'claim') as FileLedger['claim'];
    let first: ReturnType<typeof put> | undefined;
    const spy = jest.spyOn(FileLedger.prototype, 'claim').mockImplementationOnce(async function (
      this: FileLedger,
      ...args: Parameters<FileLedger['claim']>
    ) {
      spy.mockRestore();
      first = put(id, request);
      await first;
      return claim.apply(this, args);
    });
    const late = await put(id, request);
    expect(late.answer).toEqual((await first!).answer);
    expect(mails('Between look and claim')).toHaveLength(1);
  });

  test('accepted, but the disk is full when that is to be noted: it has arrived, and is not sent again', async () => {
    const id = newId();
    const ledger = path.join(dataDir, 'deliveries');
    const putEntry = Reflect.get(FileLedger.prototype, 'put') as FileLedger['put'];
    const spy = jest.spyOn(FileLedger.prototype, 'put').mockImplementation(async function (this: FileLedger, entry: Entry) {
      // Where the note would be written there is a folder.
      if (entry.id === id && entry.state === 'arrived') mkdirSync(path.join(ledger, `${id}.part`), { recursive: true });
      return putEntry.call(this, entry);
    });
    const request = { placeId: 'workshop', subject: 'Noted later' };
    const first = await put(id, request);
    spy.mockRestore();
    expect(first.answer.state).toBe('arrived');
    expect((await put(id, request)).answer).toEqual(first.answer);
    expect(mails('Noted later')).toHaveLength(1);
    rmdirSync(path.join(ledger, `${id}.part`));
    // With the next one it is noted.
    await put(newId(), { placeId: 'workshop', subject: 'The next one' });
    expect(JSON.parse(readFileSync(path.join(ledger, `${id}.json`), 'utf8'))).toMatchObject({ state: 'arrived' });
  });

  test('what cannot be noted before it is handed over is not handed over', async () => {
    const id = newId();
    const putEntry = Reflect.get(FileLedger.prototype, 'put') as FileLedger['put'];
    const spy = jest.spyOn(FileLedger.prototype, 'put').mockImplementation(async function (this: FileLedger, entry: Entry) {
      if (entry.id === id && entry.state === 'handing') throw Object.assign(new Error('no space'), { code: 'ENOSPC' });
      return putEntry.call(this, entry);
    });
    const { answer } = await put(id, { placeId: 'workshop', subject: 'Not without a note' });
    spy.mockRestore();
    expect(answer).toMatchObject({ state: 'carrying' });
    expect(mails('Not without a note')).toHaveLength(0);
    expect(
      await fetch(`http://127.0.0.1:${port}/api/deliveries/${id}`, { method: 'DELETE' }).then((r) => r.json()),
    ).toMatchObject({
      code: 'cancelled',
    });
  });
});

describe('a cloud folder', () => {
  test('the file lies there byte for byte, and the proof says so', async () => {
    const { answer } = await put(newId(), { fileName: 'Überführung Wren.pdf' });
    expect(answer).toMatchObject({
      state: 'arrived',
      proof: {
        how: 'read-back',
        sha256: sha(file),
        bytes: file.length,
        where: `Yard records / Surveys / ${year} / Überführung Wren.pdf`,
      },
    });
    expect(Buffer.compare(readFileSync(path.join(standIns.folder, 'Surveys', year, 'Überführung Wren.pdf')), file)).toBe(0);
    expect(inFolder().filter((n) => n.includes('.part'))).toEqual([]);
  });

  test('sent again under its id, or the same file under another, it lies there once', async () => {
    const id = newId();
    const first = await put(id, { fileName: 'Once.pdf' });
    expect((await put(id, { fileName: 'Once.pdf' })).answer).toEqual(first.answer);
    await put(newId(), { fileName: 'Once.pdf' });
    expect(inFolder().filter((n) => n.startsWith('Once'))).toEqual(['Once.pdf']);
  });

  test('many at once under one id: one file, and nobody is told of an arrival that is not', async () => {
    const id = newId();
    const answers = await Promise.all(Array.from({ length: 6 }, () => put(id, { fileName: 'Race.pdf' })));
    expect(answers.filter((a) => a.answer.state === 'arrived').length).toBeGreaterThanOrEqual(1);
    for (const { status, answer } of answers)
      if (answer.state === 'failed') expect([status, answer.code, answer.again]).toEqual([409, 'under-way', true]);
    expect(inFolder().filter((n) => n.startsWith('Race'))).toEqual(['Race.pdf']);
  });

  test('another file of the same name gets a number, nothing is written over', async () => {
    const other = Buffer.from('%PDF-1.7 another');
    await put(newId(), { fileName: 'Twin.pdf' });
    const { answer } = await put(newId(), { fileName: 'Twin.pdf' }, other);
    expect(answer).toMatchObject({ state: 'arrived', proof: { where: expect.stringContaining('Twin (2).pdf') } });
    expect(readFileSync(path.join(standIns.folder, 'Surveys', year, 'Twin.pdf'))).toHaveLength(file.length);
  });

  test('an id that delivered one file does not take another', async () => {
    const id = newId();
    await put(id, { fileName: 'Mine.pdf' });
    expect(await put(id, { fileName: 'Mine.pdf' }, Buffer.from('%PDF other'))).toMatchObject({
      status: 409,
      answer: { code: 'other-delivery' },
    });
  });

  test('a wrong password and a server that is gone are told apart, in words', async () => {
    expect((await put(newId(), { placeId: 'wrong-password' })).answer).toMatchObject({
      state: 'failed',
      code: 'refused',
      again: false,
      reason: expect.stringContaining('user name and password'),
    });
    expect((await put(newId(), { placeId: 'nobody-there' })).answer).toMatchObject({
      state: 'carrying',
      code: 'unreachable',
      nextAt: expect.stringMatching(/^20/),
      reason: expect.stringContaining('does not answer'),
    });
  });
});

describe('a mailbox', () => {
  test('one MIME message to all addresses, the attachment byte for byte', async () => {
    const before = new Set(inMailbox());
    const { answer } = await put(newId(), {
      placeId: 'owner-and-insurer',
      fileName: 'Größe.pdf',
      subject: 'Größe “Wren”',
      message: 'As agreed.\nRegards',
    });
    expect(answer).toMatchObject({ state: 'arrived', proof: { how: 'accepted', receipt: expect.stringMatching(/^250 /) } });
    const [name] = inMailbox().filter((n) => !before.has(n));
    const mail = await simpleParser(readFileSync(path.join(standIns.mail, name!)));
    expect(mail.subject).toBe('Größe “Wren”');
    expect([mail.to].flat()[0]!.value.map((v) => v.address)).toEqual([
      'owner@wren.example.org',
      'claims@marine-mutual.example.com',
    ]);
    expect(mail.text).toContain('As agreed.\nRegards');
    expect(mail.attachments.map((a) => [a.filename, a.contentType])).toEqual([['Größe.pdf', 'application/pdf']]);
    expect(Buffer.compare(mail.attachments[0]!.content, file)).toBe(0);
  });

  test('sent again under its id it is not mailed again', async () => {
    const id = newId();
    await put(id, { placeId: 'workshop' });
    const before = inMailbox().length;
    await put(id, { placeId: 'workshop' });
    expect(inMailbox()).toHaveLength(before);
  });

  test('too large, or a wrong password: said, and nothing is mailed', async () => {
    const before = inMailbox().length;
    expect((await put(newId(), { placeId: 'small-mail' })).answer).toMatchObject({ code: 'too-large', again: false });
    expect((await put(newId(), { placeId: 'wrong-mail' })).answer).toMatchObject({ code: 'refused', again: false });
    expect(inMailbox()).toHaveLength(before);
  });
});

describe('what is refused', () => {
  test.each([
    '../up.pdf',
    'a/b.pdf',
    'x\r\nBcc: all@example.org.pdf',
    'nul.pdf',
    '.hidden.pdf',
    'docket.pdf ',
    `${'a'.repeat(250)}.pdf`,
  ])('the file name %j', async (fileName) => {
    expect(await put(newId(), { fileName })).toMatchObject({ status: 400, answer: { code: 'bad-request' } });
  });

  test.each([
    { subject: 'Hello\r\nBcc: all@example.org' },
    { message: 'a\u0000b' },
    { bytes: -1 },
    { sha256: 'abc' },
    { placeId: '../x' },
  ])('the request %j', async (request) => {
    expect((await put(newId(), request)).status).toBe(400);
  });

  test('a place that is not configured, and an id that is none', async () => {
    expect(await put(newId(), { placeId: 'elsewhere' })).toMatchObject({ status: 404, answer: { code: 'unknown-place' } });
    expect((await put('..%2f..%2fetc', {})).status).toBe(400);
  });

  test('an upload that is damaged, cut short or longer than announced', async () => {
    expect((await put(newId(), { sha256: 'a'.repeat(64) })).answer).toMatchObject({ code: 'damaged', again: true });
    expect((await put(newId(), { bytes: file.length + 1 })).answer).toMatchObject({ code: 'cut-short' });
    expect(await put(newId(), { bytes: file.length - 1 })).toMatchObject({ status: 413, answer: { code: 'too-long' } });
    // Left are those that are tried again by themselves.
    const open = await new FileLedger(path.join(dataDir, 'deliveries')).open();
    expect(readdirSync(path.join(dataDir, 'incoming')).sort()).toEqual(open.map((e) => e.file).sort());
  });

  test('more than the limit, before a byte of it is read', async () => {
    expect((await put(newId(), { bytes: 300_000_000 })).status).toBe(400);
  });

  const raw = (headers: Record<string, string>) =>
    new Promise<number>((resolve, reject) => {
      http
        .get({ port, host: '127.0.0.1', path: '/api/places', headers }, (r) => resolve(r.resume().statusCode!))
        .on('error', reject);
    });

  test('pages of other origins and other host names', async () => {
    expect(await raw({ host: `127.0.0.1:${port}` })).toBe(200);
    expect(await raw({ host: 'rebound.example.com' })).toBe(421);
    expect(await raw({ host: `localhost:${port}`, origin: 'http://evil.example.com' })).toBe(403);
  });
});

describe('what the browser sees', () => {
  test('places by name only', async () => {
    const text = await (await fetch(`http://127.0.0.1:${port}/api/places`)).text();
    for (const secret of ['stand-in', 'guess', 'example.org', '127.0.0.1', 'username']) expect(text).not.toContain(secret);
    expect(JSON.parse(text).places[0]).toEqual({
      v: 1,
      id: 'yard-records',
      kind: 'folder',
      name: 'Yard records',
      about: `Surveys / ${year}`,
      limit: 200_000_000,
    });
  });

  test('the stand-ins’ page escapes what was sent', async () => {
    await put(newId(), { placeId: 'workshop', subject: '<script>alert(1)</script>' });
    const page = await (await fetch(`http://127.0.0.1:${port}/stand-ins/`)).text();
    expect(page).not.toContain('<script>alert');
    expect(page).toContain('&#60;script&#62;');
  });

  test.each(['/stand-ins/folder/..%2f..%2fdeliveries', '/stand-ins/mail/..%2f..%2fx.eml/0', '/stand-ins/folder/%2fetc%2fpasswd'])(
    '%s leads nowhere',
    async (address) => {
      expect((await fetch(`http://127.0.0.1:${port}${address}`)).status).toBe(404);
    },
  );
});

describe('configuration', () => {
  const folder = {
    kind: 'folder',
    id: 'records',
    name: 'Records',
    url: 'https://cloud.example.org/dav/',
    username: 'scans',
    passwordEnv: 'RECORDS_PASSWORD',
  };
  test('secrets come from the environment', () => {
    expect(parseConfig({ places: [folder] }, { RECORDS_PASSWORD: 'x' }).places[0]).toMatchObject({ password: 'x' });
    expect(() => parseConfig({ places: [folder] }, {})).toThrow('RECORDS_PASSWORD, which is not set');
  });

  test.each([
    [{ places: [{ ...folder, password: 'x' }] }, 'password'],
    [{ places: [{ ...folder, url: 'file:///etc' }] }, 'url'],
    [{ places: [{ ...folder, passwordEnv: 'hunter2 is secret' }] }, 'environment variable'],
    [{ places: [folder, folder] }, 'two places'],
    [{ places: [{ ...folder, url: 'http://cloud.example.org/' }] }, 'unencrypted'],
    [{ places: [{ ...folder, url: 'https://scans:x@cloud.example.org/' }] }, 'fields of their own'],
  ])('%j is refused by name', (config, message) => expect(() => parseConfig(config, { RECORDS_PASSWORD: 'x' })).toThrow(message));

  test('the example file fits, its places show no address', () => {
    const example = JSON.parse(readFileSync(path.join(__dirname, '../libretto.config.example.json'), 'utf8'));
    const parsed = parseConfig(example, { YARD_RECORDS_PASSWORD: 'a', SCANS_MAIL_PASSWORD: 'b' });
    expect(parsed.places.map((p) => publicPlace(p)).map((p) => p.about)).toEqual(['Surveys / 2026', '1 address', '']);
  });
});

describe('what does not fit is answered in the form of deliveries', () => {
  const send = (type: string, body: string) =>
    fetch(`http://127.0.0.1:${port}/api/deliveries/${newId()}`, { method: 'PUT', headers: { 'content-type': type }, body });

  test.each(['application/json', 'text/plain', 'image/gif'])('a body of %s is refused before it is read', async (type) => {
    const answer = await send(type, JSON.stringify('x'.repeat(500_000)));
    expect(answer.status).toBe(415);
    expect(await answer.json()).toMatchObject({ state: 'failed', code: 'bad-request', again: false });
  });

  test('a ledger entry that is damaged is a fault of the server’s own, to be tried again', async () => {
    const id = newId();
    mkdirSync(path.join(dataDir, 'deliveries'), { recursive: true });
    writeFileSync(path.join(dataDir, 'deliveries', `${id}.json`), '{"placeId":"wor');
    const { status, answer } = await put(id, { placeId: 'workshop' });
    expect([status, answer]).toEqual([500, expect.objectContaining({ state: 'failed', code: 'fault', again: true })]);
  });

  test('a message as long as the form allows goes through, whatever its script', async () => {
    const message = '船'.repeat(2000);
    const { answer } = await put(newId(), { placeId: 'workshop', subject: 'A long letter', message });
    expect(answer.state).toBe('arrived');
    const name = inMailbox().find((n) => readFileSync(path.join(standIns.mail, n), 'utf8').includes('Subject: A long letter'))!;
    expect((await simpleParser(readFileSync(path.join(standIns.mail, name)))).text).toContain(message);
  });
});

test('two places with one id are refused at the start: a stand-in would take a real place’s deliveries', async () => {
  await expect(buildApp({ places: [places[0]!, { ...places[1]!, id: places[0]!.id }], dataDir })).rejects.toThrow(
    'Two places have the id',
  );
});

test('a ledger outlives the server', async () => {
  const id = newId();
  await put(id, { fileName: 'Kept.pdf' });
  writeFileSync(path.join(dataDir, 'deliveries', 'abandoned.claim'), '');
  const onDisk = () => JSON.parse(readFileSync(path.join(dataDir, 'deliveries', `${id}.json`), 'utf8')) as Entry;
  while (onDisk().state !== 'arrived') await new Promise((resolve) => setTimeout(resolve, 10));
  const again = await buildApp({ places, dataDir });
  const answer = await again.inject({ url: `/api/deliveries/${id}`, headers: { host: 'localhost' } });
  expect(answer.json()).toMatchObject({ state: 'arrived' });
  // What a stopped server held is given up before the first delivery is taken.
  await again.inject({ method: 'PUT', url: '/api/deliveries/another-delivery', headers: { host: 'localhost' } });
  expect(readdirSync(path.join(dataDir, 'deliveries'))).not.toContain('abandoned.claim');
  await again.close();
});
