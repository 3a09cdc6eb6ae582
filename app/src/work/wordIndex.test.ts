import { IDBFactory } from 'fake-indexeddb';
import { openDB } from 'idb';
import * as files from '../store/files';
import { WordIndex } from './wordIndex';

const text = (documentId: string, words: string): files.ReadText => ({ look: '', documentId, language: 'en', lines: [], text: words, unread: 0, photo: [] }); // prettier-ignore
const hits = (index: WordIndex, query: string) => index.search(query, 50).map(({ id }) => String(id)).sort(); // prettier-ignore
const opened = async () => {
  const index = new WordIndex();
  await index.filled();
  return index;
};

/** More than what counts as new. */
const pages = 300;
beforeEach(async () => {
  jest.restoreAllMocks();
  await files.dropTexts(await files.allTextIds());
  globalThis.indexedDB = new IDBFactory();
  for (let i = 0; i < pages; i++) await files.putText(`page-${i}`, text(`document-${i >> 2}`, `Stern tube and keel bolts, reading ${i + 100}`));
}); // prettier-ignore

test('kept, it is there again without one text being read', async () => {
  const first = await opened();
  expect(hits(first, 'keel 117')).toEqual(['page-17']);
  await first.save();
  const read = jest.spyOn(files, 'getText');
  const second = await opened();
  expect(read).not.toHaveBeenCalled();
  expect(hits(second, 'keel 117')).toEqual(['page-17']);
  // One letter off, in a long word.
  expect(hits(second, 'sterm tube')).toHaveLength(50);
});

test('what came, went or changed since it was kept is found at the next opening; the base is not written for it', async () => {
  const first = await opened();
  await first.save();
  await files.putText('page-3', text('document-0', 'Sailmaker’s twine'));
  await files.putText('page-new', text('document-new', 'Ratlines'));
  await files.dropTexts(['page-5']);
  // The one that was read anew is noted, before its shard is kept; the tab ends.
  await new WordIndex().changed('page-3');
  const second = await opened();
  expect([hits(second, 'twine'), hits(second, 'ratlines'), hits(second, 'keel 105'), hits(second, 'keel 103')]).toEqual([['page-3'], ['page-new'], [], []]); // prettier-ignore
  await second.save();
  const db = await openDB('libretto-words-1');
  expect([(await db.get('parts', 'base'))?.turn, (await db.get('parts', 'recent')).turn]).toEqual([1, 2]);
  db.close();
  const third = await opened();
  expect([hits(third, 'twine'), hits(third, 'keel 105')]).toEqual([['page-3'], []]);
});

test('two tabs: neither loses what the other has kept', async () => {
  const [one, other] = [await opened(), await opened()];
  await one.save();
  await other.save();
  await files.putText('page-1', text('document-0', 'Windlass'));
  await one.changed('page-1');
  await one.save();
  await files.putText('page-2', text('document-0', 'Capstan'));
  await other.changed('page-2');
  await other.save();
  await other.save();
  const next = await opened();
  expect([hits(next, 'windlass'), hits(next, 'capstan')]).toEqual([['page-1'], ['page-2']]);
});

test('a damaged index is made anew', async () => {
  const first = await opened();
  await first.save();
  const db = await openDB('libretto-words-1');
  for (const key of await db.getAllKeys('parts')) await db.put('parts', { ...(await db.get('parts', key)), json: '{"half' }, key); // prettier-ignore
  db.close();
  expect(hits(await opened(), 'keel 117')).toEqual(['page-17']);
});

test('what is new becomes part of the base once it is much', async () => {
  const first = await opened();
  await first.save();
  for (let i = 0; i < 260; i++) {
    await files.putText(`page-${i}`, text('document-x', `Hawser ${i}`));
    await first.changed(`page-${i}`);
  }
  await first.save();
  const db = await openDB('libretto-words-1');
  expect((await db.get('parts', 'recent')).ids).toEqual([]);
  expect((await db.get('parts', 'base')).ids).toHaveLength(pages);
  db.close();
  const second = await opened();
  expect([hits(second, 'hawser 17'), hits(second, 'keel 399'), hits(second, 'keel 117')]).toEqual([
    ['page-17'],
    ['page-299'],
    [],
  ]);
});
