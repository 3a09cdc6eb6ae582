import { aDocument, aPage, aPhoto } from '../testing/records';
import { anotherTab, aStore } from '../testing/store';
import { joinDocuments, orderPages, placePages, sendPages } from './arranging';
import { redoLast, undoLast } from './change';
import { getPhoto, putPhoto } from './files';
import { deletePages } from './editing';
import { binDays, purge } from './purge';

async function begin() {
  const pages = ['page-a', 'page-b', 'page-c', 'page-d'].map((id) => aPage(id));
  const other = aPage('page-x', { documentId: 'document-2' });
  const store = await aStore([
    ...[...pages, other].map((record) => ({ kind: 'page' as const, record })),
    { kind: 'document', record: aDocument(pages.map((p) => p.id)) },
    { kind: 'document', record: aDocument(['page-x'], { id: 'document-2', name: 'Docket' }) },
  ]);
  const library = () => store.getState().library;
  const document = (id = 'document-1') => library().document[id]!;
  const page = (letter: string) => library().page[`page-${letter}`]!;
  const order = (id = 'document-1') => document(id).pageIds.map((p) => p.slice(-1)).join(''); // prettier-ignore
  return { store, library, document, page, order };
}

test('several pages are put elsewhere together, and go back to where each stood', async () => {
  const { store, document, page, order } = await begin();
  await store.dispatch(placePages(document(), [page('a'), page('c')], 'page-d'));
  expect(order()).toBe('bdac');
  await store.dispatch(placePages(document(), [page('a'), page('c')], null));
  expect(order()).toBe('acbd');
  await store.dispatch(undoLast('document-1'));
  await store.dispatch(undoLast('document-1'));
  expect(order()).toBe('abcd');
});

test('some pages in another order keep the places that they have between them', async () => {
  const { store, document, order } = await begin();
  await store.dispatch(orderPages(document(), ['page-d', 'page-b', 'page-a']));
  expect(order()).toBe('dbca');
  await store.dispatch(undoLast('document-1'));
  expect(order()).toBe('abcd');
});

test('pages go into another document, and either document takes that back', async () => {
  const { store, library, document, page, order } = await begin();
  const sent = await store.dispatch(sendPages(document(), [page('b'), page('d')], { id: 'document-2', name: 'Docket' }));
  expect(sent).toEqual({ id: 'document-2', emptied: false });
  expect([order(), order('document-2'), page('b').documentId]).toEqual(['ac', 'xbd', 'document-2']);
  expect([library().summary['document-1']!.pages, library().summary['document-2']!.pages]).toEqual([2, 3]);
  await store.dispatch(undoLast('document-2'));
  expect([order(), order('document-2'), page('b').documentId]).toEqual(['abcd', 'x', 'document-1']);
  await store.dispatch(redoLast('document-1'));
  expect([order(), order('document-2')]).toEqual(['ac', 'xbd']);
  // The same after a reload.
  const again = (await anotherTab()).getState().library;
  expect(again.document['document-2']!.pageIds).toHaveLength(3);
});

test('a new document from some pages is made and filed like the old one; undo leaves it in the bin', async () => {
  const { store, library, document, page, order } = await begin();
  const { id } = await store.dispatch(sendPages(document(), [page('c'), page('d')], { newName: 'Part' }));
  expect([order(), order(id), document(id).name, document(id).deletedAt]).toEqual(['ab', 'cd', 'Part', null]);
  await store.dispatch(undoLast('document-1'));
  expect([order(), order(id)]).toEqual(['abcd', '']);
  expect(library().summary[id]!.deletedAt).not.toBeNull();
});

test('a document whose last page leaves goes to the bin', async () => {
  const { store, document, page, order } = await begin();
  const sent = await store.dispatch(sendPages(document('document-2'), [page('x')], { id: 'document-1', name: 'Hull survey' }));
  expect([sent.emptied, order(), document('document-2').deletedAt !== null]).toEqual([true, 'abcdx', true]);
});

test('a doubt that names a page which stays behind does not go along', async () => {
  const { store, document, page } = await begin();
  const twin = { id: 'same-page' as const, severity: 'look' as const, pageId: 'page-a' };
  const withDoubt = { ...page('b'), checks: [twin] };
  await store.dispatch(sendPages(document(), [withDoubt], { id: 'document-2', name: 'Docket' }));
  expect(page('b').checks).toEqual([]);
});

test('documents are joined in order, and the others are in the bin until that is taken back', async () => {
  const { store, document, page, order } = await begin();
  const { name } = document('document-1');
  await store.dispatch(joinDocuments({ id: 'document-2', name: 'Docket' }, ['document-1']));
  expect([order('document-2'), document('document-1').deletedAt !== null]).toEqual(['xabcd', true]);
  // Where it began is known on.
  expect(['x', 'a', 'b'].map((id) => page(id).begins)).toEqual([undefined, name, undefined]);
  await store.dispatch(undoLast('document-2'));
  expect(page('a').begins).toBeUndefined();
  expect([order('document-2'), order(), document('document-1').deletedAt]).toEqual(['x', 'abcd', null]);
});

test('a photo stays as long as a copy elsewhere is made from it', async () => {
  const { store, document, page, order } = await begin();
  await putPhoto(aPhoto('photo-of-page-a'), new Blob(['one']));
  await putPhoto(aPhoto('photo-of-page-b'), new Blob(['two']));
  await store.dispatch(sendPages(document(), [page('a')], { id: 'document-2', name: 'Docket' }, true));
  expect([order(), document('document-2').pageIds.length, document('document-2').pageIds.includes('page-a')]).toEqual([
    'abcd',
    2,
    false,
  ]);
  await store.dispatch(deletePages(document(), [page('a'), page('b')]));
  await purge(Date.now() + (binDays + 1) * 86_400_000);
  expect([await getPhoto('photo-of-page-a'), await getPhoto('photo-of-page-b')].map(Boolean)).toEqual([true, false]);
});
