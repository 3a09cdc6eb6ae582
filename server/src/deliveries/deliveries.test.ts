import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import { Upload } from 'tus-js-client';
import type { DeliveryAnswer, DeliveryEvent } from '@libretto/model';
import { buildApp } from '../app';
import { received, type Entry } from '../ledger/entry';
import { isPublic } from '../places/reach';
import { startStandIns, type StandIns } from '../standins/start';

const file = Buffer.from(`%PDF-1.7\n${'stern tube '.repeat(2000)}`);
const sha = createHash('sha256').update(file).digest('hex');
const request = (placeId: string, part: object = {}) => ({ placeId, fileName: 'Docket.pdf', bytes: file.length, sha256: sha, subject: 'Docket', message: '', ...part }); // prettier-ignore

let standIns: StandIns;
const apps: FastifyInstance[] = [];
beforeAll(async () => {
  standIns = await startStandIns(mkdtempSync(path.join(tmpdir(), 'libretto-deliveries-')));
});
afterAll(async () => {
  for (const app of apps) await app.close();
  await standIns.close();
});

/** A server on a data folder as another one has left it. */
async function start(dataDir: string, rules?: Parameters<typeof buildApp>[0]['rules']) {
  const app = await buildApp({ places: standIns.places, dataDir, standIns, ...(rules && { rules }) });
  apps.push(app);
  await app.listen({ host: '127.0.0.1', port: 0 });
  const url = `http://127.0.0.1:${(app.server.address() as AddressInfo).port}`;
  const put = (id: string, wanted: object, body: Buffer = file, headers: Record<string, string> = {}) =>
    fetch(`${url}/api/deliveries/${id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/pdf', 'x-delivery': encodeURIComponent(JSON.stringify(wanted)), ...headers },
      body: new Uint8Array(body),
    }).then(async (r) => (await r.json()) as DeliveryAnswer & { code?: string });
  const state = async (id: string) => (await (await fetch(`${url}/api/deliveries/${id}`)).json()) as DeliveryAnswer;
  return { app, url, put, state };
}
const folder = () => mkdtempSync(path.join(tmpdir(), 'libretto-data-'));
const until = async <T>(look: () => Promise<T>, good: (seen: T) => boolean): Promise<T> => {
  for (;;) {
    const seen = await look();
    if (good(seen)) return seen;
    await new Promise((resolve) => setTimeout(resolve, 15));
  }
};
const mailed = (subject: string) =>
  readdirSync(standIns.mail).filter((n) => n.endsWith('.eml') && readFileSync(path.join(standIns.mail, n), 'utf8').includes(`Subject: ${subject}`)).length; // prettier-ignore

/** What a server that was killed has left of a delivery. */
function left(dataDir: string, entry: Partial<Entry> & Pick<Entry, 'id' | 'state' | 'request'>) {
  for (const name of ['deliveries', 'incoming']) mkdirSync(path.join(dataDir, name), { recursive: true });
  const whole: Entry = { ...received(entry.id, entry.request, `${entry.id}.file`), ...entry };
  writeFileSync(path.join(dataDir, 'deliveries', `${entry.id}.json`), JSON.stringify(whole));
  writeFileSync(path.join(dataDir, 'deliveries', `${entry.id}.carrying.claim`), 'a server that is gone');
  writeFileSync(path.join(dataDir, 'incoming', `${entry.id}.file`), file);
}

describe('after a server was killed', () => {
  test.each(['received', 'carrying'] as const)('%s: it is gone on with by itself, and arrives once', async (state) => {
    const dataDir = folder();
    const id = `delivery-killed-${state}`;
    left(dataDir, { id, state, request: request('workshop', { subject: `Killed while ${state}` }) });
    const { state: stateOf } = await start(dataDir);
    await until(() => stateOf(id), (a) => a.state === 'arrived'); // prettier-ignore
    expect(mailed(`Killed while ${state}`)).toBe(1);
    await until(async () => readdirSync(path.join(dataDir, 'incoming')), (names) => !names.length); // prettier-ignore
  });

  test('while it was handed over: in doubt, and goes again only when somebody says that it has not arrived', async () => {
    const dataDir = folder();
    const id = 'delivery-killed-handing';
    const wanted = request('workshop', { subject: 'Killed while handing' });
    left(dataDir, {
      id,
      state: 'handing',
      request: wanted,
      heard: [{ address: 'workshop@saltmarsh.example.org', state: 'open', reply: '' }],
    });
    const { state, put } = await start(dataDir);
    expect(await state(id)).toMatchObject({ state: 'doubt', heard: [{ state: 'doubt' }] });
    // Sent again by itself it stays in doubt.
    expect(await put(id, wanted)).toMatchObject({ state: 'doubt' });
    expect(mailed('Killed while handing')).toBe(0);
    expect((await put(id, { ...wanted, again: true })).state).toBe('carrying');
    await until(() => state(id), (a) => a.state === 'arrived'); // prettier-ignore
    expect(mailed('Killed while handing')).toBe(1);
  });

  test('what it had noted as arrived in its first form is still known', async () => {
    const dataDir = folder();
    mkdirSync(path.join(dataDir, 'deliveries'));
    const proof = {
      where: 'Workshop',
      at: '2026-11-20T14:02:00.000Z',
      bytes: file.length,
      sha256: sha,
      how: 'accepted',
      receipt: '250',
    };
    writeFileSync(
      path.join(dataDir, 'deliveries', 'delivery-old.json'),
      JSON.stringify({ placeId: 'workshop', sha256: sha, proof }),
    );
    const { put } = await start(dataDir);
    expect(await put('delivery-old', request('workshop', { subject: 'Old' }))).toEqual({ state: 'arrived', proof });
    expect(mailed('Old')).toBe(0);
  });
});

test('whoever follows hears how it stands and what becomes of it', async () => {
  const { url, put } = await start(folder());
  const events: DeliveryEvent[] = [];
  const following = http.get(`${url}/api/deliveries/events?ids=delivery-followed,delivery-unknown`, (response) =>
    response.on('data', (chunk: Buffer) => {
      for (const line of chunk.toString().split('\n'))
        if (line.startsWith('data: ')) events.push(JSON.parse(line.slice(6)) as DeliveryEvent);
    }),
  );
  await until(async () => events.length, (n) => n === 2); // prettier-ignore
  expect(events.map((e) => e.answer.state)).toEqual(['failed', 'failed']);
  await put('delivery-followed', request('yard-records'));
  await until(async () => events.at(-1)!, (e) => e.id === 'delivery-followed' && e.answer.state === 'arrived'); // prettier-ignore
  following.destroy();
});

test('a place that hangs stops no other; what waits for it can be taken back', async () => {
  const dataDir = folder();
  const silent = http.createServer(() => {});
  await new Promise<void>((resolve) => silent.listen(0, '127.0.0.1', resolve));
  const app = await buildApp({
    places: [...standIns.places, { kind: 'folder', id: 'hangs', name: 'Silent', url: `http://127.0.0.1:${(silent.address() as AddressInfo).port}/`, folder: '' }],
    dataDir,
  }); // prettier-ignore
  apps.push(app);
  await app.listen({ host: '127.0.0.1', port: 0 });
  const url = `http://127.0.0.1:${(app.server.address() as AddressInfo).port}/api/deliveries`;
  const put = (id: string, placeId: string) =>
    fetch(`${url}/${id}`, { method: 'PUT', headers: { 'content-type': 'application/pdf', 'x-delivery': encodeURIComponent(JSON.stringify(request(placeId))) }, body: new Uint8Array(file) }); // prettier-ignore
  for (let n = 0; n < 4; n++) expect((await put(`delivery-hangs-${n}`, 'hangs')).status).toBe(202);
  await put('delivery-goes-on', 'yard-records');
  const state = async (id: string) => (await (await fetch(`${url}/${id}`)).json()) as DeliveryAnswer & { code?: string };
  await until(() => state('delivery-goes-on'), (a) => a.state === 'arrived'); // prettier-ignore
  // One under way, and one that waits for its turn.
  for (const n of [0, 3])
    expect(await (await fetch(`${url}/delivery-hangs-${n}`, { method: 'DELETE' })).json()).toMatchObject({
      state: 'failed',
      code: 'cancelled',
    });
  expect(readdirSync(path.join(dataDir, 'incoming')).filter((name) => /hangs-[03]/.test(name))).toEqual([]);
  await app.close();
  // Stopped, nothing is lost of what was under way.
  const kept = (n: number) => (JSON.parse(readFileSync(path.join(dataDir, 'deliveries', `delivery-hangs-${n}.json`), 'utf8')) as Entry).state; // prettier-ignore
  expect([kept(1), kept(2)]).toEqual(['received', 'received']);
  silent.closeAllConnections();
  silent.close();
}, 30_000);

describe('what is taken over', () => {
  test.each([
    ['Docket.pdf', Buffer.from('<html>hello'), 'other-kind'],
    ['Docket.png', file, 'other-kind'],
    ['Words.txt', Buffer.from('a\0b'), 'other-kind'],
    ['Docket.exe', file, 'bad-request'],
    ['Docket.html', file, 'other-kind'],
    // A web page of ours has nothing in it that could run.
    [
      'Docket.html',
      Buffer.from('<!DOCTYPE html>\n<html><body><p>Iroko</p><script>alert(1)</script></body></html>'),
      'other-kind',
    ],
    ['Docket.html', Buffer.from('<!DOCTYPE html>\n<html><body onload="alert(1)"></body></html>'), 'other-kind'],
    ['Docket.docx', file, 'other-kind'],
    ['Docket.svg', Buffer.from('<svg/>'), 'bad-request'],
    ['Docket\u061c.pdf', file, 'bad-request'],
    ['Docket\u{e0041}.pdf', file, 'bad-request'],
    ['Docket\u3164.pdf', file, 'bad-request'],
  ])('%s is refused where it is not what it says, or its name hides something', async (fileName, body, code) => {
    const { put } = await start(folder());
    const sha256 = createHash('sha256').update(body).digest('hex');
    expect(await put('delivery-kind', request('yard-records', { fileName, bytes: body.length, sha256 }), body)).toMatchObject({
      state: 'failed',
      code,
      again: false,
    });
  });

  test.each([
    [
      'Docket.html',
      '<!DOCTYPE html>\n<html><body><p>Iroko, planed &lt;script&gt;, one = 4, see javascript: notes</p></body></html>',
    ],
    ['Docket.md', '# Docket'],
    ['Suppliers.vcf', 'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Noor Aspinall\r\nEND:VCARD\r\n'],
    ['Docket.docx', 'PK\u0003\u0004'],
  ])('%s is taken over', async (fileName, text) => {
    const { put } = await start(folder());
    const body = Buffer.from(text);
    const sha256 = createHash('sha256').update(body).digest('hex');
    const answer = await put('delivery-kind', request('yard-records', { fileName, bytes: body.length, sha256 }), body);
    expect(['received', 'carrying', 'arrived']).toContain(answer.state);
  });

  test('an address that is none is refused before anything goes out', async () => {
    const { put } = await start(folder());
    for (const to of [['a@b.example\r\nBcc: all@example.org'], ['nobody'], ['<x@y.example>']])
      expect(await put('delivery-address', request('workshop', { to }))).toMatchObject({ state: 'failed', code: 'bad-request' });
  });
});

describe('places added in the app', () => {
  const form = {
    kind: 'folder',
    name: 'Winter store',
    url: 'http://127.0.0.1:9/',
    folder: 'x',
    username: 'yard',
    password: 'a secret',
  };
  const json = (url: string, method: string, body?: object, headers: Record<string, string> = {}) =>
    fetch(url, {
      method,
      headers: { ...(body && { 'content-type': 'application/json' }), ...headers },
      ...(body && { body: JSON.stringify(body) }),
    });

  test('are kept sealed, come back after a restart, and their password never comes out', async () => {
    const dataDir = folder();
    const { url, app } = await start(dataDir, { privatePlaces: true, placesChangedBy: 'thisMachine' });
    const made = (await (await json(`${url}/api/places`, 'POST', form)).json()) as { id: string };
    const kept = path.join(dataDir, 'places.json');
    expect(readFileSync(kept, 'utf8')).not.toContain('a secret');
    for (const name of [kept, path.join(dataDir, 'places.key')]) expect(statSync(name).mode & 0o077).toBe(0);
    const filled = await (await json(`${url}/api/places/${made.id}`, 'GET')).text();
    expect(JSON.parse(filled)).toMatchObject({ name: 'Winter store', hasPassword: true });
    expect(filled).not.toContain('a secret');
    // Changed without a password, it keeps the one it has.
    const { password: _password, ...without } = form;
    expect((await json(`${url}/api/places/${made.id}`, 'PUT', { ...without, name: 'Store' })).status).toBe(200);
    await app.close();
    const again = await start(dataDir, { privatePlaces: true, placesChangedBy: 'thisMachine' });
    expect(await (await json(`${again.url}/api/places/${made.id}`, 'GET')).json()).toMatchObject({
      name: 'Store',
      hasPassword: true,
    });
    expect((await json(`${again.url}/api/places/${made.id}`, 'DELETE')).status).toBe(204);
    expect(await (await json(`${again.url}/api/places`, 'GET')).text()).not.toContain('Store');
  });

  test.each([
    'http://127.0.0.1:9/',
    'http://localhost:9/',
    'http://[::1]:9/',
    'http://[::ffff:127.0.0.1]:9/',
    'http://2130706433:9/',
    'http://0x7f.1:9/',
    'https://192.168.1.20/',
    'https://169.254.169.254/',
    'https://10.0.0.1/',
  ])('%s lies within a private network and is not talked to', async (address) => {
    // prettier-ignore
    const { url } = await start(folder());
    const answer = (await (await json(`${url}/api/places/try`, 'POST', { ...form, url: address, username: '' })).json()) as { failed: { reason: string } }; // prettier-ignore
    expect(answer.failed.reason).toContain('within a private network');
  });

  test('which addresses are everybody’s', () => {
    expect(['93.184.216.34', '2606:2800:220:1::1'].map(isPublic)).toEqual([true, true]);
    // RFC 6890, and IPv4 within IPv6 (RFC 4291, 2.5.5.2).
    for (const address of [
      '10.1.2.3',
      '172.16.0.1',
      '192.168.0.1',
      '127.8.8.8',
      '169.254.1.1',
      '100.64.0.1',
      '0.0.0.0',
      '::1',
      'fe80::1',
      'fc00::1',
      '::ffff:10.0.0.1',
      '224.0.0.1',
      'no address',
    ])
      // prettier-ignore
      expect([address, isPublic(address)]).toEqual([address, false]);
  });

  test('a password is not sent to another machine in the open, nor along a redirect', async () => {
    const { url } = await start(folder());
    const refused = await json(`${url}/api/places`, 'POST', { ...form, url: 'http://cloud.example.org/dav/' });
    expect(refused.status).toBe(400);
    expect(await refused.text()).toContain('unencrypted');
    const seen: (string | undefined)[] = [];
    const elsewhere = http.createServer((r, reply) => (seen.push(r.headers.authorization), reply.end()));
    await new Promise<void>((resolve) => elsewhere.listen(0, '127.0.0.1', resolve));
    const target = `http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}/`;
    const redirects = http.createServer((_r, reply) => reply.writeHead(307, { location: target }).end());
    await new Promise<void>((resolve) => redirects.listen(0, '127.0.0.1', resolve));
    const open = await start(folder(), { privatePlaces: true, placesChangedBy: 'thisMachine' });
    const way = `http://127.0.0.1:${(redirects.address() as AddressInfo).port}/`;
    const answer = (await (await json(`${open.url}/api/places/try`, 'POST', { ...form, url: way })).json()) as { failed: { reason: string } }; // prettier-ignore
    expect(answer.failed.reason).toContain('sends us to another address');
    expect(seen).toEqual([]);
    elsewhere.close();
    redirects.close();
  });

  test('a picture or a frame on another page reaches nothing', async () => {
    const { url } = await start(folder());
    for (const address of ['/stand-ins/', '/api/places'])
      expect(
        (await json(`${url}${address}`, 'GET', undefined, { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'no-cors' }))
          .status,
      ).toBe(403);
  });
});

describe('uploads that go on where they were cut off (tus 1.0.0)', () => {
  const version = { 'tus-resumable': '1.0.0' };
  /** What a client of the protocol says, by hand. */
  async function uploading(id: string) {
    const { url, put, state } = await start(folder());
    const at = `${url}/api/uploads/${id}`;
    const create = (headers: Record<string, string> = {}) =>
      fetch(`${url}/api/uploads`, { method: 'POST', headers: { ...version, 'upload-length': String(file.length), 'upload-metadata': `delivery ${Buffer.from(id).toString('base64')}`, ...headers } }); // prettier-ignore
    const append = (offset: number, body: Buffer) =>
      fetch(at, { method: 'PATCH', headers: { ...version, 'upload-offset': String(offset), 'content-type': 'application/offset+octet-stream' }, body: new Uint8Array(body) }); // prettier-ignore
    const offset = async () => {
      const answer = await fetch(at, { method: 'HEAD', headers: version });
      return answer.ok ? Number(answer.headers.get('upload-offset')) : answer.status;
    };
    const hand = (wanted: object) => put(id, wanted, Buffer.alloc(0), { 'x-uploaded': '1' });
    return { url, create, append, offset, hand, state };
  }

  test('in three goes, one of them out of turn: it is handed over, arrives once, and nothing of it stays', async () => {
    const id = 'delivery-in-goes';
    const { create, append, offset, hand, state } = await uploading(id);
    expect((await create()).headers.get('location')).toBe(`/api/uploads/${id}`);
    expect((await append(0, file.subarray(0, 5000))).status).toBe(204);
    expect((await append(0, file.subarray(0, 5000))).status).toBe(409);
    expect(await offset()).toBe(5000);
    const wanted = request('yard-records', { fileName: 'In goes.pdf' });
    expect(await hand(wanted)).toMatchObject({ state: 'failed', code: 'not-uploaded', again: true });
    expect((await append(5000, file.subarray(5000))).status).toBe(204);
    expect((await hand(wanted)).state).toBe('carrying');
    await until(() => state(id), (a) => a.state === 'arrived'); // prettier-ignore
    expect((await hand(wanted)).state).toBe('arrived');
    expect(await offset()).toBe(404);
  });

  test('cut off in the middle of a go: what came stays, and the client goes on there', async () => {
    const id = 'delivery-cut-off';
    const { url, create, offset, hand, append } = await uploading(id);
    await create();
    await new Promise<void>((resolve) => {
      const cut = http.request(`${url}/api/uploads/${id}`, { method: 'PATCH', headers: { ...version, 'upload-offset': '0', 'content-type': 'application/offset+octet-stream', 'content-length': file.length } }); // prettier-ignore
      cut.on('error', () => resolve());
      cut.write(file.subarray(0, 9000), () => setTimeout(() => cut.destroy(), 50));
    });
    const came = await until(offset, (n) => n > 0);
    expect(came).toBeLessThanOrEqual(9000);
    await until(() => append(came, file.subarray(came)), (answer) => answer.status === 204); // prettier-ignore
    expect((await hand(request('yard-records', { fileName: 'Cut off.pdf' }))).state).toBe('carrying');
  });

  test('other bytes than were announced: refused, and it begins anew', async () => {
    const id = 'delivery-other-bytes';
    const { create, append, offset, hand } = await uploading(id);
    await create();
    await append(0, Buffer.from(file).fill(65, 100, 200));
    expect(await hand(request('yard-records'))).toMatchObject({ code: 'damaged', again: true });
    expect(await offset()).toBe(404);
  });

  test('taken back before it was handed over: nothing of it stays', async () => {
    const id = 'delivery-taken-back';
    const { url, create, append, offset } = await uploading(id);
    await create();
    await append(0, file.subarray(0, 100));
    await fetch(`${url}/api/deliveries/${id}`, { method: 'DELETE' });
    expect(await offset()).toBe(404);
  });

  test('from another origin, too large, or under no delivery’s id: refused', async () => {
    const { create } = await uploading('delivery-refused');
    expect((await create({ origin: 'http://elsewhere.example' })).status).toBe(403);
    expect((await create({ 'upload-length': '200000001' })).status).toBe(413);
    expect((await create({ 'upload-metadata': `delivery ${Buffer.from('../../x').toString('base64')}` })).status).toBe(400);
  });

  test('a client that is not ours (tus-js-client) brings it in small pieces', async () => {
    const id = 'delivery-by-client';
    const { url, hand } = await uploading(id);
    await new Promise<void>((resolve, reject) => {
      new Upload(file, { endpoint: `${url}/api/uploads`, uploadUrl: `${url}/api/uploads/${id}`, metadata: { delivery: id }, chunkSize: 4096, retryDelays: null, onSuccess: () => resolve(), onError: reject }).start(); // prettier-ignore
    });
    expect((await hand(request('yard-records', { fileName: 'By client.pdf' }))).state).toBe('carrying');
  });
});
