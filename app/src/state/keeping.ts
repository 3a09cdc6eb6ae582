import { firstName, lookingPage, type Document, type Page, type Photo } from '@libretto/model';
import { putPhoto } from '../storage/files';
import { writeRecord, type AnyRecord } from '../storage/records';
import { newId } from './ids';
import { edited, put, type Patch } from './library';
import { lookAtPages } from './looking';
import type { AppDispatch, RootState } from './store';

/** A picture that becomes a page. */
export interface NewPicture {
  blob: Blob;
  name: string;
  type: Photo['type'];
  /** What is known of its page already; without it the photo is looked at. */
  page?: Partial<Page>;
  photo?: Pick<Photo, 'width' | 'height'>;
}

export interface Keeping {
  /** The page whose place it takes; without it the new page is the last. */
  insteadOf?: Page;
  /** For a document that this page begins. */
  name?: string;
  demo?: boolean;
}

/**
 * Keeps a picture as a page of a document, which it begins if there is none yet. When this resolves, photo, page and document lie on the disk.
 *
 * @returns the new page.
 * @throws when there is no room, or storage fails; then nothing has changed.
 */
export function keepPage(documentId: string, picture: NewPicture, { insteadOf, name, demo }: Keeping = {}) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<Page> => {
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
    await putPhoto(photo, new Blob([picture.blob], { type: photo.type }));
    await writeRecord('photo', photo.id, photo);
    await writeRecord('page', page.id, page);
    const records: AnyRecord[] = [{ kind: 'photo', record: photo }, { kind: 'page', record: page }]; // prettier-ignore
    const known = getState().library.document[documentId];
    if (!known) {
      const document: Document = {
        v: 1,
        id: documentId,
        name: name ?? firstName(new Date()),
        pageIds: [page.id],
        createdAt: now,
        changedAt: now,
        deletedAt: null,
        ...(demo && { demo: true }),
      };
      await writeRecord('document', documentId, document);
      dispatch(put([...records, { kind: 'document', record: document }]));
    } else {
      dispatch(put(records));
      const before = known.pageIds;
      const replaces = insteadOf && before.includes(insteadOf.id);
      const after = replaces ? before.map((id) => (id === insteadOf.id ? page.id : id)) : [...before, page.id];
      const patches: Patch[] = [{ kind: 'document', id: documentId, before: { pageIds: before }, after: { pageIds: after } }];
      if (replaces)
        patches.push(
          { kind: 'page', id: insteadOf.id, before: { deletedAt: null }, after: { deletedAt: now } },
          { kind: 'page', id: page.id, before: { deletedAt: now }, after: { deletedAt: null } },
        );
      dispatch(edited({ label: replaces ? 'taking a page again' : 'adding a page', documentId, patches }));
    }
    void dispatch(lookAtPages());
    return page;
  };
}
