import { BlobReader, configure, TextReader, ZipWriter } from '@zip.js/zip.js';
import { safeFileName, type Document, type Page, type Photo } from '@libretto/model';
import type { BackupDocument, BackupIndex } from '@libretto/model/backup';
import schema from '@libretto/model/backup.schema.json';
import { getPhoto } from '../store/files';
import { foldersOf } from '../store/filing';
import { readKeys, recordKeys } from '../store/records';
import { keyOf } from '../store/texts';
import type { AppDispatch, RootState } from '../store/store';
import { makeFiles } from './exporting';
import { runJob } from './jobs';

// Nothing is compressed: photographs do not get smaller, and what is stored can be read up to a cut.
configure({ useWebWorkers: false });
const stored = { level: 0, dataDescriptor: false } as const;

export interface BackupOptions {
  /** Also pages with something covered, whose photographs show what is beneath. */
  covered: boolean;
  /** Finished PDFs as well. */
  pdfs: boolean;
}

export interface BackupDone {
  documents: number;
  pages: number;
  /** Pages left out for what is covered on them, and those whose photo is gone. */
  leftOut: number;
  photosGone: number;
}

const hexOf = (bytes: ArrayBuffer) => [...new Uint8Array(bytes)].map((b) => b.toString(16).padStart(2, '0')).join('');
export const sha256Of = async (blob: Blob) => hexOf(await crypto.subtle.digest('SHA-256', await blob.arrayBuffer()));
const isCovered = (page: Page) => page.recipe?.marks?.some((m) => m.kind === 'cover') ?? false;
const endings = { 'image/jpeg': 'jpg', 'image/png': 'png', 'image/webp': 'webp' } as const;

/** A document as it is stored, without its being put on the screen. */
async function readDocument(id: string) {
  const document = (await readKeys([keyOf('document', id)])).records.get(keyOf('document', id)) as Document | undefined;
  if (!document) return null;
  const pages = [...(await readKeys(recordKeys('page', document.pageIds))).records.values()] as Page[];
  const photos = [
    ...(await readKeys(recordKeys('photo', [...new Set(pages.map((p) => p.photoId))]))).records.values(),
  ] as Photo[];
  return { document, pages, photos };
}

/** How many pages of some documents have something covered. */
export async function coveredPages(ids: readonly string[]): Promise<number> {
  let count = 0;
  for (const id of ids) count += (await readDocument(id))?.pages.filter(isCovered).length ?? 0;
  return count;
}

/** Writes documents with their photographs into a stream, one photograph in memory at a time; see `backupIndexSchema` for how. It can be cancelled; then the stream is aborted. */
export function writeBackup(ids: readonly string[], sink: WritableStream<Uint8Array>, { covered, pdfs }: BackupOptions) {
  return (dispatch: AppDispatch, getState: () => RootState): Promise<BackupDone | null> =>
    dispatch(
      runJob('backup', null, ids.length, async ({ signal, tell }) => {
        const zip = new ZipWriter(sink, stored);
        const done: BackupDone = { documents: 0, pages: 0, leftOut: 0, photosGone: 0 };
        const json = (name: string, value: unknown) => zip.add(name, new TextReader(JSON.stringify(value, null, 1)), stored);
        const { summary } = getState().library;
        await json('libretto.json', {
          format: 'libretto-backup',
          v: 1,
          madeAt: new Date().toISOString(),
          documents: ids.flatMap((id) => (summary[id] ? [{ id, name: summary[id].name, pages: summary[id].pages }] : [])),
          shelf: { v: 1, id: 'shelf', folders: foldersOf(getState()) },
        } satisfies BackupIndex);
        await json('backup.schema.json', schema);
        const names = new Set<string>();
        const written = new Map<string, string>();
        for (const [i, id] of ids.entries()) {
          tell({ done: i });
          const read = await readDocument(id);
          if (!read) continue;
          const kept = read.pages.filter((p) => covered || !isCovered(p));
          const bundle: BackupDocument = {
            document: read.document,
            pages: [],
            photos: [],
            leftOut: read.pages.length - kept.length,
          };
          const there = new Map<string, string>();
          for (const record of read.photos) {
            if (signal.aborted) return null;
            if (!kept.some((p) => p.photoId === record.id)) continue;
            const blob = await getPhoto(record.id).catch(() => undefined);
            if (!blob) continue;
            const entry = `photos/${record.id}.${endings[record.type]}`;
            // Pages that were copied share it.
            let sha256 = written.get(record.id);
            if (!sha256) {
              written.set(record.id, (sha256 = await sha256Of(blob)));
              await zip.add(entry, new BlobReader(blob), stored);
            }
            there.set(record.id, entry);
            bundle.photos.push({ record, entry, sha256 });
          }
          bundle.pages = kept.filter((p) => there.has(p.photoId));
          bundle.document = {
            ...read.document,
            pageIds: read.document.pageIds.filter((p) => bundle.pages.some((k) => k.id === p)),
          };
          await json(`documents/${id}.json`, bundle);
          done.documents++;
          done.pages += bundle.pages.length;
          done.leftOut += bundle.leftOut;
          done.photosGone += kept.length - bundle.pages.length;
          const finished = bundle.pages.filter((p) => p.state === 'ready');
          if (!pdfs || !finished.length || signal.aborted) continue;
          const { files: _files, format: _format, ...as } = read.document;
          const [file] = await makeFiles(as, finished, signal, () => {});
          let name = safeFileName(read.document.name, 'pdf');
          for (let n = 2; names.has(name); n++) name = safeFileName(`${read.document.name} (${n})`, 'pdf');
          names.add(name);
          await zip.add(`pdf/${name}`, new BlobReader(file!.blob), stored);
        }
        if (signal.aborted) return null;
        tell({ done: ids.length });
        await zip.close();
        return done;
      }),
    );
}

/** A stream into Blobs, which a browser keeps on the disk, and what has come together in it. */
export function blobSink(type: string): { stream: WritableStream<Uint8Array>; blob: () => Blob } {
  const portionBytes = 8_000_000;
  const blobs: Blob[] = [];
  let parts: Uint8Array[] = [];
  let size = 0;
  const flush = () => {
    blobs.push(new Blob(parts as BlobPart[]));
    [parts, size] = [[], 0];
  };
  const stream = new WritableStream<Uint8Array>({
    write(chunk) {
      parts.push(chunk.slice());
      size += chunk.length;
      if (size >= portionBytes) flush();
    },
  });
  return { stream, blob: () => (flush(), new Blob(blobs, { type })) };
}
