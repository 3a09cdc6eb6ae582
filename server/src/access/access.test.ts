import { execFileSync } from 'node:child_process';
import { X509Certificate } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import https from 'node:https';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import { buildApp } from '../app';
import { madeCertificate } from './certificate';
import { codeMs, Devices, nameOfDevice } from './devices';
import { prepareNetwork, type Listening } from './listen';
import { PassPhrase } from './passPhrase';

// What makes guessing slow makes these slow as well.
jest.setTimeout(180_000);

const folderOf = () => mkdtempSync(path.join(tmpdir(), 'libretto-access-'));
const names = ['quay.local', 'localhost', '127.0.0.1'];
const dayMs = 86_400_000;

describe('certificate', () => {
  test('Node’s own TLS finds it in order: chain, names, use, times', async () => {
    const { cert, authority, isFor } = await madeCertificate(folderOf(), names);
    const [leaf, ca] = [new X509Certificate(cert), new X509Certificate(authority!)];
    expect([ca.ca, leaf.ca, leaf.checkIssued(ca), leaf.verify(ca.publicKey)]).toEqual([true, false, true, true]);
    expect(leaf.subjectAltName).toBe('DNS:quay.local, DNS:localhost, IP Address:127.0.0.1');
    // 1.3.6.1.5.5.7.3.1 is serverAuth (RFC 5280, 4.2.1.12).
    expect(leaf.keyUsage).toEqual(['1.3.6.1.5.5.7.3.1']);
    expect((Date.parse(leaf.validTo) - Date.parse(leaf.validFrom)) / dayMs).toBeLessThan(399);
    expect([isFor('quay.local'), isFor('127.0.0.1'), isFor('evil.example'), isFor('10.0.0.9')]).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });

  test('OpenSSL verifies it for its names', async () => {
    const folder = folderOf();
    await madeCertificate(folder, names);
    const verify = (...more: string[]) =>
      execFileSync('openssl', ['verify', '-x509_strict', '-purpose', 'sslserver', ...more, '-CAfile', 'authority.crt', 'server.crt'], { cwd: folder, stdio: 'pipe' }).toString(); // prettier-ignore
    expect(verify('-verify_hostname', 'quay.local')).toContain('server.crt: OK');
    expect(() => verify('-verify_hostname', 'evil.example')).toThrow(/mismatch/i);
  });

  test('it is kept, made anew before it ends or when a name has come, and the authority stays', async () => {
    const folder = folderOf();
    const now = Date.now();
    const first = await madeCertificate(folder, names, now);
    expect((await madeCertificate(folder, names, now)).cert).toBe(first.cert);
    const named = await madeCertificate(folder, [...names, '10.0.0.9'], now);
    expect([named.cert === first.cert, named.isFor('10.0.0.9'), named.fingerprint]).toEqual([false, true, first.fingerprint]);
    const later = await madeCertificate(folder, names, now + 380 * dayMs);
    expect([later.cert === named.cert, later.fingerprint]).toEqual([false, first.fingerprint]);
    for (const file of readdirSync(folder)) expect([file, statSync(path.join(folder, file)).mode & 0o777]).toEqual([file, 0o600]);
  });
});

describe('pass phrase', () => {
  test('made up once, kept as a hash, found again however it is typed', async () => {
    const file = path.join(folderOf(), 'pass-phrase');
    const { phrase, made } = await PassPhrase.open(file);
    expect(made).toMatch(/^([a-z2-9]{4}-){3}[a-z2-9]{4}$/);
    expect(readFileSync(file, 'utf8')).not.toContain(made!.slice(0, 4));
    expect(statSync(file).mode & 0o777).toBe(0o600);
    expect(await phrase.check(` ${made!.toUpperCase().replaceAll('-', ' ')}`)).toBe(true);
    expect(await phrase.check(`${made}x`)).toBe(false);
    const again = await PassPhrase.open(file);
    expect([again.made, await again.phrase.check(made!)]).toEqual([null, true]);
    const given = await PassPhrase.open(file, 'salt marsh quay');
    expect([given.made, await given.phrase.check(made!), await given.phrase.check('Salt-Marsh quay')]).toEqual([
      null,
      false,
      true,
    ]);
    await expect(PassPhrase.open(file, 'short')).rejects.toThrow(/at least 8/);
    writeFileSync(file, 'torn');
    await expect(PassPhrase.open(file)).rejects.toThrow(/damaged/);
  });

  test('many at once: one is looked at at a time, and beyond a few they are turned away', async () => {
    const { phrase, made } = await PassPhrase.open(path.join(folderOf(), 'pass-phrase'));
    const answers = await Promise.all(Array.from({ length: 10 }, () => phrase.check(made!)));
    expect([answers.filter((a) => a).length, answers.filter((a) => a === null).length]).toEqual([4, 6]);
  });
});

test('a code is good once, and for ten minutes; a removed device is a stranger; a damaged list means pairing again', async () => {
  const file = path.join(folderOf(), 'devices.json');
  const devices = await Devices.open(file);
  const now = Date.now();
  const [code, old] = [devices.code(now), devices.code(now - codeMs - 1)];
  expect([devices.isGood(code), devices.isGood(code), devices.isGood(old), devices.isGood('nothing')]).toEqual([
    true,
    true,
    false,
    false,
  ]);
  expect([devices.redeem(old), devices.redeem(code), devices.redeem(code)]).toEqual([false, true, false]);
  const token = await devices.pair('Safari on iPhone');
  expect(readFileSync(file, 'utf8')).not.toContain(token);
  const again = await Devices.open(file);
  const device = again.find(token)!;
  expect(device).toMatchObject({ name: 'Safari on iPhone' });
  expect([again.find('guess'), await again.remove('nobody'), await again.remove(device.id), again.find(token)]).toEqual([undefined, false, true, undefined]); // prettier-ignore
  writeFileSync(file, '[{"id":');
  expect((await Devices.open(file)).list()).toEqual([]);
});

test('devices are named by what they say of themselves', () => {
  // User agents as their makers publish them, from memory.
  const iphone = 'Mozilla/5.0 (iPhone; CPU iPhone OS 18_1 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.1 Mobile/15E148 Safari/604.1'; // prettier-ignore
  const android =
    'Mozilla/5.0 (Linux; Android 10; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Mobile Safari/537.36';
  expect([nameOfDevice(iphone), nameOfDevice(android), nameOfDevice(undefined)]).toEqual(['Safari on iPhone', 'Chrome on Android', 'Browser']); // prettier-ignore
});

describe('open to the network', () => {
  let app: FastifyInstance;
  let listening: Listening;
  let prepared: Awaited<ReturnType<typeof prepareNetwork>>;
  beforeAll(async () => {
    const dataDir = folderOf();
    const webRoot = folderOf();
    writeFileSync(path.join(webRoot, 'index.html'), '<title>the app</title>');
    prepared = await prepareNetwork({ dataDir, host: '127.0.0.1', port: 0, phrase: 'salt marsh quay' });
    app = await buildApp({ places: [], dataDir, webRoot, network: prepared.network });
    listening = await prepared.listen(app);
  });
  afterAll(async () => {
    await listening.close();
    await app.close();
  });

  interface Answer {
    status: number;
    headers: Record<string, string | string[] | undefined>;
    text: string;
  }
  const ask = (url: string, { method = 'GET', headers = {}, body = '' } = {}): Promise<Answer> =>
    new Promise((resolve, reject) => {
      const { authority } = prepared.network.certificate();
      // The authority is trusted, nothing else: a certificate that does not fit ends in an error here.
      const request = https.request(
        {
          host: '127.0.0.1',
          port: listening.port,
          path: url,
          method,
          headers,
          ca: authority!,
          servername: 'localhost',
          agent: false,
        },
        (answer) => {
          let text = '';
          answer.on('data', (chunk) => (text += String(chunk)));
          answer.on('end', () => resolve({ status: answer.statusCode!, headers: answer.headers, text }));
        },
      );
      request.on('error', reject);
      request.end(body);
    });
  const form = { 'content-type': 'application/x-www-form-urlencoded' };
  const pair = async () => {
    const answer = await ask(`/pair/${prepared.network.devices.code()}`, { method: 'POST', headers: form });
    return String(answer.headers['set-cookie']).split(';')[0]!;
  };

  test('without a session only what is named answers', async () => {
    for (const url of [
      '/api/places',
      '/api/phone',
      '/api/deliveries/x',
      '/index.html',
      '/demo/truth.json',
      '/sign-in/more',
      '/authority.crt.bak',
      '//api/places',
      '/api/health/..%2fplaces',
      '/api/metrics',
    ])
      // prettier-ignore
      expect([url, (await ask(url)).status]).toEqual([url, 401]);
    expect((await ask('/api/devices/x', { method: 'DELETE' })).status).toBe(401);
    const page = await ask('/document/1', { headers: { accept: 'text/html' } });
    expect([page.status, page.headers.location]).toEqual([303, '/sign-in']);
    expect((await ask('/sign-in')).text).toContain('Pass phrase');
    expect((await ask('/api/health')).status).toBe(200);
    expect((await ask('/api/ready')).status).toBe(200);
    const authority = await ask('/authority.crt');
    expect(authority.headers['content-type']).toBe('application/x-x509-ca-cert');
    expect(new X509Certificate(authority.text).fingerprint256).toBe(prepared.network.certificate().fingerprint);
  });

  test('another host and another origin are refused, with a session too', async () => {
    const cookie = await pair();
    expect((await ask('/api/places', { headers: { cookie, host: 'evil.example' } })).status).toBe(421);
    expect((await ask('/api/places', { headers: { cookie, origin: 'https://evil.example' } })).status).toBe(403);
    expect((await ask('/api/places', { headers: { cookie, origin: 'http://127.0.0.1' } })).status).toBe(403);
  });

  test('a code pairs one device; its cookie is for this host, TLS and this site alone; once removed it is a stranger', async () => {
    const { link } = JSON.parse((await ask('/api/phone', { headers: { cookie: await pair() } })).text) as { link: string };
    const { pathname } = new URL(link);
    expect((await ask(pathname)).text).toContain('Pair this device');
    const answer = await ask(pathname, { method: 'POST', headers: { ...form, 'user-agent': 'iPhone Safari' } });
    expect([answer.status, answer.headers.location]).toEqual([303, '/']);
    expect(String(answer.headers['set-cookie'])).toMatch(
      /^__Host-libretto=[\w-]{43}; Max-Age=\d+; Path=\/; HttpOnly; Secure; SameSite=Strict$/,
    );
    expect((await ask(pathname, { method: 'POST', headers: form })).status).toBe(403);
    const cookie = String(answer.headers['set-cookie']).split(';')[0]!;
    const told = JSON.parse((await ask('/api/phone', { headers: { cookie } })).text) as { devices: { id: string; own: boolean; name: string }[] }; // prettier-ignore
    const own = told.devices.find((d) => d.own)!;
    expect(own.name).toBe('Safari on iPhone');
    expect((await ask(`/api/devices/${own.id}`, { method: 'DELETE', headers: { cookie } })).status).toBe(204);
    expect((await ask('/api/places', { headers: { cookie } })).status).toBe(401);
  });

  test('a thousand wrong pass phrases are slowed down and all refused; meanwhile the right one has to wait as well', async () => {
    const right = () => ask('/sign-in', { method: 'POST', headers: form, body: 'phrase=salt%20marsh%20QUAY' });
    expect((await right()).headers['set-cookie']).toBeDefined();
    const statuses: number[] = [];
    for (let i = 0; i < 1000; i += 20)
      statuses.push(
        ...(await Promise.all(
          Array.from({ length: 20 }, async (_, k) => (await ask('/sign-in', { method: 'POST', headers: form, body: `phrase=guess-${i + k}` })).status), // prettier-ignore
        )),
      );
    expect(statuses).toHaveLength(1000);
    expect(new Set(statuses)).toEqual(new Set([403, 429]));
    // Ten a minute are looked at, whichever minute it is by now.
    expect(statuses.filter((s) => s === 403).length).toBeLessThanOrEqual(100);
    expect((await ask('/sign-in', { method: 'POST', headers: form, body: 'phrase=salt%20marsh%20quay' })).status).toBe(429);
  }, 120_000);

  test('on this machine’s own loopback nobody is asked', async () => {
    const address = await app.listen({ host: '127.0.0.1', port: 0 });
    expect((await fetch(`${address}/api/places`)).status).toBe(200);
    expect(((await (await fetch(`${address}/api/phone`)).json()) as { qr: string }).qr).toContain('<svg');
  });
});
