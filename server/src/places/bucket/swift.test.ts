import { createHash, randomBytes } from 'node:crypto';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { accessKey, secret, startSwift, type Swift } from '../../testing/swift';
import type { Attempt } from '../carrier';
import { bucketCarrier } from './bucketCarrier';
import { bucketSchema } from './bucketConfig';

/** The carrier against a store that is not ours: Debian's OpenStack Swift, whose S3 API checks Signature Version 4 itself. */
const folder = mkdtempSync(path.join(tmpdir(), 'libretto-bucket-'));
const signal = AbortSignal.timeout(240_000);
const attempt: Attempt = { signal, token: 'one', handing: async () => {} };
let swift: Swift;
beforeAll(async () => {
  swift = await startSwift();
  await swift.makeBucket('yard-records');
}, 120_000);
afterAll(() => swift?.close());

const carrierOf = (more: object = {}, password = secret) =>
  bucketCarrier({ ...bucketSchema.parse({ kind: 'bucket', id: 'bucket', name: 'Yard bucket', url: swift.url, bucket: 'yard-records', folder: 'Surveys/2026', username: accessKey, ...more }), password }); // prettier-ignore
function cargo(id: string, fileName: string, content: Buffer) {
  const file = path.join(folder, id);
  writeFileSync(file, content);
  return { id, path: file, placeId: 'bucket', fileName, bytes: content.length, sha256: createHash('sha256').update(content).digest('hex'), subject: '', message: '', heard: [] }; // prettier-ignore
}

test('a file arrives once and is read back; the same again is the same, another of that name stands beside it', async () => {
  const carrier = carrierOf();
  const one = cargo('one', 'Größe & Maß (3)*+ 100%.pdf', randomBytes(3_000_000));
  const first = await carrier.carry(one, attempt);
  expect(first).toMatchObject({ how: 'read-back', where: 'Yard bucket / Surveys / 2026 / Größe & Maß (3)*+ 100%.pdf', bytes: 3_000_000, readSha256: one.sha256 }); // prettier-ignore
  expect((await carrier.carry(one, attempt)).where).toBe(first.where);
  const other = await carrier.carry(cargo('two', one.fileName, randomBytes(1000)), attempt);
  expect(other.where).toBe('Yard bucket / Surveys / 2026 / Größe & Maß (3)*+ 100% (2).pdf');
});

test('eight at once of one delivery leave one object', async () => {
  const same = cargo('same', 'Docket.pdf', randomBytes(200_000));
  const all = await Promise.all(Array.from({ length: 8 }, () => carrierOf({ folder: 'Dockets' }).carry(same, attempt)));
  expect(new Set(all.map((proof) => proof.where))).toEqual(new Set(['Yard bucket / Dockets / Docket.pdf']));
});

test('tried step by step; folders listed; a wrong secret and a bucket that is not there are told', async () => {
  expect(await carrierOf().attempt(signal)).toEqual({ done: ['reached', 'written', 'readBack', 'cleared'], failed: null });
  for (const year of ['2025', '2026']) await carrierOf({ folder: `Surveys/${year}` }).carry(cargo(year, 'Old.pdf', randomBytes(10)), attempt); // prettier-ignore
  expect(await carrierOf().browse!('Surveys', signal)).toEqual(['2025', '2026']);
  const wrong = await carrierOf({}, 'another').attempt(signal);
  expect([wrong.done, wrong.failed?.reason]).toEqual([[], expect.stringContaining('refuses the user name and password')]);
  const missing = await carrierOf({ bucket: 'not-there' }).attempt(signal);
  expect(missing.failed?.reason).toContain('there is no bucket not-there');
  await expect(carrierOf({}, 'another').carry(cargo('never', 'Never.pdf', randomBytes(10)), attempt)).rejects.toMatchObject({ code: 'refused', again: false }); // prettier-ignore
});
