import { createHash, randomUUID } from 'node:crypto';
import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import type { DeliveryAnswer } from '@libretto/model';
import { buildApp } from '../app';
import { startStandIns, type StandIns } from '../standins/start';
import { startPostgres, type Database } from '../testing/postgres';
import { received, type Entry } from './entry';
import { FileLedger, FolderContents } from './fileLedger';
import { Overtaken, type Contents, type Ledger } from './ledger';
import { PostgresContents, PostgresLedger } from './postgresLedger';

const folder = () => mkdtempSync(path.join(tmpdir(), 'libretto-ledger-'));
const file = Buffer.from(`%PDF-1.7\n${'stern tube '.repeat(200_000)}`);
const sha256 = createHash('sha256').update(file).digest('hex');
const request = (placeId: string, subject: string) => ({ placeId, fileName: `${subject}.pdf`, bytes: file.length, sha256, subject, message: '' }); // prettier-ignore
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const leaseMs = 400;

let database: Database;
beforeAll(async () => (database = await startPostgres()), 60_000);
afterAll(() => database.close());

const kinds: Record<string, () => { ledger: Ledger; contents: (folder: string) => Contents }> = {
  'of files': () => ({ ledger: new FileLedger(folder()), contents: (dir) => new FolderContents(dir) }),
  'in PostgreSQL': () => {
    const ledger = new PostgresLedger({ url: database.url, leaseMs });
    return { ledger, contents: (dir) => new PostgresContents(dir, ledger.pool) };
  },
};

describe.each(Object.keys(kinds))('a ledger %s', (kind) => {
  let store: ReturnType<(typeof kinds)[string]>;
  beforeAll(async () => {
    store = kinds[kind]!();
    await store.ledger.begin();
  });
  afterAll(() => store.ledger.close());
  const entry = (part: Partial<Entry> = {}): Entry => ({
    ...received(randomUUID(), request('yard', 'Docket’s “1”'), 'name'),
    ...part,
  });

  test('gives back what was noted, the last of many', async () => {
    const one = entry();
    expect(await store.ledger.find(one.id)).toBeNull();
    await Promise.all([1, 2, 3, 4].map((attempts) => store.ledger.put({ ...one, attempts })));
    expect(await store.ledger.find(one.id)).toMatchObject({ ...one, attempts: 4, changedAt: expect.any(String) });
    expect((await store.ledger.open()).map((e) => e.id)).toContain(one.id);
    await store.ledger.put({ ...one, state: 'refused' });
    expect((await store.ledger.open()).map((e) => e.id)).not.toContain(one.id);
  });

  test('one of many who want it gets a delivery; given back, the next', async () => {
    const { id } = entry();
    const claims = await Promise.all(Array.from({ length: 8 }, () => store.ledger.claim(id, 'carrying')));
    const [held] = claims.filter((c) => c !== null);
    expect(claims.filter((c) => c !== null)).toHaveLength(1);
    expect(await store.ledger.claim(id, 'receiving')).not.toBeNull();
    expect(await store.ledger.claim(id, 'carrying')).toBeNull();
    await held!.release();
    const next = await store.ledger.claim(id, 'carrying');
    expect(next).not.toBeNull();
    // Given back twice it takes nothing from the next.
    await held!.release();
    expect(await store.ledger.claim(id, 'carrying')).toBeNull();
    await next!.release();
  });

  test('who has lost a claim notes nothing more', async () => {
    const one = entry();
    await store.ledger.put(one);
    const claim = (await store.ledger.claim(one.id, 'carrying'))!;
    await store.ledger.put({ ...one, state: 'carrying' }, claim);
    await claim.release();
    await expect(store.ledger.put({ ...one, state: 'handing' }, claim)).rejects.toThrow(Overtaken);
    expect(await store.ledger.find(one.id)).toMatchObject({ state: 'carrying' });
  });

  test('forgets what has been over for long, and nothing else', async () => {
    const [over, open] = [entry({ state: 'arrived' }), entry()];
    await store.ledger.put(over);
    await store.ledger.put(open);
    await store.ledger.prune(new Date(Date.now() - 60_000));
    expect(await store.ledger.find(over.id)).not.toBeNull();
    await store.ledger.prune(new Date(Date.now() + 60_000));
    expect(await store.ledger.find(over.id)).toBeNull();
    expect(await store.ledger.find(open.id)).not.toBeNull();
  });

  test('keeps a file until its delivery is over, and gives out none that is not whole', async () => {
    const dir = folder();
    const contents = store.contents(dir);
    await contents.prune(new Set());
    writeFileSync(path.join(dir, 'kept'), file);
    await contents.keep('kept');
    expect(await contents.fetch('kept', file.length)).toBe(path.join(dir, 'kept'));
    expect(await contents.fetch('kept', file.length + 1)).toBeNull();
    await contents.prune(new Set(['kept']));
    expect(await contents.fetch('kept', file.length)).not.toBeNull();
    await contents.drop('kept');
    expect(await contents.fetch('kept', file.length)).toBeNull();
  });
});

test('a lease that nobody renews goes to the next, and what its holder still says is not noted', async () => {
  const ledger = new PostgresLedger({ url: database.url, leaseMs });
  await ledger.begin();
  const one = received(randomUUID(), request('yard', 'Lease'), null);
  await ledger.put(one);
  const claim = (await ledger.claim(one.id, 'carrying'))!;
  // Renewed it stays.
  await wait(leaseMs * 2);
  expect(await ledger.claim(one.id, 'carrying')).toBeNull();
  // As if its server had gone to sleep.
  await ledger.pool.query(
    `update libretto_claims set until = now() - interval '1 second', token = token || '-asleep' where id = $1`,
    [one.id],
  );
  const next = await ledger.claim(one.id, 'carrying');
  expect(next).not.toBeNull();
  await expect(ledger.put({ ...one, state: 'handing' }, claim)).rejects.toThrow(Overtaken);
  await ledger.put({ ...one, state: 'carrying' }, next);
  expect(await ledger.find(one.id)).toMatchObject({ state: 'carrying' });
  await claim.release();
  await next!.release();
  await ledger.close();
});

describe('two servers on one ledger', () => {
  let standIns: StandIns;
  const servers: { app: FastifyInstance; url: string; dataDir: string }[] = [];
  beforeAll(async () => {
    standIns = await startStandIns(folder());
    for (let i = 0; i < 2; i++) {
      const dataDir = folder();
      const app = await buildApp({ places: standIns.places, dataDir, standIns, database: { url: database.url, leaseMs } });
      await app.listen({ host: '127.0.0.1', port: 0 });
      servers.push({ app, dataDir, url: `http://127.0.0.1:${(app.server.address() as AddressInfo).port}` });
    }
  }, 60_000);
  afterAll(async () => {
    for (const { app } of servers) await app.close();
    await standIns.close();
  });
  const put = (n: number, id: string, wanted: object) =>
    fetch(`${servers[n]!.url}/api/deliveries/${id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/pdf', 'x-delivery': encodeURIComponent(JSON.stringify(wanted)) },
      body: new Uint8Array(file),
    }).then(async (r) => (await r.json()) as DeliveryAnswer);
  const ended = async (n: number, id: string) => {
    for (;;) {
      const answer = (await (await fetch(`${servers[n]!.url}/api/deliveries/${id}`)).json()) as DeliveryAnswer;
      if (answer.state !== 'carrying') return answer;
      await wait(15);
    }
  };
  const mailed = (subject: string) =>
    readdirSync(standIns.mail).filter((n) => n.endsWith('.eml') && readFileSync(path.join(standIns.mail, n), 'utf8').includes(`Subject: ${subject}\r`)).length; // prettier-ignore

  test('eight clients bring one delivery to both, five times: one mail each, and both know of it', async () => {
    for (let round = 0; round < 5; round++) {
      const [id, subject] = [randomUUID(), `Shared ${round}`];
      await Promise.all(Array.from({ length: 8 }, (_, i) => put(i % 2, id, request('workshop', subject))));
      const answers = await Promise.all([ended(0, id), ended(1, id)]);
      expect(answers.map((a) => a.state)).toEqual(['arrived', 'arrived']);
      expect(answers[0]).toEqual(answers[1]);
      expect(mailed(subject)).toBe(1);
    }
  });

  test('what a server left that has ended is carried by the other, with the file from the database', async () => {
    const id = randomUUID();
    const ledger = new PostgresLedger({ url: database.url, leaseMs });
    const dir = folder();
    const gone = new PostgresContents(dir, ledger.pool);
    writeFileSync(path.join(dir, 'left'), file);
    await gone.keep('left');
    await ledger.claim(id, 'carrying');
    await ledger.put({ ...received(id, request('workshop', 'Left'), 'left'), state: 'carrying' });
    // Its connections end with it, so that nothing renews the claim.
    await ledger.close();
    expect((await ended(1, id)).state).toBe('arrived');
    expect(mailed('Left')).toBe(1);
    // It is noted first, then the file goes.
    for (const { dataDir } of servers) while (existsSync(path.join(dataDir, 'incoming', 'left'))) await wait(15);
  }, 60_000);

  test('left in the middle of being handed over: in doubt, sent by nobody', async () => {
    const id = randomUUID();
    const ledger = new PostgresLedger({ url: database.url, leaseMs });
    await ledger.put({ ...received(id, request('workshop', 'Handed'), 'handed'), state: 'handing', heard: [{ address: 'workshop@saltmarsh.example.org', state: 'open', reply: '' }] }); // prettier-ignore
    await ledger.close();
    expect(await ended(0, id)).toMatchObject({ state: 'doubt', heard: [{ state: 'doubt' }] });
    expect(mailed('Handed')).toBe(0);
  }, 60_000);

  test('taken back at one server while the other carries it', async () => {
    const id = randomUUID();
    standIns.moods.folder = 'slow';
    await put(0, id, request('yard-records', 'Back'));
    const answer = (await (
      await fetch(`${servers[1]!.url}/api/deliveries/${id}`, { method: 'DELETE' })
    ).json()) as DeliveryAnswer;
    expect(answer).toMatchObject({ state: 'failed', code: 'cancelled' });
    expect(await ended(0, id)).toMatchObject({ code: 'cancelled' });
  });

  test('who follows at one server hears what the other does, which one of them counts', async () => {
    const id = randomUUID();
    const arrived = async () => {
      const counts = await Promise.all(
        servers.map(async ({ url }) => {
          const text = await (await fetch(`${url}/api/metrics`)).text();
          return Number(/^libretto_deliveries_ended_total\{state="arrived"\} (\d+)/m.exec(text)?.[1] ?? NaN);
        }),
      );
      return counts.reduce((a, b) => a + b, 0);
    };
    standIns.moods.folder = 'well';
    const before = await arrived();
    const following = await fetch(`${servers[1]!.url}/api/deliveries/events?ids=${id}`);
    const reader = following.body!.pipeThrough(new TextDecoderStream()).getReader();
    await put(0, id, request('workshop', 'Followed'));
    for (let heard = ''; !heard.includes('"arrived"');) {
      const { value, done } = await reader.read();
      expect(done).toBe(false);
      heard += value;
    }
    await reader.cancel();
    expect(await arrived()).toBe(before + 1);
    expect(mailed('Followed')).toBe(1);
  });

  test('places are those of the configuration', async () => {
    const response = await fetch(`${servers[0]!.url}/api/places`);
    expect(await response.json()).toMatchObject({ mayChange: false });
  });
});
