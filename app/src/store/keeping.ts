import { firstName, lookingPage, type Document, type Page, type Photo } from '@libretto/model';
import { makeStep, take } from './change';
import { filed, putPhoto, type BroughtWord } from './files';
import { newId } from './ids';
import type { Op, Step } from './step';
import type { AppDispatch, Extra, RootState } from './store';
import { untilSaved } from './unsaved';

/** A picture that becomes a page. */
export interface NewPicture {
  blob: Blob;
  name: string;
  type: Photo['type'];
  /** What is known of its page already; without it the photo is looked at. */
  page?: Partial<Page>;
  photo?: Pick<Photo, 'width' | 'height'>;
  /** What its file says that stands on it. */
  words?: readonly BroughtWord[];
}

export interface Keeping {
  /** The page whose place it takes; without it the new page is the last. */
  insteadOf?: { id: string };
  /** The page before which it stands. */
  before?: string;
  /** For a document that this page begins. */
  name?: string;
  demo?: boolean;
}

/** A picture that lies on the disk, and the step that files it in its document. */
export interface SavedPicture {
  photo: Photo;
  page: Page;
  step: Step;
}

/**
 * Saves a picture: its bytes, its record and the step that files it, in one transaction. When this resolves it is safe: whatever happens next, it
 * stands in its document at the next start.
 *
 * @throws when there is no room, or storage fails; then nothing has changed.
 */
export function savePicture(documentId: string, picture: NewPicture, { insteadOf, before, name, demo }: Keeping = {}) {
  return async (_dispatch: AppDispatch, _getState: () => RootState, extra: Extra): Promise<SavedPicture> => {
    const now = new Date().toISOString();
    const photo: Photo = {
      v: 1,
      id: newId(),
      documentId,
      name: picture.name.slice(0, 400),
      type: picture.type,
      bytes: picture.blob.size,
      addedAt: now,
      ...picture.photo,
    };
    const page: Page = { ...lookingPage(newId(), documentId, photo.id), ...picture.page };
    const document: Document = {
      v: 1,
      id: documentId,
      name: name ?? firstName(new Date()),
      pageIds: [],
      createdAt: now,
      changedAt: now,
      deletedAt: null,
      ...(demo && { demo: true }),
    };
    const setDeleted = (id: string, at: string | null): Op => ({ op: 'set', kind: 'page', id, path: ['deletedAt'], value: at });
    const step = makeStep(extra, {
      label: { code: insteadOf ? 'step.retake' : 'step.add' },
      documentIds: [documentId],
      ops: [
        // One that is there already stays as it is.
        { op: 'create', kind: 'document', record: document },
        { op: 'create', kind: 'photo', record: photo },
        // It begins as not there, so that taking the step back makes it so again.
        { op: 'create', kind: 'page', record: { ...page, deletedAt: now } },
        setDeleted(page.id, null),
        { op: 'place', id: documentId, pages: [page.id], ...(insteadOf ? { after: insteadOf.id } : before && { before }) },
        ...(insteadOf ? [{ op: 'take' as const, id: documentId, pages: [insteadOf.id] }, setDeleted(insteadOf.id, now)] : []),
      ],
    });
    await untilSaved(putPhoto(photo, picture.blob, step, picture.words));
    return { photo, page, step };
  };
}

/** Files a saved picture in its document. */
export function filePicture({ photo, step }: SavedPicture) {
  return async (dispatch: AppDispatch): Promise<boolean> => {
    const outcome = await dispatch(take(step));
    if (outcome) await filed(photo.id).catch(() => {});
    return outcome !== null;
  };
}

/**
 * Keeps a picture as a page of a document, which it begins if there is none yet.
 *
 * @returns the new page, once all of it is stored.
 * @throws when there is no room, or storage fails.
 */
export function keepPage(documentId: string, picture: NewPicture, keeping: Keeping = {}) {
  return async (dispatch: AppDispatch): Promise<Page> => {
    const saved = await dispatch(savePicture(documentId, picture, keeping));
    await dispatch(filePicture(saved));
    return saved.page;
  };
}
