import { safeFileName, type Document, type Page } from '@libretto/model';
import type { FilePage } from '../workers/file.worker';
import { priority } from '../workers/pool';
import { filePool } from '../workers/pools';
import { pageImage } from './pageImages';

export interface MadeFile {
  fileName: string;
  blob: Blob;
  sha256: string;
}

/** Makes a document's PDF, page by page. `progress` hears how many pages are done. */
export async function makePdf(
  document: Document,
  pages: readonly Page[],
  signal: AbortSignal,
  progress: (done: number) => void,
): Promise<MadeFile> {
  const ready = pages.filter((p) => p.state === 'ready' && p.recipe);
  if (!ready.length) throw new Error('There is no page to send yet');
  const made: FilePage[] = [];
  for (const page of ready) {
    signal.throwIfAborted();
    const { blob, width, height, widthMm, heightMm } = await pageImage(page, 'print', priority.export);
    made.push({ blob, width, height, widthMm, heightMm });
    progress(made.length);
  }
  signal.throwIfAborted();
  const file = await filePool.run(
    (api) => api.pdf(made, document.name, Date.parse(document.createdAt), Date.parse(document.changedAt)),
    priority.export,
    signal,
  );
  return { ...file, fileName: safeFileName(document.name, 'pdf') };
}

/** Hands a file to the browser's own saving. */
export function saveToDevice({ blob, fileName }: MadeFile): void {
  const url = URL.createObjectURL(blob);
  const link = window.document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
