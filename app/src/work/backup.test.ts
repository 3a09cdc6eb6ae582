import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { lookingPage, type Document, type Page, type Photo } from '@libretto/model';
import { getPhoto, putPhoto } from '../store/files';
import type { AnyRecord } from '../store/records';
import type { Store } from '../store/store';
import { aPage as drawnPage } from '../testing/records';
import { anotherTab, aStore, emptyStorage } from '../testing/store';
import { blobSink, coveredPages, writeBackup } from './backup';
import { entriesOf, restoreBackup } from './restore';

const at = '2026-11-20T14:02:00.000Z';
const aDocument = (n: number): Document => ({ v: 1, id: `document-${n}`, name: `Hull survey ${n}`, pageIds: [`page-${n}-a`, `page-${n}-b`], createdAt: at, changedAt: at, deletedAt: null, folder: 'folder-1' }); // prettier-ignore
const aPage = (n: number, side: string, part: Partial<Page> = {}): Page => ({
  ...lookingPage(`page-${n}-${side}`, `document-${n}`, `photo-${n}-${side}`),
  ...part,
});
const aPhoto = (n: number, side: string): Photo => ({
  v: 1,
  id: `photo-${n}-${side}`,
  documentId: `document-${n}`,
  name: `${n}${side}.jpg`,
  type: 'image/jpeg',
  bytes: 3000,
  addedAt: at,
});
const bytesOf = (n: number, side: string) =>
  Uint8Array.from({ length: 3000 }, (_, i) => (i * 7 + n * 13 + side.charCodeAt(0)) % 256);
const cover = {
  kind: 'cover' as const,
  id: 'mark-0001',
  from: [0, 0] as [number, number],
  to: [9, 9] as [number, number],
  fill: 'black' as const,
};
const recipe = { ...drawnPage('page-000').recipe!, marks: [cover] };

async function aShelf(count: number, covered = false): Promise<Store> {
  const numbers = Array.from({ length: count }, (_, i) => i + 1);
  const records = numbers.flatMap((n): AnyRecord[] => [
    { kind: 'document', record: aDocument(n) },
    ...['a', 'b'].flatMap((side): AnyRecord[] => [
      {
        kind: 'page',
        record: aPage(n, side, covered && n === 1 && side === 'b' ? { recipe } : {}),
      },
      { kind: 'photo', record: aPhoto(n, side) },
    ]),
  ]);
  records.push({
    kind: 'shelf',
    record: { v: 1, id: 'shelf', folders: { 'folder-1': { id: 'folder-1', name: 'Surveys', parent: null, createdAt: at } } },
  });
  await emptyStorage();
  const store = await aStore(records);
  for (const n of numbers)
    for (const side of ['a', 'b']) await putPhoto(aPhoto(n, side), new Blob([bytesOf(n, side)], { type: 'image/jpeg' }));
  return store;
}

async function backupOf(store: Store, ids: string[], covered = true) {
  const sink = blobSink('application/zip');
  const done = await store.dispatch(writeBackup(ids, sink.stream, { covered, pdfs: false }));
  return { done, blob: sink.blob() };
}
const ids = (count: number) => Array.from({ length: count }, (_, i) => `document-${i + 1}`);
const recordsOf = (store: Store) => {
  const { document, page, photo, shelf } = store.getState().library;
  const plain = Object.fromEntries(Object.entries(document).map(([id, d]) => [id, { ...d, changedAt: '' }]));
  return { document: plain, page, photo, shelf };
};

test('what was saved comes back elsewhere as it was, once however often it is brought in; unzip finds nothing wrong with it', async () => {
  const store = await aShelf(3);
  const before = recordsOf(store);
  const { done, blob } = await backupOf(store, ids(3));
  expect(done).toEqual({ documents: 3, pages: 6, leftOut: 0, photosGone: 0 });
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'libretto-backup-')), 'backup.zip');
  writeFileSync(file, new Uint8Array(await blob.arrayBuffer()));
  // Info-ZIP's unzip, from Debian.
  expect(execFileSync('unzip', ['-t', file]).toString()).toContain('No errors detected');

  await emptyStorage();
  const elsewhere = await anotherTab();
  expect(await elsewhere.dispatch(restoreBackup(blob))).toEqual({ added: 3, changed: 0, same: 0, missing: [], cut: false });
  expect(recordsOf(elsewhere)).toEqual(before);
  const photo = await getPhoto('photo-2-b');
  expect([...new Uint8Array(await photo!.arrayBuffer())]).toEqual([...bytesOf(2, 'b')]);
  expect(await elsewhere.dispatch(restoreBackup(blob))).toMatchObject({ added: 0, changed: 0, same: 3 });
  expect(recordsOf(await anotherTab())).toEqual(before);
});

test('the newer one stays: what was changed since is not put back, what the backup knows better is', async () => {
  const store = await aShelf(2);
  const { blob } = await backupOf(store, ids(2));
  const [older, newer] = [aDocument(1), aDocument(2)].map((d, i): Document => ({ ...d, name: `Here ${i}`, pageIds: [d.pageIds[0]!], changedAt: i ? '2026-11-21T00:00:00.000Z' : '2026-11-19T00:00:00.000Z' })); // prettier-ignore
  const here = await aStore([
    { kind: 'document', record: older! },
    { kind: 'document', record: newer! },
  ]);
  expect(await here.dispatch(restoreBackup(blob))).toMatchObject({ added: 0, changed: 2 });
  const { document } = here.getState().library;
  expect([document['document-1']!.name, document['document-2']!.name]).toEqual(['Hull survey 1', 'Here 1']);
  // Pages that are not here come, in either case.
  expect(document['document-2']!.pageIds).toEqual(['page-2-a', 'page-2-b']);
});

test('cut at any place: whole documents before the cut come in, the others are named, nothing is half there', async () => {
  const store = await aShelf(4);
  const { blob } = await backupOf(store, ids(4));
  let fewest = 4;
  let most = 0;
  for (let i = 0; i < 20; i++) {
    await emptyStorage();
    const here = await anotherTab();
    // Spread evenly over the file, but not on its borders of entries.
    const size = Math.floor((blob.size * (i + 0.63)) / 20);
    const outcome = await here.dispatch(restoreBackup(blob.slice(0, size))).catch((error: Error) => error.message);
    if (typeof outcome === 'string') {
      expect(outcome).toBe('not-a-backup');
      continue;
    }
    const documents = Object.values(here.getState().library.document);
    expect(outcome!.cut).toBe(true);
    expect(documents.length + outcome!.missing.length).toBe(4);
    for (const { pageIds } of documents) expect(pageIds).toHaveLength(2);
    fewest = Math.min(fewest, documents.length);
    most = Math.max(most, documents.length);
  }
  expect(fewest).toBe(0);
  expect(most).toBeGreaterThanOrEqual(3);
});

test('a photograph that was changed on the way is not taken, and its document is named', async () => {
  const store = await aShelf(1);
  const { blob } = await backupOf(store, ids(1));
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const { entries } = await entriesOf(blob);
  expect([...entries.keys()]).toContain('photos/photo-1-a.jpg');
  const wanted = bytesOf(1, 'a');
  const where = bytes.findIndex((_, i) => wanted.slice(0, 40).every((b, j) => bytes[i + j] === b));
  bytes[where + 100]! ^= 1;
  await emptyStorage();
  const here = await anotherTab();
  expect(await here.dispatch(restoreBackup(new Blob([bytes])))).toMatchObject({ added: 1, missing: ['Hull survey 1'] });
  expect(here.getState().library.document['document-1']!.pageIds).toEqual(['page-1-b']);
});

test('a page with something covered is counted, and stays out unless it is wanted', async () => {
  const store = await aShelf(1, true);
  expect(await coveredPages(ids(1))).toBe(1);
  const { done, blob } = await backupOf(store, ids(1), false);
  expect(done).toMatchObject({ pages: 1, leftOut: 1 });
  expect([...(await entriesOf(blob)).entries.keys()].filter((name) => name.startsWith('photos/'))).toEqual([
    'photos/photo-1-a.jpg',
  ]);
});

test('what is no backup is said to be none, and nothing changes', async () => {
  const store = await aShelf(1);
  await expect(store.dispatch(restoreBackup(new Blob(['hello'])))).rejects.toThrow('not-a-backup');
});
