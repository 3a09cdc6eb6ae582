import { firstName, lookingPage, type Document, type Photo } from '@libretto/model';
import { putPhoto } from '../storage/files';
import { writeRecord, type AnyRecord } from '../storage/records';
import { newId } from './ids';
import { importing, refusedFile } from './work';
import { edited, put } from './library';
import { lookAtPages } from './looking';
import type { AppDispatch, RootState } from './store';

/** Larger files are hardly photographs of paper, and would not be decoded on a phone. */
const largestBytes = 120_000_000;

/** The kind of picture by its first bytes, whatever its name says. */
export async function pictureType(file: Blob): Promise<Photo['type'] | null> {
  const b = new Uint8Array(await file.slice(0, 12).arrayBuffer());
  const text = String.fromCharCode(...b);
  if (b[0] === 0xff && b[1] === 0xd8 && b[2] === 0xff) return 'image/jpeg';
  if (text.startsWith('\x89PNG\r\n\x1a\n')) return 'image/png';
  if (text.startsWith('RIFF') && text.slice(8, 12) === 'WEBP') return 'image/webp';
  return null;
}

async function reasonAgainst(file: File): Promise<string | null> {
  if (file.size === 0) return 'it is empty';
  if (file.size > largestBytes) return `it has ${Math.round(file.size / 1e6)} MB; photographs up to 120 MB are taken`;
  const type = await pictureType(file);
  if (type) {
    try {
      // The header alone tells most broken files; the rest show when the page is looked at.
      const bitmap = await createImageBitmap(file, { resizeWidth: 16 });
      bitmap.close();
      return null;
    } catch {
      return 'the picture is damaged and cannot be read';
    }
  }
  const head = String.fromCharCode(...new Uint8Array(await file.slice(0, 16).arrayBuffer()));
  if (head.startsWith('%PDF')) return 'it is a PDF; only photographs (JPEG, PNG, WebP) are taken so far';
  if (head.slice(4, 8) === 'ftyp')
    return 'this kind of picture (HEIC or AVIF) cannot be read here; let the phone save it as JPEG';
  return 'it is not a JPEG, PNG or WebP picture';
}

/**
 * Brings photographs into a document (a new one without `into`). Each is on the disk before its page appears; a file that cannot be used is
 * named with the reason, and the others go on. Returns the document's id, or null when nothing came in.
 */
export function bringIn(
  files: readonly File[],
  into: string | null,
  signal?: AbortSignal,
  options: { name?: string; demo?: boolean } = {},
) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<string | null> => {
    const documentId = into ?? newId();
    let begun = into !== null;
    let done = 0;
    dispatch(importing({ documentId, done, total: files.length }));
    for (const file of files) {
      if (signal?.aborted) break;
      try {
        const reason = await reasonAgainst(file);
        if (reason) dispatch(refusedFile({ name: file.name, reason }));
        else {
          const now = new Date().toISOString();
          const photo: Photo = {
            v: 1,
            id: newId(),
            documentId,
            name: file.name.slice(0, 400),
            type: (await pictureType(file))!,
            bytes: file.size,
            addedAt: now,
          };
          const page = lookingPage(newId(), documentId, photo.id);
          await putPhoto(photo, new Blob([file], { type: photo.type }));
          await writeRecord('photo', photo.id, photo);
          await writeRecord('page', page.id, page);
          const records: AnyRecord[] = [{ kind: 'photo', record: photo }, { kind: 'page', record: page }]; // prettier-ignore
          if (!begun) {
            const document: Document = {
              v: 1,
              id: documentId,
              name: options.name ?? firstName(new Date()),
              pageIds: [page.id],
              createdAt: now,
              changedAt: now,
              deletedAt: null,
              ...(options.demo && { demo: true }),
            };
            await writeRecord('document', documentId, document);
            records.push({ kind: 'document', record: document });
            dispatch(put(records));
            begun = true;
          } else {
            dispatch(put(records));
            const before = getState().library.document[documentId]!.pageIds;
            dispatch(
              edited({
                label: 'adding a page',
                documentId,
                patches: [
                  { kind: 'document', id: documentId, before: { pageIds: before }, after: { pageIds: [...before, page.id] } },
                ],
              }),
            );
          }
          void dispatch(lookAtPages());
        }
      } catch (error) {
        const full = (error as { name?: string }).name === 'QuotaExceededError';
        dispatch(
          refusedFile({
            name: file.name,
            reason: full ? 'there is no room left in this browser’s storage' : (error as Error).message,
          }),
        );
      }
      dispatch(importing({ documentId, done: ++done, total: files.length }));
    }
    dispatch(importing(null));
    return begun ? documentId : null;
  };
}
