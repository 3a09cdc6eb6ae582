import { allPhotos } from '../storage/files';
import { readRecords } from '../storage/records';
import { aDocument, aPage } from '../testing/records';
import { keepPage } from './keeping';
import { opened, redone, undone } from './library';
import { createStore, written } from './store';

const picture = (name: string) => ({ blob: new Blob([name]), name, type: 'image/jpeg' as const });

function begin() {
  const store = createStore();
  const pages = ['page-a', 'page-b', 'page-c'].map((id) => aPage(id));
  store.dispatch(
    opened({
      records: [
        ...pages.map((record) => ({ kind: 'page' as const, record })),
        { kind: 'document', record: aDocument(pages.map((p) => p.id)) },
      ],
      aside: [],
    }),
  );
  const order = () => store.getState().library.document['document-1']!.pageIds;
  return { store, pages, order, page: (id: string) => store.getState().library.page[id]! };
}

test('the first picture begins its document, the next ones follow it; when it resolves all of it is stored', async () => {
  const store = createStore();
  store.dispatch(opened({ records: [], aside: [] }));
  const first = await store.dispatch(keepPage('document-k', picture('one.jpg'), { name: 'Wren' }));
  const { records } = await readRecords();
  expect(records.find((r) => r.kind === 'document' && r.record.id === 'document-k')?.record).toMatchObject({
    name: 'Wren',
    pageIds: [first.id],
  });
  expect(records.some((r) => r.kind === 'page' && r.record.id === first.id)).toBe(true);
  expect((await allPhotos()).some((p) => p.id === first.photoId && p.name === 'one.jpg')).toBe(true);
  const second = await store.dispatch(keepPage('document-k', picture('two.jpg')));
  expect(store.getState().library.document['document-k']!.pageIds).toEqual([first.id, second.id]);
});

test('a page taken again stands where the old one stood; undo brings the old one back, redo the new', async () => {
  const { store, pages, order, page } = begin();
  const fresh = await store.dispatch(keepPage('document-1', picture('again.jpg'), { insteadOf: pages[1]! }));
  expect(order()).toEqual(['page-a', fresh.id, 'page-c']);
  expect(page('page-b').deletedAt).not.toBeNull();
  store.dispatch(undone('document-1'));
  expect(order()).toEqual(['page-a', 'page-b', 'page-c']);
  expect([page('page-b').deletedAt, page(fresh.id).deletedAt]).toEqual([null, expect.any(String)]);
  store.dispatch(redone('document-1'));
  expect(order()).toEqual(['page-a', fresh.id, 'page-c']);
  expect([page('page-b').deletedAt, page(fresh.id).deletedAt]).toEqual([expect.any(String), null]);
  await written();
});

test('a page that was discarded meanwhile is not replaced: the new one comes last', async () => {
  const { store, order } = begin();
  const fresh = await store.dispatch(keepPage('document-1', picture('late.jpg'), { insteadOf: aPage('page-gone') }));
  expect(order().at(-1)).toBe(fresh.id);
});

test('a picture that is a page already is not looked at again', async () => {
  const { store, page } = begin();
  const ready = aPage('x');
  const fresh = await store.dispatch(
    keepPage('document-1', { ...picture('form.pdf'), page: { state: 'ready', recipe: ready.recipe, found: ready.found } }),
  );
  expect(page(fresh.id)).toMatchObject({ state: 'ready', recipe: ready.recipe });
});
