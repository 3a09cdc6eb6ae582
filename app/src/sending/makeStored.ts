import type { Document, Page } from '@libretto/model';
import { readKeys, recordKeys } from '../store/records';
import { keyOf } from '../store/texts';
import type { AppDispatch } from '../store/store';
import { makeFiles, type MadeFile } from '../work/exporting';
import { isReadable, readText } from '../work/reading';

/** A document as it is stored, which need not be open; undefined where it is gone. */
export async function storedDocument(id: string): Promise<Document | undefined> {
  const key = keyOf('document', id);
  return (await readKeys([key])).records.get(key) as Document | undefined;
}

/** The files of a document as it is stored, with what is read on its pages; null where a page of it is not ready: nothing goes in part by itself. */
export function makeStored(document: Document, signal: AbortSignal, make: typeof makeFiles = makeFiles) {
  return async (dispatch: AppDispatch): Promise<MadeFile[] | null> => {
    const pages = [...(await readKeys(recordKeys('page', document.pageIds))).records.values()] as Page[];
    if (!pages.length || pages.length < document.pageIds.length || pages.some((p) => p.state !== 'ready')) return null;
    for (const page of pages) {
      if (signal.aborted) return null;
      if (isReadable(page)) await dispatch(readText(page)).catch(() => null);
    }
    return make(document, pages, signal, () => {});
  };
}
