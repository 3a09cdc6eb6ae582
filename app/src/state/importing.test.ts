import { openPhotos } from '../testing/photos';
import { bringIn, keepingProblem, pictureType } from './importing';
import { opened } from './library';
import { PdfProblem } from './pdfPages';
import { createStore, written } from './store';

jest.mock('../workers/pools', () => ({ pagePool: { run: () => new Promise(() => {}) }, filePool: {} }));

const bytes = (...values: number[]) => Uint8Array.from(values);
const jpeg = bytes(0xff, 0xd8, 0xff, 0xe0, 0, 16, 74, 70, 73, 70, 0, 1);
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

describe('files are brought in', () => {
  let decode: jest.Mock;
  beforeEach(() => {
    decode = openPhotos();
  });
  afterEach(written);
  const begin = () => {
    const store = createStore();
    store.dispatch(opened({ records: [], aside: [] }));
    return store;
  };

  test('those that cannot be used are named with the reason, the others come in', async () => {
    const store = begin();
    const id = await store.dispatch(
      bringIn([file('empty.jpg', ''), file('one.jpg', jpeg), file('phone.heic', heic), file('letter.txt', 'Dear yard')], null),
    );
    const { library, work } = store.getState();
    expect(library.document[id!]!.pageIds).toHaveLength(1);
    expect(Object.values(library.photo).map((p) => [p.name, p.type])).toContainEqual(['one.jpg', 'image/jpeg']);
    expect(work.refused.map((r) => r.name)).toEqual(['empty.jpg', 'phone.heic', 'letter.txt']);
    expect(work.refused.map((r) => r.reason)).toEqual([
      'it is empty',
      expect.stringContaining('HEIC'),
      expect.stringContaining('not a JPEG, PNG or WebP'),
    ]);
    expect(work.import).toBeNull();
  });

  test('a damaged picture is refused, whatever its name says', async () => {
    const store = begin();
    decode.mockRejectedValueOnce(new Error('no picture'));
    expect(await store.dispatch(bringIn([file('broken.png', png)], null))).toBeNull();
    expect(store.getState().work.refused).toEqual([{ name: 'broken.png', reason: expect.stringContaining('damaged') }]);
    expect(Object.keys(store.getState().library.document)).toEqual([]);
  });

  test('into a document that is there; stopped in between, what came in stays', async () => {
    const store = begin();
    const id = (await store.dispatch(bringIn([file('a.jpg', jpeg)], null)))!;
    const stop = new AbortController();
    decode.mockImplementationOnce(async () => {
      stop.abort();
      return { close: () => {} };
    });
    await store.dispatch(bringIn([file('b.jpg', jpeg), file('c.jpg', jpeg)], id, stop.signal));
    expect(store.getState().library.document[id]!.pageIds).toHaveLength(2);
  });

  test('a name for a new document is kept', async () => {
    const store = begin();
    const id = (await store.dispatch(bringIn([file('a.webp', webp as BlobPart)], null, undefined, { name: 'Timber docket' })))!;
    expect(store.getState().library.document[id]!.name).toBe('Timber docket');
  });
});

test('why a picture could not be kept is said in words', () => {
  expect(keepingProblem(Object.assign(new Error('x'), { name: 'QuotaExceededError' }))).toMatch(/no room/);
  expect(keepingProblem(new PdfProblem('the PDF is damaged and cannot be read'))).toBe('the PDF is damaged and cannot be read');
  expect(keepingProblem(new Error(''))).toBe('it could not be stored');
});
