import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { FilterId, Photo } from '@libretto/model';
import type { Step } from './step';

/** A finished page image in the cache, and what it says about the page. */
export interface Rendered {
  blob: Blob;
  width: number;
  height: number;
  widthMm: number;
  heightMm: number;
  sizeName: string | null;
  dpi: number;
  photoDpi: number;
  filter: FilterId;
  /** Places on the margin that were filled with paper, if any. */
  tidied?: number;
}

/** A page as small as lists show it. */
export interface Thumb {
  /** What the page looked like then; see `lookOf`. */
  look: string;
  blob: Blob;
  width: number;
  height: number;
}

/** Bytes kept as a buffer: WebKit's private windows refuse Blobs in IndexedDB, and buffers are as quick. */
interface Bytes {
  bytes: ArrayBuffer;
  type: string;
}
type Kept<T extends { blob: Blob }> = Omit<T, 'blob'> & Bytes;
/** As version 1 kept them. */
interface AsBlob {
  blob: Blob;
}

export type Shelf = 'photos' | 'renders' | 'thumbs' | 'outgoing';
/** Bytes stored, by what they are. */
export type Stored = Record<Shelf, number>;

interface Files extends DBSchema {
  /** Photos as they came, with their record, so that a photo is never without its name. */
  photos: { key: string; value: ((Bytes & { size?: number }) | AsBlob) & { record: Photo; words?: readonly BroughtWord[] } };
  /** By photo id, the step that files a photo in its document, until it has been taken: written with the photo, in one transaction. */
  inbox: { key: string; value: Step };
  /** Cache of page images: may be thrown away at any time. */
  renders: { key: string; value: Kept<Rendered> | Rendered };
  /** When each image of the cache was used last, and its size: apart, so that the cache can be looked over without reading it. */
  used: { key: string; value: { at: number; size: number } };
  /** By page id. */
  thumbs: { key: string; value: Kept<Thumb> };
  /** Files that wait to be delivered, by delivery id. */
  outgoing: { key: string; value: Bytes | Blob };
  totals: { key: Shelf; value: number };
  /** What was read on pages, by page id. */
  texts: { key: string; value: ReadText };
}

/** A word that a file brings along: its box in px of the photo. */
export type BroughtWord = [text: string, x: number, y: number, width: number, height: number];

/** A word and where it stands: x, y, width and height in ten-thousandths of the page as it was shown, and the probability that it is right. */
export type ReadWord = [text: string, x: number, y: number, width: number, height: number, right: number];

/** What was read on a page. */
export interface ReadText {
  /** What the page looked like to the reader then; see `textLook`. */
  look: string;
  documentId: string;
  /** BCP 47. */
  language: string;
  lines: ReadWord[][];
  text: string;
  /** Rules of tables and frames: whether along the page, from where to where; ten-thousandths of the page. */
  rules?: [across: 0 | 1, x0: number, y0: number, x1: number, y1: number][];
  /** Boxes drawn round a line, as words have theirs. */
  frames?: [x: number, y: number, width: number, height: number][];
  /** Codes, with their boxes as words have them. */
  codes?: { kind: string; text: string; box: [x: number, y: number, width: number, height: number] }[];
  /** Share of what looks like text that could not be read, where that is much. */
  unread: number;
  /** Where the page lay in its photo: photo px of a grid of `photoGrid` × `photoGrid` places over it, row by row, x before y. */
  photo: number[];
}
/** Places across and down of `ReadText.photo`. */
export const photoGrid = 17;

let opened: Promise<IDBPDatabase<Files>> | undefined;

function files(): Promise<IDBPDatabase<Files>> {
  opened ??= openDB<Files>('libretto-files', 3, {
    async upgrade(db, from, _to, transaction) {
      if (from < 1) for (const store of ['photos', 'renders', 'outgoing'] as const) db.createObjectStore(store);
      if (from < 2) for (const store of ['inbox', 'used', 'thumbs', 'totals'] as const) db.createObjectStore(store);
      db.createObjectStore('texts');
      if (from !== 1) return;
      // The cache begins anew; how much the rest holds is counted once.
      await transaction.objectStore('renders').clear();
      let photos = 0;
      for (let at = await transaction.objectStore('photos').openCursor(); at; at = await at.continue())
        photos += at.value.record.bytes;
      let outgoing = 0;
      for (let at = await transaction.objectStore('outgoing').openCursor(); at; at = await at.continue())
        outgoing += sizeOf(at.value);
      await transaction.objectStore('totals').put(photos, 'photos');
      await transaction.objectStore('totals').put(outgoing, 'outgoing');
    },
    blocking: () => void opened?.then((db) => db.close()),
    terminated: () => (opened = undefined),
  });
  opened.catch(() => (opened = undefined));
  return opened;
}

const sizeOf = (value: Bytes | AsBlob | Blob): number =>
  value instanceof Blob ? value.size : 'bytes' in value ? value.bytes.byteLength : value.blob.size;
const blobOf = (value: Bytes | AsBlob | Blob): Blob =>
  value instanceof Blob ? value : 'bytes' in value ? new Blob([value.bytes], { type: value.type }) : value.blob;
const bytesOf = async (blob: Blob): Promise<Bytes> => ({ bytes: await blob.arrayBuffer(), type: blob.type });

type Value<S extends Shelf> = Files[S]['value'];

/** One transaction: a value, the total of its shelf, and what else belongs to it. */
async function put<S extends Shelf>(
  shelf: S,
  key: string,
  value: Value<S>,
  durability: 'strict' | 'relaxed',
  also: { inbox?: Step; used?: { at: number; size: number } } = {},
): Promise<void> {
  const transaction = (await files()).transaction([shelf, 'totals', 'inbox', 'used'], 'readwrite', { durability });
  const store = transaction.objectStore(shelf) as unknown as { get(key: string): Promise<Value<S> | undefined>; put(value: Value<S>, key: string): Promise<unknown> }; // prettier-ignore
  const totals = transaction.objectStore('totals');
  const work = (async () => {
    const before = await store.get(key);
    const total = (await totals.get(shelf)) ?? 0;
    const writes: Promise<unknown>[] = [
      store.put(value, key),
      totals.put(total - (before ? sizeOf(before) : 0) + sizeOf(value), shelf),
    ];
    if (also.inbox) writes.push(transaction.objectStore('inbox').put(also.inbox, key));
    if (also.used) writes.push(transaction.objectStore('used').put(also.used, key));
    await Promise.all(writes);
  })();
  await Promise.all([work, transaction.done]);
}

async function drop(shelf: Shelf, keys: readonly string[]): Promise<void> {
  if (!keys.length) return;
  const transaction = (await files()).transaction([shelf, 'totals', 'inbox', 'used'], 'readwrite', { durability: 'relaxed' });
  const store = transaction.objectStore(shelf);
  const totals = transaction.objectStore('totals');
  let gone = 0;
  for (const key of keys) {
    const value = await store.get(key);
    if (!value) continue;
    gone += sizeOf(value as Bytes);
    await store.delete(key);
    if (shelf === 'renders') await transaction.objectStore('used').delete(key);
    if (shelf === 'photos') await transaction.objectStore('inbox').delete(key);
  }
  await totals.put(Math.max(0, ((await totals.get(shelf)) ?? 0) - gone), shelf);
  await transaction.done;
}

/** Whether storage failed because it is full. */
export function isFull(error: unknown): boolean {
  const { name, message } = (error ?? {}) as { name?: string; message?: string };
  return name === 'QuotaExceededError' || /quota|disk.*full|no space/i.test(message ?? '');
}

/** Writes; where there is no room, once more without the images that can be made again. */
export async function withRoom<T>(write: () => Promise<T>): Promise<T> {
  try {
    return await write();
  } catch (error) {
    if (!isFull(error)) throw error;
    await dropCache();
    return write();
  }
}

// Photos -------------------------------------------------------------------------------------------------------------------------------------------

/** Keeps a photo with the step that files it, in one transaction. Resolves when it lies on the disk, not merely in the browser's memory. */
export async function putPhoto(record: Photo, blob: Blob, filing?: Step, words?: readonly BroughtWord[]): Promise<void> {
  const value = { ...(await bytesOf(blob)), record, ...(words?.length && { words }) };
  await withRoom(() => put('photos', record.id, value, 'strict', filing ? { inbox: filing } : {}));
}
export const getPhoto = async (id: string): Promise<Blob | undefined> => {
  const kept = await (await files()).get('photos', id);
  return kept && blobOf('bytes' in kept ? { ...kept, type: kept.record.type } : kept);
};
/** The words that a photo's file brought along. */
export const getBroughtWords = async (id: string): Promise<readonly BroughtWord[]> =>
  (await (await files()).get('photos', id))?.words ?? [];
export const dropPhotos = (ids: readonly string[]) => drop('photos', ids);

/** Photos that may not stand in their document yet, and how each is filed. */
export const allFilings = async (): Promise<Step[]> => (await files()).getAll('inbox');
export const filed = async (photoId: string): Promise<void> => (await files()).delete('inbox', photoId);

/** Every photo there is, one after the other. */
export async function* allPhotos(): AsyncGenerator<Photo> {
  for (const id of await (await files()).getAllKeys('photos')) {
    const kept = await (await files()).get('photos', id);
    if (kept) yield kept.record;
  }
}

// Images that can be made again --------------------------------------------------------------------------------------------------------------------

/** What finished page images may take, bytes; those used least lately go first. */
export const cacheBudget = { bytes: 300_000_000 };
/** How often a use is noted, ms: reading must not mean writing each time. */
const noteMs = 60_000;
const noted = new Map<string, number>();

export async function putRender(key: string, { blob, ...facts }: Rendered): Promise<void> {
  const value = { ...facts, ...(await bytesOf(blob)) };
  noted.set(key, Date.now());
  await put('renders', key, value, 'relaxed', { used: { at: Date.now(), size: value.bytes.byteLength } });
  const total = await (await files()).get('totals', 'renders');
  if ((total ?? 0) > cacheBudget.bytes) await shrinkCache(cacheBudget.bytes * 0.8);
}

export async function getRender(key: string): Promise<Rendered | undefined> {
  const kept = await (await files()).get('renders', key);
  if (!kept) return undefined;
  if (Date.now() - (noted.get(key) ?? 0) > noteMs) {
    noted.set(key, Date.now());
    void (await files()).put('used', { at: Date.now(), size: sizeOf(kept) }, key).catch(() => {});
  }
  if (!('bytes' in kept)) return kept;
  const { bytes, type, ...facts } = kept;
  return { ...facts, blob: new Blob([bytes], { type }) };
}

/** Lets images go, those used least lately first, until the rest takes no more than `most` bytes. */
export async function shrinkCache(most: number): Promise<void> {
  const db = await files();
  const [keys, uses] = [await db.getAllKeys('used'), await db.getAll('used')];
  let total = uses.reduce((sum, u) => sum + u.size, 0);
  const oldest = keys.map((key, i) => ({ key, ...uses[i]! })).sort((a, b) => a.at - b.at);
  const go: string[] = [];
  for (const { key, size } of oldest) {
    if (total <= most) break;
    go.push(key);
    total -= size;
  }
  await drop('renders', go);
}

/** All finished images go, at once: for a disk that is full. Thumbnails stay, they are small. */
export async function dropCache(): Promise<void> {
  const transaction = (await files()).transaction(['renders', 'used', 'totals'], 'readwrite', { durability: 'relaxed' });
  await Promise.all([
    transaction.objectStore('renders').clear(),
    transaction.objectStore('used').clear(),
    transaction.objectStore('totals').delete('renders'),
  ]);
  await transaction.done;
}

export async function putThumb(pageId: string, { blob, ...facts }: Thumb): Promise<void> {
  await put('thumbs', pageId, { ...facts, ...(await bytesOf(blob)) }, 'relaxed');
}
export async function getThumb(pageId: string): Promise<Thumb | undefined> {
  const kept = await (await files()).get('thumbs', pageId);
  if (!kept) return undefined;
  const { bytes, type, ...facts } = kept;
  return { ...facts, blob: new Blob([bytes], { type }) };
}
export const dropThumbs = (pageIds: readonly string[]) => drop('thumbs', pageIds);

// What was read on pages ---------------------------------------------------------------------------------------------------------------------------

export const getText = async (pageId: string): Promise<ReadText | undefined> => (await files()).get('texts', pageId);
export const putText = async (pageId: string, text: ReadText): Promise<void> => {
  await withRoom(async () => (await files()).put('texts', text, pageId));
};
export async function dropTexts(pageIds: readonly string[]): Promise<void> {
  if (!pageIds.length) return;
  const transaction = (await files()).transaction('texts', 'readwrite', { durability: 'relaxed' });
  await Promise.all([...pageIds.map((id) => transaction.store.delete(id)), transaction.done]);
}

/** Of which pages something was read. */
export const allTextIds = async (): Promise<string[]> => (await files()).getAllKeys('texts');

// Files that wait to be delivered ------------------------------------------------------------------------------------------------------------------

export async function putOutgoing(id: string, blob: Blob): Promise<void> {
  const value = await bytesOf(blob);
  await withRoom(() => put('outgoing', id, value, 'strict'));
}
export const getOutgoing = async (id: string): Promise<Blob | undefined> => {
  const kept = await (await files()).get('outgoing', id);
  return kept && blobOf(kept);
};
export const dropOutgoing = (ids: readonly string[]) => drop('outgoing', ids);
export const allOutgoing = async (): Promise<string[]> => (await files()).getAllKeys('outgoing');

/** What is stored, in bytes: for the meter, and to tell what could go. */
export async function stored(): Promise<Stored> {
  const db = await files();
  const of = async (shelf: Shelf) => (await db.get('totals', shelf)) ?? 0;
  return { photos: await of('photos'), renders: await of('renders'), thumbs: await of('thumbs'), outgoing: await of('outgoing') };
}
