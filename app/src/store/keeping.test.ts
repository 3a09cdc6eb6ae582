import { openDB } from 'idb';
import { aDocument, aPage } from '../testing/records';
import { anotherTab, aStore, emptyStorage } from '../testing/store';
import { redoLast, undoLast } from './change';
import { allFilings, allPhotos, getPhoto } from './files';
import { filePicture, keepPage, savePicture } from './keeping';
import { isSaving } from './unsaved';

const picture = (name: string) => ({ blob: new Blob([name]), name, type: 'image/jpeg' as const });
const photos = async () => {
  const all = [];
  for await (const photo of allPhotos()) all.push(photo);
  return all;
};

async function begin() {
  const pages = ['page-a', 'page-b', 'page-c'].map((id) => aPage(id));
  const store = await aStore([
    ...pages.map((record) => ({ kind: 'page' as const, record })),
    { kind: 'document', record: aDocument(pages.map((p) => p.id)) },
  ]);
  const order = () => store.getState().library.document['document-1']!.pageIds;
  return { store, pages, order, page: (id: string) => store.getState().library.page[id]! };
}

test('the first picture begins its document, the next ones follow it; when it resolves all of it is stored', async () => {
  const store = await aStore();
  const first = await store.dispatch(keepPage('document-k', picture('one.jpg'), { name: 'Wren' }));
  const second = await store.dispatch(keepPage('document-k', picture('two.jpg')));
  const again = (await anotherTab()).getState().library;
  expect(again.document['document-k']).toMatchObject({ name: 'Wren', pageIds: [first.id, second.id] });
  expect((await photos()).map((p) => p.name).sort()).toEqual(['one.jpg', 'two.jpg']);
  expect(await allFilings()).toEqual([]);
});

test('bytes, record and the step that files them are one transaction; nothing else is written before it counts as saved', async () => {
  const { store } = await begin();
  const opened: string[] = [];
  const transaction = IDBDatabase.prototype.transaction;
  IDBDatabase.prototype.transaction = function (this: IDBDatabase, ...args: Parameters<typeof transaction>) {
    if (args[1] === 'readwrite') opened.push([args[0]].flat().join(' '));
    return transaction.apply(this, args);
  };
  try {
    await store.dispatch(savePicture('document-1', picture('one.jpg')));
  } finally {
    IDBDatabase.prototype.transaction = transaction;
  }
  expect(opened).toEqual(['photos totals inbox used']);
});

test('the app is closed right after a picture was saved: the next start puts it where it belongs, once', async () => {
  const { store } = await begin();
  const { page } = await store.dispatch(savePicture('document-1', picture('late.jpg'), { insteadOf: { id: 'page-b' } }));
  const next = await anotherTab();
  expect(next.getState().library.document['document-1']!.pageIds).toEqual(['page-a', page.id, 'page-c']);
  expect(await allFilings()).toEqual([]);
  const after = await anotherTab();
  expect(after.getState().library.document['document-1']!.pageIds).toHaveLength(3);
});

test('a filing that was done and not ticked off does not bring back what was deleted since', async () => {
  const { store, order } = await begin();
  const saved = await store.dispatch(savePicture('document-1', picture('one.jpg')));
  await store.dispatch(filePicture(saved));
  const db = await openDB('libretto-files');
  await db.put('inbox', saved.step, saved.photo.id);
  db.close();
  await store.dispatch(undoLast('document-1'));
  expect(order()).toHaveLength(3);
  expect((await anotherTab()).getState().library.document['document-1']!.pageIds).toHaveLength(3);
});

test('while a picture is being saved, closing the tab would ask', async () => {
  const { store } = await begin();
  const saving = store.dispatch(savePicture('document-1', picture('one.jpg')));
  expect(isSaving()).toBe(true);
  const saved = await saving;
  expect(isSaving()).toBe(false);
  expect(await (await getPhoto(saved.photo.id))!.arrayBuffer()).toHaveProperty('byteLength', 7);
});

test('a page taken again stands where the old one stood; undo brings the old one back, redo the new', async () => {
  const { store, pages, order, page } = await begin();
  const fresh = await store.dispatch(keepPage('document-1', picture('again.jpg'), { insteadOf: pages[1]! }));
  expect(order()).toEqual(['page-a', fresh.id, 'page-c']);
  expect(page('page-b').deletedAt).not.toBeNull();
  await store.dispatch(undoLast('document-1'));
  expect(order()).toEqual(['page-a', 'page-b', 'page-c']);
  expect([page('page-b').deletedAt, page(fresh.id).deletedAt]).toEqual([null, expect.any(String)]);
  await store.dispatch(redoLast('document-1'));
  expect(order()).toEqual(['page-a', fresh.id, 'page-c']);
  expect([page('page-b').deletedAt, page(fresh.id).deletedAt]).toEqual([expect.any(String), null]);
});

test('a page that was discarded meanwhile is not replaced: the new one comes last', async () => {
  const { store, order } = await begin();
  const fresh = await store.dispatch(keepPage('document-1', picture('late.jpg'), { insteadOf: aPage('page-gone') }));
  expect(order().at(-1)).toBe(fresh.id);
});

test('a picture that is a page already is not looked at again', async () => {
  const { store, page } = await begin();
  const ready = aPage('x');
  const fresh = await store.dispatch(
    keepPage('document-1', { ...picture('form.pdf'), page: { state: 'ready', recipe: ready.recipe, found: ready.found } }),
  );
  expect(page(fresh.id)).toMatchObject({ state: 'ready', recipe: ready.recipe });
});

afterAll(emptyStorage);
