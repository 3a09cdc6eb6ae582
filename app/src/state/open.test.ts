import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import { readRecords, writeRecord } from '../storage/records';
import { aDocument, aPage, aPhoto } from '../testing/records';
import { movePage } from './editing';
import { opened } from './library';
import { mend } from './open';
import { createStore, written } from './store';

const byId = <T extends { id: string }>(list: T[]) => Object.fromEntries(list.map((r) => [r.id, r]));

describe('what a stop in the middle has left', () => {
  test('a photo that was stored before its page comes back into its document', () => {
    const out = mend({ photo: {}, page: {}, document: byId([aDocument([])]) }, [aPhoto('photo-1')]);
    expect(out.map((r) => r.kind)).toEqual(['photo', 'page', 'document']);
    expect(out[1]!.record).toMatchObject({ photoId: 'photo-1', state: 'looking', documentId: 'document-1' });
    expect(out[2]!.record).toMatchObject({ pageIds: ['photo-1-page'] });
  });

  test('a photo whose document is gone gets one of its own, and mending twice adds nothing', () => {
    const first = mend({ photo: {}, page: {}, document: {} }, [aPhoto('photo-1'), aPhoto('photo-2')]);
    const documents = first.filter((r) => r.kind === 'document');
    expect(documents).toHaveLength(1);
    expect(documents[0]!.record).toMatchObject({ name: 'Recovered photographs', pageIds: ['photo-1-page', 'photo-2-page'] });
    const state = { photo: {}, page: {}, document: {} } as Parameters<typeof mend>[0];
    for (const { kind, record } of first)
      (state[kind as 'photo'] as Record<string, unknown>)[(record as { id: string }).id] = record;
    expect(mend(state, [aPhoto('photo-1'), aPhoto('photo-2')])).toEqual([]);
  });

  test('a page that its document does not name is appended; deleted ones stay out', () => {
    const pages = [aPage('page-a'), aPage('page-b', { deletedAt: '2026-11-20T09:00:00.000Z' })];
    const out = mend({ photo: {}, page: byId(pages), document: byId([aDocument([])]) }, []);
    expect(out).toHaveLength(1);
    expect(out[0]!.record).toMatchObject({ pageIds: ['page-a'] });
  });

  test('further pages of a photo that will be looked at again are not doubled', () => {
    const pages = [aPage('page-a', { photoId: 'photo-1', state: 'looking' }), aPage('page-b', { photoId: 'photo-1' })];
    const out = mend({ photo: {}, page: byId(pages), document: byId([aDocument(['page-a'])]) }, [aPhoto('photo-1')]);
    expect(out.find((r) => r.kind === 'page')!.record).toMatchObject({ id: 'page-b', deletedAt: expect.any(String) });
    expect(out.some((r) => r.kind === 'document')).toBe(false);
  });
});

describe('records', () => {
  test('each change is written under its own key, and read back', async () => {
    const store = createStore();
    store.dispatch(opened({ records: [{ kind: 'document', record: aDocument(['page-a', 'page-b']) }], aside: [] }));
    store.dispatch(movePage(store.getState().library.document['document-1']!, 0, 1));
    await written();
    const { records } = await readRecords();
    expect(records.filter((r) => r.kind === 'document').map((r) => (r.record as { pageIds: string[] }).pageIds)).toEqual([
      ['page-b', 'page-a'],
    ]);
  });

  test('a reload right after a change loses nothing: what was not written yet stands in the journal', async () => {
    const storage = createAsyncStorage('libretto');
    await storage.setItem('document:document-9', JSON.stringify(aDocument([], { id: 'document-9', name: 'Before' })));
    localStorage.setItem(
      'libretto-pending:document:document-9',
      JSON.stringify(JSON.stringify(aDocument([], { id: 'document-9', name: 'After' }))),
    );
    const { records } = await readRecords();
    expect(records.find((r) => r.kind === 'document' && r.record.id === 'document-9')!.record).toMatchObject({ name: 'After' });
    expect(localStorage.getItem('libretto-pending:document:document-9')).toBeNull();
  });

  test('the journal is written within the call, and empty once all is stored', async () => {
    const done = Promise.all([
      writeRecord('page', 'page-j', aPage('page-j')),
      writeRecord('page', 'page-j', aPage('page-j', { state: 'looking' })),
    ]);
    expect(JSON.parse(JSON.parse(localStorage.getItem('libretto-pending:page:page-j')!))).toMatchObject({ state: 'looking' });
    await done;
    expect(Object.keys(localStorage).filter((k) => k.startsWith('libretto-pending'))).toEqual([]);
    expect((await readRecords()).records.find((r) => r.kind === 'page' && r.record.id === 'page-j')!.record).toMatchObject({
      state: 'looking',
    });
  });

  test('a record that does not fit is set aside with the reason, and the rest opens', async () => {
    const storage = createAsyncStorage('libretto');
    await writeRecord('page', 'page-good', aPage('page-good'));
    await storage.setItem('page:page-bad', JSON.stringify({ ...aPage('page-bad'), v: 7 }));
    await storage.setItem('document:torn', '{"v":1,');
    const { records, aside } = await readRecords();
    expect(records.some((r) => r.kind === 'page' && r.record.id === 'page-good')).toBe(true);
    expect(aside.map((a) => a.key).sort()).toEqual(['document:torn', 'page:page-bad']);
    expect(aside.find((a) => a.key === 'page:page-bad')!.problem).toContain('v');
    expect(await storage.getItem('aside:document:torn')).toBe('{"v":1,');
    expect(await storage.getItem('page:page-bad')).toBeNull();
    // The next start reads the rest and still knows what lies aside.
    expect((await readRecords()).aside).toHaveLength(2);
  });
});
