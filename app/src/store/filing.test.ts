import { folderTree } from '@libretto/model';
import { aDocument, aPage, aPhoto } from '../testing/records';
import { anotherTab, aStore } from '../testing/store';
import { undoLast } from './change';
import { getPhoto, putPhoto } from './files';
import {
  binDocuments,
  fileDocuments,
  foldersOf,
  makeFolder,
  moveFolder,
  removeFolder,
  renameFolder,
  restoreDocuments,
  tagDocuments,
  tagsInUse,
} from './filing';
import { emptyBin } from './open';
import { allKeys, writeTexts } from './texts';

async function begin() {
  const pages = [aPage('page-a'), aPage('page-b', { documentId: 'document-2' })];
  const store = await aStore([
    ...pages.map((record) => ({ kind: 'page' as const, record })),
    { kind: 'document', record: aDocument(['page-a']) },
    { kind: 'document', record: aDocument(['page-b'], { id: 'document-2', name: 'Docket' }) },
  ]);
  const summary = (id = 'document-1') => store.getState().library.summary[id]!;
  const tree = () => folderTree(foldersOf(store.getState())).map(({ folder, depth }) => `${depth} ${folder.name}`);
  const folder = (name: string) => Object.values(foldersOf(store.getState())).find((f) => f.name === name)!;
  return { store, summary, tree, folder };
}

test('folders lie in folders, each name once in a place, and never in themselves', async () => {
  const { store, tree, folder } = await begin();
  await store.dispatch(makeFolder(' Boats ', null));
  await store.dispatch(makeFolder('boats', null));
  await store.dispatch(makeFolder('Wren', folder('Boats').id));
  expect(tree()).toEqual(['0 Boats', '1 Wren', '0 boats (2)']);
  await store.dispatch(moveFolder(folder('Boats'), folder('Wren').id));
  await store.dispatch(moveFolder(folder('Boats'), folder('boats (2)').id));
  await store.dispatch(renameFolder(folder('boats (2)'), 'Yard'));
  expect(tree()).toEqual(['0 Yard', '1 Boats', '2 Wren']);
  expect(folderTree(foldersOf((await anotherTab()).getState()))).toHaveLength(3);
  await store.dispatch(undoLast());
  await store.dispatch(undoLast());
  expect(tree()).toEqual(['0 Boats', '1 Wren', '0 boats (2)']);
  expect(await store.dispatch(makeFolder('   ', null))).toBeNull();
});

test('a folder that goes leaves what lay in it one up; taken back, it is as before', async () => {
  const { store, summary, tree, folder } = await begin();
  await store.dispatch(makeFolder('Boats', null));
  await store.dispatch(makeFolder('Wren', folder('Boats').id, [summary()]));
  await store.dispatch(makeFolder('Deck', folder('Wren').id));
  expect(summary().folder).toBe(folder('Wren').id);
  await store.dispatch(removeFolder(folder('Wren')));
  expect([tree(), summary().folder]).toEqual([['0 Boats', '1 Deck'], folder('Boats').id]);
  await store.dispatch(undoLast());
  expect([tree(), summary().folder]).toEqual([['0 Boats', '1 Wren', '2 Deck'], folder('Wren').id]);
});

test('documents are filed, and out of it again', async () => {
  const { store, summary, folder } = await begin();
  await store.dispatch(makeFolder('Boats', null));
  await store.dispatch(fileDocuments([summary(), summary('document-2')], folder('Boats')));
  expect([summary().folder, summary('document-2').folder]).toEqual([folder('Boats').id, folder('Boats').id]);
  await store.dispatch(fileDocuments([summary()], null));
  expect(summary().folder).toBeUndefined();
  expect((await anotherTab()).getState().library.summary['document-1']!.folder).toBeUndefined();
});

test('tags are given once, whatever their case, and taken off', async () => {
  const { store, summary } = await begin();
  await store.dispatch(tagDocuments([summary(), summary('document-2')], { add: ['#wood', 'Wood', 'to pay, soon'] }));
  expect(summary().tags).toEqual(['wood', 'to pay soon']);
  await store.dispatch(tagDocuments([summary()], { remove: ['WOOD'] }));
  expect([summary().tags, tagsInUse(Object.values(store.getState().library.summary))]).toEqual([
    ['to pay soon'],
    ['to pay soon', 'wood'],
  ]);
  await store.dispatch(tagDocuments([summary()], { remove: ['to pay soon'] }));
  expect(summary().tags).toBeUndefined();
});

test('two tabs make folders at once, and both are there', async () => {
  const { store } = await begin();
  const other = await anotherTab();
  await Promise.all([store.dispatch(makeFolder('One', null)), other.dispatch(makeFolder('Two', null))]);
  expect(folderTree(foldersOf((await anotherTab()).getState())).map((f) => f.folder.name)).toEqual(['One', 'Two']);
});

test('the bin gives back, or lets go for good what no other document uses', async () => {
  const { store, summary } = await begin();
  await putPhoto(aPhoto('photo-of-page-a'), new Blob(['one']));
  await putPhoto(aPhoto('photo-of-page-b'), new Blob(['two']));
  await store.dispatch(binDocuments([summary(), summary('document-2')]));
  await store.dispatch(restoreDocuments([summary()]));
  await store.dispatch(emptyBin(['document-1', 'document-2']));
  expect([summary().deletedAt, summary('document-2')]).toEqual([null, undefined]);
  expect([await getPhoto('photo-of-page-a'), await getPhoto('photo-of-page-b')].map(Boolean)).toEqual([true, false]);
});

test('folders that cannot be read are set aside, and what lay in them stands on the shelf', async () => {
  await begin();
  await writeTexts({ 'shelf:shelf': '{"v":1,"id":"shelf","folders":7}' });
  const { library } = (await anotherTab()).getState();
  expect(library.aside.map((a) => a.key)).toEqual(['shelf:shelf']);
  expect(foldersOf({ library })).toEqual({});
  expect(await allKeys()).toContain('aside:shelf:shelf');
});
