import { deletePages } from '../store/editing';
import { binDocuments } from '../store/filing';
import { allFilings } from '../store/files';
import { isSaving } from '../store/unsaved';
import { aDocument, aPage } from '../testing/records';
import { anotherTab, aStore, until } from '../testing/store';
import { CaptureRun } from './CaptureRun';

jest.mock('../work/looking', () => ({ lookAtPages: () => () => Promise.resolve() }));

const jpeg = (text: string) => new Blob([text], { type: 'image/jpeg' });
const sharp = async () => ({ same: true, sharp: 2 });

/** A promise that is kept when it is told to. */
function later<T>() {
  let keep!: (value: T) => void;
  let breakIt!: (error: Error) => void;
  const promise = new Promise<T>((resolve, reject) => {
    keep = resolve;
    breakIt = reject;
  });
  return { promise, keep, breakIt };
}

async function begin() {
  const store = await aStore();
  const run = new CaptureRun(store.dispatch, store.getState, null);
  const pages = () => store.getState().library.document[run.get().documentId!]?.pageIds ?? [];
  return { store, run, pages };
}

test('a shot is saved, and stands in its document, before it has been judged', async () => {
  const { run, pages } = await begin();
  const verdict = later<{ same: boolean; sharp: number }>();
  const page = await run.take({ camera: { still: async () => jpeg('one') }, judge: () => verdict.promise, glimpse: null });
  expect(pages()).toEqual([page!.id]);
  expect(run.get()).toMatchObject({ shots: [], taken: 1, saved: 1 });
  // The tab goes away while it is judged: it is there.
  const next = await anotherTab();
  expect(next.getState().library.summary[run.get().documentId!]).toMatchObject({ pages: 1 });
  expect(await allFilings()).toEqual([]);
  verdict.keep({ same: true, sharp: 2 });
  await run.exposed();
});

test('a better still of the same moment takes the first one’s place', async () => {
  const { store, run } = await begin();
  const stills = ['blurred', 'much sharper'];
  const judged = [0.4, 1.5];
  const camera = { still: async () => jpeg(stills.shift()!) };
  const page = await run.take({ camera, judge: async () => ({ same: true, sharp: judged.shift()! }), glimpse: null });
  await run.exposed();
  await until(() => store.getState().library.photo[page!.photoId]!.bytes === 'much sharper'.length);
});

test('pages stand in the order of the shots, whichever still comes first', async () => {
  const { run, pages } = await begin();
  const slow = later<Blob>();
  const first = run.take({ camera: { still: () => slow.promise }, judge: sharp, glimpse: null });
  const second = run.take({ camera: { still: async () => jpeg('two') }, judge: sharp, glimpse: null });
  await until(() => run.get().saved === 1);
  expect(pages()).toEqual([]);
  slow.keep(jpeg('one'));
  const taken = [await first, await second];
  expect(pages()).toEqual(taken.map((p) => p!.id));
});

test('a run within a document stands before its page in the order of the shots; where that is gone, last', async () => {
  const ids = ['page-1', 'page-2'];
  const records = [{ kind: 'document' as const, record: aDocument(ids) }, ...ids.map((id) => ({ kind: 'page' as const, record: aPage(id) }))]; // prettier-ignore
  const store = await aStore(records);
  const run = new CaptureRun(store.dispatch, store.getState, 'document-1', 'page-2');
  const pages = () => store.getState().library.document['document-1']!.pageIds;
  const take = () => run.take({ camera: { still: async () => jpeg('one') }, judge: sharp, glimpse: null });
  const [a, b] = (await Promise.all([take(), take()])).map((page) => page!.id);
  expect(pages()).toEqual(['page-1', a, b, 'page-2']);
  await store.dispatch(deletePages(store.getState().library.document['document-1']!, [aPage('page-2')]));
  const c = (await take())!.id;
  expect(pages()).toEqual(['page-1', a, b, c]);
  await run.filed();
});

test('leaving waits until the camera has given what was asked of it; closing the tab asks meanwhile', async () => {
  const { run } = await begin();
  const still = later<Blob>();
  const done = run.take({ camera: { still: () => still.promise }, judge: sharp, glimpse: null });
  let drained = false;
  const draining = run.exposed().then(() => (drained = true));
  await new Promise((resolve) => setTimeout(resolve, 30));
  expect([drained, isSaving()]).toEqual([false, true]);
  still.keep(jpeg('one'));
  await Promise.all([done, draining, run.filed()]);
  expect([drained, isSaving(), run.get().shots.length]).toEqual([true, false, 0]);
});

test('a still that fails is said, and neither hinders the next nor says "saving" for ever', async () => {
  const { store, run, pages } = await begin();
  const lost = run.take({ camera: { still: () => Promise.reject(new Error('The lens is gone')) }, judge: sharp, glimpse: null });
  const kept = run.take({ camera: { still: async () => jpeg('two') }, judge: sharp, glimpse: null });
  expect(await lost).toBeNull();
  const page = await kept;
  expect(pages()).toEqual([page!.id]);
  expect(run.get()).toMatchObject({ shots: [], taken: 1, saved: 1 });
  expect(store.getState().session.notice).toMatchObject({ code: 'notice.notKept', values: { reason: 'The lens is gone' } });
});

test('a document that was put in the bin meanwhile gets no more pages: the run begins another', async () => {
  const { store, run } = await begin();
  await run.take({ camera: { still: async () => jpeg('one') }, judge: sharp, glimpse: null });
  const first = run.get().documentId!;
  await store.dispatch(binDocuments([store.getState().library.document[first]!]));
  await run.take({ camera: { still: async () => jpeg('two') }, judge: sharp, glimpse: null });
  expect(run.get().documentId).not.toBe(first);
  expect(store.getState().library.document[first]!.pageIds).toHaveLength(1);
});
