import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { startApache } from '../../testing/apache';
import { folderCarrier } from './folderCarrier';

/** The carrier against a WebDAV server that is not ours. */
const root = mkdtempSync(path.join(tmpdir(), 'libretto-cargo-'));
let docs: string;
let url: string;
let close = () => {};

beforeAll(async () => {
  ({ url, docs, close } = await startApache());
}, 30_000);
afterAll(() => close());

function cargo(id: string, fileName: string, content: string) {
  const file = path.join(root, id);
  writeFileSync(file, content);
  return {
    id,
    path: file,
    placeId: 'records',
    fileName,
    bytes: Buffer.byteLength(content),
    sha256: createHash('sha256').update(content).digest('hex'),
    subject: '',
    message: '',
    heard: [],
  };
}

test('a file arrives in a folder made for it, is read back, keeps others of its name, and comes once', async () => {
  const carrier = folderCarrier({ kind: 'folder', id: 'records', name: 'Records', url, folder: 'Surveys/2026' });
  const attempt = { signal: AbortSignal.timeout(20_000), token: 'one', handing: async () => {} };
  const first = await carrier.carry(cargo('delivery-1', 'Größe & Maß.pdf', '%PDF one'), attempt);
  expect(first).toMatchObject({ how: 'read-back', where: 'Records / Surveys / 2026 / Größe & Maß.pdf' });
  expect((await carrier.carry(cargo('delivery-1', 'Größe & Maß.pdf', '%PDF one'), attempt)).where).toBe(first.where);
  expect((await carrier.carry(cargo('delivery-2', 'Größe & Maß.pdf', '%PDF two'), attempt)).where).toContain('(2)');
  expect(
    readdirSync(path.join(docs, 'Surveys/2026'))
      .filter((n) => !n.startsWith('.DAV'))
      .sort(),
  ).toEqual(['Größe & Maß (2).pdf', 'Größe & Maß.pdf']);
  expect(readFileSync(path.join(docs, 'Surveys/2026/Größe & Maß.pdf'), 'utf8')).toBe('%PDF one');
}, 30_000);
