import type { Slip, Tick } from '@libretto/model/slip';
import { change, undoLast } from '../store/change';
import { answerSlip } from '../store/filing';
import { jobChanged, jobEnded } from '../store/session';
import { aDocument, aPage } from '../testing/records';
import { openDocument, openLibrary } from '../store/open';
import { createStore } from '../store/store';
import { aStore } from '../testing/store';
import { named, readTexts } from '../store/texts';
import { followSlips, keepSlip, slipKey, takeSlip } from './slips';

const slip: Slip = {
  libretto: 'slip',
  v: 1,
  id: 'slip-0001',
  name: 'Hull survey Wren',
  places: [
    { id: 'yard', name: 'Yard', details: { folder: 'Wren' } },
    { id: 'owner', name: 'Owner' },
  ],
  pen: true,
};

async function begin(ids: string[], known = true) {
  const store = await aStore([
    { kind: 'document', record: aDocument(ids, { folder: 'folder-1' }) },
    ...ids.map((id) => ({ kind: 'page' as const, record: aPage(id) })),
  ]);
  if (known) await store.dispatch(keepSlip(await slipKey(slip)));
  const documents = () =>
    Object.values(store.getState().library.document).filter((d) => !d.deletedAt).map(({ id, name, pageIds, sendsTo, slipAsks, folder }) => ({ id, name, pageIds, ...(sendsTo && { sendsTo }), ...(slipAsks && { slipAsks }), folder })); // prettier-ignore
  const take = (pageId: string, ticks: Tick[] = ['ticked', 'empty'], said = slip) =>
    store.dispatch(takeSlip(pageId, { slip: said, ticks }));
  return { store, documents, take };
}

test('in front of its pages it names them, says where they go and is left out; once', async () => {
  const { store, documents, take } = await begin(['page-1', 'page-2', 'page-3']);
  const before = documents();
  await take('page-1');
  const after = [{ id: 'document-1', name: 'Hull survey Wren', pageIds: ['page-2', 'page-3'], sendsTo: { yard: { folder: 'Wren' } }, folder: 'folder-1' }]; // prettier-ignore
  expect(documents()).toEqual(after);
  expect(store.getState().library.page['page-1']?.deletedAt).not.toBeNull();
  // It is out: what is read of it again changes nothing.
  await take('page-1', ['ticked', 'ticked']);
  expect(documents()).toEqual(after);
  await store.dispatch(undoLast('document-1'));
  expect(documents()).toEqual(before);
});

test('between pages another document begins with it, filed as the first', async () => {
  const { store, documents, take } = await begin(['page-1', 'page-2', 'page-3']);
  await take('page-2', ['empty', 'ticked']);
  expect(documents()).toEqual([
    { id: 'document-1', name: aDocument([]).name, pageIds: ['page-1'], folder: 'folder-1' },
    { id: expect.any(String), name: 'Hull survey Wren', pageIds: ['page-3'], sendsTo: { owner: {} }, folder: 'folder-1' },
  ]);
  const other = documents()[1]!.id;
  expect(store.getState().library.page['page-3']?.documentId).toBe(other);
});

test('behind other pages with none behind it, it is not followed before there are some', async () => {
  const { store, documents, take } = await begin(['page-1', 'page-2']);
  const before = documents();
  expect(await take('page-2')).toBe(false);
  expect(documents()).toEqual(before);
  const more = aPage('page-3');
  await store.dispatch(
    change({ documentIds: ['document-1'], ops: [{ op: 'create', kind: 'page', record: more }, { op: 'place', id: 'document-1', pages: [more.id] }] }), // prettier-ignore
  );
  expect(await take('page-2')).toBe(true);
  expect(documents()).toMatchObject([{ pageIds: ['page-1'] }, { name: 'Hull survey Wren', pageIds: ['page-3'] }]);
});

test('while photographs are still being brought in it waits: they would stand in the wrong document', async () => {
  const { store, documents, take } = await begin(['page-1', 'page-2', 'page-3']);
  store.dispatch(jobChanged({ id: 'job-1', kind: 'import', documentId: 'document-1', done: 3, total: 5 }));
  expect(await take('page-2')).toBe(false);
  expect(documents()).toHaveLength(1);
  store.dispatch(jobEnded('job-1'));
  expect(await take('page-2')).toBe(true);
  expect(documents()).toHaveLength(2);
});

test('without a name its pages keep theirs', async () => {
  const nameless = { ...slip, name: '' };
  const { store, documents, take } = await begin(['page-1', 'page-2']);
  await store.dispatch(keepSlip(await slipKey(nameless)));
  await take('page-1', ['ticked', 'empty'], nameless);
  expect(documents()).toMatchObject([{ name: aDocument([]).name, pageIds: ['page-2'], sendsTo: { yard: { folder: 'Wren' } } }]);
});

test('another slip under the id of one of ours is a strange one', async () => {
  const { documents, take } = await begin(['page-1', 'page-2']);
  await take('page-1', ['ticked'], { ...slip, places: [{ id: 'yard', name: 'Yard', details: { to: ['else@example.org'] } }] });
  expect(documents()[0]).not.toHaveProperty('sendsTo');
  expect(documents()[0]).toMatchObject({ slipAsks: { why: 'strange' } });
});

test('an unclear box is asked about; yes sends there as well, no does not', async () => {
  const { store, documents, take } = await begin(['page-1', 'page-2']);
  await take('page-1', ['ticked', 'unclear']);
  const asks = { id: await slipKey(slip), why: 'tick', sendsTo: { owner: {} } };
  expect(documents()).toMatchObject([{ sendsTo: { yard: { folder: 'Wren' } }, slipAsks: asks }]);
  await store.dispatch(answerSlip(store.getState().library.document['document-1']!, true));
  expect(documents()[0]).toMatchObject({ sendsTo: { yard: { folder: 'Wren' }, owner: {} } });
  expect(documents()[0]).not.toHaveProperty('slipAsks');
  await store.dispatch(undoLast('document-1'));
  await store.dispatch(answerSlip(store.getState().library.document['document-1']!, false));
  expect(Object.keys(documents()[0]!.sendsTo!)).toEqual(['yard']);
  expect(documents()[0]).not.toHaveProperty('slipAsks');
});

test('a slip that was not printed here sends nothing before somebody has said so', async () => {
  const { documents, take } = await begin(['page-1', 'page-2'], false);
  await take('page-1', ['ticked', 'unclear']);
  expect(documents()[0]).not.toHaveProperty('sendsTo');
  expect(documents()[0]).toMatchObject({ name: 'Hull survey Wren', slipAsks: { why: 'strange', sendsTo: { yard: { folder: 'Wren' }, owner: {} } } });
}); // prettier-ignore

test('one that cannot be followed yet is kept over a reload, also while its document is not open', async () => {
  const { store } = await begin(['page-1', 'page-2']);
  const kept = async () => JSON.parse((await readTexts([named.slips]))[named.slips] ?? '[]') as { pageId: string }[];
  await store.dispatch(followSlips({ slip, ticks: ['ticked', 'empty'], pageId: 'page-2', documentId: 'document-1' }));
  expect(await kept()).toMatchObject([{ pageId: 'page-2' }]);

  const again = createStore();
  await again.dispatch(openLibrary());
  await again.dispatch(followSlips());
  expect(await kept()).toHaveLength(1);
  await again.dispatch(openDocument('document-1'));
  await again.dispatch(followSlips());
  expect(await kept()).toHaveLength(1);
  const more = aPage('page-3');
  await again.dispatch(
    change({ documentIds: ['document-1'], ops: [{ op: 'create', kind: 'page', record: more }, { op: 'place', id: 'document-1', pages: [more.id] }] }), // prettier-ignore
  );
  await again.dispatch(followSlips());
  expect(await kept()).toEqual([]);
  const after = Object.values(again.getState().library.document).map(({ name, pageIds }) => ({ name, pageIds }));
  expect(after).toContainEqual({ name: 'Hull survey Wren', pageIds: ['page-3'] });
});
