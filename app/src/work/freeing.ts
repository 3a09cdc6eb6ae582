import { type Page, type Photo, type Recipe, type Summary } from '@libretto/model';
import { makeStep, take } from '../store/change';
import { filed, getPhoto, putPhoto } from '../store/files';
import { newId } from '../store/ids';
import { openDocument } from '../store/open';
import { dropUnused } from '../store/purge';
import { readKeys, recordKeys } from '../store/records';
import { type Op } from '../store/step';
import { keyOf } from '../store/texts';
import type { AppDispatch, Extra, RootState } from '../store/store';
import { untilSaved } from '../store/unsaved';
import { runJob } from './jobs';
import { pageImage } from './pageImages';
import { priority } from './pool';
import { wholePhoto } from './looking';

/** A document whose photographs can go: all of it has arrived, and no page wants a look. */
export const canBeFreed = ({ fate, deletedAt, newer, freed, pages }: Summary): boolean =>
  fate.code === 'arrived' && !deletedAt && !newer && !freed && pages > 0;

/**
 * Puts the finished pages of documents in the place of their photographs. Pages in black and white keep theirs: as a picture they are larger than as they are.
 *
 * @returns bytes that are free now.
 */
export function freePhotos(ids: readonly string[]) {
  return runJob('free', null, ids.length, async ({ signal, tell }, dispatch): Promise<number> => {
    let bytes = 0;
    for (const [i, id] of ids.entries()) {
      if (signal.aborted) break;
      bytes += await dispatch(freeDocument(id, signal));
      tell({ done: i + 1, total: ids.length });
    }
    return bytes;
  });
}

function freeDocument(id: string, signal: AbortSignal) {
  return async (dispatch: AppDispatch, getState: () => RootState, extra: Extra): Promise<number> => {
    await dispatch(openDocument(id));
    const { document } = getState().library;
    const pages = [...(await readKeys(recordKeys('page', document[id]?.pageIds ?? []))).records.values()] as Page[];
    const before = new Set<string>();
    let bytes = 0;
    for (const page of pages) {
      if (signal.aborted) break;
      if (page.state !== 'ready' || !page.recipe || page.freed) continue;
      const key = keyOf('photo', page.photoId);
      const old = (await readKeys([key])).records.get(key) as Photo | undefined;
      if (!old || !(await getPhoto(page.photoId))) continue;
      const { blob, width, height, widthMm, heightMm, sizeName } = await pageImage(page, 'print', priority.export, signal);
      if (blob.type !== 'image/jpeg') continue;
      const photo: Photo = { ...old, id: newId(), type: 'image/jpeg', bytes: blob.size, width, height };
      const recipe: Recipe = { v: 1, outline: { ...wholePhoto(width, height), confidence: 1 }, turn: 0, filter: 'original', tidy: false, size: { widthMm, heightMm, name: sizeName } }; // prettier-ignore
      const facts = { photoId: photo.id, recipe, alone: true, found: null, corrections: undefined, freed: true };
      const step = makeStep(extra, {
        documentIds: [id],
        ops: [
          { op: 'create', kind: 'photo', record: photo },
          ...Object.entries(facts).map(([field, value]): Op => ({ op: 'set', kind: 'page', id: page.id, path: [field], ...(value !== undefined && { value }) })), // prettier-ignore
        ],
      });
      // Picture and step lie on the disk together, before the photograph goes.
      await untilSaved(putPhoto(photo, blob, step));
      if (!(await dispatch(take(step)))) continue;
      await filed(photo.id).catch(() => {});
      before.add(old.id);
      bytes -= blob.size;
    }
    return bytes + (await dropUnused([...before]));
  };
}
