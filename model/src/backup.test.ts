import { readFileSync } from 'node:fs';
import path from 'node:path';
import Ajv from 'ajv/dist/2020';
import * as z from 'zod/mini';
import { backupDocumentSchema, backupIndexSchema } from './backup';
import { lookingPage, type Document, type Page, type Photo } from './records';

const published = JSON.parse(readFileSync(path.join(__dirname, '../backup.schema.json'), 'utf8')) as object;

test('the published JSON Schema is that of the records (write it anew with UPDATE_SCHEMA=1)', () => {
  const now = {
    $id: 'https://libretto.example.org/backup.schema.json',
    title: 'Libretto backup: libretto.json or documents/<id>.json',
    ...z.toJSONSchema(z.union([backupIndexSchema, backupDocumentSchema]), { unrepresentable: 'any' }),
  };
  // eslint-disable-next-line @typescript-eslint/no-require-imports
  if (process.env.UPDATE_SCHEMA) (require('node:fs') as typeof import('node:fs')).writeFileSync(path.join(__dirname, '../backup.schema.json'), `${JSON.stringify(now, null, 1)}\n`); // prettier-ignore
  expect(published).toEqual(JSON.parse(JSON.stringify(now)));
});

test('a validator that is not ours (ajv) takes what we write and refuses what we would', () => {
  const at = '2026-11-20T14:02:00.000Z';
  const page: Page = lookingPage('page-0001', 'document-1', 'photo-001');
  const photo: Photo = {
    v: 1,
    id: 'photo-001',
    documentId: 'document-1',
    name: 'a.jpg',
    type: 'image/jpeg',
    bytes: 3,
    addedAt: at,
  };
  const document: Document = {
    v: 1,
    id: 'document-1',
    name: 'Wren',
    pageIds: ['page-0001'],
    createdAt: at,
    changedAt: at,
    deletedAt: null,
  };
  const bundle = {
    document,
    pages: [page],
    photos: [{ record: photo, entry: 'photos/photo-001.jpg', sha256: 'ab'.repeat(32) }],
    leftOut: 0,
  };
  const index = {
    format: 'libretto-backup',
    v: 1,
    madeAt: at,
    documents: [{ id: 'document-1', name: 'Wren', pages: 1 }],
    shelf: { v: 1, id: 'shelf', folders: {} },
  };
  const validate = new Ajv({ strict: false, validateFormats: false }).compile(published);
  for (const good of [bundle, index]) expect([validate(good), validate.errors]).toEqual([true, null]);
  for (const bad of [
    { ...bundle, photos: [{}] },
    { ...bundle, document: { ...document, name: '' } },
    { ...index, v: 2 },
  ])
    expect(validate(bad)).toBe(false);
});
