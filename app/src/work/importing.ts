import type { Photo } from '@libretto/model';
import { isFull } from '../store/files';
import { newId } from '../store/ids';
import { keepPage } from '../store/keeping';
import { refusedFile } from '../store/session';
import type { PagedKind } from './filePages';
import { runJob } from './jobs';
import { lookAtPages } from './looking';
import { WorkProblem } from './problem';

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

/** How much of a file is looked through at a time. */
const portionBytes = 1 << 20;

/** Whether a JPEG goes on to its end: behind the start of its scan (FF DA) there is an end of image (FF D9); ITU-T T.81, B.1.1.3 and B.2. What cameras put behind it does not matter. */
export async function isWholeJpeg(file: Blob): Promise<boolean> {
  const bytes = async (from: number, count: number) => new Uint8Array(await file.slice(from, from + count).arrayBuffer());
  let at = 2;
  for (;;) {
    const [mark, kind, high, low] = await bytes(at, 4);
    if (mark !== 0xff || kind === undefined || high === undefined || low === undefined) return false;
    if (kind === 0xda) break;
    at += kind === 0xff ? 1 : 2 + high * 256 + low;
  }
  // One byte of overlap: the mark may lie across two portions.
  for (; at < file.size; at += portionBytes - 1) {
    const portion = await bytes(at, portionBytes);
    for (let i = portion.indexOf(0xff); i >= 0; i = portion.indexOf(0xff, i + 1)) if (portion[i + 1] === 0xd9) return true;
  }
  return false;
}

async function checkPicture(file: File): Promise<Photo['type']> {
  if (file.size === 0) throw new WorkProblem('empty');
  if (file.size > largestBytes)
    throw new WorkProblem('too-many-bytes', { size: Math.round(file.size / 1e6), most: largestBytes / 1e6 });
  const type = await pictureType(file);
  if (type) {
    // Some engines decode what there is of a torn picture.
    if (type === 'image/jpeg' && !(await isWholeJpeg(file))) throw new WorkProblem('damaged');
    try {
      // The header alone tells most broken files; the rest show when the page is looked at.
      const bitmap = await createImageBitmap(file, { resizeWidth: 16 });
      bitmap.close();
      return type;
    } catch {
      throw new WorkProblem('damaged');
    }
  }
  const head = String.fromCharCode(...new Uint8Array(await file.slice(0, 16).arrayBuffer()));
  throw new WorkProblem(head.slice(4, 8) === 'ftyp' ? 'heic' : 'not-a-picture');
}

/** A PDF's mark stands somewhere in the first kilobyte (PDF Reference 1.7, appendix H, note 13; from memory), a TIFF's at its beginning (TIFF 6.0, section 2). */
export async function pagedKind(file: Blob): Promise<PagedKind | null> {
  const head = new TextDecoder('latin1').decode(await file.slice(0, 1024).arrayBuffer());
  return head.includes('%PDF-') ? 'pdf' : /^(II\*\0|MM\0\*)/.test(head) ? 'tiff' : null;
}

export interface BringingIn {
  /** For a new document. */
  name?: string;
  demo?: boolean;
  /** The page before which they stand, in the order of the files; without it they are the last. */
  before?: string;
  signal?: AbortSignal;
}

/**
 * Brings photographs, PDFs and TIFFs into a document (a new one without `into`). Each is on the disk before its page appears; a file that cannot be used
 * is named with the reason, and the others go on. It is a job of the document's, to be cancelled from anywhere.
 *
 * @returns the document's id, or null when nothing came in.
 */
export function bringIn(files: readonly File[], into: string | null, { signal: given, ...keeping }: BringingIn = {}) {
  const documentId = into ?? newId();
  return runJob('import', documentId, files.length, async ({ signal, tell }, dispatch): Promise<string | null> => {
    let begun = into !== null;
    let done = 0;
    let total = files.length;
    const over = () => signal.aborted || given?.aborted;
    const keep = async (picture: Parameters<typeof keepPage>[1]) => {
      await dispatch(keepPage(documentId, picture, keeping));
      begun = true;
      void dispatch(lookAtPages([documentId]));
    };
    for (const file of files) {
      if (over()) break;
      try {
        const kind = await pagedKind(file);
        if (kind) {
          const { filePages } = await import('./filePages');
          // It counts as its pages from the moment that their number is known.
          for await (const picture of filePages(file, kind, signal)) {
            if (picture.number === 1) total += picture.of - 1;
            if (over()) break;
            await keep(picture);
            if (picture.number < picture.of) done++;
            tell({ done, total });
          }
        } else await keep({ blob: file, name: file.name, type: await checkPicture(file) });
      } catch (error) {
        dispatch(refusedFile({ name: file.name, ...keepingProblem(error) }));
      }
      done++;
      tell({ done, total });
    }
    return begun ? documentId : null;
  });
}

/** Lets somebody choose photographs and PDFs. */
export function chooseFiles(onFiles: (files: readonly File[]) => void): void {
  const input = window.document.createElement('input');
  input.type = 'file';
  input.multiple = true;
  input.accept = 'image/*,application/pdf';
  input.onchange = () => input.files?.length && onFiles([...input.files]);
  input.click();
}

/** Why a picture could not be kept. */
export function keepingProblem(error: unknown): { code: string; values?: Record<string, string | number> } {
  if (error instanceof WorkProblem) return { code: error.code, ...(error.values && { values: error.values }) };
  if (isFull(error)) return { code: 'full' };
  const { message } = error as Error;
  return message ? { code: 'said', values: { said: message } } : { code: 'not-stored' };
}
