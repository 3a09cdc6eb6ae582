import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { FilterId, Photo } from '@libretto/model';

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

interface Files extends DBSchema {
  /** Photos as they came, with their record, so that a photo is never without its name. */
  photos: { key: string; value: { blob: Blob; record: Photo } };
  /** Cache of page images, keyed by photo and recipe: may be thrown away at any time. */
  renders: { key: string; value: Rendered };
  /** Files that wait to be delivered, by delivery id. */
  outgoing: { key: string; value: Blob };
}

let opened: Promise<IDBPDatabase<Files>> | undefined;

function files(): Promise<IDBPDatabase<Files>> {
  opened ??= openDB<Files>('libretto-files', 1, {
    upgrade(db) {
      for (const store of ['photos', 'renders', 'outgoing'] as const) db.createObjectStore(store);
    },
  });
  return opened;
}

async function put<S extends 'photos' | 'renders' | 'outgoing'>(
  store: S,
  key: string,
  value: Files[S]['value'],
  durability: 'strict' | 'relaxed',
): Promise<void> {
  const transaction = (await files()).transaction(store, 'readwrite', { durability });
  await transaction.store.put(value, key);
  await transaction.done;
}

/** Resolves when the photo lies on the disk, not merely in the browser's memory. */
export const putPhoto = (record: Photo, blob: Blob) => put('photos', record.id, { blob, record }, 'strict');
export const getPhoto = async (id: string): Promise<Blob | undefined> => (await (await files()).get('photos', id))?.blob;
export const allPhotos = async (): Promise<Photo[]> => {
  const db = await files();
  const found: Photo[] = [];
  for (let cursor = await db.transaction('photos').store.openCursor(); cursor; cursor = await cursor.continue())
    found.push(cursor.value.record);
  return found;
};

export const putRender = (key: string, value: Rendered) => put('renders', key, value, 'relaxed');
export const getRender = async (key: string): Promise<Rendered | undefined> => (await files()).get('renders', key);

export const putOutgoing = (id: string, blob: Blob) => put('outgoing', id, blob, 'strict');
export const getOutgoing = async (id: string): Promise<Blob | undefined> => (await files()).get('outgoing', id);
export const dropOutgoing = async (id: string): Promise<void> => (await files()).delete('outgoing', id);
