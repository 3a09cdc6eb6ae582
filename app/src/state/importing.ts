import type { Photo } from '@libretto/model';
import { newId } from './ids';
import { keepPage } from './keeping';
import { pdfPages, PdfProblem } from './pdfPages';
import type { AppDispatch } from './store';
import { importing, refusedFile } from './work';

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
  if (head.slice(4, 8) === 'ftyp')
    return 'this kind of picture (HEIC or AVIF) cannot be read here; let the phone save it as JPEG';
  return 'it is not a JPEG, PNG or WebP picture, nor a PDF';
}

/** The mark stands somewhere in the first kilobyte (PDF Reference 1.7, appendix H, note 13; from memory). */
const isPdf = async (file: Blob) => new TextDecoder('latin1').decode(await file.slice(0, 1024).arrayBuffer()).includes('%PDF-');

/**
 * Brings photographs and PDFs into a document (a new one without `into`). Each is on the disk before its page appears; a file that cannot be used
 * is named with the reason, and the others go on. Returns the document's id, or null when nothing came in.
 */
export function bringIn(
  files: readonly File[],
  into: string | null,
  signal?: AbortSignal,
  options: { name?: string; demo?: boolean } = {},
) {
  return async (dispatch: AppDispatch): Promise<string | null> => {
    const documentId = into ?? newId();
    let begun = into !== null;
    let done = 0;
    let total = files.length;
    const tell = () => dispatch(importing({ documentId, done, total }));
    tell();
    for (const file of files) {
      if (signal?.aborted) break;
      try {
        if (await isPdf(file)) {
          // A PDF counts as its pages from the moment that their number is known.
          for await (const picture of pdfPages(file, signal)) {
            if (picture.number === 1) total += picture.of - 1;
            if (signal?.aborted) break;
            await dispatch(keepPage(documentId, picture, options));
            begun = true;
            if (picture.number < picture.of) done++;
            tell();
          }
        } else {
          const reason = await reasonAgainst(file);
          if (reason) dispatch(refusedFile({ name: file.name, reason }));
          else {
            await dispatch(keepPage(documentId, { blob: file, name: file.name, type: (await pictureType(file))! }, options));
            begun = true;
          }
        }
      } catch (error) {
        dispatch(refusedFile({ name: file.name, reason: keepingProblem(error) }));
      }
      done++;
      tell();
    }
    dispatch(importing(null));
    return begun ? documentId : null;
  };
}

/** Why a picture could not be kept. */
export function keepingProblem(error: unknown): string {
  const { name, message } = error as Error;
  if (name === 'QuotaExceededError') return 'there is no room left in this browser’s storage';
  return error instanceof PdfProblem ? error.message : message || 'it could not be stored';
}
