import { lookingPage, type Document } from '@libretto/model';
import { allPhotos } from '../storage/files';
import { readRecords, type AnyRecord } from '../storage/records';
import { opened, put } from './library';
import { lookAtPages } from './looking';
import { resumeDeliveries } from './outbox';
import { learnPlaces } from './places';
import type { AppDispatch, RootState } from './store';

/** Reads everything stored, mends what a stop in the middle has left, and goes on with unfinished work. */
export function openLibrary() {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const { records, aside } = await readRecords();
    dispatch(opened({ records, aside }));
    const mended = mend(getState().library, await allPhotos());
    if (mended.length) dispatch(put(mended));
    void dispatch(lookAtPages());
    void dispatch(learnPlaces());
    void dispatch(resumeDeliveries());
  };
}

type Stored = Pick<RootState['library'], 'photo' | 'page' | 'document'>;

/**
 * Photos that are stored but stand in no document come back into theirs (or into one of their own): the app was closed between storing the
 * photo and writing its page, or a record had to be set aside.
 */
export function mend(library: Stored, stored: Awaited<ReturnType<typeof allPhotos>>): AnyRecord[] {
  const out: AnyRecord[] = [];
  const documents = new Map(Object.entries(library.document));
  const changed = new Set<string>();
  const pages = Object.values(library.page);
  const looking = new Set(pages.filter((p) => p.state === 'looking').map((p) => p.photoId));
  const now = new Date().toISOString();

  const append = (documentId: string, pageId: string, at: string) => {
    const document: Document = documents.get(documentId) ?? {
      v: 1,
      id: documentId,
      name: 'Recovered photographs',
      pageIds: [],
      createdAt: at,
      changedAt: now,
      deletedAt: null,
    };
    if (document.pageIds.includes(pageId)) return;
    documents.set(documentId, { ...document, pageIds: [...document.pageIds, pageId], changedAt: now });
    changed.add(documentId);
  };

  for (const photo of stored) {
    if (!library.photo[photo.id]) out.push({ kind: 'photo', record: photo });
    const its = pages.filter((p) => p.photoId === photo.id);
    if (its.length) continue;
    const page = lookingPage(`${photo.id.slice(0, 40)}-page`, photo.documentId, photo.id);
    out.push({ kind: 'page', record: page });
    append(photo.documentId, page.id, photo.addedAt);
  }
  for (const page of pages) {
    if (page.deletedAt || documents.get(page.documentId)?.pageIds.includes(page.id)) continue;
    // A further page of a photo that will be looked at again is found again.
    if (page.state === 'ready' && looking.has(page.photoId)) out.push({ kind: 'page', record: { ...page, deletedAt: now } });
    else append(page.documentId, page.id, now);
  }
  for (const id of changed) out.push({ kind: 'document', record: documents.get(id)! });
  return out;
}
