import './words';
import { forgetRead } from '../store/draft';
import { allOutgoing, allPhotos, dropOutgoing, dropPhotos } from '../store/files';
import { openDocument, openLibrary } from '../store/open';
import { type AnyRecord } from '../store/records';
import { allKeys, removeTexts, writeTexts } from '../store/texts';
import { idOf } from '../store/step';
import { createStore, type Store } from '../store/store';

/** Everything that is stored goes. */
export async function emptyStorage(): Promise<void> {
  await removeTexts(await allKeys());
  forgetRead();
  const photos: string[] = [];
  for await (const { id } of allPhotos()) photos.push(id);
  await dropPhotos(photos);
  await dropOutgoing(await allOutgoing());
  localStorage.clear();
}

/** A store as after a start on these records, with all documents open. */
export async function aStore(records: readonly AnyRecord[] = []): Promise<Store> {
  await emptyStorage();
  await writeTexts(Object.fromEntries(records.map(({ kind, record }) => [`${kind}:${idOf(record)}`, JSON.stringify(record)])));
  return anotherTab();
}

/** One more tab on what is stored now. */
export async function anotherTab(): Promise<Store> {
  const store = createStore();
  await store.dispatch(openLibrary());
  for (const id of Object.keys(store.getState().library.summary)) await store.dispatch(openDocument(id));
  return store;
}

/** Waits until something holds. */
export async function until(check: () => boolean | Promise<boolean>, what = 'it never held'): Promise<void> {
  for (let i = 0; i < 600; i++) {
    if (await check()) return;
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  throw new Error(what);
}
