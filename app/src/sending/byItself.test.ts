import { emptyShelf, settleMs, type Folder } from '@libretto/model';
import { fileDocuments, holdBack, renameFolder, setFolderSends } from '../store/filing';
import { change } from '../store/change';
import { placesLearned } from '../store/library';
import type { Op } from '../store/step';
import { allOutgoing } from '../store/files';
import { aDelivery, aDocument, aPage, aPlace } from '../testing/records';
import { anotherTab, aStore, until } from '../testing/store';
import { ByItself } from './byItself';

const folder: Folder = { id: 'folder-1', name: 'Invoices', parent: null, createdAt: '2026-11-01T09:00:00.000Z', sendsTo: { [aPlace.id]: { folder: 'Invoices' } } }; // prettier-ignore
const within: Folder = { ...folder, id: 'folder-2', name: '2026', parent: folder.id, sendsTo: undefined };
const other = { ...aPlace, id: 'office-mail', name: 'Office mail', kind: 'mail' as const };
const page = aPage('page-1', { state: 'looking' });
const filed = aDocument([page.id], { folder: within.id });

const made = jest.fn((_document: unknown, _pages: unknown) =>
  Promise.resolve([{ fileName: 'Hull survey.pdf', blob: new Blob(['pdf']), sha256: 'ab'.repeat(32) }]),
);
let now = Date.now();

async function begin({
  document = filed,
  pages = [aPage('page-1')],
  deliveries = [] as ReturnType<typeof aDelivery>[],
  folders = [folder, within],
} = {}) {
  const store = await aStore([
    { kind: 'document', record: document },
    ...pages.map((record) => ({ kind: 'page' as const, record })),
    ...deliveries.map((record) => ({ kind: 'delivery' as const, record })),
    { kind: 'shelf', record: { ...emptyShelf, folders: Object.fromEntries(folders.map((f) => [f.id, f])) } },
  ]); // prettier-ignore
  store.dispatch(placesLearned([aPlace, other]));
  const byItself = new ByItself(store.dispatch, store.getState, made, () => now);
  const sent = () => Object.values(store.getState().library.delivery);
  return { store, byItself, sent };
}

beforeEach(() => {
  made.mockClear();
  now = Date.now();
});

test('what is filed goes once to each place of the nearest folder that sends, however often it is looked at', async () => {
  const { byItself, sent } = await begin();
  await byItself.look();
  await byItself.look();
  expect(sent()).toMatchObject([
    { documentId: 'document-1', place: { id: aPlace.id }, folder: 'Invoices', byFolder: 'Invoices', state: 'waiting' },
  ]);
  expect(made).toHaveBeenCalledTimes(1);
  // Another tab takes over: the same delivery, so none.
  const second = await anotherTab();
  second.dispatch(placesLearned([aPlace, other]));
  await new ByItself(second.dispatch, second.getState, made, () => now).look();
  expect(await allOutgoing()).toHaveLength(1);
  expect(made).toHaveBeenCalledTimes(1);
});

test('it is not forgotten for all that was sent by hand since', async () => {
  const { store, byItself } = await begin();
  await byItself.look();
  const createdAt = new Date(Date.now() + 60_000).toISOString();
  const ops = Array.from({ length: 30 }, (_, n): Op => ({ op: 'create', kind: 'delivery', record: aDelivery(`by-hand-${n}`, { place: other, state: 'arrived', createdAt }) })); // prettier-ignore
  await store.dispatch(change({ documentIds: ['document-1'], ops }));
  const again = new ByItself(store.dispatch, store.getState, made, () => now + 1e6);
  await again.look();
  expect(made).toHaveBeenCalledTimes(1);
});

test('a place that is added later gets it later; what was sent by hand does not go again', async () => {
  const { store, byItself, sent } = await begin({ deliveries: [aDelivery('delivery-1', { state: 'arrived' })] });
  await byItself.look();
  expect(made).not.toHaveBeenCalled();
  await store.dispatch(setFolderSends(folder, { sendsTo: { [aPlace.id]: {}, [other.id]: {} } }));
  await byItself.look();
  expect(sent().map((d) => d.place.id)).toEqual([aPlace.id, other.id]);
});

test.each([
  ['pages want a look', { pages: [aPage('page-1', { checks: [{ id: 'unsure-outline', severity: 'look' }] })] }],
  ['a page is not ready', { pages: [page] }],
  ['a page cannot be read', { pages: [{ ...aPage('page-1'), state: 'damaged' as never }] }],
  ['there is no page', { document: { ...filed, pageIds: [] }, pages: [] }],
  ['it is held back', { document: { ...filed, heldBack: true } }],
  ['it is in the bin', { document: { ...filed, deletedAt: '2026-11-21T09:00:00.000Z' } }],
  ['it was changed a moment ago', { document: { ...filed, changedAt: new Date().toISOString() } }],
  ['the folder sends nothing', { folders: [{ ...folder, sendsTo: {} }, within] }],
])('nothing goes while %s', async (_why, part) => {
  const { byItself, sent } = await begin(part);
  await byItself.look();
  byItself.stop();
  expect(sent()).toEqual([]);
});

test('unchecked pages go where the folder says so', async () => {
  const doubtful = aPage('page-1', { checks: [{ id: 'unsure-outline', severity: 'look' }] });
  const { byItself, sent } = await begin({ pages: [doubtful], folders: [{ ...folder, sendsUnchecked: true }, within] });
  await byItself.look();
  expect(sent()).toHaveLength(1);
});

test('what is taken out or held back while its file is made does not go', async () => {
  for (const change of [fileDocuments([filed], null), holdBack([filed], true)]) {
    const { store, byItself, sent } = await begin();
    made.mockImplementationOnce(async () => {
      await store.dispatch(change);
      return [{ fileName: 'x.pdf', blob: new Blob(['x']), sha256: 'ab'.repeat(32) }];
    });
    await byItself.look();
    byItself.stop();
    expect(sent()).toEqual([]);
  }
});

test('filed just now, it goes by itself when its time has come', async () => {
  const { store, byItself, sent } = await begin({ document: { ...filed, folder: undefined as never } });
  byItself.start(store.extra.onStored);
  await store.dispatch(fileDocuments([{ ...filed, folder: undefined as never }], within));
  await byItself.look();
  expect(sent()).toEqual([]);
  now += settleMs + 1000;
  await store.dispatch(renameFolder(within, '2027'));
  await until(() => sent().length === 1);
  byItself.stop();
});
