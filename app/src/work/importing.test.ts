import { readFileSync } from 'node:fs';
import path from 'node:path';
import { openPhotos } from '../testing/photos';
import { bringIn, isWholeJpeg, keepingProblem, pagedKind, pictureType } from './importing';
import { aStore } from '../testing/store';
import { cancelJob } from './jobs';
import { WorkProblem } from './problem';

jest.mock('./pools', () => ({ pagePool: { run: () => new Promise(() => {}) }, filePool: {} }));

const bytes = (...values: number[]) => Uint8Array.from(values);
// Start, a JFIF header, the start of a scan, an end (ITU-T T.81, annex B).
const jpeg = bytes(0xff, 0xd8, 0xff, 0xe0, 0, 8, 74, 70, 73, 70, 0, 1, 0xff, 0xda, 0, 2, 7, 0xff, 0, 9, 0xff, 0xd9);
const png = bytes(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13);
const webp = new TextEncoder().encode('RIFF\0\0\0\0WEBPVP8 ');
const heic = new TextEncoder().encode('\0\0\0\x18ftypheic\0\0\0\0');
const file = (name: string, content: BlobPart) => new File([content], name);

test.each([
  ['JPEG', jpeg, 'image/jpeg'],
  ['PNG (ISO/IEC 15948, 5.2)', png, 'image/png'],
  ['WebP (RFC 9649)', webp, 'image/webp'],
  ['HEIC', heic, null],
  ['text', new TextEncoder().encode('GIF89a or so'), null],
  ['nothing', bytes(), null],
])('the kind of a picture is told by its first bytes: %s', async (_, content, type) => {
  expect(await pictureType(new Blob([content as BlobPart]))).toBe(type);
});

test.each([
  ['a PDF behind other bytes', '\r\nhello %PDF-1.7', 'pdf'],
  ['TIFF, least byte first', 'II*\0\x08\0\0\0', 'tiff'],
  ['TIFF, greatest byte first', 'MM\0*\0\0\0\x08', 'tiff'],
  ['text that begins alike', 'II* of June', null],
])('a file of pages is told by its beginning: %s', async (_, text, kind) => {
  expect(await pagedKind(new Blob([text]))).toBe(kind);
});

test('a torn JPEG is told from a whole one, whatever its header holds and whatever is put behind it', async () => {
  const photo = new Uint8Array(readFileSync(path.join(__dirname, '../../../demo/photos/timber-docket.jpg')));
  const whole = (...parts: BlobPart[]) => isWholeJpeg(new Blob(parts));
  expect(await whole(photo)).toBe(true);
  for (const share of [0.001, 0.1, 0.5, 0.999]) expect(await whole(photo.slice(0, photo.length * share))).toBe(false);
  // A film behind the picture, as phones put it there; a small picture with an end of its own within the header.
  expect(await whole(photo, new Uint8Array(3_000_000))).toBe(true);
  const thumb = bytes(0xff, 0xe1, 0, 10, 0xff, 0xd8, 0, 0, 0, 0, 0xff, 0xd9);
  expect(await whole(photo.slice(0, 2), thumb, photo.slice(2))).toBe(true);
  expect(await whole(photo.slice(0, 2), thumb, photo.slice(2, photo.length / 2))).toBe(false);
});

describe('files are brought in', () => {
  let decode: jest.Mock;
  beforeEach(() => {
    decode = openPhotos();
  });
  const begin = () => aStore();

  test('those that cannot be used are named with the reason, the others come in', async () => {
    const store = await begin();
    const id = await store.dispatch(
      bringIn([file('empty.jpg', ''), file('one.jpg', jpeg), file('phone.heic', heic), file('letter.txt', 'Dear yard')], null),
    );
    const { library, session } = store.getState();
    expect(library.document[id!]!.pageIds).toHaveLength(1);
    expect(Object.values(library.photo).map((p) => [p.name, p.type])).toContainEqual(['one.jpg', 'image/jpeg']);
    expect(session.refused.map((r) => r.name)).toEqual(['empty.jpg', 'phone.heic', 'letter.txt']);
    expect(session.refused.map((r) => r.code)).toEqual(['empty', 'heic', 'not-a-picture']);
    expect(session.jobs).toEqual({});
  });

  test('a damaged picture is refused, whatever its name says', async () => {
    const store = await begin();
    decode.mockRejectedValueOnce(new Error('no picture'));
    expect(await store.dispatch(bringIn([file('broken.png', png)], null))).toBeNull();
    expect(store.getState().session.refused).toEqual([{ name: 'broken.png', code: 'damaged' }]);
    expect(Object.keys(store.getState().library.document)).toEqual([]);
  });

  test('into a document that is there; stopped in between, what came in stays', async () => {
    const store = await begin();
    const id = (await store.dispatch(bringIn([file('a.jpg', jpeg)], null)))!;
    decode.mockImplementationOnce(async () => {
      // From whichever screen: the job is known by its document.
      const [job] = Object.values(store.getState().session.jobs);
      expect(job).toMatchObject({ kind: 'import', documentId: id, total: 2 });
      store.dispatch(cancelJob(job!.id));
      expect(store.getState().session.jobs).toEqual({});
      return { close: () => {} };
    });
    await store.dispatch(bringIn([file('b.jpg', jpeg), file('c.jpg', jpeg)], id));
    expect(store.getState().library.document[id]!.pageIds).toHaveLength(2);
  });

  test('before a page, in the order of the files', async () => {
    const store = await begin();
    const id = (await store.dispatch(bringIn([file('a.jpg', jpeg), file('d.jpg', jpeg)], null)))!;
    const [, last] = store.getState().library.document[id]!.pageIds;
    await store.dispatch(bringIn([file('b.jpg', jpeg), file('c.jpg', jpeg)], id, { before: last! }));
    const { library } = store.getState();
    const names = library.document[id]!.pageIds.map((pageId) => library.photo[library.page[pageId]!.photoId]!.name);
    expect(names).toEqual(['a.jpg', 'b.jpg', 'c.jpg', 'd.jpg']);
  });

  test('a name for a new document is kept', async () => {
    const store = await begin();
    const id = (await store.dispatch(bringIn([file('a.webp', webp as BlobPart)], null, { name: 'Timber docket' })))!;
    expect(store.getState().library.document[id]!.name).toBe('Timber docket');
  });
});

test('why a picture could not be kept is told by a code', () => {
  expect(keepingProblem(Object.assign(new Error('x'), { name: 'QuotaExceededError' }))).toEqual({ code: 'full' });
  expect(keepingProblem(new WorkProblem('pdf-page', { page: 3 }))).toEqual({ code: 'pdf-page', values: { page: 3 } });
  expect(keepingProblem(new Error('Odd'))).toEqual({ code: 'said', values: { said: 'Odd' } });
  expect(keepingProblem(new Error(''))).toEqual({ code: 'not-stored' });
});
