import { binDocuments } from './filing';
import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import { openDB } from 'idb';
import type { Delivery, Page } from '@libretto/model';
import { aDelivery, aDocument, aPage } from '../testing/records';
import { anotherTab, aStore, until } from '../testing/store';
import { change, redo, undo, undoLast } from './change';
import { commit } from './commit';
import { deletePages, learnDelivery, movePage, renameDocument, turnPages } from './editing';
import { dropCache } from './files';
import { keepPage } from './keeping';
import { openLibrary } from './open';
import { type AnyRecord } from './records';
import { allKeys, readTexts, writeTexts } from './texts';
import { applyOps } from './step';
import type { Store } from './store';

const pages = ['page-a', 'page-b', 'page-c'].map((id) => aPage(id));
const records: AnyRecord[] = [
  ...pages.map((record) => ({ kind: 'page' as const, record })),
  { kind: 'document', record: aDocument(pages.map((p) => p.id)) },
];
const document = (store: Store) => store.getState().library.document['document-1']!;
const page = (store: Store, id: string): Page => store.getState().library.page[id]!;
const order = (store: Store) => document(store).pageIds.map((id) => id.slice(-1)).join(''); // prettier-ignore
const lastStep = (store: Store) => store.getState().library.steps.at(-1)!;
const stored = async (key: string) => JSON.parse((await readTexts([key]))[key] ?? 'null') as Record<string, unknown>;

async function twoTabs(list = records): Promise<[Store, Store]> {
  const one = await aStore(list);
  return [one, await anotherTab()];
}

describe('two tabs', () => {
  test('what one does the other shows', async () => {
    const [one, two] = await twoTabs();
    await one.dispatch(renameDocument(document(one), 'Wren'));
    await until(() => document(two).name === 'Wren');
    expect(two.getState().library.summary['document-1']!.name).toBe('Wren');
    await two.dispatch(turnPages([page(two, 'page-b')]));
    await until(() => page(one, 'page-b').recipe!.turn === 90);
  });

  test('a page deleted in one tab does not come back when the other renames, reorders or finishes, without having heard of it', async () => {
    const [one, two] = await twoTabs();
    two.extra.close();
    const before = document(two);
    await one.dispatch(deletePages(document(one), [page(one, 'page-b')]));
    await Promise.all([two.dispatch(renameDocument(before, 'Wren')), two.dispatch(movePage(before, 0, 2))]);
    expect(await stored('document:document-1')).toMatchObject({ name: 'Wren', pageIds: ['page-c', 'page-a'] });
    expect((await stored('page:page-b')).deletedAt).not.toBeNull();
  });

  test('both add pages at once: none is lost', async () => {
    const [one, two] = await twoTabs();
    const picture = (name: string) => ({ blob: new Blob([name]), name, type: 'image/jpeg' as const });
    await Promise.all([one, two, one, two].map((store, i) => store.dispatch(keepPage('document-1', picture(`${i}.jpg`)))));
    expect((await stored('document:document-1')).pageIds).toHaveLength(7);
    await until(() => document(one).pageIds.length === 7 && document(two).pageIds.length === 7);
  });

  test('undo takes back the step that it speaks of, not the last one', async () => {
    const [one] = await twoTabs();
    await one.dispatch(deletePages(document(one), [page(one, 'page-b')]));
    const deleted = one.getState().session.notice!.undo!;
    await one.dispatch(keepPage('document-1', { blob: new Blob(['x']), name: 'x.jpg', type: 'image/jpeg' }));
    await one.dispatch(undo(deleted));
    expect(order(one)).toMatch(/^abc./);
    expect(page(one, 'page-b').deletedAt).toBeNull();
  });

  test('a field that the other tab has changed since stays, and it is said; the rest of the step is taken back', async () => {
    const [one, two] = await twoTabs();
    await one.dispatch(turnPages([page(one, 'page-a'), page(one, 'page-b')]));
    const turned = lastStep(one).id;
    await until(() => page(two, 'page-a').recipe!.turn === 90);
    await two.dispatch(turnPages([page(two, 'page-a')]));
    await one.dispatch(undo(turned));
    expect([page(one, 'page-a'), page(one, 'page-b')].map((p) => p.recipe!.turn)).toEqual([180, 0]);
    expect(one.getState().session.notice).toEqual({ code: 'notice.partlyBack' });

    await one.dispatch(renameDocument(document(one), 'Wren'));
    const named = lastStep(one).id;
    await until(() => document(two).name === 'Wren');
    await two.dispatch(renameDocument(document(two), 'Heron'));
    await one.dispatch(undo(named));
    expect((await stored('document:document-1')).name).toBe('Heron');
    expect(one.getState().session.notice).toEqual({ code: 'notice.changedSince' });
  });

  test('a delivery that has arrived is never told otherwise by a tab that knows less', async () => {
    const [one, two] = await twoTabs([...records, { kind: 'delivery', record: aDelivery('delivery-1', { state: 'sending' }) }]);
    two.extra.close();
    const proof = {
      where: '',
      at: '2026-11-20T14:02:00Z',
      bytes: 1,
      sha256: 'ab'.repeat(32),
      how: 'read-back' as const,
      receipt: '',
    };
    await one.dispatch(learnDelivery(one.getState().library.delivery['delivery-1']!, { state: 'arrived', proof }));
    const third = await anotherTab();
    expect(third.getState().library.summary['document-1']!.fate).toMatchObject({ code: 'arrived' });
    expect(((await stored('delivery:delivery-1')) as unknown as Delivery).proof).toEqual(proof);
  });
});

describe('steps', () => {
  test('are taken back and done again after a reload, in turn', async () => {
    const one = await aStore(records);
    await one.dispatch(movePage(document(one), 0, 2));
    await one.dispatch(deletePages(document(one), [page(one, 'page-c')]));
    const two = await anotherTab();
    await two.dispatch(undoLast('document-1'));
    expect([order(two), page(two, 'page-c').deletedAt]).toEqual(['bca', null]);
    await two.dispatch(undoLast('document-1'));
    expect(order(two)).toBe('abc');
    const three = await anotherTab();
    const [moved] = three.getState().library.steps;
    await three.dispatch(redo(moved!.id));
    expect(order(three)).toBe('bca');
  });

  test('an added page that was taken back is not there after the next start', async () => {
    const one = await aStore(records);
    const added = await one.dispatch(keepPage('document-1', { blob: new Blob(['x']), name: 'x.jpg', type: 'image/jpeg' }));
    await one.dispatch(undo(lastStep(one).id));
    expect(order(one)).toBe('abc');
    const two = await anotherTab();
    expect(order(two)).toBe('abc');
    expect((await stored(`page:${added.id}`)).deletedAt).not.toBeNull();
  });

  test('of several documents are taken back at once', async () => {
    const other = aDocument([], { id: 'document-2', name: 'Docket' });
    const one = await aStore([...records, { kind: 'document', record: other }]);
    await one.dispatch(
      change({
        label: { code: 'step.move' },
        documentIds: ['document-1', 'document-2'],
        ops: [
          { op: 'take', id: 'document-1', pages: ['page-b'] },
          { op: 'place', id: 'document-2', pages: ['page-b'] },
        ],
      }),
    );
    expect(one.getState().library.document['document-2']!.pageIds).toEqual(['page-b']);
    await one.dispatch(undoLast('document-2'));
    expect([order(one), one.getState().library.document['document-2']!.pageIds]).toEqual(['abc', []]);
  });

  test('taken twice, a step is taken once', async () => {
    const one = await aStore(records);
    await one.dispatch(renameDocument(document(one), 'Wren'));
    const { id, at, label, documentIds, ops } = lastStep(one);
    await one.dispatch(renameDocument(document(one), 'Heron'));
    await commit({ id, tab: 'tab', at, label, documentIds, ops }, { replay: true });
    expect((await stored('document:document-1')).name).toBe('Heron');
  });
});

describe('one transaction', () => {
  test('a step writes all of its records or none: cut in the middle, nothing of it is there', async () => {
    const one = await aStore(records);
    const before = await readTexts(await allKeys());
    const put = IDBObjectStore.prototype.put;
    let puts = 0;
    IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...args: Parameters<typeof put>) {
      const request = put.apply(this, args);
      const own = ++puts;
      // All of the step's records have been handed over, and that is the last thing that this browser does.
      request.addEventListener('success', () => own === puts && this.transaction.abort());
      return request;
    };
    try {
      await one.dispatch(deletePages(document(one), [page(one, 'page-a'), page(one, 'page-b')]));
    } finally {
      IDBObjectStore.prototype.put = put;
    }
    expect(puts).toBeGreaterThanOrEqual(4);
    expect(await readTexts(await allKeys())).toEqual(before);
    // What is stored is what is shown again, and it is said.
    expect(order(one)).toBe('abc');
    expect(one.getState().session.notice!.code).toBe('notice.notStored');
  });

  test('AsyncStorage writes many keys in one transaction of the database that it names', async () => {
    const db = await openDB('libretto');
    const opened: string[] = [];
    const transaction = IDBDatabase.prototype.transaction;
    IDBDatabase.prototype.transaction = function (this: IDBDatabase, ...args: Parameters<typeof transaction>) {
      opened.push(`${args[1]}`);
      return transaction.apply(this, args);
    };
    try {
      await createAsyncStorage('libretto').setMany({ 'x:1': 'a', 'x:2': 'b', 'x:3': 'c' });
    } finally {
      IDBDatabase.prototype.transaction = transaction;
    }
    expect(opened).toEqual(['readwrite']);
    expect(await db.get('entries', 'x:2')).toBe('b');
    db.close();
  });

  test('on a full disk the images that can be made again go first, and the step is stored', async () => {
    const one = await aStore(records);
    await dropCache();
    const put = IDBObjectStore.prototype.put;
    let full = true;
    IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...args: Parameters<typeof put>) {
      if (full && String(args[1]) === 'document:document-1') {
        full = false;
        throw new DOMException('The quota has been exceeded', 'QuotaExceededError');
      }
      return put.apply(this, args);
    };
    try {
      await one.dispatch(renameDocument(document(one), 'Wren'));
    } finally {
      IDBObjectStore.prototype.put = put;
    }
    expect((await stored('document:document-1')).name).toBe('Wren');
  });

  test('on a disk that stays full the change is withdrawn, and it is said what to do', async () => {
    const one = await aStore(records);
    const put = IDBObjectStore.prototype.put;
    IDBObjectStore.prototype.put = function () {
      throw new DOMException('The quota has been exceeded', 'QuotaExceededError');
    };
    try {
      await one.dispatch(renameDocument(document(one), 'Wren'));
      await one.dispatch(binDocuments([document(one)]));
    } finally {
      IDBObjectStore.prototype.put = put;
    }
    expect([document(one).name, document(one).deletedAt]).toEqual(['Hull survey', null]);
    expect(one.getState().library.summary['document-1']).toMatchObject({ name: 'Hull survey', deletedAt: null });
    expect(one.getState().session.notice).toEqual({ code: 'notice.full' });
    expect(localStorage.length).toBe(0);
  });
});

describe('records of a newer version', () => {
  const newer = { ...aPage('page-b'), v: 9, marks: ['ink'] } as unknown as Page;
  const list: AnyRecord[] = [
    ...records.filter(({ record }) => !('id' in record) || record.id !== 'page-b'),
    { kind: 'page', record: newer },
  ];

  test('are known as such, never written, never replaced', async () => {
    const one = await aStore(list);
    expect(one.getState().library.newer).toEqual({ 'page:page-b': true });
    expect(one.getState().library.summary['document-1']!.newer).toBe(true);
    await one.dispatch(change({ label: { code: 'step.turn' }, documentIds: ['document-1'], ops: [{ op: 'set', kind: 'page', id: 'page-b', path: ['alone'], value: false }] })); // prettier-ignore
    expect(one.getState().session.notice).toEqual({ code: 'notice.newer' });
    expect(await stored('page:page-b')).toEqual(newer);
    await one.dispatch(renameDocument(document(one), 'Wren'));
    await one.dispatch(openLibrary());
    expect(await stored('page:page-b')).toEqual(newer);
    expect((await stored('document:document-1')).pageIds).toContain('page-b');
  });

  test('fields that nobody here knows outlive a change', async () => {
    await aStore([]);
    await writeTexts({ 'document:document-1': JSON.stringify({ ...aDocument([]), berth: 'Yard' }) });
    await writeTexts({ layout: '"1"' });
    const one = await anotherTab();
    await one.dispatch(renameDocument(document(one), 'Wren'));
    expect(await stored('document:document-1')).toMatchObject({ name: 'Wren', berth: 'Yard' });
  });
});

test('steps that are shown and not stored yet stay shown over what another one brings', async () => {
  const one = await aStore(records);
  const first = one.dispatch(renameDocument(document(one), 'Wren'));
  const second = one.dispatch(movePage(document(one), 0, 2));
  expect([document(one).name, order(one)]).toEqual(['Wren', 'bca']);
  await first;
  expect([document(one).name, order(one)]).toEqual(['Wren', 'bca']);
  await second;
  expect(applyOps(new Map([['document:document-1', document(one)]]), []).changed.size).toBe(0);
  expect(await stored('document:document-1')).toMatchObject({ name: 'Wren', pageIds: ['page-b', 'page-c', 'page-a'] });
});
