import { safeFileName, type Document, type Page } from '@libretto/model';
import type { ReadText } from '../store/files';
import type { FilePage } from './file.worker';
import { runJob } from './jobs';
import { priority } from './pool';
import { filePool } from './pools';
import { pageImage } from './pageImages';
import { WorkProblem } from './problem';
import { textOfPage } from './reading';

export interface MadeFile {
  fileName: string;
  blob: Blob;
  sha256: string;
}

/** Makes a document's PDF, or one for each of its pages, page by page. `progress` hears how many pages are done. */
export async function makePdfs(
  document: Document,
  pages: readonly Page[],
  signal: AbortSignal,
  progress: (done: number) => void,
): Promise<MadeFile[]> {
  const ready = pages.filter((p) => p.state === 'ready' && p.recipe);
  if (!ready.length) throw new WorkProblem('no-page-yet');
  const made: FilePage[] = [];
  for (const page of ready) {
    signal.throwIfAborted();
    const { blob, width, height, widthMm, heightMm } = await pageImage(page, 'print', priority.export, signal);
    const text = document.searchable === false ? null : await textOfPage(page);
    made.push({ blob, width, height, widthMm, heightMm, ...(text && { words: wordsOver(text, widthMm, heightMm) }) });
    progress(made.length);
  }
  signal.throwIfAborted();
  const dates = [Date.parse(document.createdAt), Date.parse(document.changedAt)] as const;
  const bundles = fileNames(document, made.length).map((name, i) => ({
    name,
    pages: document.files === 'page' ? [made[i]!] : made,
  }));
  const files: MadeFile[] = [];
  for (const bundle of bundles) {
    const file = await filePool.run((api) => api.pdf(bundle.pages, bundle.name, ...dates), priority.export, signal);
    files.push({ ...file, fileName: safeFileName(bundle.name, 'pdf') });
  }
  return files;
}

/** What was read on a page, as it lies over it in a file. */
function wordsOver({ lines, language }: ReadText, widthMm: number, heightMm: number): NonNullable<FilePage['words']> {
  const [across, down] = [widthMm / 10_000, heightMm / 10_000];
  return {
    language,
    lines: lines.map((line) =>
      line.map(([text, x, y, width, height]) => ({
        text,
        x: x * across,
        y: y * down,
        width: width * across,
        height: height * down,
      })),
    ),
  };
}

/** Saves some of a document's pages to this device as a PDF of their own. */
export function savePdfOf(document: Document, pages: readonly Page[], name: string) {
  return runJob('export', document.id, pages.length, async ({ signal, tell }) => {
    const { files: _files, ...as } = document;
    const [file] = await makePdfs({ ...as, name }, pages, signal, (done) => tell({ done }));
    saveBlob(file!.blob, file!.fileName);
  });
}

/** The document's name, or for a file a page the name with the page's number, all as long, so that they sort. */
export function fileNames({ name, files }: Pick<Document, 'name' | 'files'>, pages: number): string[] {
  if (files !== 'page') return [name];
  const digits = String(pages).length;
  return Array.from({ length: pages }, (_, i) => `${name}, ${String(i + 1).padStart(digits, '0')}`);
}

/** Hands a file to the browser's own saving. */
export function saveBlob(blob: Blob, fileName: string): void {
  const url = URL.createObjectURL(blob);
  const link = window.document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
