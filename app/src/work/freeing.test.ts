import { aDelivery, aDocument, aPage, aPhoto } from '../testing/records';
import { anotherTab, aStore } from '../testing/store';
import { undoLast } from '../store/change';
import { turnPages } from '../store/editing';
import { allFilings, getPhoto, putPhoto } from '../store/files';
import { canBeFreed, freePhotos } from './freeing';

const mockMade = jest.fn();
jest.mock('./pageImages', () => ({
  ...jest.requireActual<object>('./pageImages'),
  pageImage: (...given: unknown[]) => mockMade(...given) as unknown,
}));

const jpeg = (bytes: number) => new Blob([new Uint8Array(bytes)], { type: 'image/jpeg' });
const finished = { width: 1240, height: 1754, widthMm: 210, heightMm: 297, sizeName: 'a4', photoDpi: 200, dpi: 150 };
const proof = {
  where: 'Yard',
  at: '2026-11-20T10:00:00.000Z',
  bytes: 1,
  sha256: 'ab'.repeat(32),
  how: 'read-back' as const,
  receipt: '',
};

async function begin() {
  const photos = ['photo-1', 'photo-2', 'photo-3'].map((id) => aPhoto(id, { bytes: 3000 }));
  // Two halves of a spread, a page in black and white, and a copy of the first in another document.
  const pages = [
    aPage('page-1', { photoId: 'photo-1', alone: false }),
    aPage('page-2', { photoId: 'photo-1', alone: false }),
    aPage('page-3', { photoId: 'photo-2' }),
    aPage('page-4', { photoId: 'photo-3' }),
  ];
  const copy = aPage('page-9', { photoId: 'photo-3', documentId: 'document-2' });
  const store = await aStore([
    ...photos.map((record) => ({ kind: 'photo' as const, record })),
    ...[...pages, copy].map((record) => ({ kind: 'page' as const, record })),
    { kind: 'document', record: aDocument(pages.map((p) => p.id)) },
    { kind: 'document', record: aDocument([copy.id], { id: 'document-2' }) },
    { kind: 'delivery', record: aDelivery('delivery-1', { state: 'arrived', proof }) },
  ]);
  for (const photo of photos) await putPhoto(photo, jpeg(3000));
  mockMade.mockImplementation((page: { id: string }) =>
    Promise.resolve({ ...finished, blob: page.id === 'page-3' ? new Blob(['g4'], { type: 'image/x-group4' }) : jpeg(500) }),
  );
  const page = (n: number) => store.getState().library.page[`page-${n}`]!;
  return { store, page };
}

test('what has arrived is offered, and what has not is not', async () => {
  const { store } = await begin();
  const { summary } = store.getState().library;
  expect([canBeFreed(summary['document-1']!), canBeFreed(summary['document-2']!)]).toEqual([true, false]);
});

test('finished pages take the place of photographs, which go when nothing else is made from them', async () => {
  const { store, page } = await begin();
  expect(await store.dispatch(freePhotos(['document-1']))).toBe(3000 - 3 * 500);
  for (const n of [1, 2, 4]) {
    expect(page(n)).toMatchObject({ freed: true, alone: true, recipe: { filter: 'original', turn: 0, outline: { source: 'whole' }, size: { widthMm: 210, heightMm: 297, name: 'a4' } } }); // prettier-ignore
    expect((await getPhoto(page(n).photoId))?.size).toBe(500);
  }
  expect(page(1).photoId).not.toBe(page(2).photoId);
  // In black and white it is as it was; the photograph that another document needs stays.
  expect(page(3)).toMatchObject({ photoId: 'photo-2' });
  expect(page(3).freed).toBeUndefined();
  expect(await getPhoto('photo-1')).toBeUndefined();
  expect([(await getPhoto('photo-2'))?.size, (await getPhoto('photo-3'))?.size]).toEqual([3000, 3000]);
  expect(await allFilings()).toEqual([]);
  // Nothing more to gain, and the same after a reload.
  expect(await store.dispatch(freePhotos(['document-1']))).toBe(0);
  const again = await anotherTab();
  expect(again.getState().library.summary['document-1']).toMatchObject({ pages: 4 });
});

test('a step from before cannot be taken back into what is no more', async () => {
  const { store, page } = await begin();
  await store.dispatch(turnPages([page(4)]));
  await store.dispatch(freePhotos(['document-1']));
  const after = page(4).recipe;
  await store.dispatch(undoLast('document-1'));
  expect(page(4).recipe).toEqual(after);
});
