import type { Page, Photo } from '@libretto/model';
import { aDelivery, aDocument, aPage, aPhoto } from '../testing/records';
import { anotherTab, aStore, emptyStorage } from '../testing/store';
import { deletePages, renameDocument } from './editing';
import {
  allOutgoing,
  cacheBudget,
  getRender,
  getThumb,
  getPhoto,
  putOutgoing,
  putPhoto,
  putRender,
  putThumb,
  stored,
  type Rendered,
} from './files';
import { mend, type Everything } from './mend';
import { openLibrary, tidyUp } from './open';
import { binDays } from './purge';
import { type AnyRecord } from './records';
import { readTexts, writeTexts } from './texts';
import { createStore } from './store';

const byId = <T extends { id: string }>(list: T[]) => new Map(list.map((r) => [r.id, r]));
const all = (part: { photo?: Photo[]; page?: Page[]; document?: ReturnType<typeof aDocument>[] }): Everything => ({
  photo: byId(part.photo ?? []),
  page: byId(part.page ?? []),
  document: byId(part.document ?? []),
  delivery: new Map(),
});

describe('what is missing among the records', () => {
  test('a photo without a page comes back into its document', () => {
    const out = mend(all({ document: [aDocument([])] }), [aPhoto('photo-1')], 'Lost');
    expect([...out.keys()]).toEqual(['photo:photo-1', 'page:photo-1-page', 'document:document-1']);
    expect(out.get('page:photo-1-page')).toMatchObject({ photoId: 'photo-1', state: 'looking', documentId: 'document-1' });
    expect(out.get('document:document-1')).toMatchObject({ pageIds: ['photo-1-page'] });
  });

  test('one whose document is gone gets one of its own, and mending twice adds nothing', () => {
    const photos = [aPhoto('photo-1'), aPhoto('photo-2')];
    const out = mend(all({}), photos, 'Lost');
    expect(out.get('document:document-1')).toMatchObject({ name: 'Lost', pageIds: ['photo-1-page', 'photo-2-page'] });
    const of = <T>(kind: string) => [...out].filter(([key]) => key.startsWith(kind)).map(([, r]) => r as T);
    expect(mend(all({ photo: of('photo:'), page: of('page:'), document: of('document:') }), photos, 'Lost').size).toBe(0);
  });

  test('a page that its document does not name is appended; deleted ones stay out', () => {
    const page = [aPage('page-a'), aPage('page-b', { deletedAt: '2026-11-20T09:00:00.000Z' })];
    const out = mend(all({ page, document: [aDocument([])] }), [], 'Lost');
    expect([...out]).toEqual([['document:document-1', expect.objectContaining({ pageIds: ['page-a'] })]]);
  });

  test('further pages of a photo that will be looked at again are not doubled', () => {
    const page = [aPage('page-a', { photoId: 'photo-1', state: 'looking' }), aPage('page-b', { photoId: 'photo-1' })];
    const out = mend(all({ photo: [aPhoto('photo-1')], page, document: [aDocument(['page-a'])] }), [aPhoto('photo-1')], 'Lost');
    expect([...out]).toEqual([['page:page-b', expect.objectContaining({ deletedAt: expect.any(String) })]]);
  });

  test('ten thousand photos and pages take no longer for each than a hundred do', () => {
    const of = (n: number) => {
      const ids = Array.from({ length: n }, (_, i) => `page-${i}`);
      return all({
        page: ids.map((id) => aPage(id)),
        document: [aDocument(ids)],
        photo: ids.map((id) => aPhoto(`photo-of-${id}`)),
      });
    };
    let asked = 0;
    const watched = of(10_000);
    const get = watched.page.values.bind(watched.page);
    watched.page.values = () => {
      asked++;
      return get();
    };
    expect(mend(watched, [...watched.photo.values()], 'Lost').size).toBe(0);
    // Once over the pages for the photos, once for the documents: never once for each photo.
    expect(asked).toBe(2);
  });
});

describe('the start', () => {
  const records: AnyRecord[] = [
    { kind: 'page', record: aPage('page-a') },
    { kind: 'document', record: aDocument(['page-a']) },
  ];

  test('reads summaries and settings, no page and no photo', async () => {
    await aStore(records);
    const store = createStore();
    await store.dispatch(openLibrary());
    const { summary, page, document, photo } = store.getState().library;
    expect(summary['document-1']).toMatchObject({ name: 'Hull survey', pages: 1, first: { pageId: 'page-a' } });
    expect([page, document, photo]).toEqual([{}, {}, {}]);
    expect(store.getState().session.start).toBe('ready');
  });

  test('what the browser was closed on is finished; a torn entry stands in nobody’s way', async () => {
    await aStore(records);
    const step = {
      id: 'step-of-another-life', tab: 'tab-gone', at: new Date().toISOString(), label: { code: 'step.name' }, documentIds: ['document-1'],
      ops: [{ op: 'set', kind: 'document', id: 'document-1', path: ['name'], value: 'After' }],
    }; // prettier-ignore
    localStorage.setItem('libretto-pending:tab-gone:step-of-another-life', JSON.stringify(step));
    localStorage.setItem('libretto-pending:tab-gone:torn', '{"id":"x","ops":[');
    localStorage.setItem('libretto-pending:document:old', '"{}"');
    const store = await anotherTab();
    expect(store.getState().library.document['document-1']!.name).toBe('After');
    expect(store.getState().session.start).toBe('ready');
    expect(Object.keys(localStorage)).toEqual([]);
    expect((await readTexts(['aside:libretto-pending:tab-gone:torn']))['aside:libretto-pending:tab-gone:torn']).toContain(
      '"ops"',
    );
  });

  test('the journal is written within the call, and empty once all is stored', async () => {
    const store = await aStore(records);
    const done = store.dispatch(renameDocument(store.getState().library.document['document-1']!, 'Wren'));
    const [key] = Object.keys(localStorage);
    expect(JSON.parse(localStorage.getItem(key!)!)).toMatchObject({ ops: [{ value: 'Wren' }] });
    await done;
    expect(Object.keys(localStorage)).toEqual([]);
  });

  test.each([
    ['full', new DOMException('The quota has been exceeded', 'QuotaExceededError')],
    ['blocked', new Error('Access to storage is not allowed from this context')],
    ['fault', new Error('Internal error')],
  ])('that fails says so (%s), and trying again works', async (failed, error) => {
    await aStore(records);
    const get = IDBObjectStore.prototype.get;
    IDBObjectStore.prototype.get = () => {
      throw error;
    };
    const store = createStore();
    expect(await store.dispatch(openLibrary())).toBe(false);
    IDBObjectStore.prototype.get = get;
    expect(store.getState().session.start).toMatchObject({ failed });
    expect(await store.dispatch(openLibrary())).toBe(true);
    expect(store.getState().session.start).toBe('ready');
  });

  test('a document that cannot be read is set aside unchanged, and its pages come back', async () => {
    await aStore(records);
    await writeTexts({ 'document:document-1': '{"v":1,"id":"docu' });
    const store = await anotherTab();
    const { summary } = store.getState().library;
    expect(summary['document-1']).toMatchObject({ name: 'Recovered photographs', pages: 1 });
    expect((await readTexts(['aside:document:document-1']))['aside:document:document-1']).toBe('{"v":1,"id":"docu');
  });
});

const render = (size: number): Rendered => ({
  blob: new Blob(['x'.repeat(size)], { type: 'image/jpeg' }), width: 3, height: 4, widthMm: 30, heightMm: 40, sizeName: null, dpi: 200, photoDpi: 200, filter: 'grey',
}); // prettier-ignore

describe('room', () => {
  beforeEach(emptyStorage);

  test('images that can be made again have a budget, and go those first that were used least lately', async () => {
    const now = jest.spyOn(Date, 'now');
    const whole = cacheBudget.bytes;
    cacheBudget.bytes = 3500;
    try {
      for (const [i, key] of ['a', 'b', 'c'].entries()) {
        now.mockReturnValue(1e12 + i * 1e6);
        await putRender(key, render(1000));
      }
      now.mockReturnValue(1e12 + 9e6);
      expect((await getRender('a'))!.blob.size).toBe(1000);
      await new Promise((resolve) => setTimeout(resolve, 20));
      now.mockReturnValue(1e12 + 10e6);
      await putRender('d', render(1000));
      const left = await Promise.all(['a', 'b', 'c', 'd'].map(async (key) => ((await getRender(key)) ? key : '-')));
      expect(left.join('')).toBe('a--d');
      expect((await stored()).renders).toBe(2000);
    } finally {
      cacheBudget.bytes = whole;
      now.mockRestore();
    }
  });

  test('what is stored is known, by what it is', async () => {
    const before = await stored();
    await putPhoto(aPhoto('photo-s'), new Blob(['12345']));
    await putPhoto(aPhoto('photo-s'), new Blob(['1234567']));
    await putOutgoing('delivery-s', new Blob(['123']));
    const after = await stored();
    expect([after.photos - before.photos, after.outgoing - before.outgoing]).toEqual([7, 3]);
  });

  test('what was in the bin for its time goes for good, with its photo; what was brought back, or shares the photo, stays', async () => {
    const pages = [
      aPage('page-a'),
      aPage('page-b', { photoId: 'photo-b' }),
      aPage('page-c', { photoId: 'photo-c' }),
      aPage('page-d', { photoId: 'photo-c' }),
    ];
    const store = await aStore([
      ...pages.map((record) => ({ kind: 'page' as const, record })),
      ...['photo-b', 'photo-c'].map((id) => ({ kind: 'photo' as const, record: aPhoto(id) })),
      { kind: 'document', record: aDocument(pages.map((p) => p.id)) },
    ]);
    for (const id of ['photo-b', 'photo-c']) await putPhoto(aPhoto(id), new Blob([id]));
    await putThumb('page-b', { look: 'x', blob: new Blob(['t']), width: 1, height: 1 });
    const { library } = store.getState();
    await store.dispatch(deletePages(library.document['document-1']!, [library.page['page-b']!, library.page['page-c']!]));
    const days = (n: number) => Date.now() + n * 86_400_000;
    await store.dispatch(tidyUp(days(binDays - 1)));
    expect(await getPhoto('photo-b')).toBeDefined();
    await store.dispatch(tidyUp(days(binDays + 1)));
    expect([await getPhoto('photo-b'), await getThumb('page-b')]).toEqual([undefined, undefined]);
    expect(await getPhoto('photo-c')).toBeDefined();
    expect(Object.values(await readTexts(['page:page-b', 'page:page-c', 'photo:photo-b']))).toEqual([null, null, null]);
    expect((await anotherTab()).getState().library.document['document-1']!.pageIds).toEqual(['page-a', 'page-d']);
  });

  test('files of deliveries that have arrived go, those that wait stay', async () => {
    const proof = {
      where: '',
      at: '2026-11-20T14:02:00Z',
      bytes: 1,
      sha256: 'ab'.repeat(32),
      how: 'read-back' as const,
      receipt: '',
    };
    const store = await aStore([
      { kind: 'delivery', record: aDelivery('delivery-1', { state: 'arrived', proof }) },
      { kind: 'delivery', record: aDelivery('delivery-2') },
    ]);
    for (const id of ['delivery-1', 'delivery-2', 'delivery-3']) await putOutgoing(id, new Blob([id]));
    await store.dispatch(tidyUp());
    expect((await allOutgoing()).sort()).toEqual(['delivery-2', 'delivery-3']);
  });
});
