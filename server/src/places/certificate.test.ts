import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import https from 'node:https';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { bucketCarrier } from './bucket/bucketCarrier';
import { folderCarrier } from './folder/folderCarrier';
import { mailCarrier } from './mail/mailCarrier';

const root = mkdtempSync(path.join(tmpdir(), 'libretto-cert-'));
let server: https.Server;
let heard = 0;

beforeAll(async () => {
  execFileSync('openssl', ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-subj', '/CN=elsewhere', '-keyout', `${root}/key`, '-out', `${root}/cert`], { stdio: 'ignore' }); // prettier-ignore
  server = https.createServer({ key: readFileSync(`${root}/key`), cert: readFileSync(`${root}/cert`) }, (_request, response) => {
    heard++;
    response.end();
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
});
afterAll(() => new Promise((resolve) => server.close(resolve)));

test.each(['folder', 'bucket', 'mail'] as const)(
  'a certificate that cannot be trusted: a %s is told so, hears nothing, and it is not tried again by itself',
  async (kind) => {
    const { port } = server.address() as AddressInfo;
    const url = `https://localhost:${port}/`;
    const about = { id: 'place', name: 'Yard records', username: 'office', password: 'slip/two' };
    const carrier = {
      folder: () => folderCarrier({ kind: 'folder', ...about, url, folder: '' }),
      bucket: () => bucketCarrier({ kind: 'bucket', ...about, url, bucket: 'yard-records', region: 'us-east-1', folder: '' }),
      mail: () => mailCarrier({ kind: 'mail', ...about, from: 'office@saltmarsh.example.org', to: [], host: 'localhost', port, secure: true, limit: 2e7 }), // prettier-ignore
    }[kind]();
    const file = path.join(root, 'docket');
    writeFileSync(file, '%PDF');
    const cargo = { id: 'd', path: file, placeId: 'place', fileName: 'Docket.pdf', bytes: 4, sha256: '0'.repeat(64), subject: '', message: '', heard: [], to: ['owner@wren.example.org'] }; // prettier-ignore
    const handing = jest.fn(async () => {});
    const carried = carrier.carry(cargo, { signal: AbortSignal.timeout(30_000), token: 'one', handing });
    await expect(carried).rejects.toMatchObject({ code: 'not-trusted', again: false, message: expect.stringContaining('vouches') }); // prettier-ignore
    expect((await carrier.attempt(AbortSignal.timeout(30_000))).failed?.reason).toContain('cannot be trusted');
    expect([heard, handing.mock.calls.length]).toEqual([0, 0]);
  },
);
